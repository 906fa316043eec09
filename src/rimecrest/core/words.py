"""Every sentence that people read is made here: in their language, counted, listed, and with its owner.

The language is that of the surroundings (`LANGUAGE`, `LC_ALL`, `LC_MESSAGES`, `LANG`), found with gettext in
`locale/` beside the package; English, which the code is written in, needs no file. What is written into
files, sent over the link or compared is no sentence and does not go through here.
"""

from __future__ import annotations

import gettext
from collections.abc import Iterable
from pathlib import Path

DOMAIN = "rimecrest"
LOCALE = Path(__file__).parents[1] / "locale"


def spoken(folder: Path, languages: list[str] | None = None) -> gettext.NullTranslations:
    """The first of some languages of which a folder has a catalogue; else English.

    Without languages those of the surroundings.
    """
    return gettext.translation(DOMAIN, folder, languages, fallback=True)


_language: gettext.NullTranslations = spoken(LOCALE)


def use_language(language: gettext.NullTranslations) -> None:
    """Speak another language from here on. What was made before, with the modules, stays as it is."""
    global _language
    _language = language


def tr(template: str, /, **values: object) -> str:
    """A sentence. Values stand in it by name, as in `tr("{name} is done.", name=name)`."""
    found = _language.gettext(template)
    return found.format(**values) if values else found


def listed(names: Iterable[str], most: int = 3) -> str:
    """“A, B and C”, or “A, B, C and 4 more”."""
    found = list(dict.fromkeys(names))
    if len(found) > most:
        return tr("{names} and {number} more", names=", ".join(found[:most]), number=len(found) - most)
    if len(found) > 1:
        return tr("{names} and {last}", names=", ".join(found[:-1]), last=found[-1])
    return "".join(found)


def counted(number: int, one: str, many: str = "") -> str:
    """“1 seat”, “7 seats”; `many` where it is not made with an s."""
    found = _language.ngettext(f"{{number:,}} {one}", f"{{number:,}} {many or f'{one}s'}", number)
    return found.format(number=number)


def owned(name: str) -> str:
    """“Freight desk’s”, “Quay offices’”: a plural has the apostrophe alone."""
    return tr("{name}’", name=name) if name.endswith("s") else tr("{name}’s", name=name)


LONG = 34
"""Letters of a value from which it is shortened in the middle; changed, it shows whole."""


def shortened(text: str, most: int = LONG) -> str:
    """A text with an … in its middle, where it is long."""
    if len(text) <= most:
        return text
    half = (most - 1) // 2
    return f"{text[:half].rstrip()}…{text[len(text) - half :].lstrip()}"
