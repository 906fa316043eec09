"""What is said of macros, word for word: steps as sentences, what cannot be read or run, what may follow."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from rimecrest.core.macro.check import check_macro, effects
from rimecrest.core.macro.complete import completions, names_set
from rimecrest.core.macro.field_edits import field_text
from rimecrest.core.macro.format import format_macro
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.sentences import mark_words, pieces, sentence
from rimecrest.core.macro.step_tree import walk, written
from rimecrest.core.macro.steps import Block
from rimecrest.core.workspace.workspace import Workspace
from tests.approved import approve
from tests.samples import CATALOGUE

CORPUS = sorted((Path(__file__).parent / "corpus").glob("*.steps"))
EVERY_STEP = """\
macro "Everything" # a remark
about "Does all of it."
for notes
needs context writing or say "Put the cursor in the text first."
needs chosen.text or say "Choose some words."
# a line of its own

ask who "Whom?" choices "Brinholt", "Ovessa" default "Ovessa"
ask where "Where?" range
ask head "Which?" from headings
ask panel "lanes"
form "Both"
  ask first "First?"
  ask second "Second?" default "two"
end
do bold on=yes
do size to="{first}"
do align
do rule # with a remark
~do wipe
write "Dear {who}\\nand \\"others\\""
say "Done, {who}"
say "Aloud" aloud
set count = 1 + 2 * 3
set name = who
if count > 3 and not who is empty
  write "more"
else
  stop "No more" aloud
end
repeat count times
  part "Inner"
    do new-line
  end
end
for each entry in headings
  write "{entry}"
end
while count < 9 limit 12
  set count = count + 1
end
run "closing"
stop
"""
UNREADABLE = """\
macro "Wrong"
for notes
wirte "x"
write "no end
write
do
do bold on
ask
ask who
set
set x
if
repeat
repeat three
while
while x is empty
for each
run
form
part
say
needs
needs context
else
end
about "Too late"
macro "Twice"
unfinished
frobnicate
if count > 1
  write "never closed"
"""
CANNOT_RUN = """\
macro "Faulty"
for letters
needs context nowhere or say ""

do bald
do bold loud=yes
do size
do size to=1000
do size to=many
do align to=sideways
do bold on=perhaps
write "{nobody} {today.weekdy}"
ask who "Who?" choices "a" default "b"
ask who "Twice?"
ask list "From?" from nothing.there
ask panel "nothing"
form "Empty"
end
repeat nobody times
  write "x"
end
for each entry in chosen.text
  write "{entry}"
end
while yes limit 3
  write "y"
end
run "missing"
run "faulty"
set here = today.weekday + 1
stop
write "after"
"""
BEGUN = (
    *(
        "",
        "d",
        "do ",
        "do b",
        "do bold ",
        "do bold o",
        "do bold on=",
        "do size to=",
        "do align to=c",
        "do no ",
    ),
    *("ask ", "ask who ", "ask who from ", "ask panel ", 'ask panel "', "needs ", "needs context "),
    *("say ", "stop ", "for ", "for each ", "set x = ", "if ", "while w", "repeat ", 'run "', 'run "cl'),
    *('write "{', 'write "{t', 'write "x', "write ", "~do b", "  do ", 'say "a" a', "end ", "zzz"),
)


def told(text: str) -> dict[str, Any]:
    macro, faults = parse_macro(text)
    others = {"closing": parse_macro('macro "Closing"\\nfor notes\\n\\ndo wipe\\n')[0], "faulty": macro}
    return {
        "read": [str(fault) for fault in faults],
        "run": [[str(f), f.kind] for f in check_macro(macro, CATALOGUE, macros=others)],
        "run elsewhere": [str(f) for f in check_macro(macro, None)],
        "written": format_macro(macro),
        "names": names_set(macro),
        "head": [macro.name, macro.about, macro.application],
        "effects": [str(effect.value) for effect in effects(macro, CATALOGUE, others)],
        "steps": [
            {
                "at": list(path),
                "sentence": sentence(step, CATALOGUE),
                "without a catalogue": sentence(step, None),
                "fields": {p.field: field_text(step, p.field) for p in pieces(step, CATALOGUE) if p.field},
                "marks": [mark_words(step, mark) for mark in (-1, -2)] if isinstance(step, Block) else [],
                "muted": step.muted,
                "line": step.line,
            }
            for path, step in walk(macro)
        ],
        "rows": [list(path) for path, _ in written(macro)],
    }


def test_every_kind_of_step_is_said_and_written() -> None:
    answer = told(EVERY_STEP)
    assert answer["read"] == []
    assert parse_macro(answer["written"])[0] == parse_macro(EVERY_STEP)[0]
    approve("macro-every-step", answer)


def test_every_line_that_cannot_be_read_is_told_with_a_way_out() -> None:
    approve("macro-unreadable", told(UNREADABLE))


def test_everything_that_keeps_a_macro_from_running_is_told() -> None:
    approve("macro-cannot-run", told(CANNOT_RUN))


def test_the_corpus_is_read_and_told_as_ever() -> None:
    assert len(CORPUS) > 30
    texts = {path.stem: path.read_bytes().decode("utf-8", "replace") for path in CORPUS}
    found = {name: told(text[:4000]) for name, text in texts.items()}
    approve(
        "macro-corpus",
        {name: {key: one[key] for key in ("read", "run", "written")} for name, one in found.items()},
    )


def test_the_macros_of_the_demo_are_said(demo: Workspace) -> None:
    files = sorted(demo.macros.values(), key=lambda file: (file.layer, file.id))
    catalogues = demo.catalogues
    approve(
        "macro-demo",
        {
            f"{file.layer}/{file.id}": [
                sentence(step, catalogues.get(file.macro.application)) for _, step in walk(file.macro)
            ]
            for file in files
        },
    )


def test_what_may_follow_what_is_typed() -> None:
    approve(
        "macro-completions",
        {line: list(completions(line, CATALOGUE, ["who", "count"], ["closing", "clear"])) for line in BEGUN}
        | {f"{line} without a catalogue": list(completions(line, None)) for line in BEGUN},
    )
