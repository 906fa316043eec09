"""What every stored record has in common: frozen, unknown fields kept, a format tag that is checked.

A module of records has annotations, not texts of them (no `from __future__ import annotations`): the texts
would be compiled when the classes are made, at each start.
"""

from __future__ import annotations

import json
import operator
import re
from collections.abc import Callable, Mapping
from typing import Any, Self, TypeVar

from pydantic import BaseModel, ConfigDict, ValidationError
from pydantic_core import from_json, to_json

from rimecrest.core.errors import BrokenFile, NewerFormat
from rimecrest.core.words import tr

Stored = TypeVar("Stored", bound="Record")
Value = TypeVar("Value")


_VERSION = re.compile(r"[0-9]{1,6}", re.ASCII)


class Record(BaseModel):
    """A frozen value read from or written to JSON. Fields it does not know are kept and written back."""

    model_config = ConfigDict(frozen=True, extra="allow", populate_by_name=True)

    def model_copy(self, *, update: Mapping[str, Any] | None = None, deep: bool = False) -> Self:
        """A copy with other values. What was worked out of the old ones is not kept (`cached_property`)."""
        made = super().model_copy(update=update, deep=deep)
        for name in [name for name in made.__dict__ if name not in type(self).model_fields]:
            del made.__dict__[name]
        return made

    def updated(self, **fields: tuple[Any, ...]) -> Self:
        """With other values in fields that hold several; itself where all of them are the same objects."""
        if all(_same(getattr(self, name), values) for name, values in fields.items()):
            return self
        return self.model_copy(update=fields)

    def to_data(self) -> dict[str, Any]:
        """The JSON object, without the fields that have their default value."""
        return self.model_dump(mode="json", by_alias=True, exclude_defaults=True)


def _same(one: tuple[Any, ...], other: tuple[Any, ...]) -> bool:
    return len(one) == len(other) and all(map(operator.is_, one, other))


def dump_json(data: Any) -> str:
    """Text of a JSON file: two spaces, keys in the order given, one newline at the end."""
    try:
        return to_json(data, indent=2).decode() + "\n"
    except ValueError:  # half of a character, which only the standard library writes
        return json.dumps(data, ensure_ascii=False, indent=2) + "\n"


def dump_record(record: Record, kind: str, version: int = 1) -> str:
    """Text of a stored record with its format tag first."""
    tag = f"rimecrest.{kind}/{version}"
    try:
        text = record.model_dump_json(indent=2, by_alias=True, exclude_defaults=True)
    except ValueError:  # as in `dump_json`
        return dump_json({"format": tag, **record.to_data()})
    rest = "\n}" if text == "{}" else f",{text[1:]}"
    return f'{{\n  "format": "{tag}"{rest}\n'


def parse_json(text: str, where: str) -> Any:
    """Read JSON, or raise BrokenFile with the line.

    Strictly: no half of a character, no number that is none, nothing nested deeper than can be written again.
    """
    try:
        return from_json(text, allow_inf_nan=False)
    except ValueError as error:
        msg, _, place = str(error).rpartition(" at line ")
        line = place.partition(" ")[0]
        if "recursion" in msg:
            raise BrokenFile(where, tr("it is nested too deeply")) from None
        if "out of range" in msg:
            raise BrokenFile(where, tr("a number in it is too long")) from None
        said = tr("this is not JSON ({msg})", msg=msg or error)
        raise BrokenFile(where, said, int(line) if line.isdecimal() else 0) from None


def parse_record(model: type[Stored], text: str, kind: str, where: str, version: int = 1) -> Stored:
    """Read a stored record.

    Raises:
        BrokenFile: not JSON, not of this kind, or a field that does not fit.
        NewerFormat: written by a newer Rimecrest.
    """
    data = parse_json(text, where)
    if not isinstance(data, dict):
        raise BrokenFile(where, tr("it holds no {kind}", kind=kind))
    tag = str(data.pop("format", ""))
    name, _, number = tag.partition("/")
    if name != f"rimecrest.{kind}" or not _VERSION.fullmatch(number):
        raise BrokenFile(
            where,
            tr("its format is “{tag}”, not rimecrest.{kind}/{version}", tag=tag, kind=kind, version=version),
        )
    if int(number) > version:
        raise NewerFormat(where, tag, f"rimecrest.{kind}/{version}")
    return validated(model, data, where)


def validated(model: type[Stored], data: Any, where: str) -> Stored:
    """The record that `data` describes, or BrokenFile naming the first field that does not fit."""
    return validated_by(model.model_validate, data, where)


def validated_by(validate: Callable[[Any], Value], data: Any, where: str) -> Value:
    """The same with a validation of one's own."""
    try:
        return validate(data)
    except ValidationError as error:
        first = error.errors()[0]
        place = " → ".join(str(part) for part in first["loc"]) or tr("the whole")
        raise BrokenFile(where, f"{place}: {first['msg'].removeprefix('Value error, ')}") from None
