"""Why does this key do that, for one seat? The chain from the keyboard to the macro, a verdict a link.

The first link that says no is the answer. (conflicts.md, "Why?"; the links about desktops and installed
releases are added by whoever knows them.)
"""

from __future__ import annotations

from dataclasses import dataclass

from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys import Binding, Sequence, extends, format_sequence, parse_sequence, rule
from rimecrest.core.layout import BUILT_IN, Outcome
from rimecrest.core.macro import check_macro
from rimecrest.core.workspace.people import Seat
from rimecrest.core.workspace.workspace import Workspace


@dataclass(frozen=True, slots=True)
class Link:
    """One link of the chain: `ok` is its verdict, `way_out` what would change it."""

    name: str
    ok: bool
    sentence: str
    way_out: str = ""


def why(
    workspace: Workspace, seat: Seat, app: str, keys: str, context: str = "", seen: Outcome | None = None
) -> list[Link]:
    """The chain for one seat and one key.

    Args:
        context: where the colleague is; empty for the narrowest context that has the key.
        seen: what that seat has installed; None for the draft.

    Raises:
        RimecrestError: the keys cannot be read, or the application has no such context.
    """
    sequence = parse_sequence(keys)
    catalogue = workspace.catalogue(app)
    contexts = catalogue.context_tree
    if context and context not in contexts:
        known = ", ".join(known.id for known in catalogue.contexts)
        raise RimecrestError(f"{catalogue.title} has no context “{context}”.", f"It has: {known}.")
    stack = workspace.stack_of(seat)
    seen = seen or workspace.outcome(stack, app, seat.traits)
    written = format_sequence(sequence)
    about = [b for b in seen.bindings if _touches(b.sequence, sequence)]
    if not about:
        return [_layers(workspace, stack), *_missing(workspace, seat, app, written, sequence)]
    at = context or max((b.context for b in about), key=contexts.narrowness)
    live = [b for b in seen.bindings if b.context in contexts.live([at])]
    ruling = rule(live, contexts)
    links = [_layers(workspace, stack)]
    bound = [b for b in about if b in live]
    names = {b.id: _named(workspace, app, b) for b in about}
    place = contexts.name(at).lower()
    if not bound:
        where = contexts.name(about[0].context).lower()
        sentence = f"{written} is live {where} only, and here is {place}."
        return [*links, Link("context", False, sentence, f"Press it {where}.")]
    links.append(Link("context", True, f"Live {place}: " + ", ".join(names[b.id] for b in bound) + "."))
    winner = next((b for b in ruling.winners if b in bound), None)
    for loser in bound:
        by = ruling.displaced.get(loser.id)
        if by is not None:
            names.setdefault(by.id, _named(workspace, app, by))
            links.append(Link("winner", True, f"{names[loser.id]} gives way to {names[by.id]}."))
    if winner is None:
        return [
            *links,
            Link("winner", False, f"Two bindings tie for {written}; neither runs.", "Move one of them."),
        ]
    if winner.run is None:
        title = workspace.layer_title(winner.layer)
        return [
            *links,
            Link("winner", False, f"{title} takes {written} away.", f"Take that out of {title}'s keys."),
        ]
    links.append(Link("winner", True, f"{format_sequence(winner.sequence)} runs {names[winner.id]}."))
    if winner.run.startswith("macro:"):
        links.append(_macro(workspace, stack, winner))
    return links


def _touches(one: Sequence, other: Sequence) -> bool:
    return extends(one, other) or extends(other, one)


def _named(workspace: Workspace, app: str, binding: Binding) -> str:
    stack = tuple(workspace.layers)
    name = workspace.targets(stack, app).face(binding.run).name or "nothing"
    return f"{name} ({workspace.layer_title(binding.layer)})"


def _layers(workspace: Workspace, stack: tuple[str, ...]) -> Link:
    titles = ", ".join(workspace.layer_title(layer) for layer in (BUILT_IN, *stack))
    return Link("layers", True, f"The seat has these layers: {titles}.")


def _missing(workspace: Workspace, seat: Seat, app: str, written: str, sequence: Sequence) -> list[Link]:
    for layer in workspace.stack_of(seat):
        for key in workspace.layout(layer, app).keys:
            if parse_sequence(key.keys) == sequence and key.on_seat(seat.traits) != key.keys:
                other = key.on_seat(seat.traits)
                if other:
                    sentence = f"On the keyboard “{seat.keyboard}” it is {other}."
                    return [Link("keyboard", False, sentence, f"Press {other}.")]
                sentence = f"Seats with the keyboard “{seat.keyboard}” go without {written}, on purpose."
                return [Link("keyboard", False, sentence)]
    elsewhere = [
        workspace.layer_title(layer)
        for layer in workspace.layers
        if layer not in workspace.stack_of(seat)
        and any(parse_sequence(k.keys) == sequence for k in workspace.layout(layer, app).keys)
    ]
    if elsewhere:
        sentence = f"{written} belongs to {elsewhere[0]}, which this seat does not have."
        return [Link("layers", False, sentence, "Put it into one of the seat's layers.")]
    return [Link("winner", False, f"Nothing has {written} here.", "Give it to a command or macro.")]


def _macro(workspace: Workspace, stack: tuple[str, ...], winner: Binding) -> Link:
    name = (winner.run or "").removeprefix("macro:")
    file = workspace.macros_of(stack).get(name)
    if file is None:
        return Link("macro", False, f"The macro “{name}” does not exist.", "Bind the key to another one.")
    others = {other: known.macro for other, known in workspace.macros_of(stack).items()}
    catalogue = workspace.catalogues.get(file.macro.application)
    faults = (*file.faults, *check_macro(file.macro, catalogue, macros=others))
    if faults:
        return Link("macro", False, f"“{file.name}” cannot run: {faults[0]}", faults[0].way_out)
    needs = [need.say or f"needs {need.context or need.reading}" for need in file.macro.needs]
    return Link("macro", True, "It can run." + (f" It needs: {needs[0]}" if needs else ""))
