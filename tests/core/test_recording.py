"""A recording as a value: what each event makes of the steps, and the macro that comes of them."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rimecrest.core.catalogue.arguments import Argument, ArgumentType
from rimecrest.core.catalogue.catalogue import Command
from rimecrest.core.macro.bounds import DEEPEST_EXPRESSION, LONGEST_TEXT
from rimecrest.core.macro.check import check_macro
from rimecrest.core.macro.field_edits import with_head
from rimecrest.core.macro.format import format_macro
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.record import Recording, asking, literal, step_of
from rimecrest.core.macro.steps import If, Macro, WriteText
from tests.samples import CATALOGUE

WORDS = st.text(st.sampled_from("ab {}\n“"), max_size=12)


def command(*arguments: Argument) -> Command:
    return Command(id="notes:do", name="Do", arguments=arguments)


def steps(recording: Recording) -> str:
    """The steps as they are written."""
    return format_macro(recording.macro("R", "notes")).split("for notes\n", 1)[1].strip()


def test_a_macro_of_a_recording_begins_with_its_name_purpose_and_application() -> None:
    text = format_macro(Recording().typed("Dear").macro("Greets", "notes"))
    assert text == 'macro "Greets"\nabout ""\nfor notes\n\nwrite "Dear"\n'


@pytest.mark.parametrize(
    ("kind", "value", "written"),
    [
        (ArgumentType.TEXT, "left", 'at="left"'),
        (ArgumentType.TEXT, "{a}", 'at="{{a}}"'),
        (ArgumentType.PATH, "a.txt", 'at="a.txt"'),
        (ArgumentType.COLOUR, "#102030", 'at="#102030"'),
        (ArgumentType.ADDRESS, "https://a.example", 'at="https://a.example"'),
        (ArgumentType.CHOICE, "left", "at=left"),
        (ArgumentType.CHOICE, "far left", 'at="far left"'),
        (ArgumentType.NUMBER, "-1.5", "at=-1.5"),
        (ArgumentType.WHOLE, "12", "at=12"),
        (ArgumentType.SWITCH, "yes", "at=yes"),
    ],
)
def test_a_setting_is_quoted_where_a_macro_needs_it(kind: ArgumentType, value: str, written: str) -> None:
    made = Recording().did(command(Argument(name="at", type=kind)), {"at": value})
    assert steps(made) == f"do do {written}"


def test_a_setting_that_is_the_usual_one_is_left_out_unless_it_is_a_switch() -> None:
    both = command(
        Argument(name="to", type=ArgumentType.WHOLE, default="3"),
        Argument(name="on", type=ArgumentType.SWITCH, default="yes"),
    )
    assert steps(Recording().did(both, {"to": "3", "on": "yes"})) == "do do on=yes"
    assert steps(Recording().did(both, {"to": "4", "on": "yes"})) == "do do to=4 on=yes"
    assert step_of(both, {"other": "it is kept"}).settings[0].quoted


def test_typing_goes_on_with_a_text_until_something_else_is_done() -> None:
    made = Recording().typed("De").typed("ar {")
    assert steps(made) == 'write "Dear {{"'
    assert steps(made.closed().typed("A")) == 'write "Dear {{"\nwrite "A"'
    assert steps(made.typed("A", replaces=True)) == 'write "Dear {{"\nwrite "A"'
    assert steps(made.ran("closing").typed("A")) == 'write "Dear {{"\nrun "closing"\nwrite "A"'
    assert steps(made.lost("a drag")) == 'write "Dear {{"\n# Not recorded: a drag'
    assert steps(made.ran("closing").without_last()) == 'write "Dear {{"'
    assert steps(made.ran("closing").typed("A").without_last()) == 'write "Dear {{"\nrun "closing"'


@given(WORDS, st.integers(min_value=-1, max_value=14))
def test_what_is_taken_back_of_a_text_is_out_of_it_again(text: str, count: int) -> None:
    left = Recording().ran("closing").typed(text).took_back(count)
    if not 1 <= count <= len(text):
        assert left is None
    elif count == len(text):
        assert left == Recording().ran("closing"), "a text of which nothing is left is no step"
    else:
        assert left == Recording().ran("closing").typed(text[: len(text) - count])


def test_what_took_the_place_of_something_stays_a_step_though_it_is_empty() -> None:
    made = Recording().typed("AB", replaces=True)
    empty = made.took_back(2)
    assert empty is not None
    assert steps(empty) == 'write ""'
    assert made.took_back(2, inherits_look=True) is None
    assert made.took_back(1, inherits_look=True) == Recording().typed("A", replaces=True)
    assert Recording().ran("closing").took_back(1) is None
    assert made.closed().took_back(1) is None
    assert made.dropped_text() == Recording()
    assert made.closed().dropped_text() == made.closed()


def test_what_is_asked_for_is_never_taken_back_with_the_text_behind_it() -> None:
    asked = Recording().typed("Dear ").asking("who").typed(", yes")
    assert steps(asked) == 'ask who "What to write?" default "Dear "\nwrite "{who}, yes"'
    shorter = asked.took_back(5)
    assert shorter is not None
    assert steps(shorter).endswith('write "{who}"')
    assert asked.took_back(6) is None


def test_a_setting_is_asked_for_under_a_name_of_its_own() -> None:
    named = command(Argument(name="text"), Argument(name="to", type=ArgumentType.WHOLE))
    once = Recording().did(named, {"to": "3", "text": "A"}).asking()
    assert steps(once) == 'ask text "Which text?" default "A"\ndo do to=3 text="{text}"'
    twice = once.did(named, {"to": "3", "text": "B"}).asking()
    assert 'ask text-2 "Which text?" default "B"' in steps(twice)
    plain = Recording().did(named, {"to": "3"})
    assert plain.asking() is plain, "there is no text in it"
    assert Recording().asking() == Recording()
    assert asking((WriteText("A"),), 1) is None
    assert asking((WriteText("A"),), -1) is None


@given(st.lists(WORDS, max_size=5))
def test_what_is_recorded_is_read_again_as_the_same(texts: list[str]) -> None:
    made = Recording()
    for text in texts:
        made = made.typed(text).did(CATALOGUE.commands[5], {})
    macro, faults = parse_macro(format_macro(made.macro("R", "notes")))
    assert not faults
    assert not check_macro(macro, CATALOGUE)
    written = [step.text for step in macro.steps if isinstance(step, WriteText)]
    assert written == [literal(text) for text in texts]


def head(text: str) -> list[str]:
    return text.splitlines()[:4]


@pytest.mark.parametrize(
    ("word", "value", "lines"),
    [
        ("macro", "Other", ['macro "Other"', 'about "Does it."', "for notes", ""]),
        ("about", "Does more.", ['macro "One"', 'about "Does more."', "for notes", ""]),
    ],
)
def test_one_line_of_a_head_is_changed_and_the_others_stay(word: str, value: str, lines: list[str]) -> None:
    macro, _ = parse_macro('macro "One"\nabout "Does it."\nfor notes\n\ndo rule\n')
    assert head(format_macro(with_head(macro, word, value))) == lines
    plain, _ = parse_macro("for notes\n\ndo rule\n")
    changed = format_macro(with_head(with_head(plain, "macro", "A"), "about", "B"))
    assert head(changed) == ['macro "A"', 'about "B"', "for notes", ""]


def faults(body: str) -> list[str]:
    return [str(fault) for fault in parse_macro(f'macro "One"\nfor notes\n\n{body}\n')[1]]


def test_a_line_that_is_too_long_and_one_that_is_nested_too_deep_are_told_with_the_bound() -> None:
    (said,) = faults(f'write "{"a" * LONGEST_TEXT}"')
    assert f"A line has at most {LONGEST_TEXT:,} characters" in said
    assert faults(f"# {'a' * LONGEST_TEXT}") == []
    deep = "(" * DEEPEST_EXPRESSION + "1" + " + 1)" * DEEPEST_EXPRESSION
    for body in (f"set a = {deep} + 1", f"if {deep} + 1 = 3\n  do rule\nend"):
        (said,) = faults(body)
        assert f"nested more than {DEEPEST_EXPRESSION} deep" in said


def kinds(macro: Macro) -> list[str]:
    return [type(step).__name__ for step in macro.steps]


def test_of_a_block_that_is_nested_too_deep_the_steps_within_are_still_read() -> None:
    deep = "(" * DEEPEST_EXPRESSION + "1" + " + 1)" * DEEPEST_EXPRESSION
    macro, _ = parse_macro(f'macro "One"\nfor notes\n\nif {deep} + 1 = 3\n  do rule\nend\ndo rule\n')
    assert kinds(macro) == ["If", "Do"]
    inner = macro.steps[0]
    assert isinstance(inner, If)
    assert [type(step).__name__ for step in inner.steps] == ["Do"]
