"""Going about the sheet, and choosing cells."""

from __future__ import annotations

from typing import Annotated

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.kit.declare import Among, Between
from rimecrest_standins.grid.book import block_around, edge, parse_cell_name
from rimecrest_standins.grid.declared import command
from rimecrest_standins.grid.document import GridDocument
from rimecrest_standins.grid.file_commands import find_sheet
from rimecrest_standins.grid.place import Place
from rimecrest_standins.grid.references import split_reference

Steps = Annotated[int, Between(-1_000_000, 1_000_000)]
HERE = {"here.value", "here.row", "here.column", "here.cell", "here.written", "here.note", "at-end"}


@command(
    "go-to-cell",
    "Go to a cell",
    about="Go to the cell or block of this name, as B7, B7:D9 or Monday.B7",
    context="cell",
    changes=HERE,
    picture="crosshairs",
)
def go_to_cell(doc: GridDocument, name: str) -> None:
    sheet, block = split_reference(name)
    first, _, last = block.partition(":")
    start, end = parse_cell_name(first), parse_cell_name(last or first)
    if start is None or end is None:
        raise RimecrestError(
            tr("“{name}” is no name of a cell.", name=name), tr("Write it as B7, or B7:D9 for a block.")
        )
    if sheet and doc.book.sheet(sheet) is None:
        raise RimecrestError(
            tr("There is no sheet “{sheet}”.", sheet=sheet),
            tr("There are: {names}.", names=", ".join(each.name for each in doc.book.sheets)),
        )
    rows, columns = sorted((start[0], end[0])), sorted((start[1], end[1]))
    doc.go(Place(sheet or doc.sheet.name, *start, rows[0], columns[0], rows[1], columns[1]))


@command(
    "move-by",
    "Move",
    about="Go so many rows down and columns to the right; below 0 is up and left",
    context="cell",
    changes=HERE,
    picture="cursor-move",
)
def move_by(doc: GridDocument, down: Steps = 0, right: Steps = 0) -> None:
    place = doc.place()
    rows = doc.seen_rows()
    row = place.row + down
    if rows is not None and place.row in rows:
        # Among narrowed rows a step goes to the next one that is seen.
        at = rows.index(place.row) + down
        if not 0 <= at < len(rows):
            raise RimecrestError(tr("The sheet ends here."))
        row = rows[at]
    doc.go_to(row, place.column + right)


def _declare_step(
    verb: str, name: str, keys: str | tuple[str, ...], down: int, right: int, where: str
) -> None:
    def step(doc: GridDocument) -> None:
        move_by(doc, down, right)

    about = tr("Go to the cell {where}", where=where)
    command(verb, name, about=about, keys=keys, context="cell", changes=HERE, repeats=True)(step)


def _declare_jump(way: str, down: int, right: int) -> None:
    def jump(doc: GridDocument) -> None:
        place = doc.place()
        doc.go_to(*edge(doc.sheet, place.row, place.column, down, right))

    command(
        f"jump-{way}",
        f"Jump {way}",
        about=f"Go {way} to the edge of what is filled, or to the next filled cell",
        keys=f"Ctrl+{way.capitalize()}",
        context="cell",
        changes=HERE,
        repeats=True,
        picture=f"arrow-collapse-{way}",
    )(jump)


_declare_step("go-right", tr("Next cell"), "Tab", 0, 1, tr("to the right"))
_declare_step("go-left", tr("Previous cell"), "Shift+Tab", 0, -1, tr("to the left"))
_declare_step("go-down", tr("Cell below"), ("Return", "KP_Enter"), 1, 0, "below")
_declare_step("go-up", tr("Cell above"), "Shift+Return", -1, 0, "above")
for _way, _down, _right in (("right", 0, 1), ("left", 0, -1), ("down", 1, 0), ("up", -1, 0)):
    _declare_jump(_way, _down, _right)


