"""A text that is only read, from wherever it comes: nothing of it is fetched, and nothing runs."""

from __future__ import annotations

import re

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.kit.documents.typed_keys import MOVE_KEYS, moves_with
from rimecrest.shell.plain_text import plain_text
from rimecrest.shell.theme import font
from rimecrest_standins.formatted_text.html_bounds import check_page, words_of
from rimecrest_standins.formatted_text.text_bounds import as_plain
from rimecrest_standins.formatted_text.view import TextView

_OUTSIDE = re.compile(r"<img[^>]+src\s*=\s*(?![\"']?data:)", re.IGNORECASE)


class ReadingView(TextView):
    """A text that is only read. A click on a link asks for it to be opened."""

    linked = pyqtSignal(str)

    def __init__(self, noun: str, margin: int) -> None:
        """`margin` is in pixels, around the text."""
        super().__init__(noun)
        self.plain_only = False
        """Whether the plain text is shown, also where there is a formatted one."""
        self.shows_page = False
        """Whether what is shown is formatted."""
        self.plain = ""
        """The text that is shown, without its formatting."""
        self.setReadOnly(True)
        self.setTextInteractionFlags(
            Qt.TextInteractionFlag.TextSelectableByMouse | Qt.TextInteractionFlag.TextSelectableByKeyboard
        )
        document = self.document()
        assert document is not None
        self.text = document
        document.setDefaultFont(font(15))
        document.setDocumentMargin(margin)

    def show_text(self, plain: str, page: str) -> str:
        """Show a text that comes as plain text, as HTML, or as both.

        Returns:
            What is to be said of it, as a sentence; mostly nothing.
        """
        notice = ""
        if page and not self.plain_only:
            try:
                self.setHtml(check_page(page))
                self.plain, self.shows_page = plain_text(self.text), True
                return tr("Pictures from outside are not fetched.") if _OUTSIDE.search(page) else ""
            except RimecrestError as error:
                notice = tr("{error} Shown is its plain text.", error=error.sentence)
        self.plain, self.shows_page = as_plain(plain or words_of(page)), False
        self.setPlainText(self.plain)
        return notice

    def chosen_words(self) -> str:
        """The words that are chosen."""
        return plain_text(self.textCursor().selection())

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if moves_with(event, MOVE_KEYS):
            super().keyPressEvent(event)
        else:
            event.ignore()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        super().mouseReleaseEvent(event)
        assert event is not None
        address = self.anchorAt(event.position().toPoint())
        if address and event.button() == Qt.MouseButton.LeftButton and not self.textCursor().hasSelection():
            self.linked.emit(address)
