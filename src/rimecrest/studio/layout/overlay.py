"""What lies over the stage and takes the mouse and the keys: caret, selection, marks, preview.

It draws, and passes on what was meant: to the presenter, or as wishes to the place.
"""

from __future__ import annotations

from collections.abc import Sequence

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

from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme
from rimecrest.shell.there import there
from rimecrest.studio.layout.caret import Caret
from rimecrest.studio.layout.caret_writing import CaretWriting
from rimecrest.studio.layout.clipboard import Copied
from rimecrest.studio.layout.clipboard_hands import ClipboardHands
from rimecrest.studio.layout.grid_pointer import GridPointer
from rimecrest.studio.layout.grid_presenter import GridPresenter
from rimecrest.studio.layout.held_keys import HeldKeys
from rimecrest.studio.layout.hidden_list import HiddenWord
from rimecrest.studio.layout.key_table import ONCE, Meaning, commands, meaning_of
from rimecrest.studio.layout.kind_strip import KindStrip
from rimecrest.studio.layout.menu_hands import MenuHands
from rimecrest.studio.layout.naming import Naming
from rimecrest.studio.layout.overlay_painting import Shown, paint_overlay
from rimecrest.studio.layout.picture_hands import PictureHands
from rimecrest.studio.layout.pointer_tools import Docking, PointerTools
from rimecrest.studio.layout.presenter import StagePresenter
from rimecrest.studio.layout.renaming import Renaming
from rimecrest.studio.layout.rest_hands import RestHands
from rimecrest.studio.layout.stage_keys import StageKeys
from rimecrest.studio.layout.stage_menu import StageMenu
from rimecrest.studio.layout.surface_presenter import SurfacePresenter
from rimecrest.studio.layout.surface_tools import SurfaceTools, handles
from rimecrest.studio.layout.window_drag import WindowDrag
from rimecrest.studio.pictures.offered_data import holds_picture
from rimecrest.studio.shared.session import Session
from rimecrest.surfaces.frame import Frame


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
        menus = StageMenu(self.presenter, self.surfaces, self._grid, self, scheme, self)
        self._menu_hands = MenuHands(
            self, frame, self.caret, self.surfaces, self._pointer, self._tools, self._held, menus
        )
        self.hidden = HiddenWord(self.surfaces, scheme, self)
        self.kinds = KindStrip(scheme, self)
        self._rests = RestHands(frame, self.caret)
        self._naming = Naming(self)
        self._renaming = Renaming(
            self, session, self.caret, self._naming, self.presenter, self.surfaces, self.named.emit
        )
        self.writing = CaretWriting(
            self, frame, self.caret, self.presenter, self._held, self._naming, self.kinds
        )
        self._pictures = PictureHands(frame, session)
        self._clipboard = ClipboardHands(session, self.caret, self.presenter, self.surfaces, self._pictures)
        self.keys = StageKeys(
            self,
            frame,
            session,
            self.caret,
            self.presenter,
            self._grid,
            self._held,
            self._rests,
            self._clipboard,
        )
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
        self._tools.near = None  # the plus that the pointer was at may be elsewhere now
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

    def compare(self) -> None:
        """Turn between the last release and the draft."""
        self.compared.emit()

    def show_all(self) -> None:
        """Ask for all that can be put at the caret."""
        self.all_wanted.emit()

    def begin_submenu(self) -> None:
        """Begin a submenu in the menu at the caret."""
        self.writing.begin_submenu()

    def menu_by_key(self) -> None:
        """Open the right-click menu of what is chosen or held; of the document when nothing is."""
        self._menu_hands.open_by_key()

    def list_hidden(self) -> None:
        """Open the list of what is hidden."""
        self.hidden.open()

    def say_typed(self, text: str) -> None:
        """Tell which letters stand at the caret now."""
        self.hint = ""
        self.typing.emit(text)
        self.update()

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
        shown.keys = self.hasFocus() or bool(self.writing.typed)
        paint_overlay(QPainter(self), self._frame, shown)

    def caret_moved(self) -> None:
        """Tell that the caret, the selection or what is held is elsewhere."""
        self._rests.leave()
        self.show_submenu()
        self.hint = ""
        self.writing.offer_kinds()
        self.moved.emit()
        self.update()

    def show_submenu(self) -> None:
        """The submenu that is chosen, or that the caret stands in, is open; no other is."""
        self._held.show_submenu()

    # The mouse

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        if self.looking_back:
            self.compared.emit()
            return
        point = event.position().toPoint()
        self.writing.stop()
        left = event.button() == Qt.MouseButton.LeftButton
        if left and (plus := self._tools.plus_at(point)) is not None:
            self._menu_hands.begin_new(plus)
            return
        if left and (rest := self._rests.at(point)) is not None:
            self._rests.turn(rest)
            self.caret_moved()
            return
        if left and self._tools.press(point):
            self.caret_moved()
            return
        if not left:
            return
        self._pointer.press(point, event.modifiers(), left)
        self.caret_moved()

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        assert event is not None
        if self.looking_back:
            return
        self._menu_hands.open_at(event.pos(), event.globalPos())
        event.accept()

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
            if (
                event.key() in (Qt.Key.Key_Tab, Qt.Key.Key_Backtab)
                and not self.writing.typed
                and self.caret.slots
            ):
                self.caret.held = None
                if (meaning := meaning_of(event.key(), event.modifiers())) is not None:
                    self.keys.do(meaning)
                    return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key = event.key()
        for_list = (Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Return, Qt.Key.Key_Enter)
        typed = self.writing.typed
        if self.writing.open and key in for_list:
            self.candidate.emit(key)
            return
        meaning = meaning_of(key, event.modifiers())
        if typed and meaning is Meaning.TAKE_BEFORE:
            self.writing.type(typed[:-1])
        elif typed and event.text() == " ":
            self.writing.type(typed + " ")
        elif meaning is not None and (not typed or meaning is Meaning.GIVE_UP):
            if not (event.isAutoRepeat() and meaning in ONCE):
                self.keys.do(meaning)
        elif event.text() and event.text().isprintable() and not commands(event.modifiers()):
            if self.looking_back:
                self.compared.emit()
            else:
                self.writing.character(event.text())
        else:
            super().keyPressEvent(event)

    def give_up(self) -> None:
        """Leave what is open or chosen, one at a time."""
        if self.writing.open:
            self.writing.type("")
        elif self.caret.selected:
            self.caret.selected = []
        elif self._rests.close():
            pass
        elif self._frame.sheets.pinned_menu:
            self.pin("", QPoint())
            self.caret.leave()
        self.caret_moved()

    def paste(self) -> None:
        """Put what is on the clipboard at the caret."""
        self._pasted(self._clipboard.paste())

    def _pasted(self, foreign: Copied | None) -> None:
        if foreign is not None:
            self.foreign.emit(foreign)
        else:
            self.redrawn()
            self.caret_moved()

    def rename(self, identity: str) -> None:
        """Edit a thing's words where it stands."""
        self._renaming.begin(identity, self._frame.outcome)

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
