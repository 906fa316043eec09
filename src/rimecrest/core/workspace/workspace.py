"""The workspace as an immutable value."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property
from pathlib import Path
from types import MappingProxyType
from typing import TYPE_CHECKING, Any

from msgspec import Struct, field
from msgspec.structs import replace

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.traits import NOWHERE, Traits
from rimecrest.core.layout.faces import Targets
from rimecrest.core.layout.layout import Layout
from rimecrest.core.layout.outcome import surfaces, with_keys
from rimecrest.core.layout.panel_readings import with_panels
from rimecrest.core.layout.seen import Outcome
from rimecrest.core.nearest import nearest
from rimecrest.core.remembered import Remembered
from rimecrest.core.words import tr
from rimecrest.core.workspace.habits import Habits
from rimecrest.core.workspace.layer_ids import MINE, ORGANISATION
from rimecrest.core.workspace.macro_file import MacroFile, macro_file
from rimecrest.core.workspace.people import Seat
from rimecrest.core.workspace.settings import Settings

if TYPE_CHECKING:
    from rimecrest.core.workspace.origin import Origin

_TARGETS: Remembered[Targets] = Remembered(500)

LayoutKey = tuple[str, str]
"""(layer, application)"""
MacroKey = tuple[str, str]
"""(layer, macro id)"""


def frozen(mapping: Mapping[Any, Any]) -> Mapping[Any, Any]:
    """A mapping that nobody can change."""
    return MappingProxyType(dict(mapping))


class Workspace(Struct, frozen=True, dict=True):
    """One organisation's catalogues, layouts, macros, pictures and people."""

    settings: Settings
    catalogues: Mapping[str, Catalogue] = field(default_factory=dict)
    layouts: Mapping[LayoutKey, Layout] = field(default_factory=dict)
    macros: Mapping[MacroKey, MacroFile] = field(default_factory=dict)
    people: tuple[Seat, ...] = ()
    pictures: Mapping[str, bytes] = field(default_factory=dict)
    companions: Mapping[str, bytes] = field(default_factory=dict)
    habits: Habits = field(default_factory=Habits)
    broken: Mapping[str, str] = field(default_factory=dict)
    """Path within the folder → why it cannot be read. Such a file is never written."""

    @cached_property
    def layers(self) -> tuple[str, ...]:
        """The shared layers, lowest first."""
        return tuple(layer.id for layer in self.settings.layers)

    @cached_property
    def _titles(self) -> dict[str, str]:
        shared: dict[str, str] = {layer.id: layer.title for layer in self.settings.layers}
        return {"built-in": tr("built in"), MINE: tr("Mine"), **shared}

    def layer_title(self, layer: str) -> str:
        """What people call a layer."""
        return self._titles.get(layer, layer)

    def layer_named(self, name: str) -> str:
        """The id of the shared layer of that id or title. Raises RimecrestError when there is none."""
        titles = {layer.title.lower(): layer.id for layer in self.settings.layers}
        found = titles.get(name.strip().lower(), name)
        if found not in self.layers:
            raise RimecrestError(
                tr("There is no layer “{layer}”.", layer=name),
                tr("There are: {layers}.", layers=", ".join(self.layers)),
            )
        return found

    def seat(self, name: str) -> Seat:
        """The seat, or the colleague, of that name. Raises RimecrestError when there is none."""
        for seat in self.people:
            if name.strip().lower() in (seat.seat.lower(), seat.name.lower()):
                return seat
        known = [seat.seat for seat in self.people] + [seat.name for seat in self.people]
        near = nearest(name, known)
        hint = tr("Did you mean “{near}”?", near=near) if near else tr("people.csv lists all of them.")
        raise RimecrestError(tr("There is no seat “{name}”.", name=name), hint)

    def channel_address(self, folder: Path) -> str:
        """Where releases go. Raises RimecrestError when the workspace does not say."""
        if not self.settings.channel:
            raise RimecrestError(
                tr("The workspace names no channel."), tr("Say one with --channel, or in workspace.json.")
            )
        if "://" in self.settings.channel:
            return self.settings.channel
        return str((folder / self.settings.channel).resolve())

    def stack_of(self, seat: Seat) -> tuple[str, ...]:
        """The shared layers of a seat, lowest first: in the order of workspace.json."""
        mine = {ORGANISATION, *(f"department.{name}" for name in seat.departments)}
        return tuple(layer for layer in self.layers if layer in mine)

    def stacks(self) -> dict[tuple[str, ...], list[Seat]]:
        """The seats, by the stack they have."""
        found: dict[tuple[str, ...], list[Seat]] = {}
        for seat in self.people:
            found.setdefault(self.stack_of(seat), []).append(seat)
        return found

    def stack_up_to(self, layer: str) -> tuple[str, ...]:
        """The stack under which a layer is edited: the organisation's, then the layer itself."""
        return tuple(name for name in self.layers if name in (ORGANISATION, layer))

    def catalogue(self, app: str) -> Catalogue:
        """Raises RimecrestError when the workspace has no catalogue of that application."""
        try:
            return self.catalogues[app]
        except KeyError:
            why = self.broken.get(f"catalogues/{app}.json", "the file is missing")
            raise RimecrestError(
                tr("There is no catalogue of “{app}”: {why}.", app=app, why=why),
                tr("Start {app} once, or put catalogues/{app2}.json back.", app=app.capitalize(), app2=app),
            ) from None

    def told(self, stack: tuple[str, ...], app: str, own: str = "") -> Catalogue | None:
        """The catalogue with what macros can read of the panels of a stack; None where there is none.

        Args:
            own: the id of the panel whose private steps are looked at.
        """
        if app not in self.catalogues:
            return None
        if (stack, app, own) not in self._told:
            layouts = self.layouts_of(stack, app)
            self._told[stack, app, own] = with_panels(self.catalogues[app], layouts, own)
        return self._told[stack, app, own]

    @cached_property
    def _told(self) -> dict[tuple[tuple[str, ...], str, str], Catalogue]:
        return {}

    def layout(self, layer: str, app: str) -> Layout:
        """The layout of a layer; an empty one where it has none."""
        return self.layouts.get((layer, app)) or Layout(app=app, layer=layer)

    def layouts_of(self, stack: tuple[str, ...], app: str) -> list[Layout]:
        return [self.layouts[layer, app] for layer in stack if (layer, app) in self.layouts]

    def macros_of(self, stack: tuple[str, ...]) -> dict[str, MacroFile]:
        """The macros a stack can see, by id; a higher layer's goes before."""
        return {file.id: file for layer in stack for file in self._by_layer.get(layer, ())}

    @cached_property
    def _by_layer(self) -> dict[str, list[MacroFile]]:
        found: dict[str, list[MacroFile]] = {}
        for (layer, _), file in self.macros.items():
            found.setdefault(layer, []).append(file)
        return found

    def targets(self, stack: tuple[str, ...], app: str) -> Targets:
        """Names and pictures of what can be run under a stack."""
        catalogue = self.catalogue(app)

        def made() -> Targets:
            files = self.macros_of(stack).items()
            faces = {name: file.face for name, file in files if file.macro.application in ("", app)}
            return Targets(catalogue, faces)

        # While neither macros nor catalogue are others, they are the same targets, whatever the layouts are.
        return _TARGETS.of((self.macros, catalogue), (stack, app), made)

    def outcome(self, stack: tuple[str, ...], app: str, traits: Traits = NOWHERE) -> Outcome:
        """What a seat with that stack sees. Computed once per stack, application and traits."""
        known = self._outcomes.get((stack, app, traits))
        if known is None:
            layouts = self.layouts_of(stack, app)
            known = with_keys(self.surfaces(stack, app), self.catalogue(app), layouts, traits)
            self._outcomes[stack, app, traits] = known
        return known

    def surfaces(self, stack: tuple[str, ...], app: str) -> Outcome:
        """The same without its hotkeys, which most of the checks do not need.

        Computed once for all stacks that differ only in layers which have nothing for the application.
        """
        has = tuple(layer for layer in stack if (layer, app) in self.layouts or layer in self._by_layer)
        if (has, app) not in self._surfaces:
            targets, layouts = self.targets(has, app), self.layouts_of(has, app)
            self._surfaces[has, app] = surfaces(self.catalogue(app), layouts, targets)
        return self._surfaces[has, app]

    @cached_property
    def _surfaces(self) -> dict[tuple[tuple[str, ...], str], Outcome]:
        return {}

    @cached_property
    def _outcomes(self) -> dict[tuple[tuple[str, ...], str, Traits], Outcome]:
        return {}

    def with_layout(self, layout: Layout) -> Workspace:
        key = (layout.layer, layout.app)
        return replace(self, layouts=frozen({**self.layouts, key: layout}))

    def without_layout(self, key: LayoutKey) -> Workspace:
        return replace(self, layouts=frozen({k: v for k, v in self.layouts.items() if k != key}))

    def with_macro(self, layer: str, identity: str, text: str | None) -> Workspace:
        """Put, change or (None) delete a macro."""
        macros = dict(self.macros)
        if text is None:
            macros.pop((layer, identity), None)
        else:
            macros[layer, identity] = macro_file(layer, identity, text)
        return replace(self, macros=frozen(macros))

    def origin(self, key: MacroKey) -> Origin | None:
        """Who outside made a macro: by its own text, or as an earlier version noted beside it."""
        noted = self.settings.made_by.get("/".join(key))
        if key in self.macros and (noted is None or self.macros[key].macro.from_outside):
            return self.macros[key].origin
        if noted is None:
            return None
        from rimecrest.core.workspace.origin import Origin  # noqa: PLC0415  late: cryptography

        return Origin(noted.name, noted.key, holds=True)

    def refused(self, key: MacroKey) -> str:
        """Why a macro does not run: nobody vouches for its maker. Empty when it does."""
        origin = self.origin(key)
        return origin.why_not(self.settings.makers) if origin is not None else ""

    def refused_macros(self) -> dict[str, str]:
        """`<layer>/<macro id>` → why it does not run."""
        found = {"/".join(key): self.refused(key) for key in self.macros}
        return {name: why for name, why in sorted(found.items()) if why}

    def with_settings(self, settings: Settings) -> Workspace:
        return replace(self, settings=settings)

    @property
    def companion_paths(self) -> frozenset[str]:
        """The companions as macros and items name them: `companions/<name>`."""
        return frozenset(f"companions/{name}" for name in self.companions)

    def with_companion(self, name: str, content: bytes | None) -> Workspace:
        """Put, change or (None) delete a companion."""
        companions = dict(self.companions)
        if content is None:
            companions.pop(name, None)
        else:
            companions[name] = content
        return replace(self, companions=frozen(companions))
