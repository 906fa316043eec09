"""What would mend a finding about keys: another key, a variant for some seats, going without, giving way."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from rimecrest.core.check.findings import Finding, Owner
from rimecrest.core.check.run import Checked
from rimecrest.core.keys import ANYWHERE, Traits, parse_sequence
from rimecrest.core.keys.obstacles import Obstacles
from rimecrest.core.layout import BUILT_IN, Acceptance, KeyBinding
from rimecrest.core.suggest.free_keys import free_keys
from rimecrest.core.workspace.edits import Accept, Bind, Edit, SetFields, Together, Unbind
from rimecrest.core.workspace.workspace import Workspace


@dataclass(frozen=True)
class Fix:
    """One way to resolve a finding. `asks_reason`: the edit wants a reason first."""

    label: str
    edit: Edit | None
    finding: Finding
    asks_reason: bool = False

    def with_reason(self, reason: str) -> Edit:
        """The edit, with the reason where it wants one."""
        if not self.asks_reason:
            assert self.edit is not None
            return self.edit
        finding = self.finding
        owners = tuple(owner.id for owner in finding.owners)
        kept = Acceptance(kind=finding.kind, owners=owners, targets=finding.targets_digest(), why=reason)
        return Accept(finding.layer, finding.app, kept)


KEPT_WITH_A_REASON = (
    "takes-over",
    "shadows",
    "personal",
    "slip",
    "access-key",
    "two-meanings",
    "never-used",
    "no-key",
)
_BY = {"unreachable": "keyboard", "same-stroke": "keyboard", "types-text": "session"}
"""Kind of finding → the trait by which the seats concerned are told from others."""


def key_of(workspace: Workspace, finding: Finding, owner: Owner) -> KeyBinding | None:
    """The stored key of an owner; None for an item, or the application's own key."""
    layout = workspace.layouts.get((owner.layer, finding.app))
    local = owner.id.removeprefix(f"{owner.layer}:")
    return next((key for key in layout.keys if key.identity == local), None) if layout else None


def key_fixes(finding: Finding, workspace: Workspace, checked: Checked | None) -> Iterator[Fix]:
    """Every fix of a finding about keys, best first."""
    if finding.layer in ("", BUILT_IN):
        return
    if finding.kind in KEPT_WITH_A_REASON:
        yield Fix("Keep, and say why", None, finding, asks_reason=True)
    if finding.kind == "no-key":
        yield from _new_keys(finding, workspace, checked)
        return
    movable = [owner for owner in finding.owners if key_of(workspace, finding, owner) is not None]
    if not movable:
        if finding.kind == "access-key":
            edit: Edit = SetFields(finding.layer, finding.app, finding.owners[0].id, {"access": ""})
            yield Fix("Drop its access key", edit, finding)
        return
    # Of two in one layer the later one gives way; else the one in the layer where it is to be mended.
    mine = next((owner for owner in reversed(movable) if owner.layer == finding.layer), movable[-1])
    if finding.kind == "same-stroke":
        mine = movable[0]
    key = key_of(workspace, finding, mine)
    assert key is not None
    if finding.kind == "two-meanings" and finding.where.startswith("macro:"):
        yield from _same_key(finding, workspace, mine, key)
        return
    free = free_keys(workspace, finding.app, mine.layer, mine.name, 3, checked=checked) if key.run else []
    variants = _variant_names(finding, workspace, key)
    if variants and free:
        edit = _variant(finding, mine, key, variants, free[0])
        yield Fix(f"{free[0]} for them", edit, finding)
    if variants:
        yield Fix("They go without", _variant(finding, mine, key, variants, None), finding)
    for keys in free:
        moved = key.model_copy(update={"keys": keys, "on": {}, "id": key.identity})
        edit = Together(f"{mine.name} on {keys}", (Bind(mine.layer, finding.app, moved),))
        yield Fix(f"{keys} for all" if variants else keys, edit, finding)
    if finding.kind == "takes-over":
        yield from _narrower(finding, workspace, mine, key)
    gives_way = f"{mine.name} gives way" if key.run else "Leave the key"
    yield Fix(gives_way, Unbind(mine.layer, finding.app, key.identity), finding)


