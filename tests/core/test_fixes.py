"""What mends a finding mends it for good; and what is kept on purpose can be seen, and taken back."""

from __future__ import annotations

import pytest
from msgspec.structs import replace

from rimecrest.core.catalogue.catalogue import Catalogue, Command, Effect, OwnKey
from rimecrest.core.catalogue.items import Button
from rimecrest.core.check.acceptances import kept_on_purpose
from rimecrest.core.check.findings import Finding
from rimecrest.core.check.kinds import Weight
from rimecrest.core.check.run import check
from rimecrest.core.mend.fix import Fix
from rimecrest.core.mend.make_fixes import fixes
from rimecrest.core.suggest.arrange import arrange
from rimecrest.core.suggest.free_keys import suggest
from rimecrest.core.workspace.edits import Withdraw, apply
from rimecrest.core.workspace.habits import Habits, UseCount
from rimecrest.core.workspace.people import Seat, parse_people
from rimecrest.core.workspace.workspace import Workspace
from tests.conftest import make_workspace
from tests.core.test_conflicts import bar, key, north, org, south
from tests.core.test_key_rules import USE
from tests.samples import CATALOGUE


def only(workspace: Workspace, kind: str) -> Finding:
    found = [finding for finding in check(workspace).findings if finding.kind == kind]
    assert len(found) == 1, [finding.sentence for finding in found]
    return found[0]


def offered(workspace: Workspace, kind: str) -> dict[str, Fix]:
    return {fix.label: fix for fix in fixes(only(workspace, kind), workspace)}


def place(finding: Finding) -> tuple[str, ...]:
    return finding.kind, finding.app, finding.where, finding.context, finding.layer


def test_no_fix_of_the_demo_brings_anything_as_grave(demo: Workspace) -> None:
    checked = check(demo)
    before = {place(finding) for finding in checked.findings}
    tried = 0
    for finding in checked.findings:
        for fix in fixes(finding, demo, checked):
            after = check(fix.with_reason("on purpose").on(demo), checked).findings
            assert finding.key not in {other.key for other in after}, (finding.sentence, fix.label)
            new = [other for other in after if place(other) not in before]
            graver = [other.sentence for other in new if not other.weight.lighter_than(finding.weight)]
            assert not graver, (finding.sentence, fix.label)
            tried += 1
    assert tried > 20


@pytest.mark.parametrize(
    ("run", "meant"),
    [
        ("notes:bald", "Run Bold"),
        ("notes:new-lime", "Run New line"),
        ("notes:pier", ""),
        ("notes:hint", ""),
        ("macro:closin", "Run Closing"),
        ("macro:bold", ""),
    ],
)
def test_a_target_is_mended_only_by_what_was_probably_meant(run: str, meant: str) -> None:
    workspace = make_workspace([north(keys=(key("F9", run),))])
    labels = [label for label in offered(workspace, "gone") if label.startswith("Run ")]
    assert labels == ([meant] if meant else [])


def test_a_built_in_button_without_words_can_have_those_of_its_command() -> None:
    workspace = make_workspace([north(toolbars=bar(Button(id="x", run="notes:bare", label="")))])
    found = offered(workspace, "nameless")
    assert list(found)[:2] == ["Tip “Bare”", "Show words"]
    shown = check(found["Show words"].with_reason("").on(workspace))
    assert not shown.findings
    item = found["Show words"].with_reason("").on(workspace).layout("department.north", "notes").all_items()
    assert [(one.label, one.face) for one in item if isinstance(one, Button)] == [("Bare", "both")]


def test_a_slip_is_not_mended_by_a_key_that_slips_as_much() -> None:
    layouts = [north(keys=(key("Ctrl+J, K"), key("Ctrl+J, L", "notes:wipe")))]
    workspace = replace(make_workspace(layouts), habits=USE)
    finding = only(workspace, "slip")
    moved = [fix for fix in fixes(finding, workspace) if fix.label.startswith("Ctrl")]
    assert moved
    for fix in moved:
        after = check(fix.with_reason("").on(workspace)).findings
        assert not [other for other in after if other.kind == "slip"], fix.label


def test_two_with_one_identity_get_one_each_and_both_show() -> None:
    twins = bar(Button(id="x", run="notes:bold"), Button(id="x", run="notes:rule"))
    workspace = make_workspace([north(toolbars=twins)])
    mended = offered(workspace, "same-id")["Give it an identity of its own"].with_reason("").on(workspace)
    assert [finding.kind for finding in check(mended).findings] == []
    items = mended.layout("department.north", "notes").all_items()
    assert len({item.id for item in items}) == 2
    assert next(item.id for item in items if isinstance(item, Button) and item.run == "notes:bold") == "x"


