"""Reworking a macro step by step, and where it is used."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rimecrest.core.layout.layout import KeyBinding
from rimecrest.core.macro.format import format_macro
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.step_edits import (
    carry,
    double,
    move,
    mute,
    put_in,
    take_out,
    where_put,
    with_otherwise,
)
from rimecrest.core.macro.step_tree import END, FIRST, OTHERWISE, Path, step_at, walk, written
from rimecrest.core.macro.steps import Macro
from rimecrest.core.workspace.edits import Bind, apply
from rimecrest.core.workspace.file_edits import PutMacro
from rimecrest.core.workspace.where_used import uses
from rimecrest.core.workspace.workspace import Workspace
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


def test_every_line_of_the_text_is_among_the_written_ones(macro: Macro) -> None:
    marks = {OTHERWISE: "else", END: "end"}
    lines = [marks.get(path[-1]) or type(step).__name__ for path, step in written(macro)]
    assert lines == [
        *("Do", "If", "WriteText", "Part", "WriteText", "end"),
        *("else", "WriteText", "WriteText", "end", "Do"),
    ]
    assert [path for path, _ in written(macro) if path[-1] >= 0] == [path for path, _ in walk(macro)]


@pytest.mark.parametrize(
    ("behind", "before", "after"),
    [
        ((1, OTHERWISE), "else", 'write "c"'),
        ((1, END), "end", "do rule"),
        ((1, 1, END), "end", "else"),
        ((1, FIRST), "if yes", 'write "a"'),
        ((1, 2), 'write "c"', 'write "d"'),
        ((), "", "do bold"),
    ],
)
def test_steps_are_put_in_at_any_line(macro: Macro, behind: Path, before: str, after: str) -> None:
    steps = parse_macro('say "x"')[0].steps
    made = put_in(macro, behind, steps)
    lines = text_of(made)
    at = lines.index('say "x"')
    assert (lines[at - 1] if at else "", lines[at + 1]) == (before, after)
    assert step_at(made, where_put(macro, behind)) == steps[0]


def test_steps_are_carried_between_the_branches_and_out_of_the_block(macro: Macro) -> None:
    over = text_of(carry(macro, [(1, 0)], (1, OTHERWISE)))
    assert over[over.index("else") + 1] == 'write "a"'
    assert over.count('write "a"') == 1
    back = text_of(carry(macro, [(1, 3)], (1, FIRST)))
    assert back[:3] == ["do bold", "if yes", 'write "d"']
    assert back.count('write "d"') == 1
    out = text_of(carry(macro, [(1, 1)], (1, END)))
    assert out[out.index('part "P"') - 1] == "end"
    assert carry(macro, [(1,)], (1, END)) == macro


def test_an_otherwise_parts_an_if_where_it_is_put_and_goes_with_what_is_behind_it(macro: Macro) -> None:
    plain = take_out(macro, (1, OTHERWISE))
    assert text_of(plain) == [
        "do bold",
        "if yes",
        'write "a"',
        'part "P"',
        'write "b"',
        "end",
        "end",
        "do rule",
    ]
    made = with_otherwise(plain, (1, 0))
    assert made is not None
    assert text_of(made[0])[2:5] == ['write "a"', "else", 'part "P"']
    assert made[1] == (1, OTHERWISE)
    inside = with_otherwise(plain, (1, 1, 0))
    assert inside is not None
    assert text_of(inside[0])[5:8] == ["end", "else", "end"]
    for place in ((1, FIRST), (1, END)):
        end = with_otherwise(plain, place)
        assert end is not None
        assert text_of(end[0])[5:8] == ["end", "else", "end"]
    assert with_otherwise(macro, (1, 0)) is None
    assert with_otherwise(plain, (0,)) is None


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
