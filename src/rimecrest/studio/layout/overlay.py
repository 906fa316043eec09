"""What lies over the stage and takes the mouse and the keys: caret, selection, marks, preview.

It draws, and passes on what was meant: to the presenter, or as wishes to the place.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial

from PyQt6.QtCore import QEvent, QMimeData, QPoint, QRect, Qt, pyqtSignal
from PyQt6.QtGui import (
    QContextMenuEvent,
    QDragEnterEvent,
    QDragMoveEvent,
    QDropEvent,
    QFocusEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
)
from PyQt6.QtWidgets import QWidget

from rimecrest.core.layout import SeenButton, SeenControl, SeenMenu, SeenPanel, SeenSubmenu
from rimecrest.core.words import tr
from rimecrest.shell.glyphs import said_of_unseen
from rimecrest.shell.theme import Scheme, font
from rimecrest.shell.there import there
from rimecrest.studio.layout.caret import Caret
from rimecrest.studio.layout.clipboard import Copied
from rimecrest.studio.layout.clipboard_hands import ClipboardHands
from rimecrest.studio.layout.control_kinds import BY_CHARACTER
from rimecrest.studio.layout.grid_pointer import GridPointer
from rimecrest.studio.layout.grid_presenter import GridPresenter
from rimecrest.studio.layout.held_keys import HeldKeys
from rimecrest.studio.layout.hidden_list import HiddenWord
from rimecrest.studio.layout.key_table import OFF_THE_GRID, ON_THE_GRID, ONCE, SIZES, Meaning, meaning_of
from rimecrest.studio.layout.kind_strip import LINE, KindStrip
from rimecrest.studio.layout.naming import Naming
from rimecrest.studio.layout.overlay_painting import Shown, paint_overlay
from rimecrest.studio.layout.picture_hands import PictureHands
from rimecrest.studio.layout.pointer_tools import Docking, PointerTools
from rimecrest.studio.layout.presenter import StagePresenter
from rimecrest.studio.layout.rest_hands import RestHands
from rimecrest.studio.layout.stage_menu import StageMenu
from rimecrest.studio.layout.surface_presenter import SurfacePresenter
from rimecrest.studio.layout.surface_tools import Plus, SurfaceTools, handles
from rimecrest.studio.layout.window_drag import WindowDrag
from rimecrest.studio.pictures.bringing_in import holds_picture
from rimecrest.studio.shared.session import Session
from rimecrest.surfaces import Frame


class Overlay(QWidget):
    """Over a `Frame`, as large as it.

    Signals:
        typing(text): the letters typed at the caret; empty when there are none.
        all_wanted: show all that can be put at the caret.
        candidate(key): a key for the list of candidates, while it is open.
        opens(identity): open the card of this item.
        opens_word(identity, word): open it, and what this word of it opens.
        writes_steps(identity): open it where the private steps of this control are written.
        named(identity): a thing was given its name with Enter.
        moved: the caret or the selection is elsewhere.
        compared: turn between the last release and the draft.
        past: show the points of what was.
        foreign(copied): what is to be pasted comes from another application.
    """

    typing = pyqtSignal(str)
    all_wanted = pyqtSignal()
    candidate = pyqtSignal(int)
    opens = pyqtSignal(str)
    writes_steps = pyqtSignal(str)
    opens_word = pyqtSignal(str, str)
    named = pyqtSignal(str)
    moved = pyqtSignal()
    foreign = pyqtSignal(Copied)
    compared = pyqtSignal()
    past = pyqtSignal()

    def __init__(self, frame: Frame, session: Session, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent)
        self.caret = Caret()
        self.presenter = StagePresenter(session, self.caret)
        self.shown = Shown(self.caret)
        self.typed = ""
        self.listing = False
        """Whether a list of candidates is open: arrows and Enter are for it."""
        self.looking_back = False
        """Whether the last release is shown: nothing is changed there, any key goes back to the draft."""
        self._frame = frame
        self._session = session
        self.surfaces = SurfacePresenter(session)
        self._tools = SurfaceTools(frame, self.caret, self.surfaces)
        self._grid = GridPresenter(session)
        over_grid = GridPointer(frame, self._grid)
        self._pointer = PointerTools(frame, self.caret, self.presenter, over_grid, self._docking)
        self._held = HeldKeys(frame, self.caret, self.surfaces, session)
        self._menus = StageMenu(self.presenter, self.surfaces, self._grid, self, scheme, self)
        self.hidden = HiddenWord(self.surfaces, scheme, self)
        self.kinds = KindStrip(scheme, self)
        self.kinds.chosen.connect(self.begin_kind)
        self._rests = RestHands(frame, self.caret)
        self._naming = Naming(self)
        self._pictures = PictureHands(frame, session)
        self._clipboard = ClipboardHands(session, self.caret, self.presenter, self.surfaces, self._pictures)
        self._travel = WindowDrag(self, self.caret, self._travelling)
        self.setAcceptDrops(True)
        self.setObjectName("overlay")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAccessibleName(tr("The colleague’s window: type to put something at the caret"))

    @property
    def hint(self) -> str:
        """One line at the caret."""
        return self.shown.hint

    @hint.setter
    def hint(self, words: str) -> None:
        self.shown.hint = words
        self.update()

    def redrawn(self) -> None:
        """The frame shows another outcome: find the caret's place again."""
        self.caret.use(self._frame.insertion_points())
        seen = self._frame.outcome
        if self.caret.held is not None and (seen is None or not seen.is_surface(self.caret.held)):
            self.caret.leave()
        tabs = self._frame.tab_rects()
        self.hidden.refresh(seen, self._frame.strip_rect(), tabs[-1][1] if tabs else QRect())
        self.update()

    def _docking(self, point: QPoint) -> Docking:
        target = self._tools.docking(point)
        return target.edge or "float", target.at

    def open_word(self, identity: str, word: str) -> None:
        """Ask for the card of an item, and for what this word of it opens."""
        self.opens_word.emit(identity, word)

    def write_steps(self, identity: str) -> None:
        """Ask for the private steps of a control."""
        self.writes_steps.emit(identity)

    def open_card(self, identity: str) -> None:
        """Open the card of an item or a surface."""
        self.opens.emit(identity)

    def open_past(self) -> None:
        """Ask for the points of what was, of what is held or chosen."""
        self.past.emit()

    def pin(self, menu: str, at: QPoint) -> None:
        """Have a right-click menu stay open at a place; an empty name closes it."""
        self._frame.sheets.pin_menu(menu, at)
        self.redrawn()
        if menu:
            slots = [slot for slot in self.caret.slots if slot.surface == menu]
            self.caret.put(slots[-1])
        self.setFocus()
        self.caret_moved()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        shown = self.shown
        shown.layer = self._session.aim.layer
        shown.hover, shown.dragging = self._pointer.hover, self._pointer.dragging
        shown.band, shown.ground = self._pointer.band, self._pointer.ground
        shown.placing = self._pointer.placing
        shown.target, shown.near = self._tools.target, self._tools.near
        shown.keys = self.hasFocus() or bool(self.typed)
        paint_overlay(QPainter(self), self._frame, shown)

    def caret_moved(self) -> None:
        """Tell that the caret, the selection or what is held is elsewhere."""
        self._rests.leave()
        self._show_submenu()
        self.hint = ""
        self._offer_kinds()
        self.moved.emit()
        self.update()

    def _show_submenu(self) -> None:
        """The submenu that is chosen, or that the caret stands in, is open; no other is."""
        seen, slot = self._frame.outcome, self.caret.slot()
        if seen is None or not self._frame.sheets.pinned_menu:
            return
        chosen = self.caret.selected or ([self.caret.held] if self.caret.held else [])
        item = seen.item(chosen[-1]) if chosen else None
        here = item.id if isinstance(item, SeenSubmenu) else slot.surface if slot is not None else ""
        self._frame.sheets.open_submenu(here if isinstance(seen.item(here), SeenSubmenu) else "")
        self.caret.use(self._frame.insertion_points())

    # The mouse

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        if self.looking_back:
            self.compared.emit()
            return
        point = event.position().toPoint()
        self.stop_typing()
        left = event.button() == Qt.MouseButton.LeftButton
        if left and (plus := self._tools.plus_at(point)) is not None:
            self._begin_new(plus)
            return
        if left and (rest := self._rests.at(point)) is not None:
            self._rests.turn(rest)
            self.caret_moved()
            return
        if left and self._tools.press(point):
            # The eyes are on it: the caret does not stay where they no longer are.
            if self._frame.outcome is not None and self.caret.held is not None:
                if self._frame.outcome.tab(self.caret.held) is not None:
                    self._frame.choose_tab(self.caret.held)
            self.caret_moved()
            return
        if not left:
            return
        self._pointer.press(point, event.modifiers(), left)
        self.caret_moved()

    def _begin_new(self, plus: Plus) -> None:
        """Begin a tab, a bar or a panel where a plus was clicked, ready to be named."""
        if plus.kind == "tab":
            self._name_new(self.surfaces.new_tab(plus.after))
            return
        menu = self._menus.for_edge(
            lambda: self._name_new(self.surfaces.new_bar(plus.edge)),
            lambda: self._name_new(self.surfaces.new_panel(plus.edge)),
        )
        menu.show_at(self.mapToGlobal(plus.box.bottomLeft()))

    def _name_new(self, made: str | None) -> None:
        """Hold what has just begun, and have it named."""
        if made is None:
            return
        if self._frame.outcome is not None and self._frame.outcome.tab(made) is not None:
            self._frame.choose_tab(made)
        self.redrawn()
        self.caret.hold(made)
        self.rename(made)

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        assert event is not None
        if self.looking_back:
            return
        self._open_menu(event.pos(), event.globalPos())
        event.accept()

    def _open_menu(self, point: QPoint, there: QPoint) -> None:
        """What can be done with what is there: with an item, a surface, or the document."""
        seen = self._frame.outcome
        if seen is None:
            return
        button = self._pointer.button_at(point)
        thing = self._tools.thing_at(point)
        if button is not None:
            if button.item.id not in self.caret.selected:
                row = seen.row_of(button.item.id)
                self.caret.select(row.id if row is not None else "", button.item.id)
            menu = self._menus.for_items(list(self.caret.selected), seen)
        elif thing is not None and thing[0] != "menu":
            self.caret.hold(thing[1])
            menu = self._menus.for_surface(
                thing[1], seen, partial(self._held.new_behind, thing[1], self.rename)
            )
        elif self._frame.centre_rect().contains(point) and seen.menus:
            menu = self._menus.for_document(point, seen, self._frame.sheets.pinned_menu)
        else:
            return
        self.caret_moved()
        menu.show_at(there)

    def _menu_by_key(self) -> None:
        """The same for what is chosen or held; for the document when nothing is."""
        chosen = self.caret.selected or ([self.caret.held] if self.caret.held else [])
        box = self.box_of(chosen[-1]) if chosen else None
        point = box.center() if box is not None else self._frame.centre_rect().center()
        self._open_menu(point, self.mapToGlobal(point))

    def enter(self, surface: str) -> None:
        """Put the caret into a bar, group or panel, at its end."""
        self._held.enter(surface, last=True)
        self.caret_moved()

    def box_of(self, identity: str) -> QRect | None:
        """Where a thing's name or handle is, or the thing itself."""
        frame = self._frame
        named = dict(frame.head_rects()) | dict(frame.panel_heads()) | dict(frame.floating_heads())
        named |= dict(handles(frame))
        return named.get(identity) or self._frame.rect_of(identity)

    def _travelling(self, things: Sequence[str]) -> QMimeData | None:
        return (
            self._clipboard.data_of(things, self._frame.outcome) if self._frame.outcome is not None else None
        )

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        assert event is not None
        if not self._travel.comes(event) and holds_picture(there(event.mimeData())):
            event.accept()

    def dragMoveEvent(self, event: QDragMoveEvent | None) -> None:
        assert event is not None
        if self._travel.comes(event):
            self.update()
        else:
            self._pictures.comes(event)

    def dropEvent(self, event: QDropEvent | None) -> None:
        assert event is not None
        if self._travel.comes(event):
            self._pasted(self._clipboard.take(event.mimeData()))
        else:
            self._pictures.drop(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        point = event.position().toPoint()
        dragged = self._tools.dragged() or self._pointer.dragged()
        if self._travel.leaves(event.globalPosition().toPoint(), dragged):
            self._tools.let_go()
            self._pointer.let_go()
            self.update()
            return
        if self._tools.move(point):
            self.setCursor(Qt.CursorShape.ClosedHandCursor)
        else:
            self.setCursor(self._pointer.move(point))
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self._tools.release()
        self._pointer.release(event.position().toPoint())
        self.setCursor(Qt.CursorShape.ArrowCursor)
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        point = event.position().toPoint()
        button = self._pointer.button_at(point)
        if button is not None:
            self.opens.emit(button.item.id)
            return
        thing = self._tools.thing_at(point)
        if thing is not None and thing[0] != "menu":
            self.rename(thing[1])

    def leaveEvent(self, _event: QEvent | None) -> None:
        self._pointer.hover = None
        self._tools.near = None
        self.update()

    # The keyboard

    def event(self, event: QEvent | None) -> bool:
        assert event is not None
        # Tab walks over the surfaces; it would else leave the stage.
        if event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            if event.key() in (Qt.Key.Key_Tab, Qt.Key.Key_Backtab) and not self.typed and self.caret.slots:
                self.caret.held = None
                if (meaning := meaning_of(event.key(), event.modifiers())) is not None:
                    self._do(meaning)
                    return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key = event.key()
        for_list = (Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Return, Qt.Key.Key_Enter)
        if (self.typed or self.listing) and key in for_list:
            self.candidate.emit(key)
            return
        meaning = meaning_of(key, event.modifiers())
        if self.typed and meaning is Meaning.TAKE_BEFORE:
            self._type(self.typed[:-1])
        elif self.typed and event.text() == " ":
            self._type(self.typed + " ")
        elif meaning is not None and (not self.typed or meaning is Meaning.GIVE_UP):
            if not (event.isAutoRepeat() and meaning in ONCE):
                self._do(meaning)
        elif event.text() and event.text().isprintable() and not self._commands(event):
            self._character(event.text())
        else:
            super().keyPressEvent(event)

    @staticmethod
    def _commands(event: QKeyEvent) -> bool:
        held = event.modifiers()
        control = bool(held & Qt.KeyboardModifier.ControlModifier)
        return control != bool(held & Qt.KeyboardModifier.AltModifier)

    def _do(self, meaning: Meaning) -> None:
        if self.caret.held is not None:
            meaning = {Meaning.ROW_BACK: Meaning.BACK, Meaning.ROW_FORTH: Meaning.FORTH}.get(meaning, meaning)
        chosen = self.caret.chosen()
        on_grid = self.caret.held is None and self._grid.panel_of(chosen) is not None
        cells = ON_THE_GRID.get(meaning) if on_grid else None
        meaning = OFF_THE_GRID.get(meaning, meaning) if cells is None else meaning
        step = _STEPS.get(meaning)
        if self.looking_back and meaning is not Meaning.COMPARE:
            self.compared.emit()
        elif (
            meaning is not Meaning.PAST
            and self.caret.held is not None
            and self._held.do(meaning, self.rename, self.open_card)
        ):
            self.redrawn()
            if meaning is not Meaning.OPEN:
                self.caret_moved()
        elif meaning is Meaning.OUTWARD:
            self._held.outward()
            self.caret_moved()
        elif meaning is Meaning.INWARD and self._frame.sheets.pinned_menu:
            for thing in chosen[-1:]:
                self.caret.selected = [thing]
                self._show_submenu()
                self._held.enter(thing, last=False)
            self.caret_moved()
        elif meaning is Meaning.MENU:
            self._menu_by_key()
        elif meaning is Meaning.HIDDEN:
            self.hidden.open()
        elif meaning is Meaning.COMPARE:
            self.compared.emit()
        elif meaning is Meaning.PAST:
            self.past.emit()
        elif step is not None:
            if meaning is Meaning.FORTH and self._rests.go_in():
                self.caret_moved()
            else:
                step(self)
        elif cells is not None:
            self._grid.nudge(chosen, *cells)
        elif meaning in SIZES:
            if not on_grid:
                self._session.say(tr("Only what stands on a panel’s free grid is sized in cells."))
            self._grid.resize(chosen, *SIZES[meaning])
        elif meaning in (Meaning.SHIFT_BACK, Meaning.SHIFT_FORTH):
            for thing in self.caret.chosen()[:1]:
                self.presenter.shift(thing, 1 if meaning is Meaning.SHIFT_FORTH else -1)
        elif meaning is Meaning.TAKE_BEFORE:
            self._take_off(self.caret.chosen())
        elif meaning is Meaning.TAKE_BEHIND:
            behind = self.caret.behind()
            self._take_off(self.caret.selected or ([behind] if behind else []))
        elif meaning is Meaning.RENAME:
            self._rename_here()
        elif meaning in (Meaning.COPY, Meaning.CUT):
            if self._frame.outcome is not None:
                self._clipboard.copy(self._frame.outcome, cut=meaning is Meaning.CUT)
                self.update()
        elif meaning is Meaning.PASTE:
            self._paste()
        elif meaning is Meaning.OPEN:
            for thing in self.caret.chosen()[-1:]:
                self.opens.emit(thing)
        elif meaning is Meaning.OWN_STEPS:
            for thing in self.caret.chosen()[-1:]:
                self.write_steps(thing)
        elif meaning is Meaning.SHOW_ALL:
            if self.presenter.slot() is not None:
                self.all_wanted.emit()
        else:
            self._give_up()

    def _give_up(self) -> None:
        if self.typed or self.listing:
            self._type("")
        elif self.caret.selected:
            self.caret.selected = []
        elif self._rests.close():
            pass
        elif self._frame.sheets.pinned_menu:
            self.pin("", QPoint())
            self.caret.leave()
        self.caret_moved()

    def _character(self, text: str) -> None:
        if self.looking_back:
            self.compared.emit()
            return
        slot = self.presenter.slot()
        if slot is None:
            return
        if not self.typed and text in BY_CHARACTER and self._on_panel():
            self.begin_kind(text)
        elif not self.typed and text == ">" and self._in_menu():
            self.begin_submenu()
        elif text == "|" and not self.typed and not slot.new_group:
            self.presenter.put_separator()
            self.update()
        else:
            self._type(self.typed + text)

    def _on_panel(self) -> bool:
        """Whether the caret stands on a panel."""
        slot, seen = self.caret.slot(), self._frame.outcome
        return slot is not None and seen is not None and isinstance(seen.row(slot.surface), SeenPanel)

    def _in_menu(self) -> bool:
        """Whether the caret stands in a right-click menu."""
        slot, seen = self.caret.slot(), self._frame.outcome
        return slot is not None and seen is not None and isinstance(seen.row(slot.surface), SeenMenu)

    def begin_submenu(self) -> None:
        """Ask for the name of a submenu, and put it into the menu at the caret, which goes into it."""
        slot = self.presenter.slot()
        if slot is None:
            return

        def enter(text: str, by_key: bool) -> None:
            made = self.presenter.put_submenu(text or tr("More")) if text or by_key else None
            self.redrawn()
            if made is not None:
                self.caret.select(slot.surface, made)
                self._show_submenu()
                self._held.enter(made, last=False)
            self.caret_moved()

        self._naming.at_caret(slot.caret, tr("More"), enter)

    def begin_kind(self, begins: str) -> None:
        """Ask for the words of what a character begins, and put it on the panel at the caret."""
        slot = self.presenter.slot()
        if slot is None or begins == LINE:
            self.presenter.put_separator()
            self.update()
            return

        def enter(text: str, by_key: bool) -> None:
            if text or by_key:
                self.presenter.put_control(begins, text)
            self.redrawn()
            self.caret_moved()

        self.kinds.hide()
        self._naming.at_caret(slot.caret, BY_CHARACTER[begins].first, enter)

    def _offer_kinds(self) -> None:
        """The strip of kinds, while the caret stands on a panel and nothing has been typed."""
        slot = self.caret.slot()
        if slot is not None and not self.typed and not self.listing and self.hasFocus() and self._on_panel():
            self.kinds.show_at(slot.caret, self.rect())
        else:
            self.kinds.hide()

    def _type(self, text: str) -> None:
        self.typed = text
        self.hint = ""
        self._offer_kinds()
        self.typing.emit(text)
        self.update()

    def stop_typing(self) -> None:
        """Forget what was typed, and close the list."""
        if self.typed or self.listing:
            self._type("")

    def step_tab(self, by: int) -> None:
        """Open the next tab; the caret goes along, to its beginning."""
        seen = self._frame.outcome
        tabs = [tab.id for tab in seen.tabs] if seen is not None else []
        if self._frame.open_tab in tabs:
            self._frame.choose_tab(tabs[(tabs.index(self._frame.open_tab) + by) % len(tabs)])
            self.to_page()

    def to_page(self) -> None:
        rows = {name for name, _ in self._frame.head_rects()} | {self._frame.open_tab}
        slots = [slot for slot in self.caret.slots if slot.surface in rows]
        first = next((slot for slot in slots if not slot.new_group), slots[0] if slots else None)
        if first is None:
            self.caret.leave()
        else:
            self.caret.put(first)
        self.caret_moved()

    def _take_off(self, things: list[str]) -> None:
        if self.caret.selected or self.presenter.slot() is not None:
            self.presenter.take_off(things)
            self.update()

    def _paste(self) -> None:
        self._pasted(self._clipboard.paste())

    def _pasted(self, foreign: Copied | None) -> None:
        if foreign is not None:
            self.foreign.emit(foreign)
        else:
            self.redrawn()
            self.caret_moved()

    # Names in place

    def _rename_here(self) -> None:
        chosen = self.caret.chosen()
        slot = self.presenter.slot()
        if chosen:
            self.rename(chosen[-1])
        elif slot is not None:
            self.rename(slot.surface)

    def rename(self, identity: str) -> None:
        """Edit a thing's words where it stands."""
        self._naming.close()
        box = self.box_of(identity)
        seen = self._frame.outcome
        if box is None or box.isNull() or seen is None:
            return
        item = seen.item(identity)
        now = seen.title_of(identity)
        what = "title"
        if isinstance(item, SeenControl):
            now, what = item.caption, item.kind
        elif isinstance(item, SeenButton):
            now, what = item.label, "label"
        elif isinstance(item, SeenSubmenu):
            now, what = item.title, "submenu"

        def enter(text: str, by_key: bool) -> None:
            called = self.surfaces.call_panel(identity, text) if text != now else None
            if called is not None:
                self.redrawn()
                self.caret.hold(called)
            done = called is not None or self.presenter.rename(identity, what, now, text)
            if done and (unseen := said_of_unseen(text, font(13))):
                self._session.say(unseen)
            if by_key:
                self.named.emit(called or identity)
            self.update()

        self._naming.over_thing(box, now, enter)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        assert event is not None
        super().focusInEvent(event)
        if event.reason() in (Qt.FocusReason.TabFocusReason, Qt.FocusReason.BacktabFocusReason):
            if self.caret.slot() is None and self.caret.slots:
                self.caret.put(self.caret.slots[0])
        self.update()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.update()


def _walk(step: Callable[[Caret], None]) -> Callable[[Overlay], None]:
    def do(overlay: Overlay) -> None:
        step(overlay.caret)
        overlay.caret_moved()

    return do


_STEPS: dict[Meaning, Callable[[Overlay], None]] = {
    Meaning.BACK: _walk(lambda caret: caret.step(-1)),
    Meaning.FORTH: _walk(lambda caret: caret.step(1)),
    Meaning.ROW_BACK: _walk(lambda caret: caret.step(-1, rows=True)),
    Meaning.ROW_FORTH: _walk(lambda caret: caret.step(1, rows=True)),
    Meaning.SELECT_BACK: _walk(lambda caret: caret.step(-1, selecting=True)),
    Meaning.SELECT_FORTH: _walk(lambda caret: caret.step(1, selecting=True)),
    Meaning.TO_START: _walk(lambda caret: caret.to_end(False)),
    Meaning.TO_END: _walk(lambda caret: caret.to_end(True)),
    Meaning.SELECT_TO_START: _walk(lambda caret: caret.to_end(False, selecting=True)),
    Meaning.SELECT_TO_END: _walk(lambda caret: caret.to_end(True, selecting=True)),
    Meaning.NEXT_SURFACE: _walk(lambda caret: caret.jump(1)),
    Meaning.SURFACE_BEFORE: _walk(lambda caret: caret.jump(-1)),
    Meaning.NEXT_TAB: lambda overlay: overlay.step_tab(1),
    Meaning.TAB_BEFORE: lambda overlay: overlay.step_tab(-1),
}
