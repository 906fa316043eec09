"""people.csv: one line per seat."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable
from itertools import pairwise

from msgspec import Struct
from msgspec.structs import fields

from rimecrest.core.errors import BrokenFile
from rimecrest.core.keys.traits import Traits
from rimecrest.core.words import tr
from rimecrest.core.workspace.csv_rows import CsvRows


class Seat(Struct, frozen=True):
    """One colleague's copy of the applications on one computer.

    `departments` is separated by blanks in the file; `keyboard` is a code like `gb` or `de`; `desktop`,
    `reader` and `input` name profiles of reserved keys; `session` is `remote` for a seat that is far away.
    An empty `keyboard` or `desktop` is not known, an empty `reader` or `input` is none.
    """

    seat: str
    name: str
    departments: tuple[str, ...] = ()
    keyboard: str = ""
    desktop: str = ""
    session: str = ""
    reader: str = ""
    wave: str = "1"
    policy: str = ""
    input: str = ""

    @property
    def traits(self) -> Traits:
        """What decides which keys reach an application here."""
        return Traits(self.keyboard, self.desktop, self.session, self.reader, self.input)


SESSIONS = ("local", "remote")
POLICIES = ("restricted",)
"""Values of the columns `session` and `policy`, beside an empty cell."""

_PARTED = re.compile(r"[,;/|]")
COLUMNS = tuple(field.name for field in fields(Seat))


def parse_people(text: str, where: str = "people.csv") -> tuple[Seat, ...]:
    """Read the list. Raises BrokenFile with the line of the first one that does not fit."""
    return _seats(CsvRows(text, where), where)


def parse_pasted_people(text: str, where: str) -> tuple[Seat, ...]:
    """Read a list as people paste it: with commas, semicolons or tabs, with a line of columns or without.

    Without one the columns are those of people.csv, in its order. A department may have several words where
    commas or the like part departments: `back office, front`.

    Raises:
        BrokenFile: as `parse_people`.
    """
    text = text.removeprefix("\ufeff").strip("\n")
    first = text.partition("\n")[0]
    separator = max(",;\t", key=first.count)
    head = {name.strip().lower() for name in first.split(separator)}
    named = bool(head & set(COLUMNS))
    if named:
        text = first.lower() + text[len(first) :]
    return _seats(CsvRows(text, where, separator, None if named else COLUMNS), where)


def departments_of(text: str) -> tuple[str, ...]:
    """The departments that a cell names: separated by blanks, or, where there are any, by , ; / or |."""
    names = _PARTED.split(text) if _PARTED.search(text) else text.split()
    return tuple("-".join(name.split()) for name in names if name.strip())


def perhaps_one(seats: Iterable[Seat]) -> str:
    """Two departments that may be one of two words, as “back office”; empty where there are none.

    They are where nobody is of one of them without the other, next to it.
    """
    having = [seat.departments for seat in seats]
    for before, after in dict.fromkeys(pair for names in having for pair in pairwise(names)):
        with_either = [names for names in having if before in names or after in names]
        if all((before, after) in pairwise(names) for names in with_either):
            return f"{before} {after}"
    return ""


def _seats(rows: CsvRows, where: str) -> tuple[Seat, ...]:
    missing = {"seat", "name"} - set(rows.columns)
    if missing:
        raise BrokenFile(where, tr("the column “{column}” is missing", column=min(missing)), 1)
    seats: dict[str, Seat] = {}
    for row in rows:
        seat = (row.get("seat") or "").strip()
        if not seat:
            raise BrokenFile(where, tr("this line has no seat"), rows.line)
        if seat in seats:
            raise BrokenFile(where, tr("the seat “{seat}” stands twice", seat=seat), rows.line)
        given = {name: (row.get(name) or "").strip() for name in COLUMNS if row.get(name)}
        departments = departments_of(given.pop("departments", ""))
        seats[seat] = Seat(**{"name": "", **given, "departments": departments})  # type: ignore[arg-type]  # by name
    return tuple(seats.values())


def format_people(seats: Iterable[Seat]) -> str:
    """The text of people.csv."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(COLUMNS)
    for seat in seats:
        row = [getattr(seat, name) for name in COLUMNS]
        writer.writerow([" ".join(value) if isinstance(value, tuple) else value for value in row])
    return out.getvalue()
