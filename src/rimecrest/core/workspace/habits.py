"""What is known of the colleagues' habits: how often they use what (use.csv), and which keys they made
themselves (own-keys.csv). Neither file need be there.

Both are sums over thirty days, never contents or times of day. The specialist brings them along.
A line of use.csv whose `basis` is `estimated` is the specialist's guess and is told as such.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable, Mapping

from msgspec import Struct, field
from msgspec.structs import replace

from rimecrest.core.errors import BrokenFile, RimecrestError
from rimecrest.core.keys.chords import normalise
from rimecrest.core.keys.contexts import ANYWHERE
from rimecrest.core.words import tr
from rimecrest.core.workspace.csv_rows import CsvRows

_USES = re.compile(r"[0-9]{1,12}", re.ASCII)
BASES = ("counted", "estimated")


class UseCount(Struct, frozen=True):
    """How often all colleagues together ran one target in thirty days."""

    app: str
    target: str
    uses: int
    counted: bool = True


class OwnKey(Struct, frozen=True):
    """A key that a colleague made in one application, as their seat told."""

    seat: str
    app: str
    keys: str
    run: str
    context: str = ANYWHERE


class Habits(Struct, frozen=True):
    """Everything known of use and of keys of one's own."""

    counts: dict[tuple[str, str], UseCount] = field(default_factory=dict)
    """(application, target) → its count."""
    own_keys: tuple[OwnKey, ...] = ()

    def followed(self, renamed: Mapping[str, Mapping[str, str]]) -> Habits:
        """The same with the commands that applications have renamed since under the ids of today.

        Args:
            renamed: application → former id → id of today.
        """
        if not any(renamed.values()):
            return self

        def today(app: str, target: str) -> str:
            return renamed.get(app, {}).get(target, target)

        counts: dict[tuple[str, str], UseCount] = {}
        for count in self.counts.values():
            key = (count.app, today(count.app, count.target))
            more = counts[key].uses if key in counts else 0
            counts[key] = replace(count, target=key[1], uses=count.uses + more)
        own = tuple(replace(key, run=today(key.app, key.run)) for key in self.own_keys)
        return Habits(counts, own)

    def uses(self, app: str, target: str | None) -> int | None:
        """Uses in thirty days; None where nothing is known of that application."""
        found = self.counts.get((app, target or ""))
        if found is not None:
            return found.uses
        return 0 if app in self.known_apps else None

    @property
    def known_apps(self) -> frozenset[str]:
        return frozenset(app for app, _ in self.counts)


def parse_use(text: str, where: str = "use.csv") -> dict[tuple[str, str], UseCount]:
    """Read use.csv. Raises BrokenFile with the line of the first one that does not fit."""
    found: dict[tuple[str, str], UseCount] = {}
    for line, row in _rows(text, where, ("application", "target", "uses")):
        number = row["uses"]
        basis = row.get("basis") or BASES[0]
        if not _USES.fullmatch(number):
            raise BrokenFile(where, tr("“{number}” is no number of uses", number=number), line)
        if basis not in BASES:
            raise BrokenFile(where, tr("the basis is “{basis}”, not counted or estimated", basis=basis), line)
        key = (row["application"], row["target"])
        if key in found:
            raise BrokenFile(where, tr("“{row}” stands twice", row=row["target"]), line)
        found[key] = UseCount(*key, int(number), basis == BASES[0])
    return found


def parse_own_keys(text: str, where: str = "own-keys.csv") -> tuple[OwnKey, ...]:
    """Read own-keys.csv. Raises BrokenFile with the line of the first one that does not fit."""
    found = []
    for line, row in _rows(text, where, ("seat", "application", "keys", "run")):
        try:
            keys = normalise(row["keys"])
        except RimecrestError as error:
            raise BrokenFile(where, error.sentence.rstrip("."), line) from None
        found.append(
            OwnKey(row["seat"], row["application"], keys, row["run"], row.get("context") or ANYWHERE)
        )
    return tuple(found)


def _rows(text: str, where: str, needed: tuple[str, ...]) -> Iterable[tuple[int, dict[str, str]]]:
    rows = CsvRows(text, where)
    for column in needed:
        if column not in rows.columns:
            raise BrokenFile(where, tr("the column “{column}” is missing", column=column), 1)
    for row in rows:
        given = {
            name: (value or "").strip() for name, value in row.items() if name and not isinstance(value, list)
        }
        for column in needed:
            if not given.get(column):
                raise BrokenFile(where, tr("this line has no {column}", column=column), rows.line)
        yield rows.line, given


def format_use(counts: Iterable[UseCount]) -> str:
    """The text of use.csv."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(("application", "target", "uses", "basis"))
    for count in counts:
        writer.writerow((count.app, count.target, count.uses, BASES[0 if count.counted else 1]))
    return out.getvalue()


def format_own_keys(keys: Iterable[OwnKey]) -> str:
    """The text of own-keys.csv."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(("seat", "application", "context", "keys", "run"))
    for key in keys:
        writer.writerow((key.seat, key.app, key.context, key.keys, key.run))
    return out.getvalue()
