"""What a colleague reads of two outcomes: losses first, and a surface of which nothing is left only once."""

from __future__ import annotations

from rimecrest.core.layout.compare import compare
from rimecrest.core.layout.layout import Layout
from rimecrest.core.workspace.workspace import Workspace

STACK = ("organisation", "department.freight")


def told(demo: Workspace, *hidden: str) -> list[str]:
    """The sentences when the freight desk hides some buttons."""
    before = demo.outcome(STACK, "letters")
    layout = demo.layout("department.freight", "letters")
    data = {**layout.to_data(), "app": "letters", "layer": "department.freight"}
    data["hide"] = [*data.get("hide", []), *hidden]
    after = demo.with_layout(Layout.model_validate(data)).outcome(STACK, "letters")
    return [difference.sentence for difference in compare(before, after, demo.targets(STACK, "letters"))]


def test_a_tab_of_which_nothing_is_left_is_told_once(demo: Workspace) -> None:
    seen = demo.outcome(STACK, "letters")
    on_insert = [item.id for row, item in seen.buttons() if seen.whereabouts(row) == "tab Insert"]
    assert len(on_insert) > 3
    assert told(demo, *on_insert) == ["The tab Insert is gone, with all that was on it."]
    assert len(told(demo, *on_insert[1:])) == len(on_insert) - 1
