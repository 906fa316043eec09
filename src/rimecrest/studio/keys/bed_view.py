"""The key bed: the whole keyboard as child widgets, each of which a screen reader can name.

It draws what it is given, `CapState` by key, and tells what somebody did with a key; it knows no workspace.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping

from PyQt6.QtCore import QPointF, QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QWidget

from rimecrest.core.explain.bed_state import HELD_KEYS, CapState
from rimecrest.core.keys.keyboards.geometry import Cap, Geometry
from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme
from rimecrest.studio.keys.key_cap import KeyCap

GAP = 3
PADDING = 8
_SAVED = 0.6
"""Key heights that are saved between the function row and the digits."""


class KeyBed(QWidget):
    """The caps of one keyboard.

    Arrow keys walk over them; Ctrl, Shift, Alt and Super on the real keyboard are held as long as they are
    held there, a click on their caps holds them until the next.

    Signals:
        chosen(key): a cap has come to the fore, by click or arrow.
        wanted(key): Enter or a double click on it.
        held(names): other modifiers are held.
        dropped(key, what): a target was dropped on it.
        typed(text): a letter was typed at a cap.
        back: Backspace, which leaves an opener.
    """

    chosen = pyqtSignal(str)
    wanted = pyqtSignal(str)
    held = pyqtSignal(frozenset)
    dropped = pyqtSignal(str, str)
    typed = pyqtSignal(str)
    removed = pyqtSignal(str)
    back = pyqtSignal()

    _REAL = {
        Qt.Key.Key_Control: "Ctrl",
        Qt.Key.Key_Shift: "Shift",
        Qt.Key.Key_Alt: "Alt",
        Qt.Key.Key_Meta: "Super",
        Qt.Key.Key_Super_L: "Super",
    }

    def __init__(self, scheme: Scheme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._scheme = scheme
        self.setObjectName("key-bed")
        self.setAccessibleName(tr("Key bed"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._geometry: Geometry | None = None
        self.caps: dict[str, KeyCap] = {}
        self._sticky: frozenset[str] = frozenset()
        self._really: frozenset[str] = frozenset()
        self.current = ""

    @property
    def modifiers(self) -> frozenset[str]:
        """The modifiers that are held, on the real keyboard or by a click."""
        return self._sticky | self._really

    def hold(self, names: frozenset[str]) -> None:
        """Hold these by click, and no others."""
        self._sticky = names
        self.held.emit(self.modifiers)

    def show_keyboard(
        self,
        geometry: Geometry,
        states: Mapping[str, CapState],
        mine: Callable[[CapState], bool],
        ranks: Mapping[str, int],
    ) -> None:
        """Show a keyboard: what each key says, which are the layer's own, which are suggested."""
        if geometry is not self._geometry:
            self._geometry = geometry
            for cap in self.caps.values():
                cap.hide()
                cap.deleteLater()
            self.caps = {}
            for key, place in geometry.caps.items():
                made = KeyCap(place, self._scheme, self)
                made.clicked.connect(lambda _=False, key=key: self._clicked(key))
                made.wanted.connect(lambda key=key: self.wanted.emit(key))
                made.dropped.connect(lambda what, key=key: self.dropped.emit(key, what))
                made.show()
                self.caps[key] = made
            if self.current not in self.caps:
                self.current = ""
            self._arrange()
        for key, cap in self.caps.items():
            state = states[key]
            down = HELD_KEYS.get(key) in self.modifiers
            cap.show_state(state, mine(state), down, ranks.get(state.keys, 0))

    def choose(self, key: str) -> None:
        """Bring a cap to the fore."""
        if key in self.caps:
            self.current = key
            self.caps[key].setFocus()
            self.chosen.emit(key)

    def _clicked(self, key: str) -> None:
        name = HELD_KEYS.get(key)
        if name is not None:
            self.hold(self._sticky ^ {name})
        else:
            self.choose(key)

    # The real keyboard

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key = Qt.Key(event.key()) if event.key() in _KNOWN else None
        if key in self._REAL:
            self._really |= {self._REAL[key]}
            self.held.emit(self.modifiers)
        elif key in _STEPS and not event.modifiers() & _HOLDING:
            self._step(*_STEPS[key])
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.current:
            self.wanted.emit(self.current)
        elif key is Qt.Key.Key_Backspace:
            self.back.emit()
        elif key is Qt.Key.Key_Delete and self.current:
            self.removed.emit(self.current)
        elif event.text().isprintable() and event.text().strip() and self._writes(event):
            self.typed.emit(event.text())
        else:
            super().keyPressEvent(event)

    def _writes(self, event: QKeyEvent) -> bool:
        return bool(self.current) and not event.modifiers() & _HOLDING

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key = Qt.Key(event.key()) if event.key() in _KNOWN else None
        if key in self._REAL and not event.isAutoRepeat():
            self._really -= {self._REAL[key]}
            self.held.emit(self.modifiers)
        else:
            super().keyReleaseEvent(event)

    def let_go(self) -> None:
        """Nothing is held on the real keyboard any more: the window lost it."""
        if self._really:
            self._really = frozenset()
            self.held.emit(self.modifiers)

    def focusInEvent(self, _event: object) -> None:
        self.choose(self.current or "AC01")

    def _step(self, dx: int, dy: int) -> None:
        here = self.caps.get(self.current)
        if here is None:
            self.choose("AC01")
            return
        x, y = here.cap.centre

        def far(cap: Cap) -> float:
            u, v = cap.centre
            along, across = (u - x) * dx + (v - y) * dy, abs((u - x) * dy) + abs((v - y) * dx)
            return along + 2.5 * across if along > 0.2 and across < 1.6 * along + 0.3 else 1e9

        best = min(self.caps.values(), key=lambda cap: far(cap.cap))
        if far(best.cap) < 1e9:
            self.choose(best.cap.key)

    # Places

    def _box(self, cap: Cap) -> QRect:
        """Where a cap is drawn: the function row is lower than the others, and nearer to them."""
        assert self._geometry is not None
        wide = (self.width() - 2 * PADDING) / self._geometry.width
        tall = (self.height() - 2 * PADDING) / (self._geometry.height - _SAVED)
        top, height = (cap.y * tall, 0.74) if cap.y < 1 else ((cap.y - _SAVED) * tall, cap.height)
        return QRect(
            round(PADDING + cap.x * wide),
            round(PADDING + top),
            max(round(cap.width * wide) - GAP, 8),
            max(round(height * tall) - GAP, 8),
        )

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._arrange()

    def sizeHint(self) -> QSize:
        return QSize(880, 372)

    def _arrange(self) -> None:
        if self._geometry is None:
            return
        for cap in self.caps.values():
            cap.setGeometry(self._box(cap.cap))

    def brow(self, key: str) -> QPointF | None:
        """The middle of a cap's upper edge, in the bed's pixels: what is marked there covers no word."""
        cap = self.caps.get(key)
        if cap is None:
            return None
        box = QRectF(cap.geometry())
        return QPointF(box.center().x(), box.top() + 1)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._scheme.color("line"))
        painter.drawRoundedRect(QRectF(self.rect()), 8, 8)


_STEPS = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}
_HOLDING = (
    Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier | Qt.KeyboardModifier.MetaModifier
)
_KNOWN = {key.value for key in Qt.Key}
