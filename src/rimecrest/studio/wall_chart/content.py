"""What stands on a wall chart: the keyboard with what its keys do, keys by task, buttons by surface."""

from __future__ import annotations

from dataclasses import dataclass

from rimecrest.core.check.run import Checked
from rimecrest.core.explain.bed_state import HELD_KEYS, PRINTED, BedView, CapState
from rimecrest.core.keys import ANYWHERE, Binding, Traits, format_sequence, working
from rimecrest.core.keys.keyboards import Geometry, keyboard_name
from rimecrest.core.layout import BUILT_IN, Outcome
from rimecrest.core.words import tr
from rimecrest.core.workspace import Workspace

MOST_DRAWN = 2
"""Keyboards on a chart: more would not be read on a wall."""


@dataclass(frozen=True, slots=True)
class ChartKey:
    """One line: the keys as they are pressed, what they do, and whether a layer gave them or the
    application."""

    keys: str
    words: str
    about: str = ""
    shared: bool = True


@dataclass(frozen=True, slots=True)
class ChartPart:
    """A task with its keys, or a surface with its buttons."""

    title: str
    lines: tuple[ChartKey, ...]


@dataclass(frozen=True)
class Drawn:
    """A keyboard with what its keys do when these are held, behind this opener."""

    title: str
    geometry: Geometry
    caps: dict[str, CapState]


@dataclass(frozen=True)
class Chart:
    """A whole chart."""

    title: str
    subtitle: str
    keyboards: tuple[Drawn, ...]
    tasks: tuple[ChartPart, ...]
    buttons: tuple[ChartPart, ...]


def chart_of(workspace: Workspace, checked: Checked, app: str, layer: str, board: str = "") -> Chart:
    """The chart of a layer's stack in one application.

    Args:
        board: the keyboard to draw; else the one that most of its seats have.

    Raises:
        RimecrestError: there is no catalogue of that application, or no such keyboard.
    """
    seats = [seat for seat in workspace.people if layer in workspace.stack_of(seat)]
    boards = [seat.keyboard for seat in seats]
    board = board or (max(sorted(set(boards)), key=boards.count) if boards else "gb")
    catalogue = workspace.catalogue(app)
    outcome = workspace.outcome(workspace.stack_up_to(layer), app, Traits(keyboard=board))
    bound = working(outcome.bindings, catalogue.context_tree)
    contexts = [b.context for b in bound if b.level and b.context != ANYWHERE]
    inner = [c.id for c in catalogue.contexts if c.id != ANYWHERE]
    context = max(inner, key=contexts.count, default=ANYWHERE)
    view = BedView(workspace, checked, app, layer, outcome, context, [s.traits for s in seats], board)
    return Chart(
        title=f"{workspace.layer_title(layer)} · {catalogue.title}",
        subtitle=f"{workspace.settings.name} · {keyboard_name(board)} keyboard · "
        f"{catalogue.context_tree.name(context).lower()}",
        keyboards=_keyboards(view, bound),
        tasks=_tasks(workspace, app, outcome, bound),
        buttons=_buttons(workspace, app, outcome),
    )


def _keyboards(view: BedView, bound: list[Binding]) -> tuple[Drawn, ...]:
    """The sets of modifiers and openers in which the layers say most, fullest first."""
    counts: dict[tuple[object, ...], int] = {}
    for binding in bound:
        if binding.level:
            key = (binding.sequence[:-1], binding.sequence[-1].mods)
            counts[key] = counts.get(key, 0) + 1
    if not counts:
        counts = dict.fromkeys(view.sets()[:1], 1)
    found = []
    for opener, mods in sorted(counts, key=lambda key: (-counts[key], str(key)))[:MOST_DRAWN]:
        caps = view.caps(mods, opener)
        begin = f"After {format_sequence(opener)}" if opener else ""
        held = f"holding {' and '.join(mods)}" if mods else ""
        words = ", ".join(part for part in (begin, held) if part) or "Alone"
        found.append(Drawn(words[0].upper() + words[1:], view.geometry, caps))
    return tuple(found)


def _tasks(workspace: Workspace, app: str, outcome: Outcome, bound: list[Binding]) -> tuple[ChartPart, ...]:
    catalogue = workspace.catalogue(app)
    targets = workspace.targets(workspace.layers, app)
    where: dict[str, str] = {}
    for row, item in outcome.buttons():
        if item.run:
            where.setdefault(item.run, row.title)
    parts: dict[str, list[ChartKey]] = {}
    for binding in sorted(bound, key=lambda b: (b.level == 0, b.sequence)):
        command = catalogue.by_id.get(binding.run or "")
        if binding.level == 0 and not (command and command.everyday):
            continue
        everyday = binding.level == 0
        task = tr("Every day") if everyday else where.get(binding.run or "", "")
        task = task or catalogue.context_tree.name(binding.context)
        face = targets.face(binding.run)
        line = ChartKey(format_sequence(binding.sequence), face.name, face.about, not everyday)
        parts.setdefault(task, []).append(line)
    return tuple(ChartPart(title, tuple(lines)) for title, lines in parts.items())


def _buttons(workspace: Workspace, app: str, outcome: Outcome) -> tuple[ChartPart, ...]:
    keys = {b.target: format_sequence(b.sequence) for b in reversed(outcome.bindings)}
    found = []
    for row in outcome.rows():
        shared = [item for item in row.buttons() if item.layer != BUILT_IN and item.exists]
        lines = tuple(ChartKey(keys.get(i.target, ""), i.label, i.tip) for i in shared)
        if lines:
            found.append(ChartPart(row.title, lines))
    return tuple(found)


def legend_of(cap: CapState) -> str:
    """What is printed on a drawn cap."""
    return PRINTED.get(cap.key, cap.legend)


def said_on(cap: CapState) -> str:
    """The words on a drawn cap."""
    return "" if cap.key in HELD_KEYS else cap.words
