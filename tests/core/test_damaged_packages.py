"""A package that was damaged, anywhere and anyhow, is refused in words or is whole; never a traceback."""

from __future__ import annotations

import contextlib
import io
import json
import zipfile
from typing import Any

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from rimecrest.core.errors import RimecrestError
from rimecrest.core.release.audience import audience_of, parse_audience
from rimecrest.core.release.package import build_package, read_package, understand, zipped
from rimecrest.core.release.receipt import parse_receipt
from tests.conftest import make_workspace

WHOLE = build_package(make_workspace(), 1, {"organisation": "Greeting is new."}, {})


def deflated(method: int = zipfile.ZIP_DEFLATED) -> bytes:
    """The same package, compressed."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(WHOLE)) as given, zipfile.ZipFile(out, "w", method) as made:
        for name in given.namelist():
            made.writestr(name, given.read(name))
    return out.getvalue()


DEFLATED = deflated()


def taken(content: bytes) -> bool:
    """Whether a seat would take it; anything but a RimecrestError fails the test."""
    try:
        understand(read_package(content, "it"), "it")
    except RimecrestError:
        return False
    return True


def test_stored_and_deflated_are_taken() -> None:
    assert taken(WHOLE)
    assert taken(DEFLATED)


@pytest.mark.parametrize("method", [zipfile.ZIP_BZIP2, zipfile.ZIP_LZMA])
def test_packed_in_another_way_is_refused(method: int) -> None:
    with pytest.raises(RimecrestError, match="packed in another way"):
        read_package(deflated(method), "it")


@settings(max_examples=400)
@given(
    st.sampled_from([WHOLE, DEFLATED]),
    st.lists(st.tuples(st.floats(0, 1, exclude_max=True), st.integers(0, 255)), min_size=1, max_size=4),
    st.floats(0, 1),
)
def test_damaged_bytes(content: bytes, changes: list[tuple[float, int]], cut: float) -> None:
    damaged = bytearray(content)
    for where, value in changes:
        damaged[int(where * len(damaged))] = value
    taken(bytes(damaged))
    taken(bytes(damaged[: int(cut * len(damaged))]))


NUMBERS: list[Any] = [-1, 0.5, 10**400, 1e308, float("inf"), True, "²", "1", None, [], {}]
VALUES = st.one_of(st.sampled_from(NUMBERS), st.text(max_size=8), st.integers())


def changed(data: Any, path: list[int], value: Any) -> Any:
    """JSON data with the value at a place, found by counting, changed."""
    if not path or not isinstance(data, dict | list) or not data:
        return value
    keys = list(data) if isinstance(data, dict) else list(range(len(data)))
    key = keys[path[0] % len(keys)]
    made = dict(data) if isinstance(data, dict) else list(data)
    made[key] = changed(data[key], path[1:], value)
    return made


@settings(max_examples=300)
@given(st.lists(st.integers(0, 20), min_size=1, max_size=5), VALUES)
@example([0], 10**400)
def test_a_manifest_an_audience_or_receipt_with_any_value_anywhere(path: list[int], value: Any) -> None:
    with zipfile.ZipFile(io.BytesIO(WHOLE)) as archive:
        files = {name: archive.read(name) for name in archive.namelist()}
    manifest = json.loads(files["release.json"])
    taken(zipped({**files, "release.json": json.dumps(changed(manifest, path, value)).encode()}))
    audience = json.loads(audience_of(make_workspace(), 1).model_dump_json())
    receipt = {"format": "rimecrest.receipt/1", "seat": "a", "release": 1, "state": "failed", "at": "2026"}
    for data, parse in (
        ({"format": "rimecrest.audience/1", **audience}, parse_audience),
        (receipt, parse_receipt),
    ):
        with contextlib.suppress(RimecrestError):
            parse(json.dumps(changed(data, path, value)), "it")  # type: ignore[operator]


def test_numbers_of_thousands_of_digits_are_refused_by_a_sentence() -> None:
    text = '{"format": "rimecrest.receipt/1", "seat": "a", "release": ' + "9" * 5000 + "}"
    with pytest.raises(RimecrestError):
        parse_receipt(text, "it")
