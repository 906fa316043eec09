"""The rules about what is on surfaces, and about files.

1. gone: an item or a key runs something that does not exist, or with settings it does not take. Blocks.
2. faulty: something that is bound runs a macro that cannot run. Blocks.
3. unreadable: a file of the workspace cannot be read. Blocks, since a release would lack it.
4. out of reach: a macro names a file where no colleague can reach it. Asks; bound to something, it is faulty.
5. adrift: a thing whose neighbour is gone stands at the end of its surface. Tells.
6. nameless: an item without words has no tooltip. Tells.
7. cut off: a label does not fit into its cell. Tells.

Each function takes the view of one layer and yields its findings; `ITEM_RULES` is the list of those that
look at a layer's layout.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cached_property

from rimecrest.core.catalogue import Catalogue
from rimecrest.core.conflicts.audience import Audience
from rimecrest.core.conflicts.findings import Finding, Owner, Weight
from rimecrest.core.layout import Layout, Outcome, SeenItem
from rimecrest.core.layout.widths import fits
from rimecrest.core.macro import Fault, check_macro
from rimecrest.core.workspace.workspace import MacroFile, Workspace, macro_file


@dataclass(frozen=True)
class LayerView:
    """One layer of one application, as it stands above the organisation's."""

    workspace: Workspace
    app: str
    layer: str
    audience: Audience

    @cached_property
    def layout(self) -> Layout:
        return self.workspace.layout(self.layer, self.app)

    @cached_property
    def catalogue(self) -> Catalogue:
        return self.workspace.catalogue(self.app)

    @cached_property
    def seen(self) -> Outcome:
        return self.workspace.outcome(self.workspace.stack_up_to(self.layer), self.app)

    @cached_property
    def macros(self) -> dict[str, MacroFile]:
        return self.workspace.macros_of(self.workspace.stack_up_to(self.layer))

    def faults(self, file: MacroFile) -> list[Fault]:
        """What keeps a macro from running under this layer."""
        catalogue = self.workspace.catalogues.get(file.macro.application)
        others = {name: other.macro for name, other in self.macros.items()}
        return [*file.faults, *check_macro(file.macro, catalogue, macros=others)]

    @cached_property
    def seats(self) -> tuple[str, ...]:
        return self.audience.seats(frozenset((self.layer,))) or ()

    def mine(self) -> Iterator[tuple[str, SeenItem]]:
        """(surface, item) of what this layer placed or changed."""
        for surface, item in self.seen.items():
            if not item.separator and (item.layer == self.layer or self.layer in item.changed_by):
                yield surface, item

    def private(self) -> Iterator[tuple[SeenItem, MacroFile]]:
        """The items of this layer with steps of their own."""
        for _, item in self.mine():
            if item.steps:
                yield item, macro_file(self.layer, item.id, item.steps)

    def runs(self) -> Iterator[tuple[str, str, str | None, tuple[tuple[str, str], ...], str]]:
        """(identity, words, target, settings, "item" or "key") of all that this layer binds."""
        for _, item in self.mine():
            if not item.steps:
                yield item.id, f"“{item.label}”", item.run, item.args, "item"
        for key in self.layout.keys:
            if key.run is not None:
                args = tuple(sorted(key.args.items()))
                yield f"{self.layer}:{key.identity}", key.keys, key.run, args, "key"

    def finding(
        self, kind: str, weight: Weight, where: str, subject: str, rest: str, *owners: Owner
    ) -> Finding:
        return Finding(kind, weight, self.app, self.layer, where, subject, rest, owners, seats=self.seats)


def gone(view: LayerView) -> Iterator[Finding]:
    for identity, words, run, args, _ in view.runs():
        reason = _gone_reason(view, run, args)
        if reason:
            owner = Owner(identity, view.layer, run, words, args)
            yield view.finding("gone", Weight.BLOCKS, identity, words, reason, owner)


def _gone_reason(view: LayerView, run: str | None, args: tuple[tuple[str, str], ...]) -> str:
    if run is None:
        return "runs nothing."
    kind, _, name = run.partition(":")
    if kind == "macro":
        if name not in view.macros:
            elsewhere = [
                view.workspace.layer_title(layer) for layer, other in view.workspace.macros if other == name
            ]
            if elsewhere:
                return f"runs the macro “{name}”, which only {elsewhere[0]} has."
            return f"runs the macro “{name}”, which does not exist."
        return ""
    command = view.catalogue.by_id.get(run)
    if command is None:
        return f"runs “{run}”, which {view.catalogue.title} {view.catalogue.version} does not have."
    faults = command.argument_faults(dict(args))
    return f"cannot run {command.name}: {faults[0]}." if faults else ""


