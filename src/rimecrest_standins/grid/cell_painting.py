"""How the cells of a sheet and their headings are drawn."""

from __future__ import annotations

from PyQt6.QtCore import QModelIndex, QPointF, QRect, Qt
from PyQt6.QtGui import QColor, QPainter, QPen, QPolygonF
from PyQt6.QtWidgets import (
    QHeaderView,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTableView,
    QWidget,
)

from rimecrest.shell.theme import LIGHT, bold, font
from rimecrest.shell.there import there
from rimecrest_standins.grid.book import EMPTY
from rimecrest_standins.grid.sheet_model import SheetModel

NOTE_SIZE = 7
"""Pixels of the sign for a note."""
HEADING_PIXELS = 12
CHOSEN_LINE = 3
"""Pixels of the line at the heading of what is chosen."""
_MARKED = QStyle.StateFlag.State_Selected | QStyle.StateFlag.State_HasFocus | QStyle.StateFlag.State_MouseOver
"""With one of these a cell is drawn also where nothing is in it."""


class CellPainter(QStyledItemDelegate):
    """Draws a cell, with a small notched square at its lower left where it has a note."""

    def __init__(self, model: SheetModel, parent: QWidget) -> None:
        super().__init__(parent)
        self._model = model

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        assert painter is not None
        cell = self._model.cell(index)
        if cell is EMPTY and not option.state & _MARKED:
            return
        super().paint(painter, option, index)
        if cell.look.borders:
            self._paint_borders(painter, option.rect, cell.look.borders.split())
        if cell.note:
            left, low = option.rect.left() + 1, option.rect.bottom()
            right, top, cut = left + NOTE_SIZE, low - NOTE_SIZE, NOTE_SIZE / 2
            square = [
                QPointF(left, top),
                QPointF(right - cut, top),
                QPointF(right, top + cut),
                QPointF(right, low),
                QPointF(left, low),
            ]
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(LIGHT.crest))
            painter.drawPolygon(QPolygonF(square))

    @staticmethod
    def _paint_borders(painter: QPainter, box: QRect, sides: list[str]) -> None:
        # Over the line that parts the cells: that of the neighbour lies on it as well.
        whole = box.adjusted(-1, -1, 0, 0)
        lines = {
            "top": (whole.topLeft(), whole.topRight()),
            "bottom": (whole.bottomLeft(), whole.bottomRight()),
            "left": (whole.topLeft(), whole.bottomLeft()),
            "right": (whole.topRight(), whole.bottomRight()),
        }
        painter.save()
        painter.setPen(QPen(QColor(LIGHT.ink), 1.5))
        for side in sides:
            painter.drawLine(*lines[side])
        painter.restore()


class Headings(QHeaderView):
    """The letters of the columns, or the numbers of the rows; those that are chosen have a line at the cells.

    The toolkit's own drawing asks each cell of a column whether it is chosen, every time; here the bounds of
    what is chosen say as much.
    """

    def __init__(self, way: Qt.Orientation, table: QTableView) -> None:
        super().__init__(way, table)
        self._table = table
        self.setSectionsClickable(True)
        self.setFont(font(HEADING_PIXELS))
        self._bold = bold(HEADING_PIXELS)

    def paintSection(self, painter: QPainter | None, box: QRect, section: int) -> None:
        if painter is None or not box.isValid():
            return
        across = self.orientation() == Qt.Orientation.Horizontal
        chosen = self.is_chosen(section)
        painter.fillRect(box, QColor(LIGHT.paper))
        painter.setPen(QColor(LIGHT.line))
        painter.drawLine(box.topRight(), box.bottomRight())
        painter.drawLine(box.bottomLeft(), box.bottomRight())
        painter.setPen(QColor(LIGHT.ink))
        side = Qt.AlignmentFlag.AlignHCenter if across else Qt.AlignmentFlag.AlignRight
        words = box if across else box.adjusted(0, 0, -CHOSEN_LINE - 6, 0)
        painter.setFont(self._bold if chosen else self.font())
        painter.drawText(words, side | Qt.AlignmentFlag.AlignVCenter, self._name(section))
        if chosen:
            line = QRect(box)
            if across:
                line.setTop(box.bottom() - CHOSEN_LINE + 1)
            else:
                line.setLeft(box.right() - CHOSEN_LINE + 1)
            painter.fillRect(line, QColor(LIGHT.crest))

    def _name(self, section: int) -> str:
        return str(there(self._table.model()).headerData(section, self.orientation()))

    def is_chosen(self, section: int) -> bool:
        """Whether a cell of this column or row is chosen."""
        chosen = self._table.selectionModel()
        if chosen is None:
            return False
        blocks = chosen.selection()
        across = self.orientation() == Qt.Orientation.Horizontal
        for block in (blocks[number] for number in range(len(blocks))):
            first, last = (block.left(), block.right()) if across else (block.top(), block.bottom())
            if first <= section <= last:
                return True
        return False
