"""What the core says as a whole, down to each word: findings, an outcome with all there is, differences."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
from msgspec import Struct
from msgspec.structs import replace

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.check.findings import Finding
from rimecrest.core.check.run import check
from rimecrest.core.layout.compare import compare, lost_first, whats_new
from rimecrest.core.layout.layout import Layout
from rimecrest.core.layout.room import unseen_at
from rimecrest.core.layout.seen import Outcome
from rimecrest.core.model import Record
from rimecrest.core.workspace.edits import (
    Bind,
    MoveItems,
    PutItems,
    Rebind,
    SetFields,
    TakeOff,
    Unbind,
    apply,
)
from rimecrest.core.workspace.workspace import Workspace
from tests.approved import approve
from tests.conftest import make_workspace
from tests.core import test_conflicts, test_key_rules
from tests.samples import CATALOGUE, LAYOUTS


def data(value: Any) -> Any:
    """A value as JSON has it, with all its fields."""
    match value:
        case Record():
            return value.to_data()
        case dict():
            return {str(key): data(inner) for key, inner in value.items()}
        case list() | tuple():
            return [data(inner) for inner in value]
    if isinstance(value, Struct):
        fields = {name: getattr(value, name) for name in value.__struct_fields__}
        return {name: data(inner) for name, inner in fields.items()}
    return value


def said(finding: Finding) -> dict[str, Any]:
    return {**data(finding), "weight": finding.weight.value, "data": finding.to_data(["one fix"])}


def test_findings_of_every_example() -> None:
    found = {
        f"{case.kind}: {case.says}": [said(f) for f in check(test_conflicts.build(case.example)).findings]
        for case in test_conflicts.CASES
    }
    found |= {
        name: [said(f) for f in check(test_key_rules.build(case.example, case.habits)).findings]
        for name, case in test_key_rules.CASES.items()
    }
    assert len(found) > 30
    approve("findings", found)


def test_findings_of_the_demo(demo: Workspace) -> None:
    approve("demo-findings", [said(finding) for finding in check(demo).findings])


HERE = Path(__file__).parent / "everything"
"""An application, and two layers that do everything to it that layers can, also what cannot be done."""


def everything() -> Workspace:
    def read(name: str) -> dict[str, Any]:
        found: dict[str, Any] = json.loads((HERE / f"{name}.json").read_text("utf-8"))
        return found

    catalogue = Catalogue.model_validate({**CATALOGUE.to_data(), **read("catalogue")})
    layouts = [Layout.model_validate(read(name)) for name in ("organisation", "north")]
    return replace(make_workspace(layouts), catalogues={"notes": catalogue})


@pytest.mark.parametrize("layer", ["organisation", "department.north"])
def test_an_outcome_with_everything_in_it(layer: str) -> None:
    workspace = everything()
    seen = workspace.outcome(workspace.stack_up_to(layer), "notes")
    answer = {name: data(getattr(seen, name)) for name in Outcome.__struct_fields__}
    answer["doings"] = [[row.id, list(layers), data(doing)] for row, layers, doing in seen.doings()]
    answer["whereabouts"] = {row.id: seen.whereabouts(row) for row in seen.rows()}
    answer["titles"] = {row.id: seen.title_of(row.id) for row in seen.rows()}
    answer["tabs of items"] = {item.id: seen.tab_of(item.id) for _, item in seen.items()}
    answer["keys"] = {
        f"{item.run}": [data(key.sequence) for key in seen.keys_of(item.run, item.args)]
        for _, item in seen.buttons()
    }
    approve(f"outcome-{layer}", answer)


def test_findings_of_everything() -> None:
    approve("findings-of-everything", [said(finding) for finding in check(everything()).findings])


NORTH = "department.north", "notes"
BAR = "department.north:north"
RULE = LAYOUTS[1].toolbars[0].items[1]
LINE = "department.north:line"
EDITS = {
    "put": PutItems(*NORTH, BAR, "department.north:close", (RULE.model_copy(update={"id": "rule-2"}),)),
    "off": TakeOff(*NORTH, ("department.north:close",)),
    "hidden": TakeOff(*NORTH, ("app:item-save",)),
    "moved": MoveItems(*NORTH, ("app:item-save",), "app:group-b", None),
    "called": SetFields(*NORTH, LINE, {"label": "Line"}),
    "else": SetFields(*NORTH, LINE, {"run": "notes:wipe", "label": "Rule"}),
    "looks": SetFields(*NORTH, LINE, {"face": "words"}),
    "key": Bind(*NORTH, test_conflicts.key("F9", "notes:rule")),
    "key-off": Unbind("organisation", "notes", "key:writing:Ctrl+J, G"),
    "key-else": Bind(*NORTH, test_conflicts.key("Ctrl+J, G", "notes:wipe")),
    "key-taken": Bind(*NORTH, test_conflicts.key("Ctrl+J, G", None)),
    "key-moved": Rebind("organisation", "notes", (("key:writing:Ctrl+J, G", "F8"),)),
}


@pytest.mark.parametrize("name", EDITS)
def test_what_an_edit_makes_different_in_words(name: str, workspace: Workspace) -> None:
    after, _ = apply(workspace, EDITS[name])
    stack = workspace.stack_up_to("department.north")
    one, other = workspace.outcome(stack, "notes"), after.outcome(stack, "notes")
    targets = after.targets(stack, "notes")
    there, back = compare(one, other, targets), compare(other, one, targets)
    assert there
    approve(
        f"difference-{name}",
        {
            "there": data(there),
            "back": data(back),
            "news": whats_new(there),
            "news of both": whats_new([*there, *back], 1),
            "lost first": [each.sentence for each in lost_first([*there, *back])],
        },
    )


def test_what_is_new_counts_only_what_it_does_not_say() -> None:
    workspace = make_workspace()
    stack = workspace.stack_up_to("department.north")
    items = tuple(RULE.model_copy(update={"id": f"r{n}", "label": f"R{n}"}) for n in range(4))
    after, _ = apply(workspace, PutItems(*NORTH, BAR, None, items))
    before, now = workspace.outcome(stack, "notes"), after.outcome(stack, "notes")
    found = compare(before, now, after.targets(stack, "notes"))
    assert len(found) == 4
    assert whats_new(found, 4) == " ".join(each.sentence for each in found)
    assert whats_new(found, 3).endswith(" And 1 more change.")
    assert whats_new(found, 2).endswith(" And 2 more changes.")


MACROS = {
    ("department.south", "southern"): 'macro "Southern"\nfor notes\n\ndo bold on=yes\n',
    ("organisation", "foreign"): 'macro "Foreign"\nfor sheets\n\nwrite "x"\n',
    ("organisation", "greeting"): 'macro "Greeting"\nfor notes\n\nask who "Whom?"\nwrite "{who}"\n',
    ("department.north", "broken"): 'macro "Broken"\nfor notes\n\ndo bald\nwrite "{nobody}"\nrun "nothing"\n',
    ("department.north", "closing"): 'macro "Closing"\nfor notes\n\ndo fetch path="/home/ailis/list.txt"\n',
}
FETCH = {
    "id": "notes:fetch",
    "name": "Fetch",
    "about": "Fetch it",
    "effects": ["opens files"],
    "arguments": [{"name": "path", "type": "path"}],
}


def troubled() -> Workspace:
    """Nearly everything is wrong in the layer of the north."""
    catalogue = CATALOGUE.to_data()
    made = Catalogue.model_validate({**catalogue, "commands": [*catalogue["commands"], FETCH]})
    layout = Layout.model_validate(json.loads((HERE / "troubled.json").read_text("utf-8")))
    workspace = make_workspace([LAYOUTS[0], layout], MACROS)
    return replace(workspace, catalogues={"notes": made}, companions={"there.txt": b"x"})


def test_findings_of_a_layer_in_which_nearly_everything_is_wrong() -> None:
    found = check(troubled()).findings
    assert len({finding.kind for finding in found}) > 15
    approve("findings-of-troubles", [said(finding) for finding in found])


def test_what_is_seen_where_nearly_everything_is_wrong() -> None:
    seen = troubled().outcome(("organisation", "department.north"), "notes")
    approve("outcome-of-troubles", {"lost": list(seen.lost), "rows": [data(row) for row in seen.rows()]})


def test_what_there_is_no_room_for_at_each_width(demo: Workspace) -> None:
    shown = everything().outcome(("organisation", "department.north"), "notes")
    seats = [(layer, app) for layer in ("organisation", "department.freight") for app in demo.catalogues]
    seen = {"everything": shown} | {
        f"{layer} {app}": demo.outcome(demo.stack_up_to(layer), app) for layer, app in seats
    }
    approve(
        "room",
        {
            f"{name} at {width}": {
                row.id: [item.id for item in lost] for row, lost in unseen_at(outcome, width)
            }
            for name, outcome in seen.items()
            for width in range(240, 1241, 77)
        },
    )
