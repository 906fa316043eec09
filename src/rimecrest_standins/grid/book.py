"""A workbook: sheets of cells. Every change is a patch that goes back and forth; nothing else changes it.

Rows are values: a change puts another row in their place. So a patch holds just the rows before and after,
and a sheet of a hundred thousand rows costs no more to change than the rows that are touched.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence

from msgspec import Struct, field
from msgspec.structs import replace

MOST_ROWS = 1_000_000
MOST_COLUMNS = 16_384
"""Bounds of a sheet; a file that says more is cut off there, and says so."""


class Look(Struct, frozen=True):
    """How a cell looks. Colours as #RRGGBB, empty for none; `side` empty: numbers right, words left."""

    bold: bool = False
    slanted: bool = False
    underlined: bool = False
    side: str = ""
    ink: str = ""
    ground: str = ""
    borders: str = ""
    """The sides that have a line, of `SIDES`, in that order."""
    form: str = "plain"
    """How a number is written: plain, whole, hundredths, percent, or text."""


PLAIN = Look()
SIDES = ("bottom", "left", "right", "top")


def bordered(look: Look, add: Iterable[str] = (), without: Iterable[str] = ()) -> Look:
    """The look with lines at more sides, or at fewer."""
    now = {side for side in SIDES if side in look.borders.split()}
    return replace(look, borders=" ".join(sorted((now - set(without)) | set(add))))


class Cell(Struct, frozen=True):
    """One cell: as it was written (`12`, `Brinholt`, `=SUM(A1:A3)`), its look, its note."""

    written: str = ""
    look: Look = PLAIN
    note: str = ""

    @property
    def is_formula(self) -> bool:
        return len(self.written) > 1 and self.written[0] == "=" and self.look.form != "text"


EMPTY = Cell()
Row = Mapping[int, Cell]
NO_CELLS: Row = {}


def row_with(row: Row, column: int, cell: Cell) -> Row:
    """The row with another cell in it."""
    made = dict(row)
    if cell == EMPTY:
        made.pop(column, None)
    else:
        made[column] = cell
    return made


def row_of(cells: Row) -> Row:
    """A row of these cells; those with nothing in them are none."""
    return {column: cell for column, cell in cells.items() if cell.written or cell != EMPTY}


class Narrow(Struct, frozen=True):
    """Only rows whose cell in this column shows this text are seen. The row `heading` always is."""

    column: int
    text: str
    heading: int = 0


class Sheet:
    """One sheet. Only a `Book` changes it."""

    def __init__(self, name: str) -> None:
        self.name = name
        self.rows: list[Row] = []
        self.widths: dict[int, int] = {}
        """Column → pixels, where it is not the usual width."""
        self.narrowed: Narrow | None = None
        self.formulas = 0
        self._columns: int | None = 0

    def row(self, row: int) -> Row:
        return self.rows[row] if 0 <= row < len(self.rows) else NO_CELLS

    def cell(self, row: int, column: int) -> Cell:
        return self.row(row).get(column, EMPTY)

    @property
    def height(self) -> int:
        """Rows up to the last one that has something in it."""
        count = len(self.rows)
        while count and not self.rows[count - 1]:
            count -= 1
        return count

    @property
    def breadth(self) -> int:
        """Columns up to the last one that has something in it."""
        if self._columns is None:
            self._columns = max((max(row) + 1 for row in self.rows if row), default=0)
        return self._columns

    def _replace(self, at: int, count: int, rows: Sequence[Row]) -> None:
        self.formulas -= _formulas(self.rows[at : at + count])
        self.formulas += _formulas(rows)
        if self._columns is not None:
            # Where only empty rows go, the sheet becomes no narrower.
            wider = max((max(row) + 1 for row in rows if row), default=0)
            emptied = not any(self.rows[at : at + count])
            self._columns = max(self._columns, wider) if emptied else None
        self.rows[at : at + count] = rows


def _formulas(rows: Sequence[Row]) -> int:
    begun = [cell for row in rows for cell in row.values() if cell.written[:1] == "="]
    return sum(cell.is_formula for cell in begun)


