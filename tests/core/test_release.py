"""Packages, audiences, profiles: same content gives same bytes, and what is not whole is refused."""

from __future__ import annotations

import base64
import io
import json
import stat
import zipfile
from collections.abc import Callable
from pathlib import Path

import pytest
from msgspec.structs import replace

from rimecrest.core.errors import NewerFormat, RimecrestError
from rimecrest.core.model import dump_record
from rimecrest.core.release.audience import Assignment, audience_of, parse_audience, seat_id
from rimecrest.core.release.package import MOST_BYTES, build_package, read_package
from rimecrest.core.release.package_files import PackageFiles
from rimecrest.core.release.pictures import freeze, frozen_pictures, picture_names
from rimecrest.core.release.profile import Installed, Profile
from rimecrest.core.release.stack_sources import draft_stack, released_stack
from rimecrest.core.workspace.edits import SetFields, apply
from rimecrest.core.workspace.workspace import Workspace
from tests.samples import CATALOGUE

NEWS = {"organisation": "A greeting is one click now."}


@pytest.fixture
def package(workspace: Workspace) -> bytes:
    return build_package(workspace, 8, NEWS, {"hand": b"<svg/>"})


def test_the_same_content_gives_the_same_bytes(workspace: Workspace, package: bytes) -> None:
    assert build_package(workspace, 8, dict(NEWS), {"hand": b"<svg/>"}) == package
    assert build_package(workspace, 9, NEWS, {"hand": b"<svg/>"}) != package


def test_a_package_is_read_whole(package: bytes) -> None:
    read = read_package(package, "release 8")
    assert read.release.number == 8
    assert read.release.layers == ("organisation", "department.north", "department.south")
    assert read.release.applications == {"notes": "1.0"}
    assert read.release.effects["organisation/greeting"] == ("edits",)
    assert set(read.files) == set(read.release.files)
    assert "layouts/department.north/notes.json" in read.files


def rebuilt(package: bytes, change: Callable[[dict[str, bytes]], None]) -> bytes:
    with zipfile.ZipFile(io.BytesIO(package)) as archive:
        files = {name: archive.read(name) for name in archive.namelist()}
    change(files)
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for name, content in files.items():
            archive.writestr(name, content)
    return out.getvalue()


def entry(package: bytes, name: str, mode: int = 0, content: bytes = b"x") -> bytes:
    out = io.BytesIO(package)
    with zipfile.ZipFile(out, "a") as archive:
        info = zipfile.ZipInfo(name)
        info.external_attr = mode << 16
        archive.writestr(info, content)
    return out.getvalue()


def refused(content: bytes) -> str:
    with pytest.raises(RimecrestError) as caught:
        read_package(content, "Release 8")
    assert caught.value.way_out
    return caught.value.sentence


@pytest.mark.parametrize("length", [0, 10, 1000, -30])
def test_a_truncated_package_is_refused(package: bytes, length: int) -> None:
    assert "truncated or no package" in refused(package[:length])


def test_rubbish_is_refused() -> None:
    assert "no package" in refused(b"PK\x03\x04" + b"rubbish" * 400)


@pytest.mark.parametrize("position", [60, 400, 900])
def test_a_byte_that_changed_on_the_way_is_noticed(package: bytes, position: int) -> None:
    changed = bytearray(package)
    changed[position] ^= 0x20
    refused(bytes(changed))


def test_a_file_changed_with_its_checksum_is_refused(package: bytes) -> None:
    def change(files: dict[str, bytes]) -> None:
        files["macros/organisation/greeting.steps"] += b"do wipe\n"

    assert "macros/organisation/greeting.steps was changed" in refused(rebuilt(package, change))


def test_a_file_too_many_and_one_too_few_are_refused(package: bytes) -> None:
    assert "macros/x.steps does not belong" in refused(
        rebuilt(package, lambda f: f.update({"macros/x.steps": b""}))
    )
    assert "is missing" in refused(
        rebuilt(package, lambda f: f.pop("macros/organisation/greeting.steps") and None)
    )
    assert "holds no release.json" in refused(rebuilt(package, lambda f: f.pop("release.json") and None))


@pytest.mark.parametrize("name", ["../outside", "a/../../outside", "/etc/outside", "a\\..\\outside"])
def test_a_path_that_leads_out_is_refused(package: bytes, name: str) -> None:
    assert "leads out of the folder" in refused(entry(package, name))


def test_a_link_is_refused(package: bytes) -> None:
    assert "is a link" in refused(entry(package, "link", stat.S_IFLNK | 0o777, b"/etc/passwd"))


@pytest.mark.filterwarnings("ignore:Duplicate name")
def test_an_entry_that_stands_twice_is_refused(package: bytes) -> None:
    assert "stands twice" in refused(entry(package, "macros/organisation/greeting.steps"))


