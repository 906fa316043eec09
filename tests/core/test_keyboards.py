"""National tables, geometry, reserved chords: against themselves and against the system's own data."""

from __future__ import annotations

import importlib.util
import shutil
from pathlib import Path
from types import ModuleType

import pytest

from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.chords import Chord, format_chord, normalise, parse_chord, parse_sequence
from rimecrest.core.keys.desktops.profiles import known_profiles, parse_profile, profile
from rimecrest.core.keys.keyboards.geometry import HOME, Hand, geometry
from rimecrest.core.keys.keyboards.national import (
    KEY_OF_NAME,
    TOP_ROW,
    keyboard,
    keyboard_name,
    known_keyboards,
)
from rimecrest.core.keys.obstacles import Obstacles
from rimecrest.core.keys.traits import NOWHERE, Traits

TOOL = Path(__file__).parents[2] / "tools" / "keyboards.py"
SAMPLED = ("gb", "de", "no", "be", "us", "fr", "tr", "ru", "pl", "cz")


def tool() -> ModuleType:
    spec = importlib.util.spec_from_file_location("keyboards_tool", TOOL)
    assert spec is not None
    assert spec.loader is not None
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    return module


@pytest.mark.skipif(shutil.which("xkbcli") is None, reason="the system's XKB tools are not installed")
@pytest.mark.parametrize("code", SAMPLED)
def test_the_shipped_table_is_what_the_system_says(code: str) -> None:
    made = tool()
    theirs = made.table(code, made.layout_names(), made.Keysyms())["keys"]
    ours = keyboard(code)
    assert len(theirs) >= 46
    for key, levels in theirs.items():
        assert ours.levels(key) == tuple(levels), key


def test_there_are_enough_keyboards_and_each_has_a_name() -> None:
    assert len(known_keyboards()) >= 24
    for code in known_keyboards():
        assert keyboard(code).name
        assert keyboard_name(code) == keyboard(code).name
    assert keyboard_name("xx") == "“xx”"
    with pytest.raises(RimecrestError, match="no keyboard “xx”"):
        keyboard("xx")


@pytest.mark.parametrize("code", known_keyboards())
def test_every_letter_and_digit_has_a_key_on_every_keyboard(code: str) -> None:
    board = keyboard(code)
    for name in "ABCDEFGHIJKLMNOPQRSTUVWXYZ1234567890":
        if (code, name) == ("lt", "X") or board.key_for(name):
            continue
        raise AssertionError(f"{code} has no {name}")
    for name in ("Return", "F12", "Page_Up", "KP_5"):
        assert board.key_for(name) == KEY_OF_NAME[name]


@pytest.mark.parametrize("code", known_keyboards())
def test_the_identity_of_a_key_leads_back_to_it(code: str) -> None:
    board = keyboard(code)
    for key in board.geometry.caps:
        name = board.identity(key)
        if name and board.key_for(name) != key:
            # Two keys of one symbol: a digit of the top row by position goes before, as in Hungarian.
            assert board.identity(board.key_for(name) or "") == name


@pytest.mark.parametrize(
    ("code", "key", "name"),
    [
        ("gb", "AD06", "Y"),
        ("de", "AD06", "Z"),
        ("fr", "AD01", "A"),
        ("be", "AE01", "1"),
        ("de", "AC11", "Ä"),
        ("de", "AE11", "ß"),
        ("no", "AC10", "Ø"),
        ("tr", "AD08", "ı"),
        ("ru", "AD01", "Q"),
        ("de", "AE12", "dead_acute"),
        ("gb", "LSGT", "\\"),
        ("us", "BKSL", "\\"),
        ("gb", "RTRN", "Return"),
    ],
)
def test_a_key_is_named_by_its_unshifted_symbol_or_its_position(code: str, key: str, name: str) -> None:
    assert keyboard(code).identity(key) == name
    assert normalise(f"Ctrl+{name}") == f"Ctrl+{name}"


def test_the_legend_is_the_national_one() -> None:
    assert keyboard("ru").legend("AD01") == "Й"
    assert keyboard("de").legend("AE12") == "´"
    assert keyboard("de").legend("AD11") == "Ü"
    assert keyboard("gb").legend("HOME") == "Home"


@pytest.mark.parametrize(
    ("code", "written", "meant"),
    [
        ("gb", "Ctrl+?", "Ctrl+Shift+/"),
        ("de", "Ctrl+?", "Ctrl+Shift+ß"),
        ("be", "Ctrl+&", "Ctrl+1"),
        ("be", "Ctrl+1", "Ctrl+1"),
        ("us", "Ctrl+{", "Ctrl+Shift+["),
        ("gb", "Alt+F5", "Alt+F5"),
    ],
)
def test_a_chord_written_with_a_symbol_is_its_keystroke_there(code: str, written: str, meant: str) -> None:
    found = keyboard(code).spelled(parse_chord(written))
    assert found is not None
    assert format_chord(found) == meant


def test_what_a_keyboard_has_no_key_for_is_none() -> None:
    assert keyboard("de").canonical(parse_chord("Ctrl+[")) is None
    assert keyboard("gb").canonical(parse_chord("Ctrl+Ä")) is None
    assert keyboard("de").canonical_sequence(parse_sequence("Ctrl+J, [")) is None
    assert keyboard("gb").spelled(parse_chord("Ctrl+Ж")) is None


