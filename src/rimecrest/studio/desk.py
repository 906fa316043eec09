"""The studio on one open workspace: spine, line of aim, a place, the findings strip, the finder.

It knows places as `Place`s, and nothing of what they hold.
"""

from __future__ import annotations

from functools import partial
from typing import Any, TypeVar

from msgspec.structs import replace
from PyQt6.QtCore import QPoint, QTimer, pyqtSignal
from PyQt6.QtGui import QAction, QKeySequence, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QStackedWidget, QVBoxLayout, QWidget

from rimecrest.core.check.findings import Finding
from rimecrest.core.errors import RimecrestError
from rimecrest.core.release.pictures import freeze
from rimecrest.core.search import Match
from rimecrest.core.words import owned, tr
from rimecrest.shell.pictures import PictureBook
from rimecrest.shell.theme import LIGHT, Scheme, font, palette
from rimecrest.shell.there import there
from rimecrest.studio.aim_line import AimLine
from rimecrest.studio.finder import Finder
from rimecrest.studio.history.forgetting import forgetting_actions
from rimecrest.studio.places import FIRST, PLACES, OpenPlaces
from rimecrest.studio.shared.edit_target import seat_for
from rimecrest.studio.shared.findings_list import FindingSheet
from rimecrest.studio.shared.findings_strip import Strip
from rimecrest.studio.shared.live_preview import LivePreview
from rimecrest.studio.shared.place import Place, Recorded, Surroundings, Task, Thing, action, thing_of
from rimecrest.studio.shared.sentence_widgets import Push, end_fields
from rimecrest.studio.shared.session import Session
from rimecrest.studio.spine import Spine

P = TypeVar("P", bound=Place)


AHEAD = 20
"""Milliseconds between the first paint and the making of another place: keys and clicks go between."""


