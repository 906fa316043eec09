"""The tables of what is checked: kinds, rules, remedies and the page that tells of them say the same."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from rimecrest.core.check.kinds import KINDS, Remedy
from rimecrest.core.check.rules import RULES
from rimecrest.core.mend.make_fixes import MAKERS
from tests.core import test_conflicts, test_key_rules, test_seen_through

ROOT = Path(__file__).parents[2]
PAGE = (ROOT / "docs" / "conflicts.md").read_text("utf-8")


def test_every_kind_is_found_by_a_rule_and_every_rule_finds_known_kinds() -> None:
    assert {kind for rule in RULES for kind in rule.kinds} == set(KINDS)


def test_every_remedy_is_made_and_wanted() -> None:
    assert set(MAKERS) == set(Remedy)
    assert {remedy for kind in KINDS.values() for remedy in kind.remedies} == set(Remedy)


def test_the_page_on_conflicts_tells_each_kind_with_its_weight_in_the_order_of_the_table() -> None:
    rows = re.findall(r"^\| `([a-z-]+)` \|.*\| (\w+)[^|]*\|$", PAGE, re.MULTILINE)
    assert rows == [(kind, row.weight.value) for kind, row in KINDS.items()]


def test_every_kind_has_an_example_and_a_near_miss_in_one_of_the_tables() -> None:
    # Each table is gone through by a test of its own that runs both.
    rows = [*test_conflicts.CASES, *test_key_rules.CASES.values(), *test_seen_through.ROWS.values()]
    assert {row.kind for row in rows} == set(KINDS)
    assert {row.kind for row in rows if row.near_miss} == set(KINDS)


def pages() -> list[tuple[Path, str]]:
    """(file, the page it cites) wherever a docstring or comment cites a page of docs/."""
    found = []
    for path in sorted((ROOT / "src").rglob("*.py")):
        found += [(path, page) for page in re.findall(r"docs/[\w./-]+\.md", path.read_text("utf-8"))]
    return found


@pytest.mark.parametrize(("path", "page"), pages(), ids=lambda part: str(part).rpartition("/")[2])
def test_every_page_that_the_code_cites_is_there(path: Path, page: str) -> None:
    assert (ROOT / page).is_file(), f"{path} cites {page}"


def test_every_heading_that_the_code_cites_stands_on_its_page() -> None:
    missing = []
    for path in sorted((ROOT / "src").rglob("*.py")):
        text = path.read_text("utf-8")
        for page, heading in re.findall(r"\((docs/[\w./-]+\.md),\s+\"([^\"]+)\"", text):
            if f"## {heading}\n" not in (ROOT / page).read_text("utf-8"):
                missing.append(f"{path.name}: {page}, {heading}")
    assert not missing
