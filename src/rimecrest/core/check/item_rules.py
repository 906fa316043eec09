"""The rules about what is on surfaces, and about files.

1. gone: an item runs something that does not exist, or with settings it does not take. Blocks.
2. faulty: an item runs a macro that cannot run, or has such private steps, or a choice or list takes its
   entries from what cannot be read, or what is run when something is pointed at changes anything. Blocks.
3. unreadable: a file of the workspace cannot be read. Blocks, since a release would lack it.
4. out of reach: a macro or an item names a file where no colleague can reach it. Asks; a macro that is bound
   to something is faulty then.
5. adrift: a thing whose neighbour is gone stands at the end of its surface; or it is on a surface that does
   not show. Tells.
6. nameless: an item without words has no tooltip. Tells.
7. cut off: a label does not fit into its cell; no room: a bar or group does not show all it has at the
   narrowest width in use. Tell.
8. twin: one target twice on one surface, or two neighbours with one label or picture. Tells.
9. overlap: two things are on one place of a panel's grid. Asks.

(docs/conflicts.md, "Findings".) Each function takes the view of one layer and yields its findings.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import cached_property, partial
from itertools import combinations, pairwise
from pathlib import PurePosixPath

from msgspec import Struct

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.catalogue.items import Thing
from rimecrest.core.check.audience import Audience
from rimecrest.core.check.findings import EVERYDAY, Finding, Owner
from rimecrest.core.check.macro_faults import MacroFaults
from rimecrest.core.check.reasons import gone_reason, reach_reason
from rimecrest.core.check.table import EstateView
from rimecrest.core.layout.doing_effects import doing_effects
from rimecrest.core.layout.layout import Layout
from rimecrest.core.layout.panel_grid import Cells
from rimecrest.core.layout.room import unseen_at
from rimecrest.core.layout.seen import (
    BUILT_IN,
    Doing,
    Outcome,
    SeenButton,
    SeenControl,
    SeenGroup,
    SeenPanel,
    SeenRow,
)
from rimecrest.core.layout.widths import fits
from rimecrest.core.macro.check import check_macro, unreachable
from rimecrest.core.macro.steps import Fault
from rimecrest.core.remembered import Remembered
from rimecrest.core.words import counted, listed, tr
from rimecrest.core.workspace.macro_file import MacroFile, macro_file
from rimecrest.core.workspace.workspace import Workspace

_TWINS: Remembered[list[tuple[SeenButton, SeenButton, str]]] = Remembered(4_000)
"""By row: an edit makes one of them anew."""
NAMED = 3
"""Items that a finding about many of them names."""


class LayerView(Struct, frozen=True, dict=True):
    """One layer of one application, as it stands above the organisation's."""

    workspace: Workspace
    app: str
    layer: str
    audience: Audience
    faults: MacroFaults

    @cached_property
    def layout(self) -> Layout:
        return self.workspace.layout(self.layer, self.app)

    @cached_property
    def catalogue(self) -> Catalogue:
        return self.workspace.catalogue(self.app)

    @cached_property
    def seen(self) -> Outcome:
        return self.workspace.surfaces(self.workspace.stack_up_to(self.layer), self.app)

    @cached_property
    def macros(self) -> dict[str, MacroFile]:
        return self.faults.visible(self.layer)

    def private_faults(self, file: MacroFile, row: SeenRow) -> list[Fault]:
        """What keeps the steps of an item of its own from running; on a panel they read its fields."""
        own = row.id.rpartition(":")[2] if isinstance(row, SeenPanel) else ""
        stack = self.workspace.stack_up_to(self.layer)
        catalogue = self.workspace.told(stack, file.macro.application, own)
        others = {name: other.macro for name, other in self.macros.items()}
        companions = self.workspace.companion_paths
        return [*file.faults, *check_macro(file.macro, catalogue, companions, others)]

    @cached_property
    def seats(self) -> tuple[str, ...]:
        return self.audience.seats(frozenset((self.layer,))) or ()

    @cached_property
    def doing(self) -> list[tuple[SeenRow, Doing]]:
        """What is run by something that this layer placed or changed, with the row that it stands in."""
        return [(row, doing) for row, layers, doing in self.seen.doings() if self.layer in layers]

    @cached_property
    def mine(self) -> list[tuple[SeenRow, SeenButton]]:
        """The buttons that this layer placed or changed."""
        return [
            (row, item)
            for row, item in self.seen.buttons()
            if item.layer == self.layer or self.layer in item.changed_by
        ]

    @cached_property
    def mine_by_id(self) -> frozenset[str]:
        """Their identities."""
        return frozenset([item.id for _, item in self.mine])

    def private(self) -> Iterator[tuple[SeenRow, Doing, MacroFile]]:
        """The steps that are private to things of this layer, with the row that each stands in."""
        for row, doing in self.doing:
            if doing.steps:
                yield row, doing, macro_file(self.layer, doing.of, doing.steps)

    def bound(self) -> Iterator[Doing]:
        """What runs a target."""
        return (doing for _, doing in self.doing if not doing.steps)

    def owner(self, what: SeenButton | Doing) -> Owner:
        """Whatever runs something, as the owner of a finding."""
        doing = what.click if isinstance(what, SeenButton) else what
        return Owner(doing.of, doing.layer, doing.run, doing.label, doing.args)

    def finding(self, kind: str, where: str, subject: str, rest: str, *owners: Owner) -> Finding:
        return Finding(kind, self.app, self.layer, where, subject, rest, owners, seats=self.seats)


