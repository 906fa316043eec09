"""The hotkeys of a stack: the application's own, then those of each layer, as its seat has them."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.keys.bindings import Binding
from rimecrest.core.keys.chords import parse_sequence
from rimecrest.core.keys.keyboards.national import on_keyboard
from rimecrest.core.keys.traits import Traits
from rimecrest.core.layout.layout import KeyBinding, Layout
from rimecrest.core.layout.seen import BUILT_IN


def stacked_keys(catalogue: Catalogue, layouts: Iterable[Layout], traits: Traits) -> tuple[Binding, ...]:
    """Every binding, the application's at level 0, those of the layouts at 1 and up.

    Args:
        layouts: lowest layer first.
        traits: what the seat has, for variants of keys; a key that such seats go without is left out.
    """
    own = (
        Binding(f"app:{key.id}", BUILT_IN, 0, key.context, parse_sequence(key.keys), key.run)
        for key in catalogue.keys
    )
    levels = enumerate(layouts, start=1)
    bindings = (*own, *(one for level, layout in levels for one in _of_layout(layout, level, traits)))
    return on_keyboard(bindings, traits.keyboard)


def _of_layout(layout: Layout, level: int, traits: Traits) -> Iterator[Binding]:
    for key in layout.keys:
        keys = key.on_seat(traits)
        if keys is not None:
            yield _bound(layout, key, keys, level)


def _bound(layout: Layout, key: KeyBinding, keys: str, level: int) -> Binding:
    identity = f"{layout.layer}:{key.identity}"
    args = tuple(sorted(key.args.items()))
    fixed = layout.policy == "fixed"
    return Binding(identity, layout.layer, level, key.in_context, parse_sequence(keys), key.run, args, fixed)
