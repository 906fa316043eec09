"""The studio's window: spine, line of aim, the place, the findings strip."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from PyQt6.QtCore import QEvent, QPoint, pyqtSignal
from PyQt6.QtGui import QAction, QCloseEvent, QKeySequence, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QApplication, QFileDialog, QHBoxLayout, QStackedWidget, QVBoxLayout, QWidget

from rimecrest.core.catalogue.surfaces import Tab, Toolbar
from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys import format_sequence
from rimecrest.core.release import freeze
from rimecrest.core.workspace import PutTab, PutToolbar, fresh_thing
from rimecrest.shell.link_server import LinkServer
from rimecrest.shell.pictures import PictureBook
from rimecrest.shell.theme import DARK, LIGHT, Scheme, font, palette
from rimecrest.studio.aim_line import AimLine
from rimecrest.studio.finder import Finder
from rimecrest.studio.keys.place import KeysPlace
from rimecrest.studio.layout.place import LayoutPlace
from rimecrest.studio.macros.place import MacrosPlace
from rimecrest.studio.rollout.place import RolloutPlace
from rimecrest.studio.shared.edit_target import EditTarget, seat_for
from rimecrest.studio.shared.findings_list import FindingSheet
from rimecrest.studio.shared.findings_strip import Strip
from rimecrest.studio.shared.live_preview import LivePreview
from rimecrest.studio.shared.search import Match
from rimecrest.studio.shared.sentence_widgets import Push
from rimecrest.studio.shared.session import Session
from rimecrest.studio.spine import Spine
from rimecrest.studio.start_screen import StartScreen
from rimecrest.surfaces.on_screen import where_on_screen

PLACES = [
    ("Macros", "set:format-list-text"),
    ("Layout", "set:application-outline"),
    ("Keys", "set:keyboard-outline"),
    ("Roll-out", "set:hexagon-multiple-outline"),
]


class Desk(QWidget):
    """The studio on one open workspace."""

    turned = pyqtSignal()

    def __init__(self, session: Session, scheme: Scheme, trying: LivePreview) -> None:
        super().__init__()
        self.session = session
        self.scheme = scheme
        self.trying = trying
        self.setPalette(palette(scheme))
        self.setFont(font(13))
        book = PictureBook(freeze)
        self.spine = Spine(PLACES, session.workspace.settings.name, scheme, book)
        self.layout_place = LayoutPlace(session, scheme)
        self.keys = KeysPlace(session, scheme, self)
        self.rollout = RolloutPlace(session, scheme)
        self.places = QStackedWidget()
        self.macros = MacrosPlace(session, scheme, trying)
        self.places.addWidget(self.macros)
        self.places.addWidget(self.layout_place)
        self.places.addWidget(self.keys)
        self.places.addWidget(self.rollout)
        self.strip = Strip(session, scheme)
        self.finder = Finder(session, self._actions, scheme, self)
        self._undo = Push("↶", scheme)
        self._redo = Push("↷", scheme)
        self._try = Push("Try it", scheme, first=True)
        self.sheet = FindingSheet(session, scheme, self)
        self._build()
        self._connect()
        self.go("Layout")

    def _build(self) -> None:
        for button, name, words in (
            (self._undo, "undo", "Undo"),
            (self._redo, "redo", "Redo"),
            (self._try, "try-it", "Try it in the real application"),
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
        right.addWidget(self.places, 1)
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
        self._try.clicked.connect(self.trying.start)
        self.trying.told.connect(self.strip.say)
        self.trying.pictured.connect(self.layout_place.show_document)
        self.layout_place.fix_wanted.connect(self.strip.apply)
        self.keys.fix_wanted.connect(self.strip.apply)
        self.keys.card_wanted.connect(self._make_card)
        self.sheet.fix_wanted.connect(self.strip.apply)
        self.sheet.closed.connect(self._focus_place)
        self.macros.run_wanted.connect(self.trying.run_macro)
        self.strip.opened.connect(self._open_sheet)
        self.strip.shown.connect(self._show_finding)
        self.sheet.shown.connect(self._show_finding)
        self.finder.found.connect(self._found)
        self.session.changed.connect(self._say_undo)
        self._say_undo()
        for keys, action in (
            ("F3", self.finder.setFocus),
            ("Ctrl+Z", self.session.undo),
            ("Ctrl+Shift+Z", self.session.redo),
            ("Ctrl+1", lambda: self.go("Macros")),
            ("Ctrl+2", lambda: self.go("Layout")),
            ("Ctrl+3", lambda: self.go("Keys")),
            ("Ctrl+4", lambda: self.go("Roll-out")),
            ("Alt+Home", lambda: self.session.step_aim(-1)),
            ("Alt+End", lambda: self.session.step_aim(1)),
            ("F5", self.trying.start),
            ("F6", self.strip.setFocus),
            ("F9", self._open_sheet),
        ):
            made = QAction(self)
            made.setShortcut(QKeySequence(keys))
            made.triggered.connect(lambda _=False, action=action: action())
            self.addAction(made)

    def _say_undo(self) -> None:
        for button, word, label in (
            (self._undo, "Undo", self.session.undo_label),
            (self._redo, "Redo", self.session.redo_label),
        ):
            button.setEnabled(bool(label))
            button.setToolTip(f"{word}: {label}" if label else f"Nothing to {word.lower()}")
            button.update()

    def go(self, place: str) -> None:
        """Show a place."""
        self.place = place
        self.spine.mark(place)
        for other in (self.macros, self.keys, self.rollout):
            other.leave()
        known: dict[str, MacrosPlace | LayoutPlace | KeysPlace | RolloutPlace] = {
            "Macros": self.macros,
            "Layout": self.layout_place,
            "Keys": self.keys,
            "Roll-out": self.rollout,
        }
        shown = known[place]
        self.places.setCurrentWidget(shown)
        shown.begin()

    def _show_finding(self, where: str) -> None:
        """Bring what a finding is about into view: an item, or a key on the bed."""
        seen, layout = self.session.outcome(), self.layout_place
        keys = where.partition(":key:")[2].partition(":")[2] or where
        if self._is_key(keys):
            self.go("Keys")
            self.keys.show_keys(keys)
            return
        target = next(
            (b.target for b in seen.bindings if format_sequence(b.sequence) == where and b.level), None
        )
        item = next(
            (i.id for _, i in seen.buttons() if i.id == where or (target and i.target == target)), None
        )
        if item is not None:
            self.go("Layout")
            layout.show_item(item)

    def _is_key(self, where: str) -> bool:
        """Whether somebody has that sequence in the aimed application."""
        kept = self.session.checked.cache
        table = kept.tables.get(self.session.aim.app) if kept else None
        return table is not None and where in table.index.buckets

    def _focus_place(self) -> None:
        focused = {
            self.layout_place: self.layout_place.overlay,
            self.keys: self.keys.bed,
            self.rollout: self.rollout.news,
        }
        focused.get(self.places.currentWidget(), self.macros.steps).setFocus()

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

    def _place_sheet(self) -> None:
        corner = self.places.mapTo(self, QPoint(0, 0))
        tall = max(220, self.places.height() * 6 // 10)
        self.sheet.setGeometry(
            corner.x() + 12, corner.y() + self.places.height() - tall - 8, self.places.width() - 24, tall
        )

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._place_sheet()

    def _make_card(self) -> None:
        """Ask for a file, and write the card of the aim."""
        from rimecrest.studio.wall_chart import card_of, write_html, write_pdf

        session, aim = self.session, self.session.aim
        name = f"{session.workspace.layer_title(aim.layer)}-{aim.app}.pdf".replace(" ", "-").lower()
        chosen, _ = QFileDialog.getSaveFileName(
            self, "A card to hang up", str(Path.home() / name), "PDF (*.pdf);;HTML (*.html)"
        )
        if not chosen:
            return
        path = Path(chosen)
        try:
            made = card_of(session.workspace, session.checked, aim.app, aim.layer, self.keys.board)
            if path.suffix == ".html":
                write_html(made, path)
            else:
                write_pdf(made, path if path.suffix == ".pdf" else path.with_suffix(".pdf"))
        except RimecrestError as error:
            self.strip.say(str(error))
            return
        self.strip.say(f"The card is in {path}.")

    # The finder

    def _actions(self) -> list[Match]:
        def action(name: str, hint: str, do: Any, more: str = "") -> Match:
            return Match("action", name, name, hint, more, action=do)

        other = "Dark colours" if self.scheme is LIGHT else "Light colours"
        actions = [
            action("New tab", "action", self._new_tab, "ribbon"),
            action("New toolbar", "action", self._new_toolbar, "bar"),
            action("Undo", "action · Ctrl+Z", self.session.undo),
            action("Redo", "action · Ctrl+Shift+Z", self.session.redo),
            action("Try it", "action · F5", self.trying.start, "start application draft"),
            action("New macro", "action", self._new_macro, "make"),
            action("Record a macro", "action", self._record, "recording do chore"),
            action("Macros", "place · Ctrl+1", lambda: self.go("Macros"), "steps shelves"),
            action("Keys", "place · Ctrl+3", lambda: self.go("Keys"), "bed hotkeys shortcuts"),
            action("Roll-out", "place · Ctrl+4", lambda: self.go("Roll-out"), "release seats map"),
            action("Layout", "place · Ctrl+2", lambda: self.go("Layout"), "stage"),
            action("Findings", "action · F9", self._open_sheet, "conflicts checks"),
            action("Previous aim", "action · Alt+Home", lambda: self.session.step_aim(-1)),
            action("Next aim", "action · Alt+End", lambda: self.session.step_aim(1)),
            action(other, "action", self.turned.emit, "scheme"),
        ]
        aim = self.session.aim
        for layer in self.session.workspace.settings.layers:
            actions.append(
                action(
                    f"{layer.title}'s layer", "aim", lambda layer=layer: self._aim_layer(layer.id), aim.app
                )
            )
        return actions

    def _aim_layer(self, layer: str) -> None:
        aim = self.session.aim
        self.session.aim_at(EditTarget(layer, aim.app, seat_for(self.session.workspace, layer), aim.width))

    def _new_macro(self) -> None:
        self.go("Macros")
        self.macros.make()

    def _record(self) -> None:
        self.go("Macros")
        self.macros.record()

    def _new_tab(self) -> None:
        aim = self.session.aim
        tabs = self.session.outcome().tabs
        name = fresh_thing(self.session.workspace, aim.layer, aim.app, "tab")
        tab = Tab(id=name, title="New tab", after=tabs[-1].id if tabs else None)
        if self.session.do(PutTab(aim.layer, aim.app, tab)):
            identity = f"{aim.layer}:{tab.id}"
            self.layout_place.stage.frame.choose_tab(identity)
            self.layout_place.overlay.rename(identity)

    def _new_toolbar(self) -> None:
        aim = self.session.aim
        bars = self.session.outcome().toolbars
        name = fresh_thing(self.session.workspace, aim.layer, aim.app, "bar")
        bar = Toolbar(id=name, title="New bar", edge="top", after=bars[-1].id if bars else None)
        if self.session.do(PutToolbar(aim.layer, aim.app, bar)):
            self.layout_place.overlay.caret.put_after(f"{aim.layer}:{bar.id}", None)
            self.layout_place.overlay.redrawn()
            self.layout_place.overlay.setFocus()

    def _found(self, entry: Match | None) -> None:
        if entry is None:
            self._focus_place()
        elif entry.action is not None:
            entry.action()
        elif entry.kind in ("command", "macro"):
            self.go("Layout")
            self.layout_place.put_target(entry.id)
        elif entry.kind == "item":
            self.go("Layout")
            self.layout_place.show_item(entry.id)
        elif entry.kind == "seat":
            self._aim_seat(entry.id)
        elif entry.kind == "key":
            self.go("Keys")
            self.keys.show_keys(entry.more)
            self.strip.say(f"{entry.title} ({entry.hint}).")

    def _aim_seat(self, name: str) -> None:
        workspace, aim = self.session.workspace, self.session.aim
        stack = workspace.stack_of(workspace.seat(name))
        layer = aim.layer if aim.layer in stack else stack[-1]
        self.session.aim_at(EditTarget(layer, aim.app, name, aim.width))

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.scheme.color("paper"))
        painter.fillRect(0, 0, self.width(), 44, self.scheme.color("sheet"))
        painter.setPen(self.scheme.color("line"))
        painter.drawLine(0, 43, self.width(), 43)


class StudioWindow(QWidget):
    """The one top-level window: the start screen, or a desk."""

    demo_wanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.scheme = LIGHT
        self.desk: Desk | None = None
        self.session: Session | None = None
        self._trying: LivePreview | None = None
        self._rows = QVBoxLayout(self)
        self._rows.setContentsMargins(0, 0, 0, 0)
        self._start: StartScreen | None = None
        self.setWindowTitle("Rimecrest")
        self.setPalette(palette(self.scheme))
        self.resize(1280, 800)
        self.server = LinkServer("studio", self._methods(), self)

    def show_start(self, sentence: str = "") -> None:
        """The start screen, with what went wrong."""
        start = StartScreen(self.scheme)
        start.opened.connect(self.open_folder)
        start.begun.connect(lambda folder: self.open_folder(folder, first=True))
        start.demo_wanted.connect(self.demo_wanted)
        start.say(sentence)
        self._replace(start)
        self._start = start

    def open_folder(self, folder: Path, first: bool = False) -> bool:
        """Open a workspace; where it cannot be opened, the start screen says why."""
        try:
            session = Session(folder)
        except RimecrestError as error:
            if self._start is not None:
                self._start.say(str(error))
            else:
                self.show_start(str(error))
            return False
        self._end_session()
        self.session = session
        self._trying = LivePreview(session, self)
        self._show_desk()
        self.setWindowTitle(f"{session.workspace.settings.name} · Rimecrest")
        if first:
            self.desk.layout_place.hint_first()
        if session.keeper.read_only:
            session.told.emit(
                f"Open read-only: {session.keeper.held_by} has it. Close it there to edit here."
            )
        elif session.workspace.broken:
            path, why = next(iter(session.workspace.broken.items()))
            session.told.emit(f"{path} cannot be used: {why}. The rest is open.")
        return True

    def _show_desk(self) -> None:
        desk = Desk(self.session, self.scheme, self._trying)
        desk.turned.connect(self.turn_scheme)
        self.setPalette(palette(self.scheme))
        self._replace(desk)
        self._start = None
        self.desk = desk
        desk.layout_place.begin()

    def turn_scheme(self) -> None:
        """Light becomes dark, and dark light. The aim and the place stay."""
        self.scheme = DARK if self.scheme is LIGHT else LIGHT
        QApplication.instance().setPalette(palette(self.scheme))
        place = self.desk.place
        self._show_desk()
        self.desk.go(place)

    def _replace(self, widget: QWidget) -> None:
        if self.desk is not None:
            self.desk.macros.close_trial()
        while (item := self._rows.takeAt(0)) is not None:
            if (old := item.widget()) is not None:
                old.hide()
                old.setParent(None)
                old.deleteLater()
        self._rows.addWidget(widget)

    def _end_session(self) -> None:
        if self.desk is not None:
            self.desk.macros.close_trial()
        if self._trying is not None:
            self._trying.stop()
        if self.session is not None:
            self.session.close()

    def changeEvent(self, event: QEvent) -> None:
        super().changeEvent(event)
        if (
            event.type() == QEvent.Type.ActivationChange
            and self.isActiveWindow()
            and self.session is not None
        ):
            self.session.look_again()

    def closeEvent(self, event: QCloseEvent) -> None:
        self._end_session()
        self.server.close()
        event.accept()

    # The link: where things are, and what is open, for tests and for assistance that walks the windows.

    def _methods(self) -> dict[str, Any]:
        return {
            "hello": lambda: {"app": "studio", "workspace": str(self.session.folder) if self.session else ""},
            "where": self._where,
            "read": self._read,
        }

    def _where(self, thing: str) -> list[int] | None:
        if self.desk is None:
            return where_on_screen(None, thing)
        frame = self.desk.layout_place.stage.frame
        if thing.startswith("slot "):
            surface, _, after = thing.removeprefix("slot ").partition(" after ")
            for slot in frame.insertion_points():
                if slot.surface == surface and slot.after == (after or None) and not slot.new_group:
                    corner = frame.mapToGlobal(slot.caret.topLeft())
                    return [corner.x(), corner.y(), slot.caret.width(), slot.caret.height()]
            return None
        return where_on_screen(frame if frame.isVisible() else None, thing)

    def _read(self, name: str) -> Any:
        if self.session is None or self.desk is None:
            raise RimecrestError("No workspace is open.")
        session = self.session
        match name:
            case "findings":
                return [finding.to_data() for finding in session.checked.findings]
            case "items":
                rows = list(session.outcome().buttons())
                return [
                    {"surface": row.id, "id": item.id, "run": item.run, "width": item.width}
                    for row, item in rows
                ]
            case "aim":
                return vars(session.aim) if hasattr(session.aim, "__dict__") else None
            case "keys":
                layout = session.workspace.layout(session.aim.layer, session.aim.app)
                return {key.keys: key.run for key in layout.keys}
            case "said":
                return self.desk.strip.accessibleName()
            case "taken":
                row = self.desk.layout_place.card.findChild(QWidget, "card-taken")
                return row.accessibleName() if row is not None else ""
            case "candidates":
                return [entry.title for entry in self.desk.layout_place.candidates.entries]
            case "board":
                return {
                    seat.seat.seat: [seat.state.value, seat.release] for seat in self.desk.rollout.board.seats
                }
        raise RimecrestError(f"The studio cannot tell “{name}”.")
