"""The `.steps` language: text and steps are one, faults are told, runs take everything back."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from rimecrest.core.catalogue.catalogue import Catalogue, Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.macro.check import check_macro, effects
from rimecrest.core.macro.expressions import Binary, Expression, Flag, Name, Number, Text, Unary
from rimecrest.core.macro.format import format_macro
from rimecrest.core.macro.names import fill, names_in
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.run import (
    Choose,
    MacroStopped,
    Meets,
    Perform,
    Read,
    Request,
    Tell,
    Write,
    run_macro,
)
from rimecrest.core.macro.sentences import sentence
from rimecrest.core.macro.steps import (
    Ask,
    AskPanel,
    Comment,
    Do,
    ForEach,
    Form,
    Header,
    If,
    Macro,
    Need,
    Part,
    Repeat,
    Run,
    Say,
    Set,
    Setting,
    Statement,
    Stop,
    While,
    WriteText,
)
from tests.samples import CATALOGUE, GREETING

WHOLE = """\
# Who keeps this: the north desk
macro "Sailing notice"
about "Heads a notice, with \\"quotes\\" and a \\\\."
for notes
needs context writing or say "Put the cursor in the text first."
needs chosen.text
with "companions/foot.html"
unfinished

ask vessel "Which vessel?" choices "Brinholt", "Ovessa" default "Brinholt" # the small ones
ask place "Where?" from headings
part "Heading" # centred
  do align to=centre
  do bold on=yes
  write "Notice of {vessel}\\nand {{braces}}"
  ~ do rule
  # a note between
end # of the heading
~
~ part "Later"
  say "Not yet."
