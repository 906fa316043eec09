"""No regular expression takes longer than what it reads is long, whatever is written there.

A pattern that can split what it read in many ways tries them all where the end does not fit: of sixty quotes
it does not come back. Each pattern of each module is given nasty texts of twice the length, and ends.
"""

from __future__ import annotations

import importlib
import pkgutil
import re
from itertools import product

import pytest

import rimecrest
import rimecrest_standins

PIECES = (
    "'",
    '"',
    "''",
    "[",
    "]",
    "{",
    "}",
    "\\",
    " ",
    "a",
    "A1",
    "0",
    "-",
    ".",
    "$",
    ":",
    "=",
    "%",
    "#",
    "/",
)


def patterns() -> list[tuple[str, re.Pattern[str]]]:
    """Every pattern of texts that a module holds, by name."""
    found = {}
    packages = [*pkgutil.walk_packages(rimecrest.__path__, "rimecrest.")]
    packages += pkgutil.walk_packages(rimecrest_standins.__path__, "rimecrest_standins.")
    for module in packages:
        if module.name.endswith("__main__"):
            continue
        for name, value in vars(importlib.import_module(module.name)).items():
            if isinstance(value, re.Pattern) and isinstance(value.pattern, str):
                found[value.pattern] = f"{module.name}.{name}", value
    return sorted(found.values())


PATTERNS = patterns()


def test_there_are_patterns_to_try() -> None:
    assert len(PATTERNS) > 20


@pytest.mark.parametrize("pattern", [pattern for _, pattern in PATTERNS], ids=[name for name, _ in PATTERNS])
def test_a_pattern_comes_to_an_end_on_texts_of_twice_the_length(pattern: re.Pattern[str]) -> None:
    for one, other in product(PIECES, repeat=2):
        for length in (150, 300):
            # An opening bracket before, as formulas in files have it.
            text = one + (other * length)[:length] + "\n!"
            pattern.fullmatch(text)
            pattern.match(text)
            pattern.sub("", text)
