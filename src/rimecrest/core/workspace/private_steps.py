"""Steps that are private to one thing, made a macro of the layer, and a macro's made private again.

Private steps on a panel read its fields by short names (`panel.vessel`); a macro needs the panel's as well
(`panel.lanes.vessel`): they are written accordingly on the way, both ways.
"""

from __future__ import annotations

from typing import Any

from msgspec import Struct

from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.panel_readings import renamed_readings
from rimecrest.core.words import tr
from rimecrest.core.workspace.edits import Edit, SetFields, Together
from rimecrest.core.workspace.file_edits import PutMacro
from rimecrest.core.workspace.fresh import fresh_macro
from rimecrest.core.workspace.macro_file import MacroFile, macro_file
from rimecrest.core.workspace.origin import marked
from rimecrest.core.workspace.where_used import uses
from rimecrest.core.workspace.workspace import Workspace


class Runner(Struct, frozen=True):
    """Something that runs steps: an item or panel of an application, as a layer sees it.

    `panel` is the id of the panel that it is or stands on; `on` what it has at all its events, for a control
    or panel, and `event` the one that is meant. An item without events has `on` None. `made_by` is the public
    key of whoever outside made the steps that it has now.
    """

    layer: str
    app: str
    thing: str
    panel: str = ""
    event: str = ""
    on: dict[str, Any] | None = None
    made_by: str = ""

    def fields(self, does: dict[str, Any]) -> dict[str, Any]:
        """The fields of the thing when it does that: `{"run": …, "args": …}` or `{"steps": …}`."""
        if self.on is None:
            return {"run": None, "args": {}, "steps": None, "made_by": "", **does}
        return {"on": {**self.on, self.event: does}}


def shared(workspace: Workspace, runner: Runner, steps: str, name: str) -> Edit:
    """Make a macro of private steps, on the shelf of the layer, which runs instead of them.

    Whoever outside made the steps made the macro. It runs when its text is what they signed, or when
    somebody makes it their own.

    Args:
        name: what the macro's identity is made of.
    """
    identity = fresh_macro(workspace, name)
    text = _renamed(steps, runner.panel, longer=True) if runner.panel else steps
    if runner.made_by and not macro_file(runner.layer, identity, text).macro.from_outside:
        text = marked(text, workspace.settings.makers.get(runner.made_by, ""), runner.made_by)
    runs = runner.fields({"run": f"macro:{identity}"})
    return Together(
        tr("a macro of its steps"),
        (
            PutMacro(runner.layer, identity, text),
            SetFields(runner.layer, runner.app, runner.thing, runs),
        ),
    )


def taken_in(workspace: Workspace, runner: Runner, file: MacroFile) -> Edit:
    """Make the steps of a macro private to what runs it.

    A macro of the same layer that nothing else runs goes with that: its steps live here now.

    Raises:
        RimecrestError: somebody outside made the macro, and nothing shows who. Whether steps run is decided
            by who made them: the key goes along with private steps, and there is none.
    """
    origin = workspace.origin((file.layer, file.id))
    if origin is not None and not (origin.key and origin.holds):
        raise RimecrestError(
            tr(
                "“{name}” stays a macro: {maker} made it, as it says, and nothing shows that it is theirs.",
                name=file.name,
                maker=origin.maker or tr("somebody unknown"),
            ),
            tr("Let the button run the macro, or write steps of your own."),
        )
    text = _renamed(file.text, runner.panel, longer=False) if runner.panel else file.text
    theirs = {"made_by": origin.key} if origin is not None else {}
    fields = runner.fields({"steps": text, **theirs})
    keep = SetFields(runner.layer, runner.app, runner.thing, fields)
    mine = file.layer == runner.layer
    unused = mine and not uses(keep.on(workspace), file.layer, file.id)
    gone = (PutMacro(file.layer, file.id, None),) if unused else ()
    return Together(tr("private steps"), (keep, *gone))


def _renamed(text: str, panel: str, longer: bool) -> str:
    """The text with the readings of a panel by their long names, or by the short ones of its own steps."""

    def name(parts: tuple[str, ...]) -> tuple[str, ...]:
        if longer and len(parts) == 1:
            return (panel, *parts)
        return parts[1:] if not longer and len(parts) == 2 and parts[0] == panel else parts

    return renamed_readings(text, name)
