"""Changing words and steps of a macro, and what could be written next."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rimecrest.core.errors import RimecrestError
from rimecrest.core.macro.complete import completions, names_set
from rimecrest.core.macro.field_edits import field_text, with_field
from rimecrest.core.macro.format import format_macro
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.sentences import pieces, sentence
from rimecrest.core.macro.step_edits import ask_for, carry, gather, outermost, put_in, take_all_out
from rimecrest.core.macro.step_tree import Path, walk
from rimecrest.core.macro.steps import Macro
from tests.samples import CATALOGUE


def macro(text: str) -> Macro:
    made, faults = parse_macro(text)
    assert not faults, faults
    return made


def lines(made: Macro) -> list[str]:
    return format_macro(made).rstrip("\n").split("\n")


ALL = 'do size to=12\npart "P"\n  write "a"\n  do bold on=yes\nend\nsay "b"\nstop'


@pytest.mark.parametrize(
    ("line", "field", "value", "made"),
    [
        ("do size to=12", "setting to", "14", "do size to=14"),
        ("do size to=12", "setting to", " 14 ", "do size to=14"),
        ("do size to=12", "setting to", "{big}", 'do size to="{big}"'),
        ("do bold", "setting on", "yes", "do bold on=yes"),
        ("do align to=left", "setting to", "centre", "do align to=centre"),
        ('write "a"', "text", 'b "{c}"', 'write "b \\"{c}\\""'),
        ('ask who "Who?"', "choices", "Brinholt, Quessel,", 'ask who "Who?" choices "Brinholt", "Quessel"'),
        ('ask who "Who?"', "prompt", "Whom?", 'ask who "Whom?"'),
        ('ask who "Who?"', "name", "whom", 'ask whom "Who?"'),
        ("set n = 1", "value", "n + 2 * 3", "set n = n + 2 * 3"),
        ('part "A"\nend', "title", "B", 'part "B"\nend'),
        ("if yes\nend", "condition", "here.row > 3", "if here.row > 3\nend"),
        ("while yes limit 5\nend", "limit", "1,000", "while yes limit 1000\nend"),
        ("repeat 2 times\nend", "times", "3", "repeat 3 times\nend"),
        ("for each h in headings\nend", "reading", "chosen.text", "for each h in chosen.text\nend"),
        ('say "a"', "text", "b", 'say "b"'),
        ('run "one"', "macro", "two", 'run "two"'),
    ],
)
def test_one_word_of_a_step_is_changed(line: str, field: str, value: str, made: str) -> None:
    step = with_field(macro(line).steps[0], field, value, CATALOGUE)
    assert "\n".join(lines(Macro(steps=(step,)))) == made
    assert field in {piece.field for piece in pieces(step, CATALOGUE)}


@pytest.mark.parametrize(
    ("line", "field", "value", "says"),
    [
        ("do size to=12", "setting to", "200", "To lies from 8 to 96"),
        ("do size to=12", "setting to", "big", "To is a whole number"),
        ("do align to=left", "setting to", "centred", "did you mean centre"),
        ("set n = 1", "value", "1 +", "cannot be worked out"),
        ("set n = 1", "value", "1\nstop", "cannot be worked out"),
        ('ask who "Who?"', "name", "Who Is", "is no name"),
        ("while yes limit 5\nend", "limit", "many", "is no whole number"),
    ],
)
def test_a_word_that_does_not_fit_is_refused(line: str, field: str, value: str, says: str) -> None:
    with pytest.raises(RimecrestError, match=says):
        with_field(macro(line).steps[0], field, value, CATALOGUE)


def test_a_field_is_edited_as_it_was_written() -> None:
    step = macro('do size to="{n}"').steps[0]
    assert field_text(step, "setting to") == "{n}"
    assert field_text(macro("set n = 1 + 2").steps[0], "value") == "1 + 2"


def test_settings_that_were_not_given_are_offered_but_not_said() -> None:
    step = macro("do align").steps[0]
    assert sentence(step, CATALOGUE) == "Align"
    assert [(piece.text, piece.field) for piece in pieces(step, CATALOGUE) if piece.field] == [
        ("left", "setting to")
    ]


@pytest.mark.parametrize(
    ("paths", "behind", "result"),
    [
        (
            [(0,)],
            (3,),
            ['part "P"', '  write "a"', "  do bold on=yes", "end", 'say "b"', "stop", "do size to=12"],
        ),
        (
            [(3,)],
            (),
            ["stop", "do size to=12", 'part "P"', '  write "a"', "  do bold on=yes", "end", 'say "b"'],
        ),
        (
            [(2,)],
            (1, -1),
            ["do size to=12", 'part "P"', '  say "b"', '  write "a"', "  do bold on=yes", "end", "stop"],
        ),
        (
            [(1, 0)],
            (0,),
            ["do size to=12", 'write "a"', 'part "P"', "  do bold on=yes", "end", 'say "b"', "stop"],
        ),
        (
            [(0,), (2,)],
            (1, 1),
            ['part "P"', '  write "a"', "  do bold on=yes", "  do size to=12", '  say "b"', "end", "stop"],
        ),
        ([(1,)], (1, 0), ALL.split("\n")),
    ],
)
def test_steps_are_carried_to_another_place(paths: list[Path], behind: Path, result: list[str]) -> None:
    assert lines(carry(macro(ALL), paths, behind)) == result


every = st.sets(st.sampled_from([path for path, _ in walk(macro(ALL))]), min_size=1)


@given(every, st.sampled_from([(), (1, -1), *(path for path, _ in walk(macro(ALL)))]))
def test_carrying_loses_no_step(paths: set[Path], behind: Path) -> None:
    before = macro(ALL)
    after = carry(before, paths, behind)
    assert sorted(line.strip() for line in lines(after)) == sorted(line.strip() for line in lines(before))


@given(every)
def test_cut_and_put_in_again_is_nothing(paths: set[Path]) -> None:
    before = macro(ALL)
    chosen = outermost(paths)
    rest = take_all_out(before, chosen)
    assert sum(1 for _ in walk(rest)) == sum(1 for _ in walk(before)) - sum(
        1 for path, _ in walk(before) if any(path[: len(each)] == each for each in chosen)
    )


def test_steps_in_a_row_are_gathered_into_a_part() -> None:
    before = macro('write "a"\nwrite "b"\nsay "c"')
    after = gather(before, [(0,), (1,)], "Both")
    assert lines(after) == ['part "Both"', '  write "a"', '  write "b"', "end", 'say "c"']
    assert gather(macro(ALL), [(0,), (1, 0)], "No") == macro(ALL)


def test_a_text_is_asked_for() -> None:
    assert lines(ask_for(macro('write "Brinholt"'), (0,))) == [
        'ask text "What to write?" default "Brinholt"',
        'write "{text}"',
    ]
    assert ask_for(macro("stop"), (0,)) == macro("stop")


def test_steps_are_put_in_anywhere() -> None:
    row = macro("stop").steps
    assert lines(put_in(macro('say "a"'), (), row)) == ["stop", 'say "a"']
    assert lines(put_in(macro('say "a"'), (0,), row)) == ['say "a"', "stop"]
    assert lines(put_in(Macro(), (), row)) == ["stop"]
    assert put_in(macro('say "a"'), (7,), row) == macro('say "a"')


@pytest.mark.parametrize(
    ("line", "typed", "offered"),
    [
        ("wr", "wr", ["write"]),
        ("  ~ d", "d", ["do"]),
        ("do b", "b", ["bare", "bold"]),
        ("do align ", "", ["to="]),
        ("do align to=", "", ["centre", "left"]),
        ("do align to=c", "c", ["centre"]),
        ("do bold on=", "", ["flip", "no", "yes"]),
        ("do nothing ", "", []),
        ('write "Dear {w', "w", ["who"]),
        ('write "Dear {to', "to", ["today.weekday"]),
        ('write "Dear w', "", []),
        ('run "gr', "gr", ["greeting"]),
        ("needs context w", "w", ["writing"]),
        ('ask day "Which?" from ', "", ["headings"]),
        ('ask day "Which?" ch', "ch", ["choices"]),
        ("if chosen.", "chosen.", ["chosen.text"]),
        ("set n = w", "w", ["who"]),
        ("for ", "", ["each", "notes"]),
    ],
)
def test_what_could_be_written_next(line: str, typed: str, offered: list[str]) -> None:
    assert completions(line, CATALOGUE, ["who"], ["greeting"]) == (typed, offered)


def test_names_are_those_that_are_asked_for_and_set() -> None:
    assert names_set(macro('ask a "A?"\nset b = 1\nfor each c in headings\n  set a = 2\nend')) == [
        "a",
        "b",
        "c",
    ]
