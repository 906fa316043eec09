"""What a message is read in: its heads, its files, its text. Nothing of it is fetched, and nothing runs."""

from __future__ import annotations

import re

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QLabel, QVBoxLayout, QWidget

from rimecrest.apps.post.file_row import FileRow
from rimecrest.apps.post.maildir import parsed
from rimecrest.apps.post.message_parts import Attached, attachments, head, texts
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.embed.formatted_text.reading_view import ReadingView
from rimecrest.embed.html_bounds import LONGEST_WORD, check_page, check_text
from rimecrest.shell.plain_text import plain_text
from rimecrest.shell.theme import LIGHT, bold, font

MARGIN = 16
LONGEST_TEXT = 2_000_000
"""Characters of a text that are shown."""
_OUTSIDE = re.compile(r"<img[^>]+src\s*=\s*(?![\"']?data:)", re.IGNORECASE)


class Reader(QWidget):
    """One message, or nothing. `linked` tells the address of a link that was clicked."""

    linked = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self.plain_only = False
        """Whether the plain text is shown, also where there is a formatted one."""
        self.shows_page = False
        """Whether what is shown is formatted."""
        self.plain = ""
        """The text that is shown, without its formatting."""
        self.attached: tuple[Attached, ...] = ()
        self.files = FileRow(tr("Save {name} …"))
        self.subject, self.heads, self.notice = QLabel(), QLabel(), QLabel()
        self.subject.setFont(bold(16))
        self.heads.setFont(font(12))
        self.notice.setFont(font(12))
        for label in (self.subject, self.heads, self.notice):
            label.setTextFormat(Qt.TextFormat.PlainText)
            label.setWordWrap(True)
        paint = self.notice.palette()
        paint.setColor(paint.ColorRole.WindowText, LIGHT.color("asks"))
        self.notice.setPalette(paint)
        self.view = ReadingView("message that is read", MARGIN)
        self.view.linked.connect(self.linked)
        above = QVBoxLayout()
        above.setContentsMargins(MARGIN, 8, MARGIN, 4)
        above.setSpacing(2)
        for each in (self.subject, self.heads):
            above.addWidget(each)
        above.addWidget(self.files)
        above.addWidget(self.notice)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(0, 0, 0, 0)
        rows.setSpacing(0)
        rows.addLayout(above)
        rows.addWidget(self.view, 1)

    def chosen_words(self) -> str:
        """The words that are chosen in the text."""
        return plain_text(self.view.textCursor().selection())

    def show_nothing(self, why: str = "") -> None:
        """No message is shown; `why` is a sentence."""
        self._show("", "", why, ())
        self.view.clear()
        self.plain = ""

    def show_message(self, content: bytes) -> None:
        """Show a message of its bytes."""
        message = parsed(content)
        heads = [(tr("From"), "From"), (tr("To"), "To"), (tr("Copy"), "Cc"), (tr("Date"), "Date")]
        lines = [f"{title}: {words}" for title, name in heads if (words := head(message, name))]
        plain, page = texts(message)
        files = tuple(attachments(message))
        notice = self._show_text(plain, page)
        self._show(head(message, "Subject") or tr("(no subject)"), "\n".join(lines), notice, files)

    def _show_text(self, plain: str, page: str) -> str:
        """Show the text. Returns what is to be said of that."""
        notice = ""
        if page and not self.plain_only:
            try:
                self.view.setHtml(check_page(page))
                self.plain, self.shows_page = plain_text(self.view.text), True
                return tr("Pictures from outside are not fetched.") if _OUTSIDE.search(page) else ""
            except RimecrestError as error:
                notice = tr("{error} Shown is its plain text.", error=error.sentence)
        self.shows_page = False
        self.plain = (plain or page)[:LONGEST_TEXT]
        try:
            check_text(self.plain)
        except RimecrestError:
            # Broken into pieces that can be laid out.
            self.plain = re.sub(rf"(\S{{{LONGEST_WORD}}})", r"\1 ", self.plain)
        self.view.setPlainText(self.plain)
        return notice

    def _show(self, subject: str, heads: str, notice: str, files: tuple[Attached, ...]) -> None:
        self.attached = files
        self.files.show_files(files)
        for label, words in ((self.subject, subject), (self.heads, heads), (self.notice, notice)):
            label.setText(words)
            label.setVisible(bool(words))
