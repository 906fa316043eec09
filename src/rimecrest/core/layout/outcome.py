"""What a colleague sees: the layers of a stack laid over one another.

The steps, in order, for each layer from the bottom up:

1. its toolbars, tabs and groups, each after its anchor;
2. its insertions into surfaces of other layers;
3. its moves, 4. its changes, 5. what it hides;
6. its keys, with the variant for the seat's keyboard or desktop.

A lost anchor puts the thing at the end of its surface and says so. Every thing keeps the layer it comes
from, and what was changed keeps who changed it.
"""

from __future__ import annotations

from collections.abc import Iterable

from msgspec.structs import replace

from rimecrest.core.catalogue.applies import DocumentKind
from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.keys.traits import NOWHERE, Traits
from rimecrest.core.layout.assembly import Assembly
from rimecrest.core.layout.faces import Targets
from rimecrest.core.layout.layout import Layout
from rimecrest.core.layout.seen import Outcome
from rimecrest.core.layout.stacked_keys import stacked_keys
from rimecrest.core.remembered import Remembered


def outcome(
    catalogue: Catalogue,
    layouts: Iterable[Layout],
    targets: Targets,
    traits: Traits = NOWHERE,
    document: DocumentKind | None = None,
) -> Outcome:
    """Lay `layouts`, lowest layer first, over the application's own surfaces and hotkeys.

    Args:
        catalogue: what the application comes with.
        layouts: one per layer of the stack, in stack order; layers without a layout are left out.
        targets: names and pictures of commands and macros.
        traits: what the seat has, for variants of its keys.
        document: the one that is worked in: what does not apply there is left out. None: all of it is seen.
    """
    laid = [*layouts]
    if document is not None:
        laid = [_in_document(layout, document) for layout in laid if layout.applies.fits(document)]
    return with_keys(surfaces(catalogue, laid, targets), catalogue, laid, traits)


def surfaces(catalogue: Catalogue, layouts: Iterable[Layout], targets: Targets) -> Outcome:
    """The same without the hotkeys, which hang on what a seat has."""
    assembly = _own_surfaces(catalogue).copied(targets)
    for layout in layouts:
        assembly.lay(layout)
    return assembly.result(catalogue.app)


_OWN_SURFACES: Remembered[Assembly] = Remembered(16)
"""Catalogue → its own surfaces."""


def _own_surfaces(catalogue: Catalogue) -> Assembly:
    """The application's own surfaces: the same for every stack and worked out once; each changes a copy."""
    return _OWN_SURFACES.of((catalogue,), (), lambda: Assembly(catalogue, Targets(catalogue, {})))


def with_keys(seen: Outcome, catalogue: Catalogue, layouts: Iterable[Layout], traits: Traits) -> Outcome:
    """What `surfaces` made of these layouts, with the hotkeys of a seat that has these traits."""
    return replace(seen, bindings=stacked_keys(catalogue, layouts, traits))


def _in_document(layout: Layout, document: DocumentKind) -> Layout:
    """The layout with the panels that are there with such a document."""
    if all(panel.applies.everywhere for panel in layout.panels):
        return layout
    panels = tuple(panel for panel in layout.panels if panel.applies.fits(document))
    return layout.model_copy(update={"panels": panels})