def gone(view: LayerView) -> Iterator[Finding]:
    reasons: dict[tuple[str | None, tuple[tuple[str, str], ...]], str] = {}
    for doing in view.bound():
        reason = reasons.get(doing.target)
        if reason is None:
            reason = gone_reason(view.workspace, view.catalogue, view.macros, doing.run, doing.args)
            reasons[doing.target] = reason
        if reason:
            yield view.finding("gone", doing.of, f"“{doing.label}”", reason, view.owner(doing))


def faulty(view: LayerView) -> Iterator[Finding]:
    told: set[str] = set()
    for doing in view.bound():
        run = doing.run or ""
        reason = view.faults.sentence(view.layer, view.app, run)
        if reason and run not in told:
            told.add(run)
            yield view.finding("faulty", doing.of, f"“{doing.label}”", reason, view.owner(doing))


def faulty_steps(view: LayerView) -> Iterator[Finding]:
    for row, doing, file in view.private():
        if faults := view.private_faults(file, row):
            owner = Owner(doing.of, view.layer, None, doing.label)
            rest = tr("has private steps that cannot run ({fault}).", fault=str(faults[0]).rstrip("."))
            yield view.finding("faulty", doing.of, f"“{doing.label}”", rest, owner)


def pointed_at(view: LayerView) -> Iterator[Finding]:
    """faulty, of what a pointer that only rests somewhere would do: it may change nothing."""
    macros = {name: file.macro for name, file in view.macros.items()}
    for _, doing in view.doing:
        if doing.event == "point" and (may := doing_effects(doing, view.catalogue, macros)):
            rest = tr(
                "runs when pointed at, where only what changes nothing may run; this {effects}.",
                effects=", ".join(may),
            )
            yield view.finding("faulty", doing.of, f"“{doing.label}”", rest, view.owner(doing))


