"""Files: new, open, save, print, close."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QMarginsF
from PyQt6.QtGui import QPageLayout, QPageSize, QPdfWriter
from PyQt6.QtWidgets import QApplication, QFileDialog

from rimecrest.apps.letters.declared import command
from rimecrest.apps.letters.document import KINDS, LetterDocument, with_ending
from rimecrest.core.catalogue import Effect
from rimecrest.core.errors import RimecrestError


def clean_path(path: Path) -> Path:
    """A path as it was meant: without quotes round it, stray blanks or `file://`."""
    text = str(path).strip().strip("\"'").strip()
    # A Path has already folded the two slashes of file:// into one.
    if text.startswith("file:/"):
        text = "/" + text.removeprefix("file:").lstrip("/")
    return Path(text).expanduser()


@command(
    "new",
    "New",
    about="Begin a new letter",
    keys="Ctrl+N",
    effects=(Effect.CREATES,),
    picture="file-plus-outline",
    everyday=True,
)
def new(doc: LetterDocument) -> None:
    if doc.may_close():
        doc.begin_new()


@command(
    "open",
    "Open",
    about="Open a letter",
    keys="Ctrl+O",
    effects=(Effect.OPENS_FILES,),
    picture="folder-open-outline",
    everyday=True,
)
def open_(doc: LetterDocument, path: Path = Path()) -> None:
    if not doc.may_close():
        return
    if path == Path():
        name, _ = QFileDialog.getOpenFileName(doc.widget, "Open a letter", str(doc.path or ""), KINDS)
        if not name:
            return
        path = Path(name)
    doc.open_path(clean_path(path))


@command(
    "save",
    "Save",
    about="Save the letter",
    keys="Ctrl+S",
    picture="content-save-outline",
    everyday=True,
    leaves_document=True,
)
def save(doc: LetterDocument) -> None:
    doc.save()


@command(
    "save-as",
    "Save under a name",
    about="Save the letter under another name",
    keys="Ctrl+Shift+S",
    effects=(Effect.CREATES,),
    picture="content-save-edit-outline",
    leaves_document=True,
)
def save_as(doc: LetterDocument, path: Path = Path()) -> None:
    if path == Path():
        begin = str(doc.path.with_suffix(".html") if doc.path else "Letter.html")
        name, _ = QFileDialog.getSaveFileName(doc.widget, "Save the letter", begin, KINDS)
        if not name:
            return
        path = Path(name)
    doc.save_to(with_ending(clean_path(path)))


@command(
    "make-pdf",
    "Make a PDF",
    about="Make a PDF of the letter",
    effects=(Effect.CREATES,),
    picture="file-document-outline",
    leaves_document=True,
)
def make_pdf(doc: LetterDocument, path: Path = Path()) -> None:
    if path == Path():
        begin = str(doc.path.with_suffix(".pdf") if doc.path else "Letter.pdf")
        name, _ = QFileDialog.getSaveFileName(doc.widget, "Make a PDF", begin, "PDF (*.pdf)")
        if not name:
            return
        path = Path(name)
    path = clean_path(path)
    if not path.parent.is_dir():
        raise RimecrestError(f"There is no folder {path.parent}.", "Choose another one.")
    writer = QPdfWriter(str(path))
    writer.setPageSize(QPageSize(QPageSize.PageSizeId.A4))
    writer.setPageMargins(QMarginsF(20, 20, 20, 20), QPageLayout.Unit.Millimeter)
    doc.widget.document().clone().print(writer)
    if not path.is_file():
        raise RimecrestError(f"{path} cannot be written.", "Choose another folder.")


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
def print_(doc: LetterDocument) -> None:
    from PyQt6.QtPrintSupport import QPrintDialog, QPrinter  # loads the printing system: only when printing

    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    if QPrintDialog(printer, doc.widget).exec():
        doc.widget.document().clone().print(printer)


@command("close", "Close", about="Close this letter", keys="Ctrl+W", picture="close", everyday=True)
def close(doc: LetterDocument) -> None:
    if doc.may_close():
        doc.begin_new()


@command(
    "quit",
    "Quit",
    about="Leave Letters",
    keys="Ctrl+Q",
    effects=(Effect.LEAVES,),
    picture="power",
    everyday=True,
    leaves_document=True,
)
def quit_(doc: LetterDocument) -> None:
    if doc.widget.window().close():
        QApplication.quit()