@command(
    "go-to-first-column",
    "Start of the row",
    about="Go to the first cell of this row",
    context="cell",
    changes=HERE,
    picture="page-first",
)
def go_to_first_column(doc: GridDocument) -> None:
    doc.go_to(doc.place().row, 0)


@command(
    "go-to-next-row",
    "Start of the next row",
    about="Go to the first cell of the row below",
    keys="Ctrl+J, Return",
    context="cell",
    changes=HERE,
    picture="keyboard-return",
)
def go_to_next_row(doc: GridDocument) -> None:
    doc.go_to(doc.place().row + 1, 0)


@command(
    "go-to-start",
    "Go to the start",
    about="Go to the first cell of the sheet",
    keys="Ctrl+Home",
    context="cell",
    changes=HERE,
    picture="arrow-top-left",
)
def go_to_start(doc: GridDocument) -> None:
    doc.go_to(0, 0)


@command(
    "go-to-end",
    "Go to the end",
    about="Go to the last row and column that have something in them",
    keys="Ctrl+End",
    context="cell",
    changes=HERE,
    picture="arrow-bottom-right",
)
def go_to_end(doc: GridDocument) -> None:
    doc.go_to(max(doc.sheet.height - 1, 0), max(doc.sheet.breadth - 1, 0))


@command(
    "go-below",
    "Go to the first free row",
    about="Go to the first cell of the row beneath all that is filled",
    keys="Ctrl+J, L",
    context="cell",
    changes=HERE,
    picture="arrow-collapse-down",
)
def go_below(doc: GridDocument) -> None:
    filled = (row for row in range(doc.sheet.height - 1, -1, -1) if _has_words(doc, row))
    doc.go_to(next(filled, -1) + 1, 0)


def _has_words(doc: GridDocument, row: int) -> bool:
    """Whether something is written in a row: a look alone does not fill it."""
    return any(cell.written for cell in doc.sheet.rows[row].values())


def heading_column(doc: GridDocument, name: str) -> tuple[int, int]:
    """(row, column) of a heading. Raises RimecrestError naming the headings there are."""
    row = doc.sheet.row(0)
    for column in sorted(row):
        if doc.shown(0, column).strip().lower() == name.strip().lower():
            return 0, column
    known = ", ".join(f"“{doc.shown(0, column)}”" for column in sorted(row) if row[column].written)
    raise RimecrestError(
        tr("The sheet “{name}” has no heading “{name2}”.", name=doc.sheet.name, name2=name),
        tr("Its first row has: {names}.", names=known or "nothing"),
    )


@command(
    "go-to-heading",
    "Go to a column",
    about="Go along this row to the column with this heading",
    context="cell",
    changes=HERE,
    picture="table-column",
)
def go_to_heading(doc: GridDocument, name: Annotated[str, Among("headings")]) -> None:
    doc.go_to(doc.place().row, heading_column(doc, name)[1])


@command(
    "go-to-sheet",
    "Go to a sheet",
    about="Show the sheet of this name",
    changes={*HERE, "here.sheet", "chosen.sum", "chosen.count"},
    picture="file-table-box-outline",
)
def go_to_sheet(doc: GridDocument, name: Annotated[str, Among("sheets")]) -> None:
    doc.show_sheet(find_sheet(doc, name))


def _step_sheet(doc: GridDocument, by: int) -> None:
    sheets = doc.book.sheets
    doc.show_sheet(sheets[(sheets.index(doc.sheet) + by) % len(sheets)])


@command(
    "next-sheet",
    "Next sheet",
    about="Show the next sheet",
    keys="Ctrl+PgDn",
    changes={*HERE, "here.sheet"},
    picture="arrow-right-circle-outline",
    repeats=True,
)
def next_sheet(doc: GridDocument) -> None:
    _step_sheet(doc, 1)


@command(
    "previous-sheet",
    "Previous sheet",
    about="Show the sheet before",
    keys="Ctrl+PgUp",
    changes={*HERE, "here.sheet"},
    picture="arrow-left-circle-outline",
    repeats=True,
)
def previous_sheet(doc: GridDocument) -> None:
    _step_sheet(doc, -1)


