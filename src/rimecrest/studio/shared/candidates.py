"""What could be meant: a list of matches under what is typed."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QMouseEvent, QPainter, QPaintEvent, QWheelEvent
from PyQt6.QtWidgets import QApplication, QGraphicsDropShadowEffect, QWidget

from rimecrest.core.search import Match, spans
from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme, bold, font
from rimecrest.shell.there import there

ROW = 30
TAG = 26
LINE = 24
"""Pixels of a line of words above or below the rows."""
MOST = 10
"""Rows that are seen at once; more of them scroll."""


class Candidates(QWidget):
    """Shows the typed letters and the entries. Never takes the focus: whoever types moves `row`.

    Signals:
        taken(entry): by a click.
        put(entry): by a click with Shift held, the second thing to do with it.
        dragged(entry): it is drawn away with the button held.
        moved: another row is the chosen one.
    """

    taken = pyqtSignal(Match)
    put = pyqtSignal(Match)
    dragged = pyqtSignal(Match)
    moved = pyqtSignal()

    def __init__(self, scheme: Scheme, parent: QWidget, width: int = 360) -> None:
        super().__init__(parent)
        self._scheme = scheme
        self._width = width
        self.typed = ""
        self._tag = True
        self.caption = ""
        """A line above the rows, as when they are only the nearest to what was typed."""
        self.foot = ""
        """A line below the rows: which keys do what."""
        self.entries: list[Match] = []
        self.row = 0
        """The chosen entry; -1: none is yet."""
        self._top = 0
        self._pressed: QPoint | None = None
        self.nothing = tr("There is no such command or macro.")
        self.setObjectName("candidates")
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setMouseTracking(True)
        shadow = QGraphicsDropShadowEffect(self)
        shadow.setBlurRadius(18)
        shadow.setOffset(0, 4)
        shade = scheme.color("slate")
        shade.setAlpha(70)
        shadow.setColor(shade)
        self.setGraphicsEffect(shadow)
        self.hide()

    def offer(
        self, typed: str, entries: list[Match], at: QPoint, tag: bool = True, caption: str = ""
    ) -> None:
        """Show entries with their upper left corner there, inside the parent.

        Args:
            typed: the letters to mark in the entries.
            tag: whether to show them above as well.
            caption: a line above the rows.
        """
        self.typed, self.entries, self._tag, self.caption = typed, entries, tag and bool(typed), caption
        self.row = min(self.row, max(len(entries) - 1, 0))
        self._top = 0
        self._follow()
        self._name()
        size = self.sizeHint()
        room = there(self.parentWidget()).size()
        x = max(4, min(at.x(), room.width() - size.width() - 8))
        y = max(4, min(at.y(), room.height() - size.height() - 8))
        self.setGeometry(QRect(QPoint(x, y), size))
        self.show()
        self.raise_()
        self.update()

    def _name(self) -> None:
        now = self.entries[max(self.row, 0)].title if self.entries else self.nothing
        said = now if self.row >= 0 else tr("{now} and others", now=now)
        self.setAccessibleName(": ".join(part for part in (self.typed, self.caption, said) if part))

    def sizeHint(self) -> QSize:
        rows = min(max(len(self.entries), 1), MOST)
        foot = LINE if self.foot else 0
        return QSize(self._width, self._rows_top() + rows * ROW + 10 + foot)

    def current(self) -> Match | None:
        """The chosen entry; None where none is, or nothing is shown."""
        return self.entries[self.row] if self.entries and self.row >= 0 and not self.isHidden() else None

    def move_row(self, by: int) -> None:
        if self.entries:
            begins = self.row < 0 and by < 0
            self.row = len(self.entries) - 1 if begins else (self.row + by) % len(self.entries)
            self._follow()
            self._name()
            self.moved.emit()
            self.update()

    def _follow(self) -> None:
        """Scroll so that the chosen row is seen."""
        self._top = max(min(self._top, self.row), self.row - MOST + 1, 0)

    def _rows_top(self) -> int:
        return (TAG + 4 if self._tag else 0) + (LINE if self.caption else 0)

    def _row_at(self, event: QMouseEvent) -> int | None:
        shown = int((event.position().y() - self._rows_top() - 5) // ROW)
        row = self._top + shown
        return row if 0 <= shown < MOST and row < len(self.entries) else None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self._pressed = event.position().toPoint() if self._row_at(event) is not None else None

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        row, begun, self._pressed = self._row_at(event), self._pressed, None
        if row is not None and begun is not None:
            held = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
            (self.put if held else self.taken).emit(self.entries[row])

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        row, begun = self._row_at(event), self._pressed
        far = QApplication.startDragDistance()
        if begun is not None and (event.position().toPoint() - begun).manhattanLength() >= far:
            self._pressed = None
            if self.row >= 0 and self.entries:
                self.dragged.emit(self.entries[self.row])
            return
        if row is not None and row != self.row:
            self.row = row
            self._name()
            self.moved.emit()
            self.update()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        most = max(len(self.entries) - MOST, 0)
        self._top = max(0, min(most, self._top - round(event.angleDelta().y() / 40)))
        self.row = max(self._top, min(self.row, self._top + MOST - 1))
        self._name()
        event.accept()
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme, top = self._scheme, self._rows_top()
        begin = TAG + 4 if self._tag else 0
        if self._tag:
            width = QFontMetrics(bold(13)).horizontalAdvance(self.typed) + 20
            painter.setPen(scheme.color("crest"))
            painter.setBrush(scheme.color("sheet"))
            painter.drawRoundedRect(QRectF(0.5, 0.5, width, TAG - 3), 5, 5)
            painter.setFont(bold(13))
            painter.drawText(QRectF(0, 0, width, TAG - 2), Qt.AlignmentFlag.AlignCenter, self.typed)
        box = QRectF(0.5, begin + 0.5, self.width() - 1, self.height() - begin - 1)
        painter.setPen(scheme.color("line"))
        painter.setBrush(scheme.color("sheet"))
        painter.drawRoundedRect(box, 6, 6)
        painter.setPen(scheme.color("ink2"))
        painter.setFont(font(12))
        left = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
        if self.caption:
            painter.drawText(QRectF(17, top - LINE + 4, self.width() - 30, LINE), left, self.caption)
        if self.foot:
            line = QRectF(17, self.height() - LINE - 2, self.width() - 30, LINE)
            painter.drawText(line, left, self.foot)
        if not self.entries:
            painter.setFont(font(13))
            painter.drawText(QRectF(17, top + 5, self.width() - 26, ROW), left, self.nothing)
        for index in range(self._top, min(self._top + MOST, len(self.entries))):
            row = QRectF(5, top + 5 + (index - self._top) * ROW, self.width() - 14, ROW)
            if index == self.row:
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(scheme.color("hover"))
                painter.drawRoundedRect(row, 4, 4)
                # Not by tint alone: a bar at the chosen row.
                painter.fillRect(
                    row.adjusted(0, 6, 0, -6).toRect().adjusted(0, 0, 3 - int(row.width()), 0),
                    scheme.color("crest"),
                )
            self._paint_row(painter, self.entries[index], row)
        if len(self.entries) > MOST:
            self._paint_slider(painter, top + 5)

    def _paint_slider(self, painter: QPainter, top: int) -> None:
        tall = MOST * ROW
        part = max(18, tall * MOST // len(self.entries))
        at = top + (tall - part) * self._top // max(len(self.entries) - MOST, 1)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._scheme.color("faint"))
        painter.drawRoundedRect(QRectF(self.width() - 7, at, 4, part), 2, 2)

    def _paint_row(self, painter: QPainter, entry: Match, row: QRectF) -> None:
        metrics, strong = QFontMetrics(font(13)), QFontMetrics(bold(13))
        small = QFontMetrics(font(11))
        painter.setFont(font(11))
        painter.setPen(self._scheme.color("ink2"))
        shown = small.elidedText(entry.hint, Qt.TextElideMode.ElideRight, int(row.width() * 0.6))
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        painter.drawText(row.adjusted(0, 0, -10, 0), right, shown)
        hint = small.horizontalAdvance(shown) + 24
        title = metrics.elidedText(entry.title, Qt.TextElideMode.ElideRight, int(row.width()) - hint - 12)
        x, at = row.x() + 12, 0
        for start, length in [*spans(title, self.typed), (len(title), 0)]:
            for text, marked in ((title[at:start], False), (title[start : start + length], True)):
                painter.setFont(bold(13) if marked else font(13))
                painter.setPen(self._scheme.color("crest" if marked else "ink"))
                painter.drawText(
                    QRectF(x, row.y(), row.width(), row.height()), Qt.AlignmentFlag.AlignVCenter, text
                )
                x += (strong if marked else metrics).horizontalAdvance(text)
            at = start + length
