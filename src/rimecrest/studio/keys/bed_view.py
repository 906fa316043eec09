"""The key bed: the whole keyboard as child widgets, each of which a screen reader can name.

It draws what it is given, `CapState` by key, and tells what somebody did with a key; it knows no workspace.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping

from PyQt6.QtCore import QMimeData, QPoint, QPointF, QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QBrush,
    QDrag,
    QDragEnterEvent,
    QDropEvent,
    QFontMetrics,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PyQt6.QtWidgets import QAbstractButton, QWidget

from rimecrest.core.check import Weight
from rimecrest.core.explain.bed_state import HELD_KEYS, PRINTED, CapState
from rimecrest.core.keys.keyboards import Cap, Geometry
from rimecrest.core.layout import BUILT_IN
from rimecrest.shell.theme import Scheme, bold, font
from rimecrest.studio.shared.marks import SIGNS, draw_owner, notched

GAP = 3
PADDING = 8
READABLE = 30
"""Pixels of a cap's room under which no word of it could be read."""
SHORT = {
    "Home": "Hm",
    "PgUp": "P↑",
    "PgDn": "P↓",
    "Super": "Su",
    "Menu": "≡",
    "AltGr": "AG",
    "Pau": "Pa",
    "Prt": "Pr",
    "Scr": "Sc",
    "End": "En",
    "Ins": "In",
    "Del": "De",
    "Caps": "Ca",
    "F10": "10",
    "F11": "11",
    "F12": "12",
}
"""What is printed on a cap, where the whole of it has no room."""
_SAVED = 0.6
"""Key heights that are saved between the function row and the digits."""
TARGET = "application/x-rimecrest-target"
"""What is dragged: a command's or macro's id, and behind a tab the sequence it comes from."""


class KeyCap(QAbstractButton):
    """One key. Its accessible name says what it does, its marks in words as well."""

    wanted = pyqtSignal()
    dropped = pyqtSignal(str)

    def __init__(self, cap: Cap, scheme: Scheme, parent: KeyBed) -> None:
        super().__init__(parent)
        self.cap = cap
        self.state = CapState(cap.key, "")
        self.mine = False
        self.down = False
        self.rank = 0
        self._scheme = scheme
        self._from: QPoint | None = None
        self.setObjectName(f"key-{cap.key}")
        self.setFocusPolicy(Qt.FocusPolicy.ClickFocus)
        self.setAcceptDrops(True)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)

    def show_state(self, state: CapState, mine: bool, down: bool, rank: int) -> None:
        if (state, mine, down, rank) == (self.state, self.mine, self.down, self.rank) and self.text():
            return
        self.state, self.mine, self.down, self.rank = state, mine, down, rank
        self.setText(state.legend or self.cap.key)
        self.setAccessibleName(self._in_words())
        self.setToolTip(self._in_words() if state.keys or state.taken else "")
        self.update()

    def _in_words(self) -> str:
        state = self.state
        if self.cap.key in HELD_KEYS:
            return f"{HELD_KEYS[self.cap.key]}, {'held' if self.down else 'not held'}"
        parts = [state.keys or state.legend or self.cap.key]
        if state.words:
            parts.append(state.words)
        if state.opens:
            parts.append(f"opens {state.opens} sequences")
        if state.taken:
            parts.append(f"taken by {state.taken}")
        if state.missing:
            parts.append(f"not on {', '.join(state.missing)}")
        if state.finding:
            parts.append(f"{state.finding.weight.value}: {state.finding.sentence}")
        if self.rank:
            parts.append(f"suggestion {self.rank}")
        if state.free:
            parts.append("free")
        return ": ".join([parts[0], "; ".join(parts[1:])]) if len(parts) > 1 else parts[0]

    def keyPressEvent(self, event: QKeyEvent) -> None:
        # What a key means here is the bed's affair: it may be held, or a step to the next cap.
        event.ignore()

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        event.ignore()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._from = event.position().toPoint()
        super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._from is None or not self.state.run:
            return
        if (event.position().toPoint() - self._from).manhattanLength() > 8:
            self._from = None
            self.setDown(False)
            data = QMimeData()
            data.setData(TARGET, f"{self.state.run}\t{self.state.keys}".encode())
            drag = QDrag(self)
            drag.setMimeData(data)
            drag.setPixmap(self.grab())
            drag.exec(Qt.DropAction.MoveAction)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self.wanted.emit()

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasFormat(TARGET) and self.state.keys:
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        event.acceptProposedAction()
        self.dropped.emit(event.mimeData().data(TARGET).data().decode())

    # Drawing

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme, state = self._scheme, self.state
        box = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        marked = state.weight if state.weight in (Weight.BLOCKS, Weight.ASKS) else None
        path = notched(box, 13, 4) if marked else _rounded(box)
        painter.setPen(self._outline(marked))
        painter.setBrush(self._ground(marked))
        painter.drawPath(path)
        if state.taken and not state.words:
            painter.fillPath(path, QBrush(scheme.color("faint"), Qt.BrushStyle.BDiagPattern))
        self._paint_owner(painter, box)
        if marked:
            painter.setPen(scheme.color(marked.value))
            painter.setFont(bold(12))
            painter.drawText(
                QRectF(box.right() - 13, box.top() + 10, 12, 16), Qt.AlignmentFlag.AlignCenter, SIGNS[marked]
            )
        self._paint_words(painter, box, bool(marked))
        if self.rank:
            self._paint_rank(painter, box)
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(scheme.color("crest"), 2))
            painter.drawRoundedRect(box.adjusted(2, 2, -2, -2), 3, 3)

    def _outline(self, marked: Weight | None) -> QPen:
        token = marked.value if marked else "faint"
        pen = QPen(self._scheme.color(token), 1)
        if self.state.missing:
            pen.setStyle(Qt.PenStyle.DashLine)
        return pen

    def _ground(self, marked: Weight | None) -> QBrush:
        scheme = self._scheme
        if self.cap.key in HELD_KEYS:
            return QBrush(scheme.color("crest" if self.down else "spine"))
        if not self.state.keys:
            return QBrush(scheme.color("spine"))
        if marked:
            return QBrush(scheme.color(f"{marked.value}_tint"))
        return QBrush(scheme.color("hover" if self.underMouse() else "sheet"))

    def _paint_owner(self, painter: QPainter, box: QRectF) -> None:
        if not self.state.words or self.state.layer == BUILT_IN:
            return
        draw_owner(painter, self._scheme, box, self.mine)

    def _paint_words(self, painter: QPainter, box: QRectF, marked: bool) -> None:
        scheme, state = self._scheme, self.state
        ink = "on_crest" if self.down and self.cap.key in HELD_KEYS else "ink2"
        painter.setPen(scheme.color(ink))
        painter.setFont(bold(11))
        legend = PRINTED.get(self.cap.key, state.legend or "")
        room = box.adjusted(7, 3, -2, -4)
        if painter.fontMetrics().horizontalAdvance(legend) > room.width():
            legend = SHORT.get(legend, legend)
        painter.drawText(room, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop, legend)
        words = state.words or (f"{state.opens} more …" if state.opens else "")
        if not words or room.width() < READABLE:
            # Too narrow for a word: whose it is and what is wrong still show, and the sheet says the rest.
            return
        painter.setPen(scheme.color("ink"))
        painter.setFont(font(11))
        lines = _broken(words, QFontMetrics(font(11)), int(room.width()), 3 if box.height() > 50 else 1)
        line = 12
        top = box.bottom() - 5 - line * len(lines)
        short = box.height() <= 50
        for index, text in enumerate(lines):
            where = QRectF(room.left(), top + index * line, room.width() + 2, line + 1)
            align = Qt.AlignmentFlag.AlignRight if short else Qt.AlignmentFlag.AlignLeft
            painter.drawText(where, align | Qt.AlignmentFlag.AlignVCenter, text)

    def _paint_rank(self, painter: QPainter, box: QRectF) -> None:
        circle = QRectF(box.right() - 21, box.top() + 4, 17, 17)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._scheme.color("crest"))
        painter.drawEllipse(circle)
        painter.setPen(self._scheme.color("on_crest"))
        painter.setFont(bold(11))
        painter.drawText(circle, Qt.AlignmentFlag.AlignCenter, str(self.rank))


