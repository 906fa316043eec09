"""A made-up estate of many bindings, from a seed."""

from __future__ import annotations

import random

from rimecrest.core.catalogue import Catalogue, Command, OwnKey
from rimecrest.core.keys import Context
from rimecrest.core.layout import KeyBinding, Layout
from rimecrest.core.workspace import LayerTitle, Seat, Settings, Workspace

SEED = 20
APPLICATIONS = 4
DEPARTMENTS = 24
SEATS = 600


def estate(bindings: int) -> Workspace:
    """A workspace with that many hotkeys over four applications and twenty-four departments."""
    chance = random.Random(SEED)
    letters = "ABCDEFGHIKLMNOPQRSTUVWXYZ0123456789"
    chords = [
        f"{mods}{letter}"
        for mods in ("Ctrl+", "Ctrl+Shift+", "Alt+Shift+", "Ctrl+Alt+", "Super+Shift+")
        for letter in letters
    ]
    sequences = [
        f"{opener}, {rest}" for opener in ("Ctrl+J", "Alt+J", "Super+J") for rest in (*letters, *chords)
    ]
    contexts = ("anywhere", "writing", "cell", "aside")
    catalogues, layouts = {}, {}
    layers = ["organisation", *(f"department.d{number}" for number in range(DEPARTMENTS))]
    each = bindings // (APPLICATIONS * (len(layers) + 1))
    for app in (f"app{number}" for number in range(APPLICATIONS)):
        commands = tuple(Command(id=f"{app}:c{number}", name=f"Command {number}") for number in range(400))
        places = [(keys, context) for keys in (*chords, *sequences) for context in contexts]

        def some(app: str = app, places: list[tuple[str, str]] = places) -> list[tuple[str, str, str]]:
            return [(k, c, f"{app}:c{chance.randrange(400)}") for k, c in chance.sample(places, each)]

        catalogues[app] = Catalogue(
            app=app,
            title=app,
            version="1",
            commands=commands,
            contexts=(
                Context(id="writing", name="Writing"),
                Context(id="cell", name="Cell", within="writing", rank=1),
                Context(id="aside", name="Aside", within="writing", rank=2),
            ),
            keys=tuple(OwnKey(id=f"k{i}", keys=k, context=c, run=r) for i, (k, c, r) in enumerate(some())),
        )
        for layer in layers:
            keys = tuple(KeyBinding.model_validate({"keys": k, "in": c, "run": r}) for k, c, r in some())
            layouts[layer, app] = Layout(app=app, layer=layer, keys=keys)
    people = tuple(
        Seat(seat=f"S{number}", name=f"N{number}", departments=(f"d{number % DEPARTMENTS}",))
        for number in range(SEATS)
    )
    titles = tuple(LayerTitle(id=layer, title=layer) for layer in layers)
    settings = Settings(name="Estate", applications=tuple(catalogues), layers=titles)
    return Workspace(settings, catalogues, layouts, {}, people)
