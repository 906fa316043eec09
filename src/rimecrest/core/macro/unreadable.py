"""What is said of a line of a macro that cannot be read, and how such a line is written."""

from __future__ import annotations

from rimecrest.core.macro.steps import WORDS, Fault
from rimecrest.core.nearest import nearest


def unreadable(error: Exception, line: str, number: int) -> Fault:
    """The fault of a line; `error` may know the column where reading stopped."""
    column = max(getattr(error, "column", 1) or 1, 1)
    stripped = line.strip().removeprefix("~").strip()
    word = stripped.split()[0] if stripped else ""
    if word not in WORDS:
        near = nearest(word, WORDS)
        way_out = f"Did you mean “{near}”?" if near else f"A line begins with {', '.join(WORDS)} or #."
        return Fault(number, line.find(word) + 1, f"“{word}” begins no step", way_out)
    if line.count('"') % 2:
        return Fault(number, line.rfind('"') + 1, "The text is not closed", 'Add a " where it ends.')
    form = {
        "do": "do command name=value",
        "write": 'write "text"',
        "ask": 'ask name "Question?" choices "one", "two", or: ask name "Question?" range',
        "needs": 'needs context writing or say "What to do first."',
        "say": 'say "text", or: say "text" aloud',
        "part": 'part "title"',
        "form": 'form "title"',
        "set": "set name = value",
        "if": "if here.row > 3",
        "repeat": "repeat 3 times",
        "while": "while here.value is empty limit 100",
        "run": 'run "macro-id"',
        "for": "for letters, or: for each name in headings",
    }.get(word, f'{word} "text"')
    return Fault(number, column, f"This “{word}” cannot be read from here on", f"It is written: {form}")
