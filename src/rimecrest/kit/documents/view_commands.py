"""Zoom, PDF and printing: declared once for the applications that show pages or cells."""

from __future__ import annotations

import os
from collections.abc import Callable
from pathlib import Path
from typing import Any, Protocol

from PyQt6.QtCore import QMarginsF, QObject
from PyQt6.QtGui import QPagedPaintDevice, QPageLayout, QPageSize, QPdfWriter

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import BESIDE, cannot_write
from rimecrest.core.paths import clean_path
from rimecrest.core.words import tr
from rimecrest.kit.commands.leaving import writing
from rimecrest.kit.commands.result import NOT_DONE, CommandResult
from rimecrest.kit.declare import Declarations
from rimecrest.kit.documents.file_commands import where_to

MARGIN = 20
"""Millimetres around a page."""


def declare_zoom(declarations: Declarations, noun: str, zoom: Callable[[Any, int], None]) -> None:
    """Declare zooming in and out. `zoom(document, by)` shows it larger or smaller by so many pixels."""
    command = declarations.command

    @command(
        "zoom-in",
        "Zoom in",
        was=("larger-view",),
        synonyms=("larger",),
        about=f"Show the {noun} larger",
        keys="Ctrl+=",
        picture="magnify-plus-outline",
        repeats=True,
    )
    def zoom_in(doc: Any) -> None:
        zoom(doc, 2)

    @command(
        "zoom-out",
        "Zoom out",
        was=("smaller-view",),
        synonyms=("smaller",),
        about=f"Show the {noun} smaller",
        keys="Ctrl+-",
        picture="magnify-minus-outline",
        repeats=True,
    )
    def zoom_out(doc: Any) -> None:
        zoom(doc, -2)


class Printable(Protocol):
    """What comes out on paper: a text document, or something that draws its pages itself."""

    def print(self, to: QPagedPaintDevice, /) -> None: ...


def _print(page: Printable, to: QPagedPaintDevice) -> None:
    page.print(to)
    if isinstance(page, QObject):
        page.deleteLater()


def declare_print(declarations: Declarations, what: str, page: Callable[[Any], Printable]) -> None:
    """Declare printing and making a PDF of `what`; `page(document)` is what comes out."""
    command = declarations.command

    @command(
        "make-pdf",
        "Make a PDF",
        about=f"Make a PDF of {what}",
        effects=(Effect.CREATES, Effect.OVERWRITES),
        picture="file-document-outline",
        leaves_document=True,
        reaches=lambda doc, path=Path(): writing(clean_path(path)) if path != Path() else None,
    )
    def make_pdf(doc: Any, path: Path = Path()) -> CommandResult:
        place = where_to(doc, path, tr("Make a PDF"), ".pdf", tr("PDF (*.pdf)"))
        if place is None:
            return NOT_DONE
        if not place.parent.is_dir():
            raise RimecrestError(
                tr("There is no folder {parent}.", parent=place.parent), tr("Choose another one.")
            )
        # Beside it first: one that fails on the way leaves what was there.
        beside = place.with_name(f".{place.name}{BESIDE}")
        writer = QPdfWriter(str(beside))
        writer.setPageSize(QPageSize(QPageSize.PageSizeId.A4))
        writer.setPageMargins(QMarginsF(MARGIN, MARGIN, MARGIN, MARGIN), QPageLayout.Unit.Millimeter)
        _print(page(doc), writer)
        del writer  # it ends the file
        try:
            os.replace(beside, place)
        except OSError as error:
            beside.unlink(missing_ok=True)
            raise cannot_write(place, error) from None
        return CommandResult({"path": str(place)})

    @command(
        "print",
        "Print",
        about=f"Print {what}",
        keys="Ctrl+P",
        effects=(Effect.LEAVES,),
        picture="printer-outline",
        everyday=True,
        leaves_document=True,
    )
    def print_(doc: Any) -> CommandResult:
        from PyQt6.QtPrintSupport import (  # noqa: PLC0415  loads the printing system: only when printing
            QPrintDialog,
            QPrinter,
        )

        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        if not QPrintDialog(printer, doc.widget).exec():
            return NOT_DONE
        _print(page(doc), printer)
        return CommandResult(lost=tr("What was selected in the printing dialog is asked again."))
