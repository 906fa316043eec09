"""One attempt at the macro language with any text: read, check, write, read again, run.

Nothing but a RimecrestError may come out of it, and a run ends. Used by the tests and by `tools/fuzz.py`.
"""

from __future__ import annotations

from rimecrest.core.errors import RimecrestError
from rimecrest.core.macro.check import check_macro, effects
from rimecrest.core.macro.complete import completions
from rimecrest.core.macro.format import format_macro
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.run import Choose, Fetch, Fill, Meets, Perform, Read, run_macro
from rimecrest.core.macro.sentences import sentence
from rimecrest.core.macro.step_tree import every_step
from tests.samples import CATALOGUE

MOST_REQUESTS = 20_000
"""Requests of one run that are answered; the language's own bound is checked elsewhere."""
READINGS = {"chosen.text": "Brinholt", "headings": ["North", "South"], "today.weekday": "Monday"}

TOKENS = (
    *(
        "macro",
        "about",
        "for",
        "needs",
        "with",
        "unfinished",
        "do",
        "write",
        "ask",
        "form",
        "set",
        "if",
        "else",
    ),
    *(
        "repeat",
        "each",
        "in",
        "while",
        "limit",
        "part",
        "run",
        "say",
        "stop",
        "end",
        "times",
        "context",
        "or",
    ),
    *("and", "not", "contains", "is", "empty", "yes", "no", "choices", "from", "default", "notes", "writing"),
    *("bold", "size", "align", "on", "to", "centre", "headings", "chosen.text", "here.value", "vessel", "n"),
    *(
        "=",
        "<>",
        "<",
        ">",
        "<=",
        ">=",
        "+",
        "-",
        "*",
        "/",
        "(",
        ")",
        ",",
        '"',
        "~",
        "#",
        "\n",
        "\n",
        " ",
        "  ",
    ),
    *(
        "0",
        "1",
        "12",
        "3.5",
        "1e9",
        '"{vessel}"',
        '"{{}}"',
        '"a\\nb"',
        '"\\"',
        "{",
        "}",
        "é",
        "\u202e",
        "e\u0301",
    ),
    *("\u05d0", "\0", "\t", "\r\n", "do size to=", "ask vessel ", "while yes limit 3\n", "if yes\n", "end\n"),
)


def attempt(text: str) -> None:
    """Try everything with a text. Raises whatever must not be raised."""
    macro, faults = parse_macro(text)
    canonical = format_macro(macro)
    again, faults_again = parse_macro(canonical)
    if not faults:
        assert not faults_again, (text, canonical, faults_again)
        assert format_macro(again) == canonical, (text, canonical)
    others = {"itself": macro}
    for fault in [*faults, *check_macro(macro, CATALOGUE, (), others)]:
        assert fault.line >= 1, str(fault)
        assert fault.column >= 1, str(fault)
    effects(macro, CATALOGUE, others)
    for step in every_step(macro.steps):
        sentence(step, CATALOGUE)
    for line in text.split("\n")[:20]:
        completions(line, CATALOGUE, ("vessel",), ("itself",))
    flow = run_macro(macro)
    answer: object = None
    try:
        for _ in range(MOST_REQUESTS):
            request = flow.send(answer)
            match request:
                case Meets():
                    answer = True
                case Choose():
                    answer = request.default or "Brinholt"
                case Fill():
                    answer = tuple("x" for _ in request.questions)
                case Read():
                    answer = READINGS.get(request.name)
                case Fetch():
                    answer = others.get(request.macro)
                case Perform():
                    assert isinstance(request.args, dict)
                    answer = None
                case _:
                    answer = None
    except (StopIteration, RimecrestError):
        pass
