"""The one list that Letters' commands are declared into, and the contexts they are live in."""

from rimecrest.core.keys.contexts import Context
from rimecrest.kit.declare import Declarations
from rimecrest.kit.panels.fields import declare_panel_fields

declarations = Declarations("letters", "Letters", "1.0", opener="Ctrl+J")
declarations.contexts = (
    Context(id="anywhere", name="Anywhere", within=None),
    Context(id="writing", name="When writing", types=True, focus="text"),
    Context(id="table", name="In a table", within="writing", rank=1, types=True, focus="text"),
    Context(id="note", name="In a note", within="writing", rank=2, types=True, focus="text"),
)
declare_panel_fields(declarations)
command = declarations.command
reading = declarations.reading
