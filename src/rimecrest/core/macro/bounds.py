"""How much a macro may be, and do: each bound with its reason. What reaches one is told by a sentence."""

from __future__ import annotations

DEEPEST = 50
"""Blocks within blocks at most; deeper nesting is a slip, and would cost recursion."""
DEEPEST_EXPRESSION = 100
"""Operations within operations at most, for the same reason."""
DEEPEST_RUN = 20
"""Macros that run macros, one within the other, at most: deeper they run one another without end."""
MOST_STEPS = 100_000
"""Steps one run may take (docs/formats/README.md, "Macros"): some ten seconds of work in a document."""
LONGEST_TEXT = 200_000
"""Characters that a name may hold, and one step write: some hundred pages. A text that doubles itself sixty
times would else fill the memory of any computer."""
LONGEST_PIECE = 10_000
"""Characters that are written at once: between two pieces the window answers."""
LONGEST_MACRO = 2_000_000
"""Characters of a macro at most: it is read at every start of an application, at about a million a second."""
