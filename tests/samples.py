"""A small invented application, “Notes”, and an organisation with two departments that uses it."""

from __future__ import annotations

import json
import re

from rimecrest.core.catalogue.arguments import Argument, ArgumentType
from rimecrest.core.catalogue.catalogue import Catalogue, Command, Effect, OwnKey, Reading
from rimecrest.core.catalogue.items import Button, Item, Separator
from rimecrest.core.catalogue.surfaces import Group, Menu, Tab, Toolbar
from rimecrest.core.keys.contexts import Context
from rimecrest.core.layout.layout import KeyBinding, Layout
from rimecrest.core.workspace.people import Seat
from rimecrest.core.workspace.settings import LayerTitle, Settings

EDITS = (Effect.EDITS,)


def _command(verb: str, name: str, **more: object) -> Command:
    return Command.model_validate({"id": f"notes:{verb}", "name": name, "about": f"{name} it", **more})


CATALOGUE = Catalogue(
    app="notes",
    title="Notes",
    version="1.0",
    opener="Ctrl+J",
    contexts=(
        Context(id="anywhere", name="Anywhere", within=None),
        Context(id="writing", name="When writing", types=True),
        Context(id="cell", name="In a cell", within="writing", rank=1, types=True),
        Context(id="aside", name="In an aside", within="writing", rank=2, types=True),
    ),
    commands=(
        _command("save", "Save", everyday=True, effects=[Effect.CREATES]),
        _command("print", "Print", everyday=True),
        _command("bold", "Bold", context="writing", effects=EDITS, arguments=[
            Argument(name="on", type=ArgumentType.SWITCH, default="flip")
        ]),
        _command("size", "Size", context="writing", effects=EDITS, arguments=[
            Argument(name="to", type=ArgumentType.WHOLE, least=8, most=96)
        ]),
        _command("align", "Align", context="writing", effects=EDITS, arguments=[
            Argument(name="to", type=ArgumentType.CHOICE, choices=("left", "centre"), default="left")
        ]),
        _command("new-line", "New line", context="writing", effects=EDITS),
        _command("rule", "Line across", context="writing", effects=EDITS),
        _command("wipe", "Wipe", effects=[Effect.DELETES]),
        Command(id="notes:bare", name="Bare"),
    ),
    readings=(
        Reading(id="chosen.text", about="What is chosen"),
        Reading(id="headings", about="The headings", type="list"),
        Reading(id="today.weekday", about="The day"),
    ),
    toolbars=(
        Toolbar(id="main", title="Main", items=(
            Button(id="item-save", run="notes:save"),
            Separator(id="rule-1", separator=True),
            Button(id="item-bold", run="notes:bold"),
        )),
    ),
    tabs=(
        Tab(id="tab-one", title="One", groups=(
            Group(id="group-a", title="A", items=(
                Button(id="item-align", run="notes:align"),
                Button(id="item-rule", run="notes:rule"),
            )),
            Group(id="group-b", title="B", items=(Button(id="item-print", run="notes:print"),)),
        )),
        Tab(id="tab-two", title="Two"),
    ),
    menus=(Menu(id="menu-text", title="In text", context="writing", items=(
        Button(id="menu-bold", run="notes:bold"),
    )),),
    keys=(
        OwnKey(id="key-save", keys="Ctrl+S", run="notes:save"),
        OwnKey(id="key-print", keys="Ctrl+P", run="notes:print"),
        OwnKey(id="key-bold", keys="Ctrl+B", run="notes:bold", context="writing"),
        OwnKey(id="key-rule", keys="Ctrl+J, R", run="notes:rule", context="writing"),
        OwnKey(id="key-wipe", keys="Ctrl+J, R", run="notes:wipe", context="cell"),
    ),
)  # fmt: skip

SETTINGS = Settings(
    name="Sample",
    applications=("notes",),
    layers=(
        LayerTitle(id="organisation", title="Everyone"),
        LayerTitle(id="department.north", title="North"),
        LayerTitle(id="department.south", title="South"),
    ),
)

PEOPLE = (
    Seat(seat="North 1", name="Ailis Sundby", departments=("north",), keyboard="gb", desktop="gnome"),
    Seat(seat="North 2", name="Bram Holm", departments=("north",), keyboard="de", desktop="gnome"),
    Seat(seat="South 1", name="Dagny Tarn", departments=("south",), keyboard="gb", desktop="gnome"),
    Seat(seat="Both 1", name="Eskil Brae", departments=("south", "north"), keyboard="no", desktop="gnome"),
)

GREETING = """\
macro "Greeting"
about "Writes a greeting."
for notes
needs context writing or say "Put the cursor in the text first."

ask who "Whom?" choices "Brinholt", "Ovessa"
do bold on=yes
write "Dear {who}"
do bold on=no
do new-line
"""

CLOSING = """\
macro "Closing"
about "Writes the end."
for notes

write "With kind regards"
"""

MACROS = {("organisation", "greeting"): GREETING, ("department.north", "closing"): CLOSING}

LAYOUTS = [
    Layout(
        app="notes",
        layer="organisation",
        tabs=(
            Tab(id="shared", title="Shared", after="app:tab-one", groups=(
                Group(id="all", title="All", items=(Button(id="greet", run="macro:greeting"),)),
            )),
        ),
        keys=(KeyBinding(keys="Ctrl+J, G", in_context="writing", run="macro:greeting"),),
    ),
    Layout(
        app="notes",
        layer="department.north",
        toolbars=(
            Toolbar(id="north", title="North", edge="top", after="app:main", items=(
                Button(id="close", run="macro:closing"),
                Button(id="line", run="notes:rule", label="Rule"),
            )),
        ),
    ),
]  # fmt: skip


def makers_of(item: Item) -> set[str]:
    """The public keys of all who made private steps of an item."""
    return set(re.findall(r'"made_by": "([^"]+)"', json.dumps(item.to_data())))
