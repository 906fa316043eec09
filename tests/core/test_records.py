"""Stored records as text: the same whichever way it is written."""

from __future__ import annotations

import json

import pytest

from rimecrest.core.catalogue.items import Button
from rimecrest.core.model import Record, dump_json, dump_record
from rimecrest.core.release.profile import Shown
from rimecrest.core.workspace.workspace import Workspace


def through_data(record: Record, kind: str) -> str:
    return dump_json({"format": f"rimecrest.{kind}/1", **record.to_data()})


def test_a_record_is_written_as_its_data_with_the_format_first(demo: Workspace) -> None:
    records: list[tuple[str, Record]] = [("workspace", demo.settings)]
    records += [("layout", layout) for layout in demo.layouts.values()]
    records += [("catalogue", catalogue) for catalogue in demo.catalogues.values()]
    assert len(records) > 8
    for kind, record in records:
        text = dump_record(record, kind)
        assert text == through_data(record, kind)
        assert next(iter(json.loads(text))) == "format"


@pytest.mark.parametrize(
    "record",
    [
        Shown(),
        Button(id="a", label="{}, \\ “ü”\n\x07"),
        Button(id="half", label="half of a character: \ud800"),
        Button.model_validate({"id": "a", "unknown": {"deep": [1, 2.5, None, {}]}, "more": []}),
    ],
)
def test_records_with_nothing_in_them_with_odd_letters_and_with_fields_that_nobody_knows(
    record: Record,
) -> None:
    text = dump_record(record, "thing")
    assert text == through_data(record, "thing")
    assert json.loads(text).pop("format") == "rimecrest.thing/1"
