"""Panels: in a layout, in the outcome, in what macros may read, in the checks."""

from __future__ import annotations

import pytest
from msgspec.structs import replace

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.catalogue.items import Button, TextField, item_of
from rimecrest.core.catalogue.surfaces import Panel, runs_of, steps_of
from rimecrest.core.check.run import check
from rimecrest.core.errors import BrokenFile, RimecrestError
from rimecrest.core.keys.traits import Traits
from rimecrest.core.layout.layout import Layout, parse_layout
from rimecrest.core.layout.panel_readings import with_panels
from rimecrest.core.layout.renames import followed
from rimecrest.core.layout.seen import Outcome, SeenButton, SeenControl, SeenPanel
from rimecrest.core.macro.check import check_macro
from rimecrest.core.macro.field_edits import with_field
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.run import MacroStopped, Present, Read, Write, run_macro
from rimecrest.core.model import dump_record
from rimecrest.core.signing import MakerKey
from rimecrest.core.workspace.edits import (
    Edit,
    MoveItems,
    MoveSurface,
    PutItems,
    PutPanel,
    SetFields,
    TakeOff,
)
from rimecrest.core.workspace.file_edits import NoLongerVouch, OwnMacro, PutMacro, Vouch
from rimecrest.core.workspace.origin import marked, signed_by
from rimecrest.core.workspace.private_steps import Runner, shared, taken_in
from rimecrest.core.workspace.where_used import uses
from rimecrest.core.workspace.workspace import Workspace
from tests.samples import CATALOGUE, makers_of

NORTH = "department.north"
HERE = (NORTH, "notes")
LANES = f"{NORTH}:lanes"
CONTROLS = [
    {"id": "why", "text": "Type the vessel, then choose."},
    {"id": "vessel", "field": "Vessel", "on": {"change": {"run": "notes:save"}}},
    {"id": "lane", "choice": "Lane", "from": "headings", "value": "A"},
    {"id": "size", "choice": "Size", "choices": ["small", "large"]},
    {"id": "heads", "list": "Headings", "from": "headings"},
    {"id": "late", "tick": "Late", "value": True},
    {"id": "line", "separator": True},
    {"id": "go", "run": "notes:bold", "label": "Lane sheet"},
]


def panel(name: str = "lanes", **fields: object) -> Panel:
    return Panel.model_validate({"id": name, "title": "Vehicle lanes", "items": CONTROLS, **fields})


def lay(workspace: Workspace, *edits: Edit) -> Outcome:
    for edit in edits:
        workspace = edit.on(workspace)
    return workspace.outcome((NORTH,), "notes")


def shown(seen: Outcome, identity: str = LANES) -> SeenPanel:
    row = seen.row(identity)
    assert isinstance(row, SeenPanel)
    return row


def test_each_kind_of_control_is_seen_with_its_words_and_first_value(workspace: Workspace) -> None:
    found = shown(lay(workspace, PutPanel(*HERE, panel(width=300, edge="left", background="paper"))))
    assert (found.edge, found.width, found.background, found.shown) == ("left", 300, "paper", True)
    told = [(c.kind, c.caption, c.value, c.choices, c.reading) for c in found.controls()]
    assert told == [
        ("text", "Type the vessel, then choose.", "", (), ""),
        ("field", "Vessel", "", (), ""),
        ("choice", "Lane", "A", (), "headings"),
        ("choice", "Size", "", ("small", "large"), ""),
        ("list", "Headings", "", (), "headings"),
        ("tick", "Late", "yes", (), ""),
    ]
    assert [type(item) for item in found.items[-1:]] == [SeenButton]


def test_a_layout_with_panels_is_written_and_read_again(workspace: Workspace) -> None:
    layout = PutPanel(*HERE, panel()).on(workspace).layout(*HERE)
    text = dump_record(layout, "layout")
    assert '"from": "headings"' in text
    assert parse_layout(text, "here") == layout


