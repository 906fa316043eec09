"""Write workspaces drawn by fixed seeds: every kind of layer, item, hotkey, macro and seat.

usage: workspaces.py FOLDER COUNT

The workspaces are written as files, without the program's own classes, so that two versions of the program
read the very same ones. The catalogues and the demo's macros come from the version that runs this.
"""

from __future__ import annotations

import csv
import json
import random
import shutil
import sys
import tempfile
from pathlib import Path
from typing import Any

from rimecrest.demo.office import make_demo

Json = dict[str, Any]

DEPARTMENTS = ("berth", "freight", "care", "quay")
KEYBOARDS = ("gb", "de", "fr", "no", "ie", "be", "ru", "")
DESKTOPS = ("gnome", "xfce", "plasma", "")
KEYS = ("F2", "F7", "F9", "Ctrl+B", "Ctrl+J", "Ctrl+J, O", "Ctrl+J, K", "Ctrl+K", "Ctrl+Shift+K", "Alt+R",
        "Alt+F", "Ctrl+Alt+L", "Ctrl+;", "Ctrl+[", "Ctrl+7", "Ctrl+KP_1", "Shift+F9", "Ctrl+S", "Delete",
        "Ctrl+Ö", "Ctrl+E, 1", "Ctrl+E, 2", "K", "Shift+G", "Ctrl+?", "Tab")  # fmt: skip
PICTURES = (
    "set:alert-outline",
    "set:ferry",
    "set:anchor",
    "set:table",
    "letters:Hz",
    "set:nothing-of-this-name",
)
FACES = ("picture", "words", "both")
WORDS = ("Hazard note", "Sailing", "Week", "Today's berth", "Cargo, loose", "ZOLL", "Brinholt " * 5, "Ö", "x")
EVENTS = {
    "text": ("click", "double", "point"),
    "button": ("double", "enter", "leave", "point"),
}
CONTROL_EVENTS = ("change", "enter", "leave", "click", "double", "point")
STEPS = 'macro "Private"\nfor {app}\n\nwrite "{{today.date}}"\n'
MACROS = (
    """about "Writes a line."
for {app}

ask who "For whom?" default "Nora"
write "For {{who}}"
{do}""",
    """for {app}

set n = 1 + 2 * 3
if n > 6 and not n = 7
  write "more"
else
  say "less"
end
{do}""",
    """for {app}
needs context {context} or say "Not here."

repeat 2 times
  write "x"
end
{do}""",
    """for {app}

{do}stop "Done."
""",
    """for {app}
unfinished

while 1 < 2 limit 3
  write "y"
end
~ write "never"
{do}""",
    """for {app}

run "{other}"
{do}""",
    """for {app}

write "{{panel.panel.field}}"
do no-such-command
""",
)
"""Macros without their first line, some of them with an error."""


