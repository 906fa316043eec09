"""Which characters of a text no font of this machine can draw."""

from __future__ import annotations

from PyQt6.QtGui import QFont, QTextLayout

from rimecrest.core.words import tr


def unseen(text: str, face: QFont) -> str:
    """The characters, each once, that are drawn as an empty box: no font that stands in has them.

    Qt looks for another font itself; where it finds none, the glyph has the index 0.
    """
    found: dict[str, None] = {}
    for character in dict.fromkeys(text):
        layout = QTextLayout(character, face)
        layout.beginLayout()
        layout.createLine()
        layout.endLayout()
        if any(0 in run.glyphIndexes() for run in layout.glyphRuns()):
            found[character] = None
    return "".join(found)


def said_of_unseen(text: str, face: QFont) -> str:
    """A sentence about what cannot be drawn; empty when everything can."""
    missing = unseen(text, face)
    if not missing:
        return ""
    names = ", ".join(f"U+{ord(character):04X}" for character in missing)
    return tr(
        "No font here can draw {names}: colleagues may see an empty box. A picture shows everywhere.",
        names=names,
    )