@pytest.mark.parametrize("data", CONTROLS)
def test_an_item_is_what_its_fields_say(data: dict[str, object]) -> None:
    assert item_of(data, "here").to_data() == data


def test_controls_are_changed_moved_and_taken_off_like_items(workspace: Workspace) -> None:
    put = PutPanel(*HERE, panel())
    changed = shown(lay(workspace, put, SetFields(*HERE, f"{NORTH}:vessel", {"field": "Which vessel?"})))
    assert next(c for c in changed.controls() if c.kind == "field").caption == "Which vessel?"
    moved = shown(lay(workspace, put, MoveItems(*HERE, (f"{NORTH}:late",), LANES, None)))
    assert moved.items[0].id == f"{NORTH}:late"
    gone = shown(lay(workspace, put, TakeOff(*HERE, (f"{NORTH}:why", f"{NORTH}:line"))))
    assert [item.id.split(":")[1] for item in gone.items] == ["vessel", "lane", "size", "heads", "late", "go"]


def test_a_field_stands_on_panels_only_and_says_so(workspace: Workspace) -> None:
    seen = lay(workspace, PutItems(*HERE, "app:main", None, (TextField(id="f", field="Vessel"),)))
    assert seen.item(f"{NORTH}:f") is None
    assert any("it stands only on a panel" in sentence for sentence in seen.lost)
    moved = lay(workspace, PutPanel(*HERE, panel()), MoveItems(*HERE, (f"{NORTH}:vessel",), "app:main", None))
    row = moved.row("app:main")
    assert row is not None
    assert not any(isinstance(item, SeenControl) for item in row.items)


def test_panels_stand_in_an_order_and_go_whole(workspace: Workspace) -> None:
    two = (PutPanel(*HERE, panel("a", items=[])), PutPanel(*HERE, panel("b", items=[], after=f"{NORTH}:a")))
    assert [p.id for p in lay(workspace, *two).panels] == [f"{NORTH}:a", f"{NORTH}:b"]
    moved = lay(workspace, *two, MoveSurface(*HERE, f"{NORTH}:b", "", None))
    assert [p.id for p in moved.panels] == [f"{NORTH}:b", f"{NORTH}:a"]
    gone = lay(workspace, *two, TakeOff(*HERE, (f"{NORTH}:a",)))
    assert [p.id for p in gone.panels] == [f"{NORTH}:b"]
    assert not gone.lost


def test_a_panel_that_a_layer_above_hides_is_called_a_panel(workspace: Workspace) -> None:
    laid = PutPanel("organisation", "notes", panel()).on(workspace)
    hidden = TakeOff(*HERE, ("organisation:lanes",)).on(laid)
    seen = hidden.outcome(("organisation", NORTH), "notes")
    told = [(h.kind, h.title, h.by, h.where) for h in seen.out_of_sight]
    assert told == [("panel", "Vehicle lanes", NORTH, "")]


def faults(body: str, layouts: list[Layout], own: str = "") -> list[str]:
    macro, found = parse_macro(f'macro "M"\nfor notes\n\n{body}\n')
    found += check_macro(macro, with_panels(CATALOGUE, layouts, own))
    return [str(fault) for fault in found]


def test_macros_read_what_is_in_a_panels_fields(workspace: Workspace) -> None:
    layout = PutPanel(*HERE, panel()).on(workspace).layout(*HERE)
    assert faults('write "{panel.lanes.vessel}"', [layout]) == []
    assert faults('if panel.lanes.late = yes\n  write "x"\nend', [layout]) == []
    missing = faults('write "{panel.lanes.vesel}"', [layout])
    assert "panel.lanes.vessel" in missing[0]
    assert faults('write "{panel.vessel}"', [layout]) != []
    assert faults('write "{panel.vessel}"', [layout], own="lanes") == []
    assert faults('write "{panel.lanes.why}"', [layout]) != []