def test_a_package_that_unpacks_to_far_too_much_is_refused(package: bytes) -> None:
    out = io.BytesIO(package)
    with zipfile.ZipFile(out, "a", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("huge", bytes(MOST_BYTES))
    assert len(out.getvalue()) < 1_000_000
    assert "more than 64 MiB" in refused(out.getvalue())
    assert "far too large" in refused(bytes(2 * MOST_BYTES + 1))


def test_a_newer_package_is_refused_with_the_way_out(package: bytes) -> None:
    def newer(files: dict[str, bytes]) -> None:
        data = json.loads(files["release.json"])
        files["release.json"] = json.dumps({**data, "format": "rimecrest.release/2"}).encode()

    with pytest.raises(NewerFormat, match="Update Rimecrest"):
        read_package(rebuilt(package, newer), "Release 8")


def test_an_audience_names_no_colleague_and_is_read_back(workspace: Workspace) -> None:
    audience = audience_of(workspace, 8)
    text = dump_record(audience, "audience")
    assert parse_audience(text, "audience.json") == audience
    assert len(audience.seats) == 4
    assert "Ailis" not in text
    assert "North 1" not in text
    both = audience.seats[seat_id("Sample", "Both 1")]
    assert both.stack == ("organisation", "department.north", "department.south")
    assert audience_of(workspace, 8, ["North 1"]).seats.keys() == {seat_id("Sample", "North 1")}


def test_a_seat_has_what_its_stack_has_and_nothing_else(package: bytes) -> None:
    read = read_package(package, "it")
    south = released_stack(read, Assignment(release=8, stack=("organisation", "department.south")), "notes")
    assert set(south.macros) == {"greeting"}
    north = released_stack(read, Assignment(release=8, stack=("organisation", "department.north")), "notes")
    assert set(north.macros) == {"greeting", "closing"}
    assert north.news == "A greeting is one click now."
    assert [layout.layer for layout in north.layouts] == ["organisation", "department.north"]


def test_a_released_stack_shows_what_the_draft_showed(workspace: Workspace, package: bytes) -> None:
    stack = ("organisation", "department.north")
    released = released_stack(read_package(package, "it"), Assignment(release=8, stack=stack), "notes")
    assert released.outcome(CATALOGUE) == draft_stack(workspace, stack, "notes").outcome(CATALOGUE)


def test_pictures_of_the_set_are_frozen_into_the_draft(workspace: Workspace) -> None:
    edit = SetFields("department.north", "notes", "department.north:close", {"picture": "set:ferry"})
    changed, _ = apply(workspace, edit)
    frozen = frozen_pictures(changed)
    assert frozen["ferry"].startswith(b"<svg")
    assert "set:ferry" in draft_stack(changed, ("organisation",), "notes").pictures
    assert freeze("no-such-picture") is None
    assert "ferry" in picture_names()


def test_an_own_picture_never_meets_one_of_the_set_of_the_same_name(workspace: Workspace) -> None:
    own = replace(workspace, pictures={"ferry.svg": b"<svg>ours</svg>"})
    package = read_package(build_package(own, 8, NEWS, {"ferry": b"<svg>the set's</svg>"}), "it")
    assert package.files["pictures/own/ferry.svg"] == b"<svg>ours</svg>"
    assert package.files["pictures/set/ferry.svg"] == b"<svg>the set's</svg>"
    stack = released_stack(package, Assignment(release=8, stack=("organisation",)), "notes")
    assert {name: base64.b64decode(content) for name, content in stack.pictures.items()} == {
        "own:ferry.svg": b"<svg>ours</svg>",
        "set:ferry": b"<svg>the set's</svg>",
    }


def test_a_package_with_the_ending_of_earlier_versions_is_found_by_its_number(
    tmp_path: Path,
) -> None:
    for name in ("9.crestpack", "10.oldpack", "news.crestpack", "11.zip"):
        (tmp_path / name).write_bytes(name.encode())
    packages = PackageFiles(tmp_path)
    assert packages.numbers() == [9, 10]
    assert packages.path(10).read_bytes() == b"10.oldpack"
    assert packages.path(11).name == "11.crestpack"


def test_a_profile_without_anything_shows_the_application_as_it_comes(tmp_path: Path) -> None:
    profile = Profile(tmp_path)
    assert profile.installed() is None
    assert profile.stack("notes").layouts == ()
    with pytest.raises(RimecrestError, match="is not enrolled"):
        profile.enrolment()


def test_a_profile_switches_by_one_file_and_keeps_the_last_packages(
    tmp_path: Path, workspace: Workspace
) -> None:
    profile = Profile(tmp_path)
    for number in range(1, 6):
        profile.stage(number, build_package(workspace, number, NEWS, {}))
        profile.switch(
            Installed(release=number, assignment=Assignment(release=number, stack=("organisation",)))
        )
    profile.tidy()
    assert sorted(path.stem for path in (tmp_path / "releases").iterdir()) == ["3", "4", "5"]
    assert profile.stack("notes").release == 5


def test_an_installed_package_that_vanished_or_broke_is_told(tmp_path: Path, package: bytes) -> None:
    profile = Profile(tmp_path)
    profile.switch(Installed(release=8, assignment=Assignment(release=8)))
    with pytest.raises(RimecrestError, match="cannot be read"):
        profile.stack("notes")
    profile.stage(8, package[:200])
    with pytest.raises(RimecrestError, match="truncated"):
        profile.stack("notes")
