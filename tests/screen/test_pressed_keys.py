"""What real key presses do in real windows is what `why` and the findings say they do.

Drawn by a seed from all bindings and from all keys in all contexts, with keys at random planted in a layout.
"""

from __future__ import annotations

import os
import random
import re
import select
import subprocess
import sys
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import product
from pathlib import Path

import pytest
from msgspec.structs import replace

from rimecrest.core.check.run import check
from rimecrest.core.explain.standpoint import Standpoint, seat_standpoint
from rimecrest.core.explain.why import why
from rimecrest.core.keys.chords import Chord, Sequence, format_sequence, parse_sequence
from rimecrest.core.keys.focus_keys import num_lock_twin
from rimecrest.core.keys.keyboards.national import Keyboard, keyboard
from rimecrest.core.layout.layout import Layout
from rimecrest.core.macro.where_runs import where_runs
from rimecrest.core.release.stack_sources import draft_stack
from rimecrest.core.workspace.people import Seat
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.demo.desk import Desk
from tests.screen.test_national_keys import CODES

pytestmark = [pytest.mark.long, pytest.mark.screen, pytest.mark.xdist_group("screen")]
PROBE = Path(__file__).with_name("press_probe.py")
LAYER = "department.freight"
PRESSES, PLANTED = 50, 12
"""Of one application and one seed: 150 for a seed."""
BOARDS = ("gb", "de", "fr", "no")
APPS = ("letters", "grid", "post")
SEEDS = [int(os.environ["SEED"])] if "SEED" in os.environ else [7, 19, 42]
# The keypad's key codes while Num Lock is on, and the Menu key's.
KEYPAD = {
    **{f"KP_{n}": code for n, code in enumerate((90, 87, 88, 89, 83, 84, 85, 79, 80, 81))},
    "KP_Decimal": 91, "KP_Enter": 104, "KP_Add": 86, "KP_Subtract": 82, "KP_Multiply": 63, "KP_Divide": 106,
}  # fmt: skip
OTHERS = {**KEYPAD, "Menu": 135}
TAKEN = frozenset(
    parse_sequence(keys)[0]
    for keys in (
        *("Alt+F4", "Alt+Escape", "Alt+space", "Alt+Tab", "Alt+Shift+Tab", "Ctrl+Alt+Tab"),
        *(f"{held}+{way}" for held in ("Ctrl+Alt", "Alt+Shift") for way in ("Left", "Right", "Up", "Down")),
    )
)
"""What the window manager of the virtual screen takes."""
NOT_INNERMOST = {"mailbox"}
"""Contexts within which another one is always live."""
HELD = ((), ("Shift",), ("Ctrl",), ("Ctrl", "Shift"), ("Alt",), ("Alt", "Shift"), ("Ctrl", "Alt"))
NEVER = {"unreachable", "types-text", "double", "prefix"}
"""Findings whose kind says that a key runs nothing. What a desktop takes first is not on this screen."""


@dataclass
class Case:
    """A press: the keys, the context, and what it should come to in the words of the probe."""

    sequence: Sequence
    context: str
    predicted: str

    @property
    def keys(self) -> str:
        return format_sequence(self.sequence)


def by_code(board: Keyboard, chord: Chord) -> str | None:
    """The chord as it is pressed; None where the keyboard has no such key."""
    key = board.key_for(chord.key)
    if chord.key in OTHERS:
        code = str(OTHERS[chord.key])
    elif key == "ESC":
        code = "Escape"
    elif key in CODES:
        code = str(CODES[key])
    else:
        return None
    return "+".join([*(name.lower() for name in chord.mods), code])


def all_chords(board: Keyboard) -> list[Chord]:
    names = [name for key in CODES if (name := board.identity(key))]
    chords = [Chord(mods, name) for name, mods in product((*names, *OTHERS), HELD) if name != "F12"]
    # Without Ctrl or Alt a dead key writes, though it gives no chord.
    return [c for c in chords if c not in TAKEN and not (board.dead(c) and set(c.mods) <= {"Shift"})]


