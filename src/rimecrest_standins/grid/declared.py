"""The one list that Grid's commands are declared into, and the contexts they are live in."""

from rimecrest.core.keys.contexts import Context
from rimecrest.kit.declare import Declarations
from rimecrest.kit.panels.fields import declare_panel_fields

declarations = Declarations("grid", "Grid", "1.0", opener="Ctrl+J")
declarations.contexts = (
    Context(id="anywhere", name="Anywhere", within=None),
    Context(id="cell", name="On a cell", types=True, focus="cells", reached_from="anywhere"),
    Context(id="writing", name="Writing in a cell", types=True, focus="line"),
    Context(id="sum", name="In a formula", within="writing", rank=1, types=True, focus="line"),
    Context(id="note", name="In a note", within="writing", rank=2, types=True, focus="text"),
)
declare_panel_fields(declarations)
command = declarations.command
reading = declarations.reading
