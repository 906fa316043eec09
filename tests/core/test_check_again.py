"""Checking again after an edit finds what checking from scratch finds, wherever the edit falls."""

from __future__ import annotations

from typing import Any

import pytest
from msgspec.structs import replace

from rimecrest.core.catalogue.items import Button
from rimecrest.core.catalogue.surfaces import Panel
from rimecrest.core.check.findings import Finding
from rimecrest.core.check.run import check
from rimecrest.core.layout.layout import Acceptance, Layout
from rimecrest.core.workspace.edits import Accept, Bind, Edit, PutToolbar, TakeOff, Unbind, Withdraw, apply
from rimecrest.core.workspace.file_edits import PutMacro
from rimecrest.core.workspace.people import Seat
from rimecrest.core.workspace.settings import LayerTitle, Settings
from rimecrest.core.workspace.workspace import Workspace
from tests.conftest import make_workspace
from tests.core.test_conflicts import bar, key, north, org
from tests.core.test_key_rules import SHEETS, sheets
from tests.samples import CATALOGUE, SETTINGS

NORTH = "department.north"
READS = 'macro "Lane"\nfor notes\n\nwrite "{panel.lanes.lane}"\n'
RUNS = 'macro "Runs"\nfor notes\n\nrun "closing"\n'


def estate(*layouts: Layout, macros: dict[tuple[str, str], str] | None = None) -> Workspace:
    """Two applications of one office."""
    made = make_workspace(list(layouts), macros)
    return replace(made, catalogues={"notes": CATALOGUE, "sheets": SHEETS})


def edited(workspace: Workspace, *edits: Edit) -> tuple[Finding, ...]:
    """The findings after some edits, checked again after each of them."""
    checked = check(workspace)
    for edit in edits:
        workspace, _ = apply(workspace, edit)
        checked = check(workspace, checked)
        assert checked.findings == check(workspace).findings
    return checked.findings


def kinds(findings: tuple[Finding, ...]) -> list[str]:
    return [finding.kind for finding in findings]


@pytest.mark.parametrize("app", ["notes", "sheets"])
def test_an_edit_in_either_application_is_found(app: str) -> None:
    layouts = [{"keys": (key("F9", f"{name}:bold", "anywhere"),)} for name in ("notes", "sheets")]
    workspace = estate(org(**layouts[0]), sheets("organisation", **layouts[1]))
    found = edited(workspace, Bind("organisation", app, key("F9, A", f"{app}:rule", "anywhere")))
    assert [(finding.kind, finding.app) for finding in found] == [("prefix", app)]


def test_a_macro_that_gets_another_key_in_one_application_has_two_meanings() -> None:
    both = {"keys": (key("F9", "macro:greeting", "anywhere"),)}
    workspace = estate(org(**both), sheets("organisation", **both))
    assert "two-meanings" not in kinds(check(workspace).findings)
    other = key("F8", "macro:greeting", "anywhere")
    found = edited(
        workspace, Bind("organisation", "sheets", other), Unbind("organisation", "sheets", "key:anywhere:F9")
    )
    assert [f.where for f in found if f.kind == "two-meanings"] == ["macro:greeting"]


def test_what_a_macro_runs_may_break_it() -> None:
    macros = {
        ("organisation", "closing"): 'macro "Closing"\nfor notes\n\nwrite "Bye"\n',
        ("organisation", "runs"): RUNS,
    }
    workspace = estate(org(keys=(key("F9", "macro:runs"),)), macros=macros)
    assert "faulty" not in kinds(check(workspace).findings)
    found = edited(workspace, PutMacro("organisation", "closing", None))
    assert [finding.subject for finding in found if finding.kind == "faulty"] == ["F9"]


def test_a_panel_that_goes_breaks_the_macro_that_reads_it() -> None:
    lane = {"id": "lane", "field": "Lane"}
    panel = Panel.model_validate({"id": "lanes", "title": "Lanes", "items": [lane]})
    workspace = estate(
        org(panels=(panel,), keys=(key("F9", "macro:lane"),)), macros={("organisation", "lane"): READS}
    )
    assert kinds(check(workspace).findings) == []
    found = edited(workspace, TakeOff("organisation", "notes", ("organisation:lanes",)))
    assert kinds(found) == ["faulty"]


def test_a_key_that_takes_an_access_key_of_a_lower_layer_is_found_where_nothing_else_is_placed() -> None:
    letter = Button(id="x", run="notes:rule", label="Rule", access="R")
    workspace = estate(org(toolbars=bar(letter)))
    found = edited(workspace, Bind(NORTH, "notes", key("Alt+R", "notes:size", "writing", args={"to": "9"})))
    assert [(f.kind, f.layer) for f in found if f.kind == "access-key"] == [("access-key", NORTH)]


def test_a_key_to_nothing_is_found_beside_an_own_key_on_the_same_sequence() -> None:
    found = edited(estate(), Bind(NORTH, "notes", key("Ctrl+S", "notes:nothing", "anywhere")))
    assert "gone" in kinds(found)