@pytest.mark.parametrize(
    ("board", "keys", "dead"),
    [
        ("de", "Ctrl+dead_acute", "dead_acute"),
        ("de", "Ctrl+J, dead_acute", "dead_acute"),
        ("de", "Alt+Shift+dead_circumflex", ""),  # with Shift it is a degree sign
        ("no", "Ctrl+Shift+\\", "dead_grave"),
        ("no", "Ctrl+\\", ""),
    ],
)
def test_a_dead_key_is_only_in_the_way_where_one_writes(board: str, keys: str, dead: str) -> None:
    traits, nothing = Traits(keyboard=board), Obstacles({})
    found = nothing.of(parse_sequence(keys), traits, typing=True)
    assert [obstacle.does for obstacle in found if obstacle.kind == "unreachable"] == [dead] * bool(dead)
    assert nothing.of(parse_sequence(keys), traits, typing=False) == ()


def test_altgr_types_what_the_table_says() -> None:
    assert keyboard("de").typed(parse_chord("Ctrl+Alt+Q")) == "@"
    assert keyboard("gb").typed(parse_chord("Ctrl+Alt+C")) == "¢"
    assert keyboard("us").typed(parse_chord("Ctrl+Alt+C")) == ""


@pytest.mark.parametrize("shape", ["iso", "ansi"])
@pytest.mark.parametrize("pad", [True, False])
def test_no_two_keys_of_a_shape_overlap(shape: str, pad: bool) -> None:
    caps = list(geometry(shape, pad).caps.values())  # type: ignore[arg-type]
    assert len(caps) == {("iso", True): 105, ("ansi", True): 104}.get((shape, True), 0) - (0 if pad else 17)
    for one in caps:
        for other in caps:
            if one is not other:
                apart = (
                    one.x + one.width <= other.x + 1e-9
                    or other.x + other.width <= one.x + 1e-9
                    or one.y + one.height <= other.y + 1e-9
                    or other.y + other.height <= one.y + 1e-9
                )
                # The upright Return of the ISO shape stands beside the key below its upper part.
                assert apart or {one.key, other.key} == {"RTRN", "BKSL"}, (one, other)


def test_hands_and_home_are_those_of_a_touch_typist() -> None:
    shape = geometry("iso")
    for hand, keys in HOME.items():
        assert {shape.hand(key) for key in keys} == {hand}
    assert shape.hand("AE05") is Hand.LEFT
    assert shape.hand("AE06") is Hand.RIGHT
    assert shape.hand("KP5") is None
    assert shape.distance("AC04", "AC05") == pytest.approx(1.0)
    assert list(TOP_ROW.values()) == [*"1234567890"]


@pytest.mark.parametrize(
    ("written", "meant"),
    [
        ("strg+k", "Ctrl+K"),
        ("Strg+Umschalt+Entf", "Ctrl+Shift+Delete"),
        ("maj + f3", "Shift+F3"),
        ("ctrl+ß", "Ctrl+ß"),
        ("CTRL+ä", "Ctrl+Ä"),
        ("control+pgup", "Ctrl+Page_Up"),
    ],
)
def test_keys_are_read_as_they_are_printed_on_caps_of_other_countries(written: str, meant: str) -> None:
    assert normalise(written) == meant


@pytest.mark.parametrize(
    ("written", "says"),
    [
        ("Ctrl+Inserrt", "Did you mean Insert?"),
        ("Crtl+K", "Did you mean Ctrl?"),
        ("Ctrl+Shift", "modifier without a key"),
        ("Ctrl", "modifier without a key"),
        ("Ctrl+Ctrl+K", "holds Ctrl twice"),
        ("Ctrl+K, Ctrl+K, Ctrl+K, Ctrl+K", "has 4 chords"),
        ("", "No key was given"),
    ],
)
def test_a_key_that_cannot_be_read_is_told_with_a_way_out(written: str, says: str) -> None:
    with pytest.raises(RimecrestError) as caught:
        parse_sequence(written)
    assert says in str(caught.value)


def test_a_chord_twice_in_a_row_is_a_sequence() -> None:
    assert parse_sequence("Ctrl+K, Ctrl+K") == (Chord(("Ctrl",), "K"),) * 2


def test_every_profile_reads_and_names_what_it_takes() -> None:
    kinds = [profile(name).kind for name in known_profiles()]
    assert kinds.count("desktop") >= 3
    assert "reader" in kinds
    assert "input" in kinds
    for name in known_profiles():
        found = profile(name)
        assert found.id == name
        assert found.chords
        assert all(found.reserved.values())
    with pytest.raises(RimecrestError, match="no profile"):
        profile("nothing")


def test_a_profile_with_a_key_that_is_none_is_refused() -> None:
    text = '{"format": "rimecrest.reserved/1", "id": "x", "name": "X", "reserved": {"Ctrl+Nokey": "does"}}'
    with pytest.raises(RimecrestError, match="is no key"):
        parse_profile(text, "x.json")


def test_variants_are_looked_for_under_the_nearest_name_first() -> None:
    traits = Traits("de", "gnome", "remote", "orca", "ibus")
    assert [*traits.names()] == ["de", "desktop:gnome", "session:remote", "reader:orca", "input:ibus"]
    assert [*NOWHERE.names()] == []
