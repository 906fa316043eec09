"""Typed arguments of commands: what fits, and what to say when a value does not."""

import re
from enum import StrEnum
from urllib.parse import urlsplit

from rimecrest.core.model import Record
from rimecrest.core.nearest import nearest
from rimecrest.core.words import tr


class ArgumentType(StrEnum):
    """The types that `.steps` can write and the studio can edit."""

    TEXT = "text"
    NUMBER = "number"
    WHOLE = "whole"
    CHOICE = "choice"
    SWITCH = "switch"
    COLOUR = "colour"
    PATH = "path"
    ADDRESS = "address"


SWITCHES = ("yes", "no", "flip")
"""A switch reached (`yes`, `no`) or turned over; a macro should say which state it wants."""

_COLOUR = re.compile(r"#[0-9A-Fa-f]{6}\Z")


class Argument(Record):
    """One argument of a command. `least` and `most` bound numbers, both included.

    `among` names the reading whose entries it can be: of the document, or, where the command opens a file, of
    that very file.
    """

    name: str
    type: ArgumentType = ArgumentType.TEXT
    choices: tuple[str, ...] = ()
    default: str | None = None
    least: float | None = None
    most: float | None = None
    among: str = ""


def argument_fault(argument: Argument, value: str) -> str:
    """Why `value`, as written, does not fit `argument`; empty when it does.

    Text with `{names}` is only known when the macro runs, so it passes here.
    """
    if "{" in value.replace("{{", ""):
        return ""
    match argument.type:
        case ArgumentType.CHOICE | ArgumentType.SWITCH:
            allowed = argument.choices or SWITCHES
            if value not in allowed:
                near = nearest(value, allowed)
                hint = tr("; did you mean {near}?", near=near) if near else ""
                return tr(
                    "{name} is one of {allowed}, not “{value}”{hint}",
                    name=argument.name,
                    allowed=", ".join(allowed),
                    value=value,
                    hint=hint,
                )
        case ArgumentType.NUMBER | ArgumentType.WHOLE:
            return _number_fault(argument, value)
        case ArgumentType.COLOUR:
            if not _COLOUR.match(value):
                return tr("{name} is a colour like #14657A, not “{value}”", name=argument.name, value=value)
        case ArgumentType.ADDRESS:
            if not address_words(value):
                return tr(
                    "{name} is an address that begins with https:, http: or mailto:, not “{value}”",
                    name=argument.name,
                    value=value,
                )
        case ArgumentType.TEXT | ArgumentType.PATH:
            pass
    return ""


def address_words(value: str) -> str:
    """What an address is called in short: its host, or who gets the mail; empty where it is none.

    Only `http`, `https` (RFC 9110, 4.2) and `mailto` (RFC 6068) are opened: other schemes run programs.
    """
    if any(character.isspace() for character in value):
        return ""
    try:
        parts = urlsplit(value)
        host = parts.hostname or ""
    except ValueError:
        return ""
    if parts.scheme in ("http", "https"):
        return host
    if parts.scheme == "mailto" and all(parts.path.partition("@")):
        return parts.path
    return ""


def corrected(argument: Argument, value: str) -> str:
    """The value that was probably meant where this one does not fit; the value itself if none is near."""
    match argument.type:
        case ArgumentType.CHOICE | ArgumentType.SWITCH:
            allowed = argument.choices or SWITCHES
            return value if value in allowed else nearest(value, allowed) or value
        case ArgumentType.NUMBER | ArgumentType.WHOLE:
            try:
                number = float(value)
            except ValueError:
                return value
            least, most = argument.least, argument.most
            bound = least if least is not None and number < least else most
            outside = bound is not None and ((bound == least and number < bound) or number > bound)
            return f"{bound:g}" if bound is not None and outside else value
    return value


def _number_fault(argument: Argument, value: str) -> str:
    try:
        number = int(value) if argument.type is ArgumentType.WHOLE else float(value)
    except ValueError:
        kind = tr("a whole number") if argument.type is ArgumentType.WHOLE else "a number"
        return tr("{name} is {kind}, not “{value}”", name=argument.name, kind=kind, value=value)
    too_small = argument.least is not None and number < argument.least
    too_large = argument.most is not None and number > argument.most
    if too_small or too_large:
        least = "" if argument.least is None else f"{argument.least:g}"
        most = "" if argument.most is None else f"{argument.most:g}"
        return tr(
            "{name} lies from {least} to {most}, not {value}",
            name=argument.name,
            least=least,
            most=most,
            value=value,
        )
    return ""