class Desk(QWidget):
    """The places around one session. `turned`: the other colours are wanted."""

    turned = pyqtSignal()

    def __init__(self, session: Session, scheme: Scheme, preview: LivePreview) -> None:
        super().__init__()
        self.session = session
        self.scheme = scheme
        self.preview = preview
        self.setPalette(palette(scheme))
        self.setFont(font(13))
        book = PictureBook(freeze)
        rows = [(row.name, row.picture) for row in PLACES]
        self.spine = Spine(rows, session.workspace.settings.name, scheme, book)
        self._stack = QStackedWidget()
        self.places = OpenPlaces(Surroundings(session, scheme, preview, self), self._take_in)
        self._ahead = QTimer(self)
        self._ahead.setInterval(AHEAD)
        self._ahead.timeout.connect(self._make_ahead)
        self.strip = Strip(session, scheme)
        self.finder = Finder(session, self._actions, self._offers, self._show_finding, scheme, self)
        self._undo = Push("↶", scheme)
        self._redo = Push("↷", scheme)
        self._try = Push(tr("Try it"), scheme, first=True)
        self.sheet = FindingSheet(session, scheme, self)
        self._build()
        self._connect()
        self.go(FIRST)

    def _build(self) -> None:
        for button, name, words in (
            (self._undo, "undo", tr("Undo")),
            (self._redo, "redo", tr("Redo")),
            (self._try, "try-it", tr("Try it in the real application")),
        ):
            button.setObjectName(name)
            button.setAccessibleName(words)
            button.setToolTip(words)
        head = QWidget()
        head.setFixedHeight(44)
        line = QHBoxLayout(head)
        line.setContentsMargins(16, 0, 16, 0)
        line.setSpacing(10)
        line.addWidget(AimLine(self.session, self.scheme), 1)
        for widget in (self.finder, self._undo, self._redo, self._try):
            line.addWidget(widget)
        right = QVBoxLayout()
        right.setContentsMargins(0, 0, 0, 0)
        right.setSpacing(0)
        right.addWidget(head)
        right.addWidget(self._stack, 1)
        right.addWidget(self.strip)
        columns = QHBoxLayout(self)
        columns.setContentsMargins(0, 0, 0, 0)
        columns.setSpacing(0)
        columns.addWidget(self.spine)
        columns.addLayout(right, 1)

    def _connect(self) -> None:
        self.spine.chosen.connect(self.go)
        self.spine.turned.connect(self.turned)
        self._undo.clicked.connect(self.session.undo)
        self._redo.clicked.connect(self.session.redo)
        self._try.clicked.connect(self.preview.start)
        self.preview.told.connect(self.strip.say)
        self.sheet.fix_wanted.connect(self.strip.apply)
        self.sheet.closed.connect(self.focus_place)
        self.strip.opened.connect(self._open_sheet)
        self.strip.elsewhere_wanted.connect(self._open_elsewhere)
        self.strip.shown.connect(lambda where: self.show_thing(Thing("finding", where)))
        self.sheet.shown.connect(lambda where: self.show_thing(Thing("finding", where)))
        self.finder.found.connect(self._found)
        self.finder.left.connect(self.focus_place)
        self.finder.put.connect(self._put)
        self.session.changed.connect(self._say_undo)
        self._say_undo()
        keys = [
            ("F3", self.finder.setFocus),
            ("Ctrl+Z", self.session.undo),
            ("Ctrl+Shift+Z", self.session.redo),
            ("Alt+Home", lambda: self.session.step_aim(-1)),
            ("Alt+End", lambda: self.session.step_aim(1)),
            ("F5", self.preview.start),
            ("F6", self.strip.setFocus),
            ("F9", self._open_sheet),
        ]
        keys += [(f"Ctrl+{n}", partial(self.go, name)) for n, name in enumerate(self.places, 1)]
        for sequence, do in keys:
            made = QAction(self)
            made.setShortcut(QKeySequence(sequence))
            made.triggered.connect(lambda _=False, do=do: do())
            self.addAction(made)

    def _make_ahead(self) -> None:
        if not self.places.make_next():
            self._ahead.stop()

    def _take_in(self, name: str, place: Place) -> None:
        """A place was made."""
        self._stack.addWidget(place)
        place.fix_wanted.connect(self.strip.apply)
        place.wanted.connect(lambda: self.go(name))

    def _say_undo(self) -> None:
        for button, word, label in (
            (self._undo, tr("Undo"), self.session.undo_label),
            (self._redo, tr("Redo"), self.session.redo_label),
        ):
            button.setEnabled(bool(label))
            button.setToolTip(f"{word}: {label}" if label else tr("Nothing to {word}", word=word.lower()))
            button.update()

    @property
    def at(self) -> str:
        """The name of the place that is shown."""
        here = self._stack.currentWidget()
        return next(name for name, place in self.places.made.items() if place is here)

    def place(self, kind: type[P]) -> P:
        """The place of a kind."""
        return next(place for place in self.places.values() if isinstance(place, kind))

    def go(self, name: str) -> None:
        """Show a place."""
        self.spine.mark(name)
        shown = self.places[name]
        for place in self.places.made.values():
            if place is not shown:
                end_fields(place)
                place.leave()
        self._stack.setCurrentWidget(shown)
        shown.begin()

    def show_thing(self, thing: Thing) -> bool:
        """Bring something into view, in the first place that can show it; whether one can."""
        for name, place in self.places.items():
            if place.shows(thing):
                if name != self.at:
                    self.go(name)
                place.show_thing(thing)
                return True
        return False

    def focus_place(self) -> None:
        """What lay over the place is gone: its keys go to it again."""
        self.places[self.at].take_focus()

    def open_findings(self, everything: bool) -> None:
        """Open the sheet of findings: of all, or of what is aimed at."""
        self._place_sheet()
        self.sheet.open(everything)

    def _open_sheet(self) -> None:
        if self.sheet.isVisible():
            self.sheet.shut()
        else:
            self._place_sheet()
            self.sheet.open()

    def _open_elsewhere(self) -> None:
        self._place_sheet()
        self.sheet.open_elsewhere()

    def _place_sheet(self) -> None:
        corner = self._stack.mapTo(self, QPoint(0, 0))
        tall = max(220, self._stack.height() * 6 // 10)
        self.sheet.setGeometry(
            corner.x() + 12, corner.y() + self._stack.height() - tall - 8, self._stack.width() - 24, tall
        )

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._place_sheet()

    def close_down(self) -> None:
        """End what the places run."""
        self._ahead.stop()
        for place in self.places.made.values():
            place.close_down()

    # The finder

    def _actions(self) -> list[Match]:
        session, aim = self.session, self.session.aim
        other = tr("Dark colours") if self.scheme is LIGHT else tr("Light colours")
        found = [
            action(tr("Undo"), session.undo, tr("action · Ctrl+Z")),
            action(tr("Redo"), session.redo, tr("action · Ctrl+Shift+Z")),
            action(tr("Try it"), self.preview.start, tr("action · F5"), tr("start application draft")),
            action(tr("Findings"), self._open_sheet, tr("action · F9"), tr("conflicts checks")),
            action(tr("Previous aim"), lambda: session.step_aim(-1), tr("action · Alt+Home")),
            action(tr("Next aim"), lambda: session.step_aim(1), tr("action · Alt+End")),
            action(other, self.turned.emit, more="scheme"),
        ]
        for number, row in enumerate(PLACES, 1):
            found.append(
                action(
                    row.name, partial(self.go, row.name), tr("place · Ctrl+{number}", number=number), row.more
                )
            )
            found += self.places[row.name].actions_here()
        found += forgetting_actions(session, there(self.window()))
        for layer in session.workspace.settings.layers:
            title, go = f"{owned(layer.title)} layer", partial(self._aim_layer, layer.id)
            found.append(action(title, go, "aim", aim.app))
        for app, catalogue in session.workspace.catalogues.items():
            found.append(action(catalogue.title, partial(self._aim_app, app), tr("application"), "aim"))
        for seat in session.workspace.people:
            title, more = f"{seat.name} · {seat.seat}", " ".join(seat.departments)
            found.append(action(title, partial(self._find_seat, seat.seat), "colleague", more))
        return found

    def _show_finding(self, finding: Finding) -> None:
        """Aim where a finding can be mended, and go there."""
        aim, workspace = self.session.aim, self.session.workspace
        if finding.layer in workspace.layers and finding.app in workspace.catalogues:
            seat = aim.seat if finding.layer == aim.layer else seat_for(workspace, finding.layer)
            self.session.aim_at(replace(aim, layer=finding.layer, app=finding.app, seat=seat))
        if not self.show_thing(Thing("finding", finding.where)):
            self.open_findings(everything=True)

    def _aim_layer(self, layer: str) -> None:
        aim = self.session.aim
        self.session.aim_at(replace(aim, layer=layer, seat=seat_for(self.session.workspace, layer)))

    def _aim_app(self, app: str) -> None:
        aim = self.session.aim
        self.session.aim_at(replace(aim, app=app))

    def _find_seat(self, name: str) -> None:
        """Aim at a colleague's seat; where seats are what is shown, its sheet opens as well."""
        self._aim_seat(name)
        here, seat = self.places[self.at], Thing("seat", name)
        if here.shows(seat):
            here.show_thing(seat)

    def _aim_seat(self, name: str) -> None:
        workspace, aim = self.session.workspace, self.session.aim
        stack = workspace.stack_of(workspace.seat(name))
        layer = aim.layer if aim.layer in stack else stack[-1]
        self.session.aim_at(replace(aim, layer=layer, seat=name))

    def _found(self, match: Match) -> None:
        if match.action is not None:
            match.action()
        elif (thing := thing_of(match)) is not None and self.show_thing(thing):
            if match.kind == "key":
                self.strip.say(f"{match.title} ({match.hint}).")
        else:
            self.focus_place()
            self.strip.say(
                tr(
                    "“{title}” is on no bar and has no key yet; F3, Shift+Enter puts it on one.",
                    title=match.title,
                )
            )

    def _put(self, match: Match) -> None:
        thing = thing_of(match) if match.kind in ("command", "macro", "picture") else None
        if thing is None or not any(place.put_thing(thing) for place in self.places.values()):
            self._found(match)

    def _offers(self, word: str) -> list[Match]:
        return [match for place in self.places.values() for match in place.offers(word)]

    # The link

    def layers(self, app: str) -> list[tuple[str, str]]:
        """The layers that can be changed for an application, lowest first."""
        known = self.session.workspace
        if app not in known.catalogues or self.session.keeper.read_only:
            return []
        return [(layer.id, layer.title) for layer in known.settings.layers]

    def take_up(self, app: str, what: Task, thing: Thing, layer: str = "") -> bool:
        """Begin what an application asks for; whether a place does that."""
        aim, workspace = self.session.aim, self.session.workspace
        if app not in workspace.catalogues or (layer and layer not in workspace.layers):
            return False
        layer = layer or aim.layer
        seat = aim.seat if layer == aim.layer else seat_for(workspace, layer)
        self.session.aim_at(replace(aim, layer=layer, app=app, seat=seat))
        return any(place.take_up(what, thing) for place in self.places.values())

    def take_recorded(self, recorded: Recorded) -> bool:
        """Take over what was recorded in an application's own window; whether it is kept."""
        session = self.session
        if recorded.app not in session.workspace.catalogues or session.keeper.read_only:
            return False
        return any(place.take_recorded(recorded) for place in self.places.values())

    def read(self, name: str) -> Any:
        """What tests and assistance that walks the windows ask for.

        Raises:
            RimecrestError: there is no such reading.
        """
        session = self.session
        known = {
            "findings": lambda: [finding.to_data() for finding in session.checked.findings],
            "said": self.strip.accessibleName,
        }
        for place in self.places.values():
            known |= place.readings()
        if name not in known:
            raise RimecrestError(tr("The studio cannot tell “{name}”.", name=name))
        return known[name]()

    def where(self, thing: str) -> list[int] | None:
        """Where something that a place draws itself is on the screen."""
        return next((box for place in self.places.made.values() if (box := place.where(thing))), None)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        if len(self.places.made) < len(self.places) and not self._ahead.isActive():
            # The window is there: now the places that nobody has asked for yet are made, one at a time.
            self._ahead.start()
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.scheme.color("paper"))
        painter.fillRect(0, 0, self.width(), 44, self.scheme.color("sheet"))
        painter.setPen(self.scheme.color("line"))
        painter.drawLine(0, 43, self.width(), 43)
