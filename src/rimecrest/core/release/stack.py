"""What one application on one seat loads: layouts of its stack, the macros they see, their pictures."""

from __future__ import annotations

import base64
from collections.abc import Callable, Iterator, Mapping
from typing import Any

from pydantic import Field

from rimecrest.core.catalogue import Catalogue
from rimecrest.core.catalogue.applies import DocumentKind
from rimecrest.core.keys import NOWHERE, Traits
from rimecrest.core.layout import Layout, Outcome, Targets, outcome
from rimecrest.core.layout.renames import followed
from rimecrest.core.model import Record
from rimecrest.core.release.audience import Assignment
from rimecrest.core.release.package import SET_PICTURES, Package
from rimecrest.core.release.pictures import frozen_pictures, named_pictures
from rimecrest.core.workspace.macro_file import MacroFile, macro_file
from rimecrest.core.workspace.parts import COMPANIONS, LAYOUTS, MACROS, PICTURES, Part
from rimecrest.core.workspace.workspace import Workspace


class ShelvedMacro(Record):
    """A macro and the layer whose shelf it is on."""

    layer: str
    text: str
    refused: str = ""
    """Why it does not run here: nobody vouches for its maker."""


class StackState(Record):
    """One stack in one application, complete."""

    app: str
    release: int = 0
    """0: the draft, or nothing installed."""
    news: str = ""
    traits: Traits = NOWHERE
    titles: dict[str, str] = Field(default_factory=dict)
    """Layer → what people call it."""
    reserved: dict[str, dict[str, str]] = Field(default_factory=dict)
    """Chords that the house keeps for itself: profile → chord → what it does (workspace.json)."""
    layouts: tuple[Layout, ...] = ()
    macros: dict[str, ShelvedMacro] = Field(default_factory=dict)
    pictures: dict[str, str] = Field(default_factory=dict)
    """Name as items have it, `set:…` or `own:…` → base64 of the SVG or PNG."""
    companions: dict[str, str] = Field(default_factory=dict)
    """File name → base64 of what the macros bring along: templates, forms."""
    makers: tuple[str, ...] = ()
    """The public keys that the organisation vouches for: private steps of any other do not run."""

    def macro_files(self) -> dict[str, MacroFile]:
        return {name: macro_file(shelved.layer, name, shelved.text) for name, shelved in self.macros.items()}

    def followed(self, catalogue: Catalogue) -> StackState:
        """The same with what the application has renamed since under the ids of today."""
        layouts = tuple(followed(layout, catalogue) for layout in self.layouts)
        return self if layouts == self.layouts else self.model_copy(update={"layouts": layouts})

    def outcome(self, catalogue: Catalogue, document: DocumentKind | None = None) -> Outcome:
        """What the colleague sees in a document; None: what there is in any."""
        macros = {name: file.face for name, file in self.macro_files().items()}
        return outcome(catalogue, self.layouts, Targets(catalogue, macros), self.traits, document=document)


def encoded(contents: Mapping[str, bytes]) -> dict[str, str]:
    """Contents as a draft carries them over the link: in base64."""
    return {name: base64.b64encode(content).decode() for name, content in contents.items()}


def _shelved(files: Mapping[str, MacroFile], refused: Callable[[MacroFile], str]) -> dict[str, ShelvedMacro]:
    return {
        name: ShelvedMacro(layer=file.layer, text=file.text, refused=refused(file))
        for name, file in files.items()
    }


def draft_stack(
    workspace: Workspace, stack: tuple[str, ...], app: str, traits: Traits = NOWHERE
) -> StackState:
    """The studio's draft for a stack."""
    macros = {
        name: file for name, file in workspace.macros_of(stack).items() if file.macro.application in ("", app)
    }
    return StackState(
        app=app,
        traits=traits,
        titles={layer.id: layer.title for layer in workspace.settings.layers},
        reserved=workspace.settings.reserved,
        layouts=tuple(workspace.layouts_of(stack, app)),
        macros=_shelved(macros, lambda file: workspace.refused((file.layer, file.id))),
        pictures=encoded(named_pictures(workspace.pictures, frozen_pictures(workspace))),
        companions=encoded(workspace.companions),
        makers=tuple(sorted(workspace.settings.makers)),
    )


def released_stack(package: Package, assignment: Assignment, app: str) -> StackState:
    """What a seat has of an installed release.

    Raises:
        RimecrestError: a layout cannot be read, or a file's name is none.
    """
    release, stack = package.release, assignment.stack
    layouts = {
        key[0]: value
        for key, value in _unpacked(LAYOUTS, package, lambda key: key[1] == app and key[0] in stack)
    }
    macros = dict(_unpacked(MACROS, package, lambda key: key[0] in stack))
    seen = {name: macros[layer, name] for layer in stack for shelf, name in macros if shelf == layer}
    frozen = {
        name.removeprefix(SET_PICTURES).removesuffix(".svg"): content
        for name, content in package.files.items()
        if name.startswith(SET_PICTURES)
    }
    return StackState(
        app=app,
        release=release.number,
        news=" ".join(release.news[layer] for layer in stack if layer in release.news),
        traits=assignment.traits,
        titles=release.titles,
        reserved=release.reserved,
        layouts=tuple(layouts[layer] for layer in stack if layer in layouts),
        macros=_shelved(seen, lambda file: release.refused.get(f"{file.layer}/{file.id}", "")),
        pictures=encoded(named_pictures(dict(_unpacked(PICTURES, package)), frozen)),
        companions=encoded(dict(_unpacked(COMPANIONS, package))),
        makers=release.makers,
    )


def _unpacked(
    part: Part, package: Package, wanted: Callable[[Any], bool] = lambda key: True
) -> Iterator[tuple[Any, Any]]:
    """(key, value) of a part's files in a package that are wanted."""
    for path, content in package.files.items():
        key = part.packed_key(path)
        if key is not None and wanted(key):
            yield key, part.read(content, path, key)
