"""Files that an earlier version wrote still open: a workspace, a channel, a profile and a bundle.

`tests/earlier` was written by version 0.1.0 as it was in November 2026 and is never written again.
"""

from __future__ import annotations

import shutil
from pathlib import Path

import pytest

from rimecrest.core.bundle.bundle import read_bundle
from rimecrest.core.check.run import check
from rimecrest.core.layout.layout import parse_layout
from rimecrest.core.release.package import read_package, understand
from rimecrest.core.release.profile import Profile
from rimecrest.core.workspace.folder import open_workspace
from rimecrest.rollout.folder import open_repository

EARLIER = Path(__file__).parents[1] / "earlier"


@pytest.fixture
def earlier(tmp_path: Path) -> Path:
    """A copy, so that nothing is written into the original."""
    return Path(shutil.copytree(EARLIER, tmp_path / "earlier"))


def test_the_workspace_opens_whole_and_can_be_checked(earlier: Path) -> None:
    workspace = open_workspace(earlier / "workspace")
    assert workspace.broken == {}
    assert len(workspace.people) == 40
    assert len(workspace.macros) == 13
    assert {finding.kind for finding in check(workspace).findings} >= {"unreachable", "gone", "takes-over"}


def test_both_releases_of_the_channel_are_read(earlier: Path) -> None:
    channel = open_repository(str(earlier / "channel"))
    assert channel.newest() == 7
    assert len(channel.audience().seats) == 40
    for number in (6, 7):
        understand(read_package(channel.package(number), str(number)), str(number))
    receipts, ignored = channel.receipts()
    assert len(receipts) > 70
    assert ignored == 0


def test_the_profile_has_its_release_and_what_its_colleague_made(earlier: Path) -> None:
    profile = Profile(earlier / "profile")
    state = profile.stack("letters")
    assert state.release == 7
    assert [layout.layer for layout in state.layouts] == ["organisation", "department.freight"]
    personal = (earlier / "profile" / "personal" / "letters.json").read_text()
    assert [key.keys for key in parse_layout(personal, "personal").keys] == ["Ctrl+Shift+U"] * 2
    assert profile.stack_before("letters").release in (0, 7)


def test_the_bundle_is_whole_but_no_macro_in_it_is_signed(earlier: Path) -> None:
    bundle = read_bundle((earlier / "handed.crestmacros").read_bytes(), "it")
    assert not bundle.signed
    assert {file.origin for file in bundle.macros.values()} == {None}
    assert {"berth-change", "sailing-notice"} <= set(bundle.macros)
