"""Conditions, loops, forms and macros that run macros: worked out, checked, run, bounded."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rimecrest.core.catalogue.catalogue import Effect, Reading
from rimecrest.core.macro.bounds import DEEPEST_RUN, MOST_STEPS
from rimecrest.core.macro.check import check_macro, effects
from rimecrest.core.macro.expressions import as_number, as_text, as_value, is_true
from rimecrest.core.macro.format import format_macro
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.run import (
    Choose,
    Fetch,
    Fill,
    MacroStopped,
    Meets,
    Perform,
    Read,
    Request,
    Tell,
    Write,
    run_macro,
)
from rimecrest.core.macro.steps import Macro
from tests.samples import CATALOGUE

CAN = CATALOGUE.model_copy(
    update={
        "readings": (*CATALOGUE.readings, Reading(id="here.row", type="number"), Reading(id="here.value")),
        "commands": (
            *CATALOGUE.commands,
            CATALOGUE.commands[5].model_copy(
                update={"id": "notes:go-down", "changes": ("here.row", "here.value")}
            ),
        ),
    }
)
HEAD = 'macro "M"\nfor notes\n'


def macro(body: str) -> Macro:
    read, faults = parse_macro(HEAD + body + "\n")
    assert faults == [], faults
    assert format_macro(read) == HEAD + body + "\n"
    return read


class Notes:
    """Answers a run: readings, other macros, answers to questions."""

    def __init__(self, macros: Mapping[str, str] | None = None, **readings: Any) -> None:
        self.readings = {name.replace("_", "."): value for name, value in readings.items()}
        self.macros = {name: macro(body) for name, body in (macros or {}).items()}
        self.answers: list[Any] = []
        self.done: list[str] = []

    def answer(self, request: Request) -> Any:
        match request:
            case Meets():
                return True
            case Read():
                return self.readings.get(request.name)
            case Fetch():
                return self.macros.get(request.macro)
            case Choose() | Fill():
                return self.answers.pop(0)
            case Write():
                self.done.append(request.text)
            case Perform():
                self.done.append(f"do {request.verb}")
                if request.verb == "go-down":
                    self.readings["here.row"] = self.readings.get("here.row", 0) + 1
            case Tell():
                self.done.append(f"say {request.text}")
        return None

    def run(self, body: str) -> list[str]:
        flow, sent = run_macro(macro(body)), None
        while True:
            try:
                sent = self.answer(flow.send(sent))
            except StopIteration:
                return self.done


def worked_out(expression: str, **readings: Any) -> str:
    return Notes(**readings).run(f'set x = {expression}\nwrite "{{x}}"')[0]


@pytest.mark.parametrize(
    ("expression", "value"),
    [
        ("1 + 2 * 3", "7"),
        ("(1 + 2) * 3", "9"),
        ("10 - 4 - 3", "3"),
        ("12 / 4 / 3", "1"),
        ("1 / 3", "0.3333333333"),
        ("-2 * 3", "-6"),
        ("1.50 + 1", "2.5"),
        ('"a" = "a"', "yes"),
        ('"10" > "9"', "yes"),
        ('"b" > "a"', "yes"),
        ('"41,5" < 42', "yes"),
        ("1 <> 2 and 2 <= 2", "yes"),
        ("no or not no", "yes"),
        ("not 1 = 2", "yes"),
        ('"freight" contains "eig"', "yes"),
        ('headings contains "Two"', "yes"),
        ('headings contains "T"', "no"),
        ('"" is empty', "yes"),
        ("chosen.text is empty", "yes"),
        ("headings is empty", "no"),
        ('"row {here.row}"', "row 7"),
        ("here.row + 1", "8"),
        ("headings", "One, Two"),
    ],
)
def test_expressions_are_worked_out(expression: str, value: str) -> None:
    assert worked_out(expression, headings=["One", "Two"], chosen_text="", here_row=7) == value


@pytest.mark.parametrize(
    ("expression", "says"),
    [
        ("1 / 0", "Something is divided by zero."),
        ('"abc" + 1', "“abc” is no number."),
        ("headings * 2", "“One, Two” is no number."),
        ("yes + 1", "“yes” is no number."),
        ("today.weekday", "“today.weekday” has no value here."),
    ],
)
def test_what_cannot_be_worked_out_stops_with_its_number(expression: str, says: str) -> None:
    with pytest.raises(MacroStopped) as stopped:
        worked_out(expression, headings=["One", "Two"])
    assert stopped.value.sentence == f"Step 1: {says}"


def test_what_decides_already_is_not_asked_further() -> None:
    assert worked_out("no and 1 / 0 = 1") == "no"
    assert worked_out("yes or 1 / 0 = 1") == "yes"


@given(st.floats(-1e6, 1e6) | st.integers(-(10**9), 10**9))
def test_numbers_written_out_are_read_back(number: float) -> None:
    assert as_number(as_text(float(number))) == pytest.approx(float(number), rel=1e-9)


def test_values_come_from_whatever_an_application_answers() -> None:
    assert as_value([1, "a"]) == ("1", "a")
    assert as_value(None) == ""
    assert as_value(3) == 3.0
    assert [is_true(value) for value in ("", "no", "x", 0.0, 2.0, (), ("a",), True)] == [
        *(False, False, True, False, True, False, True, True)
    ]


def test_if_takes_one_way_or_the_other() -> None:
    body = 'if here.row > 5\n  write "low"\nelse\n  write "high"\nend'
    assert Notes(here_row=9).run(body) == ["low"]
    assert Notes(here_row=1).run(body) == ["high"]
    assert Notes(here_row=1).run('if here.row > 5\n  write "low"\nend') == []


def test_repeat_counts_and_takes_an_expression() -> None:
    assert Notes().run('set n = 2\nrepeat n + 1 times\n  write "x"\nend') == ["x", "x", "x"]
    assert Notes().run('repeat 0 times\n  write "x"\nend') == []
    with pytest.raises(MacroStopped, match="“often” is no number"):
        Notes().run('repeat "often" times\n  write "x"\nend')


def test_for_each_goes_over_a_list() -> None:
    assert Notes(headings=["A", "B"]).run('for each h in headings\n  write "{h}!"\nend') == ["A!", "B!"]
    assert Notes(headings=[]).run('for each h in headings\n  write "{h}"\nend') == []


def test_while_ends_when_its_condition_does() -> None:
    done = Notes(here_row=0).run('while here.row < 3 limit 10\n  do go-down\nend\nwrite "{here.row}"')
    assert done == ["do go-down"] * 3 + ["3"]


def test_a_limit_that_is_reached_is_a_failure_that_names_it() -> None:
    with pytest.raises(MacroStopped, match=r"Step 1: It went round 2 times, which is the limit"):
        Notes(here_row=0).run("while here.row < 3 limit 2\n  do go-down\nend")


@pytest.mark.parametrize(
    "body",
    [
        f"repeat {MOST_STEPS + 1} times\nend",
        "repeat 1000 times\n  repeat 1000 times\n    do rule\n  end\nend",
        "set go = yes\nrepeat 2 times\n  while go limit 100000\n    set go = yes\n  end\nend",
    ],
)
def test_no_run_goes_on_without_end(body: str) -> None:
    with pytest.raises(MacroStopped, match="100,000 steps"):
        Notes().run(body)


def test_stop_ends_the_whole_run_from_within_a_loop() -> None:
    done = Notes(headings=["A", "B", "C"]).run(
        'for each h in headings\n  if h = "B"\n    stop "At {h}."\n  end\n  write "{h}"\nend\nwrite "never"'
    )
    assert done == ["A", "say At B."]


FORM = """\
form "Sailing"
  ask vessel "Which?" choices "Brinholt"
  ask quay "Where?" default "North"
