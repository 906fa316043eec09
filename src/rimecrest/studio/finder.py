"""The finder: one field for all there is, from commands to colleagues, and the studio's own actions."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QMimeData, QPoint, Qt, pyqtSignal
from PyQt6.QtGui import QDrag, QFocusEvent
from PyQt6.QtWidgets import QWidget

from rimecrest.core.check.findings import Finding
from rimecrest.core.errors import RimecrestError
from rimecrest.core.explain.given_key import holders_of
from rimecrest.core.keys.chords import normalise
from rimecrest.core.search import Match, Search
from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme
from rimecrest.shell.there import there
from rimecrest.studio.findable import Pictures, findable
from rimecrest.studio.history.forgetting import FORGET
from rimecrest.studio.layout.clipboard import run_to_clipboard
from rimecrest.studio.layout.targets import places
from rimecrest.studio.shared.search_field import SearchField
from rimecrest.studio.shared.session import Session

Actions = Callable[[], list[Match]]
Offers = Callable[[str], list[Match]]
EVERYTHING, MACROS, UNPLACED = tr("all commands and macros"), tr("macros only"), tr("only what is on no bar")


class Finder(SearchField):
    """`found` carries the match that was taken with Enter or a click.

    With Shift held, `put` carries it instead.
    """

    found = pyqtSignal(Match)

    def __init__(
        self,
        session: Session,
        actions: Actions,
        offers: Offers,
        show: Callable[[Finding], object],
        scheme: Scheme,
        window: QWidget,
    ) -> None:
        """
        Args:
            show: goes to a finding, whatever is aimed at.
            actions: what the studio itself can do now.
            offers: what can be done with a word that nothing has.
            window: the list of matches lies over it.
        """
        super().__init__(tr("Find anything"), "found", 460, scheme, window)
        self._session = session
        self._actions = actions
        self._offers = offers
        self._show = show
        self._pictures = Pictures()
        self._search: Search | None = None
        self._forgets: Search | None = None
        """The rows that forget something for good: found only by that word."""
        self._filter = EVERYTHING
        self._list.foot = tr("Enter goes there · Shift+Enter puts it at the caret · drag it anywhere")
        self._list.dragged.connect(self._drag)
        self.setObjectName("finder")
        self.setPlaceholderText(tr("Find anything   F3"))
        self.setFixedSize(220, 30)
        self.taken.connect(self.found)
        session.changed.connect(self._forget)
        session.aimed.connect(self._forget)

    def _forget(self) -> None:
        self._search = self._forgets = None

    def entries(self) -> list[Match]:
        """Everything that can be found now."""
        return findable(self._session, self._show) + self._actions()

    def _look(self, text: str) -> None:
        if self._search is None or self._forgets is None:
            entries = self.entries()
            self._search = Search(one for one in entries if one.kind != FORGET)
            self._forgets = Search(one for one in entries if one.kind == FORGET)
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
        pictures = self._pictures.find(text) if len(text.strip()) > 2 else []
        forgets = self._forgets.having(text, 9) if FORGET in text.lower() else []
        rows = [*self._keys(text), *forgets, *self._search.having(text, 9)]
        if not rows:
            rows = self._search.nearest(text, 5)
            who = tr("{none}, and nothing else is called so", none=self._no_command())
            caption = f"{who}; nearest:" if rows else f"{who}."
            rows = [*rows, *pictures, *self._offers(text.strip())]
        elif len(rows) < 9:
            rows += [match for match in self._search.find(text, 9) if match not in rows][: 9 - len(rows)]
            rows += pictures
            if not any(match.kind in ("command", "macro", "item", "action", "key") for match in rows):
                caption = tr("{who}.", who=self._no_command())
        self._list.offer(text, rows, corner, tag=False, caption=caption)

    def _no_command(self) -> str:
        app = self._session.workspace.catalogues.get(self._session.aim.app)
        return tr("{title} has no command like that", title=app.title if app else self._session.aim.app)

    def _drag(self, entry: Match) -> None:
        """Let a command or macro be dragged out of the list; the stage takes it like any item."""
        data = self.travels(entry)
        if data is not None:
            drag = QDrag(self)
            drag.setMimeData(data)
            self._close()
            drag.exec(Qt.DropAction.CopyAction)

    def travels(self, entry: Match) -> QMimeData | None:
        """What is dragged of an entry; None: it is nothing that can be put somewhere."""
        aim = self._session.aim
        target = entry.id.rpartition("/")[2]
        if entry.kind not in ("command", "macro"):
            return None
        return run_to_clipboard(target, entry.title, aim.layer, aim.app)

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
        rows = [match for match in there(self._search).all() if match.kind in kinds]
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
            having = holders_of(session.workspace, session.aim.app, session.aim.layer, keys)
        except RimecrestError:
            return []
        rows = [
            Match("key", keys, f"{keys}: {holder.name} {holder.where}".strip(), holder.layer)
            for holder in having[:3]
        ]
        return rows or [Match("key", keys, tr("{keys} is free", keys=keys), "key")]

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.selectAll()
        if not self.text():
            self._filter = EVERYTHING
            self._look("")