def test_the_checks_know_panels(workspace: Workspace) -> None:
    gone = [{"id": "x", "field": "X", "on": {"change": {"run": "macro:none"}}}]
    laid = PutPanel(*HERE, panel(items=gone)).on(workspace)
    kinds = {(finding.kind, finding.where) for finding in check(laid).findings}
    assert ("gone", f"{NORTH}:x") in kinds
    text = 'macro "Reads"\nfor notes\n\nwrite "{panel.lanes.vessel}"\n'
    reading = PutMacro(NORTH, "reads", text).on(workspace)
    button = PutItems(*HERE, "app:main", None, (Button(id="b", run="macro:reads"),))
    before = check(button.on(reading))
    assert any(f.kind == "faulty" and f.where == f"{NORTH}:b" for f in before.findings)
    after = check(PutPanel(*HERE, panel()).on(button.on(reading)), before)
    assert not any(f.kind == "faulty" and f.where == f"{NORTH}:b" for f in after.findings)


def test_entries_that_come_from_nowhere_are_told_with_the_nearest(workspace: Workspace) -> None:
    lists = [
        {"id": "a", "list": "Headings", "from": "heading"},
        {"id": "b", "choice": "Heading", "from": "headings"},
    ]
    found = [
        f for f in check(PutPanel(*HERE, panel(items=lists)).on(workspace)).findings if f.kind == "faulty"
    ]
    assert [f.where for f in found] == [f"{NORTH}:a"]
    assert found[0].rest.startswith("takes its entries from “heading”, which Notes")
    assert found[0].rest.endswith("The nearest is headings.")


def test_what_runs_a_macro_counts_the_controls_of_panels(workspace: Workspace) -> None:
    text = 'macro "Reads"\nfor notes\n\nwrite "x"\n'
    on = [{"id": "x", "field": "X", "on": {"change": {"run": "macro:reads"}}}]
    laid = PutPanel(*HERE, panel(items=on)).on(PutMacro(NORTH, "reads", text).on(workspace))
    assert [use.id for use in uses(laid, NORTH, "reads")] == [f"{NORTH}:x"]


def test_what_is_run_when_pointed_at_may_change_nothing(workspace: Workspace) -> None:
    tells = {"id": "a", "field": "A", "on": {"point": {"steps": 'macro "T"\nfor notes\n\nsay "Hm"\n'}}}
    saves = {"id": "b", "field": "B", "on": {"point": {"run": "macro:saves"}}}
    held = Panel.model_validate({"id": "lanes", "title": "Lanes", "items": [tells, saves]})
    after = PutMacro(NORTH, "saves", 'macro "Saves"\nfor notes\n\nwrite "x"\n').on(workspace)
    findings = [f for f in check(PutPanel(*HERE, held).on(after)).findings if f.kind == "faulty"]
    assert [f.where for f in findings] == [f"{NORTH}:b"]
    assert "pointed at" in findings[0].sentence


def test_steps_that_are_shared_read_the_panel_by_its_long_name_and_back(workspace: Workspace) -> None:
    text = 'macro "Own"\nfor notes\n\nset size = panel.size\nwrite "panel.late {panel.late}"\n'
    box = {"id": "vessel", "field": "Vessel", "on": {"leave": {"steps": text}}}
    held = Panel.model_validate({"id": "lanes", "title": "Lanes", "items": [box]})
    before = PutPanel(*HERE, held).on(workspace)
    runner = Runner(*HERE, f"{NORTH}:vessel", "lanes", "leave", {"leave": {"steps": text}})
    after = shared(before, runner, text, "Own steps").on(before)
    file = after.macros[NORTH, "own-steps"]
    assert 'set size = panel.lanes.size\nwrite "panel.late {panel.lanes.late}"' in file.text
    runs = {"leave": {"run": "macro:own-steps"}}
    assert [u.id for u in uses(after, NORTH, "own-steps")] == [f"{NORTH}:vessel"]
    back = taken_in(after, replace(runner, on=runs), file).on(after)
    assert (NORTH, "own-steps") not in back.macros
    assert back.layout(*HERE) == before.layout(*HERE)
    twice = {**runs, "enter": {"run": "macro:own-steps"}}
    kept = taken_in(after, replace(runner, on=twice), file).on(after)
    assert (NORTH, "own-steps") in kept.macros


