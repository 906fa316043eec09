"""The finder: one field for commands, macros, items, keys, colleagues and the studio's own actions."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QPoint, pyqtSignal
from PyQt6.QtGui import QFocusEvent
from PyQt6.QtWidgets import QWidget

from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys import normalise
from rimecrest.core.suggest.free_keys import holders
from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme
from rimecrest.studio.layout.targets import command_entries, macro_entries, places
from rimecrest.studio.shared.search import Match, Search
from rimecrest.studio.shared.search_field import SearchField
from rimecrest.studio.shared.session import Session

Actions = Callable[[], list[Match]]
Offers = Callable[[str], list[Match]]
EVERYTHING, MACROS, UNPLACED = tr("all commands and macros"), tr("macros only"), tr("only what is on no bar")


class Finder(SearchField):
    """`found` carries the match that was taken with Enter or a click; None when it was left.

    With Shift held, `put` carries it instead.
    """

    found = pyqtSignal(object)

    def __init__(
        self, session: Session, actions: Actions, offers: Offers, scheme: Scheme, window: QWidget
    ) -> None:
        """
        Args:
            actions: what the studio itself can do now.
            offers: what can be done with a word that nothing has.
            window: the list of matches lies over it.
        """
        super().__init__(tr("Find anything"), "found", 460, scheme, window)
        self._session = session
        self._actions = actions
        self._offers = offers
        self._search: Search | None = None
        self._filter = EVERYTHING
        self._list.foot = tr("Enter goes there · Shift+Enter puts it at the caret")
        self.setObjectName("finder")
        self.setPlaceholderText(tr("Find anything   F3"))
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
        found = macro_entries(workspace)
        try:
            outcome = session.outcome()
            found += command_entries(workspace, aim.app, outcome)
            for row, item in outcome.buttons():
                if item.label:
                    found.append(
                        Match("item", item.id, item.label, tr("item on {title}", title=row.title), item.tip)
                    )
        except RimecrestError:
            pass  # without a catalogue there are still macros, colleagues and actions
        return found + self._actions()

    def _look(self, text: str) -> None:
        if self._search is None:
            self._search = Search(self.entries())
        self._list.row = 0
        corner = self.mapTo(self._list.parentWidget(), QPoint(-240, self.height() + 4))
        if not text.strip():
            self._list.row = 2
            self._list.offer(
                "",
                [*self._filters(), *self._all()],
                corner,
                caption=tr("A to Z: {filter}", filter=self._filter),
            )
            return
        caption = ""
        rows = [*self._keys(text), *self._search.having(text, 9)]
        if not rows:
            rows = self._search.nearest(text, 5)
            app = self._session.workspace.catalogues.get(self._session.aim.app)
            who = tr("{title} has no command like that, and nothing else is called so", title=app.title)
            caption = f"{who}; nearest:" if rows else f"{who}."
            rows = [*rows, *self._offers(text.strip())]
        elif len(rows) < 9:
            rows += [match for match in self._search.find(text, 9) if match not in rows][: 9 - len(rows)]
        self._list.offer(text, rows, corner, tag=False, caption=caption)

    def _filters(self) -> list[Match]:
        others = [name for name in (EVERYTHING, MACROS, UNPLACED) if name != self._filter]
        return [
            Match("filter", name, f"Show {name}", action=partial(self._narrow, name), stays=True)
            for name in others
        ]

    def _narrow(self, name: str) -> None:
        self._filter = name
        self._look("")

    def _all(self) -> list[Match]:
        kinds = ("macro",) if self._filter == MACROS else ("command", "macro")
        rows = [match for match in self._search.all() if match.kind in kinds]
        if self._filter == UNPLACED:
            placed = places(self._session.outcome())
            rows = [match for match in rows if match.id.rpartition("/")[2] not in placed]
        return rows

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
            Match("key", keys, f"{keys}: {owner.name}", session.workspace.layer_title(owner.layer))
            for owner in having[:3]
        ]
        return rows or [Match("key", keys, tr("{keys} is free", keys=keys), "key")]

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        self.selectAll()
        if not self.text():
            self._filter = EVERYTHING
            self._look("")
