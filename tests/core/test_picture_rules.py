"""Findings about pictures of one's own: gone, unseen, unused, taken for one another; and what mends each."""

from __future__ import annotations

import pytest

from rimecrest.core.catalogue.surfaces import Toolbar
from rimecrest.core.check.findings import Finding
from rimecrest.core.check.run import check
from rimecrest.core.layout.layout import Acceptance
from rimecrest.core.mend.make_fixes import fixes
from rimecrest.core.pictures.drawing import Drawing, ellipse
from rimecrest.core.workspace.edits import Accept, PutToolbar, Restore, SetFields, apply
from rimecrest.core.workspace.file_edits import PutPicture
from rimecrest.core.workspace.own_pictures import content_of, fresh_picture, shown_by, stored_as, unused
from rimecrest.core.workspace.workspace import Workspace

NORTH = "department.north"
HERE = (NORTH, "notes")
DOT = Drawing.empty(20).painted(ellipse((3, 3), (16, 16)), "ink").to_svg()
WHITE = DOT.replace(b"currentColor", b"#FFFFFF")


def showing(workspace: Workspace, *pictures: str) -> Workspace:
    items = [
        {"id": f"p{n}", "run": run, "label": run, "face": "picture", "picture": picture}
        for n, (run, picture) in enumerate(zip(("notes:bold", "notes:save"), pictures, strict=False))
    ]
    bar = {"id": "mine", "title": "Mine", "edge": "left", "items": items}
    return PutToolbar(*HERE, Toolbar.model_validate(bar)).on(workspace)


def found(workspace: Workspace, kind: str) -> list[Finding]:
    return [finding for finding in check(workspace).findings if finding.kind == kind]


def mended(workspace: Workspace, finding: Finding, label: str) -> Workspace:
    fix = next(fix for fix in fixes(finding, workspace) if fix.label == label)
    after = fix.edit.on(workspace)
    assert not found(after, finding.kind)
    return after


def test_a_picture_that_is_not_there_is_told_until_it_is(workspace: Workspace) -> None:
    without = showing(workspace, "own:dot")
    (finding,) = found(without, "no-picture")
    assert finding.sentence == "“notes:bold” shows the picture dot, which does not exist."
    assert not found(PutPicture("dot.svg", DOT).on(without), "no-picture")
    mended(without, finding, "No picture of its own")
    # Of the free sets nothing is missing: an unknown name is drawn as none.
    assert not found(showing(workspace, "set:ferry"), "no-picture")


def test_a_picture_that_melts_into_a_scheme_is_told_and_accepted_until_it_changes(
    workspace: Workspace,
) -> None:
    shown = showing(PutPicture("dot.svg", WHITE).on(workspace), "own:dot")
    (finding,) = found(shown, "unseen-picture")
    assert finding.sentence == "“notes:bold” has a picture that cannot be seen on the light scheme."
    assert "Accept, with a reason" in [fix.label for fix in fixes(finding, shown)]
    owners, digest = tuple(owner.id for owner in finding.owners), finding.targets_digest()
    kept = Acceptance(kind=finding.kind, owners=owners, targets=digest, why="a white hull")
    accepted = Accept(*HERE, kept).on(shown)
    assert not found(accepted, "unseen-picture")
    assert not found(mended(shown, finding, "No picture of its own"), "unseen-picture")
    other = PutPicture("dot.svg", WHITE.replace(b"#FFFFFF", b"#FDFDFD")).on(accepted)
    assert found(other, "unseen-picture")
    assert not found(PutPicture("dot.svg", DOT).on(shown), "unseen-picture")


def test_a_picture_that_nothing_shows_is_told_as_soon_as_it_is_so(workspace: Workspace) -> None:
    given = PutPicture("dot.svg", DOT).on(workspace)
    (finding,) = found(given, "unused-picture")
    mended(given, finding, "Delete the picture")
    shown = showing(given, "own:dot.svg")
    before = check(shown)
    assert not [f for f in before.findings if f.kind == "unused-picture"]
    after, inverse = apply(shown, SetFields(*HERE, f"{NORTH}:p0", {"picture": "set:ferry"}))
    assert isinstance(inverse, Restore)
    again = check(after, before)
    assert [f.kind for f in again.findings if f.kind == "unused-picture"] == ["unused-picture"]
    assert again.findings == check(after).findings
    assert check(inverse.on(after), again).findings == before.findings


@pytest.mark.parametrize(
    ("one", "other", "twins"),
    [
        ("own:a", "own:b", True),
        ("own:a", "own:c", False),
        ("set:ferry", "set:truck", False),
        ("set:phosphor.boat", "set:phosphor.boat-light", False),
    ],
)
def test_neighbours_are_twins_by_what_is_seen_of_them(
    workspace: Workspace, one: str, other: str, twins: bool
) -> None:
    ring = Drawing.empty(20).painted([(x, 9) for x in range(20)], "ink").to_svg()
    for name, content in (("a.svg", DOT), ("b.svg", DOT + b"\n"), ("c.svg", ring)):
        workspace = PutPicture(name, content).on(workspace)
    shown = showing(workspace, one, other)
    assert bool(found(shown, "twin")) is twins


def test_names_of_pictures(workspace: Workspace) -> None:
    given = PutPicture("lane-sheet.svg", DOT).on(workspace)
    assert fresh_picture(given, "Lane sheet", ".png") == "lane-sheet-2.png"
    assert fresh_picture(given, "…", ".png") == "picture.png"
    assert stored_as(given.pictures, "own:lane-sheet") == stored_as(given.pictures, "own:lane-sheet.svg")
    assert stored_as(given.pictures, "set:lane-sheet") is None
    assert content_of(given, "own:none") is None
    assert unused(given) == ["lane-sheet.svg"]
    shown = showing(given, "own:lane-sheet")
    assert unused(shown) == []
    assert shown_by(shown, "lane-sheet.svg") == [(HERE, f"{NORTH}:p0")]
