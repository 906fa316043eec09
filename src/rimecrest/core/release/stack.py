"""What one application on one seat loads: layouts of its stack, the macros they see, their pictures."""

from __future__ import annotations

import base64
from collections.abc import Mapping

from pydantic import Field

from rimecrest.core.catalogue import Catalogue
from rimecrest.core.keys import NOWHERE, Traits
from rimecrest.core.layout import Layout, Outcome, Targets, outcome, parse_layout
from rimecrest.core.model import Record
from rimecrest.core.release.audience import Assignment
from rimecrest.core.release.package import Package
from rimecrest.core.release.pictures import frozen_pictures
from rimecrest.core.workspace.workspace import MacroFile, Workspace, macro_file


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
    layouts: tuple[Layout, ...] = ()
    macros: dict[str, ShelvedMacro] = Field(default_factory=dict)
    pictures: dict[str, str] = Field(default_factory=dict)
    """File name → base64 of the SVG or PNG."""
    companions: dict[str, str] = Field(default_factory=dict)
    """File name → base64 of what the macros bring along: templates, forms."""

    def macro_files(self) -> dict[str, MacroFile]:
        return {name: macro_file(shelved.layer, name, shelved.text) for name, shelved in self.macros.items()}

    def outcome(self, catalogue: Catalogue) -> Outcome:
        """What the colleague sees."""
        macros = {name: file.face for name, file in self.macro_files().items()}
        return outcome(catalogue, self.layouts, Targets(catalogue, macros), self.traits)


def _encoded(pictures: Mapping[str, bytes]) -> dict[str, str]:
    return {name: base64.b64encode(content).decode() for name, content in pictures.items()}


def draft_stack(
    workspace: Workspace, stack: tuple[str, ...], app: str, traits: Traits = NOWHERE
) -> StackState:
    """The studio's draft for a stack."""
    return StackState(
        app=app,
        traits=traits,
        titles={layer.id: layer.title for layer in workspace.settings.layers},
        layouts=tuple(workspace.layouts_of(stack, app)),
        macros={
            name: ShelvedMacro(
                layer=file.layer, text=file.text, refused=workspace.refused((file.layer, file.id))
            )
            for name, file in workspace.macros_of(stack).items()
            if file.macro.application in ("", app)
        },
        pictures=_encoded({**workspace.pictures, **frozen_pictures(workspace)}),
        companions=_encoded(workspace.companions),
    )


def released_stack(package: Package, assignment: Assignment, app: str) -> StackState:
    """What a seat has of an installed release. Raises BrokenFile when a layout cannot be read."""
    layouts: list[Layout] = []
    macros: dict[str, ShelvedMacro] = {}
    for layer in assignment.stack:
        path = f"layouts/{layer}/{app}.json"
        if path in package.files:
            layouts.append(parse_layout(package.files[path].decode(), path))
        shelf = f"macros/{layer}/"
        for name, content in package.files.items():
            if name.startswith(shelf):
                identity = name.removeprefix(shelf).removesuffix(".steps")
                refused = package.release.refused.get(f"{layer}/{identity}", "")
                macros[identity] = ShelvedMacro(layer=layer, text=content.decode(), refused=refused)
    pictures = {
        name.removeprefix("pictures/"): content
        for name, content in package.files.items()
        if name.startswith("pictures/")
    }
    companions = {
        name.removeprefix("companions/"): content
        for name, content in package.files.items()
        if name.startswith("companions/")
    }
    news = [package.release.news[layer] for layer in assignment.stack if layer in package.release.news]
    return StackState(
        app=app,
        release=package.release.number,
        news=" ".join(news),
        traits=assignment.traits,
        layouts=tuple(layouts),
        macros=macros,
        pictures=_encoded(pictures),
        companions=_encoded(companions),
    )
