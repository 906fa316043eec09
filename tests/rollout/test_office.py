"""A channel knows its office: another workspace is refused, and a newer release stops whoever lacks it."""

from __future__ import annotations

import hashlib
from pathlib import Path

import pytest
from msgspec.structs import replace

from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.layout import KeyBinding
from rimecrest.core.workspace.edits import Bind
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.rollout.folder import open_repository
from rimecrest.rollout.publish import publish_workspace
from tests.conftest import make_workspace
from tests.samples import SETTINGS


@pytest.fixture
def address(tmp_path: Path, workspace: Workspace) -> str:
    """A channel with one release of the sample office."""
    publish_workspace(workspace, str(tmp_path / "channel"), {})
    return str(tmp_path / "channel")


def test_another_office_is_refused_and_everybody_keeps_what_is_meant_for_them(address: str) -> None:
    other = make_workspace(settings=SETTINGS.model_copy(update={"name": "Other office"}))
    other = replace(other, people=other.people[:1])
    before = open_repository(address).audience()
    with pytest.raises(RimecrestError, match="belongs to “Sample”, not to “Other office”"):
        publish_workspace(other, address, {})
    assert open_repository(address).audience() == before
    assert open_repository(address).newest() == 1


def test_a_release_that_the_workspace_lacks_stops_it_and_says_what_that_changed(
    address: str, workspace: Workspace
) -> None:
    bound = KeyBinding(keys="F9", in_context="writing", run="notes:rule")
    theirs = Bind("organisation", "notes", bound).on(workspace)
    with pytest.raises(RimecrestError) as stopped:
        publish_workspace(theirs, address, {})
    assert "Release 1 was not made from this workspace" in str(stopped.value)
    assert "“Greeting” is on the tab Shared" in str(stopped.value)
    assert open_repository(address).newest() == 1


def test_who_made_a_release_is_beside_it_and_not_in_its_bytes(tmp_path: Path, workspace: Workspace) -> None:
    digests = set()
    for who in ("Ailis", "Bram"):
        channel = tmp_path / who
        publish_workspace(workspace, str(channel), {})
        digests.add(hashlib.sha256((channel / "releases" / "1.crestpack").read_bytes()).hexdigest())
        assert (channel / "releases" / "1.json").is_file()
    assert len(digests) == 1
