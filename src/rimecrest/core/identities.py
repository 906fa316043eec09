"""Identities: one type for each kind, checked wherever one is read.

An identity becomes a part of a path, of a package, of another file's text. So whatever comes from outside (a
file's name, a field of a file, a message) goes through its type before anything is done with it: what is no
identity raises a RimecrestError with the way out. Each is a `str`, and compares and sorts as one.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Container
from functools import cache
from typing import Any, ClassVar, Self

from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler
from pydantic.json_schema import JsonSchemaValue
from pydantic_core import CoreSchema, core_schema
from slugify import slugify

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr

LONGEST = 100
"""Characters of an identity at most: with its folder and ending it stays a file's name everywhere."""
_WORD = r"[^\W_][\w-]*"
_WORDS = tr("Use letters, digits, “-” and “_”; begin with a letter or digit.")


@cache
def _matching(pattern: str) -> Callable[[str], object]:
    return re.compile(pattern).fullmatch


class Identity(str):
    """What all kinds share.

    Raises:
        RimecrestError: the text is no identity of this kind.
    """

    __slots__ = ()
    what: ClassVar[str] = "identity"
    pattern: ClassVar[str] = _WORD
    way_out: ClassVar[str] = _WORDS

    def __new__(cls, text: str) -> Self:
        if type(text) is cls:
            return text
        if len(text) > LONGEST or not _matching(cls.pattern)(text):
            shown = text if len(text) <= 40 else f"{text[:40]}…"
            raise RimecrestError(
                tr("“{shown}” cannot be the {what}.", shown=shown, what=cls.what), cls.way_out
            )
        return super().__new__(cls, text)

    @classmethod
    def __get_pydantic_core_schema__(cls, _source: Any, _handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.no_info_after_validator_function(
            cls._validated,
            core_schema.str_schema(),
            serialization=core_schema.plain_serializer_function_ser_schema(str),
        )

    @classmethod
    def __get_pydantic_json_schema__(
        cls, _schema: CoreSchema, _handler: GetJsonSchemaHandler
    ) -> JsonSchemaValue:
        return {"type": "string", "maxLength": LONGEST}

    @classmethod
    def _validated(cls, text: str) -> Self:
        try:
            return cls(text)
        except RimecrestError as error:
            raise ValueError(str(error).rstrip(".")) from None


class AppId(Identity):
    """An application: `letters`."""

    __slots__ = ()
    what = tr("id of an application")
    pattern = r"[a-z][a-z0-9-]*"
    way_out = tr("Use small letters, digits and “-”.")


class LayerId(Identity):
    """A layer: `organisation`, `department.freight`."""

    __slots__ = ()
    what = tr("id of a layer")
    pattern = rf"{_WORD}(\.{_WORD})*"


class MacroId(Identity):
    """A macro, on whatever shelf: the name of its file."""

    __slots__ = ()
    what = tr("identity of a macro")


class ThingId(Identity):
    """An item, group, tab, toolbar or menu within what one layer or application placed."""

    __slots__ = ()
    what = tr("identity of a thing on a surface")


class CommandId(Identity):
    """A command of an application: `letters:embolden`."""

    __slots__ = ()
    what = tr("id of a command")
    pattern = r"[a-z][a-z0-9-]*:[a-z][a-z0-9-]*"
    way_out = tr("It is written like letters:embolden.")


class SeatId(Identity):
    """A seat in files that leave the workspace."""

    __slots__ = ()
    what = tr("id of a seat")


class ProfileId(Identity):
    """A profile on a seat, by a random number; empty in files of before."""

    __slots__ = ()
    what = tr("id of a profile")
    pattern = r"[0-9a-f]{0,32}"
    way_out = tr("It is up to 32 digits of 0 to 9 and a to f.")


class FileName(Identity):
    """The name of a picture or companion: one part of a path, never hidden, never leading elsewhere."""

    __slots__ = ()
    what = tr("name of a file")
    pattern = r"[^./\\\x00-\x1f\x7f][^/\\\x00-\x1f\x7f]*"
    way_out = tr("It has no slash in it and does not begin with a dot.")


def slug(words: str, otherwise: str) -> str:
    """An identity made of words in any script; `otherwise` where they have neither letter nor digit."""
    return slugify(words, max_length=60, word_boundary=True) or otherwise


def fresh(wanted: str, taken: Container[str]) -> str:
    """The identity that is wanted, or with the first number behind it that makes it one nobody has."""
    if wanted not in taken:
        return wanted
    number = 2
    while f"{wanted}-{number}" in taken:
        number += 1
    return f"{wanted}-{number}"
