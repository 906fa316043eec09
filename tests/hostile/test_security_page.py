"""docs/security.md says only what tests show: each row and section names its tests, and they are there."""

from __future__ import annotations

import re
from pathlib import Path

ROOT = Path(__file__).parents[2]
PAGE = (ROOT / "docs" / "security.md").read_text()
TEST, SOURCE = (
    re.compile(r"`(tests/[a-z_/]+\.py)`"),
    re.compile(r"`((?:core|kit|formatted_text|grid|post|shell|seat)/[a-z_/]+\.py)"),
)


PACKAGES = ("rimecrest", "rimecrest_standins")


def test_every_row_of_what_is_checked_names_the_tests_that_show_it() -> None:
    table = PAGE.split("| What comes in |")[1].split("\n\n")[0]
    rows = [line for line in table.splitlines() if line.startswith("| ") and not line.startswith("| ---")]
    assert len(rows) >= 17
    for row in rows:
        assert TEST.search(row), row


def test_every_section_names_the_tests_that_show_it() -> None:
    sections = PAGE.split("\n## ")[1:]
    for section in sections:
        if not section.startswith(("Bounds", "Not promised yet")):
            assert TEST.search(section), section[:40]


def test_what_is_named_is_there() -> None:
    for name in TEST.findall(PAGE):
        assert "def test_" in (ROOT / name).read_text(), name
    for name in SOURCE.findall(PAGE):
        assert any((ROOT / "src" / package / name).is_file() for package in PACKAGES), name
