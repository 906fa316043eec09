"""people.csv: one line per seat."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from dataclasses import dataclass, fields

from rimecrest.core.errors import BrokenFile
from rimecrest.core.keys import Traits
from rimecrest.core.words import tr
from rimecrest.core.workspace.csv_rows import CsvRows


@dataclass(frozen=True, slots=True)
class Seat:
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


COLUMNS = tuple(field.name for field in fields(Seat))


def parse_people(text: str, where: str = "people.csv") -> tuple[Seat, ...]:
    """Read the list. Raises BrokenFile with the line of the first one that does not fit."""
    rows = CsvRows(text, where)
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
        departments = tuple(given.pop("departments", "").split())
        seats[seat] = Seat(**{**given, "departments": departments})  # type: ignore[arg-type]
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