def unread(view: LayerView) -> Iterator[Finding]:
    """faulty, of choices and lists whose entries come from nowhere."""
    readings = {reading.id for reading in view.catalogue.readings} if view.seen.panels else ()
    for panel in view.seen.panels:
        for item in panel.items:
            mine = item.layer == view.layer or view.layer in item.changed_by
            if not mine or not isinstance(item, SeenControl):
                continue
            if item.kind in ("choice", "list") and not (item.reading or item.choices):
                rest = tr("has nothing to choose from. Give it entries, or a reading to take them from.")
                owner = Owner(item.id, item.layer, None, item.label)
                yield view.finding("faulty", item.id, f"“{item.label}”", rest, owner)
            elif item.reading and item.reading not in readings:
                rest = tr(
                    "takes its entries from “{reading}”, which {title} does not tell.",
                    reading=item.reading,
                    title=view.catalogue.title,
                )
                if near := view.catalogue.nearest_reading(item.reading):
                    rest += " " + tr("The nearest is {near}.", near=near)
                owner = Owner(item.id, item.layer, None, item.label)
                yield view.finding("faulty", item.id, f"“{item.label}”", rest, owner)


def out_of_reach(view: LayerView) -> Iterator[Finding]:
    reach = view.faults.out_of_reach(view.layer)
    if not reach:
        return
    bound = {item.run for item in view.bound()} | {key.run for key in view.layout.keys}
    for file, fault in reach:
        run = f"macro:{file.id}"
        if file.macro.application == view.app and run not in bound:
            owner = Owner(run, view.layer, run, file.name)
            rest = tr(
                "opens a file in line {line} that nobody else has: {reason}.",
                line=fault.line,
                reason=fault.reason,
            )
            yield view.finding("out-of-reach", run, f"“{file.name}”", rest, owner)


def out_of_reach_items(view: LayerView) -> Iterator[Finding]:
    """out of reach, of items that open a file."""
    for doing in view.bound():
        if rest := reach_reason(view.catalogue, doing.run, doing.args):
            yield view.finding("out-of-reach", doing.of, f"“{doing.label}”", rest, view.owner(doing))


def adrift(view: LayerView) -> Iterator[Finding]:
    if not view.seen.lost:
        return
    known = {*view.workspace.surfaces(view.workspace.stack_up_to(view.layer)[:-1], view.app).lost}
    twice = [finding.where for finding in same_id(view)]
    for sentence in view.seen.lost:
        # What has another's identity is told as such.
        if sentence not in known and not any(identity in sentence for identity in twice):
            subject, _, rest = sentence.partition(" ")
            if sentence.startswith("“"):
                subject, _, rest = sentence.partition("” ")
                subject += "”"
            yield view.finding("adrift", subject, subject, rest)


def out_of_sight(view: LayerView) -> Iterator[Finding]:
    """adrift, of things put onto a surface that does not show."""
    if not view.seen.hidden:
        return
    shown = {row.id for row in view.seen.rows()} | {tab.id for tab in view.seen.tabs}
    stack = view.workspace.stack_up_to(view.layer)
    tabs = {f"app:{tab.id}": tab for tab in view.catalogue.tabs}
    for layout in view.workspace.layouts_of(stack, view.app):
        tabs |= {layout.full(tab.id): tab for tab in layout.tabs}
    tab_of = {
        f"{name.partition(':')[0]}:{group.id}": name for name, tab in tabs.items() for group in tab.groups
    }
    placed = [(view.layout.full(part.into), part.items) for part in view.layout.insert]
    placed += [(view.layout.full(group.into), group.items) for group in view.layout.groups]
    for into, items in placed:
        surface = next((name for name in (into, tab_of.get(into, "")) if name in view.seen.hidden), None)
        if into in shown or surface is None:
            continue
        title = tabs[surface].title if surface in tabs else surface.rpartition(":")[2]
        by = view.seen.hidden[surface]
        why = tr("is hidden by {layer}", layer=view.workspace.layer_title(by))
        if by in (BUILT_IN, "app", ""):
            why = tr("is off by default")
        for item in items:
            words = _words_of(item)
            rest = tr("is on “{title}”, which {why}, so nobody sees it.", title=title, why=why)
            identity = view.layout.full(item.id)
            owner = Owner(identity, view.layer, None, words)
            yield view.finding("adrift", identity, f"“{words}”", rest, owner)