class Maker:
    """Draws one workspace."""

    def __init__(self, seed: int, demo: Path) -> None:
        self.dice = random.Random(f"workspace {seed}")
        self.demo = demo
        self.settings = json.loads((demo / "workspace.json").read_text(encoding="utf-8"))
        apps = sorted(self.dice.sample(("letters", "grid", "post"), self.dice.randint(1, 3)))
        self.catalogues = {
            app: json.loads((demo / "catalogues" / f"{app}.json").read_text(encoding="utf-8")) for app in apps
        }
        self.macros: dict[str, list[str]] = {app: [] for app in apps}
        self.placed: dict[str, list[str]] = {app: [] for app in apps}
        """Identities of items that lower layers placed, which higher ones can change."""
        self.count = 0

    def one_in(self, chance: int) -> bool:
        return self.dice.randrange(chance) == 0

    def name(self, kind: str) -> str:
        self.count += 1
        return f"{kind}-{self.count}"

    def write(self, folder: Path) -> None:
        """Write the workspace; `folder` does not exist yet."""
        (folder / "catalogues").mkdir(parents=True)
        for app, catalogue in self.catalogues.items():
            (folder / "catalogues" / f"{app}.json").write_text(json.dumps(catalogue), encoding="utf-8")
        layers = ["organisation", *(f"department.{name}" for name in self.departments())]
        self.settings |= {
            "applications": list(self.catalogues),
            "layers": [{"id": layer, "title": layer.rpartition(".")[2].title()} for layer in layers],
            "widths": self.dice.choice(([1024], [1024, 1280], [800, 1920])),
            "channel": "",
            "reserved": {"xfce": {"Ctrl+Alt+L": "Lock"}} if self.one_in(2) else {},
        }
        (folder / "workspace.json").write_text(json.dumps(self.settings), encoding="utf-8")
        for layer in layers:
            self.write_layer(folder, layer)
        self.write_people(folder)
        self.write_lists(folder)
        if (self.demo / "companions").is_dir():
            shutil.copytree(self.demo / "companions", folder / "companions")

    def departments(self) -> list[str]:
        return list(DEPARTMENTS[: self.dice.randint(0, len(DEPARTMENTS))])

    def write_layer(self, folder: Path, layer: str) -> None:
        for app in self.catalogues:
            for _ in range(self.dice.randint(0, 3)):
                self.write_macro(folder, layer, app)
        for app in self.catalogues:
            if self.one_in(6):
                continue
            path = folder / "layouts" / layer / f"{app}.json"
            path.parent.mkdir(parents=True, exist_ok=True)
            path.write_text(json.dumps(self.layout(layer, app), indent=1), encoding="utf-8")

    def write_macro(self, folder: Path, layer: str, app: str) -> None:
        known = self.macros[app]
        name = self.dice.choice(known) if known and self.one_in(5) else self.name("macro")
        command = self.command(app)
        settings = " ".join(f'{key}="{value}"' for key, value in self.arguments(command).items())
        verb = command["id"].partition(":")[2]
        title = self.dice.choice(WORDS).strip()
        text = f'macro "{title}"\n' + self.dice.choice(MACROS).format(
            app=app,
            context=self.context(app),
            other=self.dice.choice(known) if known else "nothing",
            do=f"do {verb} {settings}".rstrip() + "\n",
        )
        path = folder / "macros" / layer / f"{name}.steps"
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(text, encoding="utf-8")
        known.append(name)

    def command(self, app: str) -> Json:
        found: Json = self.dice.choice(self.catalogues[app]["commands"])
        return found

    def context(self, app: str) -> str:
        contexts = [context["id"] for context in self.catalogues[app]["contexts"]]
        return str(self.dice.choice([*contexts, "anywhere"]))

    def arguments(self, command: Json) -> dict[str, str]:
        """Values for the settings that the command needs, and for some others."""
        given = {}
        for argument in command.get("arguments", ()):
            if argument.get("default") is not None and not self.one_in(3):
                continue
            least = argument.get("least")
            values = {
                "number": [str(least if least is not None else 2)],
                "whole": [str(int(least) if least is not None else 2)],
                "choice": argument.get("choices") or ["?"],
                "switch": ["yes", "no", "flip"],
                "colour": ["#204060"],
                "path": ["notes.txt"],
                "address": ["https://vessry.example/"],
            }.get(argument.get("type", "text"), ["words", "Nora"])
            given[argument["name"]] = self.dice.choice(values)
        return given

    def target(self, app: str) -> Json:
        """What an item or hotkey runs, with its settings."""
        if self.macros[app] and self.one_in(3):
            return {"run": f"macro:{self.dice.choice(self.macros[app])}"}
        if self.one_in(15):
            return {"run": f"{app}:no-such-command"}
        command = self.command(app)
        return {"run": command["id"]} | ({"args": args} if (args := self.arguments(command)) else {})

    def handlers(self, app: str, events: tuple[str, ...]) -> Json:
        if not self.one_in(3):
            return {}
        event = self.dice.choice(events)
        return {"on": {event: {"steps": STEPS.format(app=app)} if self.one_in(3) else self.target(app)}}

    def button(self, app: str) -> Json:
        made: Json = {"id": self.name("item")}
        made |= {"steps": STEPS.format(app=app)} if self.one_in(8) else self.target(app)
        looks = {
            "label": self.dice.choice(WORDS),
            "tip": self.dice.choice(WORDS),
            "picture": self.dice.choice(PICTURES),
            "face": self.dice.choice(FACES),
            "width": 2,
            "collapse": self.dice.randint(1, 3),
            "access": self.dice.choice("ABRF"),
        }
        return made | {name: value for name, value in looks.items() if self.one_in(3)}

    def items(self, app: str, layer: str, most: int = 6) -> list[Json]:
        found = []
        for _ in range(self.dice.randint(0, most)):
            item = {"id": self.name("line"), "separator": True} if self.one_in(6) else self.button(app)
            found.append(item)
            self.placed[app].append(f"{layer}:{item['id']}")
        return found

    def control(self, app: str) -> Json:
        kind = self.dice.choice(("text", "field", "choice", "list", "tick"))
        made: Json = {"id": self.name("field"), kind: self.dice.choice(WORDS)}
        if kind in ("choice", "list"):
            made |= {"choices": ["One", "Two", "Three"]} if self.one_in(2) else {"from": "week"}
        if kind in ("field", "choice", "list") and self.one_in(2):
            made["value"] = "Two"
        if kind == "tick" and self.one_in(2):
            made["value"] = True
        if self.one_in(4):
            made["beside"] = True
        return made | self.handlers(app, EVENTS.get(kind, CONTROL_EVENTS))

    def panel(self, app: str, layer: str) -> Json:
        controls = [self.control(app) for _ in range(self.dice.randint(1, 6))]
        buttons = [button | self.handlers(app, EVENTS["button"]) for button in self.items(app, layer, 3)
                   if "separator" not in button]  # fmt: skip
        made: Json = {
            "id": self.name("panel"),
            "title": self.dice.choice(WORDS),
            "edge": self.dice.choice(("left", "right", "bottom")),
            "items": controls + buttons,
        }
        if self.one_in(3):
            made["flow"] = "grid"
            for row, item in enumerate(made["items"]):
                item["at"] = [self.dice.randint(0, 3), row, self.dice.randint(1, 3), 1]
        if self.one_in(3):
            made |= {"width": 320, "background": "paper", "shown": False}
        if self.one_in(4):
            made["applies"] = {"names": ["*.odt"]} if self.one_in(2) else {}
        return made | self.handlers(app, ("open",))

    def toolbar(self, app: str, layer: str) -> Json:
        made: Json = {
            "id": self.name("bar"),
            "title": self.dice.choice(WORDS),
            "edge": self.dice.choice(("top", "top", "left", "right", "bottom", "float")),
            "items": self.items(app, layer),
        }
        if made["edge"] == "float":
            made["at"] = [self.dice.randint(0, 200), self.dice.randint(0, 200)]
        if self.one_in(3):
            made |= {"row": 1, "after": "app:main"}
        if self.one_in(6):
            made["shown"] = False
        return made

    def group(self, app: str, layer: str) -> Json:
        return {"id": self.name("group"), "title": self.dice.choice(WORDS), "items": self.items(app, layer)}

    def tab(self, app: str, layer: str) -> Json:
        groups = [self.group(app, layer) for _ in range(self.dice.randint(1, 3))]
        return {"id": self.name("tab"), "title": self.dice.choice(WORDS), "groups": groups} | (
            {"after": self.dice.choice(self.own(app, "tabs"))} if self.one_in(2) else {}
        )

    def own(self, app: str, what: str) -> list[str]:
        """Identities of the application's own surfaces, groups or items, with one that does not exist."""
        catalogue = self.catalogues[app]
        tabs = catalogue.get("tabs", [])
        groups = [group for tab in tabs for group in tab["groups"]]
        rows = [*catalogue.get("toolbars", []), *groups, *catalogue.get("menus", [])]
        found = {
            "tabs": tabs,
            "groups": groups,
            "rows": rows,
            "toolbars": catalogue.get("toolbars", []),
            "items": [item for row in rows for item in row["items"]],
        }[what]
        return [f"app:{thing['id']}" for thing in found] + ["app:gone"]

    def things(self, app: str) -> list[str]:
        return self.own(app, "items") + self.placed[app]

    def key(self, app: str) -> Json:
        made: Json = {"keys": self.dice.choice(KEYS), "in": self.context(app)}
        if not self.one_in(6):
            made |= self.target(app)
        if self.one_in(6):
            made["on"] = {self.dice.choice(("de", "fr", "desktop:gnome", "session:remote")): "F8"}
        return made

    def layout(self, layer: str, app: str) -> Json:
        """What one layer does to one application."""
        lower = list(self.placed[app])
        several = self.dice.randint
        made: Json = {"app": app, "layer": layer, "policy": self.dice.choice(("fixed", "open"))}
        made["toolbars"] = [self.toolbar(app, layer) for _ in range(several(0, 2))]
        made["tabs"] = [self.tab(app, layer) for _ in range(several(0, 1))]
        made["groups"] = [
            self.group(app, layer) | {"into": self.dice.choice(self.own(app, "tabs"))}
            for _ in range(several(0, 1))
        ]
        made["panels"] = [self.panel(app, layer) for _ in range(several(0, 2))]
        made["insert"] = [
            {
                "into": self.dice.choice(self.own(app, "rows")),
                "after": self.dice.choice((None, *self.own(app, "items")[:4])),
                "items": self.inserted(app, layer),
            }
            for _ in range(several(0, 3))
        ]
        things = self.own(app, "items") + lower
        made["change"] = [
            {"of": self.dice.choice(things), "set": self.dice.choice(self.changes(app))}
            for _ in range(several(0, 3))
        ]
        made["move"] = [
            {"of": self.dice.choice(things), "into": self.dice.choice(self.own(app, "rows"))}
            for _ in range(several(0, 2))
        ]
        made["hide"] = self.dice.sample(things, several(0, 2)) + self.dice.sample(
            self.own(app, "tabs"), several(0, 1)
        )
        keys = {(key["keys"], key["in"]): key for key in (self.key(app) for _ in range(several(0, 9)))}
        made["keys"] = list(keys.values())
        return {"format": "rimecrest.layout/1"} | {name: value for name, value in made.items() if value}

    def inserted(self, app: str, layer: str) -> list[Json]:
        items = self.items(app, layer, 3)
        if self.one_in(3):
            items.append({"id": self.name("submenu"), "submenu": self.dice.choice(WORDS)})
        return items

    def changes(self, app: str) -> list[Json]:
        return [
            {"label": self.dice.choice(WORDS)},
            {"picture": self.dice.choice(PICTURES), "face": self.dice.choice(FACES)},
            {"width": 2, "tip": "Another tooltip"},
            {"access": "R"},
            self.target(app),
        ]

    def write_people(self, folder: Path) -> None:
        columns = (
            "seat",
            "name",
            "departments",
            "keyboard",
            "desktop",
            "session",
            "reader",
            "wave",
            "policy",
            "input",
        )
        known = [layer["id"].partition(".")[2] for layer in self.settings["layers"][1:]]
        with (folder / "people.csv").open("w", encoding="utf-8", newline="") as file:
            rows = csv.DictWriter(file, columns, lineterminator="\n")
            rows.writeheader()
            for number in range(self.dice.randint(1, 20)):
                rows.writerow(
                    {
                        "seat": f"Seat {number + 1}",
                        "name": self.dice.choice(("Nora Sundby", "Vigga Holm", "Nils Skarv")),
                        "departments": " ".join(known[: self.dice.randint(0, len(known))][-2:]),
                        "keyboard": self.dice.choice(KEYBOARDS),
                        "desktop": self.dice.choice(DESKTOPS),
                        "session": self.dice.choice(("", "", "local", "remote")),
                        "reader": self.dice.choice(("", "", "orca")),
                        "wave": "1",
                        "policy": self.dice.choice(("", "", "restricted")),
                        "input": self.dice.choice(("", "", "ibus", "fcitx")),
                    }
                )  # fmt: skip

    def write_lists(self, folder: Path) -> None:
        """The use counts and the colleagues' own hotkeys."""
        uses, own = ["application,target,uses,basis"], ["seat,application,context,keys,run"]
        for app, catalogue in self.catalogues.items():
            for command in self.dice.sample(catalogue["commands"], 12):
                uses.append(f"{app},{command['id']},{self.dice.randint(1, 3000)},counted")
            for _ in range(self.dice.randint(0, 3)):
                keys = self.dice.choice(KEYS)
                own.append(f'Seat 1,{app},{self.context(app)},"{keys}",{self.command(app)["id"]}')
        (folder / "use.csv").write_text("\n".join(uses) + "\n", encoding="utf-8")
        (folder / "own-keys.csv").write_text("\n".join(own) + "\n", encoding="utf-8")


def main(folder: Path, count: int) -> None:
    with tempfile.TemporaryDirectory() as place:
        make_demo(Path(place))
        demo = Path(place) / "vessry"
        shutil.copytree(demo, folder / "00")
        for seed in range(1, count):
            Maker(seed, demo).write(folder / f"{seed:02}")


if __name__ == "__main__":
    main(Path(sys.argv[1]), int(sys.argv[2]))
