"""The seat map as rows, for whoever cannot see it: each department, then its seats."""

from __future__ import annotations

from collections import Counter
from typing import Any

from msgspec import Struct
from PyQt6.QtCore import QAbstractListModel, QModelIndex, QObject, Qt

from rimecrest.core.words import counted, tr
from rimecrest.studio.rollout.board import SeatState, State

NOWHERE = QModelIndex()


class Department(Struct, frozen=True):
    """The seats of one department, and whether they show where departments are counts."""

    title: str
    seats: tuple[SeatState, ...]
    open: bool

    @property
    def numbers(self) -> str:
        """How many seats it has, in words."""
        return counted(len(self.seats), tr("seat"))

    @property
    def states(self) -> list[tuple[State, int]]:
        """How many seats are in each state that occurs."""
        found = Counter(seat.state for seat in self.seats)
        return [(state, found[state]) for state in State if found[state]]


Row = Department | SeatState


class SeatRows(QAbstractListModel):
    """Departments and seats, one row each. The seats of a closed department are there to be found."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.departments: list[Department] = []
        self.counted = False
        """Whether departments are counts that open."""
        self._rows: list[tuple[int, Row]] = []
        self._first: list[int] = []
        self._at: dict[str, int] = {}

    def show(self, departments: list[Department]) -> None:
        """Show these instead."""
        self.beginResetModel()
        self.departments = departments
        self._rows, self._first = [], []
        for number, department in enumerate(departments):
            self._first.append(len(self._rows))
            self._rows.append((number, department))
            self._rows += [(number, seat) for seat in department.seats]
        self._at = {row.seat.seat: at for at, (_, row) in enumerate(self._rows) if isinstance(row, SeatState)}
        self.endResetModel()

    def row(self, at: int) -> Row:
        """What stands in a row."""
        return self._rows[at][1]

    def head(self, department: int) -> int:
        """The row of a department."""
        return self._first[department]

    def place(self, at: int) -> tuple[int, int]:
        """(department, how manieth of its seats) of a row; -1 for the department itself."""
        department = self._rows[at][0]
        return department, at - self._first[department] - 1

    def at_seat(self, name: str) -> int | None:
        """The row of a seat."""
        return self._at.get(name)

    def shows(self, at: int) -> bool:
        """Whether what stands in a row can be reached: seats that show, and counts."""
        department, row = self._rows[at]
        if isinstance(row, Department):
            return self.counted
        return not self.counted or self.departments[department].open

    def rowCount(self, parent: QModelIndex = NOWHERE) -> int:
        return 0 if parent.isValid() else len(self._rows)

    def flags(self, index: QModelIndex) -> Qt.ItemFlag:
        if index.isValid() and (self.counted or isinstance(self.row(index.row()), SeatState)):
            return Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemNeverHasChildren
        return Qt.ItemFlag.ItemNeverHasChildren

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid():
            return None
        row = self.row(index.row())
        if role == Qt.ItemDataRole.DisplayRole:
            return row.title if isinstance(row, Department) else row.seat.seat
        if role == Qt.ItemDataRole.AccessibleTextRole:
            return self._in_words(row)
        if role == Qt.ItemDataRole.ToolTipRole and isinstance(row, SeatState):
            return self._in_words(row)
        return None

    def _in_words(self, row: Row) -> str:
        if isinstance(row, Department):
            words = ", ".join(f"{number} {tr(state.value)}" for state, number in row.states)
            told = f"{row.title}: {row.numbers}: {words}"
            if self.counted:
                told += tr(", open") if row.open else tr(", closed")
            return told
        words = f"{row.seat.seat}, {row.seat.name}: {tr(row.state.value)}"
        if row.release:
            words += tr(", has release {release}", release=row.release)
        return words
