"""The fields of a template: what stands between double brackets is asked when a document is made from it.

| written | asked as |
| --- | --- |
| `[[Vessel]]` | a text |
| `[[Vessel = Ovessa]]` | a text that begins so |
| `[[Vessel: Ovessa, Brinholt]]` | a choice |
| `[[Day: date]]` | a day; today where nothing else is said |
| `[[Part: from headings]]` | a choice among what a reading tells |

A field that is written several times is asked once.
"""

from __future__ import annotations

import re
from collections.abc import Mapping

from msgspec import Struct

DATE = "date"
FROM = "from "
MOST = 60
"""Fields of one template: a form of more is no help."""
_KIND = re.compile(r"(?<!\d):|:(?!\d)")
"""What stands between a field's name and its kind: not the colon of a time, as in `[[Sailing = 08:25]]`."""
_FIELD = re.compile(r"\[\[([^\[\]\r\n]{1,300})\]\]")


class TemplateField(Struct, frozen=True):
    """One field: its name, what it begins with, what can be chosen, the reading that tells that."""

    name: str
    default: str = ""
    choices: tuple[str, ...] = ()
    reading: str = ""
    is_date: bool = False


def _field(written: str) -> TemplateField | None:
    head, *others = _KIND.split(written, maxsplit=1)
    rest = others[0] if others else ""
    name, _, default = (part.strip() for part in head.partition("="))
    rest = rest.strip()
    if not name:
        return None
    if rest.lower() == DATE:
        return TemplateField(name, default, is_date=True)
    if rest.lower().startswith(FROM):
        return TemplateField(name, default, reading=rest[len(FROM) :].strip())
    choices = tuple(choice.strip() for choice in rest.split(",") if choice.strip())
    return TemplateField(name, default, choices)


def template_fields(text: str) -> list[TemplateField]:
    """The fields of a text, in the order in which they are written first."""
    found: dict[str, TemplateField] = {}
    for written in _FIELD.findall(text):
        field = _field(written)
        if field is not None and (field.name not in found or found[field.name] == TemplateField(field.name)):
            # Where it is said what a field is counts, not where it is only named.
            found[field.name] = field
    return list(found.values())[:MOST]


def places(text: str) -> list[tuple[int, int, str]]:
    """(begin, end, name) of every place of a field, in order."""
    found = []
    for match in _FIELD.finditer(text):
        field = _field(match[1])
        if field is not None:
            found.append((match.start(), match.end(), field.name))
    return found


def filled(text: str, answers: Mapping[str, str]) -> str:
    """The text with answers in place of their fields; what has no answer stays."""

    def answer(match: re.Match[str]) -> str:
        field = _field(match[1])
        return answers.get(field.name, match[0]) if field is not None else match[0]

    return _FIELD.sub(answer, text)


def parse_values(written: str) -> dict[str, str]:
    """Answers as a command has them: `Vessel=Ovessa; Berth=2`. A backslash keeps a sign behind it."""
    found: dict[str, str] = {}
    for part in _split(written, ";"):
        name, *value = _split(part, "=")
        if name.strip() and value:
            found[_bare(name)] = "=".join(map(_bare, value))
    return found


def format_values(answers: Mapping[str, str]) -> str:
    """The same the other way."""
    return "; ".join(f"{_marked(name)}={_marked(value)}" for name, value in answers.items())


def _marked(text: str) -> str:
    return re.sub(r"([\\;=])", r"\\\1", text)


def _bare(text: str) -> str:
    return re.sub(r"\\(.)", r"\1", text.strip())


def _split(text: str, at: str) -> list[str]:
    """The parts between signs that no backslash stands before; the backslashes stay."""
    parts, marked = [""], False
    for character in text:
        if character == at and not marked:
            parts.append("")
        else:
            parts[-1] += character
        marked = character == "\\" and not marked
    return parts
