"""Where a stack's state comes from: the studio's draft, or an installed release."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from typing import Any

from rimecrest.core.keys.traits import NOWHERE, Traits
from rimecrest.core.release.audience import Assignment
from rimecrest.core.release.package import SET_PICTURES, Package
from rimecrest.core.release.pictures import frozen_pictures, named_pictures
from rimecrest.core.release.stack import ShelvedMacro, StackState, encoded
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.core.workspace.parts import COMPANIONS, LAYOUTS, MACROS, PICTURES, Part
from rimecrest.core.workspace.workspace import Workspace


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