def applies_to_nothing(view: LayerView) -> Iterator[Finding]:
    """gone and out-of-reach, of the documents that a layout or a panel is for."""
    stems = {PurePosixPath(path).stem for path in view.workspace.companion_paths}
    limits = [(tr("The layout"), f"{view.layer}:applies", view.layout.applies)]
    limits += [(f"“{p.title}”", view.layout.full(p.id), p.applies) for p in view.layout.panels]
    for subject, identity, applies in limits:
        owner = Owner(identity, view.layer, None, subject)
        for name in applies.templates:
            if name not in stems:
                rest = tr("is for documents from the template “{name}”, which the workspace does not have.",
                          name=name)  # fmt: skip
                yield view.finding("gone", identity, subject, rest, owner)
        for path in (*applies.folders, *applies.documents):
            if unreachable(path):
                rest = tr("is for documents in “{path}”, which no colleague can reach.", path=path)
                yield view.finding("out-of-reach", identity, subject, rest, owner)


def overlap(view: LayerView) -> Iterator[Finding]:
    """overlap: two things on one place of a panel's grid."""
    for panel in view.seen.panels:
        if panel.flow != "grid":
            continue
        cells = [(item, Cells(*item.at)) for item in panel.items if item.at is not None]
        for (one, here), (two, there) in combinations(cells, 2):
            mine = {one.layer, two.layer, *one.changed_by, *two.changed_by}
            if view.layer not in mine or not here.meets(there):
                continue
            names = [getattr(item, "label", "") or tr("a line") for item in (one, two)]
            rest = tr(
                "and “{other}” are on one place of the panel “{title}”.", other=names[0], title=panel.title
            )
            owners = [Owner(i.id, i.layer, None, n) for i, n in zip((two, one), reversed(names), strict=True)]
            yield view.finding("overlap", two.id, f"“{names[1]}”", rest, *owners)


def nameless(view: LayerView) -> Iterator[Finding]:
    for _, item in view.mine:
        # A tip that is made of its name is one: what has words is never nameless.
        if item.face == "picture" and item.exists and not item.tip and not item.label:
            rest = tr("shows no words and has no tip, so nobody knows what it does.")
            yield view.finding("nameless", item.id, tr("A button"), rest, view.owner(item))


def same_id(view: LayerView) -> Iterator[Finding]:
    """same id: two things of one layout with one identity; only the first of them shows."""
    first: dict[str, Thing] = {}
    for thing in view.layout.things():
        other = first.setdefault(thing.id, thing)
        if other is not thing:
            identity = f"{view.layer}:{thing.id}"
            rest = tr(
                "and “{other}” have one identity, {identity}: only the first of them shows.",
                other=_words_of(other),
                identity=thing.id,
            )
            owners = (Owner(identity, view.layer, None, _words_of(each)) for each in (other, thing))
            yield view.finding("same-id", identity, f"“{_words_of(thing)}”", rest, *owners)


def _words_of(thing: Thing) -> str:
    for name in ("label", "title", "caption", "submenu", "run"):
        if words := getattr(thing, name, ""):
            return str(words)
    return thing.id


def _beside(item: SeenButton) -> bool:
    """Whether its words stand beside a picture."""
    return item.face == "both" and bool(item.picture)


def cut_off(view: LayerView) -> Iterator[Finding]:
    for row, item in view.mine:
        if (
            isinstance(row, SeenGroup)
            and item.face != "picture"
            and not fits(item.label, item.width, _beside(item))
        ):
            owner = view.owner(item)
            size = "double" if item.width == 2 else "single"
            rest = tr("does not fit into its {size} width and is cut off.", size=size)
            yield view.finding("cut-off", item.id, f"“{item.label}”", rest, owner)


