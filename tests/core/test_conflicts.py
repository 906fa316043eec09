"""Every rule with an example and a near-miss; fixes that mend and break nothing; acceptances; why."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from rimecrest.core.catalogue.arguments import Argument, ArgumentType
from rimecrest.core.catalogue.catalogue import Catalogue, Command, OwnKey
from rimecrest.core.catalogue.items import Button, Item, StepsButton
from rimecrest.core.catalogue.surfaces import Group, Tab, Toolbar
from rimecrest.core.check.findings import Owner, order
from rimecrest.core.check.kinds import KINDS, Weight
from rimecrest.core.check.run import check
from rimecrest.core.errors import RimecrestError
from rimecrest.core.explain.standpoint import seat_standpoint
from rimecrest.core.explain.why import why
from rimecrest.core.keys.chords import extends, parse_sequence
from rimecrest.core.layout.layout import Insertion, KeyBinding, Layout
from rimecrest.core.layout.widths import cell_width, fits, text_width
from rimecrest.core.mend.make_fixes import fixes
from rimecrest.core.suggest.free_keys import free_keys
from rimecrest.core.workspace.edits import Bind, SetFields, TakeOff, apply
from rimecrest.core.workspace.file_edits import PutMacro
from rimecrest.core.workspace.people import Seat
from rimecrest.core.workspace.workspace import Workspace
from tests.conftest import make_workspace
from tests.samples import CATALOGUE, PEOPLE


def org(**fields: Any) -> Layout:
    return Layout.model_validate({"app": "notes", "layer": "organisation", **fields})


def north(**fields: Any) -> Layout:
    return Layout.model_validate({"app": "notes", "layer": "department.north", **fields})


def south(**fields: Any) -> Layout:
    return Layout.model_validate({"app": "notes", "layer": "department.south", **fields})


def key(keys: str, run: str | None = "notes:bold", context: str = "writing", **more: Any) -> KeyBinding:
    return KeyBinding.model_validate({"keys": keys, "in": context, "run": run, **more})


def bar(*items: Item) -> tuple[Toolbar, ...]:
    return (Toolbar(id="bar", title="Bar", items=items),)


def tab(*items: Item) -> tuple[Tab, ...]:
    return (Tab(id="t", title="T", groups=(Group(id="g", title="G", items=items),)),)


@dataclass
class Case:
    """An example that the rule finds, and a near-miss that it does not."""

    kind: str
    weight: Weight
    example: list[Layout]
    near_miss: list[Layout]
    says: str


CASES = [
    Case(
        "double",
        Weight.BLOCKS,
        [north(keys=(key("F9"), key("F9", "notes:rule", id="other")))],
        [north(keys=(key("F9"), key("F9", "notes:rule", "cell", id="other")))],
        "F9 is bound to both Bold and Line across (North, when writing), so neither runs.",
    ),
    Case(
        "prefix",
        Weight.BLOCKS,
        [north(keys=(key("F9"), key("F9, A", "notes:rule")))],
        [north(keys=(key("F9, B"), key("F9, A", "notes:rule")))],
        "F9 runs Bold, but F9, A for Line across begins with it",
    ),
    Case(
        "takes-over",
        Weight.ASKS,
        [north(keys=(key("Ctrl+P", "notes:bold", "anywhere"),))],
        [north(keys=(key("Ctrl+P", "notes:print", "anywhere"),))],
        "Ctrl+P now runs Bold instead of Print (built in), which everybody uses.",
    ),
    Case(
        "shadows",
        Weight.TELLS,
        [north(keys=(key("Ctrl+B", "notes:rule", "cell"),))],
        [north(keys=(key("Ctrl+Shift+B", "notes:rule", "cell"),))],
        "Ctrl+B runs Line across in a cell, where it hides Bold.",
    ),
    Case(
        "gone",
        Weight.BLOCKS,
        [north(toolbars=bar(Button(id="x", run="macro:closin", tip="t")))],
        [north(toolbars=bar(Button(id="x", run="macro:closing", tip="t")))],
        "“Closin” runs the macro “closin”, which does not exist.",
    ),
    Case(
        "faulty",
        Weight.BLOCKS,
        [north(toolbars=bar(Button(id="x", run="macro:broken", tip="t")))],
        [north(toolbars=bar(Button(id="x", run="macro:greeting", tip="t")))],
        "cannot run (macros/organisation/broken.steps, line 4",
    ),
    Case(
        "adrift",
        Weight.TELLS,
        [
            north(
                insert=(
                    Insertion(into="app:main", after="app:gone", items=(Button(id="x", run="notes:rule"),)),
                )
            )
        ],
        [
            north(
                insert=(
                    Insertion(
                        into="app:main", after="app:item-save", items=(Button(id="x", run="notes:rule"),)
                    ),
                )
            )
        ],
        "stood after app:gone, which is gone",
    ),
    Case(
        "nameless",
        Weight.TELLS,
        [north(toolbars=bar(Button(id="x", run="notes:bare", label="")))],
        [north(toolbars=bar(Button(id="x", run="notes:bare")))],
        "A button shows no words and has no tip",
    ),
    Case(
        "same-id",
        Weight.BLOCKS,
        [north(toolbars=bar(Button(id="x", run="notes:bold"), Button(id="x", run="notes:rule")))],
        [north(toolbars=bar(Button(id="x", run="notes:bold"), Button(id="y", run="notes:rule")))],
        "have one identity, x: only the first of them shows",
    ),
    Case(
        "cut-off",
        Weight.TELLS,
        [north(tabs=tab(Button(id="x", run="notes:bold", label="Bold words all over the page")))],
        [north(tabs=tab(Button(id="x", run="notes:bold", label="Bold words all over", width=2)))],
        "does not fit into its single width",
    ),
]
BROKEN = {("organisation", "broken"): 'macro "Broken"\nfor notes\nunfinished\ndo bald\n'}


def build(layouts: list[Layout]) -> Workspace:
    workspace = make_workspace(layouts)
    for (layer, name), text in BROKEN.items():
        workspace = workspace.with_macro(layer, name, text)
    return workspace


@pytest.mark.parametrize("case", CASES, ids=lambda case: case.kind)
def test_each_rule_finds_its_example_once_and_says_so(case: Case) -> None:
    found = check(build(case.example)).findings
    assert [finding.kind for finding in found] == [case.kind]
    assert found[0].weight is case.weight
    assert case.says in found[0].sentence
    assert found[0].layer == "department.north"
    assert set(found[0].seats) == {"North 1", "North 2", "Both 1"}


@pytest.mark.parametrize("case", CASES, ids=lambda case: case.kind)
def test_each_rule_lets_its_near_miss_pass(case: Case) -> None:
    assert case.kind not in [f.kind for f in check(build(case.near_miss)).findings]


@pytest.mark.parametrize("case", CASES, ids=lambda case: case.kind)
def test_applying_any_fix_removes_the_finding_and_adds_nothing_that_blocks(case: Case) -> None:
    workspace = build(case.example)
    finding = check(workspace).findings[0]
    offered = fixes(finding, workspace)
    assert bool(offered) is bool(KINDS[case.kind].remedies)
    for fix in offered:
        mended, _ = apply(workspace, fix.with_reason("on purpose"))
        left = check(mended).findings
        assert finding.key not in [other.key for other in left], fix.label
        assert not [other for other in left if other.weight is Weight.BLOCKS], fix.label


keys_in_play = st.sampled_from(["Ctrl+J, R", "Ctrl+J, G", "Ctrl+P", "F9", "F9, A", "Ctrl+B", "Ctrl+J, Q"])
runs_in_play = st.sampled_from(
    ["notes:bold", "notes:rule", "notes:wipe", "macro:greeting", "macro:gone", None]
)
contexts_in_play = st.sampled_from(["anywhere", "writing", "cell", "aside"])
bindings = st.builds(key, keys_in_play, runs_in_play, contexts_in_play, id=st.sampled_from(["a", "b", "c"]))


def unique(found: list[KeyBinding]) -> tuple[KeyBinding, ...]:
    return tuple({binding.identity: binding for binding in found}.values())


@settings(max_examples=60)
@given(st.lists(bindings, max_size=3), st.lists(bindings, max_size=3), st.data())
def test_a_fix_of_any_finding_mends_it_and_blocks_nothing_new(
    low: list[KeyBinding], high: list[KeyBinding], data: st.DataObject
) -> None:
    workspace = make_workspace([org(keys=unique(low)), north(keys=unique(high))])
    before = check(workspace).findings
    blocking = {finding.key for finding in before if finding.weight is Weight.BLOCKS}
    choices = [(finding, fix) for finding in before for fix in fixes(finding, workspace)]
    if choices:
        finding, fix = data.draw(st.sampled_from(choices))
        mended, _ = apply(workspace, fix.with_reason("on purpose"))
        after = check(mended).findings
        assert finding.key not in {other.key for other in after}
        assert {other.key for other in after if other.weight is Weight.BLOCKS} <= blocking


@settings(max_examples=40)
@given(st.lists(st.tuples(st.sampled_from(["organisation", "department.north"]), bindings), max_size=6))
def test_checking_again_after_edits_equals_checking_from_scratch(edits: list[tuple[str, KeyBinding]]) -> None:
    workspace = make_workspace()
    checked = check(workspace)
    for layer, binding in edits:
        workspace, _ = apply(workspace, Bind(layer, "notes", binding))
        checked = check(workspace, checked)
        assert checked.findings == check(workspace).findings


def test_only_what_an_edit_touches_is_checked_again() -> None:
    workspace = make_workspace()
    first = check(workspace)
    changed, _ = apply(workspace, Bind("department.north", "notes", key("F9")))
    second = check(changed, first)
    assert first.cache is not None
    assert second.cache is not None
    before, after = first.cache.tables["notes"].index, second.cache.tables["notes"].index
    changed_buckets = {text for text in after.buckets if before.buckets.get(text) is not after.buckets[text]}
    assert changed_buckets == {"F9"}
    assert second.cache.estate is first.cache.estate


def test_layers_that_no_seat_has_together_do_not_meet() -> None:
    layouts = [north(keys=(key("F9"),)), south(keys=(key("F9", "notes:rule"),))]
    apart = make_workspace(layouts, people=PEOPLE[:3])
    assert check(apart).findings == ()
    together = check(make_workspace(layouts)).findings
    assert [f.kind for f in together] == ["takes-over"]
    assert together[0].seats == ("Both 1",)
    assert together[0].winner is not None
    assert together[0].winner.layer == "department.south"


def test_a_variant_keeps_keys_apart_on_its_keyboard() -> None:
    two = [north(keys=(key("F9", on={"de": "F10"}),)), org(keys=(key("F9", "notes:rule"),))]
    found = check(make_workspace(two)).findings
    assert [f.kind for f in found] == ["takes-over"]
    assert "North 2" not in found[0].seats
    without = [north(keys=(key("F9", on={"gb": None, "no": None}),)), org(keys=(key("F9", "notes:rule"),))]
    assert check(make_workspace(without)).findings[0].seats == ("North 2",)


def test_the_applications_own_double_only_tells() -> None:
    twice = CATALOGUE.model_copy(
        update={"keys": (*CATALOGUE.keys, OwnKey(id="key-2", keys="Ctrl+S", run="notes:print"))}
    )
    workspace = replace(make_workspace([]), catalogues={"notes": twice})
    found = check(workspace).findings
    assert [(f.kind, f.weight) for f in found] == [("double", Weight.TELLS)]


def test_taking_a_key_away_is_told_as_taking_over() -> None:
    found = check(make_workspace([north(keys=(key("Ctrl+P", None, "anywhere"),))])).findings
    assert found[0].sentence == "Ctrl+P no longer runs Print (built in), which everybody uses."


@pytest.mark.parametrize(
    ("item", "says"),
    [
        (Button(id="x", run="notes:nothing", tip="t"), "which Notes 1.0 does not have"),
        (Button(id="x", run="notes:size", tip="t"), "cannot run Size: size needs its setting “to”"),
        (Button(id="x", run="notes:bold", args={"on": "perhaps"}, tip="t"), "on is one of yes, no, flip"),
        (Button(id="x", run=None, label="Empty", tip="t"), "runs nothing"),
    ],
)
def test_every_way_to_be_gone_is_told(item: Item, says: str) -> None:
    found = check(make_workspace([north(toolbars=bar(item))])).findings
    assert [f.kind for f in found] == ["gone"]
    assert says in found[0].sentence


def test_a_macro_of_another_department_is_gone_and_its_owner_named() -> None:
    button = Button(id="x", run="macro:closing", tip="t")
    found = check(make_workspace([south(toolbars=bar(button))])).findings
    assert "which only North has" in found[0].sentence


def test_a_key_to_nothing_is_gone_too_and_the_nearest_is_offered() -> None:
    workspace = make_workspace([north(keys=(key("F9", "macro:closin"),))])
    finding = check(workspace).findings[0]
    assert [fix.label for fix in fixes(finding, workspace)] == ["Run Closing", "Remove the key"]


def test_an_unreadable_file_blocks() -> None:
    workspace = replace(make_workspace(), broken={"layouts/x.json": "line 2: this is not JSON"})
    found = check(workspace).findings
    assert (found[0].kind, found[0].weight) == ("unreadable", Weight.BLOCKS)
    assert found[0].sentence == "layouts/x.json cannot be used: line 2: this is not JSON."


def test_an_acceptance_silences_a_finding_until_a_target_changes() -> None:
    workspace = make_workspace([north(keys=(key("Ctrl+P", "notes:bold", "anywhere"),))])
    finding = check(workspace).findings[0]
    keep = next(fix for fix in fixes(finding, workspace) if fix.asks_reason)
    kept, _ = apply(workspace, keep.with_reason("nobody prints here"))
    assert check(kept).findings == ()
    assert kept.layout("department.north", "notes").acceptances[0].why == "nobody prints here"
    changed, _ = apply(kept, Bind("department.north", "notes", key("Ctrl+P", "notes:rule", "anywhere")))
    assert [f.kind for f in check(changed).findings] == ["takes-over"]


def test_findings_are_listed_worst_first_and_graver_before() -> None:
    layouts = [
        north(
            keys=(
                key("Ctrl+P", "notes:bold", "anywhere"),
                key("Ctrl+J, R", "notes:bold"),
                key("F9"),
                key("F9", None, id="z"),
            ),
            tabs=tab(Button(id="x", run="notes:bold", label="Bold words all over the page")),
        )
    ]
    found = check(make_workspace(layouts)).findings
    assert [f.weight for f in found] == sorted((f.weight for f in found), key=list(Weight).index)
    asks = [f.where for f in found if f.weight is Weight.ASKS]
    assert asks[0] == "Ctrl+P"
    assert sorted(found, key=order) == list(found)


def test_a_finding_as_data_has_what_the_command_line_promises() -> None:
    finding = check(make_workspace([north(keys=(key("Ctrl+P", "notes:bold", "anywhere"),))])).findings[0]
    data = finding.to_data(["A"])
    assert set(data) >= {"kind", "weight", "where", "owners", "winner", "seats", "sentence", "fixes"}
    assert data["winner"] == "Bold"


def test_free_keys_are_free_for_every_seat_and_begin_with_the_initial() -> None:
    workspace = make_workspace()
    found = free_keys(workspace, "notes", "department.north", "Quick note", 5)
    assert found[0] == "Ctrl+Q"
    bound = [parse_sequence(own.keys) for own in CATALOGUE.keys] + [parse_sequence("Ctrl+J, G")]
    for keys in found:
        sequence = parse_sequence(keys)
        assert not any(extends(sequence, other) or extends(other, sequence) for other in bound)
    assert free_keys(workspace, "notes", "department.north", "Greeting", 1) == ["Ctrl+G"]
    assert free_keys(workspace, "notes", "department.north", "Greeting", 1, ("ctrl+g",)) != ["Ctrl+G"]


def test_why_follows_the_chain_to_the_macro() -> None:
    workspace = make_workspace()
    links = why(seat_standpoint(workspace, PEOPLE[0], "notes"), "Ctrl+J, G")
    assert [link.name for link in links] == [
        "desktop",
        "keyboard",
        "release",
        "policy",
        "personal",
        "context",
        "winner",
        "macro",
    ]
    assert all(link.ok for link in links)
    assert "runs Greeting (Everyone)" in links[6].sentence


@pytest.mark.parametrize(
    ("layouts", "keys", "context", "name", "says"),
    [
        ([], "F11", "", "winner", "Nothing has F11 here"),
        ([south(keys=(key("F9"),))], "F9", "", "layers", "belongs to South, which this seat does not have"),
        ([north(keys=(key("F9", on={"gb": "F10"}),))], "F9", "", "keyboard", "it is F10"),
        ([north(keys=(key("F9", on={"gb": None}),))], "F9", "", "keyboard", "go without F9, on purpose"),
        ([north(keys=(key("F9", context="cell"),))], "F9", "aside", "context", "live in a cell only"),
        ([north(keys=(key("F9", None),))], "F9", "", "winner", "North takes F9 away"),
        ([north(keys=(key("F9"), key("F9", "notes:rule", id="b")))], "F9", "", "winner", "tie for F9"),
        ([north(keys=(key("F9", "macro:nothing"),))], "F9", "", "macro", "does not exist"),
        ([north(keys=(key("F9", "macro:broken"),))], "F9", "", "macro", "cannot run"),
    ],
)
def test_the_first_no_is_the_answer(
    layouts: list[Layout], keys: str, context: str, name: str, says: str
) -> None:
    links = why(seat_standpoint(build(layouts), PEOPLE[0], "notes"), keys, context)
    assert not links[-1].ok
    assert links[-1].name == name
    assert says in links[-1].sentence


def test_why_knows_that_two_spellings_are_one_key_of_the_keyboard() -> None:
    french = replace(PEOPLE[0], keyboard="fr")
    taken = build([north(keys=(key("Ctrl+-", "notes:rule"), key("Ctrl+6", "notes:save", "cell")))])
    at = seat_standpoint(taken, french, "notes")
    for keys in ("Ctrl+-", "Ctrl+6"):
        assert why(at, keys, "writing")[-1].sentence.startswith("Ctrl+- runs ")
        assert why(at, keys, "cell")[-1].sentence.startswith("Ctrl+6 runs ")
    assert why(at, "Ctrl+6")[1].sentence == "The French keyboard has the key. Ctrl+- is the same key there."
    plain = seat_standpoint(taken, PEOPLE[0], "notes")
    assert not why(plain, "Ctrl+6", "writing")[-1].ok


def test_why_in_a_context_that_does_not_exist_is_refused() -> None:
    with pytest.raises(RimecrestError, match="has no context “sea”"):
        why(seat_standpoint(make_workspace(), PEOPLE[0], "notes"), "F9", "sea")


def test_the_planted_troubles_of_the_demo_are_found_by_name_and_nothing_else_blocks(demo: Workspace) -> None:
    found = check(demo).findings
    assert [(f.kind, f.weight.value, f.subject) for f in found] == [
        ("unreachable", "blocks", "Ctrl+J, ["),
        ("gone", "blocks", "“Timetable”"),
        ("types-text", "blocks", "Ctrl+Alt+C"),
        ("takes-over", "asks", "Ctrl+P"),
        ("takes-over", "asks", "Ctrl+J, O"),
        ("takes-over", "asks", "Ctrl+J, O"),
        ("out-of-reach", "asks", "“Quay rota”"),
        ("no-key", "tells", "Close the booking"),
        ("personal", "tells", "Ctrl+J, X"),
        ("slip", "tells", "Ctrl+J, G"),
        ("unreachable", "tells", "Ctrl+="),
        ("cut-off", "tells", "“Line across the noticeboard sheet”"),
        ("no-key", "tells", "Sailing notice"),
        ("unreachable", "tells", "Ctrl+="),
        ("unreachable", "tells", "Ctrl+="),
    ]
    both = next(f for f in found if f.layer == "department.freight" and f.kind == "takes-over")
    assert both.seats == ("Freight 5",)
    assert "Berth line" in both.sentence
    bracket = found[0]
    assert len(bracket.seats) == 7
    assert "(Belgian, German and Norwegian)" in bracket.sentence
    remote = next(f for f in found if f.kind == "types-text")
    assert set(remote.seats) == {f"Quay {number}" for number in range(1, 7)}


def test_every_item_and_macro_change_of_the_sample_keeps_findings_stable() -> None:
    workspace = make_workspace()
    assert check(workspace).findings == ()
    no_macro, _ = apply(workspace, PutMacro("department.north", "closing", None))
    assert [f.kind for f in check(no_macro).findings] == ["gone"]
    off, _ = apply(no_macro, TakeOff("department.north", "notes", ("department.north:close",)))
    assert check(off).findings == ()
    renamed, _ = apply(
        off, SetFields("department.north", "notes", "app:item-align", {"label": "Alignment of paragraphs"})
    )
    assert [f.kind for f in check(renamed).findings] == ["cut-off"]


def test_labels_are_measured() -> None:
    assert text_width("ii") < text_width("WW")
    assert cell_width("Sum", 1, picture=True) > cell_width("Sum", 1, picture=False) > text_width("Sum")
    assert fits("Next overweight", 1, picture=True)
    assert not fits("Nichtraucherschutzverordnung", 1, picture=True)
    assert fits("Nichtraucherschutzverordnung", 2, picture=True)


def test_owners_name_their_layer() -> None:
    finding = check(make_workspace([north(keys=(key("Ctrl+P", "notes:bold", "anywhere"),))])).findings[0]
    assert finding.owners == (
        Owner("department.north:key:anywhere:Ctrl+P", "department.north", "notes:bold", "Bold"),
        Owner("app:key-print", "built-in", "notes:print", "Print"),
    )


REACH = 'macro "Rota"\nfor notes\n\ndo fetch path={}\n'


@pytest.mark.parametrize(
    ("path", "found"),
    [
        ('"/home/ailis/rota.txt"', True),
        ("\" '/media/stick/rota.txt' \"", True),
        ('"file:///home/ailis/rota.txt"', True),
        ('"~/rota.txt"', True),
        ('"/srv/shared/rota.txt"', False),
        ('"companions/rota.txt"', False),
        ('"{where}"', False),
    ],
)
def test_a_file_that_nobody_else_has_is_a_finding_and_muting_the_step_mends_it(
    path: str, found: bool
) -> None:
    fetch = Command(
        id="notes:fetch", name="Fetch", arguments=(Argument(name="path", type=ArgumentType.PATH),)
    )
    # Not copied: a copy keeps the look-ups of the commands it had.
    catalogue = Catalogue.model_validate({**CATALOGUE.model_dump(), "commands": (*CATALOGUE.commands, fetch)})
    workspace = replace(make_workspace(), catalogues={"notes": catalogue})
    workspace = PutMacro("department.north", "rota", REACH.format(path)).on(workspace)
    findings = [finding for finding in check(workspace).findings if finding.kind == "out-of-reach"]
    assert bool(findings) is found
    for finding in findings:
        assert finding.weight is Weight.ASKS
        assert "opens a file in line 4 that nobody else has" in finding.sentence
        (fix,) = fixes(finding, workspace)
        mended = fix.with_reason("").on(workspace)
        assert "~ do fetch" in mended.macros["department.north", "rota"].text
        assert "out-of-reach" not in [f.kind for f in check(mended).findings]


def test_steps_of_an_items_own_that_cannot_run_block() -> None:
    def own(text: str) -> Layout:
        return north(tabs=tab(StepsButton(id="own", steps=f'macro "Own"\nfor notes\n\n{text}\n')))

    found = check(build([own("do nothing-known")])).findings
    assert [(f.kind, f.weight) for f in found] == [("faulty", Weight.BLOCKS)]
    assert "“Own” has private steps that cannot run (line 4" in found[0].sentence
    assert fixes(found[0], build([own("do nothing-known")]))[0].label == "Remove it"
    assert check(build([own("do rule")])).findings == ()


@pytest.mark.parametrize(
    ("shelf", "runs"), [("organisation", True), ("department.north", True), ("department.south", False)]
)
def test_a_macro_that_runs_another_can_run_where_the_other_is_seen(shelf: str, runs: bool) -> None:
    made = build([north(toolbars=bar(Button(id="x", run="macro:outer", tip="t")))])
    for layer, name, step in ((shelf, "inner", "do rule"), ("department.north", "outer", 'run "inner"')):
        made, _ = apply(made, PutMacro(layer, name, f'macro "{name.title()}"\nfor notes\n{step}\n'))
    found = [finding.kind for finding in check(made).findings]
    assert ("faulty" in found) is not runs


def test_a_department_that_has_no_layer_is_asked_about_with_the_nearest(workspace: Workspace) -> None:
    people = (Seat("A", "Ailis", ("nroth",)), Seat("B", "Brand", ("north",)))
    found = [f for f in check(replace(workspace, people=people)).findings if f.kind == "unknown-department"]
    assert [(f.weight, f.where, f.seats) for f in found] == [(Weight.ASKS, "department:nroth", ("A",))]
    assert "nothing of one reaches A. Did you mean north?" in found[0].sentence
