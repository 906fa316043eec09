"""Edits that put a surface exactly where it was meant, whatever lower layers hung on the same neighbour.

Several things after one anchor stand in layer order (docs/formats/README.md, "Layout"): what a layer puts
there comes behind what layers beneath put there. Where it was meant to be before them, these are moved
behind it.
"""

from __future__ import annotations

from rimecrest.core.layout.seen import Outcome, SeenGroup, SeenPanel
from rimecrest.core.workspace.edits import Edit, MoveSurface, Together
from rimecrest.core.workspace.workspace import Workspace


def neighbours(seen: Outcome, thing: str, into: str = "") -> list[str]:
    """The order that a surface stands in: the tabs, the toolbars, the panels, or the groups of a tab."""
    if into:
        tab = seen.tab(into)
        return [group.id for group in tab.groups] if tab is not None else []
    if seen.tab(thing) is not None:
        return [tab.id for tab in seen.tabs]
    row = seen.row(thing)
    if isinstance(row, SeenGroup):
        return neighbours(seen, thing, row.tab)
    if isinstance(row, SeenPanel):
        return [panel.id for panel in seen.panels]
    return [bar.id for bar in seen.toolbars]


def exactly(
    workspace: Workspace,
    stack: tuple[str, ...],
    app: str,
    edit: Edit,
    thing: str,
    after: str | None,
    into: str = "",
) -> Edit:
    """The edit, with moves of what would stand between a surface and what it was put behind.

    Args:
        stack: the layers, of which the edit changes the highest.
        edit: puts or moves the surface.
        thing: the surface's identity; `into` is the tab where it is a group.

    Raises:
        RimecrestError: the edit cannot be applied.
    """
    seen = edit.on(workspace).outcome(stack, app)
    order = neighbours(seen, thing, into)
    if thing not in order:
        return edit
    start = order.index(after) + 1 if after in order else 0
    between = order[start : order.index(thing)]
    moves: list[Edit] = []
    behind = thing
    for name in between:
        moves.append(MoveSurface(stack[-1], app, name, into, behind, last=True))
        behind = name
    return Together(edit.label, (edit, *moves)) if moves else edit
