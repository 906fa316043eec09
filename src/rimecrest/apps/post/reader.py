"""What a message is read in: its heads, its files, its text."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel, QVBoxLayout, QWidget

from rimecrest.apps.post.file_row import FileRow
from rimecrest.apps.post.maildir import day, parsed
from rimecrest.apps.post.message_parts import Attached, attachments, head, texts
from rimecrest.core.words import tr
from rimecrest.embed.formatted_text.reading_view import ReadingView
from rimecrest.embed.parts import below_one_another
from rimecrest.shell.theme import LIGHT, bold, font

MARGIN = 16
_HEADS = ((tr("From"), "From"), (tr("To"), "To"), (tr("Copy"), "Cc"))


class Reader(QWidget):
    """One message, or nothing."""

    def __init__(self) -> None:
        super().__init__()
        self.attached: tuple[Attached, ...] = ()
        self.files = FileRow(tr("Save {name} …"))
        self.subject, self.heads, self.notice = QLabel(), QLabel(), QLabel()
        paint = self.notice.palette()
        paint.setColor(paint.ColorRole.WindowText, LIGHT.color("asks"))
        self.notice.setPalette(paint)
        above = QVBoxLayout()
        above.setContentsMargins(MARGIN, 8, MARGIN, 4)
        above.setSpacing(2)
        for label, look in ((self.subject, bold(16)), (self.heads, font(12)), (self.notice, font(12))):
            label.setFont(look)
            label.setTextFormat(Qt.TextFormat.PlainText)
            label.setWordWrap(True)
            above.addWidget(label)
        above.insertWidget(2, self.files)
        self.view = ReadingView("message that is read", MARGIN)
        below_one_another(self, above, self.view)

    def show_nothing(self, why: str = "") -> None:
        """No message is shown; `why` is a sentence."""
        self.view.show_text("", "")
        self._show("", "", why, ())

    def show_message(self, content: bytes) -> None:
        """Show a message of its bytes."""
        message = parsed(content)
        lines = [f"{title}: {words}" for title, name in _HEADS if (words := head(message, name))]
        lines += [tr("Date: {day}", day=written) for written in [day(head(message, "Date"))] if written]
        notice = self.view.show_text(*texts(message))
        subject = head(message, "Subject") or tr("(no subject)")
        self._show(subject, "\n".join(lines), notice, tuple(attachments(message)))

    def _show(self, subject: str, heads: str, notice: str, files: tuple[Attached, ...]) -> None:
        self.attached = files
        self.files.show_files(files)
        for label, words in ((self.subject, subject), (self.heads, heads), (self.notice, notice)):
            label.setText(words)
            label.setVisible(bool(words))
