"""The messages of a folder, as the toolkit's table asks for them: heads are read when a row is drawn."""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import QModelIndex, Qt

from rimecrest.core.words import tr
from rimecrest.kit.documents.list_document import ListModel
from rimecrest.shell.theme import bold, font
from rimecrest_standins.post.maildir import ANSWERED, DRAFTS, FLAGGED, OUTBOX, SEEN, Maildir
from rimecrest_standins.post.message_parts import pairs_in

MARKS, WHO, SUBJECT, DATE = range(4)
WIDTHS = {MARKS: 44, WHO: 200, DATE: 138}
"""Column → pixels; the subject has the rest."""
_PIXELS = 13


class MessageModel(ListModel):
    """The messages that are shown: those of one folder, in an order, all or those that were searched for."""

    def __init__(self, mailbox: Maildir) -> None:
        super().__init__()
        self._mailbox = mailbox
        self.folder = ""

    @property
    def _outgoing(self) -> bool:
        return self.folder in (DRAFTS, OUTBOX)

    @property
    def titles(self) -> tuple[str, ...]:
        return ("", tr("To") if self._outgoing else tr("From"), tr("Subject"), tr("Date"))

    def data(self, index: QModelIndex, role: int = 0) -> Any:
        key = self.keys[index.row()]
        flags = self._mailbox.flags(self.folder, key)
        if role == Qt.ItemDataRole.FontRole:
            return font(_PIXELS) if SEEN in flags else bold(_PIXELS)
        if role == Qt.ItemDataRole.AccessibleTextRole and index.column() == MARKS:
            marks = {SEEN: tr("read"), FLAGGED: tr("flagged"), ANSWERED: tr("answered")}
            return ", ".join(words for flag, words in marks.items() if flag in flags) or tr("not read")
        if role != Qt.ItemDataRole.DisplayRole:
            return None
        if index.column() == MARKS:
            return "●" * (SEEN not in flags) + "⚑" * (FLAGGED in flags) + "↩" * (ANSWERED in flags)
        heads = self._mailbox.heads(self.folder, key)
        if index.column() == WHO:
            pairs = pairs_in(heads.to if self._outgoing else heads.sender)
            return ", ".join(name or address for name, address in pairs)
        return (heads.subject or tr("(no subject)")) if index.column() == SUBJECT else heads.date