end
do size to=12
stop "Done."
"""


def parsed(text: str) -> Macro:
    macro, faults = parse_macro(text)
    assert faults == []
    return macro


def test_canonical_text_is_read_and_written_unchanged() -> None:
    assert format_macro(parsed(WHOLE)) == WHOLE


def test_the_head_tells_what_the_macro_is() -> None:
    macro = parsed(WHOLE)
    assert (macro.name, macro.application, macro.unfinished) == ("Sailing notice", "notes", True)
    assert macro.about == 'Heads a notice, with "quotes" and a \\.'
    assert macro.companions == ("companions/foot.html",)
    assert [need.context or need.reading for need in macro.needs] == ["writing", "chosen.text"]


def test_muted_steps_and_parts_do_not_run() -> None:
    live = list(parsed(WHOLE).live_steps())
    assert not any(isinstance(step, Say) for step in live)
    assert [step.command for step in live if isinstance(step, Do)] == ["align", "bold", "size"]


def test_loose_spelling_is_brought_into_the_canonical_form() -> None:
    loose = '  macro   "M"\n\n\n\nfor notes\npart "P"\ndo   bold   on=yes#c\nend\n\n'
    assert format_macro(parsed(loose)) == 'macro "M"\n\nfor notes\npart "P"\n  do bold on=yes # c\nend\n'


# Texts as people may write them: any letters of any script, quotes, braces, line ends.
texts = st.text(st.characters(exclude_categories=["Cs", "Cc"]) | st.sampled_from('\n"\\{}'), max_size=20)
comments = st.text(st.characters(exclude_categories=["Cs", "Cc", "Z"]), max_size=10)
words = st.from_regex(r"[a-z][a-z0-9]{0,4}(-[a-z0-9]{1,3})?", fullmatch=True)
values = st.one_of(
    st.builds(lambda n, v: Setting(n, v, True), words, texts),
    st.builds(
        lambda n, v: Setting(n, str(v)), words, st.integers(-99, 99) | st.sampled_from(["yes", "centre"])
    ),
)
flags = {"muted": st.booleans(), "comment": comments}
KEYWORDS = ("yes", "no", "not")
names = words.filter(lambda word: word not in KEYWORDS)
simple = st.one_of(
    st.builds(Do, words, st.lists(values, max_size=3).map(tuple), **flags),
    st.builds(WriteText, texts, **flags),
    st.builds(
        Ask, words, texts, st.lists(texts, max_size=2).map(tuple), st.just(""), st.none() | texts, **flags
    ),
    st.builds(
        Ask, words, texts, st.just(()), st.sampled_from(["headings", "here.value"]), st.none(), **flags
    ),
    st.builds(AskPanel, texts, **flags),
    st.builds(Say, texts, **flags),
    st.deferred(lambda: st.builds(Set, names, expressions, **flags)),
    st.builds(Run, texts, **flags),
    st.builds(Stop, st.none() | texts, **flags),
    st.builds(Comment, comment=comments.filter(bool)),
)
atoms = st.one_of(
    st.builds(Text, texts),
    st.builds(lambda n, d: Number(f"{n}.{d}" if d else str(n)), st.integers(0, 99), st.integers(0, 99)),
    st.builds(Flag, st.booleans()),
    st.builds(Name, words.filter(lambda w: w not in KEYWORDS) | st.sampled_from(["here.value", "headings"])),
)
expressions: st.SearchStrategy[Expression] = st.recursive(
    atoms,
    lambda inner: st.one_of(
        st.builds(Unary, st.sampled_from(["not", "minus", "is empty"]), inner),
        st.builds(
            Binary,
            st.sampled_from(["or", "and", "=", "<>", "<", ">", "<=", ">=", "contains", "+", "-", "*", "/"]),
            inner,
            inner,
        ),
    ),
    max_leaves=6,
)


def blocks(inner: st.SearchStrategy[Statement]) -> st.SearchStrategy[Statement]:
    body = {**flags, "steps": st.lists(inner, max_size=3).map(tuple), "end_comment": comments}
    otherwise = st.none() | st.lists(inner, max_size=2).map(tuple)
    return st.one_of(
        st.builds(Part, title=texts, **body),
        st.builds(Form, title=texts, **body),
        st.builds(If, condition=expressions, otherwise=otherwise, **body),
        st.builds(Repeat, times=expressions, **body),
        st.builds(ForEach, name=names, reading=st.sampled_from(["headings", "here.value"]), **body),
        st.builds(While, condition=expressions, limit=st.integers(0, 999), **body),
    )


steps: st.SearchStrategy[Statement] = st.recursive(simple, blocks, max_leaves=8)
heads = st.builds(
    lambda name, say: (Header("macro", name), Header("for", "notes"), Need(context="writing", say=say)),
    texts,
    st.none() | texts,
)


@settings(max_examples=200)
@given(st.builds(Macro, heads, st.lists(steps, max_size=5).map(lambda s: (Stop(), *s))))
def test_steps_are_read_back_as_they_were_written(macro: Macro) -> None:
    text = format_macro(macro)
    again, faults = parse_macro(text)
    assert faults == []
    assert again == macro
    assert format_macro(again) == text


@settings(max_examples=200)
@given(
    st.text(
        st.sampled_from('macro do write ask if while set "\\{}=,#~\n end part stop x-1.+<(for each')
        | st.characters(),
        max_size=80,
    )
)
@example('write "' + "\\" * 9)
@example("end\nend\nend")
@example("#")
@example('macro "M"\n#\n\ndo x\n #')
@example('part "a"\n' * 60)
def test_any_text_is_read_with_faults_but_never_an_exception(text: str) -> None:
    macro, faults = parse_macro(text)
    check_macro(macro, CATALOGUE)
    lines = text.count("\n") + 1
    assert all(1 <= fault.line <= lines and fault.column >= 0 for fault in faults)
    again, _ = parse_macro(format_macro(macro))
    assert again == macro


@pytest.mark.parametrize(
    ("line", "reason", "way_out"),
    [
        ('wrte "x"', "“wrte” begins no step", "Did you mean “write”?"),
        ("12", "“12” begins no step", "A line begins with"),
        ('write "open', "The text is not closed", "where it ends"),
        ("do bold on", "cannot be read from here", "do command name=value"),
        ("ask who", "cannot be read from here", "Question?"),
        ("end", "closes nothing", "Take it out"),
        ("for letters", "belongs above the first step", "Move it to the head"),
    ],
)
def test_a_line_that_cannot_be_read_says_why_and_what_to_write(line: str, reason: str, way_out: str) -> None:
    macro, faults = parse_macro(f'macro "M"\nfor notes\ndo bold\n{line}\ndo rule\n')
    assert len(faults) == 1
    assert faults[0].line == 4
    assert reason in faults[0].reason
    assert way_out in faults[0].way_out
    assert [step.command for step in macro.live_steps() if isinstance(step, Do)] == ["bold", "rule"]


def test_a_part_that_is_not_closed_is_told_at_its_line() -> None:
    _, faults = parse_macro('macro "M"\npart "P"\ndo bold\n')
    assert (faults[0].line, faults[0].reason) == (2, '“part "P"” is not closed')


def faults_of(
    body: str, head: str = 'macro "M"\nfor notes\n', catalogue: Catalogue | None = CATALOGUE
) -> list[str]:
    macro, faults = parse_macro(head + body)
    assert faults == []
    return [str(fault) for fault in check_macro(macro, catalogue)]


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("do bald", "line 3, column 1: Notes has no command “bald”. Did you mean “bold”?"),
        ("do size", "Size needs its setting “to”"),
        ("do bold of=yes", "Bold has no setting “of” (it has: on)"),
        ("do bold on=maybe", "On is one of yes, no, flip, not “maybe”"),
        ("do align to=center", "did you mean centre?"),
        ("do size to=big", "To is a whole number, not “big”"),
        ("do size to=1.5", "To is a whole number"),
        ("do size to=200", "To lies from 8 to 96, not 200"),
        ("do bold on=yes on=no", "The setting “on” stands twice"),
        ('write "{who}"', "“who” is used before it is set"),
        ('ask a "?" from hedings', "Notes cannot tell “hedings”. Did you mean “headings”?"),
        ('ask a "?" choices "x" default "y"', "The default “y” is none of the choices"),
    ],
)
def test_each_kind_of_fault_is_told_with_its_way_out(line: str, says: str) -> None:
    found = faults_of(line)
    assert len(found) == 1
    assert says.lower() in found[0].lower()


def test_a_sound_macro_has_no_fault() -> None:
    assert faults_of("", GREETING) == []


def test_faults_of_the_head() -> None:
    assert "no name" in faults_of("", "for notes\n")[0]
    assert "for no application" in faults_of("", 'macro "M"\n')[0]
    assert "for letters, not for notes" in faults_of("", 'macro "M"\nfor letters\n')[0]
    assert "no context “writng”" in faults_of("", 'macro "M"\nfor notes\nneeds context writng\n')[0]
    assert "cannot tell “chosen.txt”" in faults_of("", 'macro "M"\nfor notes\nneeds chosen.txt\n')[0]
    assert "no catalogue of “notes”" in faults_of("do anything", catalogue=None)[0]


def test_a_missing_companion_is_told() -> None:
    macro = parsed('macro "M"\nfor notes\nwith "companions/a.html"\n')
    assert check_macro(macro, CATALOGUE, {"companions/a.html"}) == []
    assert "“companions/a.html” is missing" in str(check_macro(macro, CATALOGUE, ())[0])


def test_a_name_asked_for_is_known_afterwards_and_a_muted_question_is_not() -> None:
    assert faults_of('ask who "?"\nwrite "{who} on {today.weekday}"') == []
    assert "used before" in faults_of('~ ask who "?"\nwrite "{who}"')[0]
    assert "asked for twice" in faults_of('ask who "?"\nask who "?"')[0]


def test_effects_are_the_union_of_the_commands_and_muted_ones_do_not_count() -> None:
    macro = parsed('macro "M"\nfor notes\nwrite "x"\ndo wipe\n~ do save\n')
    assert effects(macro, CATALOGUE, {}) == (Effect.EDITS, Effect.DELETES)
    assert effects(parsed('macro "M"\nfor notes\nsay "x"\n'), CATALOGUE, {}) == ()


def test_names_in_text_and_plain_braces() -> None:
    assert names_in("a {b} {{c}} {d}") == ["b", "d"]
    assert fill("a {b} {{c}} {d}", {"b": "1"}) == "a 1 {c} {d}"


Answer = Callable[[Request], Any]


def carry_out(macro: Macro, answer: Answer) -> list[Request]:
    done: list[Request] = []
    flow, sent = run_macro(macro), None
    while True:
        try:
            request = flow.send(sent)
        except StopIteration:
            return done
        done.append(request)
        sent = answer(request)


def agreeable(request: Request) -> Any:
    match request:
        case Meets():
            return True
        case Choose():
            return "Ovessa"
        case Read():
            return "Monday"
    return None


def test_a_run_yields_each_thing_in_order() -> None:
    done = carry_out(parsed(GREETING), agreeable)
    kinds = [type(request) for request in done]
    assert kinds == [Meets, Choose, Perform, Write, Perform, Perform]
    assert done[3] == Write("Dear Ovessa", 8)
    assert done[2] == Perform("bold", {"on": "yes"}, 7)


def test_an_unmet_need_stops_before_anything_is_done() -> None:
    done: list[Request] = []

    def refuse(request: Request) -> Any:
        done.append(request)
        return False

    with pytest.raises(MacroStopped, match="Put the cursor in the text first."):
        carry_out(parsed(GREETING), refuse)
    assert [type(request) for request in done] == [Meets]


def test_a_cancelled_question_stops_the_run() -> None:
    with pytest.raises(MacroStopped, match="Cancelled"):
        carry_out(parsed(GREETING), lambda r: None if isinstance(r, Choose) else agreeable(r))


def test_a_failing_command_ends_the_flow_with_its_own_error() -> None:
    def fail(request: Request) -> Any:
        if isinstance(request, Perform):
            raise RimecrestError("No room.")
        return agreeable(request)

    with pytest.raises(RimecrestError, match="No room"):
        carry_out(parsed(GREETING), fail)


def test_stop_ends_the_run_with_what_it_says() -> None:
    done = carry_out(
        parsed('macro "M"\nfor notes\nstop "Enough {today.weekday}."\nwrite "never"\n'), agreeable
    )
    assert done[-1] == Tell("Enough Monday.")


def test_a_reading_without_a_value_stops_the_run() -> None:
    with pytest.raises(MacroStopped, match="has no value here"):
        carry_out(parsed('macro "M"\nfor notes\nwrite "{today.weekday}"\n'), lambda r: None)


def test_readings_are_asked_once_for_each_text() -> None:
    done = carry_out(parsed('macro "M"\nfor notes\nwrite "{today.weekday}, {today.weekday}"\n'), agreeable)
    assert [type(request) for request in done] == [Read, Write]


def test_what_ends_aloud_is_written_read_and_told_so() -> None:
    text = 'macro "M"\nfor notes\n\nsay "Done." aloud\nstop "Enough." aloud\nstop aloud\nstop\n'
    macro, faults = parse_macro(text)
    assert not faults
    assert format_macro(macro) == text
    assert [getattr(step, "aloud", None) for step in macro.steps] == [True, True, True, False]
    assert sentence(macro.steps[0], None) == "Say “Done.”, aloud"
    assert sentence(macro.steps[2], None) == "Stop, aloud"
    flow = run_macro(macro)
    assert next(flow) == Tell("Done.", aloud=True)


def test_a_question_offers_its_default_filled_in() -> None:
    text = 'macro "X"\nfor notes\n\nask day "Which day?" default "{today.weekday}"\n'
    [asked] = [request for request in carry_out(parsed(text), agreeable) if isinstance(request, Choose)]
    assert asked.default == "Monday"
