"""Ask one version of the program everything that the comparison looks at, and write the answers as files.

usage: adapter.py WORKSPACES ANSWERS

The answers are plain data under fixed names, so that the classes behind them may change. This is the only
module of the comparison that knows those classes.
"""

from __future__ import annotations

import json
import random
import sys
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from PyQt6.QtWidgets import QApplication

from rimecrest.core.catalogue.items import Handler
from rimecrest.core.check.run import check
from rimecrest.core.errors import RimecrestError
from rimecrest.core.explain.standpoint import seat_standpoint
from rimecrest.core.explain.why import why
from rimecrest.core.keys.bindings import Binding
from rimecrest.core.keys.chords import format_sequence
from rimecrest.core.keys.obstacles import Obstacles
from rimecrest.core.keys.traits import NOWHERE
from rimecrest.core.layout.compare import compare, whats_new
from rimecrest.core.layout.seen import (
    Doing,
    Outcome,
    SeenButton,
    SeenControl,
    SeenItem,
    SeenPanel,
    SeenRow,
    SeenSubmenu,
)
from rimecrest.core.mend.make_fixes import fixes
from rimecrest.core.release.package import build_package
from rimecrest.core.release.pictures import frozen_pictures
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.shell.pictures import PictureBook
from rimecrest.shell.start import make_qt_application
from rimecrest.studio.layout.stage import Stage
from rimecrest.surfaces.seat_keys import KeySeat

QUESTIONS = 500
"""Answers of *why* for one workspace."""
FIXED = 10
"""Findings of one workspace whose fixes are asked for."""
WIDTH = 1100
"""Pixels of the window that the stage draws."""


def doing(found: Doing) -> dict[str, Any]:
    """What a thing runs at an event."""
    return {
        "of": found.of,
        "layer": found.layer,
        "label": found.label,
        "event": found.event,
        "run": found.run,
        "args": found.args,
        "steps": found.steps,
        "made by": found.made_by,
    }


def handlers(on: Mapping[Any, Handler]) -> dict[str, Any]:
    return {event: [does.run, does.args, does.steps, does.made_by] for event, does in on.items()}


def item(found: SeenItem) -> dict[str, Any]:
    """An item as a colleague sees it."""
    said: dict[str, Any] = {
        "id": found.id,
        "layer": found.layer,
        "changed by": found.changed_by,
        "beside": found.beside,
        "at": found.at,
    }
    match found:
        case SeenButton():
            return said | {
                "kind": "button",
                "run": found.run,
                "args": found.args,
                "steps": found.steps,
                "made by": found.made_by,
                "label": found.label,
                "tip": found.tip,
                "picture": found.picture,
                "face": found.face,
                "width": found.width,
                "collapse": found.collapse,
                "access": found.access,
                "exists": found.exists,
                "named": found.named,
                "doings": [doing(one) for one in found.doings],
            }
        case SeenControl():
            return said | {
                "kind": found.kind,
                "caption": found.caption,
                "value": found.value,
                "choices": found.choices,
                "reading": found.reading,
                "doings": [doing(one) for one in found.doings],
            }
        case SeenSubmenu():
            return said | {
                "kind": "submenu",
                "title": found.title,
                "picture": found.picture,
                "menu": row(found.menu),
            }
    return said | {"kind": "separator"}


def row(found: SeenRow) -> dict[str, Any]:
    """A toolbar, group, panel or menu."""
    names = ("edge", "row", "at", "context", "tab", "width", "background", "flow", "shown")
    said = {name: getattr(found, name) for name in ("id", "layer", "title", "picture")}
    said |= {name: getattr(found, name) for name in names if hasattr(found, name)}
    if isinstance(found, SeenPanel):
        said |= {
            "on": handlers(found.on),
            "doings": [doing(one) for one in found.doings],
            "applies": found.applies.to_data(),
        }
    return said | {"items": [item(one) for one in found.items]}


def binding(found: Binding) -> list[Any]:
    spelled = format_sequence(found.spelled) if found.spelled else ""
    keys = format_sequence(found.sequence)
    return [
        found.id,
        found.layer,
        found.level,
        found.context,
        keys,
        spelled,
        found.run,
        found.args,
        found.fixed,
    ]


def outcome(found: Outcome) -> dict[str, Any]:
    """All that one stack of layers comes to in one application."""
    return {
        "toolbars": [row(one) for one in found.toolbars],
        "tabs": [
            [tab.id, tab.layer, tab.title, tab.picture, [row(group) for group in tab.groups]]
            for tab in found.tabs
        ],
        "menus": [row(one) for one in found.menus],
        "panels": [row(one) for one in found.panels],
        "bindings": [binding(one) for one in found.bindings],
        "hidden": found.hidden,
        "lost": found.lost,
        "out of sight": [[one.id, one.by, one.kind, one.title, one.where] for one in found.out_of_sight],
    }


