"""Macros: the `.steps` language from text to running.

`parse_macro` reads, `format_macro` writes, `check_macro` compares with a catalogue, `run_macro` is the flow
that yields each thing it wants done. None of it knows which application carries the steps out.
"""

from typing import TYPE_CHECKING

from rimecrest.core.late import late_names

if TYPE_CHECKING:
    from rimecrest.core.macro.check import check_macro, effects, unreachable
    from rimecrest.core.macro.format import format_macro
    from rimecrest.core.macro.parse import parse_macro
    from rimecrest.core.macro.record import Recording
    from rimecrest.core.macro.run import (
        Breathe,
        Choose,
        Fetch,
        Fill,
        MacroStopped,
        Meets,
        Perform,
        Present,
        Read,
        Request,
        Tell,
        Write,
        run_macro,
    )
    from rimecrest.core.macro.sentences import sentence
    from rimecrest.core.macro.steps import (
        RANGE,
        Ask,
        AskPanel,
        Block,
        Comment,
        Do,
        Fault,
        ForEach,
        Form,
        Header,
        If,
        Macro,
        Need,
        Part,
        Repeat,
        Run,
        Say,
        Set,
        Statement,
        Stop,
        While,
        WriteText,
    )

__all__ = [
    "RANGE",
    "Ask",
    "AskPanel",
    "Block",
    "Breathe",
    "Choose",
    "Comment",
    "Do",
    "Fault",
    "Fetch",
    "Fill",
    "ForEach",
    "Form",
    "Header",
    "If",
    "Macro",
    "MacroStopped",
    "Meets",
    "Need",
    "Part",
    "Perform",
    "Present",
    "Read",
    "Recording",
    "Repeat",
    "Request",
    "Run",
    "Say",
    "Set",
    "Statement",
    "Stop",
    "Tell",
    "While",
    "Write",
    "WriteText",
    "check_macro",
    "effects",
    "format_macro",
    "parse_macro",
    "run_macro",
    "sentence",
    "unreachable",
]

__getattr__ = late_names(
    __name__,
    {
        "check": "check_macro effects unreachable",
        "format": "format_macro",
        "parse": "parse_macro",
        "record": "Recording",
        "run": (
            "Breathe Choose Fetch Fill MacroStopped Meets Perform Present Read Request Tell Write run_macro"
        ),
        "sentences": "sentence",
        "steps": (
            "RANGE Ask AskPanel Block Comment Do Fault ForEach Form Header If Macro Need Part "
            "Repeat Run Say Set Statement Stop While WriteText"
        ),
    },
)