def predicted(at: Standpoint, keys: str, context: str) -> str | None:
    """What `why` says, in the words of the probe; None where something outside of the application has it."""
    for link in why(at, keys, context):
        if link.name == "desktop" and not link.ok:
            return None
        if link.name == "focus":
            return "nothing" if "there is none" in link.sentence else "menu"
        if link.name == "session" and not link.ok:
            return "changed"
        if link.name == "keyboard" and "Num Lock on" in link.sentence:
            twin = num_lock_twin(parse_sequence(keys)[0])
            return predicted(at, format_sequence((twin,)), context) if twin is not None else None
        if "it is its access key" in link.sentence:
            return "access"
        if "is answered by what has the focus" in link.sentence:
            return "changed"
        if link.name in ("winner", "personal") and (
            found := re.search(r" runs (.+?)(, which goes first)?\.$", link.sentence)
        ):
            return f"runs {found[1]}"
        if "begins" in link.sentence:
            return "begins"
    return "nothing"


class Pressing:
    """One application on the screen, with one stack, and what its keys come to."""

    def __init__(
        self, desk: Desk, folder: Path, at: Standpoint, workspace: Workspace, board: Keyboard
    ) -> None:
        self.desk, self.at, self.board = desk, at, board
        stack = workspace.stack_up_to(LAYER)
        state = draft_stack(workspace, stack, at.catalogue.app, at.traits)
        file = folder / "state.json"
        file.write_text(state.model_dump_json(by_alias=True), encoding="utf-8")
        subprocess.run(["setxkbmap", board.code], env=desk.environment, check=True)
        self.process = subprocess.Popen(
            [sys.executable, str(PROBE), str(file), at.catalogue.app],
            env={**desk.environment, "HOME": str(folder)},
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            text=True,
        )
        assert self._line() == "here"
        desk.activate_pid(self.process.pid)
        desk.press("Num_Lock")

    def _line(self) -> str:
        assert self.process.stdout is not None
        assert select.select([self.process.stdout], [], [], 20)[0], "no answer to a key press"
        line = self.process.stdout.readline().strip()
        assert line, "the window has closed"
        return line

    def come_to(self, sequence: Sequence, context: str) -> str:
        """Press a sequence in a context; what it came to in the words of the probe, with names."""
        assert self.process.stdin is not None
        self.process.stdin.write(f"{context}\n")
        self.process.stdin.flush()
        ready, *live = self._line().split()
        assert ready == "ready"
        assert context in live, (context, live)
        codes = [by_code(self.board, chord) for chord in sequence]
        self.desk._do("key", "--delay", "3", *[code for code in codes if code], "96")
        came, _, what = self._line().partition(" ")
        if came != "runs":
            return came
        layer, keys, bound_in = what.split("|")
        binding = next(
            b
            for b in self.at.outcome.bindings
            if (b.layer, format_sequence(b.sequence), b.context) == (layer, keys, bound_in)
        )
        return f"runs {self.at.named(binding)}"

    def close(self) -> None:
        self.process.kill()
        self.process.wait()


def planted(dice: random.Random, demo: Workspace, app: str, board: Keyboard) -> Workspace:
    """The demo for one seat, with keys at random in the layout of its department."""
    catalogue, chords = demo.catalogue(app), all_chords(board)
    contexts = catalogue.context_tree
    keys = []
    for chord in dice.sample(chords, PLANTED):
        context = dice.choice(contexts.places)
        runnable = [c.id for c in catalogue.commands if where_runs(catalogue, c.id).bound_in(context)]
        keys.append({"keys": format_sequence((chord,)), "in": context, "run": dice.choice(runnable)})
    return with_keys(demo, app, board, keys)


def with_keys(demo: Workspace, app: str, board: Keyboard, keys: list[dict[str, str]]) -> Workspace:
    """The demo for one seat, with more keys in the layout of its department, and a panel with a field."""
    data = demo.layout(LAYER, app).to_data()
    panel = {"id": "planted", "title": "Planted", "items": [{"id": "planted-field", "field": "Vessel"}]}
    data["keys"] = [*data.get("keys", []), *keys]
    data["panels"] = [*data.get("panels", []), panel]
    seat = Seat(seat="Freight 1", name="Nora Sundby", departments=("freight",), keyboard=board.code)
    layout = Layout.model_validate({**data, "app": app, "layer": LAYER})
    return replace(demo.with_layout(layout), people=(seat,))


