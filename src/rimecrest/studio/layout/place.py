"""The Layout place: stage, ruler, candidates, card, and what does not fit, joined to the session."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from msgspec.structs import asdict, replace
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent, QPixmap, QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QScrollArea, QVBoxLayout, QWidget

from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.obstacles import Obstacles
from rimecrest.core.keys.traits import NOWHERE
from rimecrest.core.layout.seen import SeenMenu
from rimecrest.core.release.pictures import freeze, named_pictures
from rimecrest.core.release.stack import encoded
from rimecrest.core.search import Match
from rimecrest.core.words import tr
from rimecrest.core.workspace.edits import Edit, SetFields
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.shell.glyphs import said_of_unseen
from rimecrest.shell.pictures import PictureBook
from rimecrest.shell.theme import font
from rimecrest.studio.layout.cards import Cards
from rimecrest.studio.layout.finder_actions import FinderActions
from rimecrest.studio.layout.gestures import Args
from rimecrest.studio.layout.item_marks import marks_of
from rimecrest.studio.layout.looking_back import LookingBack
from rimecrest.studio.layout.lost_items import LostItems
from rimecrest.studio.layout.offering import Offering
from rimecrest.studio.layout.overlay import Overlay
from rimecrest.studio.layout.putting import Putting
from rimecrest.studio.layout.ruler import Ruler
from rimecrest.studio.layout.stage import TITLE_HEIGHT, Stage
from rimecrest.studio.shared.place import Place, Surroundings, Task, Thing
from rimecrest.studio.shared.sentence_widgets import Plain
from rimecrest.studio.shared.slim_bar import slim
from rimecrest.surfaces.seat_keys import KeySeat

ROOM = 150
"""Pixels that one more button may take along a bar."""
FIRST_HINT = tr("Type what you do often.")


class LayoutPlace(Place):
    """Edits one layer of one application on the stage."""

    def __init__(self, surroundings: Surroundings) -> None:
        super().__init__()
        self.session = session = surroundings.session
        self._scheme = scheme = surroundings.scheme
        self._pictures: object = None
        self._obstacles: tuple[object, Obstacles] | None = None
        """What the house keeps for itself, with what follows from it for keys."""
        self._book = PictureBook(freeze)
        self.stage = Stage(self._book)
        self.overlay = Overlay(self.stage.frame, session, scheme, self.stage)
        self.ruler = Ruler(scheme)
        self._side = LostItems(scheme)
        self._build()
        self.offering = Offering(self.overlay, session, scheme, self._draw, self)
        self.candidates = self.offering.candidates
        self.cards = Cards(self.stage.frame, self.overlay, session, scheme, self)
        self.card, self.surface_card = self.cards.item, self.cards.surface
        self.control_card = self.cards.control
        self.past = LookingBack(session, scheme, self.overlay, self._draw_as, self)
        self._actions = FinderActions(session, self.stage.frame, self.overlay, self.past, self.wanted.emit)
        self._putting = Putting(session, scheme, self.overlay, self.offering, self.begin, self.wanted.emit)
        self._connect()
        surroundings.preview.pictured.connect(self.show_document)
        self._show_document_picture()
        self.refresh()

    def _build(self) -> None:
        inner = QWidget()
        rows = QVBoxLayout(inner)
        rows.setContentsMargins(20, 10, 8, 10)
        rows.setSpacing(6)
        rows.addWidget(self.ruler)
        line = QHBoxLayout()
        line.setSpacing(14)
        line.addWidget(self.stage, 0, Qt.AlignmentFlag.AlignTop)
        side = QVBoxLayout()
        side.setContentsMargins(0, 10, 0, 0)
        side.addWidget(self._side)
        side.addStretch(1)
        line.addLayout(side)
        line.addStretch(1)
        rows.addLayout(line)
        rows.addStretch(1)
        self._scroll = QScrollArea(self)
        self._scroll.setFrameShape(QScrollArea.Shape.NoFrame)
        self._scroll.setWidgetResizable(True)
        slim(self._scroll, self._scheme)
        self._scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._scroll.setWidget(inner)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.addWidget(self._scroll)
        self._trouble = Plain("", self._scheme, "blocks", 14, self)
        self._trouble.setWordWrap(True)
        self._trouble.setContentsMargins(24, 24, 24, 24)
        whole.addWidget(self._trouble)

    def _connect(self) -> None:
        self.session.changed.connect(self.refresh)
        self.session.aimed.connect(self._aimed)
        self.session.found.connect(self._mark)
        self.overlay.named.connect(self._named)
        self.overlay.foreign.connect(self._putting.paste_foreign)
        self.overlay.compared.connect(self._compare)
        self.overlay.past.connect(self.past.open)
        self.overlay.typing.connect(lambda _: self.cards.shut())
        self.overlay.opens.connect(self.open_card)
        self.overlay.writes_steps.connect(self.cards.write_steps)
        self.overlay.opens_word.connect(self.cards.open_word)
        self.stage.frame.tab_changed.connect(lambda _: self._tab_changed())
        # No mouse reaches an item under the overlay: assistive technology presses it.
        self.stage.frame.triggered.connect(self._pressed)
        self.offering.taken.connect(lambda entry: self.put_target(entry.id, entry.args, entry.text))
        self.cards.wants.connect(self._do)
        self.cards.fixes.connect(self.fix_wanted)
        self._side.chosen.connect(self.open_card)
        self.ruler.pulled.connect(self._pull)
        self.ruler.settled.connect(self._settle)

    # Drawing

    def refresh(self) -> None:
        """Draw the workspace as it is now."""
        self.past.forget()
        self.offering.forget()
        self._use_pictures(self.session.workspace)
        self._draw(self.session.workspace)
        self.cards.refresh()

    def _use_pictures(self, workspace: Workspace) -> None:
        if workspace.pictures is not self._pictures:
            self._pictures = workspace.pictures
            self._book.take_over(encoded(named_pictures(workspace.pictures, {})))

    def _draw_as(self, then: Workspace | None) -> None:
        """Draw what was, or the draft again; the pictures are those of that time."""
        if then is not None or self.past.before is not None:
            self.cards.shut()
        self._use_pictures(then or self.session.workspace)
        self._draw(self.session.workspace)

    def _compare(self) -> None:
        self.past.turn()

    def _draw(self, workspace: Workspace) -> None:
        aim = self.session.aim
        try:
            before = self.past.before
            outcome = before.outcome if before is not None else self.session.outcome(workspace)
            contexts = workspace.catalogue(aim.app).context_tree
        except RimecrestError as error:
            self._scroll.hide()
            self._trouble.setText(str(error))
            self._trouble.show()
            return
        self._trouble.hide()
        self._scroll.show()
        self.stage.set_width(aim.room)
        self.ruler.set_value(aim.room)
        title = f"{aim.seat or 'A colleague'} · {workspace.catalogue(aim.app).title}"
        seat = aim.find_seat(workspace)
        if self._obstacles is None or self._obstacles[0] != workspace.settings.reserved:
            self._obstacles = workspace.settings.reserved, Obstacles(workspace.settings.reserved)
        keys = KeySeat(contexts, self._obstacles[1], seat.traits if seat else NOWHERE)
        self.stage.show_outcome(outcome, keys, title)
        frame = self.stage.frame
        self.overlay.setGeometry(1, TITLE_HEIGHT, frame.width(), frame.height())
        self.overlay.raise_()
        self._mark()
        self._say_unseen()

    def _mark(self) -> None:
        """Show on the stage what findings are about; before the first check there are none yet."""
        findings = self.session.findings() if self.session.is_checked else []
        self.overlay.shown.marks = marks_of(self.stage.frame.outcome, findings)
        self.overlay.redrawn()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._place_overlay()
        self.past.fit(self.size())

    def _place_overlay(self) -> None:
        frame = self.stage.frame
        self.overlay.setGeometry(1, TITLE_HEIGHT, frame.width(), frame.height())
        self.overlay.redrawn()
        self._say_unseen()

    def _tab_changed(self) -> None:
        self.cards.shut()
        self.overlay.writing.stop()
        self.stage.frame.settle()
        self.overlay.redrawn()
        self._say_unseen()

    def _say_unseen(self) -> None:
        text = self.session.aim.text
        width = round(self.stage.width() * text / 100)
        self._side.show_lost(width, text, self.stage.frame.unseen())

    def _show_document_picture(self) -> None:
        path = self.session.folder / "catalogues" / f"{self.session.aim.app}.png"
        if path.is_file():
            self.stage.document.show_picture(QPixmap(str(path)))

    def show_document(self, picture: QPixmap) -> None:
        """Show the running application's document instead of the stored picture."""
        self.stage.document.show_picture(picture)

    def _aimed(self) -> None:
        self.cards.shut()
        self.overlay.writing.stop()
        self.overlay.caret.leave()
        self._show_document_picture()
        self.refresh()
        if self.isVisible():
            self.begin()
        else:
            self._put_caret()  # the keys belong to the place that shows

    def begin(self) -> None:
        """Put the caret where the next button is seen, and take the keys."""
        self._put_caret()
        self.overlay.setFocus()

    def _put_caret(self) -> None:
        """Put the caret where the next button is seen.

        That is the end of the layer's own bar, else of the first bar that has room, else of the open tab.
        """
        caret = self.overlay.caret
        slots = [slot for slot in caret.slots if not slot.new_group]
        bars = {bar.id for bar in self.stage.frame.outcome.toolbars} if self.stage.frame.outcome else set()
        mine = [slot for slot in slots if slot.surface.startswith(f"{self.session.aim.layer}:")]
        free = [s for s in slots if s.surface in bars and self.stage.frame.spare(s.surface) >= ROOM]
        tab = [slot for slot in slots if slot.surface not in bars]
        if caret.slot() is None and (mine or free or tab):
            surface = (mine or free or tab[-1:])[0].surface
            caret.put([slot for slot in slots if slot.surface == surface][-1])
        self.overlay.update()

    def welcome(self) -> None:
        self.overlay.hint = FIRST_HINT

    # Doing

    def _do(self, edit: Edit) -> None:
        selected = self.overlay.caret.selected
        if isinstance(edit, SetFields) and edit.thing in selected[:-1] + selected[1:]:
            if set(edit.fields) <= {"face", "width", "picture", "collapse"}:
                # Several are selected: what they can have in common, all of them get.
                self.overlay.presenter.set_all(selected, edit.fields, edit.label)
                return
        if self.session.do(edit) and isinstance(edit, SetFields):
            words = "".join(value for value in edit.fields.values() if isinstance(value, str))
            if unseen := said_of_unseen(words, font(13)):
                self.session.say(unseen)

    def _pull(self, width: int) -> None:
        self.stage.set_width(width)
        self._place_overlay()

    def _settle(self, width: int) -> None:
        aim = self.session.aim
        self.session.aim_at(replace(aim, width=round(width * aim.text / 100)))

    def put_target(self, run: str, args: Args = (), label: str = "") -> None:
        """Put an item that runs a target with these settings at the caret."""
        self._putting.put_target(run, args, label)

    def _named(self, identity: str) -> None:
        """After a new tab, bar or panel has its name, the caret stands in it."""
        seen = self.session.outcome()
        row = seen.row(identity)
        tab = seen.tab(identity)
        if tab is not None and (not tab.groups or self.overlay.caret.held is None):
            if self.overlay.caret.slot() is None:
                self.overlay.caret.leave()
                self.overlay.keys.to_page()
        elif row is not None and not row.items:
            self.overlay.enter(identity)

    def _pressed(self, identity: str) -> None:
        """An item of the stage was pressed: it is chosen, and its card says what it is."""
        self.show_item(identity)
        self.open_card(identity)

    def open_card(self, identity: str) -> None:
        """Open the card of something that shows."""
        self.cards.open(identity)

    def show_item(self, identity: str) -> None:
        """Bring an item into view and select it."""
        outcome = self.stage.frame.outcome
        if outcome is None:
            return
        if (tab := outcome.tab_of(identity)) is not None:
            self.stage.frame.choose_tab(tab)
        if holder := self.stage.frame.rest_with(identity):
            self.stage.frame.sheets.open_rest(holder)
            self.overlay.redrawn()
        row = outcome.row_of(identity)
        if row is not None:
            self.overlay.caret.select(row.id, identity)
            self.overlay.setFocus()
            self.overlay.update()
            if self.stage.frame.button(identity) is None:
                # There is no room for it at this width: its card opens where it would be opened.
                self.open_card(identity)

    # What the window knows

    def take_focus(self) -> None:
        self.overlay.setFocus()

    def actions_here(self) -> list[Match]:
        return self._actions.rows()

    def _item_of(self, thing: Thing) -> str | None:
        """The item that a thing is, or that runs it."""
        seen = self.session.outcome()
        shown = [item for row, item in seen.buttons() if not isinstance(row, SeenMenu)]
        if thing.kind in ("command", "macro"):
            return next((item.id for item in shown if item.run == thing.name), None)
        if thing.kind == "picture":
            return next((item.id for item in shown if item.picture == thing.name), None)
        return next((item.id for item in shown if item.id == thing.name), None)

    def put_thing(self, thing: Thing) -> bool:
        return self._putting.put_thing(thing)

    def take_up(self, what: Task, thing: Thing) -> bool:
        if what == "place":
            return self.put_thing(thing)
        if what != "change" or not self.shows(thing):
            return False
        self.wanted.emit()
        self.show_thing(thing)
        return True

    def shows(self, thing: Thing) -> bool:
        try:
            if thing.kind == "surface":
                return self.session.outcome().is_surface(thing.name)
            return thing.kind != "key" and self._item_of(thing) is not None
        except RimecrestError:
            return False

    def show_thing(self, thing: Thing) -> None:
        if thing.kind == "surface":
            self._show_surface(thing.name)
        elif (item := self._item_of(thing)) is not None:
            self.show_item(item)

    def _show_surface(self, identity: str) -> None:
        """Bring a tab, bar or panel into view and hold it."""
        seen = self.session.outcome()
        if seen.tab(identity) is not None:
            self.stage.frame.choose_tab(identity)
        self.overlay.caret.hold(identity)
        self.overlay.redrawn()
        self.overlay.setFocus()

    def readings(self) -> Mapping[str, Callable[[], Any]]:
        session = self.session
        return {
            "items": lambda: [
                {
                    "surface": row.id,
                    "id": item.id,
                    "run": item.run,
                    "width": item.width,
                    "picture": item.picture,
                }
                for row, item in session.outcome().buttons()
            ],
            "aim": lambda: asdict(session.aim),
            "keys": lambda: {
                key.keys: key.run for key in session.workspace.layout(session.aim.layer, session.aim.app).keys
            },
            "taken": lambda: self.card.said_of_key(),
            "candidates": lambda: [entry.title for entry in self.candidates.entries],
        }

    def where(self, thing: str) -> list[int] | None:
        frame = self.stage.frame
        if not frame.isVisible():
            return None
        box = frame.rect_of(thing)
        if thing.startswith("slot "):
            surface, _, after = thing.removeprefix("slot ").partition(" after ")
            slots = (s for s in frame.insertion_points() if not s.new_group)
            box = next((s.caret for s in slots if (s.surface, s.after) == (surface, after or None)), None)
        if box is None:
            return None
        corner = frame.mapToGlobal(box.topLeft())
        return [corner.x(), corner.y(), box.width(), box.height()]

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() == Qt.Key.Key_Escape and self.card.isVisible():
            self.cards.shut()
        else:
            super().keyPressEvent(event)