class Splice(Struct, frozen=True):
    """Some rows in place of others."""

    book: Book
    sheet: Sheet
    at: int
    before: tuple[Row, ...]
    after: tuple[Row, ...]

    def forth(self) -> None:
        self.sheet._replace(self.at, len(self.before), self.after)
        self.book.touched(self, self.before, self.after)

    def back(self) -> None:
        self.sheet._replace(self.at, len(self.after), self.before)
        self.book.touched(self, self.after, self.before)


Shape = tuple[Sheet, str, Mapping[int, int], Narrow | None]


class Rearrange(Struct, frozen=True):
    """Other sheets, names, widths or narrowings."""

    book: Book
    before: tuple[Shape, ...]
    after: tuple[Shape, ...]

    @property
    def shows_only(self) -> bool:
        """Whether only other rows are shown."""
        return [shape[:3] for shape in self.before] == [shape[:3] for shape in self.after]

    def forth(self) -> None:
        self._become(self.after)

    def back(self) -> None:
        self._become(self.before)

    def _become(self, shapes: tuple[Shape, ...]) -> None:
        self.book.sheets = [shape[0] for shape in shapes]
        for sheet, name, widths, narrowed in shapes:
            sheet.name, sheet.widths, sheet.narrowed = name, dict(widths), narrowed
        self.book.touched(self, (), ())


class Book(Struct):
    """All sheets. `record` is told each patch; `touched`, after each, the rows before and after it."""

    record: Callable[[Splice | Rearrange], None]
    touched: Callable[[Splice | Rearrange, tuple[Row, ...], tuple[Row, ...]], None] = lambda *_: None
    sheets: list[Sheet] = field(default_factory=lambda: [Sheet("Sheet 1")])

    def sheet(self, name: str) -> Sheet | None:
        return next((sheet for sheet in self.sheets if sheet.name.lower() == name.strip().lower()), None)

    def free_name(self, stem: str = "Sheet") -> str:
        number = 1
        while self.sheet(f"{stem} {number}") is not None:
            number += 1
        return f"{stem} {number}"

    def splice(self, sheet: Sheet, at: int, count: int, rows: Sequence[Row]) -> None:
        """Put rows in the place of `count` others. Missing rows up to there are filled in."""
        missing = at + count - len(sheet.rows)
        if missing > 0:
            filled = Splice(self, sheet, len(sheet.rows), (), (NO_CELLS,) * missing)
            filled.forth()
            self.record(filled)
        before = tuple(sheet.rows[at : at + count])
        after = tuple(rows)
        if before != after:
            patch = Splice(self, sheet, at, before, after)
            patch.forth()
            self.record(patch)

    def put(self, sheet: Sheet, row: int, column: int, cell: Cell) -> None:
        self.splice(sheet, row, 1, [row_with(sheet.row(row), column, cell)])

    def change(
        self, sheet: Sheet, top: int, bottom: int, left: int, right: int, make: Callable[[Cell], Cell]
    ) -> None:
        """Change every cell of a block, its edges included."""
        self.change_at(sheet, top, bottom, left, right, lambda _row, _column, cell: make(cell))

    def change_at(
        self,
        sheet: Sheet,
        top: int,
        bottom: int,
        left: int,
        right: int,
        make: Callable[[int, int, Cell], Cell],
    ) -> None:
        """The same, with the row and column of each cell."""
        rows = []
        for number in range(top, bottom + 1):
            row = sheet.row(number)
            for column in range(left, right + 1):
                made = make(number, column, row.get(column, EMPTY))
                if made != row.get(column, EMPTY):
                    row = row_with(row, column, made)
            rows.append(row)
        self.splice(sheet, top, len(rows), rows)

    def shape(self) -> tuple[Shape, ...]:
        return tuple((s, s.name, dict(s.widths), s.narrowed) for s in self.sheets)

    def rearrange(self, change: Callable[[list[Shape]], None]) -> None:
        """Change which sheets there are, their names, widths or narrowing."""
        before = self.shape()
        shapes = list(before)
        change(shapes)
        after = tuple(shapes)
        if after != before:
            patch = Rearrange(self, before, after)
            patch.forth()
            self.record(patch)

    def set_shape(
        self,
        sheet: Sheet,
        name: str | None = None,
        widths: Mapping[int, int] | None = None,
        narrowed: Narrow | bool | None = False,
    ) -> None:
        """Another name, other widths or another narrowing (None: none) for one sheet."""

        def change(shapes: list[Shape]) -> None:
            for index, (known, old_name, old_widths, old_narrowed) in enumerate(shapes):
                if known is sheet:
                    shapes[index] = (
                        sheet,
                        name if name is not None else old_name,
                        widths if widths is not None else old_widths,
                        old_narrowed if isinstance(narrowed, bool) else narrowed,
                    )

        self.rearrange(change)


