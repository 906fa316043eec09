"""Reading OpenDocument spreadsheets through odfpy; CSV, both ways, through the standard library.

A spreadsheet's sheets, values, formulas, looks, widths of columns and notes are kept. What else a file has
(`unkept`) is said when it is opened, and saving then leaves the file as it is and writes another beside it.
"""

from __future__ import annotations

import csv
import io
import math
import re
import zipfile
import zlib
from collections.abc import Mapping
from itertools import islice
from pathlib import Path
from typing import IO, Any
from xml.parsers import expat
from xml.sax import SAXException

from msgspec import Struct, field
from msgspec.structs import replace
from odf import meta, style, table
from odf import number as numbers
from odf.element import Element
from odf.namespaces import METANS, OFFICENS, STYLENS, TABLENS
from odf.opendocument import load

from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import MOST, read_plain
from rimecrest.core.identities import MacroId
from rimecrest.core.progress import Tell, untold
from rimecrest.core.words import tr
from rimecrest_standins.grid.book import (
    EMPTY,
    MOST_COLUMNS,
    MOST_ROWS,
    PLAIN,
    SIDES,
    Cell,
    Look,
    Row,
    Sheet,
    bordered,
    cell_name,
)
from rimecrest_standins.grid.formulas import plain_value, shown, understood
from rimecrest_standins.grid.reckoner import Reckoner
from rimecrest_standins.grid.references import from_open_formula
from rimecrest_standins.grid.unkept import unkept

PIXELS_PER_CM = 96 / 2.54
MOST_UNPACKED = 256 * 1024 * 1024
"""Bytes of all parts of a file together: a hundred thousand rows of thirty cells have a fifth of that."""
MOST_PARTS = 10_000
XML_PARTS = ("content.xml", "styles.xml", "meta.xml", "settings.xml", "META-INF/manifest.xml")
DEEPEST = 200
"""Elements within one another: a cell with a note has a tenth of that."""
MOST_CELLS = 5_000_000
"""Filled cells of a sheet, repeated ones counted each: what is beyond is not read, and that is said."""
MOST_BLANKS = 1_000
"""Blanks that one element stands for."""
WIDEST = 2_000
"""Pixels of a column at most."""
_UNREADABLE = (
    *(zipfile.BadZipFile, zlib.error, SAXException, KeyError, AttributeError, ValueError, TypeError),
    *(OverflowError, RecursionError, EOFError, NotImplementedError, RuntimeError, expat.ExpatError),
)
"""What odfpy and the standard library's readers raise at damaged files."""
AS_TEXT = Look(form="text")
KEPT = "rimecrest macro "
"""Begins the name of a user-defined metadata field that holds a macro (OpenDocument 1.3, part 3)."""
TEMPLATE = "rimecrest template"
"""The name of the field with the template that the workbook was made from."""


# CSV


def read_csv(content: str, tell: Tell = untold) -> list[Sheet]:
    """One sheet. The separator is found out: comma, semicolon or tab. Raises RimecrestError."""
    sheet = Sheet("Sheet 1")
    try:
        dialect: Any = csv.Sniffer().sniff(content[:20_000], ",;\t")
    except csv.Error:
        dialect = csv.unix_dialect
    rows: list[Row] = []
    reader = csv.reader(io.StringIO(content, newline=""), dialect)
    try:
        for values in islice(reader, MOST_ROWS):
            tell(None)
            rows.append({at: _cell_of(value) for at, value in enumerate(values[:MOST_COLUMNS]) if value})
    except csv.Error as error:
        raise RimecrestError(
            tr("Line {line} cannot be read ({error}).", line=reader.line_num, error=error),
            tr("Is a quote not closed there?"),
        ) from None
    sheet._replace(0, 0, rows)
    return [sheet]


def _cell_of(value: str) -> Cell:
    """A cell as it stands in a file; what looks like a formula and is none that we know is text."""
    return Cell(value, AS_TEXT) if value[0] == "=" and not understood(value) else Cell(value)


_RUN_ELSEWHERE = re.compile(r"[=@\t\r]|[+-](?!\s*[0-9.,]*\s*%?\Z)")
"""Beginnings of a text that other programs take for a formula; a number with its sign is none."""
_QUOTED_ONE = re.compile(r'"\s*[=@+-]')


