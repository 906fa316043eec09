"""Macros: the `.steps` language from text to running.

`parse_macro` reads, `format_macro` writes, `check_macro` compares with a catalogue, `run_macro` is the flow
that yields each thing it wants done. None of it knows which application carries the steps out.
"""

from rimecrest.core.macro.check import check_macro, effects
from rimecrest.core.macro.format import format_macro
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.run import (
    Choose,
    MacroStopped,
    Meets,
    Perform,
    Request,
    Tell,
    Write,
    run_macro,
)
from rimecrest.core.macro.steps import (
    Ask,
    Comment,
    Do,
    Fault,
    Header,
    Macro,
    Need,
    Part,
    Say,
    Statement,
    Stop,
    WriteText,
)

__all__ = [
    "Ask",
    "Choose",
    "Comment",
    "Do",
    "Fault",
    "Header",
    "Macro",
    "MacroStopped",
    "Meets",
    "Need",
    "Part",
    "Perform",
    "Request",
    "Say",
    "Statement",
    "Stop",
    "Tell",
    "Write",
    "WriteText",
    "check_macro",
    "effects",
    "format_macro",
    "parse_macro",
    "run_macro",
]
