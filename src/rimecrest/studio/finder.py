"""The finder: one field for commands, macros, items, keys, colleagues and the studio's own actions."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPoint, pyqtSignal
from PyQt6.QtGui import QFocusEvent
from PyQt6.QtWidgets import QWidget

from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys import normalise
from rimecrest.core.suggest.free_keys import holders
from rimecrest.shell.theme import Scheme
from rimecrest.studio.layout.targets import target_entries
from rimecrest.studio.shared.search import Match, Search
from rimecrest.studio.shared.search_field import SearchField
from rimecrest.studio.shared.session import Session

Actions = Callable[[], list[Match]]


class Finder(SearchField):
    """`found` carries the entry that was taken with Enter or a click."""

    found = pyqtSignal(object)

    def __init__(self, session: Session, actions: Actions, scheme: Scheme, window: QWidget) -> None:
        super().__init__("Find anything", "found", 460, scheme, window)
        self._session = session
        self._actions = actions
        self._search: Search | None = None
        self._list.nothing = "Nothing is called so: no command, macro, colleague or action."
        self.setObjectName("finder")
        self.setPlaceholderText("Find anything   F3")
        self.setFixedSize(220, 30)
        self.taken.connect(self.found)
        self.left.connect(lambda: self.found.emit(None))
        session.changed.connect(self._forget)
        session.aimed.connect(self._forget)

    def _forget(self) -> None:
        self._search = None

    def entries(self) -> list[Match]:
        """Everything that can be found now."""
        session = self._session
        workspace, aim = session.workspace, session.aim
        found: list[Match] = []
        try:
            outcome = session.outcome()
            found += target_entries(workspace, aim.stack(workspace), aim.app, outcome)
            for row, item in outcome.buttons():
                if item.label:
                    where = f"item on {row.title}"
                    found.append(Match("item", item.id, item.label, where, item.tip))
        except RimecrestError:
            pass  # without a catalogue there are still colleagues and actions
        for seat in workspace.people:
            found.append(
                Match(
                    "seat", seat.seat, f"{seat.name} · {seat.seat}", "colleague", " ".join(seat.departments)
                )
            )
        return found + self._actions()

    def _look(self, text: str) -> None:
        if not text.strip():
            self._list.hide()
            return
        if self._search is None:
            self._search = Search(self.entries())
        rows = [*self._keys(text), *self._search.find(text, 9)]
        self._list.row = 0
        corner = self.mapTo(self._list.parentWidget(), QPoint(-240, self.height() + 4))
        self._list.offer(text, rows, corner, tag=False)

    def _keys(self, text: str) -> list[Match]:
        """Who has a key that was typed out."""
        if "+" not in text and not text.upper().startswith("F"):
            return []
        session = self._session
        try:
            keys = normalise(text)
            having = holders(session.workspace, session.aim.app, session.aim.layer, keys)
        except RimecrestError:
            return []
        rows = [
            Match(
                "key",
                owner.run or "",
                f"{keys}: {owner.name}",
                session.workspace.layer_title(owner.layer),
                keys,
            )
            for owner in having[:3]
        ]
        return rows or [Match("key", "", f"{keys} is free", "key", keys)]

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        self.selectAll()