def run_elsewhere(sheet: Sheet, tell: Tell = untold) -> list[str]:
    """The names of cells whose text other programs would run as a formula, were it in a CSV file."""
    found = []
    for number, row in enumerate(sheet.rows):
        tell(number / len(sheet.rows))
        for column, cell in row.items():
            text = _QUOTED_ONE.search(cell.written) if cell.is_formula else _RUN_ELSEWHERE.match(cell.written)
            if text:
                found.append(cell_name(number, column))
    return found


def csv_text(sheet: Sheet, reckoner: Reckoner, tell: Tell = untold, as_text: bool = False) -> str:
    """What a sheet shows, as CSV (RFC 4180). Where a cell stands far out, rows end at their last one.

    Args:
        as_text: what other programs would run as a formula begins with an apostrophe.
    """

    def written(row: int, column: int) -> str:
        text = shown(reckoner.value(sheet, row, column), "plain")
        return f"'{text}" if as_text and _RUN_ELSEWHERE.match(text) else text

    out = io.StringIO(newline="")
    writer = csv.writer(out)
    breadth = sheet.breadth if sheet.height * sheet.breadth <= MOST_CELLS else 0
    for row in range(sheet.height):
        tell(row / sheet.height)
        cells = sheet.rows[row]
        writer.writerow(
            [
                written(row, column) if column in cells else ""
                for column in range(breadth or max(cells, default=-1) + 1)
            ]
        )
    return out.getvalue()


# OpenDocument


class Opened(Struct, frozen=True):
    """What was read; `lost` names what of the file is not kept."""

    sheets: list[Sheet]
    lost: tuple[str, ...] = ()
    macros: Mapping[str, str] = field(default_factory=dict)
    """The macros that are kept in the workbook."""
    template: str = ""
    """The name of what it was made from."""


def read_spreadsheet(path: Path, tell: Tell = untold) -> Opened:
    """Read an OpenDocument spreadsheet.

    Raises:
        RimecrestError: it is none.
    """
    content = read_plain(path, MOST)
    _check_size(path, content)
    try:
        _check_xml(content, tell)
        document = load(io.BytesIO(content))
        return _read(document, path, content, tell)
    except _UNREADABLE as error:
        raise RimecrestError(
            tr("{path} is no OpenDocument spreadsheet, or is damaged ({error}).", path=path, error=error),
            tr("Choose an .ods or .csv file, or ask for this one again."),
        ) from None


def _check_size(path: Path, content: bytes) -> None:
    """Raises RimecrestError where the file holds more than is unpacked, by what it says of its parts.

    A part that is longer than it says is cut off there by the standard library, and then damaged.
    """
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            parts = archive.infolist()
    except (zipfile.BadZipFile, ValueError, NotImplementedError) as error:
        raise RimecrestError(
            tr("{path} is no OpenDocument spreadsheet, or is damaged ({error}).", path=path, error=error),
            tr("Choose an .ods or .csv file, or ask for this one again."),
        ) from None
    unpacked = sum(part.file_size for part in parts)
    if unpacked > MOST_UNPACKED or len(parts) > MOST_PARTS:
        raise RimecrestError(
            tr("{path} holds {size:,} MiB when unpacked.", path=path, size=unpacked >> 20),
            tr("At most {most} MiB are opened; ask for a smaller one.", most=MOST_UNPACKED >> 20),
        )


def _check_xml(content: bytes, tell: Tell) -> None:
    """Read its XML to the end: odfpy passes over an error in it, and would open what came before.

    Raises:
        ExpatError: it is not well-formed, as where it was cut off.
        ValueError: it declares entities, which may double without end, or is nested too deeply.
    """
    with zipfile.ZipFile(io.BytesIO(content)) as archive:
        for name in XML_PARTS:
            if name in archive.namelist():
                with archive.open(name) as stream:
                    _Checked(tell).parse(stream)


