"""The panels that come in with a bundle: under identities of their own, and harmless until vouched for."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from msgspec.structs import replace

from rimecrest.core.bundle.bundle import Bundle
from rimecrest.core.bundle.needs import PanelKey, panel_steps, panels_of
from rimecrest.core.catalogue.surfaces import Panel
from rimecrest.core.macro.format import quote, step_text
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.record import step_of
from rimecrest.core.workspace.fresh import distinct, fresh_thing
from rimecrest.core.workspace.rewriting import Names
from rimecrest.core.workspace.workspace import Workspace


def arriving_panels(
    bundle: Bundle, workspace: Workspace, layer: str, names: Names, taken: Iterable[str]
) -> tuple[list[tuple[str, Panel]], dict[str, Names]]:
    """The panels that macros which are taken in need, and the names with them, by application.

    A panel that the layer has already, just the same, does not come a second time.
    """
    wanted = _wanted(bundle, taken)
    panels: list[tuple[str, Panel]] = []
    by_app: dict[str, Names] = {}
    for app in sorted({app for app, _ in wanted} & set(workspace.catalogues)):
        here = {panel.id: _content(panel) for panel in workspace.layout(layer, app).panels}
        mine = [
            panel for (name, _), panel in bundle.panels.items() if name == app and (name, panel.id) in wanted
        ]
        fresh = [panel for panel in mine if here.get(panel.id) != _content(names.panel(panel))]
        ids: dict[str, str] = {}
        controls: dict[tuple[str, str], str] = {}
        for panel in fresh:
            ids[panel.id] = fresh_thing(workspace, layer, app, panel.id, (*ids.values(), *controls.values()))
            items = distinct(workspace, layer, app, panel.items, besides=(*ids.values(), *controls.values()))
            for old, new in zip(panel.items, items, strict=True):
                controls[panel.id, old.id] = new.id
        by_app[app] = replace(names, panels=ids, controls=controls)
        last = workspace.layout(layer, app).panels[-1].id if here else None
        for made in map(by_app[app].panel, fresh):
            panels.append((app, _made_by(_key(bundle), made).model_copy(update={"after": last})))
            last = made.id
    return panels, by_app


def _key(bundle: Bundle) -> str:
    """Whose private steps its panels have: of an unsigned one nobody's, for whom nobody can vouch."""
    return bundle.key if bundle.signed else "nobody"


def _content(panel: Panel) -> Panel:
    """What two panels are compared by: all but whose private steps they are, and which panel they follow."""
    return _made_by("", panel).model_copy(update={"after": None})


def _made_by(key: str, panel: Panel) -> Panel:
    """The panel with a maker's public key at all private steps, whatever it says of them; empty: ours."""

    def signed(does: dict[str, Any]) -> dict[str, Any]:
        does = {name: value for name, value in does.items() if name != "made_by"}
        return {**does, "made_by": key} if does.get("steps") and key else does

    def thing(data: dict[str, Any]) -> dict[str, Any]:
        on = {event: signed(does) for event, does in data.get("on", {}).items()}
        return {**signed(data), "on": on} if on else signed(data)

    data = thing(panel.to_data())
    return Panel.model_validate({**data, "items": [thing(item.to_data()) for item in panel.items]})


def _wanted(bundle: Bundle, taken: Iterable[str]) -> dict[PanelKey, Panel]:
    """The panels of a bundle that some of its macros need, directly or through panels."""
    found: dict[PanelKey, Panel] = {}
    files = [bundle.macros[name] for name in taken]
    ahead = [(file.macro, file.text, file.macro.application) for file in files]
    while ahead:
        macro, text, app = ahead.pop()
        for key in ((app, identity) for identity in sorted(panels_of(macro, text))):
            if key in bundle.panels and key not in found:
                found[key] = bundle.panels[key]
                ahead += [(parse_macro(steps)[0], steps, app) for steps in panel_steps(found[key])]
    return found


def tame(panel: Panel, app: str, workspace: Workspace, bundle: Bundle) -> Panel:
    """The panel with private steps of the bundle's maker in place of each command it would run by itself.

    A button's command stays: nobody presses it but a person who sees what it is.
    """

    def handler(does: dict[str, Any]) -> dict[str, Any]:
        command = workspace.catalogues[app].by_id.get(does.get("run", ""))
        if command is None:
            return does
        step = step_text(step_of(command, does.get("args", {})))
        words = quote(panel.title or panel.id)
        return {"steps": f"macro {words}\nfor {app}\n\n{step}\n", "made_by": _key(bundle)}

    def thing(data: dict[str, Any]) -> dict[str, Any]:
        on = data.get("on", {})
        return {**data, "on": {event: handler(does) for event, does in on.items()}} if on else data

    return Panel.model_validate(
        {**thing(panel.to_data()), "items": [thing(item.to_data()) for item in panel.items]}
    )
