"""Characters that nobody sees, by their names in the Unicode standard, or plainer where those are long."""

from __future__ import annotations

import unicodedata

from rimecrest.core.words import tr

_NAMES = {
    "\t": "tab",
    "\u00a0": tr("no-break space"),
    "\u00ad": tr("soft hyphen"),
    "\u200b": tr("zero-width space"),
    "\u200c": tr("zero-width non-joiner"),
    "\u200d": tr("zero-width joiner"),
    "\u2028": tr("line break"),
    "\u202f": tr("narrow no-break space"),
    "\u2060": tr("word joiner"),
    "\ufeff": tr("zero-width no-break space"),
}


def shown_character(character: str) -> str:
    """A character as people can see it: itself, or its name in brackets."""
    if character in _NAMES:
        return f"[{_NAMES[character]}]"
    # Cf: characters that only steer how others are set, as those for writing from right to left.
    if character not in " \n" and unicodedata.category(character) in ("Cc", "Cf", "Zs", "Zl", "Zp"):
        return f"[{unicodedata.name(character, f'U+{ord(character):04X}').lower()}]"
    return character


def with_names(text: str) -> str:
    """A text with the characters that nobody sees by their names."""
    return text if text.isascii() and text.isprintable() else "".join(map(shown_character, text))
