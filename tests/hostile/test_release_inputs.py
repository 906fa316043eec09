"""Whatever stands in a workspace's files, checking and releasing it end with a sentence."""

from __future__ import annotations

import json
import os
import random
import re
from pathlib import Path

import pytest
from typer.testing import CliRunner

from rimecrest.cli.command_line import app
from rimecrest.core.check.audience import UNSAID, Audience
from rimecrest.core.errors import RimecrestError
from rimecrest.core.workspace.people import Seat
from tests.conftest import make_workspace, write_workspace
from tests.hostile.seeds import SEED

ODD = (
    *('"\\ud800"', '"a\\udfffb"', "[" * 900 + "]" * 900, '{"a":' * 300 + "1" + "}" * 300, "NaN", "-Infinity"),
    *("1e999", "9" * 5_000, '"\\u0000"', '"\\u202e"', "null", "[]", "{}", "-1", "1.5", "true", '""'),
    '"' + "x" * 5_000 + '"',
)
NAMES = (
    b"\xff.steps",
    b"\xe9.json",
    b"a\nb.steps",
    b" .steps",
    b"\xed\xa0\x80.steps",
    b"..json",
    b"CON.json",
)
FILES = ("workspace.json", "layouts/organisation/notes.json", "catalogues/notes.json",
         "layouts/department.north/notes.json")  # fmt: skip


def spoil(folder: Path, dice: random.Random) -> str:
    """Put something odd into a file of the workspace, or one with an odd name beside them."""
    if dice.random() < 0.2:
        place = os.fsencode(
            folder / dice.choice(("macros/organisation", "layouts/organisation", "catalogues"))
        )
        name = dice.choice(NAMES)
        with open(place + b"/" + name, "wb") as file:
            file.write(dice.choice((b"", b"{}", b'macro "x"\nfor notes\n\nstop\n', b"\xff")))
        return str(name)
    path = folder / dice.choice(FILES)
    text, odd = path.read_text(), dice.choice(ODD)
    places = [*re.finditer(r'(?<=: )("(?:[^"\\]|\\.)*"|[0-9.]+|\[\]|true)', text)]
    at = dice.choice([place for place in places if '"rimecrest.' not in place[0]])
    made = text[: at.start()] + odd + text[at.end() :]
    if dice.random() < 0.3:  # in a field that nobody knows, which is kept
        made = re.sub(r"\n\}\s*\Z", lambda _: f',\n  "more": {odd}\n}}\n', text)
    path.write_text(made)
    return f"{path.name}: {at[0][:40]} {odd[:40]}"


@pytest.mark.parametrize("number", range(150))
def test_checking_and_releasing_end_with_a_sentence(tmp_path: Path, number: int) -> None:
    dice = random.Random(SEED * 1000 + number)
    folder = write_workspace(tmp_path / "sample")
    how = spoil(folder, dice)
    for command in (["check"], ["release", "--channel", str(tmp_path / "channel")]):
        result = CliRunner().invoke(app, [command[0], str(folder), *command[1:]])
        told = result.exception
        assert told is None or isinstance(told, SystemExit | RimecrestError), (how, told)
        assert result.output.strip() or str(told), how
        if result.exit_code == 0 and command[0] == "release":
            for path in (tmp_path / "channel").glob("*.json"):
                json.loads(path.read_text())


def test_thousands_of_unknown_keyboards_are_one_kind_of_seat() -> None:
    seats = [
        Seat(f"North {number}", f"Colleague {number}", ("north",), keyboard=f"kb{number}",
             desktop=f"d{number}", reader=f"r{number}", input=f"i{number}")
        for number in range(20_000)
    ]  # fmt: skip
    known = Seat("North x", "Colleague x", ("north",), keyboard="gb", desktop="gnome")
    audience = Audience(make_workspace(people=(*seats, known)))
    assert len(audience.profiles) == 2
    assert UNSAID in {traits.keyboard for traits in audience.profiles}
    assert sum(audience.keyboards.values()) == 20_001
