"""What a message is read in: its heads, its files, its text."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel, QVBoxLayout, QWidget

from rimecrest.core.words import tr
from rimecrest.kit.documents.parts import below_one_another
from rimecrest.shell.theme import LIGHT, bold, font
from rimecrest_standins.formatted_text.reading_view import ReadingView
from rimecrest_standins.post.file_row import FileRow
from rimecrest_standins.post.message_parts import Attached, split_addresses
from rimecrest_standins.post.received import MOST_PARTS, received

MARGIN = 16
SHOWN = 300
"""Characters of a head that are shown."""
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
        message = received(content)
        lines = [f"{title}: {_beginning(words)}" for title, name in _HEADS if (words := message.head(name))]
        lines += [tr("Date: {day}", day=message.day)] if message.day else []
        notice = self.view.show_text(message.plain, message.page)
        if message.more:
            more = tr("It has more than {number} parts; the first are here.", number=MOST_PARTS)
            notice = f"{notice} {more}".strip()
        self._show(message.head("Subject") or tr("(no subject)"), "\n".join(lines), notice, message.files)

    def _show(self, subject: str, heads: str, notice: str, files: tuple[Attached, ...]) -> None:
        self.attached = files
        self.files.show_files(files)
        for label, words in ((self.subject, subject), (self.heads, heads), (self.notice, notice)):
            label.setText(words)
            label.setVisible(bool(words))


def _beginning(words: str) -> str:
    """An address field as it is shown: of very many addresses the first, and how many more there are."""
    if len(words) <= SHOWN:
        return words
    all_of_them = split_addresses(words)
    first = split_addresses(words[:SHOWN])[:-1] or [f"{all_of_them[0][:SHOWN]}…"]
    more = len(all_of_them) - len(first)
    return ", ".join(first) + (tr(" and {number} more", number=more) if more > 0 else "")