def faulty(view: LayerView) -> Iterator[Finding]:
    told: set[str] = set()
    for identity, words, run, args, _ in view.runs():
        kind, _, name = (run or "").partition(":")
        file = view.macros.get(name) if kind == "macro" else None
        if file is None or name in told:
            continue
        told.add(name)
        faults = view.faults(file)
        if file.macro.application not in ("", view.app):
            reason = f"runs “{file.name}”, which is for {file.macro.application}."
        elif faults:
            where = f"macros/{file.layer}/{file.id}.steps"
            reason = f"runs “{file.name}”, which cannot run ({where}, {str(faults[0]).rstrip('.')})."
        else:
            continue
        yield view.finding(
            "faulty", Weight.BLOCKS, identity, words, reason, Owner(identity, view.layer, run, words, args)
        )


def faulty_steps(view: LayerView) -> Iterator[Finding]:
    for item, file in view.private():
        if faults := view.faults(file):
            owner = Owner(item.id, view.layer, None, item.label)
            rest = f"has steps of its own that cannot run ({str(faults[0]).rstrip('.')})."
            yield view.finding("faulty", Weight.BLOCKS, item.id, f"“{item.label}”", rest, owner)


def out_of_reach(view: LayerView) -> Iterator[Finding]:
    bound = {(run or "").removeprefix("macro:") for _, _, run, _, _ in view.runs()}
    for (layer, name), file in view.workspace.macros.items():
        if layer != view.layer or file.macro.application != view.app or name in bound:
            continue
        fault = next((f for f in view.faults(file) if f.kind == "reach"), None)
        if fault is not None:
            owner = Owner(f"macro:{name}", layer, f"macro:{name}", file.name)
            rest = f"opens a file in line {fault.line} that nobody else has: {fault.reason}."
            yield view.finding("out-of-reach", Weight.ASKS, f"macro:{name}", f"“{file.name}”", rest, owner)


def adrift(view: LayerView) -> Iterator[Finding]:
    known = {*view.workspace.outcome(view.workspace.stack_up_to(view.layer)[:-1], view.app).lost}
    for sentence in view.seen.lost:
        if sentence not in known:
            subject, _, rest = sentence.partition(" ")
            if sentence.startswith("“"):
                subject, _, rest = sentence.partition("” ")
                subject += "”"
            yield view.finding("adrift", Weight.TELLS, subject, subject, rest)


def nameless(view: LayerView) -> Iterator[Finding]:
    for _, item in view.mine():
        if item.face == "picture" and item.exists and not item.tip:
            words = f"“{item.label}”" if item.label else "A button"
            owner = Owner(item.id, item.layer, item.run, item.label, item.args)
            rest = "shows no words and has no tip, so nobody knows what it does."
            yield view.finding("nameless", Weight.TELLS, item.id, words, rest, owner)


def cut_off(view: LayerView) -> Iterator[Finding]:
    in_tabs = {group.id for tab in view.seen.tabs for group in tab.groups}
    for surface, item in view.mine():
        if surface in in_tabs and item.face != "picture" and not fits(item.label, item.width):
            owner = Owner(item.id, item.layer, item.run, item.label, item.args)
            size = "double" if item.width == 2 else "single"
            rest = f"does not fit into its {size} width and is cut off."
            yield view.finding("cut-off", Weight.TELLS, item.id, f"“{item.label}”", rest, owner)


ItemRule = Callable[[LayerView], Iterator[Finding]]
ITEM_RULES: tuple[ItemRule, ...] = (gone, faulty, faulty_steps, adrift, nameless, cut_off)


def unreadable(workspace: Workspace) -> Iterator[Finding]:
    for path, reason in workspace.broken.items():
        words = reason.split(": ", 1)[-1] if reason.startswith("There is no") else reason
        yield Finding(
            "unreadable",
            Weight.BLOCKS,
            "",
            "",
            path,
            path,
            f"cannot be used: {words.rstrip('.')}.",
            grave=True,
        )
