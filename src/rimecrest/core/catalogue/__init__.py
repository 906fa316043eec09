"""What an application can do: its commands, readings, contexts, own surfaces and own hotkeys.

An application writes its catalogue from its declarations (`embed.declare`); everybody else reads it.
"""

from rimecrest.core.catalogue.arguments import Argument, ArgumentType, argument_fault
from rimecrest.core.catalogue.catalogue import (
    Catalogue,
    Command,
    Effect,
    OwnKey,
    Reading,
    parse_catalogue,
)

__all__ = [
    "Argument",
    "ArgumentType",
    "Catalogue",
    "Command",
    "Effect",
    "OwnKey",
    "Reading",
    "argument_fault",
    "parse_catalogue",
]