def test_a_macro_that_private_steps_or_an_opened_panel_run_is_in_use(workspace: Workspace) -> None:
    runs = 'macro "Own"\nfor notes\n\nrun "mine"\n'
    box = {"id": "vessel", "field": "Vessel", "on": {"change": {"steps": runs}}}
    held = {"id": "lanes", "title": "Lanes", "items": [box], "on": {"open": {"run": "macro:mine"}}}
    after = PutMacro(NORTH, "mine", 'macro "Mine"\nfor notes\n\nsay "x"\n').on(workspace)
    after = PutPanel(*HERE, Panel.model_validate(held)).on(after)
    assert {use.id for use in uses(after, NORTH, "mine")} == {f"{NORTH}:vessel", f"{NORTH}:lanes"}


def faults_of(workspace: Workspace, body: str) -> list[str]:
    macro, read = parse_macro(f'macro "M"\nfor notes\n\n{body}\n')
    return [str(fault) for fault in (*read, *check_macro(macro, workspace.told((NORTH,), "notes")))]


def test_a_panel_that_is_asked_has_to_be_there_with_something_to_fill_in(workspace: Workspace) -> None:
    words = Panel.model_validate({"id": "words", "title": "Words", "items": [CONTROLS[0]]})
    after = PutPanel(*HERE, words).on(PutPanel(*HERE, panel()).on(workspace))
    assert faults_of(after, 'ask panel "lanes"\nwrite "{panel.lanes.vessel}"') == []
    (told,) = faults_of(after, 'ask panel "lane"')
    assert "There is no panel “lane”" in told
    assert "Did you mean “lanes”?" in told
    (told,) = faults_of(after, 'ask panel "words"')
    assert "with something to fill in" in told


def test_a_question_named_panel_is_not_taken_for_one(workspace: Workspace) -> None:
    step = parse_macro('ask place "Which?"')[0].steps[0]
    with pytest.raises(RimecrestError, match="no name"):
        with_field(step, "name", "panel", None)


def test_a_cancelled_panel_stops_the_run_and_an_answered_one_goes_on() -> None:
    macro, _ = parse_macro('macro "M"\nfor notes\n\nask panel "lanes"\nwrite "{panel.lanes.vessel}"\n')
    flow = run_macro(macro)
    assert flow.send(None) == Present("lanes")
    assert flow.send(()) == Read("panel.lanes.vessel")
    assert flow.send("Ovessa") == Write("Ovessa", 5)
    flow = run_macro(macro)
    flow.send(None)
    with pytest.raises(MacroStopped, match="Cancelled: nothing was changed"):
        flow.send(None)


def go_button(**on: dict[str, object]) -> dict[str, object]:
    return {"id": "go", "run": "notes:save", "label": "Go", "on": on}


def test_a_button_of_a_panel_does_things_at_other_events_than_its_click(workspace: Workspace) -> None:
    held = panel(items=[go_button(double={"run": "notes:bold", "args": {"on": "yes"}})])
    seen = lay(workspace, PutPanel(*HERE, held))
    button = seen.button(f"{NORTH}:go")
    assert button is not None
    assert [(d.event, d.run, d.args, d.label) for d in button.doings] == [
        ("double", "notes:bold", (("on", "yes"),), "Go")
    ]
    assert (button.doing("click"), button.doing("point")) == (button.click, None)
    mine = [doing.event for row, _, doing in seen.doings() if doing.of == button.id]
    assert mine == ["click", "double"]


