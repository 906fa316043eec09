"""What Grid says of a sheet in its lines: the total of what is chosen, and which rows are seen."""

from __future__ import annotations

from collections.abc import Sequence

from rimecrest.core.words import counted, tr
from rimecrest_standins.grid.book import letters_of
from rimecrest_standins.grid.formulas import shown


def total_words(numbers: Sequence[float]) -> str:
    """The total of some numbers; empty for none."""
    if not numbers:
        return ""
    return tr("Sum {total} · {number} numbers", total=shown(sum(numbers), "plain"), number=len(numbers))


def filter_words(heading: str, column: int, text: str, hidden: int) -> str:
    """Which rows are seen, and how many are not; a column without a heading is called by its letters."""
    return tr(
        "Only {heading} = “{text}”: {hidden} hidden",
        heading=heading or tr("column {letters}", letters=letters_of(column)),
        text=text,
        hidden=counted(hidden, tr("row")),
    )