def _rounded(box: QRectF) -> QPainterPath:
    path = QPainterPath()
    path.addRoundedRect(box, 4, 4)
    return path


def _broken(words: str, metrics: QFontMetrics, room: int, most: int) -> list[str]:
    """Words in at most that many lines, broken at blanks; a word that is too long ends in …."""
    lines: list[str] = []
    now = ""
    for word in words.split():
        wider = f"{now} {word}".strip()
        if metrics.horizontalAdvance(wider) <= room:
            now = wider
            continue
        if now:
            lines.append(now)
        now = word
        # A name broken inside a word is read as two.
        now = metrics.elidedText(now, Qt.TextElideMode.ElideRight, room)
    lines.append(now)
    if len(lines) > most:
        lines = lines[:most]
        lines[-1] = metrics.elidedText(lines[-1] + "…", Qt.TextElideMode.ElideRight, room)
        if not lines[-1].endswith("…"):
            lines[-1] = lines[-1][:-1] + "…"
    return lines


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
    held = pyqtSignal(object)
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
        self.setAccessibleName("Key bed")
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

    def keyPressEvent(self, event: QKeyEvent) -> None:
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

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
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

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._arrange()

    def sizeHint(self) -> QSize:
        return QSize(880, 372)

    def _arrange(self) -> None:
        if self._geometry is None:
            return
        for cap in self.caps.values():
            cap.setGeometry(self._box(cap.cap))

    def middle(self, key: str) -> QPointF | None:
        """The middle of a cap, in the bed's pixels."""
        cap = self.caps.get(key)
        return QRectF(cap.geometry()).center() if cap else None

    def paintEvent(self, _event: QPaintEvent) -> None:
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


class MovesOverlay(QWidget):
    """The moves of an arrangement, drawn over the bed as arrows from key to key."""

    def __init__(self, bed: KeyBed, scheme: Scheme) -> None:
        super().__init__(bed)
        self._bed = bed
        self._scheme = scheme
        self._moves: list[tuple[str, str]] = []
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.hide()

    def show_moves(self, moves: list[tuple[str, str]]) -> None:
        """Draw arrows between physical keys; an empty list draws none."""
        self._moves = moves
        self.setGeometry(self._bed.rect())
        self.setVisible(bool(moves))
        self.raise_()
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self._scheme.color("crest"), 2))
        for before, after in self._moves:
            start, end = self._bed.middle(before), self._bed.middle(after)
            if start is None or end is None:
                continue
            bend = QPointF((start.x() + end.x()) / 2, min(start.y(), end.y()) - 26)
            path = QPainterPath(start)
            path.quadTo(bend, end)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPath(path)
            painter.setBrush(self._scheme.color("crest"))
            painter.drawEllipse(end, 4, 4)
            painter.setBrush(self._scheme.color("sheet"))
            painter.drawEllipse(start, 3, 3)
