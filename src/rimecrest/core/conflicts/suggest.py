"""Free keys for a target, best first.

A first, plain order: the initials of the label's words behind the application's opener, then the keys that
are quickest to reach behind it, then function keys. A key is free when no layer that any seat has together
with this one binds it, begins it or extends it, in a context that can be live at the same time.
"""

from __future__ import annotations

from collections.abc import Iterator

from rimecrest.core.conflicts.findings import Owner
from rimecrest.core.keys import Sequence, extends, format_sequence, parse_chord, parse_sequence
from rimecrest.core.layout import BUILT_IN
from rimecrest.core.workspace.workspace import Workspace

# The home row first, then the row above and the row below: travel from the home position, shortest first
# (the order of distances on a row-staggered keyboard, ISO/IEC 9995-2).
REACH = "fjdkslaghrueiwovncmxtybpqz"


def free_keys(
    workspace: Workspace, app: str, layer: str, label: str, count: int = 3, taken: tuple[str, ...] = ()
) -> list[str]:
    """The `count` best free sequences for something called `label` in a layer.

    `taken` are sequences not to offer, beside those that are bound.
    """
    catalogue = workspace.catalogue(app)
    bound = _bound(workspace, app, layer) | {parse_sequence(keys) for keys in taken}
    begun = {sequence[:length] for sequence in bound for length in range(1, len(sequence))}
    found: list[str] = []
    for candidate in _candidates(catalogue.opener, label):
        if candidate in bound or candidate in begun:
            continue
        if any(
            extends(candidate, candidate[:n]) and candidate[:n] in bound for n in range(1, len(candidate))
        ):
            continue
        found.append(format_sequence(candidate))
        if len(found) == count:
            break
    return found


def holders(workspace: Workspace, app: str, layer: str, keys: str) -> list[Owner]:
    """Who has a key already, in this layer or beneath it, or in one that shares a seat with it.

    Also those whose sequence begins it or goes on from it. The layer's own bindings come first, then the
    rest from the top down.
    """
    sequence = parse_sequence(keys)
    catalogue = workspace.catalogue(app)
    targets = workspace.targets(workspace.layers, app)
    found = []
    for name in (layer, *(other for other in reversed(_neighbours(workspace, layer)) if other != layer)):
        for key in workspace.layout(name, app).keys:
            bound = parse_sequence(key.keys)
            if extends(bound, sequence) or extends(sequence, bound):
                args = tuple(sorted(key.args.items()))
                words = targets.face(key.run).name or "nothing"
                found.append(Owner(f"{name}:{key.identity}", name, key.run, words, args))
    for own in catalogue.keys:
        bound = parse_sequence(own.keys)
        if extends(bound, sequence) or extends(sequence, bound):
            found.append(Owner(f"app:{own.id}", BUILT_IN, own.run, targets.face(own.run).name))
    return found


def _neighbours(workspace: Workspace, layer: str) -> list[str]:
    """The layers that some seat has together with this one, in stack order."""
    stacks = [stack for stack in workspace.stacks() if layer in stack]
    layers = {name for stack in stacks for name in stack} | set(workspace.stack_up_to(layer))
    return [name for name in workspace.layers if name in layers]


def _bound(workspace: Workspace, app: str, layer: str) -> set[Sequence]:
    """All sequences bound in any layer that shares a seat with this one, in any context."""
    found = {parse_sequence(own.keys) for own in workspace.catalogue(app).keys}
    for name in _neighbours(workspace, layer):
        layout = workspace.layouts.get((name, app))
        for key in layout.keys if layout else ():
            found.add(parse_sequence(key.keys))
            found.update(parse_sequence(keys) for keys in key.on.values() if keys)
    return found


def _candidates(opener: str, label: str) -> Iterator[Sequence]:
    words = [word for word in label.lower().split() if word[0].isascii() and word[0].isalpha()]
    initials = list(dict.fromkeys(word[0] for word in words))
    letters = [*initials, *(letter for letter in REACH if letter not in initials)]
    if opener:
        begin = parse_sequence(opener)
        yield from ((*begin, parse_chord(letter)) for letter in letters)
        yield from ((*begin, parse_chord(f"Shift+{letter}")) for letter in letters)
    yield from ((parse_chord(f"Ctrl+Shift+{letter}"),) for letter in letters)
    yield from ((parse_chord(f"F{number}"),) for number in range(2, 13))
