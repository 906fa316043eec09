"""How a step is drawn: its number, its sentence with the words that can be changed, its fault, its block."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from msgspec import Struct
from PyQt6.QtCore import QModelIndex, QPointF, QRect, QRectF, QSize, Qt
from PyQt6.QtGui import QFontMetrics, QPainter, QPen
from PyQt6.QtWidgets import QStyle, QStyledItemDelegate, QStyleOptionViewItem, QWidget

from rimecrest.core.macro.sentences import Piece
from rimecrest.core.macro.step_tree import END, OTHERWISE
from rimecrest.shell.theme import Scheme, bold, font

PATH, DEPTH, MUTED, FAULT, NUMBER, BLOCK, STEP, PIECES, MARK = (
    Qt.ItemDataRole.UserRole + n for n in range(9)
)
ROW, END_ROW = 33, 22
INDENT = 26
LEFT = 42
LONGEST_WORD = 0.4
"""Share of a row that one of several words that can be changed takes at most."""


class Box(Struct, frozen=True):
    """A piece of a sentence with where it is drawn."""

    piece: Piece
    rect: QRectF


def boxes(row: QRect, depth: int, block: bool, parts: tuple[Piece, ...], faint: bool) -> Iterator[Box]:
    """Where the pieces of a sentence stand in their row."""
    x = float(row.left() + LEFT + INDENT * depth)
    shown = [piece for piece in parts if faint or not piece.faint]
    # A long value leaves room for the words after it; it is shown whole when it is changed.
    most = row.width() * LONGEST_WORD if sum(bool(piece.field) for piece in shown) > 1 else row.width()
    for piece in shown:
        made = bold(14) if piece.field or block else font(14)
        width = min(QFontMetrics(made).horizontalAdvance(piece.text), most if piece.field else row.width())
        room = row.right() - 30 - x
        if room < 12:
            return
        yield Box(piece, QRectF(x, row.top(), min(width, room), row.height()))
        x += width


class StepPainter(QStyledItemDelegate):
    """Draws one step: its number, its sentence with the words that can be changed underlined, its fault.

    `word` tells which of the chosen step's words is, from 0; None for the step as a whole.
    """

    def __init__(self, scheme: Scheme, word: Callable[[], int | None], steps: QWidget) -> None:
        super().__init__(steps)
        self._scheme = scheme
        self._word = word

    def sizeHint(self, _option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        ends = index.data(MARK) == END
        return QSize(200, END_ROW if ends else ROW)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        assert painter is not None
        scheme = self._scheme
        row = QRectF(option.rect)
        data = index.data
        muted, fault, depth = data(MUTED), data(FAULT), data(DEPTH)
        chosen = bool(option.state & QStyle.StateFlag.State_Selected)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if fault:
            painter.fillRect(row, scheme.color("blocks_tint"))
        if chosen:
            painter.fillRect(row, scheme.color("hover"))
            painter.fillRect(QRectF(row.left(), row.top() + 4, 3, row.height() - 8), scheme.color("crest"))
        painter.setPen(scheme.color("line"))
        painter.drawLine(row.bottomLeft(), row.bottomRight())
        for level in range(depth):
            x = int(row.left() + LEFT - 4 + INDENT * level)
            painter.drawLine(x, int(row.top()), x, int(row.bottom()))
        if data(MARK):
            self._paint_mark(painter, row, depth, data(MARK))
        if chosen and (word := self._word()) is not None:
            shown = boxes(option.rect, depth, data(BLOCK), data(PIECES), chosen)
            fields = [box for box in shown if box.piece.field]
            if word < len(fields):
                painter.setPen(QPen(scheme.color("crest"), 1.5))
                painter.drawRoundedRect(fields[word].rect.adjusted(-3, 4, 3, -4), 4, 4)
        painter.setFont(font(11))
        painter.setPen(scheme.color("ink2"))
        number = QRectF(row.left() + 8, row.top(), 28, row.height())
        painter.drawText(number, Qt.AlignmentFlag.AlignVCenter, data(NUMBER))
        for box in boxes(option.rect, depth, data(BLOCK), data(PIECES), chosen):
            told = bool(data(NUMBER)) or data(MARK) == OTHERWISE
            self._paint_piece(painter, box, muted, data(BLOCK), told)
        if fault:
            painter.setPen(scheme.color("blocks"))
            painter.setFont(bold(14))
            painter.drawText(
                row.adjusted(0, 0, -10, 0), Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, "!"
            )
        painter.restore()

    def _paint_mark(self, painter: QPainter, row: QRectF, depth: int, mark: int) -> None:
        """The block's line at its left: it turns in at an `else`, and closes at the end."""
        x = int(row.left() + LEFT - 4 + INDENT * depth)
        middle = int(row.center().y())
        painter.save()
        painter.setPen(QPen(self._scheme.color("slate"), 1.5))
        painter.drawLine(x, int(row.top()), x, int(row.bottom()) if mark == OTHERWISE else middle)
        painter.drawLine(x, middle, x + 8, middle)
        painter.restore()

    def _paint_piece(self, painter: QPainter, box: Box, muted: bool, block: bool, step: bool) -> None:
        piece, scheme = box.piece, self._scheme
        made = bold(14) if piece.field or block else font(14)
        made.setStrikeOut(bool(muted))
        painter.setFont(made)
        painter.setPen(scheme.color("ink2" if muted or piece.faint or not step else "ink"))
        words = QFontMetrics(made).elidedText(
            piece.text, Qt.TextElideMode.ElideMiddle, int(box.rect.width()) + 2
        )
        painter.drawText(box.rect.adjusted(0, 0, 8, 0), Qt.AlignmentFlag.AlignVCenter, words)
        if piece.field:
            line = Qt.PenStyle.DotLine if piece.faint else Qt.PenStyle.SolidLine
            painter.setPen(QPen(scheme.color("ink2" if muted or piece.faint else "crest"), 1.5, line))
            foot = box.rect.bottom() - 7
            painter.drawLine(QPointF(box.rect.left(), foot), QPointF(box.rect.right(), foot))