def no_room(view: LayerView) -> Iterator[Finding]:
    """One finding for each bar or group, however many items it has no room for at the narrowest width."""
    mine = view.mine_by_id
    if not mine:
        return
    narrowest = min(view.workspace.settings.widths, default=0)
    for row, items in unseen_at(view.seen, narrowest) if narrowest else ():
        if not mine & {item.id for item in items}:
            continue
        names = listed([f"“{item.label}”" for item in items if item.label], NAMED)
        rest = tr(
            "has no room for {items} at {width:,} px, which show only when it is opened: {names}.",
            items=counted(len(items), tr("item")),
            width=narrowest,
            names=names,
        )
        owner = Owner(row.id, row.layer, None, row.title)
        yield view.finding("no-room", row.id, f"“{row.title}”", rest, owner)


def twin(view: LayerView) -> Iterator[Finding]:
    mine = view.mine_by_id
    for row in view.seen.rows():
        told: set[str] = set()
        for item, other, rest in _TWINS.of((row,), (), partial(_twins, row)):
            if item.id not in told and (item.id in mine or other.id in mine):
                told.add(item.id)
                owners = (view.owner(item), view.owner(other))
                yield view.finding("twin", item.id, f"“{item.label}”", rest, *owners)


def _twins(row: SeenRow) -> list[tuple[SeenButton, SeenButton, str]]:
    """The buttons of a row that are like another: button, the other one, in what; the graver ones first."""
    shown, title = list(row.buttons()), row.title
    found: list[tuple[SeenButton, SeenButton, str]] = []
    first: dict[object, SeenButton] = {}
    for item in shown:
        other = first.setdefault(item.target, item) if item.run else item
        if other is not item:
            rest = tr("stands twice in {title}", title=title) + (
                tr(", also as “{label}”.", label=other.label) if other.label != item.label else "."
            )
            found.append((item, other, rest))
    for one, item in pairwise(shown):
        if one.label == item.label and item.label:
            found.append((item, one, tr("stands beside another of the same name in {title}.", title=title)))
        elif item.face == one.face == "picture" and item.picture == one.picture and item.picture:
            rest = tr(
                "stands beside “{label}” with the same picture in {title}.", label=one.label, title=title
            )
            found.append((item, one, rest))
    return found


def unreadable(workspace: Workspace, _estate: EstateView) -> Iterator[Finding]:
    for path, reason in workspace.broken.items():
        words = reason.split(": ", 1)[-1] if reason.startswith("There is no") else reason
        yield Finding(
            "unreadable",
            "",
            "",
            path,
            path,
            tr("cannot be used: {fault}.", fault=words.rstrip(".")),
            gravity=EVERYDAY,
        )


def same_macro_id(workspace: Workspace, _estate: EstateView) -> Iterator[Finding]:
    """same-id, of macros: some seat gets two that have one id and differ, and runs only the higher one."""
    shelves: dict[str, list[str]] = {}
    for layer, name in workspace.macros:
        if layer in workspace.layers:
            shelves.setdefault(name, []).append(layer)
    stacks = workspace.stacks() or {workspace.stack_up_to(layer): [] for layer in workspace.layers}
    for name, layers in shelves.items():
        if len(layers) < 2:
            continue
        for stack, seats in stacks.items():
            both = [layer for layer in stack if layer in layers]
            if len({workspace.macros[layer, name].text for layer in both}) < 2:
                continue
            titles = listed(workspace.layer_title(layer) for layer in both)
            file = workspace.macros[both[-1], name]
            yield Finding(
                kind="same-id",
                app="",
                layer=both[-1],
                where=f"macro:{name}",
                subject=f"“{file.name}”",
                rest=tr(
                    "has the id “{name}” of another macro: {titles} have one each, and {number} would get "
                    "both.",
                    name=name,
                    titles=titles,
                    number=counted(len(seats), "seat"),
                ),
                owners=tuple(
                    Owner(f"macro:{name}", layer, f"macro:{name}", workspace.macros[layer, name].name)
                    for layer in both
                ),
                seats=tuple(seat.seat for seat in seats),
            )
            break
