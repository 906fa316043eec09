"""Who can write an unsigned channel: one number has one content, and there is always a way on."""

from __future__ import annotations

import contextlib
import json
import random
from pathlib import Path
from typing import Any

import pytest

from rimecrest.core.errors import RimecrestError
from rimecrest.core.release.package import build_package
from rimecrest.core.release.profile import Profile
from rimecrest.core.workspace.settings import LastRelease
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.rollout.agent import enrol, pull_now
from rimecrest.rollout.folder import FolderRepository
from rimecrest.rollout.publish import NewerRelease, publish_workspace
from tests.hostile.seeds import SEED

NEWS = {"organisation": "Greeting is new."}
OTHER = {"organisation": "This is somebody else’s."}
NO_DIGEST = ("", None, 7, "0" * 64, "x", " ", "G" * 64, [], {})
NUMBERS = (0, 1, -1, 3, 900, 2_000, 1_000_002, 999_999_998, 999_999_999, 10**9, 10**30, "2", 2.5, None, True)
NO_AUDIENCE = (b"", b"{", b"[]", b"\xff\xfe", b"null", b"[" * 5_000, b'{"format": "rimecrest.audience/9"}')


def hostile(channel: Path, workspace: Workspace, draw: random.Random) -> str:
    """Change the channel as somebody would who may write there; and say how."""
    path = channel / "audience.json"
    audience: dict[str, Any] = json.loads(path.read_text())
    said = []
    for meant in audience["seats"].values():
        if draw.random() < 0.7:
            digest = draw.choice((*NO_DIGEST, str(meant["digest"]).upper(), str(meant["digest"])[:-1]))
            meant["digest"] = digest
            if digest is None:
                del meant["digest"]
        if draw.random() < 0.4:
            meant["release"] = draw.choice(NUMBERS)
        said.append(f"{meant['release']} {meant.get('digest')}")
    numbers = {meant["release"] for meant in audience["seats"].values() if type(meant["release"]) is int}
    for number in {2, *(number for number in numbers if 0 < number < 10**9)}:
        content = build_package(workspace, number, draw.choice((NEWS, OTHER)), {})
        (channel / "releases" / f"{number}.crestpack").write_bytes(draw.choice((content, content[:-1], b"")))
    text = json.dumps(audience).encode()
    path.write_bytes(draw.choice(NO_AUDIENCE) if draw.random() < 0.15 else text)
    return "; ".join(said)


@pytest.mark.parametrize("number", range(120))
def test_nothing_else_comes_in_and_the_office_can_go_on(
    tmp_path: Path, workspace: Workspace, number: int
) -> None:
    draw = random.Random(SEED * 1000 + number)
    place = tmp_path / "channel"
    seat = Profile(tmp_path / "profile")
    released(workspace, place, last=0)
    enrol(seat, str(place), "North 1")
    had = draw.random() < 0.8
    if had:
        pull_now(seat)
    released(workspace, place, last=1)
    how = hostile(place, workspace, draw)
    before = seat.installed()
    with contextlib.suppress(RimecrestError):
        pull_now(seat)
    installed = seat.installed()
    assert installed == before or (installed is not None and installed.assignment.digest), how
    if installed is not None and had:
        assert seat.stack("notes").news == NEWS["organisation"], how

    # The office goes on: at once, or after it did what it was told.
    for _ in range(9):
        try:
            made = released(workspace, place, last=2)
            break
        except NewerRelease as newer:
            made = released(workspace, place, last=2, over=newer.number)
            break
        except RimecrestError as error:
            (word,) = [word for word in error.way_out.split() if word.endswith(".crestpack")]
            (place / "releases" / word).unlink()
    assert pull_now(seat).release == made, how
    assert seat.stack("notes").news == NEWS["organisation"]
    receipts = FolderRepository(place).receipts_of(seat.enrolment().id)
    assert (made, "applied") in [(receipt.release, receipt.state) for receipt in receipts]


def released(workspace: Workspace, place: Path, last: int, over: int | None = None) -> int:
    """Release as the office does that released `last` before; the number it gets."""
    settings = workspace.settings.model_copy(update={"last_release": LastRelease(number=last)})
    return publish_workspace(workspace.with_settings(settings), str(place), NEWS, over=over)[0]


def test_some_seats_alone_cannot_be_served_from_an_audience_that_cannot_be_read(
    tmp_path: Path, workspace: Workspace
) -> None:
    publish_workspace(workspace, str(tmp_path), NEWS, over=99)
    (tmp_path / "audience.json").unlink()
    with pytest.raises(RimecrestError) as told:
        publish_workspace(workspace, str(tmp_path), NEWS, ["North 1"], over=99)
    assert told.value.way_out == "Release to everybody: that writes a new audience.json."
    assert publish_workspace(workspace, str(tmp_path), NEWS, over=99)[0] == 2