end
write "{vessel} at {quay}\""""


def test_a_form_asks_all_at_once_and_remembers_each() -> None:
    notes = Notes()
    notes.answers = [("Brinholt", "North")]
    body = FORM
    assert notes.run(body) == ["Brinholt at North"]
    notes.answers = [None]
    with pytest.raises(MacroStopped, match="Cancelled"):
        notes.run(body)


def test_a_macro_runs_another_with_names_of_its_own() -> None:
    notes = Notes({"inner": 'set x = "inner"\nwrite "{x}"\nstop\nwrite "never"'})
    assert notes.run('set x = "outer"\nrun "inner"\nwrite "{x}"') == ["inner", "outer"]


def test_a_macro_that_is_missing_or_runs_itself_stops() -> None:
    with pytest.raises(MacroStopped, match="The macro “gone” is not here"):
        Notes().run('run "gone"')
    notes = Notes({"m": 'run "m"'})
    with pytest.raises(MacroStopped, match="run one another without end"):
        notes.run('run "m"')


def test_a_muted_block_mutes_all_in_it() -> None:
    assert Notes(here_row=1).run('~ if here.row = 1\n  write "x"\nend\nwrite "y"') == ["y"]


# What is told before it runs


def faults(body: str, macros: dict[str, Macro] | None = None) -> list[str]:
    return [str(fault) for fault in check_macro(macro(body), CAN, macros=macros)]


SOUND = """\
set count = 0
for each h in headings
  if h contains "Loads" and count < 3
    set count = count + 1
    write "{h}"
  else
    say "Passed {h}."
  end
end
while not here.value is empty limit 100
  do go-down
end
repeat count times
  do rule
end
stop "{count} found." # done"""


def test_a_sound_macro_has_no_fault() -> None:
    assert faults(SOUND) == []


