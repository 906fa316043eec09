"""What keeps each macro from running, worked out once and again only for what changed."""

from __future__ import annotations

from rimecrest.core.layout.panel_readings import PREFIX
from rimecrest.core.macro.check import check_macro
from rimecrest.core.macro.step_tree import walk
from rimecrest.core.macro.steps import AskPanel, Fault, Macro, Run
from rimecrest.core.words import tr
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.core.workspace.workspace import Workspace


class MacroFaults:
    """The faults of the macros of one state of the macros and catalogues.

    Args:
        before: those of an earlier state; of files that are the same and run no other macro they are kept.
    """

    def __init__(self, workspace: Workspace, before: MacroFaults | None = None) -> None:
        self.macros = workspace.macros
        self.catalogues = workspace.catalogues
        self._workspace = workspace
        self._visible: dict[str, dict[str, MacroFile]] = {}
        self._macros: dict[str, dict[str, Macro]] = {}
        self._reach: dict[str, list[tuple[MacroFile, Fault]]] = {}
        self._found: dict[tuple[str, int], tuple[MacroFile, tuple[Fault, ...]]] = {}
        if before is not None and before.catalogues is workspace.catalogues:
            self._found = before.without_runs()

    def without_runs(self) -> dict[tuple[str, int], tuple[MacroFile, tuple[Fault, ...]]]:
        """What was found of macros that run no other one and read no panel: it stays true."""
        return {
            key: (file, faults)
            for key, (file, faults) in self._found.items()
            if not any(isinstance(step, Run | AskPanel) for _, step in walk(file.macro))
            and PREFIX not in file.text
        }

    def visible(self, layer: str) -> dict[str, MacroFile]:
        """The macros that a layer can see, by id."""
        if layer not in self._visible:
            stack = self._workspace.stack_up_to(layer)
            self._visible[layer] = self._workspace.macros_of(stack)
        return self._visible[layer]

    def _macros_of(self, layer: str) -> dict[str, Macro]:
        if layer not in self._macros:
            self._macros[layer] = {name: file.macro for name, file in self.visible(layer).items()}
        return self._macros[layer]

    def of(self, layer: str, file: MacroFile) -> tuple[Fault, ...]:
        """What keeps a macro from running under a layer."""
        key = (layer, id(file))
        if key not in self._found:
            stack = self._workspace.stack_up_to(layer)
            catalogue = self._workspace.told(stack, file.macro.application)
            companions = self._workspace.companion_paths
            found = check_macro(file.macro, catalogue, companions, self._macros_of(layer))
            # The file is kept beside its faults, so that its identity stays its own.
            self._found[key] = (file, (*file.faults, *found))
        return self._found[key][1]

    def out_of_reach(self, layer: str) -> list[tuple[MacroFile, Fault]]:
        """The macros on a layer's shelf that name a file where no colleague can reach it."""
        if layer not in self._reach:
            files = (file for (shelf, _), file in self.macros.items() if shelf == layer)
            faults = (
                (file, next((f for f in self.of(layer, file) if f.kind == "reach"), None)) for file in files
            )
            self._reach[layer] = [(file, fault) for file, fault in faults if fault is not None]
        return self._reach[layer]

    def broken(self, app: str) -> list[tuple[str, MacroFile, Fault]]:
        """The finished macros of an application that cannot run: layer of the shelf, macro, first fault."""
        found = []
        for (layer, _), file in self.macros.items():
            if (
                file.macro.application == app
                and layer in self._workspace.layers
                and not file.macro.unfinished
            ):
                fault = next((fault for fault in self.of(layer, file) if fault.kind != "reach"), None)
                if fault is not None:
                    found.append((layer, file, fault))
        return found

    def sentence(self, layer: str, app: str, run: str) -> str:
        """Why what runs this macro in an application cannot; empty when it can, or is no macro."""
        kind, _, name = run.partition(":")
        file = self.visible(layer).get(name) if kind == "macro" else None
        if file is None:
            return ""
        if file.macro.application not in ("", app):
            return tr(
                "runs “{name}”, which is for {application}.",
                name=file.name,
                application=file.macro.application,
            )
        faults = self.of(layer, file)
        if faults:
            where = f"macros/{file.layer}/{file.id}.steps"
            return tr(
                "runs “{name}”, which cannot run ({where}, {fault}).",
                name=file.name,
                where=where,
                fault=str(faults[0]).rstrip("."),
            )
        return ""
