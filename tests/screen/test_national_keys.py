"""On five national keyboards, real key codes come to the same binding as the pure function says.

Every binding of the demo in every context of Letters and Grid, for the freight desk's stack.
"""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import pytest

from rimecrest.core.keys.bindings import standing
from rimecrest.core.keys.chords import Sequence
from rimecrest.core.keys.keyboards.national import Keyboard, keyboard, known_keyboards
from rimecrest.core.keys.traits import Traits
from rimecrest.core.keys.trie import KeyTrie, Step
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.demo.desk import Desk

PROBE = Path(__file__).with_name("key_probe.py")
CHORD_PROBE = Path(__file__).with_name("chord_probe.py")
LAYER = "department.freight"
# Key codes as X11 has them: evdev's, with 8 added (linux/input-event-codes.h).
CODES = {
    "TLDE": 49, "BKSL": 51, "LSGT": 94, "TAB": 23, "RTRN": 36, "BKSP": 22, "SPCE": 65, "INS": 118,
    "DELE": 119, "HOME": 110, "END": 115, "PGUP": 112, "PGDN": 117, "UP": 111, "DOWN": 116, "LEFT": 113,
    "RGHT": 114, "FK11": 95, "FK12": 96, "KPEN": 104,
    **{f"AE{n:02}": 9 + n for n in range(1, 13)}, **{f"AD{n:02}": 23 + n for n in range(1, 13)},
    **{f"AC{n:02}": 37 + n for n in range(1, 12)}, **{f"AB{n:02}": 51 + n for n in range(1, 11)},
    **{f"FK{n:02}": 66 + n for n in range(1, 11)},
}  # fmt: skip


def pressed(board: Keyboard, sequence: Sequence) -> list[str] | None:
    """The chords as xdotool presses them by key code; None where the keyboard has no such key."""
    found = []
    for chord in sequence:
        key = board.key_for(chord.key)
        if key is None:
            return None
        # By name: xdotool takes a single digit, as Escape's code 9, for the digit itself.
        code = "Escape" if key == "ESC" else str(CODES[key])
        found.append("+".join([*(name.lower() for name in chord.mods), code]))
    return found


def expected(trie: KeyTrie, board: Keyboard, sequence: Sequence) -> list[str]:
    """The bindings that those chords come to, one after the other."""
    typed: Sequence = ()
    found = []
    for chord in board.canonical_sequence(sequence) or ():
        typed = (*typed, chord)
        step, binding = trie.step(typed)
        if step is Step.RUNS and binding is not None:
            if binding.run is not None:
                found.append(binding.id)
            typed = ()
        elif step is Step.NOTHING:
            typed = ()
    return found


@pytest.mark.long
@pytest.mark.parametrize("code", ["gb", "de", "no", "be", "ie"])
@pytest.mark.parametrize("app", ["letters", "grid"])
def test_real_key_codes_come_to_what_the_pure_function_says(
    desk: Desk, demo: Workspace, demo_folder: Path, app: str, code: str
) -> None:
    subprocess.run(["setxkbmap", code], env=desk.environment, check=True)
    board, contexts = keyboard(code), demo.catalogue(app).context_tree
    outcome = demo.outcome(demo.stack_up_to(LAYER), app, Traits(keyboard=code))
    command = [sys.executable, str(PROBE), app, str(demo_folder / "vessry"), LAYER, code]
    probe = subprocess.Popen(
        command, env=desk.environment, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True
    )
    assert probe.stdin is not None
    assert probe.stdout is not None
    try:
        assert probe.stdout.readline().strip() == "here"
        desk.activate_pid(probe.pid)
        sequences = sorted({binding.sequence for binding in outcome.bindings})
        reached = 0
        for context in contexts:
            probe.stdin.write(f"{context.id}\n")
            probe.stdin.flush()
            assert probe.stdout.readline().strip() == "ready"
            trie = KeyTrie(standing(outcome.bindings, contexts.live([context.id]), contexts))
            typable = [(s, keys) for s in sequences if (keys := pressed(board, s)) is not None]
            chords = [chord for _, keys in typable for chord in (*keys, "96")]
            desk._do("key", "--delay", "3", *chords)
            for sequence, _ in typable:
                came = []
                while (line := probe.stdout.readline().strip()) != "end":
                    assert line, "the window has closed"
                    came.append(line)
                assert came == expected(trie, board, sequence), (context.id, sequence)
                reached += len(came)
        assert reached > 60
    finally:
        probe.kill()
        probe.wait()


@pytest.mark.long
@pytest.mark.parametrize("code", known_keyboards())
def test_each_key_has_the_name_that_the_table_of_its_keyboard_gives_it(desk: Desk, code: str) -> None:
    board = keyboard(code)
    with_latin = ["setxkbmap", f"{code},us"]  # a seat with other letters has a Latin group as well
    subprocess.run(with_latin, env=desk.environment, check=True)
    named = {
        key: name for key in CODES if key[:2] in ("AB", "AC", "AD", "AE") and (name := board.identity(key))
    }
    keys = [key for key, name in named.items() if not name.startswith("dead_")]
    probe = subprocess.Popen(
        [sys.executable, str(CHORD_PROBE)], env=desk.environment, stdout=subprocess.PIPE, text=True
    )
    assert probe.stdout is not None
    try:
        assert probe.stdout.readline().strip() == "here"
        desk.activate_pid(probe.pid)
        desk._do("key", "--delay", "3", *(f"ctrl+{CODES[key]}" for key in keys), "Escape")
        said = [line.strip() for line in probe.stdout]
        assert said == [*(f"Ctrl+{named[key]}" for key in keys), "Escape"]
    finally:
        probe.kill()
        probe.wait()
