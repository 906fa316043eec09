"""The one list that Post's commands are declared into, and the contexts they are live in."""

from rimecrest.core.keys.contexts import Context
from rimecrest.kit.declare import Declarations
from rimecrest.kit.panels.fields import declare_panel_fields

declarations = Declarations("post", "Post", "1.0", opener="Ctrl+J")
declarations.contexts = (
    Context(id="anywhere", name="Anywhere", within=None),
    Context(id="mailbox", name="In the mailbox"),
    Context(id="list", name="In the list of messages", within="mailbox", focus="list"),
    Context(id="reading", name="When reading", within="mailbox", focus="reader"),
    Context(id="composing", name="When writing a message", types=True, focus="entry"),
    Context(id="address", name="In an address", within="composing", types=True, focus="entry"),
    Context(
        id="writing",
        name="In the text of a message",
        within="composing",
        types=True,
        focus="text",
        reached_from="composing",
    ),
)
declare_panel_fields(declarations)
command, reading = declarations.command, declarations.reading