# Names of cells


def letters_of(column: int) -> str:
    """A, B … Z, AA for the columns from 0."""
    name = ""
    column += 1
    while column:
        column, rest = divmod(column - 1, 26)
        name = chr(65 + rest) + name
    return name


def column_of(letters: str) -> int:
    column = 0
    for letter in letters.upper():
        column = column * 26 + ord(letter) - 64
    return column - 1


def cell_name(row: int, column: int) -> str:
    return f"{letters_of(column)}{row + 1}"


_NAME = re.compile(r"\$?([A-Za-z]{1,3})\$?([1-9][0-9]{0,6})\Z")


def parse_cell_name(name: str) -> tuple[int, int] | None:
    """(row, column) of a name like `B7`; None when it is none."""
    found = _NAME.match(name.strip())
    if found is None:
        return None
    row, column = int(found[2]) - 1, column_of(found[1])
    return (row, column) if row < MOST_ROWS and column < MOST_COLUMNS else None


def block_around(sheet: Sheet, row: int, column: int) -> tuple[int, int, int, int]:
    """The filled block that a cell belongs to: top, left, bottom, right, edges included.

    It grows while a row or column beside it has something in it along its whole side.
    """
    top = bottom = row
    left = right = column

    def row_filled(number: int) -> bool:
        cells = sheet.row(number)
        return number >= 0 and any(cells.get(c, EMPTY).written for c in range(max(left - 1, 0), right + 2))

    def column_filled(number: int) -> bool:
        return number >= 0 and any(
            sheet.cell(r, number).written for r in range(max(top - 1, 0), min(bottom + 2, len(sheet.rows)))
        )

    while True:
        before = (top, left, bottom, right)
        while top > 0 and row_filled(top - 1):
            top -= 1
        while bottom + 1 < len(sheet.rows) and row_filled(bottom + 1):
            bottom += 1
        while left > 0 and column_filled(left - 1):
            left -= 1
        while right + 1 < MOST_COLUMNS and column_filled(right + 1):
            right += 1
        if (top, left, bottom, right) == before:
            return before


def edge(sheet: Sheet, row: int, column: int, down: int, right: int) -> tuple[int, int]:
    """Where a jump in one direction ends: at the edge of what is filled, or at the next filled cell."""
    height, breadth = max(sheet.height, row + 1), max(sheet.breadth, column + 1)

    def inside(r: int, c: int) -> bool:
        return 0 <= r < height and 0 <= c < breadth

    def filled(r: int, c: int) -> bool:
        return bool(sheet.cell(r, c).written)

    r, c = row + down, column + right
    if not inside(r, c):
        return row, column
    if filled(row, column) and filled(r, c):
        while inside(r + down, c + right) and filled(r + down, c + right):
            r, c = r + down, c + right
        return r, c
    while inside(r, c) and not filled(r, c):
        r, c = r + down, c + right
    return min(max(r, 0), height - 1), min(max(c, 0), breadth - 1)


def relooked(change: Callable[[Look], Look]) -> Callable[[Cell], Cell]:
    """A change of cells that changes their look only."""
    return lambda cell: replace(cell, look=change(cell.look))


def cells_of(sheet: Sheet, top: int, left: int, bottom: int, right: int) -> Iterator[tuple[int, int, Cell]]:
    """The filled cells of a block, row by row."""
    for number in range(top, min(bottom + 1, len(sheet.rows))):
        row = sheet.rows[number]
        for column in sorted(row):
            if left <= column <= right:
                yield number, column, row[column]
