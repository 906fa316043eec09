"""Files of Grid: opening at a sheet, values as CSV, what comes out on paper."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.paths import clean_path
from rimecrest.core.words import tr
from rimecrest.kit.commands.leaving import writing
from rimecrest.kit.commands.result import NOT_DONE, CommandResult
from rimecrest.kit.declare import Among
from rimecrest.kit.documents.file_commands import declare_files, open_at, where_to
from rimecrest.kit.documents.outside import declare_outside
from rimecrest.kit.documents.shared_commands import declare_everyday
from rimecrest.kit.documents.template_commands import declare_templates
from rimecrest.kit.documents.view_commands import declare_print
from rimecrest_standins.grid.book import Sheet
from rimecrest_standins.grid.declared import command, declarations
from rimecrest_standins.grid.document import GridDocument
from rimecrest_standins.grid.paper import Printed, SheetOnPaper

declare_files(declarations, "workbook")
declare_everyday(declarations)
declare_templates(declarations, "workbook", ".ods", "cell")
declare_outside(declarations)


def find_sheet(doc: GridDocument, name: str) -> Sheet:
    """The sheet of that name. Raises RimecrestError naming those there are."""
    sheet = doc.book.sheet(name)
    if sheet is None:
        known = ", ".join(f"“{known.name}”" for known in doc.book.sheets)
        raise RimecrestError(
            tr("The workbook has no sheet “{name}”.", name=name), tr("It has: {known}.", known=known)
        )
    return sheet


def _show_sheet(doc: GridDocument, name: str) -> None:
    doc.show_sheet(find_sheet(doc, name))


@command(
    "open",
    "Open",
    about="Open a workbook, and go to a sheet in it",
    keys="Ctrl+O",
    effects=(Effect.OPENS_FILES,),
    changes={"sheets", "here.sheet"},
    picture="folder-open-outline",
    everyday=True,
)
def open_(
    doc: GridDocument, path: Path = Path(), sheet: Annotated[str, Among("sheets")] = ""
) -> CommandResult:
    return open_at(doc, path, "sheet", sheet, _show_sheet)


def _values_at(path: Path) -> Path:
    return path if path.suffix else path.with_suffix(".csv")


@command(
    "save-values",
    "Save the values",
    about="Write what this sheet shows into a CSV file",
    effects=(Effect.CREATES, Effect.OVERWRITES),
    picture="file-delimited-outline",
    leaves_document=True,
    reaches=lambda doc, path=Path(): writing(_values_at(clean_path(path))) if path != Path() else None,
)
def save_values(doc: GridDocument, path: Path = Path()) -> CommandResult:
    place = where_to(doc, path, tr("Save the values"), ".csv", tr("Values (*.csv)"))
    if place is None:
        return NOT_DONE
    place = _values_at(place)
    doc.settle()
    doc.write_to(place)
    return CommandResult({"path": str(place)})


MOST_PRINTED = 50_000
"""Cells that are drawn on pages: some five hundred pages, and two or three seconds."""


def _page(doc: GridDocument) -> SheetOnPaper:
    """The sheet on paper: what is chosen, or all of it."""
    place = doc.place()
    rows = doc.seen_rows() or range(doc.sheet.height)
    columns = range(doc.sheet.breadth)
    if place.is_block:
        rows = [row for row in rows if place.top <= row <= place.bottom]
        columns = range(place.left, min(place.right + 1, doc.sheet.breadth))
    if len(rows) * len(columns) > MOST_PRINTED:
        raise RimecrestError(
            tr("{count:,} cells are too many for paper.", count=len(rows) * len(columns)),
            tr("Select the cells that are wanted, up to {most:,}.", most=MOST_PRINTED),
        )
    return SheetOnPaper(doc.sheet.name, [[_printed(doc, row, column) for column in columns] for row in rows])


def _printed(doc: GridDocument, row: int, column: int) -> Printed:
    look = doc.sheet.cell(row, column).look
    number = isinstance(doc.reckoner.value(doc.sheet, row, column), float)
    return Printed(doc.shown(row, column), (look.side or ("right" if number else "left")) == "right")


declare_print(declarations, "the selected cells, else the whole sheet", _page)