def _new_keys(finding: Finding, workspace: Workspace, checked: Checked | None) -> Iterator[Fix]:
    owner = finding.owners[0]
    command = workspace.catalogue(finding.app).by_id.get(owner.run or "")
    context = command.context if command else ANYWHERE
    if command is not None and command.argument_faults({}):
        return
    for keys in free_keys(workspace, finding.app, finding.layer, owner.name, 3, checked=checked):
        key = KeyBinding.model_validate({"keys": keys, "in": context, "run": owner.run})
        yield Fix(keys, Bind(finding.layer, finding.app, key), finding)


def _same_key(finding: Finding, workspace: Workspace, owner: Owner, key: KeyBinding) -> Iterator[Fix]:
    """The key that the macro has in another application, where nobody has it in this one."""
    taken = {own.keys for own in workspace.catalogue(finding.app).keys} | {
        other.keys
        for (_, app), layout in workspace.layouts.items()
        if app == finding.app
        for other in layout.keys
    }
    elsewhere = dict.fromkeys(
        other.keys
        for (_, app), layout in workspace.layouts.items()
        if app != finding.app
        for other in layout.keys
        if other.run == finding.where
    )
    for keys in elsewhere:
        if keys not in taken:
            moved = key.model_copy(update={"keys": keys, "id": key.identity})
            yield Fix(f"{keys} here as well", Bind(owner.layer, finding.app, moved), finding)


def _variant_names(finding: Finding, workspace: Workspace, key: KeyBinding) -> tuple[str, ...]:
    """The names under which the seats concerned can have a variant; none where a variant is no answer."""
    seats = {seat.seat: seat.traits for seat in workspace.people}
    concerned = [seats[name] for name in finding.seats if name in seats]
    if finding.kind == "reserved":
        return tuple(
            dict.fromkeys(name for traits in concerned for name in _taking(finding, workspace, traits))
        )
    kind = _BY.get(finding.kind, "")
    if not kind or (finding.kind == "types-text" and not all(traits.remote for traits in concerned)):
        return ()
    values = dict.fromkeys(getattr(traits, kind) for traits in concerned)
    return tuple(value if kind == "keyboard" else f"{kind}:{value}" for value in values if value)


def _taking(finding: Finding, workspace: Workspace, traits: Traits) -> Iterator[str]:
    """By whom the key is taken on such a seat: its desktop, input method or screen reader."""
    obstacles = Obstacles(workspace.settings.reserved)
    for kind in ("desktop", "input", "reader"):
        if value := getattr(traits, kind):
            alone = Traits(**{"keyboard": traits.keyboard, kind: value})
            found = obstacles.of(parse_sequence(finding.where), alone, False)
            if any(obstacle.kind == "reserved" for obstacle in found):
                yield f"{kind}:{value}"


def _variant(
    finding: Finding, owner: Owner, key: KeyBinding, names: tuple[str, ...], keys: str | None
) -> Edit:
    written = {key.keys, *key.on.values()}
    where = finding.where if finding.where in written else key.keys
    on = {name: keys if text == where else text for name, text in key.on.items()}
    if key.keys == where:
        on |= dict.fromkeys(names, keys)
    changed = key.model_copy(update={"on": on, "id": key.identity})
    label = f"{owner.name} on {keys} for {', '.join(names)}" if keys else f"{', '.join(names)} go without"
    return Together(label, (Bind(owner.layer, finding.app, changed),))


def _narrower(finding: Finding, workspace: Workspace, owner: Owner, key: KeyBinding) -> Iterator[Fix]:
    """The same key in a part of its context only, where nobody else has it."""
    catalogue = workspace.catalogue(finding.app)
    parts = [c for c in catalogue.contexts if c.within == key.in_context and c.id != key.in_context]
    for part in parts[:2]:
        moved = key.model_copy(update={"in_context": part.id, "id": key.identity})
        edit = Together(
            f"{owner.name} only {part.name.lower()}",
            (Bind(owner.layer, finding.app, moved),),
        )
        bound = {own.context for own in catalogue.keys if own.keys == key.keys}
        if part.id not in bound:
            yield Fix(f"Only {part.name.lower()}", edit, finding)
