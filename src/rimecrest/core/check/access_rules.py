"""access-key: what Alt and a letter reaches. A question.

1. Alt and a letter is bound to a hotkey, in any layer or variant, alone or as the start of a sequence, while
   an item in view has that access key.
2. Two items that are in view at once share an access key.
3. An access key is not one letter or digit.

(docs/conflicts.md, "Findings".) In view at once are the toolbars, the panels and one tab; the entries of one
menu are in view together. Items of two departments meet on the seats that have both.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from msgspec import Struct

from rimecrest.core.check.findings import Finding, Owner
from rimecrest.core.check.table import KeyTable
from rimecrest.core.layout.seen import BUILT_IN, SeenButton, SeenGroup, SeenMenu, SeenRow
from rimecrest.core.words import tr


class _Reached(Struct, frozen=True):
    """An item that has an access key, where it stands, and the stack that it was found in."""

    item: SeenButton
    row: SeenRow
    stack: tuple[str, ...]

    @property
    def letter(self) -> str:
        return self.item.access.upper()

    @property
    def layers(self) -> frozenset[str]:
        """The layers that placed and changed it."""
        return frozenset((self.item.layer, *self.item.changed_by))

    def beside(self, other: _Reached) -> bool:
        """Whether both can be in view at once."""
        one, two = self.row, other.row
        if isinstance(one, SeenMenu) or isinstance(two, SeenMenu):
            return one.id == two.id
        return not (isinstance(one, SeenGroup) and isinstance(two, SeenGroup)) or one.tab == two.tab


def access_keys(table: KeyTable) -> Iterator[Finding]:
    """Find what is wrong with the access keys of one application."""
    found = list(_with_access(table))
    told: set[tuple[str, ...]] = set()
    for reached in found:
        if reached.item.layer != BUILT_IN or reached.item.changed_by:
            yield from _once(told, _unusable(table, reached))
        yield from _once(told, _bound(table, reached))
        yield from _once(told, _shared(table, reached, found))


def _once(told: set[tuple[str, ...]], findings: Iterable[Finding]) -> Iterator[Finding]:
    for finding in findings:
        about = (finding.where, *sorted(owner.id for owner in finding.owners))
        if about not in told:
            told.add(about)
            yield finding


def _with_access(table: KeyTable) -> Iterator[_Reached]:
    workspace = table.workspace
    if not any(_has_access(table, layer) for layer in (BUILT_IN, *workspace.layers)):
        return
    for stack in table.audience.stacks(workspace.layers):
        for row, item in workspace.surfaces(stack, table.app).buttons():
            if item.access:
                yield _Reached(item, row, stack)


def _has_access(table: KeyTable, layer: str) -> bool:
    if layer == BUILT_IN:
        return any(getattr(item, "access", "") for row in table.catalogue.rows() for item in row.items)
    layout = table.workspace.layouts.get((layer, table.app))
    if layout is None:
        return False
    changed = any(change.set.get("access") for change in layout.change)
    return changed or any(getattr(item, "access", "") for item in layout.all_items())


def _owner(reached: _Reached) -> Owner:
    item = reached.item
    return Owner(item.id, item.layer, item.run, item.label, item.click.args)


def _top(reached: _Reached, layers: tuple[str, ...]) -> str:
    """The highest layer that has a say in the item: there its access key can be changed."""
    return max(reached.layers, key=lambda layer: layers.index(layer) if layer in layers else -1)


def _finding(
    table: KeyTable, layer: str, where: str, subject: str, rest: str, *owners: Owner, seats: tuple[str, ...]
) -> Finding:
    own = layer == BUILT_IN
    return Finding("access-key", table.app, layer, where, subject, rest, owners, seats=seats, own=own)


def _seats(table: KeyTable, *layers: str) -> tuple[str, ...] | None:
    return table.audience.seats(frozenset(layers))


def _unusable(table: KeyTable, reached: _Reached) -> Iterator[Finding]:
    if len(reached.letter) != 1 or not reached.letter.isalnum():
        item, layer = reached.item, _top(reached, table.workspace.layers)
        rest = tr(
            "has the access key “{access}”, which is not one letter or digit, so nothing reaches it.",
            access=item.access,
        )
        seats = _seats(table, layer) or ()
        yield _finding(table, layer, item.id, f"“{item.label}”", rest, _owner(reached), seats=seats)


def _bound(table: KeyTable, reached: _Reached) -> Iterator[Finding]:
    if isinstance(reached.row, SeenMenu):
        return  # while a menu is open, no hotkey is live
    chord = f"Alt+{reached.letter}"
    for text in dict.fromkeys((chord, *table.index.longer.get(chord, ()))):
        for claim in table.index.claims(text):
            if claim.run is None or (not claim.level and reached.item.layer == BUILT_IN):
                continue
            layer = table.levels[claim.level]
            seats = table.seats_of(claim) if claim.level else _seats(table, reached.item.layer)
            both = _seats(table, layer, *reached.layers)
            if both is None or seats is None:
                continue
            name, label = table.name(claim.run), reached.item.label
            if text == chord:
                rest = tr("for {name} takes the access key of “{label}”.", name=name, label=label)
            else:
                rest = tr(
                    "for {name} begins with {chord}, the access key of “{label}”.",
                    name=name,
                    chord=chord,
                    label=label,
                )
            told = layer if claim.level else _top(reached, table.workspace.layers)
            owners = (table.owner(claim), _owner(reached))
            yield _finding(table, told, text, text, rest, *owners, seats=both)


def _shared(table: KeyTable, reached: _Reached, found: list[_Reached]) -> Iterator[Finding]:
    layers = table.workspace.layers
    for other in found:
        if other is reached:
            return  # each pair once: the one that comes later is told about
        if other.stack != reached.stack or other.letter != reached.letter or not other.beside(reached):
            continue
        if reached.layers | other.layers == {BUILT_IN}:
            continue
        layer = max((_top(reached, layers), _top(other, layers)), key=lambda name: (*layers,).index(name)
                    if name in layers else -1)  # fmt: skip
        item, where = reached.item, reached.row.title
        if reached.row.id != other.row.id:
            where = tr("{one} and {two}", one=other.row.title, two=where)
        rest = tr(
            "and “{label}” have one access key, {letter}, in {where}.",
            label=other.item.label,
            letter=reached.letter,
            where=where,
        )
        owners = (_owner(reached), _owner(other))
        seats = _seats(table, *reached.layers, *other.layers) or ()
        yield _finding(table, layer, item.id, f"“{item.label}”", rest, *owners, seats=seats)
