"""What comes in with a bundle under the names that it has here: macros, panels, controls, files."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from typing import Any

from msgspec import Struct, field
from msgspec.structs import replace

from rimecrest.core.catalogue.surfaces import Panel
from rimecrest.core.layout.panel_readings import renamed_readings
from rimecrest.core.macro.format import format_macro, quote
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.steps import AskPanel, Block, Do, Header, HeadLine, If, Macro, Run, Statement

COMPANIONS, OWN = "companions/", "own:"


class Names(Struct, frozen=True):
    """Old name → the one it has here, for macros, companions and pictures; the rest is as it was.

    `titles` has what people call macros, `panels` the panels of one application, `controls` what stands on
    each: (panel, control) → control.
    """

    macros: Mapping[str, str] = field(default_factory=dict)
    companions: Mapping[str, str] = field(default_factory=dict)
    pictures: Mapping[str, str] = field(default_factory=dict)
    panels: Mapping[str, str] = field(default_factory=dict)
    controls: Mapping[tuple[str, str], str] = field(default_factory=dict)
    titles: Mapping[str, str] = field(default_factory=dict)

    def pairs(self, text: str) -> Iterator[tuple[str, str]]:
        """(old, new) of each name that is another one here and stands in the rewritten text."""
        kinds = (("name:", self.titles), ("macro:", self.macros), (COMPANIONS, self.companions))
        found = [(f"{kind}{old}", f"{kind}{new}", new) for kind, names in kinds for old, new in names.items()]
        found += [(f"panel:{old}", f"panel:{new}", new) for old, new in self.panels.items()]
        for (panel, old), new in self.controls.items():
            held = self.panels.get(panel, panel)
            found.append((f"panel:{panel}.{old}", f"panel:{held}.{new}", f"{held}.{new}"))
        yield from ((old, new) for old, new, word in found if old != new and quote(word)[1:-1] in text)

    @staticmethod
    def of(pairs: Iterable[tuple[str, str]]) -> Names:
        """The names that such pairs tell; what is no pair of one kind tells none."""
        made: dict[str, dict[str, str]] = {"name:": {}, "macro:": {}, COMPANIONS: {}, "panel:": {}}
        controls: dict[tuple[str, str], str] = {}
        for old, new in pairs:
            for kind, names in made.items():
                if old.startswith(kind) and new.startswith(kind):
                    names[old.removeprefix(kind)] = new.removeprefix(kind)
        for old in [old for old in made["panel:"] if "." in old]:
            panel, control = old.split(".", 1)
            controls[panel, control] = made["panel:"].pop(old).partition(".")[2]
        return Names(made["macro:"], made[COMPANIONS], {}, made["panel:"], controls, made["name:"])

    def back(self) -> Names:
        """The names with which what was rewritten by these is as it was."""

        def turned(names: Mapping[str, str]) -> dict[str, str]:
            return {new: old for old, new in names.items()}

        controls = {(self.panels.get(panel, panel), new): old for (panel, old), new in self.controls.items()}
        return Names(
            turned(self.macros),
            turned(self.companions),
            turned(self.pictures),
            turned(self.panels),
            controls,
            turned(self.titles),
        )

    def macro(self, macro: Macro, text: str, own: str = "") -> str:
        """The text of a macro, or of steps that are private on the panel `own`."""
        made = self._macro(macro)
        written = format_macro(made) if made != macro else text
        return renamed_readings(written, lambda parts: self._reading(parts, own))

    def _reading(self, parts: tuple[str, ...], own: str) -> tuple[str, ...]:
        if len(parts) == 1 and own:
            return (self.controls.get((own, parts[0]), parts[0]),)
        if len(parts) == 2:
            panel, control = parts
            return self.panels.get(panel, panel), self.controls.get((panel, control), control)
        return parts

    def run(self, run: str) -> str:
        """A target as items name it."""
        kind, _, name = run.partition(":")
        return f"macro:{self.macros.get(name, name)}" if kind == "macro" else run

    def path(self, path: str) -> str:
        """The path of a companion; any other as it is."""
        bare = path.strip().strip("'\"")
        name = bare.removeprefix(COMPANIONS)
        here = self.companions.get(name) if bare.startswith(COMPANIONS) else None
        return path if here in (None, name) else f"{COMPANIONS}{here}"

    def panel(self, panel: Panel) -> Panel:
        """A panel with everything on it."""
        data = self._thing(panel.to_data(), panel.id)
        data["items"] = [self._thing(item.to_data(), panel.id) for item in panel.items]
        data["id"] = self.panels.get(panel.id, panel.id)
        data.pop("after", None)
        for item in data["items"]:
            item["id"] = self.controls.get((panel.id, item["id"]), item["id"])
        return Panel.model_validate(data)

    def _thing(self, data: dict[str, Any], panel: str) -> dict[str, Any]:
        made = self._does(data, panel)
        if picture := made.get("picture"):
            name = picture.removeprefix(OWN)
            made["picture"] = f"{OWN}{self.pictures.get(name, name)}" if picture.startswith(OWN) else picture
        if on := made.get("on"):
            made["on"] = {event: self._does(does, panel) for event, does in on.items()}
        return made

    def _does(self, data: dict[str, Any], panel: str) -> dict[str, Any]:
        made = dict(data)
        if made.get("run"):
            made["run"] = self.run(made["run"])
        if made.get("args"):
            made["args"] = {name: self.path(value) for name, value in made["args"].items()}
        if made.get("steps"):
            made["steps"] = self.macro(parse_macro(made["steps"])[0], made["steps"], panel)
        return made

    def _macro(self, macro: Macro) -> Macro:
        return replace(macro, head=tuple(map(self._head, macro.head)), steps=tuple(self._steps(macro.steps)))

    def _head(self, line: HeadLine) -> HeadLine:
        if isinstance(line, Header) and line.word == "with":
            return replace(line, value=self.path(line.value))
        if isinstance(line, Header) and line.word == "macro":
            return replace(line, value=self.titles.get(line.value, line.value))
        return line

    def _steps(self, steps: tuple[Statement, ...]) -> Iterator[Statement]:
        for step in steps:
            made = step
            if isinstance(made, Run):
                made = replace(made, macro=self.macros.get(made.macro, made.macro))
            elif isinstance(made, AskPanel):
                made = replace(made, panel=self.panels.get(made.panel, made.panel))
            elif isinstance(made, Do):
                settings = tuple(replace(s, value=self.path(s.value)) for s in made.settings)
                made = replace(made, settings=settings)
            if isinstance(made, Block):
                made = replace(made, steps=tuple(self._steps(made.steps)))
            if isinstance(made, If) and made.otherwise is not None:
                made = replace(made, otherwise=tuple(self._steps(made.otherwise)))
            yield made