def drawn(dice: random.Random, at: Standpoint, board: Keyboard) -> Iterator[Case]:
    """Half from the bindings in their contexts, half from all keys in all contexts."""
    places = [place for place in at.contexts.places if place not in NOT_INNERMOST]
    bound = [
        (b.sequence, place)
        for b in at.outcome.bindings
        for place in places
        if at.contexts.contains(b.context, place)
    ]
    every = [((chord,), place) for chord in all_chords(board) for place in places]
    found = 0
    while found < PRESSES:
        sequence, place = dice.choice((bound, every)[found % 2])
        if any(by_code(board, chord) is None for chord in sequence):
            continue
        expected = predicted(at, format_sequence(sequence), place)
        if expected is not None:
            found += 1
            yield Case(sequence, place, expected)


def outcomes(pressing: Pressing, dice: random.Random) -> Iterator[str]:
    """Where a press comes to something else than `why` says."""
    for case in drawn(dice, pressing.at, pressing.board):
        came = pressing.come_to(case.sequence, case.context)
        if came != case.predicted:
            yield f"{case.keys} [{case.context}]: {came}, not {case.predicted}"


def findings_that_do_not_hold(pressing: Pressing, workspace: Workspace) -> Iterator[str]:
    """Keys of the layout that run although a finding says that they never do, or the other way round."""
    at, app = pressing.at, pressing.at.catalogue.app
    told = {
        f.where
        for f in check(workspace).findings
        if (f.app, f.layer) == (app, LAYER) and (f.kind in NEVER or "never runs" in f.rest)
    }
    for binding in [b for b in at.outcome.bindings if b.layer == LAYER and b.run in at.catalogue.by_id]:
        keys = format_sequence(binding.sequence)
        if any(by_code(pressing.board, chord) is None for chord in binding.sequence):
            continue
        where = where_runs(at.catalogue, binding.run)
        places = [
            p for p in at.contexts.places if at.contexts.contains(binding.context, p) and where.bound_in(p)
        ]
        came = [
            pressing.come_to(binding.sequence, place)
            for place in places
            if place not in NOT_INNERMOST and predicted(at, keys, place) is not None
        ]
        if came and (f"runs {at.named(binding)}" in came) is (keys in told):
            yield f"{keys} in {binding.context}: {came}, {'told' if keys in told else 'not told'}"


@pytest.mark.parametrize("seed", SEEDS)
@pytest.mark.parametrize("app", APPS)
def test_a_key_does_what_why_and_the_findings_say(
    desk: Desk, demo: Workspace, tmp_path: Path, app: str, seed: int
) -> None:
    dice = random.Random(f"{seed} {app}")
    board = keyboard(BOARDS[(SEEDS.index(seed) + APPS.index(app)) % len(BOARDS)])
    workspace = planted(dice, demo, app, board)
    at = seat_standpoint(workspace, workspace.people[0], app)
    pressing = Pressing(desk, tmp_path, at, workspace, board)
    try:
        wrong = [*outcomes(pressing, dice), *findings_that_do_not_hold(pressing, workspace)]
    finally:
        pressing.close()
    assert not wrong, f"seed {seed}, {board.code}: " + "; ".join(wrong)


@pytest.mark.parametrize("code", ["de", "es", "fr", "no"])
def test_a_key_that_is_dead_only_with_shift_or_only_without_runs_as_the_other(
    desk: Desk, demo: Workspace, tmp_path: Path, code: str
) -> None:
    board = keyboard(code)
    dead = [key for key in CODES if any(level.startswith("dead_") for level in board.levels(key)[:2])]
    held = (("Ctrl",), ("Ctrl", "Shift"), ("Alt", "Shift"))
    sequences = [(Chord(mods, board.identity(key)),) for key, mods in product(dead, held)]
    keys = [
        {"keys": format_sequence(each), "in": "writing", "run": "letters:insert-rule"} for each in sequences
    ]
    workspace = with_keys(demo, "letters", board, keys)
    at = seat_standpoint(workspace, workspace.people[0], "letters")
    pressing = Pressing(desk, tmp_path, at, workspace, board)
    try:
        expected = {each: predicted(at, format_sequence(each), "writing") for each in sequences}
        came = {each: pressing.come_to(each, "writing") for each in sequences}
    finally:
        pressing.close()
    assert came == expected
