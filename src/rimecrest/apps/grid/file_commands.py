"""Files of Grid beyond the everyday commands: opening at a sheet, values as CSV, PDF, printing."""

from __future__ import annotations

import html
from pathlib import Path

from PyQt6.QtGui import QPageSize, QPdfWriter, QTextDocument

from rimecrest.apps.grid.book import Sheet
from rimecrest.apps.grid.declared import command, declarations
from rimecrest.apps.grid.document import GridDocument
from rimecrest.core.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.embed.document import Reached
from rimecrest.embed.shared_commands import ask_for_file, declare_everyday
from rimecrest.shell.paths import clean_path

declare_everyday(declarations, "workbook")


def find_sheet(doc: GridDocument, name: str) -> Sheet:
    """The sheet of that name. Raises RimecrestError naming those there are."""
    sheet = doc.book.sheet(name)
    if sheet is None:
        known = ", ".join(f"“{known.name}”" for known in doc.book.sheets)
        raise RimecrestError(f"The workbook has no sheet “{name}”.", f"It has: {known}.")
    return sheet


@command(
    "open",
    "Open",
    about="Open a workbook, and go to a sheet in it",
    keys="Ctrl+O",
    effects=(Effect.OPENS_FILES,),
    changes={"sheets", "here.sheet"},
    picture="folder-open-outline",
    everyday=True,
)
def open_(doc: GridDocument, path: Path = Path(), sheet: str = "") -> Reached | None:
    if path == Path():
        asked = ask_for_file(doc, "Open a workbook")
        if asked is None:
            return None
        path = asked
    opened = doc.documents.open(clean_path(path))
    assert isinstance(opened, GridDocument)
    if sheet:
        opened.show_sheet(find_sheet(opened, sheet))
    return Reached({"path": str(clean_path(path)), **({"sheet": sheet} if sheet else {})})


@command(
    "save-values",
    "Save the values",
    about="Write what this sheet shows into a CSV file",
    effects=(Effect.CREATES,),
    picture="file-delimited-outline",
    leaves_document=True,
)
def save_values(doc: GridDocument, path: Path = Path()) -> Reached | None:
    if path == Path():
        asked = doc.ask_where("Save the values", ".csv", "Values (*.csv)")
        if asked is None:
            return None
        path = asked
    path = clean_path(path)
    path = path if path.suffix else path.with_suffix(".csv")
    doc.settle()
    doc.write_to(path)
    return Reached({"path": str(path)})


def _page(doc: GridDocument) -> QTextDocument:
    """The sheet as a table on paper: what is chosen, or all of it."""
    place = doc.place()
    rows = doc.seen_rows() or range(doc.sheet.height)
    columns = range(doc.sheet.breadth)
    if place.is_block:
        rows = [row for row in rows if place.top <= row <= place.bottom]
        columns = range(place.left, min(place.right + 1, doc.sheet.breadth))
    lines = "".join(
        "<tr>" + "".join(f"<td>{html.escape(doc.shown(row, column))}</td>" for column in columns) + "</tr>"
        for row in rows
    )
    page = QTextDocument()
    title = html.escape(doc.sheet.name)
    page.setHtml(f"<h3>{title}</h3><table border='1' cellpadding='4' cellspacing='0'>{lines}</table>")
    return page


@command(
    "make-pdf",
    "Make a PDF",
    about="Make a PDF of what is selected, or of the sheet",
    effects=(Effect.CREATES,),
    picture="file-document-outline",
    leaves_document=True,
)
def make_pdf(doc: GridDocument, path: Path = Path()) -> Reached | None:
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
    _page(doc).print(writer)
    if not path.is_file():
        raise RimecrestError(f"{path} cannot be written.", "Choose another folder.")
    return Reached({"path": str(path)})


@command(
    "print",
    "Print",
    about="Print what is selected, or the sheet",
    keys="Ctrl+P",
    effects=(Effect.LEAVES,),
    picture="printer-outline",
    everyday=True,
    leaves_document=True,
)
def print_(doc: GridDocument) -> Reached:
    from PyQt6.QtPrintSupport import QPrintDialog, QPrinter  # loads the printing system: only when printing

    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    if QPrintDialog(printer, doc.widget).exec():
        _page(doc).print(printer)
    return Reached(lost="What was selected in the printing dialog is asked again.")
