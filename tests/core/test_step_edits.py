"""Reworking a macro step by step, and where it is used."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rimecrest.core.layout import KeyBinding
from rimecrest.core.macro import Macro, format_macro, parse_macro
from rimecrest.core.macro.step_edits import double, move, mute, take_out
from rimecrest.core.macro.step_tree import Path, step_at, walk
from rimecrest.core.workspace import Bind, PutMacro, Workspace, apply, uses
from tests.samples import GREETING

TEXT = """\
macro "M"
for notes

do bold
if yes
  write "a"
  part "P"
    write "b"
  end
else
  write "c"
  write "d"
end
do rule
"""


def text_of(macro: Macro) -> list[str]:
    return [line.strip() for line in format_macro(macro).splitlines()[3:]]


@pytest.fixture
def macro() -> Macro:
    read, faults = parse_macro(TEXT)
    assert faults == []
    return read


def at(macro: Macro, words: str) -> Path:
    return next(
        path for path, step in walk(macro) if words in format_macro(Macro(steps=(step,))).split("\n")[0]
    )


def test_every_step_has_a_path_that_leads_back_to_it(macro: Macro) -> None:
    for path, step in walk(macro):
        assert step_at(macro, path) is step
    assert step_at(macro, (9, 9)) is None


@pytest.mark.parametrize("words", ["do bold", 'write "a"', 'write "b"', 'write "c"', "if yes"])
def test_muting_twice_is_nothing_at_any_depth(macro: Macro, words: str) -> None:
    path = at(macro, words)
    muted = mute(macro, path)
    assert f"~ {words}" in text_of(muted)
    assert mute(muted, path) == macro


def test_taking_out_takes_a_block_with_all_in_it(macro: Macro) -> None:
    assert text_of(take_out(macro, at(macro, "if yes"))) == ["do bold", "do rule"]
    left = text_of(take_out(macro, at(macro, 'write "c"')))
    assert 'write "c"' not in left
    assert left.index("else") < left.index('write "d"')


def test_moving_stays_within_the_row(macro: Macro) -> None:
    down = move(macro, at(macro, 'write "c"'), 1)
    assert text_of(down).index('write "d"') < text_of(down).index('write "c"')
    assert move(macro, at(macro, "do bold"), -1) == macro
    assert move(macro, at(macro, 'write "d"'), 1) == macro
    assert move(move(macro, at(macro, 'write "a"'), 1), (at(macro, "if yes")[0], 1), -1) == macro


def test_doubling_puts_a_copy_behind(macro: Macro) -> None:
    lines = text_of(double(macro, at(macro, 'write "b"')))
    assert lines.count('write "b"') == 2
    assert lines[lines.index('write "b"') + 1] == 'write "b"'


@given(
    st.lists(
        st.tuples(st.sampled_from("mtdu+"), st.lists(st.integers(0, 4), max_size=3).map(tuple)), max_size=8
    )
)
def test_any_rework_leaves_a_macro_that_is_read_back_the_same(changes: list[tuple[str, Path]]) -> None:
    macro, _ = parse_macro(TEXT)
    for name, path in changes:
        macro = {
            "m": lambda m, p: mute(m, p),
            "t": lambda m, p: take_out(m, p),
            "d": lambda m, p: move(m, p, 1),
            "u": lambda m, p: move(m, p, -1),
            "+": lambda m, p: double(m, p),
        }[name](macro, path)
    again, faults = parse_macro(format_macro(macro))
    assert faults == []
    assert format_macro(again) == format_macro(macro)


def test_uses_are_items_keys_and_other_macros(workspace: Workspace) -> None:
    runs = PutMacro("department.north", "both", 'macro "Both"\nfor notes\nrun "greeting"\n')
    workspace, _ = apply(workspace, runs)
    key = KeyBinding(keys="F9", run="macro:greeting")
    workspace, _ = apply(workspace, Bind("department.south", "notes", key))
    found = {(use.kind, use.words) for use in uses(workspace, "organisation", "greeting")}
    assert found == {
        ("item", "Everyone’s All"),
        ("key", "Everyone’s key Ctrl+J, G"),
        ("key", "South’s key F9"),
        ("macro", "the macro “Both”"),
    }
    assert uses(workspace, "department.north", "both") == []


def test_a_macro_of_the_same_id_on_a_higher_shelf_takes_its_departments_uses(workspace: Workspace) -> None:
    workspace, _ = apply(workspace, PutMacro("department.north", "greeting", GREETING))
    key = KeyBinding(keys="F9", run="macro:greeting")
    workspace, _ = apply(workspace, Bind("department.north", "notes", key))
    assert [use.words for use in uses(workspace, "department.north", "greeting")] == ["North’s key F9"]
    assert "North's key F9" not in [use.words for use in uses(workspace, "organisation", "greeting")]
