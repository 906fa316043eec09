"""What something that runs at an event may do, told without running it."""

from __future__ import annotations

import pytest

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.layout.doing_effects import doing_effects
from rimecrest.core.layout.seen import Doing
from rimecrest.core.macro.parse import parse_macro
from tests.samples import CATALOGUE, MACROS

INNER = parse_macro('macro "Inner"\nfor notes\n\ndo wipe\n')[0]
OUTER = parse_macro('macro "Outer"\nfor notes\n\nrun "inner"\ndo bold on=yes\n')[0]
KNOWN = {"inner": INNER, "outer": OUTER, "greeting": parse_macro(MACROS["organisation", "greeting"])[0]}


def doing(run: str | None = None, steps: str = "") -> Doing:
    return Doing("layer:item", "layer", "Item", "click", run, (), steps)


@pytest.mark.parametrize(
    ("does", "effects"),
    [
        (doing("notes:wipe"), {Effect.DELETES}),
        (doing("notes:save"), {Effect.CREATES}),
        (doing("notes:print"), set()),
        (doing("notes:nothing-of-that-name"), set()),
        (doing(""), set()),
        (doing(None), set()),
        (doing("macro:inner"), {Effect.DELETES}),
        (doing("macro:outer"), {Effect.DELETES, Effect.EDITS}),
        (doing("macro:unknown"), set()),
        (doing(steps="do bold on=yes\n"), {Effect.EDITS}),
        (doing(steps='run "inner"\n'), {Effect.DELETES}),
        (doing("notes:save", steps="do wipe\n"), {Effect.DELETES}),
    ],
)
def test_what_it_may_do(does: Doing, effects: set[Effect]) -> None:
    assert set(doing_effects(does, CATALOGUE, KNOWN)) == effects
