"""One key of the bed: what is printed on it, what it runs, whose that is, what is wrong with it."""

from __future__ import annotations

from PyQt6.QtCore import QMimeData, QPoint, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import (
    QBrush,
    QDrag,
    QDragEnterEvent,
    QDropEvent,
    QFont,
    QFontMetrics,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
)
from PyQt6.QtWidgets import QAbstractButton, QWidget

from rimecrest.core.check.kinds import Weight
from rimecrest.core.explain.bed_state import HELD_KEYS, PRINTED, CapState
from rimecrest.core.keys.keyboards.geometry import Cap
from rimecrest.core.layout.seen import BUILT_IN
from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme, bold, font
from rimecrest.shell.there import there
from rimecrest.studio.shared.marks import SIGNS, draw_owner, notched

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
WIDTHS = (100, 87, 75)
"""How wide the letters of a command may be drawn, in percent: below three quarters they are hard to read."""
TARGET = "application/x-rimecrest-target"
"""What is dragged: a command's or macro's id, and behind a tab the sequence it comes from."""


class KeyCap(QAbstractButton):
    """One key. Its accessible name says what it does, its marks in words as well."""

    wanted = pyqtSignal()
    dropped = pyqtSignal(str)

    def __init__(self, cap: Cap, scheme: Scheme, parent: QWidget) -> None:
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
            parts.append(tr("opens {opens} sequences", opens=state.opens))
        if state.taken:
            parts.append(tr("taken by {taken}", taken=state.taken))
        if state.missing:
            parts.append(tr("not on {missing}", missing=", ".join(state.missing)))
        if state.finding:
            parts.append(f"{state.finding.weight.word}: {state.finding.sentence}")
        if self.rank:
            parts.append(tr("suggestion {rank}", rank=self.rank))
        if state.free:
            parts.append(tr("free"))
        return ": ".join([parts[0], "; ".join(parts[1:])]) if len(parts) > 1 else parts[0]

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        # What a key means here is the bed's affair: it may be held, or a step to the next cap.
        event.ignore()

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        event.ignore()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self._from = event.position().toPoint()
        super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
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

    def mouseDoubleClickEvent(self, _event: QMouseEvent | None) -> None:
        self.wanted.emit()

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        assert event is not None
        if there(event.mimeData()).hasFormat(TARGET) and self.state.keys:
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        assert event is not None
        event.acceptProposedAction()
        self.dropped.emit(there(event.mimeData()).data(TARGET).data().decode())

    # Drawing

    def paintEvent(self, _event: QPaintEvent | None) -> None:
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
        self._paint_words(painter, box)
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

    def _paint_words(self, painter: QPainter, box: QRectF) -> None:
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
        lines, face = _fitted(words, int(room.width()), 3 if box.height() > 50 else 1)
        painter.setFont(face)
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


def _fitted(words: str, room: int, most: int) -> tuple[list[str], QFont]:
    """Words in lines, in the widest face in which all of them are whole; in the narrowest when none does."""
    lines: list[str] = []
    face = font(11)
    for width in WIDTHS:
        face.setStretch(width)
        lines = _broken(words, QFontMetrics(face), room, most)
        if not any(line.endswith("…") for line in lines):
            break
    return lines, face


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
