"""Bad input to the macro language: whatever is thrown at it, only a RimecrestError comes out, and it ends."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from rimecrest.core.errors import RimecrestError
from rimecrest.core.macro.bounds import DEEPEST, LONGEST_MACRO, LONGEST_PIECE, LONGEST_TEXT
from rimecrest.core.macro.check import check_macro
from rimecrest.core.macro.format import format_macro
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.run import Fetch, MacroStopped, Perform, Read, Write, run_macro
from rimecrest.core.macro.steps import WORDS
from tests.core.fuzz_target import TOKENS, attempt
from tests.samples import CATALOGUE

CORPUS = sorted((Path(__file__).parent / "corpus").glob("*.steps"))


@pytest.mark.parametrize("path", CORPUS, ids=lambda path: path.stem)
def test_what_was_found_interesting_once_stays_harmless(path: Path) -> None:
    attempt(path.read_bytes().decode("utf-8", "replace"))


def test_the_corpus_is_there() -> None:
    assert len(CORPUS) >= 20


@settings(max_examples=300)
@given(st.lists(st.sampled_from(TOKENS), max_size=60).map(" ".join))
def test_any_words_of_the_language_in_any_order(text: str) -> None:
    attempt(text)


@settings(max_examples=100)
@given(st.text(max_size=200))
def test_any_text(text: str) -> None:
    attempt(text)


def test_nesting_without_end_is_told_and_survives() -> None:
    text = "if yes\n" * 3000 + "end\n" * 3000
    macro, faults = parse_macro(text)
    assert any(f"more than {DEEPEST} deep" in fault.reason for fault in faults)
    deep = "if " + "(" * 5000 + "yes" + ")" * 5000 + "\nend\n"
    macro, faults = parse_macro(deep)
    assert faults or format_macro(macro)
    attempt("set n = " + "-" * 3000 + "1")
    attempt("set n = " + "not " * 3000 + "yes")


def test_of_ten_megabytes_the_bound_is_told_and_what_lies_before_it_is_read() -> None:
    text = 'macro "Long"\nfor notes\n\n' + 'write "a line of text that is written"\n' * 2000
    macro, faults = parse_macro(text + "# " + "x" * 10_000_000 + "\n" + "wrte\n")
    assert len(macro.steps) == 2001
    assert [fault.reason for fault in faults] == [
        f"A macro has at most {LONGEST_MACRO:,} characters; the rest is not read"
    ]


NUMBER = "9" * 400
BEYOND = [
    ('write "' + "x" * (LONGEST_TEXT + 1) + '"', "A line has at most 200,000 characters"),
    (f"while yes limit {NUMBER}\nend", "A limit is at most 100,000"),
    ("while yes limit 100001\nend", "A limit is at most 100,000"),
    ("if yes\n" * 1200 + "end\n" * 1200, f"more than {DEEPEST} deep"),
    ('part "p"\nrepeat 2 times\n' * 600 + "end\n" * 1200, f"more than {DEEPEST} deep"),
]


@pytest.mark.parametrize(("body", "says"), BEYOND)
def test_what_is_beyond_a_bound_is_a_fault_and_the_rest_is_read(body: str, says: str) -> None:
    macro, faults = parse_macro(f'macro "M"\nfor notes\n{body}\nwrite "after"\n')
    assert any(says in fault.reason for fault in faults), faults
    assert macro.steps[-1] == replace(macro.steps[-1], text="after")
    format_macro(macro)
    check_macro(macro, CATALOGUE)


ENDLESS = [
    ('set x = "xy"\nrepeat 60 times\n  set x = "{x}{x}"\nend', "is the most"),
    ('set x = "xy"\nrepeat 60 times\n  write "{x}"\n  set x = "{x}{x}"\nend', "is the most"),
    ('repeat "nan" times\nend', "“nan” is no number"),
    ('repeat "inf" times\nend', "“inf” is no number"),
    ('repeat "1_0" times\nend', "“1_0” is no number"),
    ('repeat "1e400" times\nend', "too large to reckon with"),
    ('set n = "1e308"\nset n = n * n', "too large to reckon with"),
    (f"set n = {NUMBER}", "too large to reckon with"),
    ('set n = "1e300"\nrepeat n times\nend', "100,000 steps"),
    ('repeat 400000 times\n  write "{chosen.text}"\nend', "is the most"),
]


@pytest.mark.parametrize(("body", "says"), ENDLESS)
def test_what_would_grow_without_end_is_stopped_with_a_sentence(body: str, says: str) -> None:
    macro, faults = parse_macro(f'macro "M"\nfor notes\n{body}\n')
    assert not faults
    flow = run_macro(macro)

    def to_the_end() -> None:
        answer: Any = None
        while True:
            answer = "y" * 300_000 if isinstance(flow.send(answer), Read) else None

    with pytest.raises(MacroStopped, match=says):
        to_the_end()


def test_a_long_letter_may_be_looked_into() -> None:
    macro, _ = parse_macro('macro "M"\nfor notes\nif chosen.text contains "x"\n  write "x"\nend\n')
    flow = run_macro(macro)
    assert isinstance(next(flow), Read)
    assert isinstance(flow.send("y" * 900_000 + "x"), Write)


def test_a_long_text_is_written_in_pieces_that_make_it_whole() -> None:
    text = "äö" * 20_500
    macro, _ = parse_macro(f'macro "M"\nfor notes\nwrite "{text}"\nwrite ""\n')
    written = [request.text for request in run_macro(macro) if isinstance(request, Write)]
    assert "".join(written) == text
    assert max(map(len, written)) == LONGEST_PIECE
    assert written[-1] == ""


def drive(text: str, others: dict[str, str] | None = None, most: int = 400_000) -> int:
    """Run a macro, and return how many things it did."""
    flow, answer, count = run_macro(parse_macro(text)[0]), None, 0
    macros = {name: parse_macro(each)[0] for name, each in (others or {}).items()}
    for _ in range(most):
        try:
            request = flow.send(answer)
        except StopIteration:
            return count
        count += isinstance(request, Perform | Write)
        answer = macros.get(request.macro) if isinstance(request, Fetch) else None
    raise AssertionError("it did not end")


@pytest.mark.parametrize(
    ("text", "others", "says"),
    [
        ('while yes limit 999999999\n  write "x"\nend', {}, "It went on for 100,000 steps"),
        ('while yes limit 50\n  write "x"\nend', {}, "It went round 50 times, which is the limit"),
        ("repeat 999999999 times\nend", {}, "It went on for 100,000 steps"),
        ('run "a"', {"a": 'run "b"', "b": 'run "a"'}, "The macros run one another without end"),
        ('run "gone"', {}, "The macro “gone” is not here"),
    ],
)
def test_what_would_not_end_is_ended(text: str, others: dict[str, str], says: str) -> None:
    with pytest.raises(MacroStopped, match=says):
        drive(text, others)


@pytest.mark.parametrize("word", [*WORDS, "yes", "no", "and", "or", "not", "contains", "is", "empty"])
def test_a_name_that_is_a_word_of_the_language_is_no_trap(word: str) -> None:
    text = f'ask {word} "?"\nwrite "{{{word}}}"\n'
    macro, faults = parse_macro(text)
    if not faults:
        assert not [fault for fault in check_macro(macro, CATALOGUE) if "used before" in fault.reason]
    attempt(text)
    attempt(f"set {word} = {word}\nif {word}\nend")


@pytest.mark.parametrize(
    "text",
    ["שלום", "\u202eright to left", "e\u0301\u0301\u0301", "👩‍🚀", "\ufeff", "\u2028", "a\u0000b", "﷽"],
)
def test_any_script_is_written_as_it_is(text: str) -> None:
    source = f'macro "{text}"\nfor notes\n\nwrite "{text}"\nsay "{text}"\n'
    macro, faults = parse_macro(source)
    assert not faults
    assert format_macro(macro) == source
    written = [request.text for request in run_macro(macro) if isinstance(request, Write)]
    assert written == [text]


def test_a_file_that_is_no_text_is_a_sentence(tmp_path: Path) -> None:
    from rimecrest.cli.common import read_text

    (tmp_path / "x.steps").write_bytes(b"\xff\xfe\x00")
    with pytest.raises(RimecrestError, match="cannot be read"):
        read_text(tmp_path / "x.steps")
    with pytest.raises(RimecrestError, match="cannot be read"):
        read_text(tmp_path)