def test_a_department_of_no_layer_is_the_nearest_or_a_new_one(workspace: Workspace) -> None:
    seat = Seat(seat="Desk 9", name="Tove", departments=("noth",), keyboard="gb", desktop="gnome")
    workspace = replace(workspace, people=(*workspace.people, seat))
    found = offered(workspace, "unknown-department")
    assert list(found) == ["They belong to North", "Add the department “noth”"]
    moved = found["They belong to North"].with_reason("").on(workspace)
    assert moved.people[-1].departments == ("north",)
    made, back = apply(workspace, found["Add the department “noth”"].with_reason(""))
    assert made.layers[-1] == "department.noth"
    assert "unknown-department" not in {finding.kind for finding in check(made).findings}
    assert apply(made, back)[0].layers == workspace.layers


def test_a_misspelt_context_or_variant_is_put_right_and_the_key_stays_one() -> None:
    workspace = make_workspace([north(keys=(key("F9", context="writting"),))])
    found = offered(workspace, "unknown-name")
    assert "Make it writing" in found
    edit = found["Make it writing"].edit
    (mended,) = edit.on(workspace).layout("department.north", "notes").keys
    assert (mended.keys, mended.in_context) == ("F9", "writing")
    workspace = make_workspace([north(keys=(key("F9", on={"desktop:gnomme": "F8"}),))])
    edit = offered(workspace, "unknown-name")["Make it desktop:gnome"].edit
    (mended,) = edit.on(workspace).layout("department.north", "notes").keys
    assert mended.on == {"desktop:gnome": "F8"}


# What is mis-told no longer


def test_a_key_that_was_taken_away_beneath_displaces_nothing() -> None:
    beneath = org(keys=(key("Ctrl+B", None, "writing"),))
    above = north(keys=(key("Ctrl+B", "notes:rule", "writing"),))
    found = check(make_workspace([beneath, above])).findings
    told = [finding.sentence for finding in found if finding.kind == "takes-over"]
    assert told == ["Ctrl+B no longer runs Bold (built in)."]


def test_what_meets_only_now_and_then_is_said_so() -> None:
    found = check(make_workspace([north(keys=(key("F9", "notes:rule", "cell"), key("F9", context="aside")))]))
    shadow = next(finding for finding in found.findings if finding.kind == "shadows")
    assert shadow.sentence == "F9 runs Bold in an aside; where that is also in a cell, it hides Line across."


def test_hiding_what_everybody_uses_asks() -> None:
    workspace = make_workspace([north(keys=(key("Ctrl+P", "notes:bold", "writing"),))])
    shadow = only(workspace, "shadows")
    assert shadow.weight is Weight.ASKS
    assert shadow.sentence == "Ctrl+P runs Bold when writing, where it hides Print, which everybody uses."


def test_a_key_given_a_moment_ago_is_not_scolded() -> None:
    given = make_workspace([north(keys=(key("Ctrl+J, K", "notes:align"),))])
    for count, told in (
        (UseCount("notes", "notes:align", 0), True),
        (UseCount("notes", "notes:bold", 5), False),
    ):
        habits = Habits({("notes", count.target): count})
        found = check(replace(given, habits=habits)).findings
        assert ("never-used" in {finding.kind for finding in found}) is told


def test_a_seat_of_which_nothing_is_said_is_checked_against_all() -> None:
    people = parse_people("seat,name,departments\nDesk 1,Tove,north\n")
    layouts = [north(keys=(key("Ctrl+J, ["), key("Ctrl+Alt+L", "notes:rule")))]
    found = {f.kind: f for f in check(make_workspace(layouts, people=people)).findings}
    assert "no key gives [ by itself there (perhaps " in found["unreachable"].sentence
    assert found["reserved"].seats == ("Desk 1",)
    told = [f.sentence for f in check(make_workspace(layouts, people=people)).findings if f.kind == "unknown"]
    assert told == [
        "people.csv does not say which desktop Desk 1 has, so their keys are checked against all that are "
        "known.",
        "people.csv does not say which keyboard Desk 1 has, so their keys are checked against all that are "
        "known.",
    ]
    one = [north(keys=(key("Ctrl+1"), key("Ctrl+&", "notes:rule")))]
    same = [f for f in check(make_workspace(one, people=people)).findings if f.kind == "same-stroke"]
    assert [finding.seats for finding in same] == [("Desk 1",)]


# Kept on purpose


def taking_over(uses: int) -> Workspace:
    layout = north(keys=(key("Ctrl+J, R", "notes:bold", "writing"),))
    habits = Habits({("notes", "notes:rule"): UseCount("notes", "notes:rule", uses)})
    return replace(make_workspace([layout]), habits=habits)


@pytest.mark.parametrize(
    ("uses", "ready"), [(0, "used 0 times in 30 days"), (3, "used 3 times in 30 days"), (4, "")]
)
def test_where_a_key_is_hardly_used_the_reason_stands_ready(uses: int, ready: str) -> None:
    workspace = taking_over(uses)
    found = fixes(only(workspace, "takes-over"), workspace)
    assert found[0].ready == ready
    assert found[0].asks_reason is not bool(ready)


