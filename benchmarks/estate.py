"""A made-up estate of many bindings, from a seed: as an office has it that keeps its keys in order.

Departments take their keys from what the applications and the organisation leave free; three keys in a
thousand are accidents, and three in a thousand mean something else in another application. Five keyboards,
three desktops, one seat in ten remote, two seats in two departments.
"""

from __future__ import annotations

import random
from zlib import crc32

from rimecrest.core.catalogue.catalogue import Catalogue, Command, OwnKey
from rimecrest.core.catalogue.items import Button
from rimecrest.core.catalogue.surfaces import Toolbar
from rimecrest.core.keys.contexts import Context
from rimecrest.core.layout.layout import KeyBinding, Layout
from rimecrest.core.workspace.people import Seat
from rimecrest.core.workspace.settings import LayerTitle, Settings
from rimecrest.core.workspace.workspace import Workspace

SEED = 20
APPLICATIONS = 12
DEPARTMENTS = 40
SEATS = 2_000
COMMANDS = 400
ACCIDENTS = 0.003
KEYBOARDS = ("gb", "gb", "gb", "de", "fr", "no", "us")
DESKTOPS = ("gnome", "plasma", "xfce")
CONTEXTS = ("anywhere", "writing", "cell", "aside")


def _sequences() -> list[str]:
    letters = "ABCDEFGHIKLMNOPQRSTUVWXYZ0123456789"
    openers = ("Ctrl+J", "Alt+J", "Ctrl+Shift+J", "Alt+Shift+J", "F8", "Shift+F8", "Ctrl+Shift+F8")
    last = [f"{mods}{letter}" for mods in ("", "Shift+", "Ctrl+", "Alt+") for letter in letters]
    single = [f"{mods}{letter}" for mods in ("Ctrl+", "Ctrl+Shift+", "Alt+Shift+") for letter in letters]
    return single + [f"{opener}, {key}" for opener in openers for key in last]


def estate(bindings: int) -> Workspace:
    """A workspace with that many hotkeys over twelve applications and forty departments."""
    chance = random.Random(SEED)
    layers = ["organisation", *(f"department.d{number}" for number in range(DEPARTMENTS))]
    each = bindings // (APPLICATIONS * (len(layers) + 1))
    sequences = _sequences()
    chance.shuffle(sequences)
    own, shared, free = sequences[:each], sequences[each : 2 * each], sequences[2 * each :]
    catalogues, layouts = {}, {}
    for app in (f"app{number}" for number in range(APPLICATIONS)):
        commands = tuple(
            Command(id=f"{app}:c{n}", name=f"Command {n}", about=f"Does {n}") for n in range(COMMANDS)
        )

        def run(app: str = app, meaning: str = "") -> str:
            if meaning and chance.random() >= ACCIDENTS:
                return f"{app}:c{crc32(meaning.encode()) % COMMANDS}"
            return f"{app}:c{chance.randrange(COMMANDS)}"

        def taken(pool: list[str]) -> list[str]:
            kept = chance.sample(pool, each)
            return list(
                dict.fromkeys(chance.choice(sequences) if chance.random() < ACCIDENTS else k for k in kept)
            )

        catalogues[app] = Catalogue(
            app=app,
            title=app,
            version="1",
            commands=commands,
            contexts=(
                Context(id="writing", name="Writing", types=True),
                Context(id="cell", name="Cell", within="writing", rank=1, types=True),
                Context(id="aside", name="Aside", within="writing", rank=2, types=True),
            ),
            keys=tuple(
                OwnKey(id=f"k{i}", keys=k, context=chance.choice(CONTEXTS), run=run())
                for i, k in enumerate(own)
            ),
        )
        for layer in layers:
            pool = shared if layer == "organisation" else free
            keys = tuple(
                KeyBinding.model_validate(
                    {"keys": k, "in": chance.choice(CONTEXTS), "run": run(meaning=k + layer)}
                )
                for k in taken(pool)
            )
            items = tuple(Button(id=f"i{n}", run=f"{app}:c{n}") for n in range(5))
            bar = Toolbar(id="bar", title="Bar", items=items)
            layouts[layer, app] = Layout(app=app, layer=layer, keys=keys, toolbars=(bar,))
    titles = tuple(LayerTitle(id=layer, title=layer) for layer in layers)
    settings = Settings(name="Estate", applications=tuple(catalogues), layers=titles)
    return Workspace(settings, catalogues, layouts, {}, tuple(_seats(chance)))


def _seats(chance: random.Random) -> list[Seat]:
    found = []
    for number in range(SEATS):
        departments = [f"d{number % DEPARTMENTS}"]
        if number % 1000 == 0:
            departments.append(f"d{(number // 1000 + 1) % DEPARTMENTS}")
        found.append(
            Seat(
                seat=f"S{number}",
                name=f"N{number}",
                departments=tuple(dict.fromkeys(departments)),
                keyboard=chance.choice(KEYBOARDS),
                desktop=chance.choice(DESKTOPS),
                session="remote" if chance.random() < 0.1 else "",
            )
        )
    return found