def test_neighbours_with_one_picture_are_twins_and_the_neighbour_is_named() -> None:
    def button(name: str, picture: str, **more: Any) -> Button:
        return Button(id=name, run=f"notes:{name}", label=name.title(), tip="t", picture=picture, **more)

    like = bar(button("save", "set:a", face="picture"), button("print", "set:a", face="picture"))
    found = [f for f in check(estate(north(toolbars=like))).findings if f.kind == "twin"]
    assert [f.sentence for f in found] == ["“Print” stands beside “Save” with the same picture in Bar."]
    words = bar(button("save", "set:a", face="both"), button("print", "set:a", face="picture"))
    assert "twin" not in kinds(check(estate(north(toolbars=words))).findings)


def test_only_a_layer_that_placed_one_of_two_is_told_of_one_access_key() -> None:
    def letter(name: str) -> Button:
        return Button(id=name, run=f"notes:{name}", label=name.title(), tip="t", access="S")

    below = org(toolbars=bar(letter("save"), letter("size")))
    own = north(toolbars=bar(Button(id="y", run="notes:print", label="Print", tip="t")))
    found = [f for f in check(estate(below, own)).findings if f.kind == "access-key"]
    assert [f.layer for f in found] == ["organisation"]


def test_what_is_accepted_in_one_application_stays_told_in_the_other() -> None:
    binding = {"keys": (key("F9", "notes:bold", "anywhere"), key("F9", "notes:rule", "cell"))}
    other = {"keys": (key("F9", "sheets:bold", "anywhere"), key("F9", "sheets:rule", "cell"))}
    workspace = estate(north(**binding), sheets(NORTH, **other))
    told = [f for f in check(workspace).findings if f.kind == "shadows"]
    assert {f.app for f in told} == {"notes", "sheets"}
    mine = next(f for f in told if f.app == "notes")
    kept = Acceptance(
        kind=mine.kind,
        owners=tuple(o.id for o in mine.owners),
        targets=mine.targets_digest(),
        why="on purpose",
    )
    accept = Accept(NORTH, "notes", kept)
    found = edited(workspace, accept, Bind(NORTH, "sheets", key("F8", "sheets:print", "anywhere")))
    assert [f.app for f in found if f.kind == "shadows"] == ["sheets"]
    found = edited(workspace, accept, Withdraw(NORTH, "notes", kept))
    assert {f.app for f in found if f.kind == "shadows"} == {"notes", "sheets"}


def test_a_layout_that_comes_and_one_that_goes_are_found() -> None:
    layout = north(keys=(key("F9"), key("F9", "notes:rule", id="other")))
    workspace = estate(org())
    checked = check(workspace)
    more = workspace.with_layout(layout)
    again = check(more, checked)
    assert again.findings == check(more).findings
    assert kinds(again.findings) == ["double"]
    fewer = more.without_layout((NORTH, "notes"))
    assert check(fewer, again).findings == ()
    # One goes and another comes at once: as many layouts as before, and none where it was.
    changed = more.without_layout((NORTH, "notes")).with_layout(
        sheets(NORTH, keys=(key("F9", "sheets:bold"), key("F9", "sheets:rule", id="other")))
    )
    assert [f.app for f in check(changed, again).findings] == ["sheets"]


def test_a_toolbar_put_and_taken_leaves_the_findings_as_they_were() -> None:
    workspace = estate(org(), north(keys=(key("Ctrl+P", "notes:bold", "anywhere"),)))
    before = check(workspace).findings
    twice = bar(Button(id="a", run="notes:rule", tip="t"), Button(id="b", run="notes:rule", tip="t"))[0]
    put = PutToolbar(NORTH, "notes", twice)
    after, inverse = apply(workspace, put)
    checked = check(after, check(workspace))
    assert "twin" in kinds(checked.findings)
    assert check(inverse.on(after), checked).findings == before


def test_of_many_departments_only_those_meet_that_have_a_seat_in_common() -> None:
    names = [f"d{number}" for number in range(8)]
    layers = tuple(LayerTitle(id=f"department.{name}", title=name) for name in names)
    people = [
        Seat(seat=name, name=name, departments=(name,), keyboard="gb", desktop="gnome") for name in names
    ]
    people.append(Seat(seat="both", name="both", departments=("d1", "d2"), keyboard="gb", desktop="gnome"))
    targets = ("save", "print", "bold", "rule", "new-line", "wipe", "align", "bare")
    layouts = [
        Layout(
            app="notes",
            layer=f"department.{name}",
            keys=(key("F9", f"notes:{target}", "anywhere"), key("F8", "sheets:none", "anywhere", id="k")),
        )
        for name, target in zip(names, targets, strict=True)
    ]
    workspace = replace(
        make_workspace(layouts, {}, tuple(people)),
        settings=Settings(name="Many", applications=("notes",), layers=(SETTINGS.layers[0], *layers)),
    )
    found = [f for f in check(workspace).findings if f.kind == "takes-over"]
    assert [(f.layer, f.where, f.seats) for f in found] == [("department.d2", "F9", ("both",))]
    alike = workspace.with_layout(Layout(app="notes", layer="department.d2"))
    assert [f for f in check(alike, check(workspace)).findings if f.kind == "takes-over"] == []