class _Checked:
    """Counts how deep the elements stand."""

    def __init__(self, tell: Tell) -> None:
        self._depth = 0
        self._tell = tell
        self._parser = expat.ParserCreate()
        self._parser.StartElementHandler = self._begun
        self._parser.EndElementHandler = self._ended
        self._parser.EntityDeclHandler = self._declared

    def parse(self, stream: IO[bytes]) -> None:
        self._parser.ParseFile(stream)

    def _begun(self, _name: str, _attributes: Any) -> None:
        self._tell(None)
        self._depth += 1
        if self._depth > DEEPEST:
            raise ValueError(tr("its elements are nested more than {most} deep", most=DEEPEST))

    def _ended(self, _name: str) -> None:
        self._depth -= 1

    def _declared(self, *_entity: Any) -> None:
        raise ValueError(tr("it declares entities"))


def _read(document: Any, path: Path, content: bytes, tell: Tell) -> Opened:
    if document.spreadsheet is None:
        raise RimecrestError(
            tr("{path} is an OpenDocument file, but no spreadsheet.", path=path), tr("Choose an .ods file.")
        )
    looks = _looks(document)
    widths = _widths(document)
    sheets, lost = [], set()
    for element in document.spreadsheet.getElementsByType(table.Table):
        sheet, cut = _read_sheet(element, looks, widths, tell)
        sheets.append(sheet)
        if cut:
            lost.add(tr("rows beyond the last that fits"))
    if not sheets:
        sheets = [Sheet("Sheet 1")]
    macros: dict[str, str] = {}
    template = ""
    for each in document.getElementsByType(meta.UserDefined):
        name = _attribute(each, METANS, "name")
        if name.startswith(KEPT):
            try:
                macros[MacroId(name.removeprefix(KEPT))] = _text(each)
            except RimecrestError:
                lost.add(tr("a macro whose name is none"))
        elif name == TEMPLATE:
            template = _text(each)
    return Opened(sheets, (*unkept(content), *sorted(lost)), macros, template)


def _attribute(element: Element, namespace: str, name: str) -> str:
    return str(element.attributes.get((namespace, name), ""))


def _is_line(values: Mapping[str, str], side: str) -> bool:
    """Whether a cell has a line at a side (OpenDocument 1.3, 20.183: fo:border and its four sides)."""
    line = values.get(f"border-{side}", values.get("border", "none"))
    return line not in ("none", "hidden", "")


def _looks(document: Any) -> dict[str, Look]:
    found: dict[str, Look] = {}
    forms = {
        _attribute(each, STYLENS, "name"): _form_of(each)
        for kind in (numbers.NumberStyle, numbers.PercentageStyle, numbers.TextStyle)
        for each in document.getElementsByType(kind)
    }
    for each in document.getElementsByType(style.Style):
        if _attribute(each, STYLENS, "family") != "table-cell":
            continue
        look = PLAIN
        if (form := forms.get(_attribute(each, STYLENS, "data-style-name"))) is not None:
            look = replace(look, form=form)
        for child in each.childNodes:
            values = {name: str(value) for (_, name), value in child.attributes.items()}
            if child.qname[1] == "text-properties":
                look = replace(
                    look,
                    bold=values.get("font-weight") == "bold",
                    slanted=values.get("font-style") == "italic",
                    underlined=values.get("text-underline-style", "none") != "none",
                    ink=_colour(values.get("color", "")),
                )
            elif child.qname[1] == "table-cell-properties":
                look = replace(look, ground=_colour(values.get("background-color", "")))
                look = bordered(look, [side for side in SIDES if _is_line(values, side)])
            elif child.qname[1] == "paragraph-properties":
                side = {"center": "centre", "end": "right", "right": "right", "start": "left", "left": "left"}
                look = replace(look, side=side.get(values.get("text-align", ""), ""))
        found[_attribute(each, STYLENS, "name")] = look
    return found


def _colour(value: str) -> str:
    return value.upper() if len(value) == 7 and value.startswith("#") else ""


def _form_of(element: Any) -> str:
    if element.qname[1] == "percentage-style":
        return "percent"
    if element.qname[1] == "text-style":
        return "text"
    for child in element.getElementsByType(numbers.Number):
        places = child.getAttribute("decimalplaces")
        grouped = str(child.getAttribute("grouping")) == "true"
        if grouped and str(places) in ("0", "2"):
            return "whole" if str(places) == "0" else "hundredths"
    return "plain"