def test_on_a_bar_a_button_has_only_its_click(workspace: Workspace) -> None:
    held = panel(items=[go_button(double={"run": "notes:bold"})])
    moved = lay(workspace, PutPanel(*HERE, held), MoveItems(*HERE, (f"{NORTH}:go",), "app:main", None))
    button = moved.button(f"{NORTH}:go")
    assert button is not None
    assert button.doings == ()
    back = lay(
        workspace,
        PutPanel(*HERE, held),
        MoveItems(*HERE, (f"{NORTH}:go",), "app:main", None),
        MoveItems(*HERE, (f"{NORTH}:go",), LANES, None),
    ).button(f"{NORTH}:go")
    assert back is not None
    assert [doing.event for doing in back.doings] == ["double"]


def test_what_cannot_happen_to_a_thing_is_refused_with_what_can() -> None:
    with pytest.raises(BrokenFile, match="“change” does not happen to a button: double, enter"):
        item_of(go_button(change={"run": "notes:save"}), "here")
    with pytest.raises(BrokenFile, match="“change” does not happen to a text: click"):
        item_of({"id": "t", "text": "T", "on": {"change": {"run": "notes:save"}}}, "here")


def test_the_checks_know_what_a_button_does_at_each_event(workspace: Workspace) -> None:
    points = go_button(point={"steps": 'macro "W"\nfor notes\n\nwrite "x"\n'}, double={"run": "notes:gone"})
    findings = check(PutPanel(*HERE, panel(items=[points])).on(workspace)).findings
    told = {(f.kind, f.where) for f in findings}
    assert {("gone", f"{NORTH}:go"), ("faulty", f"{NORTH}:go")} <= told
    assert any("pointed at" in f.sentence for f in findings)


def test_a_macro_stays_that_a_button_also_runs_at_another_event(workspace: Workspace) -> None:
    after = PutMacro(NORTH, "mine", 'macro "Mine"\nfor notes\n\nsay "x"\n').on(workspace)
    runs = {"double": {"run": "macro:mine"}}
    held = panel(items=[{"id": "go", "run": "macro:mine", "on": runs}])
    after = PutPanel(*HERE, held).on(after)
    file = after.macros[NORTH, "mine"]
    runner = Runner(*HERE, f"{NORTH}:go", "lanes", "double", runs)
    kept = taken_in(after, runner, file).on(after)
    assert (NORTH, "mine") in kept.macros
    once = SetFields(*HERE, f"{NORTH}:go", {"run": "notes:save"}).on(after)
    gone = taken_in(once, runner, file).on(once)
    assert (NORTH, "mine") not in gone.macros
    stored = gone.layout(*HERE).panels[0].items[0]
    assert steps_of(stored) == [file.text]


def test_former_commands_are_followed_at_every_event(workspace: Workspace) -> None:
    old = go_button(double={"run": "notes:strong"}) | {"run": "notes:keep"}
    names = {"notes:keep": "notes:save", "notes:strong": "notes:bold"}
    data = CATALOGUE.model_dump(by_alias=True)
    for command in data["commands"]:
        command["was"] = [was for was, now in names.items() if now == command["id"]]
    catalogue = Catalogue.model_validate(data)
    layout = PutPanel(*HERE, panel(items=[old])).on(workspace).layout(*HERE)
    item = followed(layout, catalogue).panels[0].items[0]
    assert runs_of(item) == ["notes:save", "notes:bold"]


def test_surfaces_are_laid_once_for_all_stacks_and_seats_that_see_the_same(workspace: Workspace) -> None:
    laid = PutPanel(*HERE, panel()).on(workspace)
    stack = laid.stack_up_to(NORTH)
    once = laid.surfaces(stack, HERE[1])
    assert laid.surfaces((*stack, "role.empty"), HERE[1]) is once
    seat = laid.outcome(stack, HERE[1], Traits(keyboard="de"))
    assert seat.panels is once.panels
    assert (once.bindings, bool(seat.bindings)) == ((), True)


