"""Who wins a key, as the running application asks it: `deciding`, and a new key goes where it wins."""

from __future__ import annotations

import pytest

from rimecrest.core.keys.bindings import Binding, standing
from rimecrest.core.keys.chords import parse_sequence
from rimecrest.core.keys.contexts import Context, Contexts
from rimecrest.core.workspace.give_key import give_key
from rimecrest.core.workspace.workspace import Workspace

CONTEXTS = Contexts(
    [
        Context(id="anywhere", name="Anywhere", within=None),
        Context(id="writing", name="When writing", types=True),
        Context(id="table", name="In a table", within="writing", rank=1, types=True),
        Context(id="field", name="In a field of a panel", types=True),
        Context(id="list", name="In a list"),
    ]
)
FREIGHT = "department.freight"


def bound(
    run: str, keys: str, context: str = "anywhere", level: int = 1, layer: str = "a", fixed: bool = False
) -> Binding:
    return Binding(f"{run} {context}", layer, level, context, parse_sequence(keys), run, (), fixed)


def wins(keys: str, context: str, *bindings: Binding) -> str | None:
    winner = standing(bindings, CONTEXTS.live([context]), CONTEXTS).get(parse_sequence(keys))
    return winner.run if winner is not None else None


def test_a_colleagues_own_key_goes_before_narrower_and_built_in_ones_but_not_before_fixed_ones() -> None:
    own = bound("own", "Ctrl+B", level=9, layer="personal")
    narrower, built_in = (
        bound("narrower", "Ctrl+B", "table", 2),
        bound("bold", "Ctrl+B", "writing", 0, "built-in"),
    )
    assert wins("Ctrl+B", "table", narrower, built_in, own) == "own"
    fixed = bound("fixed", "Ctrl+B", level=1, fixed=True)
    assert wins("Ctrl+B", "table", narrower, built_in, own, fixed) == "fixed"
    assert wins("Ctrl+B", "table", narrower, built_in) == "narrower"


@pytest.mark.parametrize("keys", ["A", "Shift+2", "KP_5", "space"])
def test_where_one_writes_a_character_is_written(keys: str) -> None:
    assert wins(keys, "writing", bound("one", keys)) is None
    assert wins(keys, "list", bound("one", keys)) == "one"


@pytest.mark.parametrize(
    ("keys", "kept"), [("Down", True), ("Page_Down", True), ("F9", False), ("Ctrl+B", False)]
)
def test_a_field_of_a_panel_keeps_its_keys(keys: str, kept: bool) -> None:
    assert wins(keys, "field", bound("one", keys)) == (None if kept else "one")


@pytest.mark.parametrize("keys", ["Ctrl+B", "Ctrl+Home", "Ctrl+J, P"])
def test_a_new_key_wins_wherever_its_target_can_run(demo: Workspace, keys: str) -> None:
    run, catalogue = "letters:insert-table", demo.catalogue("letters")
    after = give_key(demo, FREIGHT, "letters", (run, ()), keys, "writing").on(demo)
    bindings = after.outcome(after.stack_up_to(FREIGHT), "letters").bindings
    contexts, needed = catalogue.context_tree, catalogue.by_id[run].context
    for place in (context.id for context in catalogue.contexts if contexts.contains(needed, context.id)):
        winner = standing(bindings, contexts.live([place]), contexts).get(parse_sequence(keys))
        assert winner is not None, place
        assert winner.run == run, place
