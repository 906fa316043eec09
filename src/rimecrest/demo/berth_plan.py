"""The berth plan of a week, which the demo's macros read: dealt out from a seed."""

from __future__ import annotations

import random
from functools import lru_cache

from rimecrest_standins.grid.book import Book, Cell, Sheet
from rimecrest_standins.grid.reckoner import Reckoner
from rimecrest_standins.grid.spreadsheet_writing import spreadsheet_bytes

SEED = 48
DAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")


@lru_cache(maxsize=1)
def berth_plan() -> bytes:
    """The berth plan of a week as an OpenDocument spreadsheet: a sheet for each day.

    Made once: which namespaces odfpy declares depends on what it wrote before.
    """
    chance = random.Random(SEED)
    book = Book(lambda patch: None, sheets=[])
    for day in DAYS:
        sheet = Sheet(day)
        rows = [("Sailing", "Vessel", "Berth", "Weight", "Limit")]
        for hour in range(6, 20, 2):
            vessel = chance.choice(("Brinholt", "Ovessa", "Quessel"))
            limit = {"Brinholt": 44, "Ovessa": 52, "Quessel": 36}[vessel]
            berth = chance.choice(("North", "South", "Fish quay"))
            time = f"{hour:02d}:{chance.choice((10, 25, 40, 55))}"
            rows.append((time, vessel, berth, str(limit - chance.randrange(-6, 15)), str(limit)))
        sheet.rows = [{column: Cell(text) for column, text in enumerate(row)} for row in rows]
        book.sheets.append(sheet)
    return spreadsheet_bytes(book.sheets, Reckoner(book))