def test_steps_of_somebody_outside_stay_theirs_wherever_they_are_kept(workspace: Workspace) -> None:
    text = 'macro "Own"\nfor notes\n\nwrite "x"\n'
    given = PutMacro(NORTH, "own", text).on(workspace)
    runner = Runner(*HERE, f"{NORTH}:a")
    assert taken_in(given, runner, given.macros[NORTH, "own"])
    unsigned = PutMacro(NORTH, "own", marked(text, "Ailis")).on(given)
    with pytest.raises(RimecrestError, match="stays a macro: Ailis made it, as it says"):
        taken_in(unsigned, runner, unsigned.macros[NORTH, "own"])
    ailis = MakerKey.fresh("Ailis")
    key = ailis.public
    signed = Vouch("Ailis", key).on(PutMacro(NORTH, "own", signed_by(ailis, text)).on(given))
    item = item_of({"id": "a", "run": "notes:save", "on": {"double": {"steps": text, "made_by": "cd"}}}, "it")
    panel = Panel.model_validate({"id": "held", "title": "Held", "items": [item.to_data()]})
    signed = PutPanel(*HERE, panel).on(signed)
    private = taken_in(signed, runner, signed.macros[NORTH, "own"]).on(signed)

    def makers(workspace: Workspace) -> set[str]:
        return {
            key for row in workspace.layout(*HERE).panels for item in row.items for key in makers_of(item)
        }

    assert makers(private) == {key, "cd"}
    changed = SetFields(*HERE, f"{NORTH}:a", {"steps": text.replace("x", "y")}).on(private)
    changed = SetFields(*HERE, f"{NORTH}:a", {"on": {"double": {"steps": text.upper()}}}).on(changed)
    assert makers(changed) == {key, "cd"}
    theirs = replace(runner, made_by=key)
    share = shared(changed, theirs, signed_by(ailis, text), "Again").on(changed)
    assert makers(share) == {"cd"}
    assert not share.refused((NORTH, "again"))
    withdrawn = NoLongerVouch(key, "Ailis").on(share)
    assert "whom your organisation does not vouch for" in withdrawn.refused((NORTH, "again"))
    assert NoLongerVouch(key, "Ailis").label == "no longer vouch for Ailis"
    # What was changed here since is not what they signed.
    share = shared(changed, theirs, text, "Again").on(changed)
    assert "nothing shows that it is theirs" in share.refused((NORTH, "again"))
    assert not OwnMacro(NORTH, "again").on(share).refused((NORTH, "again"))


def test_a_layer_changes_a_panel_that_another_has_laid_beneath_it(workspace: Workspace) -> None:
    laid = PutPanel("organisation", "notes", panel()).on(workspace)
    fields = {
        "title": "Lanes today",
        "width": 320,
        "background": "paper",
        "flow": "grid",
        "shown": False,
        "edge": "left",
        "on": {"open": {"run": "notes:save"}},
        "applies": {"templates": ["lane-sheet"]},
    }
    identity = "organisation:lanes"
    changed = SetFields(*HERE, identity, fields, "change the panel").on(laid)
    stack = ("organisation", NORTH)
    before, after = (shown(one.outcome(stack, "notes"), identity) for one in (laid, changed))
    assert (after.title, after.width, after.background, after.flow) == ("Lanes today", 320, "paper", "grid")
    assert (after.shown, after.edge) == (False, "left")
    assert [doing.run for doing in after.doings] == ["notes:save"]
    assert after.applies.templates == ("lane-sheet",)
    # What is not named stays, and so does the layer beneath.
    assert after.items == before.items
    assert (before.title, before.width, before.shown, before.applies.everywhere) == (
        "Vehicle lanes",
        240,
        True,
        True,
    )
