"""Everything a key or an item reaches is checked: a planted fault each, with a near miss that stays silent.

Each row changes the demo's workspace. `kind` is the finding that the change must bring; the near miss must
bring none that is an error or a question.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

import pytest
from msgspec.structs import replace

from rimecrest.core.check.run import check
from rimecrest.core.layout.layout import Layout
from rimecrest.core.mend.make_fixes import fixes
from rimecrest.core.workspace.habits import OwnKey
from rimecrest.core.workspace.settings import LayerTitle
from rimecrest.core.workspace.workspace import Workspace

EVERYONE, FREIGHT, BERTH, CARE = "organisation", "department.freight", "department.berth", "department.care"
Change = Callable[[Workspace], Workspace]


def layout(layer: str, app: str, **more: Any) -> Change:
    """Add to the lists of one layout; anything that is no list takes the place of what is there."""

    def change(workspace: Workspace) -> Workspace:
        data = workspace.layout(layer, app).to_data()
        for name, value in more.items():
            data[name] = [*data.get(name, []), *value] if isinstance(value, list) else value
        return workspace.with_layout(Layout.model_validate({"app": app, "layer": layer, **data}))

    return change


def key(
    keys: str, run: str | None = "letters:highlight", context: str = "writing", **more: Any
) -> dict[str, Any]:
    return {"keys": keys, "in": context, "run": run, **more}


def bar(*items: dict[str, Any]) -> list[dict[str, Any]]:
    return [{"id": "planted", "title": "Planted", "edge": "top", "items": list(items)}]


def panel(*items: dict[str, Any], **more: Any) -> list[dict[str, Any]]:
    return [{"id": "planted", "title": "Planted", "items": list(items), **more}]


def macro(text: str, name: str = "planted", layer: str = EVERYONE) -> Change:
    return lambda workspace: workspace.with_macro(layer, name, text)


def without(companion: str) -> Change:
    return lambda workspace: workspace.with_companion(companion, None)


def everybody(**fields: str) -> Change:
    """Change every seat of people.csv."""
    return lambda workspace: replace(
        workspace, people=tuple(replace(seat, **fields) for seat in workspace.people)
    )


def people(**fields: str) -> Change:
    """Change the first seat of people.csv."""

    def change(workspace: Workspace) -> Workspace:
        first, *rest = workspace.people
        return replace(workspace, people=(replace(first, **fields), *rest))

    return change


def own_key(**fields: str) -> Change:
    def change(workspace: Workspace) -> Workspace:
        made = OwnKey(
            **{"seat": "Freight 7", "app": "letters", "keys": "Ctrl+M", "run": "letters:save", **fields}
        )
        habits = replace(workspace.habits, own_keys=(*workspace.habits.own_keys, made))
        return replace(workspace, habits=habits)

    return change


def settings(**fields: Any) -> Change:
    return lambda workspace: workspace.with_settings(workspace.settings.model_copy(update=fields))


def stray_layout(layer: str, app: str) -> Change:
    return lambda workspace: workspace.with_layout(Layout(app=app, layer=layer))


def lettered(run: str, access: str) -> dict[str, Any]:
    return {"id": f"at-{run.partition(':')[2]}", "run": run, "label": run.partition(":")[2], "access": access}


def picture(content: bytes) -> Change:
    return lambda workspace: replace(workspace, pictures={**workspace.pictures, "planted.svg": content})


def many(number: int) -> list[dict[str, Any]]:
    return [
        {"id": f"many-{n}", "run": "letters:save", "label": f"Number {n}", "face": "both"}
        for n in range(number)
    ]


SQUARE = (
    b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24">'
    b'<rect width="20" height="20" fill="#333333"/></svg>'
)
BROKEN = 'macro "Broken"\nfor letters\n\ndo no-such-command\n'
OPENS = 'macro "Opens"\nfor grid\n\ndo open path="companions/{}"\n'
ASKS = 'macro "Asks"\nfor grid\n\nask panel "lanes"\n'
ALT_W = [key("Alt+W")]
W_BAR = bar(lettered("letters:highlight", "W"))


@dataclass
class Row:
    """What is planted, the finding that it brings, and nearly the same that brings none."""

    kind: str
    fault: tuple[Change, ...]
    near_miss: tuple[Change, ...]
    says: str = ""
    app: str = field(default="")


ROWS = {
    "the Menu key": Row(
        "takes-caret",
        (layout(EVERYONE, "letters", keys=[key("Menu", context="anywhere", run="letters:save")]),),
        (layout(EVERYONE, "letters", keys=[key("F9", context="anywhere", run="letters:save")]),),
        "right-click menu",
    ),
    "an arrow key in a list": Row(
        "takes-caret",
        (layout(EVERYONE, "post", keys=[key("Right", "post:flag-message", "list")]),),
        (layout(EVERYONE, "post", keys=[key("Left", "post:flag-message", "list")]),),
    ),
    "Page Down in a list": Row(
        "takes-caret",
        (layout(EVERYONE, "post", keys=[key("Page_Down", "post:flag-message", "list")]),),
        (layout(EVERYONE, "post", keys=[key("Insert", "post:flag-message", "list")]),),
    ),
    "a dead key": Row(
        "unreachable",
        (people(keyboard="de"), layout(BERTH, "letters", keys=[key("Ctrl+dead_acute")])),
        (layout(BERTH, "letters", keys=[key("Ctrl+M")]),),
    ),
    "the keypad with Num Lock off": Row(
        "moves-caret",
        (layout(EVERYONE, "letters", keys=[key("Ctrl+KP_1")]),),
        (layout(EVERYONE, "letters", keys=[key("Ctrl+KP_5")]),),
        "Num Lock off",
    ),
    "an access key of a lower layer": Row(
        "access-key",
        (layout(EVERYONE, "letters", keys=ALT_W), layout(FREIGHT, "letters", toolbars=W_BAR)),
        (layout(BERTH, "letters", keys=ALT_W), layout(CARE, "letters", toolbars=W_BAR)),
    ),
    "an access key in a variant": Row(
        "access-key",
        (layout(FREIGHT, "letters", toolbars=W_BAR, keys=[key("F9", on={"gb": "Alt+W"})]),),
        (layout(FREIGHT, "letters", toolbars=W_BAR, keys=[key("F9", on={"gb": "Alt+Shift+W"})]),),
    ),
    "access keys of two departments": Row(
        "access-key",
        (
            layout(
                FREIGHT, "letters", insert=[{"into": "app:main", "items": [lettered("letters:save", "W")]}]
            ),
            layout(BERTH, "letters", insert=[{"into": "app:main", "items": [lettered("letters:open", "W")]}]),
        ),
        (
            layout(
                FREIGHT, "letters", insert=[{"into": "app:main", "items": [lettered("letters:save", "W")]}]
            ),
            layout(CARE, "letters", insert=[{"into": "app:main", "items": [lettered("letters:open", "W")]}]),
        ),
    ),
    "access keys of two toolbars": Row(
        "access-key",
        (
            layout(
                FREIGHT,
                "letters",
                toolbars=[*W_BAR, {"id": "two", "title": "Two", "items": [lettered("letters:save", "W")]}],
            ),
        ),
        (
            layout(
                FREIGHT,
                "letters",
                toolbars=[*W_BAR, {"id": "two", "title": "Two", "items": [lettered("letters:save", "V")]}],
            ),
        ),
    ),
    "an access key of two letters": Row(
        "access-key",
        (layout(FREIGHT, "letters", toolbars=bar(lettered("letters:save", "WX"))),),
        (layout(FREIGHT, "letters", toolbars=bar(lettered("letters:save", "X"))),),
        "not one letter",
    ),
    "a sequence that begins with an access key": Row(
        "access-key",
        (layout(FREIGHT, "letters", toolbars=W_BAR, keys=[key("Alt+W, A")]),),
        (layout(FREIGHT, "letters", toolbars=W_BAR, keys=[key("Alt+V, W")]),),
    ),
    "a picture that no free set has": Row(
        "no-picture",
        (
            layout(
                FREIGHT, "letters", toolbars=bar({"id": "x", "run": "letters:save", "picture": "set:no-such"})
            ),
        ),
        (
            layout(
                FREIGHT, "letters", toolbars=bar({"id": "x", "run": "letters:save", "picture": "set:ferry"})
            ),
        ),
    ),
    "a broken macro that nothing runs": Row(
        "faulty-unused",
        (macro(BROKEN),),
        (macro(BROKEN.replace("for letters", "unfinished\nfor letters")),),
    ),
    "an empty macro that nothing runs": Row(
        "faulty-unused",
        (macro('macro "Empty"\nfor letters\n'),),
        (macro('macro "Empty"\nfor letters\n\nstop\n'),),
        "has no steps",
    ),
    "a companion that a macro brings": Row(
        "faulty",
        (
            without("berth-plan.ods"),
            macro(OPENS.format("berth-plan.ods")),
            layout(EVERYONE, "grid", keys=[key("F9", "macro:planted", "anywhere")]),
        ),
        (
            macro(OPENS.format("berth-plan.ods")),
            layout(EVERYONE, "grid", keys=[key("F9", "macro:planted", "anywhere")]),
        ),
        "berth-plan.ods",
    ),
    "a companion in the head of a macro": Row(
        "faulty", (without("late-running.eml"),), (without("mind-the-quay.block.html"),), "late-running"
    ),
    "a companion that an item opens": Row(
        "gone",
        (
            layout(
                FREIGHT,
                "grid",
                toolbars=bar({"id": "x", "run": "grid:open", "args": {"path": "companions/nope.ods"}}),
            ),
        ),
        (
            layout(
                FREIGHT,
                "grid",
                toolbars=bar({"id": "x", "run": "grid:open", "args": {"path": "companions/berth-plan.ods"}}),
            ),
        ),
    ),
    "a companion that a key opens": Row(
        "gone",
        (
            layout(
                FREIGHT,
                "grid",
                keys=[key("F9", "grid:open", "anywhere", args={"path": "companions/nope.ods"})],
            ),
        ),
        (
            layout(
                FREIGHT,
                "grid",
                keys=[key("F9", "grid:open", "anywhere", args={"path": "companions/berth-plan.ods"})],
            ),
        ),
    ),
    "a file of somebody's home that a key opens": Row(
        "out-of-reach",
        (
            layout(
                FREIGHT,
                "grid",
                keys=[key("F9", "grid:open", "anywhere", args={"path": "/home/support/x.ods"})],
            ),
        ),
        (
            layout(
                FREIGHT, "grid", keys=[key("F9", "grid:open", "anywhere", args={"path": "/srv/desk/x.ods"})]
            ),
        ),
    ),
    "a text block that a key inserts": Row(
        "gone",
        (layout(FREIGHT, "letters", keys=[key("F9", "letters:insert-block", args={"name": "nope"})]),),
        (
            layout(
                FREIGHT, "letters", keys=[key("F9", "letters:insert-block", args={"name": "mind-the-quay"})]
            ),
        ),
    ),
    "a template that an item begins from": Row(
        "gone",
        (
            layout(
                CARE,
                "post",
                toolbars=bar({"id": "x", "run": "post:new-from-template", "args": {"name": "nope"}}),
            ),
        ),
        (
            layout(
                CARE,
                "post",
                toolbars=bar({"id": "x", "run": "post:new-from-template", "args": {"name": "late-running"}}),
            ),
        ),
    ),
    "a choice without entries": Row(
        "faulty",
        (layout(FREIGHT, "letters", panels=panel({"id": "c", "choice": "Which", "choices": []})),),
        (layout(FREIGHT, "letters", panels=panel({"id": "c", "choice": "Which", "choices": ["One"]})),),
        "nothing to choose from",
    ),
    "two things on one place of a grid": Row(
        "overlap",
        (
            layout(
                FREIGHT,
                "letters",
                panels=panel(
                    {"id": "a", "field": "A", "at": [0, 0, 10, 6]},
                    {"id": "b", "field": "B", "at": [5, 3, 10, 6]},
                    flow="grid",
                ),
            ),
        ),
        (
            layout(
                FREIGHT,
                "letters",
                panels=panel(
                    {"id": "a", "field": "A", "at": [0, 0, 10, 6]},
                    {"id": "b", "field": "B", "at": [0, 6, 10, 6]},
                    flow="grid",
                ),
            ),
        ),
    ),
    "an item on a tab that another layer hides": Row(
        "adrift",
        (
            layout(EVERYONE, "letters", hide=["organisation:notices"]),
            layout(
                FREIGHT,
                "letters",
                insert=[{"into": "organisation:everyone", "items": [{"id": "x", "run": "letters:save"}]}],
            ),
        ),
        (
            layout(
                FREIGHT,
                "letters",
                insert=[{"into": "organisation:everyone", "items": [{"id": "x", "run": "letters:save"}]}],
            ),
        ),
        "nobody sees it",
    ),
    "a layout for a template that nobody has": Row(
        "gone",
        (layout(BERTH, "letters", applies={"templates": ["nope"]}),),
        (layout(BERTH, "letters", applies={"templates": ["berth-plan"]}),),
    ),
    "a layout for a folder of somebody's home": Row(
        "out-of-reach",
        (layout(BERTH, "letters", applies={"folders": ["/home/support/letters"]}),),
        (layout(BERTH, "letters", applies={"folders": ["/srv/letters"]}),),
    ),
    "an unknown session": Row(
        "unknown-name", (people(session="remoet"),), (people(session="remote"),), "remote"
    ),
    "an unknown policy": Row("unknown-name", (people(policy="restircted"),), (people(policy="restricted"),)),
    "a wave that is no number": Row("unknown-name", (people(wave="second"),), (people(wave="2"),)),
    "an own key whose target is gone": Row(
        "personal", (own_key(run="letters:no-such"),), (own_key(run="letters:save-as"),), "does not have"
    ),
    "an own key of a seat that is gone": Row(
        "personal", (own_key(seat="Nobody 1"),), (own_key(seat="Freight 8"),), "Nobody 1"
    ),
    "a context that does not exist": Row(
        "unknown-name",
        (layout(FREIGHT, "letters", keys=[key("Ctrl+K", context="tabel")]),),
        (layout(FREIGHT, "letters", keys=[key("Ctrl+K", context="table")]),),
        "Did you mean table?",
    ),
    "a context of another application": Row(
        "unknown-name",
        (layout(FREIGHT, "letters", keys=[key("Ctrl+K", context="composing")]),),
        (layout(FREIGHT, "post", keys=[key("Ctrl+K", "post:send", context="composing")]),),
    ),
    "a variant for an unknown keyboard": Row(
        "unknown-name",
        (layout(FREIGHT, "letters", keys=[key("Ctrl+K", on={"bg-b": "F9"})]),),
        (layout(FREIGHT, "letters", keys=[key("Ctrl+K", on={"be": "F9"})]),),
    ),
    "a variant for an unknown desktop": Row(
        "unknown-name",
        (layout(FREIGHT, "letters", keys=[key("Ctrl+K", on={"desktop:gnomme": "F9"})]),),
        (layout(FREIGHT, "letters", keys=[key("Ctrl+K", on={"desktop:gnome": "F9"})]),),
        "Did you mean desktop:gnome?",
    ),
    "a layout of an unknown layer": Row(
        "unknown-name", (stray_layout("department.frieght", "letters"),), (stray_layout(FREIGHT, "letters"),)
    ),
    "a layout of an unknown application": Row(
        "unknown-name", (stray_layout(FREIGHT, "leters"),), (stray_layout(FREIGHT, "post"),)
    ),
    "a layer listed twice": Row(
        "unknown-name",
        (
            lambda w: w.with_settings(
                w.settings.model_copy(
                    update={"layers": (*w.settings.layers, LayerTitle(id=FREIGHT, title="Freight"))}
                )
            ),
        ),
        (
            lambda w: w.with_settings(
                w.settings.model_copy(
                    update={"layers": (*w.settings.layers, LayerTitle(id="department.sea", title="Sea"))}
                )
            ),
        ),
        "listed twice",
    ),
    "a target that needs another context": Row(
        "never-runs",
        (layout(CARE, "post", keys=[key("F9", "post:send", "list")]),),
        (layout(CARE, "post", keys=[key("F9", "post:send", "composing")]),),
    ),
    "a macro that refuses where its key is live": Row(
        "never-runs",
        (layout(FREIGHT, "letters", keys=[key("F9", "macro:hazard-note", "table")]),),
        (layout(FREIGHT, "letters", keys=[key("F9", "macro:hazard-note", "writing")]),),
    ),
    "a fixed key that wins everywhere": Row(
        "never-runs",
        (
            layout(EVERYONE, "letters", policy="fixed", keys=[key("F9", "letters:highlight")]),
            layout(FREIGHT, "letters", keys=[key("F9", "letters:insert-table")]),
        ),
        (
            layout(EVERYONE, "letters", policy="fixed", keys=[key("F9", "letters:highlight", "note")]),
            layout(FREIGHT, "letters", keys=[key("F9", "letters:insert-table", "table")]),
        ),
    ),
    "the same key in another spelling, which wins everywhere": Row(
        "never-runs",
        (
            everybody(keyboard="fr"),
            layout(EVERYONE, "letters", policy="fixed", keys=[key("Ctrl+6", "letters:highlight")]),
            layout(FREIGHT, "letters", keys=[key("Ctrl+-", "letters:insert-table")]),
        ),
        (
            layout(EVERYONE, "letters", policy="fixed", keys=[key("Ctrl+6", "letters:highlight")]),
            layout(FREIGHT, "letters", keys=[key("Ctrl+-", "letters:insert-table")]),
        ),
    ),
    "a panel that its own layer hides": Row(
        "faulty",
        (
            macro(ASKS, "asks", FREIGHT),
            layout(FREIGHT, "grid", hide=["lanes"], keys=[key("F9", "macro:asks", "anywhere")]),
        ),
        (macro(ASKS, "asks", FREIGHT), layout(FREIGHT, "grid", keys=[key("F9", "macro:asks", "anywhere")])),
    ),
    "two macros with one id that differ": Row(
        "same-id",
        (
            macro('macro "Two"\nfor letters\n\nwrite "a"\n'),
            macro('macro "Two"\nfor letters\n\nwrite "b"\n', layer=FREIGHT),
        ),
        (
            macro('macro "Two"\nfor letters\n\nwrite "a"\n'),
            macro('macro "Two"\nfor letters\n\nwrite "a"\n', layer=FREIGHT),
        ),
    ),
    "a chord of the office's own table that cannot be read": Row(
        "unknown-name",
        (settings(reserved={"gnome": {"Ctrl+Foo": "rings"}}),),
        (settings(reserved={"gnome": {"Ctrl+F11": "rings"}}),),
        "Ctrl+Foo",
    ),
    "a department that has no layer": Row(
        "unknown-department", (people(departments=("frieght",)),), (people(departments=("freight",)),)
    ),
    "a keyboard that nobody knows": Row("unknown", (people(keyboard="qq"),), (people(keyboard="be"),)),
    "a file that cannot be read": Row(
        "unreadable",
        (lambda w: replace(w, broken={"layouts/x.json": "line 2: this is not JSON"}),),
        (lambda w: w,),
    ),
    "a picture that nothing shows": Row(
        "unused-picture",
        (picture(SQUARE),),
        (
            picture(SQUARE),
            layout(
                FREIGHT, "letters", toolbars=bar({"id": "x", "run": "letters:save", "picture": "own:planted"})
            ),
        ),
    ),
    "a picture that cannot be made out": Row(
        "unseen-picture",
        (
            picture(SQUARE.replace(b"#333333", b"#FFFFFF")),
            layout(
                FREIGHT, "letters", toolbars=bar({"id": "x", "run": "letters:save", "picture": "own:planted"})
            ),
        ),
        (
            picture(SQUARE.replace(b"#333333", b"#888888")),
            layout(
                FREIGHT, "letters", toolbars=bar({"id": "x", "run": "letters:save", "picture": "own:planted"})
            ),
        ),
    ),
    "more items than a toolbar has room for": Row(
        "no-room",
        (layout(FREIGHT, "letters", toolbars=bar(*many(60))),),
        (layout(FREIGHT, "letters", toolbars=bar(*many(3))),),
    ),
    "a slip onto one that is a modifier away": Row(
        "slip",
        (
            layout(EVERYONE, "letters", keys=[key("Ctrl+J, Shift+H", "letters:delete-row", "table")]),
            lambda w: used(w, "letters:insert-rule", 4000),
            lambda w: used(w, "letters:delete-row", 60),
        ),
        (
            layout(EVERYONE, "letters", keys=[key("Ctrl+J, Shift+H", "letters:add-row", "table")]),
            lambda w: used(w, "letters:insert-rule", 4000),
            lambda w: used(w, "letters:add-row", 60),
        ),
    ),
}


def used(workspace: Workspace, target: str, uses: int) -> Workspace:
    from rimecrest.core.workspace.habits import UseCount

    counts = {**workspace.habits.counts, ("letters", target): UseCount("letters", target, uses)}
    return replace(workspace, habits=replace(workspace.habits, counts=counts))


def brought(demo: Workspace, changes: tuple[Change, ...]) -> list[Any]:
    """The findings that some changes bring to the demo."""
    known = {finding.sentence for finding in check(demo).findings}
    workspace = demo
    for change in changes:
        workspace = change(workspace)
    return [finding for finding in check(workspace).findings if finding.sentence not in known]


@pytest.mark.parametrize("name", ROWS)
def test_a_planted_fault_is_told(demo: Workspace, name: str) -> None:
    row = ROWS[name]
    found = brought(demo, row.fault)
    of_kind = [finding for finding in found if finding.kind == row.kind and row.says in finding.sentence]
    assert of_kind, [(finding.kind, finding.sentence) for finding in found]


@pytest.mark.parametrize("name", ROWS)
def test_its_near_miss_is_not(demo: Workspace, name: str) -> None:
    row = ROWS[name]
    found = [finding for finding in brought(demo, row.near_miss) if finding.kind == row.kind]
    assert found == []


def test_layouts_for_different_templates_do_not_conflict(demo: Workspace) -> None:
    def both(*templates: str) -> list[str]:
        changes = (
            layout(
                BERTH, "letters", keys=[key("F9", "letters:highlight")], applies={"templates": [templates[0]]}
            ),
            layout(
                FREIGHT,
                "letters",
                keys=[key("F9", "letters:insert-table")],
                applies={"templates": [templates[1]]},
            ),
        )
        return [f.kind for f in brought(demo, changes) if f.where == "F9"]

    assert both("berth-plan", "berth-plan") == ["takes-over"]
    assert both("berth-plan", "late-running") == []


@pytest.mark.parametrize("keys", ["Shift+Tab", "Ctrl+KP_Enter", "Alt+Left"])
def test_a_key_that_does_nothing_by_itself_is_no_alarm(demo: Workspace, keys: str) -> None:
    found = brought(demo, (layout(EVERYONE, "letters", keys=[key(keys)]),))
    assert [f.kind for f in found if f.kind in ("takes-caret", "moves-caret")] == []


def test_shift_and_delete_cuts_so_that_a_key_that_takes_it_is_told(demo: Workspace) -> None:
    found = brought(demo, (layout(EVERYONE, "letters", keys=[key("Shift+Delete")]),))
    assert [f.kind for f in found if f.kind == "takes-caret"] == ["takes-caret"]
    assert "takes-over" in [f.kind for f in found]


def test_a_key_taken_away_in_one_department_is_still_displaced_for_others(demo: Workspace) -> None:
    changes = (
        people(departments=("freight", "berth")),
        layout(EVERYONE, "letters", keys=[key("F9", "letters:highlight")]),
        layout(BERTH, "letters", keys=[key("F9", None)]),
        layout(FREIGHT, "letters", keys=[key("F9", "letters:insert-table")]),
    )
    told = [
        (f.layer, f.where) for f in brought(demo, changes) if f.kind == "takes-over" and "Highlight" in f.rest
    ]
    assert (FREIGHT, "F9") in told


def fixes_for(demo: Workspace, kind: str, *changes: Change) -> list[str]:
    """The labels of the fixes of the first finding of a kind that some changes bring."""
    workspace = demo
    for change in changes:
        workspace = change(workspace)
    known = {finding.sentence for finding in check(demo).findings}
    found = [f for f in check(workspace).findings if f.kind == kind and f.sentence not in known]
    assert found
    return [fix.label for fix in fixes(found[0], workspace)]


def test_a_command_that_was_never_counted_is_not_counted_and_not_unused(demo: Workspace) -> None:
    change = layout(FREIGHT, "letters", keys=[key("Ctrl+J, P", "letters:highlight")])
    labels = fixes_for(demo, "takes-over", change)
    assert "Accept: not counted" in labels
    assert not [label for label in labels if "0 times" in label]


@pytest.mark.parametrize("run", ["letters:leave-note", "letters:next-cell"])
def test_a_narrower_context_is_offered_only_where_the_target_runs(demo: Workspace, run: str) -> None:
    catalogue = demo.catalogue("letters")
    contexts, needed = catalogue.context_tree, catalogue.by_id[run].context
    change = layout(FREIGHT, "letters", keys=[key("Ctrl+B", run)])
    labels = fixes_for(demo, "takes-over", change)
    for context in contexts.inside("writing"):
        if f"Only {context.name.lower()}" in labels:
            assert contexts.relation(needed, context.id), context.id
