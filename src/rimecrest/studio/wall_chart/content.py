"""What stands on a wall chart: the keyboard with what its keys do, keys by task, buttons by surface."""

from __future__ import annotations

from collections.abc import Iterable

from msgspec import Struct
from msgspec.structs import replace

from rimecrest.core.check.kinds import Weight
from rimecrest.core.check.run import Checked
from rimecrest.core.explain.bed_state import HELD_KEYS, PRINTED, BedView, CapState
from rimecrest.core.keys.bindings import Binding, working
from rimecrest.core.keys.chords import Sequence, format_sequence
from rimecrest.core.keys.contexts import ANYWHERE
from rimecrest.core.keys.keyboards.geometry import Cap, Geometry
from rimecrest.core.keys.keyboards.national import keyboard_name
from rimecrest.core.keys.traits import Traits
from rimecrest.core.layout.seen import BUILT_IN, Outcome
from rimecrest.core.words import tr
from rimecrest.core.workspace.workspace import Workspace

MOST_DRAWN = 2
"""Keyboards on a chart: more would not be read on a wall."""


class ChartKey(Struct, frozen=True):
    """One line: the keys as they are pressed, what they do, and whether a layer gave them or the
    application."""

    keys: str
    words: str
    about: str = ""
    shared: bool = True


class ChartPart(Struct, frozen=True):
    """A task with its keys, or a surface with its buttons."""

    title: str
    lines: tuple[ChartKey, ...]


class Drawn(Struct, frozen=True):
    """A keyboard with what its keys do when these are held, behind this opener."""

    title: str
    geometry: Geometry
    caps: dict[str, CapState]


class Chart(Struct, frozen=True):
    """A whole chart."""

    title: str
    subtitle: str
    keyboards: tuple[Drawn, ...]
    tasks: tuple[ChartPart, ...]
    buttons: tuple[ChartPart, ...]
    withheld: tuple[ChartKey, ...] = ()
    """Keys that something blocks: they are not printed with the others."""


def chart_of(workspace: Workspace, checked: Checked, app: str, layer: str, board: str = "") -> Chart:
    """The chart of a layer's stack in one application. What something blocks there is withheld.

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
    blocked = _blocked(checked, app, {seat.seat for seat in seats})
    every = working(outcome.bindings, catalogue.context_tree)
    bound = [binding for binding in every if format_sequence(binding.sequence) not in blocked]
    targets = workspace.targets(workspace.layers, app)
    contexts = [b.context for b in bound if b.level and b.context != ANYWHERE]
    inner = [c.id for c in catalogue.contexts if c.id != ANYWHERE]
    context = max(inner, key=contexts.count, default=ANYWHERE)
    view = BedView(workspace, checked, app, layer, outcome, context, [s.traits for s in seats], board)
    return Chart(
        title=f"{workspace.layer_title(layer)} · {catalogue.title}",
        subtitle=f"{workspace.settings.name} · {keyboard_name(board)} keyboard · "
        f"{catalogue.context_tree.name(context).lower()}",
        keyboards=_keyboards(view, bound, blocked),
        tasks=_tasks(workspace, app, outcome, bound),
        buttons=_buttons(outcome, blocked),
        withheld=tuple(
            ChartKey(format_sequence(binding.sequence), targets.face(binding.run).name)
            for binding in every
            if binding not in bound
        ),
    )


def _blocked(checked: Checked, app: str, seats: set[str]) -> set[str]:
    """The sequences of which something is told that blocks, on any of these seats."""
    return {
        text
        for finding in checked.findings
        if finding.app == app
        and finding.weight is Weight.BLOCKS
        and (not finding.seats or seats.intersection(finding.seats))
        for text in (finding.where, finding.subject)
    }


def _keyboards(view: BedView, bound: list[Binding], blocked: set[str]) -> tuple[Drawn, ...]:
    """The sets of modifiers and openers in which the layers say most, fullest first.

    Of a keyboard the part is drawn in which the layers say anything, so that it can be read from a wall.
    """
    counts: dict[tuple[Sequence, tuple[str, ...]], int] = {}
    for binding in bound:
        if binding.level:
            key = (binding.sequence[:-1], binding.sequence[-1].mods)
            counts[key] = counts.get(key, 0) + 1
    if not counts:
        counts = dict.fromkeys(view.sets()[:1], 1)
    found = []
    for opener, mods in sorted(counts, key=lambda key: (-counts[key], str(key)))[:MOST_DRAWN]:
        caps = {
            key: replace(cap, words="", layer="") if cap.keys in blocked else cap
            for key, cap in view.caps(mods, opener).items()
        }
        begin = f"After {format_sequence(opener)}" if opener else ""
        held = f"holding {' and '.join(mods)}" if mods else ""
        words = ", ".join(part for part in (begin, held) if part) or "Alone"
        found.append(Drawn(words[0].upper() + words[1:], _worth_drawing(view.geometry, caps), caps))
    return tuple(found)


def _worth_drawing(whole: Geometry, caps: dict[str, CapState]) -> Geometry:
    """A keyboard without the keys at its side, and the row above it, where no layer says anything there."""
    letters = whole.caps["TAB"], whole.caps["RCTL"]
    right, top = letters[1].x + letters[1].width, whole.caps["TLDE"].y

    def said(keys: Iterable[Cap]) -> bool:
        return any(caps[cap.key].words and caps[cap.key].layer != BUILT_IN for cap in keys)

    kept = list(whole.caps.values())
    beside = [cap for cap in kept if cap.x >= right]
    if not said(beside):
        kept = [cap for cap in kept if cap.x < right]
    up = 0.0
    if not said(cap for cap in kept if cap.y < top):
        kept, up = [cap for cap in kept if cap.y >= top], top
    moved = {cap.key: replace(cap, y=cap.y - up) for cap in kept}
    return replace(
        whole,
        caps=moved,
        width=max(cap.x + cap.width for cap in kept),
        height=max(cap.y + cap.height for cap in moved.values()),
    )


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


def _buttons(outcome: Outcome, blocked: set[str]) -> tuple[ChartPart, ...]:
    texts = ((binding.target, format_sequence(binding.sequence)) for binding in reversed(outcome.bindings))
    keys = {target: text for target, text in texts if text not in blocked}
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