def test_nothing_that_everybody_uses_is_displaced_with_one_click() -> None:
    habits = Habits({("notes", "notes:print"): UseCount("notes", "notes:print", 0)})
    workspace = replace(make_workspace([north(keys=(key("Ctrl+P", context="anywhere"),))]), habits=habits)
    assert not any(fix.ready for fix in fixes(only(workspace, "takes-over"), workspace))


def test_what_is_kept_is_listed_with_its_reason_and_can_be_withdrawn() -> None:
    workspace = taking_over(0)
    finding = only(workspace, "takes-over")
    edit = fixes(finding, workspace)[0].with_reason("", "2026-03-02", "Ailis")
    kept, _ = apply(workspace, edit)
    checked = check(kept)
    assert "takes-over" not in {other.kind for other in checked.findings}
    one = kept_on_purpose(kept, checked)[0]
    assert (one.layer, one.app, one.acceptance.why) == (
        "department.north",
        "notes",
        "used 0 times in 30 days",
    )
    assert (one.acceptance.since, one.acceptance.by) == ("2026-03-02", "Ailis")
    assert one.finding == finding
    back, _ = apply(kept, Withdraw(one.layer, one.app, one.acceptance))
    assert only(back, "takes-over") == finding
    assert kept_on_purpose(back, check(back)) == []


def test_what_has_lapsed_stands_last_and_silences_nothing() -> None:
    workspace = taking_over(0)
    kept, _ = apply(workspace, fixes(only(workspace, "takes-over"), workspace)[0].with_reason(""))
    layout = kept.layout("department.north", "notes")
    other = layout.model_copy(update={"keys": (layout.keys[0].model_copy(update={"run": "notes:align"}),)})
    changed = kept.with_layout(other)
    assert [one.finding for one in kept_on_purpose(changed, check(changed))] == [None]
    assert "takes-over" in {finding.kind for finding in check(changed).findings}


# Never suggested


def quitting() -> Catalogue:
    more = (
        Command(id="notes:quit", name="Quit", effects=(Effect.LEAVES,)),
        Command(id="notes:post", name="Post", effects=(Effect.SENDS,)),
    )
    keys = (
        OwnKey(id="q", keys="Ctrl+Q", run="notes:quit"),
        OwnKey(id="p", keys="Ctrl+J, P", run="notes:post"),
    )
    parts = {"commands": (*CATALOGUE.commands, *more), "keys": (*CATALOGUE.keys, *keys)}
    return Catalogue.model_validate({**CATALOGUE.model_dump(), **parts})


def texts(workspace: Workspace, run: str | None = None, label: str = "Quick") -> set[str]:
    return {one.keys for one in suggest(workspace, "notes", "department.north", label, run, 2000)}


def test_what_is_a_modifier_away_from_quitting_or_sending_is_never_suggested() -> None:
    plain = make_workspace()
    assert {"Ctrl+Shift+Q", "Ctrl+J, Shift+P"} <= texts(plain)
    workspace = replace(plain, catalogues={"notes": quitting()})
    assert not {"Ctrl+Shift+Q", "Ctrl+J, Shift+P"} & texts(workspace)


def test_an_opener_of_the_house_is_never_suggested() -> None:
    workspace = make_workspace([south(keys=(key("Ctrl+Shift+K, A"),))])
    assert not {"Ctrl+J", "Ctrl+Shift+K"} & texts(workspace)


def test_what_a_keyboard_types_with_altgr_is_never_suggested() -> None:
    for board, has in (("de", False), ("us", True)):
        seat = Seat(seat="A", name="A", departments=("north",), keyboard=board, desktop="gnome")
        assert ("Ctrl+Alt+E" in texts(make_workspace(people=(seat,)))) is has


def test_what_deletes_gets_no_easy_key() -> None:
    for run, has in (("notes:wipe", False), ("notes:rule", True)):
        assert ("Ctrl+K" in texts(make_workspace(), run, "Kindly")) is has
        assert "Ctrl+J, K" in texts(make_workspace(), run, "Kindly")


def test_arranging_gives_what_deletes_no_easy_key() -> None:
    keys = (key("Ctrl+J, Shift+Y", "notes:wipe"), key("Ctrl+J, Shift+X", "notes:rule"))
    moves = {
        move.name: move
        for move in arrange(make_workspace([north(keys=keys)]), "notes", "department.north").moves
    }
    assert moves["Line across"].moves
    assert "," in moves["Wipe"].after or moves["Wipe"].after.count("+") > 1


def test_with_every_key_pinned_all_stay() -> None:
    workspace = make_workspace([north(keys=(key("Ctrl+J, Shift+Y", "notes:rule"),))])
    [free] = arrange(workspace, "notes", "department.north").moves
    assert free.moves
    [pinned] = arrange(workspace, "notes", "department.north", [free.identity]).moves
    assert (pinned.after, pinned.pinned) == ("Ctrl+J, Shift+Y", True)


def test_of_ten_keys_those_that_one_can_remember_come_first() -> None:
    found = suggest(make_workspace(), "notes", "department.north", "Zone map")
    remembered = [one.memory > 0 for one in found]
    assert True in remembered
    assert remembered == sorted(remembered, reverse=True)
