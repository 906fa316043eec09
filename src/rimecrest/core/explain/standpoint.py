"""What one seat has, as far as somebody can know: from there it is asked why a key does what it does."""

from __future__ import annotations

from collections.abc import Mapping

from msgspec import Struct, field
from msgspec.structs import replace

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.keys.bindings import PERSONAL, Binding
from rimecrest.core.keys.chords import Sequence, parse_sequence
from rimecrest.core.keys.contexts import Contexts
from rimecrest.core.keys.keyboards.national import spelled_on
from rimecrest.core.keys.obstacles import Obstacles
from rimecrest.core.keys.traits import Traits
from rimecrest.core.layout.faces import Targets
from rimecrest.core.layout.layout import Layout
from rimecrest.core.layout.seen import BUILT_IN, Outcome
from rimecrest.core.words import tr
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.core.workspace.people import Seat
from rimecrest.core.workspace.workspace import Workspace


class Standpoint(Struct, frozen=True):
    """What one seat has, as far as somebody can know: the studio of a colleague's, an application of its own.

    `obstacles` are those of the house, with what it keeps for itself; `release` says in words what is
    installed; `elsewhere` gives the keys of layers that the seat does not
    have: sequence → the layer's title; `refused` why a macro does not run there.
    """

    catalogue: Catalogue
    traits: Traits
    outcome: Outcome
    obstacles: Obstacles
    titles: Mapping[str, str]
    release: str
    layouts: tuple[Layout, ...] = ()
    macros: Mapping[str, MacroFile] = field(default_factory=dict)
    refused: Mapping[str, str] = field(default_factory=dict)
    elsewhere: Mapping[str, str] = field(default_factory=dict)

    @property
    def contexts(self) -> Contexts:
        return self.catalogue.context_tree

    @property
    def targets(self) -> Targets:
        return Targets(self.catalogue, {name: file.face for name, file in self.macros.items()})

    def title(self, layer: str) -> str:
        return self.titles.get(layer, tr("built in") if layer == BUILT_IN else layer)

    def strokes(self, sequence: Sequence) -> Sequence:
        """What is pressed for a sequence on the seat's keyboard."""
        return spelled_on(self.traits.keyboard, sequence)

    def named(self, binding: Binding) -> str:
        """“Bold (built in)”."""
        name = self.targets.face(binding.run).name or binding.run or "nothing"
        return f"{name} ({self.title(binding.layer)})"


def seat_standpoint(
    workspace: Workspace, seat: Seat, app: str, installed: Outcome | None = None, release: str = ""
) -> Standpoint:
    """What the studio knows of a seat.

    Args:
        installed: what the seat has installed; None for the draft.
        release: what is installed, in words.

    Raises:
        RimecrestError: there is no catalogue of that application.
    """
    stack = workspace.stack_of(seat)
    elsewhere = {
        key.keys: workspace.layer_title(layer)
        for layer in workspace.layers
        if layer not in stack
        for key in workspace.layout(layer, app).keys
    }
    macros = workspace.macros_of(stack)
    refused = {name: why for name, f in macros.items() if (why := workspace.refused((f.layer, f.id)))}
    outcome = installed or workspace.outcome(stack, app, seat.traits)
    own = _own_bindings(workspace, seat, app, len(stack) + 1)
    if own:
        outcome = replace(outcome, bindings=(*outcome.bindings, *own))
    return Standpoint(
        workspace.catalogue(app),
        seat.traits,
        outcome,
        Obstacles(workspace.settings.reserved),
        {layer: workspace.layer_title(layer) for layer in (BUILT_IN, *workspace.layers)}
        | {PERSONAL: tr("the colleague’s own")},
        release or tr("This is the draft, as the next release will bring it."),
        tuple(workspace.layouts_of(stack, app)),
        macros,
        refused,
        elsewhere,
    )


def _own_bindings(workspace: Workspace, seat: Seat, app: str, level: int) -> tuple[Binding, ...]:
    """The keys that a colleague made themselves, as far as own-keys.csv tells, as bindings of their layer."""
    return tuple(
        Binding(
            f"{PERSONAL}:key:{own.context}:{own.keys}",
            PERSONAL,
            level,
            own.context,
            parse_sequence(own.keys),
            own.run,
            spelled=spelled_on(seat.keyboard, parse_sequence(own.keys)),
        )
        for own in workspace.habits.own_keys
        if (own.seat, own.app) == (seat.seat, app)
    )