def _widths(document: Any) -> dict[str, int]:
    found = {}
    for each in document.getElementsByType(style.Style):
        if _attribute(each, STYLENS, "family") == "table-column":
            for child in each.childNodes:
                width = next((str(v) for (_, n), v in child.attributes.items() if n == "column-width"), "")
                centimetres = _number(width.removesuffix("cm"))
                if width.endswith("cm") and centimetres is not None:
                    pixels = round(min(max(centimetres * PIXELS_PER_CM, 1), WIDEST))
                    found[_attribute(each, STYLENS, "name")] = pixels
    return found


def _read_sheet(
    element: Any, looks: dict[str, Look], widths: dict[str, int], tell: Tell
) -> tuple[Sheet, bool]:
    sheet = Sheet(_attribute(element, TABLENS, "name") or "Sheet")
    column = 0
    for each in element.getElementsByType(table.TableColumn):
        count = _count(each, "number-columns-repeated")
        width = widths.get(_attribute(each, TABLENS, "style-name"))
        if width is not None and count < 1000:
            sheet.widths |= dict.fromkeys(range(column, column + count), width)
        column += count
    rows: list[Row] = []
    empty, cells, cut = 0, 0, False
    elements = element.getElementsByType(table.TableRow)
    for at, each in enumerate(elements):
        tell(at / len(elements))
        count = _count(each, "number-rows-repeated")
        row = _read_row(each, looks)
        if not row:
            empty += count  # empty rows at the end of a sheet are many, and hold nothing
            continue
        cells += len(row) * count
        if len(rows) + empty + count > MOST_ROWS or cells > MOST_CELLS:
            cut = True
            break
        rows += [{}] * empty + [row] * count
        empty = 0
    sheet._replace(0, 0, rows)
    return sheet, cut


def _read_row(element: Any, looks: dict[str, Look]) -> Row:
    row: dict[int, Cell] = {}
    column = 0
    for each in element.childNodes:
        if each.qname not in ((TABLENS, "table-cell"), (TABLENS, "covered-table-cell")):
            continue
        count = _count(each, "number-columns-repeated")
        cell = _read_cell(each, looks)
        if cell != EMPTY and column < MOST_COLUMNS:
            row |= dict.fromkeys(range(column, min(column + count, MOST_COLUMNS)), cell)
        column += count
    return row


def _read_cell(element: Any, looks: dict[str, Look]) -> Cell:
    look = looks.get(_attribute(element, TABLENS, "style-name"), PLAIN)
    notes = [child for child in element.childNodes if child.qname == (OFFICENS, "annotation")]
    note = "\n".join(_text(p) for n in notes for p in n.childNodes if p.qname[1] == "p")
    words = "\n".join(_text(child) for child in element.childNodes if child.qname[1] == "p")
    formula = _attribute(element, TABLENS, "formula")
    kind = _attribute(element, OFFICENS, "value-type")
    value = _attribute(element, OFFICENS, "value")
    if formula:
        written = from_open_formula(formula)
    elif kind in ("float", "percentage", "currency") and (number := _number(value)) is not None:
        written = f"{number * 100:g}%" if kind == "percentage" else shown(number, "plain")
    else:
        written = words
        if kind == "string" and isinstance(plain_value(Cell(words)), float):
            look = replace(look, form="text")  # digits that are words, not a number
    if not written and not note:
        return Cell(look=look) if look != PLAIN else EMPTY
    return Cell(written, look, note)


def _number(written: str) -> float | None:
    """A finite number; None where it is none."""
    try:
        number = float(written)
    except ValueError:
        return None
    return number if math.isfinite(number) else None


def _count(element: Any, name: str) -> int:
    """How often something is repeated: once where that is no number of times."""
    digits = _attribute(element, TABLENS, name)
    return max(int(digits[:12]), 1) if digits.isdecimal() and digits.isascii() else 1


def _text(element: Any) -> str:
    if element.nodeType == element.TEXT_NODE:
        return str(element.data)
    if element.qname[1] == "s":
        blanks = str(element.attributes.get((element.qname[0], "c"), 1))
        return " " * (min(int(blanks[:4]), MOST_BLANKS) if blanks.isdecimal() else 1)
    return "".join(_text(child) for child in element.childNodes)
