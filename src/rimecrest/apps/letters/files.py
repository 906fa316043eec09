"""Files of Letters beyond the everyday commands: opening at a place, PDF, printing."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QMarginsF
from PyQt6.QtGui import QPageLayout, QPageSize, QPdfWriter

from rimecrest.apps.letters.declared import command, declarations
from rimecrest.apps.letters.document import LetterDocument
from rimecrest.apps.letters.selection import find_heading
from rimecrest.core.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.embed.document import Reached
from rimecrest.embed.shared_commands import ask_for_file, declare_everyday
from rimecrest.shell.paths import clean_path

declare_everyday(declarations, "letter")


@command(
    "open",
    "Open",
    about="Open a letter, and go to a heading in it",
    keys="Ctrl+O",
    effects=(Effect.OPENS_FILES,),
    picture="folder-open-outline",
    everyday=True,
)
def open_(doc: LetterDocument, path: Path = Path(), heading: str = "") -> Reached | None:
    if path == Path():
        asked = ask_for_file(doc, "Open a letter")
        if asked is None:
            return None
        path = asked
    opened = doc.documents.open(clean_path(path))
    assert isinstance(opened, LetterDocument)
    if heading:
        find_heading(opened, heading)
    return Reached({"path": str(clean_path(path)), **({"heading": heading} if heading else {})})


@command(
    "make-pdf",
    "Make a PDF",
    about="Make a PDF of the letter",
    effects=(Effect.CREATES,),
    picture="file-document-outline",
    leaves_document=True,
)
def make_pdf(doc: LetterDocument, path: Path = Path()) -> Reached | None:
    if path == Path():
        asked = doc.ask_where("Make a PDF", ".pdf", "PDF (*.pdf)")
        if asked is None:
            return None
        path = asked
    path = clean_path(path)
    if not path.parent.is_dir():
        raise RimecrestError(f"There is no folder {path.parent}.", "Choose another one.")
    writer = QPdfWriter(str(path))
    writer.setPageSize(QPageSize(QPageSize.PageSizeId.A4))
    writer.setPageMargins(QMarginsF(20, 20, 20, 20), QPageLayout.Unit.Millimeter)
    doc.widget.document().clone().print(writer)
    if not path.is_file():
        raise RimecrestError(f"{path} cannot be written.", "Choose another folder.")
    return Reached({"path": str(path)})


@command(
    "print",
    "Print",
    about="Print the letter",
    keys="Ctrl+P",
    effects=(Effect.LEAVES,),
    picture="printer-outline",
    everyday=True,
    leaves_document=True,
)
def print_(doc: LetterDocument) -> Reached:
    from PyQt6.QtPrintSupport import QPrintDialog, QPrinter  # loads the printing system: only when printing

    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    if QPrintDialog(printer, doc.widget).exec():
        doc.widget.document().clone().print(printer)
    return Reached(lost="What was selected in the printing dialog is asked again.")
