"""Where a file of a macro would be started or taken for settings, it is asked about, whatever the way."""

from __future__ import annotations

import os
import random
from pathlib import Path

import pytest

from rimecrest.kit.commands.leaving import starts_something, writing
from tests.hostile.seeds import SEED

FOLDERS = ("letters", "Vessry Isles", "berths", "2026", "a.b", "tidy")
HIDDEN = (".config", ".local", ".x", "..x", ". ", ".config/autostart", ".local/share/applications", ".ssh")
NAMES = ("letter.html", "plan.ods", "e.txt", "x", "tool.sh")
STARTED = ("e.desktop", "E.DESKTOP", "x.service", "x.Timer", "x.socket", "x.path")


def folder(dice: random.Random, base: Path) -> Path:
    return base.joinpath(*dice.choices(FOLDERS, k=dice.randrange(4)))


@pytest.mark.parametrize("number", range(120))
def test_what_would_be_started_is_risky_and_nothing_else(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, number: int
) -> None:
    dice = random.Random(SEED * 1000 + number)
    place = folder(dice, tmp_path)
    place.mkdir(parents=True, exist_ok=True)
    plain = place / dice.choice(NAMES)
    assert not starts_something(plain)
    assert not writing(plain).risky
    match number % 5:
        case 0:
            risky = place / dice.choice(HIDDEN) / "more" / dice.choice(NAMES)
        case 1:
            risky = place / dice.choice((".bashrc", ".profile", ".x.desktop", "..a"))
        case 2:
            risky = place / dice.choice(STARTED)
        case 3:
            (place / "programs").mkdir()
            monkeypatch.setenv("PATH", f"{place / 'programs'}:{os.environ['PATH']}")
            risky = place / "programs" / dice.choice(NAMES)
        case _:  # by a link that looks harmless, and by a way with dots in it
            (tmp_path / ".hidden").mkdir()
            (place / "link").symlink_to(tmp_path / ".hidden")
            risky = place / dice.choice(("link", "link/.", f"../{place.name}/link")) / dice.choice(NAMES)
    assert starts_something(risky), risky
    assert writing(risky).risky