def outcomes(workspace: Workspace) -> dict[str, Any]:
    """The outcome of every stack up to a layer, and of every seat."""
    said = {}
    for app in workspace.catalogues:
        for layer in workspace.layers:
            said[f"{app}, {layer}"] = outcome(workspace.outcome(workspace.stack_up_to(layer), app))
        for seat in workspace.people:
            laid = workspace.outcome(workspace.stack_of(seat), app, seat.traits)
            said[f"{app}, {seat.seat}"] = [binding(one) for one in laid.bindings]
    return said


def findings(workspace: Workspace, dice: random.Random) -> list[Any]:
    """Every finding in order, some of them with their fixes: each fix is tried, which takes a while."""
    checked = check(workspace)
    asked = set(dice.sample(range(len(checked.findings)), min(FIXED, len(checked.findings))))
    return [
        [
            found.to_data(),
            found.layer,
            found.subject,
            found.gravity,
            found.own,
            [[owner.id, owner.layer, owner.run, owner.name, owner.args] for owner in found.owners],
            found.winner and found.winner.id,
            [fix.label for fix in fixes(found, workspace, checked)] if number in asked else None,
        ]
        for number, found in enumerate(checked.findings)
    ]


def reasons(workspace: Workspace, dice: random.Random) -> list[Any]:
    """What *why* says of keys of the layouts, of the application and of nobody, on seats drawn at random."""
    said: list[Any] = []
    apps = sorted(workspace.catalogues)
    while len(said) < QUESTIONS:
        seat, app = dice.choice(workspace.people), dice.choice(apps)
        at = seat_standpoint(workspace, seat, app)
        contexts = ["", *sorted(at.contexts.places)]
        bound = sorted({format_sequence(one.sequence) for one in at.outcome.bindings})
        for _ in range(25):
            keys = dice.choice([*bound, "F6", "Ctrl+Shift+Y", "Alt+B", "Ctrl+J, Z", "Menu", "KP_5"])
            context = dice.choice(contexts)
            try:
                chain = [[link.name, link.ok, link.sentence, link.way_out] for link in why(at, keys, context)]
            except RimecrestError as error:
                chain = [[str(error)]]
            said.append([seat.seat, app, keys, context, chain])
    return said[:QUESTIONS]


def news(workspace: Workspace) -> dict[str, Any]:
    """The differences between each layer's outcome and that of the layers below it, both ways."""
    said = {}
    for app in workspace.catalogues:
        before, below = workspace.outcome((), app), ()
        for layer in workspace.layers:
            stack = workspace.stack_up_to(layer)
            after = workspace.outcome(stack, app)
            targets = workspace.targets(stack, app)
            there = compare(before, after, targets)
            back = compare(after, before, workspace.targets(below, app))
            said[f"{app}, {layer}"] = [
                [[one.kind, one.of, one.sentence, one.lost] for one in there],
                [[one.kind, one.of, one.sentence, one.lost] for one in back],
                whats_new(there),
            ]
            before, below = after, stack
    return said


def pictures(workspace: Workspace, folder: Path) -> None:
    """One picture of the stage for each application and layer, each with another tab open."""
    obstacles = Obstacles(workspace.settings.reserved)
    for app in sorted(workspace.catalogues):
        catalogue = workspace.catalogue(app)
        for number, layer in enumerate(workspace.layers):
            stage = Stage(PictureBook(None))
            laid = workspace.outcome(workspace.stack_up_to(layer), app)
            stage.set_width(WIDTH)
            stage.show_outcome(laid, KeySeat(catalogue.context_tree, obstacles, NOWHERE), layer)
            if laid.tabs:
                stage.frame.choose_tab(laid.tabs[number % len(laid.tabs)].id)
            stage.show()
            stage.frame.settle()
            QApplication.processEvents()
            stage.grab().save(str(folder / f"{app}-{layer}.png"))
            stage.close()
            stage.deleteLater()


def main(workspaces: Path, answers: Path) -> None:
    _qt = make_qt_application("compare")
    for place in sorted(workspaces.iterdir()):
        workspace = read_workspace(place)
        folder = answers / place.name
        folder.mkdir(parents=True)
        said = {
            "outcomes": outcomes(workspace),
            "findings": findings(workspace, random.Random(place.name)),
            "why": reasons(workspace, random.Random(place.name)),
            "news": news(workspace),
        }
        for name, answer in said.items():
            text = json.dumps(answer, ensure_ascii=False, indent=1, default=str)
            (folder / f"{name}.json").write_text(text, encoding="utf-8")
        package = build_package(workspace, 7, {"organisation": "News."}, frozen_pictures(workspace))
        (folder / "package.zip").write_bytes(package)
        pictures(workspace, folder)


if __name__ == "__main__":
    main(Path(sys.argv[1]), Path(sys.argv[2]))
