"""What Grid can tell a macro."""

from __future__ import annotations

from rimecrest.kit.documents.shared_commands import DAYS
from rimecrest_standins.grid.book import cell_name, letters_of
from rimecrest_standins.grid.declared import reading
from rimecrest_standins.grid.document import GridDocument
from rimecrest_standins.grid.references import quoted_sheet


@reading("here.value", "What this cell shows")
def here_value(doc: GridDocument) -> str | float:
    place = doc.place()
    value = doc.reckoner.value(doc.sheet, place.row, place.column)
    return value if isinstance(value, float) else doc.shown(place.row, place.column)


@reading("here.written", "What was written in this cell: a value or a formula")
def here_written(doc: GridDocument) -> str:
    return doc.here.written


@reading("here.note", "The note of this cell")
def here_note(doc: GridDocument) -> str:
    return doc.here.note


@reading("here.row", "The number of this row, from 1", type="number")
def here_row(doc: GridDocument) -> int:
    return doc.place().row + 1


@reading("here.column", "The letters of this column")
def here_column(doc: GridDocument) -> str:
    return letters_of(doc.place().column)


@reading("here.cell", "The name of this cell, as B7")
def here_cell(doc: GridDocument) -> str:
    place = doc.place()
    return cell_name(place.row, place.column)


@reading("here.sheet", "The name of this sheet")
def here_sheet(doc: GridDocument) -> str:
    return doc.sheet.name


@reading("here.heading", "The heading of this column: what its first row shows")
def here_heading(doc: GridDocument) -> str:
    return doc.shown(0, doc.place().column)


@reading("chosen.sum", "The sum of the selected numbers", type="number")
def chosen_sum(doc: GridDocument) -> float:
    return sum(doc.chosen_numbers())


@reading("chosen.count", "How many numbers are selected", type="number")
def chosen_count(doc: GridDocument) -> int:
    return len(doc.chosen_numbers())


@reading("chosen.cells", "How many filled cells are selected", type="number")
def chosen_cells(doc: GridDocument) -> int:
    return sum(1 for _, _, cell in doc.chosen_cells() if cell.written)


@reading("chosen.text", "What the selected cells show")
def chosen_text(doc: GridDocument) -> str:
    return ", ".join(doc.shown(row, column) for row, column, cell in doc.chosen_cells() if cell.written)


@reading("chosen.values", "What the selected cells show, one by one", type="list")
def chosen_values(doc: GridDocument) -> list[str]:
    return [doc.shown(row, column) for row, column, cell in doc.chosen_cells() if cell.written]


@reading("chosen.block", "The names of the first and last selected cell, as B7:D9")
def chosen_block(doc: GridDocument) -> str:
    place = doc.place()
    return f"{cell_name(place.top, place.left)}:{cell_name(place.bottom, place.right)}"


@reading("chosen.range", "The selected block with its sheet, as Monday.B7:D9")
def chosen_range(doc: GridDocument) -> str:
    return f"{quoted_sheet(doc.sheet.name)}{chosen_block(doc)}"


@reading("chosen.bold", "Whether the selected cells are bold", type="switch")
def chosen_bold(doc: GridDocument) -> str:
    return "yes" if doc.here.look.bold else "no"


@reading("chosen.slanted", "Whether the selected cells are slanted", type="switch")
def chosen_slanted(doc: GridDocument) -> str:
    return "yes" if doc.here.look.slanted else "no"


@reading("chosen.underlined", "Whether the selected cells are underlined", type="switch")
def chosen_underlined(doc: GridDocument) -> str:
    return "yes" if doc.here.look.underlined else "no"


@reading("sheets", "The names of the sheets", type="list")
def sheets(doc: GridDocument) -> list[str]:
    return [sheet.name for sheet in doc.book.sheets]


@reading("headings", "What the first row of this sheet shows", type="list")
def headings(doc: GridDocument) -> list[str]:
    return [doc.shown(0, column) for column in sorted(doc.sheet.row(0)) if doc.shown(0, column)]


@reading("week", "The days of the week", type="list")
def week(_doc: GridDocument) -> list[str]:
    return list(DAYS)


@reading("filtered", "Whether rows of this sheet are hidden by a filter", type="switch")
def filtered(doc: GridDocument) -> str:
    return "no" if doc.sheet.narrowed is None else "yes"


@reading("filter.value", "The value that the rows which are seen have in common; empty without a filter")
def filter_value(doc: GridDocument) -> str:
    return doc.sheet.narrowed.text if doc.sheet.narrowed is not None else ""


@reading("filter.column", "The heading of the column that is filtered by; empty without a filter")
def filter_column(doc: GridDocument) -> str:
    narrow = doc.sheet.narrowed
    return (doc.shown(0, narrow.column) or letters_of(narrow.column)) if narrow is not None else ""


@reading("replaced", "How many cells the last replacing has changed", type="number")
def replaced(doc: GridDocument) -> int:
    return doc.replaced


@reading("zoom", "At how many per cent the sheet is shown", type="number")
def zoom(doc: GridDocument) -> int:
    return doc.widget.share


@reading("at-end", "Whether this row is below all that is filled", type="switch")
def at_end(doc: GridDocument) -> str:
    return "yes" if doc.place().row >= doc.sheet.height else "no"


@reading("sheet.rows", "How many rows of this sheet are filled", type="number")
def sheet_rows(doc: GridDocument) -> int:
    return doc.sheet.height


@reading("workbook.name", "The name of the workbook's file")
def workbook_name(doc: GridDocument) -> str:
    return doc.path.stem if doc.path else ""
