"""What is worked out once: found again while the things are the same, worked out anew when one is another."""

from __future__ import annotations

from rimecrest.core.remembered import Remembered
from rimecrest.core.workspace.edits import SetFields, apply
from rimecrest.core.workspace.workspace import Workspace
from tests.samples import LAYOUTS

STACK = ("organisation", "department.north")


def test_it_is_made_once_for_the_same_things() -> None:
    made: list[int] = []
    known: Remembered[int] = Remembered(10)
    thing, other = [1], [1]
    assert known.of((thing,), ("a",), lambda: made.append(1) or 7) == 7
    assert known.of((thing,), ("a",), lambda: made.append(2) or 8) == 7
    assert known.of((thing,), ("b",), lambda: made.append(3) or 9) == 9
    assert known.of((other,), ("a",), lambda: made.append(4) or 10) == 10  # equal is not the same
    assert made == [1, 3, 4]


def test_a_thing_that_nobody_else_has_any_more_is_not_taken_for_another() -> None:
    known: Remembered[int] = Remembered(1_000)
    # Each list goes at once, and Python would give its place in memory, its `id`, to the next.
    assert [known.of(([number],), (), lambda number=number: number) for number in range(500)] == [*range(500)]


def test_of_too_many_the_oldest_go() -> None:
    known: Remembered[int] = Remembered(2)
    things = [[0], [1], [2]]
    for number, thing in enumerate(things):
        known.of((thing,), (), lambda number=number: number)
    assert known.of((things[2],), (), lambda: -1) == 2
    assert known.of((things[0],), (), lambda: -1) == -1


def test_an_edit_leaves_what_it_does_not_touch_the_same_objects(workspace: Workspace) -> None:
    layout = next(layout for layout in LAYOUTS if layout.layer == "department.north")
    row = next(row for row in layout.rows() if row.items)
    others = [other for other in layout.rows() if other is not row]
    edit = SetFields(layout.layer, layout.app, f"{layout.layer}:{row.items[0].id}", {"label": "Other words"})
    after, _ = apply(workspace, edit)
    changed = after.layout(layout.layer, layout.app)
    assert next(r for r in changed.rows() if r.id == row.id) is not row
    for other in others:
        assert next(r for r in changed.rows() if r.id == other.id) is other


def test_what_is_seen_is_the_same_object_until_something_of_it_changes(workspace: Workspace) -> None:
    before = workspace.outcome(STACK, "notes")
    layout = next(layout for layout in LAYOUTS if layout.layer == "department.north")
    item = next(row.items[0] for row in layout.rows() if row.items)
    identity = f"{layout.layer}:{item.id}"
    after, _ = apply(workspace, SetFields(layout.layer, "notes", identity, {"label": "Other words"}))
    now = after.outcome(STACK, "notes")
    assert now.button(identity).label == "Other words"
    assert before.button(identity).label != "Other words"
    same = [row for row in now.rows() if row.id != now.row_of(identity).id]
    for row in same:
        assert row == before.row(row.id)
    groups = [group for tab in now.tabs for group in tab.groups if group.id != now.row_of(identity).id]
    assert groups
    assert all(group is before.row(group.id) for group in groups)


def test_a_macro_of_another_name_is_seen_by_it(workspace: Workspace) -> None:
    button = next(
        item
        for _, item in workspace.outcome(STACK, "notes").buttons()
        if (item.run or "").startswith("macro:")
    )
    name = button.run.removeprefix("macro:")
    layer = next(layer for (layer, macro) in workspace.macros if macro == name)
    text = workspace.macros[layer, name].text
    after = workspace.with_macro(layer, name, text.replace('macro "', 'macro "New ', 1))
    assert after.outcome(STACK, "notes").button(button.id).label == f"New {button.label}"
