"""Other keys for some seats, by hand: what can be chosen, and what it makes of a binding."""

from __future__ import annotations

from collections.abc import Iterable

from rimecrest.core.keys.keyboards.national import keyboard_name
from rimecrest.core.layout.layout import KeyBinding
from rimecrest.core.words import tr
from rimecrest.core.workspace.people import Seat

Choices = dict[str, tuple[str, str | None]]
"""Words → the name under which the variant is kept, and its sequence; None: these seats go without."""


def variant_choices(key: KeyBinding, seats: Iterable[Seat], free: Iterable[str]) -> Choices:
    """Every variant that can be given for the keyboards, desktops and sessions of these seats."""
    offered = list(free)
    choices: Choices = {}
    for trait in dict.fromkeys(name for seat in seats for name in seat.traits.names()):
        words = trait_words(trait)
        choices |= {f"{words}: {keys}": (trait, keys) for keys in offered}
        choices[f"{words}: go without"] = (trait, None)
        if trait in key.on:
            choices[f"{words}: as everywhere"] = (trait, key.keys)
    return choices


def with_variant(key: KeyBinding, trait: str, keys: str | None) -> KeyBinding:
    """The binding with that variant; with its own sequence again where that is chosen."""
    others = {known: text for known, text in key.on.items() if known != trait}
    on = others if keys == key.keys else {**others, trait: keys}
    return key.model_copy(update={"on": on, "id": key.identity})


def trait_words(name: str) -> str:
    """“German keyboard”, “xfce desktop”, “remote session”."""
    kind, colon, value = name.partition(":")
    if not colon:
        return f"{keyboard_name(name)} keyboard"
    words = {
        "desktop": "desktop",
        "session": "session",
        "reader": tr("screen reader"),
        "input": tr("input method"),
    }
    return f"{value} {words.get(kind, kind)}"


def said_of_variants(key: KeyBinding) -> str:
    """“On the German keyboard Ctrl+J, U; on the Belgian keyboard none.”"""
    parts = [
        tr("on the {trait_words} {keys}", trait_words=trait_words(name), keys=keys or "none")
        for name, keys in key.on.items()
    ]
    words = "; ".join(parts)
    return f"{words[0].upper()}{words[1:]}." if words else ""