@pytest.mark.parametrize(
    ("body", "says"),
    [
        ("if here.colum = 3\nend", "cannot tell “here.colum”"),
        ("set a = b + 1", "“b” is used before it is set"),
        ('if yes\n  set a = 1\nend\nwrite "{a}"', "“a” is used before it is set"),
        ('repeat 2 times\n  set a = 1\nend\nwrite "{a}"', "“a” is used before it is set"),
        ("for each h in chosen.text\nend", "“chosen.text” is one value, not a list. Lists are: headings."),
        ("for each h in hedings\nend", "Did you mean “headings”?"),
        ("while here.row < 3 limit 9\n  do bold\nend", "Nothing in this loop changes here.row"),
        ("while yes limit 9\n  do bold\nend", "Nothing in this loop changes anything"),
        ('form "F"\n  ask a "?"\n  do bold\nend', "Only questions stand in a form"),
        ('run "greting"', "There is no macro “greting”. Did you mean “greeting”?"),
    ],
)
def test_each_fault_is_told(body: str, says: str) -> None:
    found = faults(body, {"greeting": macro("do bold")})
    assert len(found) == 1, found
    assert says in found[0]


@pytest.mark.parametrize(
    "body",
    [
        'if yes\n  set a = 1\nelse\n  set a = 2\nend\nwrite "{a}"',
        "set go = yes\nwhile go limit 9\n  set go = no\nend",
        'while here.value is empty limit 9\n  write "x"\nend',
        'form "F"\n  ask a "?"\n  # a remark\nend\nwrite "{a}"',
        'for each h in headings\n  for each k in headings\n    write "{h}{k}"\n  end\nend',
    ],
)
def test_near_misses_are_sound(body: str) -> None:
    assert faults(body) == []


def test_a_macro_that_runs_itself_is_told_also_through_others() -> None:
    one, other = macro('run "other"'), macro('run "one"')
    assert "runs itself, through “other”" in faults('run "other"', {"one": one, "other": other})[0]
    assert "This macro runs itself." in faults('run "me"', {"me": macro('run "me"')})[0]


@pytest.mark.parametrize(
    "path", ["/home/ailis/plan.html", "~/plan.html", ' "/media/stick/plan.html"', "file:///home/x"]
)
def test_a_path_that_no_colleague_can_reach_is_told(path: str) -> None:
    from rimecrest_standins.letters.letters import declarations

    text = (
        format_macro(Macro())
        and f'macro "M"\nfor letters\ndo open path="{path.replace(chr(34), chr(92) + chr(34))}"\n'
    )
    read, broken = parse_macro(text)
    assert broken == []
    assert "No colleague can reach" in str(check_macro(read, declarations.catalogue())[0])
    fine, _ = parse_macro('macro "M"\nfor letters\ndo open path="/srv/office/plan.html"\n')
    assert check_macro(fine, declarations.catalogue()) == []


@pytest.mark.parametrize(
    ("body", "says"),
    [
        ("else", "belongs to no “if”"),
        ("if yes\nelse\nelse\nend", "belongs to no “if”"),
        ('part "P"\nelse\nend', "belongs to no “if”"),
        ("if yes\ndo bold", "“if yes” is not closed"),
        ("while here.row < 3", "cannot be read from here on"),
        ("repeat 3", "cannot be read from here on"),
        ("set x = = 3", "cannot be read from here on"),
        ("if 1 = 2 = 3\nend", "cannot be read from here on"),
        ("for each in headings", "cannot be read from here on"),
    ],
)
def test_blocks_that_do_not_fit_are_told(body: str, says: str) -> None:
    _, found = parse_macro(HEAD + body + "\n")
    assert any(says in fault.reason for fault in found), found


def test_effects_count_those_of_the_macros_that_are_run() -> None:
    inner = macro("do wipe")
    assert effects(macro('if yes\n  run "inner"\nend'), CAN, {"inner": inner}) == (Effect.DELETES,)
    assert effects(macro('run "inner"'), CAN, {}) == ()
    circle = macro('run "circle"')
    assert effects(circle, CAN, {"circle": circle}) == ()


def test_deep_nesting_is_told_and_costs_nothing() -> None:
    text = HEAD + "if yes\n" * 400 + "end\n" * 400
    read, found = parse_macro(text)
    assert any("nested more than 50 deep" in fault.reason for fault in found)
    check_macro(read, CAN)
    long = HEAD + "set x = " + "(" * 3000 + "1" + ")" * 3000 + "\n"
    parse_macro(long)


def test_a_macro_may_be_run_again_and_again_however_deep_runs_may_go() -> None:
    times = DEEPEST_RUN * 2
    done = Notes({"inner": "do go-down"}).run(f'repeat {times} times\n  run "inner"\nend')
    assert done == ["do go-down"] * times
