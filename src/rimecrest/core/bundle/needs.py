"""What a macro needs elsewhere: the macros it runs, the panels it asks or reads, and what these need."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from msgspec import Struct, field

from rimecrest.core.catalogue.items import Faced
from rimecrest.core.catalogue.surfaces import Panel, runs_of, settings_of, steps_of
from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.panel_readings import panels_named
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.steps import AskPanel, Macro, Run
from rimecrest.core.words import tr
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.core.workspace.workspace import MacroKey, Workspace

COMPANIONS = "companions/"
OWN = "own:"
PanelKey = tuple[str, str]
"""An application and the id of a panel in it."""


class Needs(Struct, frozen=True):
    """Macros by id, panels by application and id, names of companions and of own pictures."""

    macros: dict[str, MacroFile] = field(default_factory=dict)
    panels: dict[PanelKey, Panel] = field(default_factory=dict)
    companions: set[str] = field(default_factory=set)
    pictures: set[str] = field(default_factory=set)


def panels_of(macro: Macro, text: str) -> set[str]:
    """The ids of the panels that a macro asks, or reads by their long names."""
    asked = {step.panel for step in macro.live_steps() if isinstance(step, AskPanel)}
    return asked | panels_named(text)


def panel_steps(panel: Panel) -> Iterator[str]:
    """The private steps on a panel: its own and those of its items."""
    for thing in (panel, *panel.items):
        yield from steps_of(thing)


def needed(workspace: Workspace, keys: Iterable[MacroKey]) -> Needs:
    """Everything that these macros need, themselves among it.

    Raises:
        RimecrestError: a macro that is run, or a panel that is asked, does not exist.
    """
    gathering = _Gathering(workspace)
    for key in keys:
        gathering.macro(workspace.macros[key])
    found = gathering.found
    return Needs(
        dict(sorted(found.macros.items())),
        dict(sorted(found.panels.items())),
        found.companions,
        found.pictures,
    )


class _Gathering:
    """What was found so far."""

    def __init__(self, workspace: Workspace) -> None:
        self._workspace = workspace
        self.found = Needs()

    def macro(self, file: MacroFile) -> None:
        if file.id in self.found.macros:
            return
        self.found.macros[file.id] = file
        self._steps(file.macro, file.text, file.name, file.layer, file.macro.application)

    def _steps(self, macro: Macro, text: str, name: str, layer: str, app: str) -> None:
        self.found.companions.update(path.removeprefix(COMPANIONS) for path in macro.companions)
        for step in macro.live_steps():
            if isinstance(step, Run):
                self._run(step.macro, name, layer)
        for panel in sorted(panels_of(macro, text)):
            self._panel(panel, name, layer, app)

    def _stack(self, layer: str) -> tuple[str, ...]:
        return (*self._workspace.stack_up_to(layer), layer)

    def _run(self, macro: str, name: str, layer: str) -> None:
        seen = self._workspace.macros_of(self._stack(layer))
        if macro not in seen:
            raise RimecrestError(
                tr("“{name}” runs “{macro}”, which does not exist.", name=name, macro=macro),
                tr("Mend it first."),
            )
        self.macro(seen[macro])

    def _panel(self, identity: str, name: str, layer: str, app: str) -> None:
        if (app, identity) in self.found.panels:
            return
        layouts = self._workspace.layouts_of(self._stack(layer), app)
        panels = (panel for layout in layouts for panel in layout.panels if panel.id == identity)
        panel = next(panels, None)
        if panel is None:
            raise RimecrestError(
                tr("“{name}” needs the panel “{panel}”, which does not exist.", name=name, panel=identity),
                tr("Mend it first."),
            )
        self.found.panels[app, identity] = panel
        for thing in (panel, *panel.items):
            for run in runs_of(thing):
                kind, _, macro = run.partition(":")
                if kind == "macro":
                    self._run(macro, panel.title, layer)
            paths = (value for value in settings_of(thing) if value.startswith(COMPANIONS))
            self.found.companions.update(path.removeprefix(COMPANIONS) for path in paths)
            picture = thing.picture if isinstance(thing, Faced | Panel) else None
            if picture and picture.startswith(OWN):
                self.found.pictures.add(picture.removeprefix(OWN))
        for text in panel_steps(panel):
            self._steps(parse_macro(text)[0], text, panel.title, layer, app)
