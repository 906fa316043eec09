"""Bad input to the macro language: whatever is thrown at it, only a RimecrestError comes out, and it ends."""

from __future__ import annotations

from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rimecrest.core.errors import RimecrestError
from rimecrest.core.macro import MacroStopped, check_macro, format_macro, parse_macro, run_macro
from rimecrest.core.macro.parse import DEEPEST, WORDS
from rimecrest.core.macro.run import Fetch, Perform, Write
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


def test_ten_megabytes_are_read_to_the_end() -> None:
    text = 'macro "Long"\nfor notes\n\n' + 'write "a line of text that is written"\n' * 2000
    big = text + "# " + "x" * 10_000_000 + "\n" + "wrte\n"
    macro, faults = parse_macro(big)
    assert len(macro.steps) == 2001
    assert [fault.reason for fault in faults] == ["“wrte” begins no step"]


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
