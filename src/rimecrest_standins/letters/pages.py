"""Pages: where they begin, what stands in their middle, and all of them beside one another."""

from __future__ import annotations

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtGui import (
    QPagedPaintDevice,
    QShowEvent,
    QTextBlock,
    QTextBlockFormat,
    QTextCursor,
    QTextDocument,
    QTextFormat,
)
from PyQt6.QtWidgets import QDialog, QVBoxLayout, QWidget

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.kit.commands.result import NOT_DONE, CommandResult
from rimecrest.kit.declare import Switch
from rimecrest.shell.there import there
from rimecrest_standins.letters.declared import command
from rimecrest_standins.letters.document import LetterDocument

EDITS = (Effect.EDITS,)
PAGE_HEIGHT = round((297 - 2 * 20) / 25.4 * 96)
"""Pixels of a page from margin to margin: A4 (ISO 216) with 20 mm above and below, 96 pixels to the inch."""

_BREAK = QTextFormat.PageBreakFlag


def _reformat(block: QTextBlock, made: QTextBlockFormat) -> None:
    QTextCursor(block).mergeBlockFormat(made)


@command(
    "centre-on-page",
    "Centre on a page",
    synonyms=("title page", "middle of the page", "vertical"),
    about="Put the selected paragraphs in the middle of a page of their own, across as well as up and down",
    context="writing",
    effects=EDITS,
    picture="format-align-center",
)
def centre_on_page(doc: LetterDocument) -> None:
    document, cursor = doc.text, doc.cursor()
    first, last = document.findBlock(cursor.selectionStart()), document.findBlock(cursor.selectionEnd())
    layout = document.documentLayout()
    assert layout is not None
    top = QTextBlockFormat()
    top.setTopMargin(0)
    _reformat(first, top)
    height = layout.blockBoundingRect(last).bottom() - layout.blockBoundingRect(first).top()
    block = first
    while block.isValid() and block.position() <= last.position():
        centred = QTextBlockFormat()
        centred.setAlignment(Qt.AlignmentFlag.AlignHCenter)
        if block == first:
            centred.setTopMargin(max(0.0, (PAGE_HEIGHT - height) / 2))
            if block.position() > 0:
                centred.setPageBreakPolicy(_BREAK.PageBreak_AlwaysBefore)
        _reformat(block, centred)
        block = block.next()
    if not block.isValid():
        end = QTextCursor(document)
        end.movePosition(QTextCursor.MoveOperation.End)
        end.insertBlock(QTextBlockFormat())
        block = end.block()
    following = QTextBlockFormat()
    following.setPageBreakPolicy(_BREAK.PageBreak_AlwaysBefore)
    _reformat(block, following)


@command(
    "headings-begin-pages",
    "Headings begin pages",
    synonyms=("chapter", "section", "new page"),
    about="Let every section that begins with a heading begin a page, or go on where the last one ended",
    context="writing",
    effects=EDITS,
    picture="format-page-break",
)
def headings_begin_pages(doc: LetterDocument, on: Switch = Switch.YES) -> CommandResult:
    found = []
    block = doc.text.begin().next()
    while block.isValid():
        if block.blockFormat().headingLevel() == 1:
            found.append(block)
        block = block.next()
    if not found:
        raise RimecrestError(
            tr("No section of this letter begins with a heading."), tr("Give its first line that style.")
        )
    now = all(each.blockFormat().pageBreakPolicy() & _BREAK.PageBreak_AlwaysBefore for each in found)
    reached = on.reached(now)
    made = QTextBlockFormat()
    made.setPageBreakPolicy(_BREAK.PageBreak_AlwaysBefore if reached else _BREAK.PageBreak_Auto)
    for each in found:
        _reformat(each, made)
    return CommandResult.switch(reached)


@command(
    "show-pages",
    "Pages beside one another",
    synonyms=("preview", "overview"),
    about="Show the pages of the letter beside one another, as they are printed",
    keys="Ctrl+J, Shift+G",
    context="writing",
    picture="book-open-page-variant-outline",
)
def show_pages(doc: LetterDocument) -> CommandResult:
    window = PagesDialog(doc.text, doc.name(), doc.widget.window())
    window.finished.connect(window.deleteLater)
    window.open()
    return NOT_DONE


class PagesDialog(QDialog):
    """The pages of a letter beside one another."""

    def __init__(self, document: QTextDocument, name: str, parent: QWidget | None) -> None:
        # The printing system is loaded only when it is needed.
        from PyQt6.QtPrintSupport import QPrinter, QPrintPreviewWidget  # noqa: PLC0415  only when printing

        super().__init__(parent)
        self.setObjectName("pages")
        self.setWindowTitle(tr("The pages of {name}", name=name))
        self.resize(900, 640)
        # It belongs to the letter, which is asked for what is named in it: nothing of the disk.
        self._letter = document.clone(document)
        self.destroyed.connect(there(self._letter).deleteLater)
        # The view does not keep its printer.
        self._printer = QPrinter(QPrinter.PrinterMode.ScreenResolution)
        self.view = QPrintPreviewWidget(self._printer, self)
        self.view.paintRequested.connect(self._paint)
        rows = QVBoxLayout(self)
        rows.addWidget(self.view)

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        # Only what has its size can be fitted into.
        QTimer.singleShot(0, self._show_all)

    def _show_all(self) -> None:
        self.view.updatePreview()
        self.view.setAllPagesViewMode()
        self.view.fitInView()

    def _paint(self, printer: QPagedPaintDevice) -> None:
        if self._letter is not None:
            self._letter.print(printer)
