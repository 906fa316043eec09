"""Writing OpenDocument spreadsheets through odfpy: what is empty is written as one element, however large."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Mapping
from itertools import groupby
from typing import Any

from odf import meta, office, style, table, text
from odf import number as numbers
from odf.dc import Creator
from odf.opendocument import OpenDocumentSpreadsheet

from rimecrest.core.progress import Tell, untold
from rimecrest_standins.grid.book import EMPTY, PLAIN, Cell, Look, Sheet
from rimecrest_standins.grid.files import KEPT, PIXELS_PER_CM, TEMPLATE
from rimecrest_standins.grid.formulas import Failure, shown
from rimecrest_standins.grid.reckoner import Reckoner
from rimecrest_standins.grid.references import to_open_formula

BORDER = "0.75pt solid #17232c"
"""A line of a cell, as it is written."""


def spreadsheet_bytes(
    sheets: list[Sheet],
    reckoner: Reckoner,
    macros: Mapping[str, str] = {},
    template: str = "",
    tell: Tell = untold,
) -> bytes:
    """The bytes of an OpenDocument spreadsheet, with macros that are kept in it and what it was made from."""
    document = OpenDocumentSpreadsheet()
    for name, written in sorted(macros.items()):
        document.meta.addElement(meta.UserDefined(name=f"{KEPT}{name}", text=written))
    if template:
        document.meta.addElement(meta.UserDefined(name=TEMPLATE, text=template))
    styles = _Styles(document)
    for sheet in sheets:
        document.spreadsheet.addElement(_written_sheet(sheet, reckoner, styles, tell))
    out = io.BytesIO()
    document.write(out)
    return _timeless(out.getvalue())


def _timeless(content: bytes) -> bytes:
    """The same archive without the time of its making: equal workbooks are equal files."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(content)) as made, zipfile.ZipFile(out, "w") as archive:
        for entry in made.infolist():
            fixed = zipfile.ZipInfo(entry.filename, (1980, 1, 1, 0, 0, 0))
            fixed.compress_type = entry.compress_type
            archive.writestr(fixed, made.read(entry))
    return out.getvalue()


class _Styles:
    """The automatic styles of a file, one per look and width."""

    def __init__(self, document: Any) -> None:
        self._document = document
        self._looks: dict[Look, str] = {}
        self._forms: dict[str, str] = {}
        self._widths: dict[int, str] = {}

    def look(self, look: Look) -> str:
        if look not in self._looks:
            name = f"ce{len(self._looks) + 1}"
            made = style.Style(name=name, family="table-cell")
            if form := self._form(look.form):
                made.setAttribute("datastylename", form)
            cells = {f"border{side}": BORDER for side in look.borders.split()}
            if look.ground:
                cells["backgroundcolor"] = look.ground
            if cells:
                made.addElement(style.TableCellProperties(**cells))
            if look.side:
                side = {"centre": "center", "right": "end", "left": "start"}[look.side]
                made.addElement(style.ParagraphProperties(textalign=side))
            said = {
                "fontweight": "bold" if look.bold else "",
                "fontstyle": "italic" if look.slanted else "",
                "textunderlinestyle": "solid" if look.underlined else "",
                "color": look.ink,
            }
            if words := {name: value for name, value in said.items() if value}:
                made.addElement(style.TextProperties(**words))
            self._document.automaticstyles.addElement(made)
            self._looks[look] = name
        return self._looks[look]

    def _form(self, form: str) -> str:
        if form == "plain":
            return ""
        if form not in self._forms:
            name = f"N{len(self._forms) + 1}"
            if form == "percent":
                made = numbers.PercentageStyle(name=name)
                made.addElement(numbers.Number(minintegerdigits="1"))
                made.addElement(numbers.Text(text="%"))
            elif form == "text":
                made = numbers.TextStyle(name=name)
                made.addElement(numbers.TextContent())
            else:
                places = "0" if form == "whole" else "2"
                made = numbers.NumberStyle(name=name)
                made.addElement(numbers.Number(decimalplaces=places, grouping="true", minintegerdigits="1"))
            self._document.automaticstyles.addElement(made)
            self._forms[form] = name
        return self._forms[form]

    def width(self, pixels: int) -> str:
        if pixels not in self._widths:
            name = f"co{len(self._widths) + 1}"
            made = style.Style(name=name, family="table-column")
            made.addElement(style.TableColumnProperties(columnwidth=f"{pixels / PIXELS_PER_CM:.3f}cm"))
            self._document.automaticstyles.addElement(made)
            self._widths[pixels] = name
        return self._widths[pixels]


def _written_sheet(sheet: Sheet, reckoner: Reckoner, styles: _Styles, tell: Tell) -> Any:
    """What is empty in between is one element that is repeated, however far out the next cell stands."""
    made = table.Table(name=sheet.name)
    columns = range(max([*sheet.widths, sheet.breadth - 1], default=-1) + 1)
    for width, run in groupby(columns, key=lambda column: sheet.widths.get(column)):
        named = {"stylename": styles.width(width)} if width else {}
        made.addElement(table.TableColumn(**named, **_repeated("columns", len(list(run)))))
    for filled, run in groupby(range(sheet.height), key=lambda number: bool(sheet.rows[number])):
        numbers_ = list(run)
        if not filled:
            empty = table.TableRow(**_repeated("rows", len(numbers_)))
            empty.addElement(table.TableCell())
            made.addElement(empty)
        for number in numbers_ if filled else ():
            tell(number / sheet.height)
            made.addElement(_written_row(sheet, number, reckoner, styles))
    return made


def _repeated(what: str, count: int) -> dict[str, str]:
    return {f"number{what}repeated": str(count)} if count > 1 else {}


def _written_row(sheet: Sheet, number: int, reckoner: Reckoner, styles: _Styles) -> Any:
    row, at = table.TableRow(), 0
    for column, cell in sorted(sheet.rows[number].items()):
        if column > at:
            row.addElement(table.TableCell(**_repeated("columns", column - at)))
        row.addElement(_written_cell(cell, (sheet, number, column), reckoner, styles))
        at = column + 1
    return row


def _written_cell(cell: Cell, key: tuple[Sheet, int, int], reckoner: Reckoner, styles: _Styles) -> Any:
    if cell == EMPTY:
        return table.TableCell()
    more: dict[str, Any] = {"stylename": styles.look(cell.look)} if cell.look != PLAIN else {}
    value = reckoner.value(*key)
    if cell.is_formula:
        more["formula"] = to_open_formula(cell.written)
    if isinstance(value, float):
        percent = cell.written.rstrip().endswith("%") and not cell.is_formula
        more |= {"valuetype": "percentage" if percent else "float", "value": repr(value)}
    elif cell.written:
        more["valuetype"] = "string"
        if isinstance(value, Failure):
            more["stringvalue"] = value.name
    made = table.TableCell(**more)
    if cell.note:
        note = office.Annotation()
        note.addElement(Creator(text=""))
        for line in cell.note.split("\n"):
            note.addElement(text.P(text=line))
        made.addElement(note)
    if cell.written:
        for line in shown(value, cell.look.form).split("\n"):
            made.addElement(text.P(text=line))
    return made
