"""Reading and writing chords and sequences."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.chords import (
    MODIFIERS,
    NAMED,
    SYMBOLS,
    Chord,
    extends,
    format_sequence,
    normalise,
    parse_chord,
    parse_sequence,
)

keys = st.one_of(
    st.sampled_from("ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789"), st.sampled_from(SYMBOLS), st.sampled_from(NAMED)
)
chords = st.builds(
    lambda mods, key: Chord(tuple(m for m in MODIFIERS if m in mods), key),
    st.sets(st.sampled_from(MODIFIERS)),
    keys,
)


@given(st.lists(chords, min_size=1, max_size=3).map(tuple))
def test_what_is_written_is_read_back_the_same(sequence: tuple[Chord, ...]) -> None:
    assert parse_sequence(format_sequence(sequence)) == sequence


@pytest.mark.parametrize(
    ("spelling", "one"),
    [
        ("ctrl+j", "Ctrl+J"),
        ("CONTROL + j", "Ctrl+J"),
        ("shift+ctrl+alt+f5", "Ctrl+Alt+Shift+F5"),
        ("Ctrl+J,O", "Ctrl+J, O"),
        ("ctrl+j , shift+o", "Ctrl+J, Shift+O"),
        ("del", "Delete"),
        ("Ctrl+PgUp", "Ctrl+Page_Up"),
        ("Ctrl+page down", "Ctrl+Page_Down"),
        ("Ctrl+,", "Ctrl+,"),
        ("Ctrl+J, ,", "Ctrl+J, ,"),
        ("Ctrl++", "Ctrl++"),
        ("Ctrl++, O", "Ctrl++, O"),
        (",", ","),
        ("Ctrl+J, ", "Ctrl+J"),
        ("Super+E", "Super+E"),
        ("F12", "F12"),
        ("a", "A"),
    ],
)
def test_every_accepted_spelling_has_one_form(spelling: str, one: str) -> None:
    assert normalise(spelling) == one
    assert normalise(one) == one


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "No key was given"),
        ("   ", "No key was given"),
        ("Ctrl", "a modifier without a key"),
        ("Ctrl+Shift", "a modifier without a key"),
        ("Ctrl+Ctrl+J", "holds Ctrl twice"),
        ("Ctrl+Retrun", "Did you mean Return?"),
        ("Ktrl+J", "is no key"),
        ("A, B, C, D", "4 chords"),
    ],
)
def test_what_cannot_be_read_says_why_and_how_to_write_it(text: str, says: str) -> None:
    with pytest.raises(RimecrestError) as caught:
        parse_sequence(text)
    assert says in str(caught.value)
    assert caught.value.way_out


def test_a_letter_alone_types_text_and_a_chord_with_ctrl_does_not() -> None:
    assert parse_chord("A").types_text
    assert parse_chord("Shift+;").types_text
    assert parse_chord("space").types_text
    assert not parse_chord("Ctrl+A").types_text
    assert not parse_chord("F5").types_text


def test_a_sequence_extends_its_beginnings_and_itself() -> None:
    long, short = parse_sequence("Ctrl+J, O"), parse_sequence("Ctrl+J")
    assert extends(long, short)
    assert extends(long, long)
    assert not extends(short, long)
