"""What could be put at the caret: a list under what is typed."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QGraphicsDropShadowEffect, QWidget

from rimecrest.shell.theme import Scheme, bold, font
from rimecrest.studio.shared.search import Match, spans

ROW = 30
TAG = 26


class Candidates(QWidget):
    """Shows the typed letters and the entries. Never takes the focus: whoever types moves `row`."""

    taken = pyqtSignal(object)
    moved = pyqtSignal()

    def __init__(self, scheme: Scheme, parent: QWidget, width: int = 360) -> None:
        super().__init__(parent)
        self._scheme = scheme
        self._width = width
        self.typed = ""
        self._tag = True
        self.entries: list[Match] = []
        self.row = 0
        self.nothing = "There is no such command or macro."
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

    def offer(self, typed: str, entries: list[Match], at: QPoint, tag: bool = True) -> None:
        """Show entries with their upper left corner there, inside the parent.

        Args:
            typed: the letters to mark in the entries.
            tag: whether to show them above as well.
        """
        self.typed, self.entries, self._tag = typed, entries, tag
        self.row = min(self.row, max(len(entries) - 1, 0))
        self.setAccessibleName(f"{typed}: " + (self.entries[self.row].title if entries else self.nothing))
        size = self.sizeHint()
        room = self.parentWidget().size()
        x = max(4, min(at.x(), room.width() - size.width() - 8))
        y = max(4, min(at.y(), room.height() - size.height() - 8))
        self.setGeometry(QRect(QPoint(x, y), size))
        self.show()
        self.raise_()
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(self._width, self._rows_top() + max(len(self.entries), 1) * ROW + 10)

    def current(self) -> Match | None:
        return self.entries[self.row] if self.entries and not self.isHidden() else None

    def move_row(self, by: int) -> None:
        if self.entries:
            self.row = (self.row + by) % len(self.entries)
            self.setAccessibleName(f"{self.typed}: {self.entries[self.row].title}")
            self.moved.emit()
            self.update()

    def _rows_top(self) -> int:
        return TAG + 4 if self._tag else 0

    def _row_at(self, event: QMouseEvent) -> int:
        return int((event.position().y() - self._rows_top() - 5) // ROW)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        row = self._row_at(event)
        if 0 <= row < len(self.entries):
            self.taken.emit(self.entries[row])

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        row = self._row_at(event)
        if 0 <= row < len(self.entries) and row != self.row:
            self.row = row
            self.moved.emit()
            self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme, top = self._scheme, self._rows_top()
        if self._tag:
            width = QFontMetrics(bold(13)).horizontalAdvance(self.typed) + 20
            painter.setPen(scheme.color("crest"))
            painter.setBrush(scheme.color("sheet"))
            painter.drawRoundedRect(QRectF(0.5, 0.5, width, TAG - 3), 5, 5)
            painter.setFont(bold(13))
            painter.drawText(QRectF(0, 0, width, TAG - 2), Qt.AlignmentFlag.AlignCenter, self.typed)
        box = QRectF(0.5, top + 0.5, self.width() - 1, self.height() - top - 1)
        painter.setPen(scheme.color("line"))
        painter.setBrush(scheme.color("sheet"))
        painter.drawRoundedRect(box, 6, 6)
        if not self.entries:
            painter.setPen(scheme.color("ink2"))
            painter.setFont(font(13))
            painter.drawText(box.adjusted(14, 0, -8, 0), Qt.AlignmentFlag.AlignVCenter, self.nothing)
        for index, entry in enumerate(self.entries):
            row = QRectF(5, top + 5 + index * ROW, self.width() - 10, ROW)
            if index == self.row:
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(scheme.color("hover"))
                painter.drawRoundedRect(row, 4, 4)
                # Not by tint alone: a bar at the chosen row.
                painter.fillRect(
                    row.adjusted(0, 6, 0, -6).toRect().adjusted(0, 0, 3 - int(row.width()), 0),
                    scheme.color("crest"),
                )
            self._paint_row(painter, entry, row)

    def _paint_row(self, painter: QPainter, entry: Match, row: QRectF) -> None:
        metrics, strong = QFontMetrics(font(13)), QFontMetrics(bold(13))
        painter.setFont(font(11))
        painter.setPen(self._scheme.color("ink2"))
        painter.drawText(
            row.adjusted(0, 0, -10, 0),
            Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
            entry.hint,
        )
        hint = QFontMetrics(font(11)).horizontalAdvance(entry.hint) + 24
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
