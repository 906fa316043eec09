"""The rules about seats, strokes, use and other applications: an example and a near-miss each; and the law
that checking again after edits is the same as checking from scratch."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from rimecrest.core.catalogue.catalogue import Catalogue, OwnKey
from rimecrest.core.catalogue.items import Button
from rimecrest.core.catalogue.surfaces import Toolbar
from rimecrest.core.check.kinds import Weight
from rimecrest.core.check.run import check
from rimecrest.core.effort.slips import SIGMA, neighbours
from rimecrest.core.errors import BrokenFile
from rimecrest.core.keys.bindings import rule
from rimecrest.core.keys.chords import extends
from rimecrest.core.keys.contexts import Context, Contexts
from rimecrest.core.layout.layout import KeyBinding, Layout
from rimecrest.core.mend.make_fixes import fixes
from rimecrest.core.workspace.edits import Bind, PutItems, TakeOff, Unbind, apply
from rimecrest.core.workspace.file_edits import PutMacro
from rimecrest.core.workspace.habits import (
    Habits,
    UseCount,
    format_own_keys,
    format_use,
    parse_own_keys,
    parse_use,
)
from rimecrest.core.workspace.habits import OwnKey as OwnMadeKey
from rimecrest.core.workspace.people import Seat
from rimecrest.core.workspace.workspace import Workspace
from tests.conftest import make_workspace
from tests.core.test_conflicts import bar, key, north, org, south
from tests.samples import CATALOGUE, SETTINGS

DESK = (
    Seat(seat="A", name="A", departments=("north",), keyboard="gb", desktop="gnome"),
    Seat(seat="B", name="B", departments=("north",), keyboard="de", desktop="xfce"),
    Seat(seat="C", name="C", departments=("north",), keyboard="be", desktop="gnome", input="ibus"),
    Seat(
        seat="D",
        name="D",
        departments=("south",),
        keyboard="gb",
        desktop="gnome",
        session="remote",
        reader="orca",
    ),
)
SHEETS = Catalogue.model_validate(
    {
        **CATALOGUE.model_dump(),
        "app": "sheets",
        "title": "Sheets",
        "commands": [
            {**command.model_dump(), "id": f"sheets:{command.verb}"} for command in CATALOGUE.commands
        ],
        "toolbars": (),
        "tabs": (),
        "menus": (),
        "keys": (),
    }
)
USE = Habits(
    {
        ("notes", target): UseCount("notes", target, number)
        for target, number in {
            "notes:bold": 3000,
            "notes:wipe": 80,
            "notes:rule": 30,
            "notes:size": 900,
            "notes:align": 0,
        }.items()
    }
)


@dataclass
class Case:
    """What a rule finds, on which seats, and what it does not."""

    kind: str
    weight: Weight
    example: list[Layout]
    near_miss: list[Layout]
    seats: set[str]
    says: str
    habits: Habits = field(default_factory=Habits)


def sheets(layer: str, **fields: Any) -> Layout:
    return Layout.model_validate({"app": "sheets", "layer": layer, **fields})


CASES = {
    "reserved by a desktop": Case(
        "reserved",
        Weight.BLOCKS,
        [north(keys=(key("Ctrl+Alt+L"),))],
        [south(keys=(key("Ctrl+Shift+L"),))],
        {"B"},
        "Ctrl+Alt+L for Bold never reaches Notes on 1 seat: it goes to Xfce, which locks the screen",
    ),
    "reserved by an input method": Case(
        "reserved",
        Weight.BLOCKS,
        [north(keys=(key("Ctrl+Shift+U"),))],
        [south(keys=(key("Ctrl+Shift+U"),))],
        {"C"},
        "it goes to IBus, which begins a character by its code",
    ),
    "reserved by a screen reader": Case(
        "reserved",
        Weight.BLOCKS,
        [south(keys=(key("Ctrl+J, KP_5"),))],
        [],
        {"D"},
        "",
    ),
    "reserved by the console, in the middle of a sequence": Case(
        "reserved",
        Weight.BLOCKS,
        [south(keys=(key("F9, Ctrl+Alt+F2"),))],
        [south(keys=(key("F9, Ctrl+F2"),))],
        {"D"},
        "changes to a text console with Ctrl+Alt+F2",
    ),
    "unreachable": Case(
        "unreachable",
        Weight.BLOCKS,
        [org(keys=(key("Ctrl+J, ["),))],
        [south(keys=(key("Ctrl+J, ["),))],
        {"B", "C"},
        "cannot be typed on 2 seats: no key gives [ by itself there (Belgian and German).",
    ),
    "unreachable the other way round": Case(
        "unreachable",
        Weight.BLOCKS,
        [org(keys=(key("Ctrl+Ä"),))],
        [org(keys=(key("Ctrl+Ä", on={"gb": None, "be": None}),))],
        {"A", "C", "D"},
        "no key gives Ä",
    ),
    "types text": Case(
        "types-text",
        Weight.BLOCKS,
        [north(keys=(key("Shift+A"),))],
        [north(keys=(key("Shift+F5"),))],
        {"A", "B", "C"},
        "would type text when writing",
    ),
    "types text from anywhere": Case(
        "types-text",
        Weight.BLOCKS,
        [south(keys=(key("A, B", context="anywhere"),))],
        [south(keys=(key("Ctrl+J, B", context="anywhere"),))],
        {"D"},
        "its first chord has no modifier but Shift",
    ),
    "types text over a remote session": Case(
        "types-text",
        Weight.BLOCKS,
        [org(keys=(key("Ctrl+Alt+C"),))],
        [north(keys=(key("Ctrl+Alt+C"),))],
        {"D"},
        "types ¢ on 1 seat whose remote session sends AltGr as Ctrl+Alt",
    ),
    "same stroke": Case(
        "same-stroke",
        Weight.BLOCKS,
        [org(keys=(key("Ctrl+1"), key("Ctrl+&", "notes:rule", on={"gb": None, "de": None})))],
        [org(keys=(key("Ctrl+1"), key("Ctrl+&", on={"gb": None, "de": None})))],
        {"C"},
        "are one keystroke on 1 seat: Belgian",
    ),
    "the keypad types text": Case(
        "types-text",
        Weight.BLOCKS,
        [south(keys=(key("KP_5"),))],
        [south(keys=(key("Ctrl+KP_5"),))],
        {"D"},
        "its first chord has no modifier but Shift",
    ),
    "takes the caret": Case(
        "takes-caret",
        Weight.BLOCKS,
        [north(keys=(key("Shift+Home"),))],
        [north(keys=(key("Alt+Home"),))],
        {"A", "B", "C"},
        "replaces what Shift+Home does when writing by itself",
    ),
    "moves the caret": Case(
        "moves-caret",
        Weight.ASKS,
        [north(keys=(key("Ctrl+Left"),))],
        [north(keys=(key("Ctrl+J, Left"),))],
        {"A", "B", "C"},
        "replaces what Ctrl+Left does when writing by itself",
    ),
    "personal": Case(
        "personal",
        Weight.TELLS,
        [north(keys=(key("Ctrl+J, Q"),))],
        [south(keys=(key("Ctrl+J, Q"),))],
        {"A"},
        "is the own key of 1 colleague for Line across: theirs runs on those seats",
        Habits(own_keys=(OwnMadeKey("A", "notes", "Ctrl+J, Q", "notes:rule", "writing"),)),
    ),
    "personal, against a fixed layout": Case(
        "personal",
        Weight.TELLS,
        [north(policy="fixed", keys=(key("Ctrl+J"),))],
        [north(policy="fixed", keys=(key("Ctrl+J, Q", "notes:rule"),))],
        {"A"},
        "theirs does not run there",
        Habits(own_keys=(OwnMadeKey("A", "notes", "Ctrl+J, Q", "notes:rule", "writing"),)),
    ),
    "slip": Case(
        "slip",
        Weight.TELLS,
        [north(keys=(key("Ctrl+J, K"), key("Ctrl+J, L", "notes:wipe")))],
        [north(keys=(key("Ctrl+J, K"), key("Ctrl+J, Shift+L", "notes:wipe")))],
        {"A", "B", "C"},
        "Ctrl+J, L for Wipe, which deletes, is close to Ctrl+J, K for Bold: expect about 9 slips a month",
        USE,
    ),
    "key, never used": Case(
        "never-used",
        Weight.TELLS,
        [north(keys=(key("Ctrl+J, K", "notes:align"),))],
        [north(keys=(key("Ctrl+J, K", "notes:rule"),))],
        {"A", "B", "C"},
        "is a key for what nobody used in 30 days",
        USE,
    ),
    "no key, much used": Case(
        "no-key",
        Weight.TELLS,
        [north()],
        [north(keys=(key("Ctrl+J, K", "notes:size", args={"to": "9"}),))],
        {"A", "B", "C", "D"},
        "Size is used 900 times in 30 days and has no key.",
        USE,
    ),
    "twin": Case(
        "twin",
        Weight.TELLS,
        [
            north(
                toolbars=bar(
                    Button(id="x", run="notes:rule"), Button(id="y", run="notes:rule", label="Across")
                )
            )
        ],
        [
            north(
                toolbars=bar(
                    Button(id="x", run="notes:align", args={"to": "left"}, label="Left", face="words"),
                    Button(id="y", run="notes:align", args={"to": "centre"}, label="Centre", face="words"),
                )
            )
        ],
        {"A", "B", "C"},
        "“Across” stands twice in Bar, also as “Line across”.",
    ),
    "twin in words": Case(
        "twin",
        Weight.TELLS,
        [
            north(
                toolbars=bar(
                    Button(id="x", run="notes:align", label="Line"), Button(id="y", run="notes:rule",
                    label="Line")
                )
            )
        ],
        [
            north(
                toolbars=bar(
                    Button(id="x", run="notes:align", label="Lines"), Button(id="y", run="notes:rule",
                    label="Line")
                )
            )
        ],
        {"A", "B", "C"},
        "stands beside another of the same name in Bar",
    ),
    "access key taken by a hotkey": Case(
        "access-key",
        Weight.ASKS,
        [north(toolbars=bar(Button(id="x", run="notes:rule", access="R")), keys=(key("Alt+R"),))],
        [north(toolbars=bar(Button(id="x", run="notes:rule", access="R")), keys=(key("Ctrl+R"),))],
        {"A", "B", "C"},
        "Alt+R for Bold takes the access key of “Line across”.",
    ),
    "two items of one surface with one access key": Case(
        "access-key",
        Weight.ASKS,
        [
            north(
                toolbars=bar(
                    Button(id="x", run="notes:rule", access="R"),
                    Button(id="y", run="notes:align", access="r"),
                )
            )
        ],
        [
            north(
                toolbars=bar(
                    Button(id="x", run="notes:rule", access="R"),
                    Button(id="y", run="notes:align", access="A"),
                )
            )
        ],
        {"A", "B", "C"},
        "have one access key, R, in Bar",
    ),
    "two meanings": Case(
        "two-meanings",
        Weight.TELLS,
        [north(keys=(key("Ctrl+J, K"),)), sheets("organisation", keys=(key("Ctrl+J, K", "sheets:rule"),))],
        [north(keys=(key("Ctrl+J, K"),)), sheets("organisation", keys=(key("Ctrl+J, K", "sheets:bold"),))],
        {"A", "B", "C", "D"},
        "does different things for the same colleagues: Bold in Notes and Line across in Sheets.",
    ),
    "one macro with two keys": Case(
        "two-meanings",
        Weight.TELLS,
        [
            north(keys=(key("Ctrl+J, K", "macro:anyway"),)),
            sheets("department.north", keys=(key("F9", "macro:anyway"),)),
        ],
        [
            north(keys=(key("F9", "macro:anyway"),)),
            sheets("department.north", keys=(key("F9", "macro:anyway"),)),
        ],
        {"A", "B", "C"},
        "“Anyway” has different keys: Ctrl+J, K in Notes and F9 in Sheets.",
    ),
}  # fmt: skip


def build(layouts: list[Layout], habits: Habits = Habits()) -> Workspace:
    made = make_workspace(layouts, people=DESK)
    both = any(layout.app == "sheets" for layout in layouts)
    catalogues = {"notes": CATALOGUE, **({"sheets": SHEETS} if both else {})}
    made = replace(made, catalogues=catalogues, habits=habits)
    return made.with_macro("organisation", "anyway", 'macro "Anyway"\ndo rule\n') if both else made


@pytest.mark.parametrize("case", CASES.values(), ids=list(CASES))
def test_each_rule_finds_its_example_on_the_right_seats(case: Case) -> None:
    found = [f for f in check(build(case.example, case.habits)).findings if f.kind == case.kind]
    assert len(found) == 1
    assert found[0].weight is case.weight
    assert case.says in found[0].sentence
    assert set(found[0].seats) == case.seats


@pytest.mark.parametrize("case", CASES.values(), ids=list(CASES))
def test_each_rule_lets_its_near_miss_pass(case: Case) -> None:
    found = check(build(case.near_miss, case.habits)).findings
    assert case.kind not in [f.kind for f in found]


@pytest.mark.parametrize("case", CASES.values(), ids=list(CASES))
def test_applying_any_fix_removes_the_finding_and_adds_nothing_that_blocks(case: Case) -> None:
    workspace = build(case.example, case.habits)
    finding = next(f for f in check(workspace).findings if f.kind == case.kind)
    blocking = {f.key for f in check(workspace).findings if f.weight is Weight.BLOCKS}
    offered = fixes(finding, workspace)
    assert offered
    for fix in offered:
        mended, _ = apply(workspace, fix.with_reason("on purpose"))
        left = check(mended).findings
        assert finding.key not in [other.key for other in left], fix.label
        assert {other.key for other in left if other.weight is Weight.BLOCKS} <= blocking, fix.label


def test_what_blocks_on_some_seats_is_settled_by_a_variant_or_by_going_without() -> None:
    workspace = build([org(keys=(key("Ctrl+J, ["),))])
    labels = [fix.label for fix in fixes(check(workspace).findings[0], workspace)]
    assert labels[0].endswith(" for them")
    assert labels[1] == "No key for those seats"
    mended, _ = apply(workspace, fixes(check(workspace).findings[0], workspace)[0].with_reason(""))
    bound = mended.layout("organisation", "notes").keys[0]
    assert bound.keys == "Ctrl+J, ["
    assert set(bound.on) == {"de", "be"}


def test_a_variant_that_is_reserved_in_its_turn_is_mended_where_it_stands() -> None:
    workspace = build([org(keys=(key("Ctrl+J, [", on={"de": "Ctrl+Alt+L", "be": None}),))])
    finding = check(workspace).findings[0]
    assert (finding.kind, finding.where) == ("reserved", "Ctrl+Alt+L")
    mended, _ = apply(workspace, fixes(finding, workspace)[0].with_reason(""))
    assert [f.kind for f in check(mended).findings] == []


def test_the_applications_own_keys_only_tell_where_they_do_not_work() -> None:
    own = CATALOGUE.model_copy(update={"keys": (OwnKey(id="k", keys="Ctrl+Alt+L", run="notes:save"),)})
    found = check(replace(build([]), catalogues={"notes": own}, people=DESK[:3])).findings
    assert [(f.kind, f.weight) for f in found] == [("reserved", Weight.TELLS)]
    assert fixes(found[0], build([])) == []


def test_a_seat_with_an_unknown_keyboard_is_checked_against_all_and_said() -> None:
    people = (Seat(seat="X", name="X", departments=("north",), keyboard="qq", desktop="ours"),)
    workspace = make_workspace([north(keys=(key("Ctrl+["), key("Ctrl+Alt+L", "notes:rule")))], people=people)
    found = check(workspace).findings
    assert {f.kind for f in found} == {"unreachable", "reserved", "unknown"}
    said = [f.sentence for f in found if f.kind == "unknown"]
    assert any("“qq” (people.csv) is no keyboard that is known" in sentence for sentence in said)
    assert any("“ours” (people.csv) is no desktop that is known" in sentence for sentence in said)


def test_what_a_house_says_of_its_desktop_counts() -> None:
    people = (Seat(seat="X", name="X", departments=("north",), keyboard="gb", desktop="ours"),)
    house = SETTINGS.model_copy(update={"reserved": {"ours": {"F9": "rings the bell"}}})
    layouts = [north(keys=(key("F9"), key("Ctrl+Alt+L", "notes:rule")))]
    found = check(make_workspace(layouts, people=people, settings=house)).findings
    assert [f.kind for f in found] == ["reserved"]
    assert "it goes to Ours, which rings the bell with F9" in found[0].sentence


def test_nobody_listed_yet_means_no_seat_is_in_the_way() -> None:
    found = check(make_workspace([north(keys=(key("Ctrl+["), key("Ctrl+Alt+L", "notes:rule")))], people=()))
    assert found.findings == ()


def test_a_double_of_three_is_told_once_with_all_its_owners() -> None:
    three = (key("F9"), key("F9", "notes:rule", id="b"), key("F9", "notes:align", id="c"))
    found = check(make_workspace([north(keys=three)])).findings
    assert [f.kind for f in found] == ["double"]
    assert len(found[0].owners) == 3
    assert "so none of them runs" in found[0].sentence


def test_an_opener_bound_as_a_whole_is_told_once_with_all_it_swallows() -> None:
    many = tuple(key(f"F9, {letter}", "notes:rule", id=letter) for letter in "ABCDE")
    found = check(make_workspace([north(keys=(key("F9"), *many))])).findings
    assert [f.kind for f in found] == ["prefix"]
    assert len(found[0].owners) == 6


def test_the_graver_of_two_is_the_one_that_displaces_what_is_used_more() -> None:
    habits = Habits({("notes", "notes:rule"): UseCount("notes", "notes:rule", 500)})
    layouts = [
        org(keys=(key("F8", "notes:align"), key("F9", "notes:rule"))),
        north(
            keys=(
                key("F8", "notes:size", args={"to": "9"}),
                key("F9", "notes:bold"),
                key("Ctrl+P", None, "anywhere"),
            )
        ),
    ]
    found = check(replace(make_workspace(layouts), habits=habits)).findings
    assert [f.where for f in found if f.kind == "takes-over"] == ["Ctrl+P", "F9", "F8"]
    assert "used 500 times in 30 days" in next(f.sentence for f in found if f.where == "F9")


def test_contexts_in_a_circle_are_refused_with_the_file(tmp_path: Any) -> None:
    from rimecrest.core.catalogue.catalogue import parse_catalogue
    from rimecrest.core.errors import RimecrestError
    from rimecrest.core.model import dump_record

    circle = (Context(id="a", name="A", within="b"), Context(id="b", name="B", within="a"))
    with pytest.raises(RimecrestError, match="contain one another"):
        Contexts(circle)
    text = dump_record(CATALOGUE.model_copy(update={"contexts": circle}), "catalogue")
    with pytest.raises(BrokenFile, match=r"notes\.json.*contain one another"):
        parse_catalogue(text, "notes.json")


def test_slips_grow_with_nearness_and_a_key_is_missed_as_often_as_the_study_says() -> None:
    beside = neighbours("iso")["AC07"]
    assert beside["AC08"] > beside["AD07"] > 0
    assert "AC10" not in beside
    missed = sum(beside.values())
    assert 0.008 < missed <= 0.0117
    assert sum(neighbours("iso", SIGMA / 2)["AC07"].values()) < missed / 50


def test_ten_thousand_macros_are_checked_and_one_edit_looks_at_few() -> None:
    text = 'macro "M"\nfor notes\ndo rule\n'
    made = make_workspace([north(keys=(key("F9", "macro:m5"),))], people=DESK)
    shelves = dict(made.macros)
    from rimecrest.core.workspace.macro_file import macro_file

    shelves |= {("organisation", f"m{n}"): macro_file("organisation", f"m{n}", text) for n in range(10_000)}
    many = replace(made, macros=shelves)
    first = check(many)
    assert first.findings == ()
    changed, _ = apply(many, PutMacro("organisation", "m5", 'macro "M"\nfor notes\ndo ruled\n'))
    again = check(changed, first)
    assert [f.kind for f in again.findings] == ["faulty"]
    assert again.cache is not None
    assert first.cache is not None
    assert again.cache.tables["notes"].index is first.cache.tables["notes"].index


# What an office may do to its keys, macros and bars, in any order.
LAYERS = st.sampled_from(["organisation", "department.north", "department.south"])
KEYS = st.sampled_from(
    [
        "Ctrl+J, R",
        "Ctrl+J",
        "Ctrl+P",
        "F9",
        "F9, A",
        "Ctrl+J, [",
        "Ctrl+Alt+L",
        "Ctrl+J, K",
        "Ctrl+J, L",
        "Alt+R",
    ]
)
RUNS = st.sampled_from(["notes:bold", "notes:rule", "notes:wipe", "macro:greeting", "macro:closing", None])
SPOTS = st.sampled_from(["anywhere", "writing", "cell", "aside"])
ON = st.sampled_from([{}, {}, {"de": "Ctrl+J, K"}, {"gb": None}, {"desktop:xfce": "F9"}])
BOUND = st.builds(
    lambda keys, run, context, on, name: key(keys, run, context, on=on, id=name),
    KEYS, RUNS, SPOTS, ON, st.sampled_from(["a", "b", "c"]),
)  # fmt: skip
TEXTS = st.sampled_from(
    [
        None,
        'macro "Closing"\nfor notes\ndo rule\n',
        'macro "Closing"\nfor notes\ndo wipe\n',
        'macro "C"\ndo x\n',
    ]
)
EDITS = st.one_of(
    st.builds(lambda layer, bound: Bind(layer, "notes", bound), LAYERS, BOUND),
    st.builds(lambda layer, name: Unbind(layer, "notes", name), LAYERS, st.sampled_from(["a", "b", "c"])),
    st.builds(lambda layer, text: PutMacro(layer, "closing", text), LAYERS, TEXTS),
    st.builds(
        lambda layer, run, name: PutItems(layer, "notes", "app:main", None, (Button(id=name, run=run,
        access="R"),)), LAYERS, RUNS, st.sampled_from(["x", "y"]),
    ),
    st.builds(lambda layer: TakeOff(layer, "notes", ("app:item-bold",)), LAYERS),
)  # fmt: skip


@settings(max_examples=120)
@given(st.lists(EDITS, max_size=8))
def test_checking_again_after_any_edits_equals_checking_from_scratch(edits: list[Any]) -> None:
    from rimecrest.core.errors import RimecrestError

    habits = replace(USE, own_keys=(OwnMadeKey("A", "notes", "Ctrl+J, K", "notes:rule", "writing"),))
    workspace = replace(
        make_workspace(people=DESK), habits=habits, catalogues={"notes": CATALOGUE, "sheets": SHEETS}
    ).with_layout(sheets("organisation", keys=(key("F9", "sheets:size"),)))
    checked = check(workspace)
    for edit in edits:
        try:
            workspace, _ = apply(workspace, edit)
        except RimecrestError:
            continue
        checked = check(workspace, checked)
        assert checked.findings == check(workspace).findings


def test_use_and_own_keys_are_written_and_read_back() -> None:
    counts = [UseCount("notes", "notes:bold", 7), UseCount("notes", "macro:x", 3, counted=False)]
    assert [*parse_use(format_use(counts)).values()] == counts
    own = [OwnMadeKey("A", "notes", "Ctrl+J, K", "notes:rule", "writing")]
    assert [*parse_own_keys(format_own_keys(own))] == own


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("application,target,uses\nnotes,x,many\n", "line 2.*no number of uses"),
        ("application,target,uses\nnotes,x,1\nnotes,x,2\n", "line 3.*stands twice"),
        ("application,target,uses,basis\nnotes,x,1,felt\n", "the basis is “felt”"),
        ("application,uses\nnotes,1\n", "the column “target” is missing"),
        ("application,target,uses\nnotes,,1\n", "this line has no target"),
    ],
)
def test_a_broken_line_of_use_is_told_with_its_place(text: str, says: str) -> None:
    with pytest.raises(BrokenFile) as caught:
        parse_use(text)
    import re

    assert re.search(says, str(caught.value), re.DOTALL)


def test_a_broken_own_key_is_told_with_its_place() -> None:
    with pytest.raises(BrokenFile, match="Ctrl"):
        parse_own_keys("seat,application,keys,run\nA,notes,Ctrl,x\n")


def test_the_bar_of_a_layer_is_no_twin_of_another_bar() -> None:
    two = (
        Toolbar(id="one", title="One", items=(Button(id="x", run="notes:rule"),)),
        Toolbar(id="two", title="Two", items=(Button(id="y", run="notes:rule"),)),
    )
    assert check(make_workspace([north(toolbars=two)])).findings == ()


def test_a_key_binding_with_a_variant_for_a_desktop_is_kept_in_its_file() -> None:
    bound = KeyBinding.model_validate({"keys": "ctrl+j,[", "on": {"desktop:xfce": "f9", "de": None}})
    assert bound.to_data() == {"keys": "Ctrl+J, [", "on": {"desktop:xfce": "F9", "de": None}}


@pytest.mark.parametrize("case", CASES.values(), ids=list(CASES))
def test_a_finding_names_its_application_layer_place_and_owners(case: Case) -> None:
    workspace = build(case.example, case.habits)
    found = next(f for f in check(workspace).findings if f.kind == case.kind)
    assert found.app in workspace.catalogues
    assert found.layer in {layout.layer for layout in case.example} | {"organisation"}
    assert found.owners
    assert found.winner is None or found.winner in found.owners
    texts = {
        text
        for layout in case.example
        for bound in layout.keys
        for text in (bound.keys, *bound.on.values())
        if text
    }
    items = {f"{layout.layer}:{item.id}" for layout in case.example for item in layout.all_items()}
    if found.where in texts:
        assert found.subject == found.where
        contexts = {bound.in_context for layout in case.example for bound in layout.keys}
        assert found.context in contexts | {""}
        assert found.owners[0].run
        assert found.owners[0].name
    else:
        assert found.where in items or found.where.split(":")[0] in ("notes", "macro")


def used(**uses: int) -> Habits:
    counts = {("notes", f"notes:{name}"): UseCount("notes", f"notes:{name}", n) for name, n in uses.items()}
    return Habits(counts)


@pytest.mark.parametrize(
    ("habits", "told"),
    [
        (used(bold=3000, wipe=20), True),
        (used(bold=3000, wipe=19), False),
        (used(bold=19, wipe=3000), False),
        (used(bold=170, wipe=20), False),
        (used(bold=180, wipe=20), True),
        (Habits(), False),
    ],
)
def test_a_slip_is_told_from_the_stated_uses_on(habits: Habits, told: bool) -> None:
    beside = [north(keys=(key("Ctrl+J, K"), key("Ctrl+J, L", "notes:wipe")))]
    found = [f for f in check(build(beside, habits)).findings if f.kind == "slip"]
    assert bool(found) == told
    for finding in found:
        assert [owner.name for owner in finding.owners] == ["Wipe", "Bold"]
        assert (finding.layer, finding.where, finding.context) == ("department.north", "Ctrl+J, L", "writing")


def test_the_most_likely_slip_is_the_one_that_is_told() -> None:
    keys = (key("Ctrl+J, K"), key("Ctrl+J, O", "notes:rule"), key("Ctrl+J, L", "notes:wipe"))
    found = check(build([north(keys=keys)], used(bold=200, rule=9000, wipe=50))).findings
    slip = next(f for f in found if f.kind == "slip")
    assert slip.owners[1].name == "Line across"


def test_two_departments_that_share_no_seat_have_no_slip_between_them() -> None:
    apart = [north(keys=(key("Ctrl+J, K"),)), south(keys=(key("Ctrl+J, L", "notes:wipe"),))]
    assert "slip" not in [f.kind for f in check(build(apart, USE)).findings]


@pytest.mark.parametrize(("uses", "told"), [(199, False), (200, True)])
def test_much_used_begins_at_the_stated_number(uses: int, told: bool) -> None:
    found = check(build([north()], used(align=uses))).findings
    assert [f.kind for f in found] == (["no-key"] if told else [])
    for finding in found:
        assert (finding.layer, finding.where) == ("organisation", "notes:align")
        assert finding.owners[0].run == "notes:align"


def test_by_your_estimate_is_said_where_nobody_counted() -> None:
    guess = Habits({("notes", "notes:align"): UseCount("notes", "notes:align", 300, counted=False)})
    assert "is by your estimate used 300 times" in check(build([north()], guess)).findings[0].sentence


def test_on_a_seat_in_two_departments_the_same_stroke_is_one() -> None:
    people = (Seat(seat="E", name="E", departments=("north", "south"), keyboard="be", desktop="gnome"),)
    apart = [north(keys=(key("Ctrl+1"),)), south(keys=(key("Ctrl+&", "notes:rule"),))]
    found = check(make_workspace(apart, people=people)).findings
    assert [(f.kind, f.weight, f.layer, f.seats) for f in found] == [
        ("same-stroke", Weight.BLOCKS, "department.south", ("E",)),
        ("never-runs", Weight.ASKS, "department.north", ("E",)),
    ]
    alone = tuple(replace(seat, departments=("north",)) for seat in people)
    assert "same-stroke" not in [f.kind for f in check(make_workspace(apart, people=alone)).findings]


# What the checks find is what the one function decides

PAIRS = st.lists(
    st.builds(
        lambda keys, context, run: KeyBinding(keys=keys, in_context=context, run=run),
        st.sampled_from(["Ctrl+J", "Ctrl+J, R", "Ctrl+J, Q", "Ctrl+B", "F9"]),
        st.sampled_from(["anywhere", "writing", "cell", "aside"]),
        st.sampled_from(["notes:rule", "notes:wipe", "notes:align"]),
    ),
    max_size=5,
    unique_by=lambda bound: bound.identity,
)


@settings(max_examples=120, deadline=None)
@given(PAIRS, PAIRS, st.booleans())
def test_who_gives_way_in_a_finding_gives_way_by_the_rule(above: Any, beneath: Any, fixed: bool) -> None:
    layouts = [org(keys=tuple(beneath), policy="fixed" if fixed else "open"), north(keys=tuple(above))]
    workspace = make_workspace(layouts, people=[DESK[0]])
    contexts = CATALOGUE.context_tree
    stack = ("organisation", "department.north")
    bindings = {b.id: b for b in workspace.outcome(stack, "notes").bindings}
    told: set[tuple[str, str]] = set()
    for finding in check(workspace).findings:
        if finding.kind in ("takes-over", "shadows"):
            winner, *losers = (owner.id for owner in finding.owners)
            told |= {(winner, loser) for loser in losers}
    decided = set()
    for one in bindings.values():
        for other in bindings.values():
            touching = extends(one.sequence, other.sequence) or extends(other.sequence, one.sequence)
            together = contexts.relation(one.context, other.context)
            if one is other or not touching or not together or one.target == other.target:
                continue
            beaten = rule((one, other), contexts).displaced.get(other.id) is one
            # That a higher layer's key never runs beside a fixed one is a finding of its own.
            if beaten and (one.level or other.level) and not (one.fixed and one.level < other.level):
                decided.add((one.id, other.id))
    assert told == decided


def test_of_a_key_of_ones_own_the_finding_says_who_wins() -> None:
    for name, winner in (("personal", "Line across"), ("personal, against a fixed layout", "Bold")):
        case = CASES[name]
        found = [f for f in check(build(case.example, case.habits)).findings if f.kind == "personal"]
        assert [f.to_data()["winner"] for f in found] == [winner]
