"""The sheet that is shown, as the toolkit's table asks for it."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Protocol

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, Qt
from PyQt6.QtGui import QBrush, QColor, QFont

from rimecrest.shell.theme import LIGHT, font
from rimecrest_standins.grid.book import Book, Cell, Sheet, letters_of
from rimecrest_standins.grid.formulas import Failure, Value, shown

PIXELS = 13
"""The size of the words in cells at 100 %."""
BORDERS = Qt.ItemDataRole.UserRole + 1
"""The sides of a cell that have a line."""
_SIDES = {
    "left": Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter,
    "centre": Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignVCenter,
    "right": Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
}
_CELL = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsEditable
"""Made once: the view asks for it many times a cell, at every drawing. Input methods write in editable
cells only."""


class Shown(Protocol):
    """The workbook, as far as it is shown."""

    @property
    def book(self) -> Book: ...
    @property
    def sheet(self) -> Sheet: ...
    @property
    def here(self) -> Cell: ...

    def place(self) -> Any: ...
    def seen_rows(self) -> list[int] | None: ...
    def soon(self, row: int, column: int) -> Value | None: ...
    def numbers_to_add(self) -> Iterator[float | None]: ...


class SheetModel(QAbstractTableModel):
    """The sheet that is shown. Rows that are narrowed away are not in it."""

    def __init__(self, doc: Shown) -> None:
        super().__init__()
        self._doc = doc
        self.visible: list[int] | None = None
        """The rows that are seen; None: all."""
        self.rows, self.columns = 1000, 30
        self.pixels = PIXELS
        """The size of the words in cells, as it is zoomed."""
        self.sheet_now: object = None
        """The sheet that the rows and columns are those of."""

    def take_over(self) -> None:
        """The sheet is another one, or has other rows or columns."""
        self.beginResetModel()
        sheet = self.sheet_now = self._doc.sheet
        self.visible = self._doc.seen_rows()
        self.rows = len(self.visible) if self.visible is not None else max(1000, sheet.height + 200)
        self.columns = max(30, sheet.breadth + 6)
        self.endResetModel()

    def fits(self) -> bool:
        """Whether what the sheet holds is within what is shown, and nothing is narrowed."""
        sheet = self._doc.sheet
        return (
            self.visible is None
            and sheet.narrowed is None
            and sheet.height < self.rows
            and sheet.breadth < self.columns
        )

    def sheet_row(self, shown: int) -> int:
        return shown if self.visible is None else self.visible[min(shown, len(self.visible) - 1)]

    def shown_row(self, row: int) -> int:
        """Where a row of the sheet is shown, or the next one that is."""
        if self.visible is None:
            return row
        return next((at for at, known in enumerate(self.visible) if known >= row), len(self.visible) - 1)

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:
        return 0 if parent.isValid() else self.rows

    def columnCount(self, parent: QModelIndex = QModelIndex()) -> int:
        return 0 if parent.isValid() else self.columns

    def cell(self, index: QModelIndex) -> Cell:
        """What the sheet has there; `EMPTY` itself where it has nothing."""
        return self._doc.sheet.cell(self.sheet_row(index.row()), index.column())

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        row, column = self.sheet_row(index.row()), index.column()
        if role == Qt.ItemDataRole.DisplayRole:
            value = self._doc.soon(row, column)
            return "…" if value is None else shown(value, self._doc.sheet.cell(row, column).look.form)
        cell = self._doc.sheet.cell(row, column)
        look = cell.look
        match role:
            case Qt.ItemDataRole.TextAlignmentRole:
                value = self._doc.soon(row, column)
                side = look.side or ("right" if isinstance(value, float) else "left")
                return _SIDES[side]
            case Qt.ItemDataRole.FontRole if look.bold or look.slanted or look.underlined:
                made = font(self.pixels, QFont.Weight.Bold if look.bold else QFont.Weight.Normal)
                made.setItalic(look.slanted)
                made.setUnderline(look.underlined)
                return made
            case Qt.ItemDataRole.ForegroundRole:
                if isinstance(self._doc.soon(row, column), Failure):
                    return QBrush(QColor(LIGHT.blocks))
                return QBrush(QColor(look.ink)) if look.ink else None
            case Qt.ItemDataRole.BackgroundRole if look.ground:
                return QBrush(QColor(look.ground))
            case Qt.ItemDataRole.ToolTipRole if cell.note:
                return cell.note
            case Qt.ItemDataRole.UserRole:
                return bool(cell.note)
            case _ if role == BORDERS:
                return look.borders
        return None

    def headerData(self, section: int, way: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role != Qt.ItemDataRole.DisplayRole:
            return None
        if way == Qt.Orientation.Horizontal:
            return letters_of(section)
        return str(self.sheet_row(section) + 1)

    def flags(self, _index: QModelIndex) -> Qt.ItemFlag:
        return _CELL