CHOSEN = {"chosen.sum", "chosen.count", "chosen.cells", "chosen.text"}


def _choose(doc: GridDocument, top: int, left: int, bottom: int, right: int) -> None:
    place = doc.place()
    doc.go(Place(place.sheet, place.row, place.column, top, left, bottom, right))


@command(
    "select-all",
    "Select all",
    was=("choose-all",),
    about="Select all that is filled",
    keys="Ctrl+A",
    selects_all=True,
    context="cell",
    changes=CHOSEN,
    picture="select-all",
    everyday=True,
)
def choose_all(doc: GridDocument) -> None:
    _choose(doc, 0, 0, max(doc.sheet.height - 1, 0), max(doc.sheet.breadth - 1, 0))


@command(
    "select-nothing",
    "Select nothing",
    was=("choose-nothing",),
    about="Let go of all but the cell here",
    keys="Escape",
    context="cell",
    changes=CHOSEN,
)
def choose_nothing(doc: GridDocument) -> None:
    place = doc.place()
    doc.go_to(place.row, place.column)


@command(
    "select-block",
    "Select a block",
    was=("choose-block",),
    about="Select from here so many rows down and columns to the right; below 0 is up and left",
    context="cell",
    changes=CHOSEN,
    picture="select-drag",
)
def choose_block(doc: GridDocument, down: Steps = 0, right: Steps = 0) -> None:
    place = doc.place()
    rows = sorted((place.row, max(place.row + down, 0)))
    columns = sorted((place.column, max(place.column + right, 0)))
    _choose(doc, rows[0], columns[0], rows[1], columns[1])


@command(
    "select-data",
    "Select the block around",
    was=("choose-data",),
    about="Select the filled block that this cell belongs to",
    keys="Ctrl+J, A",
    context="cell",
    changes=CHOSEN,
    picture="select",
)
def choose_data(doc: GridDocument) -> None:
    place = doc.place()
    top, left, bottom, right = block_around(doc.sheet, place.row, place.column)
    _choose(doc, top, left, bottom, right)


@command(
    "select-row",
    "Select row",
    was=("choose-row",),
    about="Select this whole row",
    keys="Ctrl+J, R",
    context="cell",
    changes=CHOSEN,
    picture="table-row",
)
def choose_row(doc: GridDocument) -> None:
    choose_rows(doc, 0)


@command(
    "select-rows",
    "Select rows",
    was=("choose-rows",),
    about="Select this row and so many below it; below 0 is above",
    context="cell",
    changes=CHOSEN,
    picture="table-row",
)
def choose_rows(doc: GridDocument, down: Steps = 1) -> None:
    row = doc.place().row
    rows = sorted((row, max(row + down, 0)))
    _choose(doc, rows[0], 0, rows[1], doc.last_column())


@command(
    "select-column",
    "Select column",
    was=("choose-column",),
    about="Select this whole column",
    keys="Ctrl+J, C",
    context="cell",
    changes=CHOSEN,
    picture="table-column",
)
def choose_column(doc: GridDocument) -> None:
    column = doc.place().column
    _choose(doc, 0, column, doc.last_row(), column)


@command(
    "select-filled",
    "Select the filled part of the column",
    was=("choose-filled",),
    about="Choose the cells of this column from beneath the heading to the last filled one",
    keys="Ctrl+J, F",
    context="cell",
    changes=CHOSEN,
    picture="table-column",
)
def choose_filled(doc: GridDocument) -> None:
    column = doc.place().column
    filled = [row for row in range(1, doc.sheet.height) if doc.sheet.cell(row, column).written]
    if not filled:
        raise RimecrestError(tr("This column has nothing beneath its heading."))
    doc.go(Place(doc.sheet.name, filled[0], column, filled[0], column, filled[-1], column))
