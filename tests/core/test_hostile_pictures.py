"""Pictures from outside: only PNG within bounds and SVG of plain shapes, at every door."""

from __future__ import annotations

import hashlib
import struct
import zlib
from importlib import resources
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from rimecrest.core.bundle.bundle import read_bundle
from rimecrest.core.errors import BrokenFile, RimecrestError
from rimecrest.core.model import dump_record
from rimecrest.core.pictures.checked import DEEPEST, LARGEST, MOST_ACROSS, MOST_ELEMENTS, checked_picture
from rimecrest.core.release.package import Release, build_package, read_package, understand, zipped
from rimecrest.core.release.pictures import freeze, picture_names
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.core.workspace.workspace import Workspace

NAMES = 'xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"'
HEAD = f'<svg {NAMES} viewBox="0 0 24 24">'
SHAPES = '<title>x</title><g id="a" fill="none"><path d="M0 0h24v24H0z" fill="currentColor"/></g>'
PLAIN = f"{HEAD}{SHAPES}</svg>".encode()


def svg(inner: str) -> bytes:
    return f"{HEAD}{inner}</svg>".encode()


def png(width: int, height: int) -> bytes:
    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    header = struct.pack(">IIBBBBB", width, height, 8, 0, 0, 0, 0)
    body = zlib.compress(b"\0" * (min(width, 10) + 1) * min(height, 10))
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + chunk(b"IDAT", body) + chunk(b"IEND", b"")


DOUBLING = '<g id="a0"><path d="M0 0h1"/></g>' + "".join(
    f'<g id="a{n + 1}">' + f'<use xlink:href="#a{n}"/>' * 10 + "</g>" for n in range(12)
)
HOSTILE = {
    "uses that double": (svg(DOUBLING), "it has a “use”"),
    "a picture of a pipe": (svg('<image xlink:href="/tmp/pipe"/>'), "it has a “image”"),
    "a style": (svg("<style>@import 'x'</style>"), "it has a “style”"),
    "a style attribute": (svg('<path style="fill:url(x)" d="M0 0"/>'), "the attribute “style”"),
    "a fill from elsewhere": (svg('<path fill="url(file:///x)" d="M0 0"/>'), "the attribute “fill”"),
    "a fill in disguise": (svg('<path fill="u\\72l(x)" d="M0 0"/>'), "the attribute “fill”"),
    "a link": (svg('<g xlink:href="x"/>'), "the attribute “xlink:href”"),
    "a script": (svg("<script>x</script>"), "it has a “script”"),
    "an event": (svg('<path onload="x" d="M0 0"/>'), "the attribute “onload”"),
    "dashes": (svg('<path stroke-dasharray="0.001" d="M0 0h9"/>'), "the attribute “stroke-dasharray”"),
    "a filter": (svg('<filter id="f"/>'), "it has a “filter”"),
    "an animation": (svg('<path d="M0 0"><animate/></path>'), "it has a “animate”"),
    "a mask": (svg('<mask id="m"/>'), "it has a “mask”"),
    "a doctype": (b'<!DOCTYPE svg SYSTEM "file:///etc/passwd">' + PLAIN, "it declares a document type"),
    "entities": (b'<!DOCTYPE svg [<!ENTITY a "aaaa">]>' + PLAIN, "it declares a document type"),
    "too many": (svg("<g/>" * MOST_ELEMENTS), "it has too many elements"),
    "too deep": (svg("<g>" * DEEPEST + "</g>" * DEEPEST), "it has too many elements"),
    "another page": (b"<html><body/></html>", "it begins with “html”"),
    "cut off": (PLAIN[:-20], "it is neither a PNG nor an SVG"),
    "an encoding nobody has": (
        b'<?xml version="1.0" encoding="x-none"?>' + PLAIN,
        "it is neither a PNG nor an SVG",
    ),
    "nothing": (b"", "it is neither a PNG nor an SVG"),
    "other bytes": (b"\xff\xd8\xff\xe0JFIF", "it is neither a PNG nor an SVG"),
    "too many bytes": (PLAIN + b" " * LARGEST, "it is larger than 1024 KiB"),
    "a wide PNG": (png(20_000, 16), f"it has more than {MOST_ACROSS} pixels a side"),
    "a tall PNG": (png(16, 20_000), f"it has more than {MOST_ACROSS} pixels a side"),
    "a PNG of no size": (png(0, 16), "pixels a side"),
    "the beginning of a PNG": (png(16, 16)[:15], "pixels a side"),
}


@pytest.mark.parametrize(("content", "says"), HOSTILE.values(), ids=HOSTILE.keys())
def test_what_is_no_plain_picture_is_refused_with_its_reason(content: bytes, says: str) -> None:
    with pytest.raises(BrokenFile, match=says):
        checked_picture(content, "pictures/x.svg")


@pytest.mark.parametrize("content", [PLAIN, png(48, 48), svg("")], ids=["shapes", "PNG", "empty"])
def test_a_plain_picture_is_taken(content: bytes) -> None:
    assert checked_picture(content, "x") is content


def test_every_picture_that_comes_with_rimecrest_is_plain() -> None:
    shipped = [
        path for path in resources.files("rimecrest.shell.pictures").iterdir() if path.name.endswith(".svg")
    ]
    for path in shipped:
        checked_picture(path.read_bytes(), path.name)
    for name in picture_names()[::50]:
        frozen = freeze(name)
        assert frozen is not None
        checked_picture(frozen, name)


# At each door


def test_a_workspace_opens_without_it_and_names_it(folder: Path) -> None:
    (folder / "pictures").mkdir()
    (folder / "pictures" / "plain.svg").write_bytes(PLAIN)
    (folder / "pictures" / "bad.svg").write_bytes(svg(DOUBLING))
    opened = read_workspace(folder)
    assert list(opened.pictures) == ["plain.svg"]
    assert "“use”" in opened.broken["pictures/bad.svg"]


@pytest.mark.parametrize("own", [True, False], ids=["its own", "of a set"])
def test_a_package_with_it_is_refused_by_the_seat(workspace: Workspace, own: bool) -> None:
    bad = svg(DOUBLING)
    given = replace(workspace, pictures={"bad.svg": bad} if own else {})
    content = build_package(given, 1, {}, {} if own else {"bad": bad})
    with pytest.raises(RimecrestError, match="“use”"):
        understand(read_package(content, "Release 1"), "Release 1")


@given(st.binary(max_size=200) | st.text(alphabet="<>/ ag=\"'svgpath&;![]-?x", max_size=80).map(str.encode))
def test_any_bytes_are_taken_or_refused_by_a_sentence(content: bytes) -> None:
    try:
        checked_picture(content, "x")
    except BrokenFile as error:
        assert error.where == "x"  # noqa: PT017 (most are refused, some are not)


def test_a_bundle_with_it_is_refused() -> None:
    files = {"macros/a.steps": b'macro "A"\nfor notes\n', "pictures/own/bad.svg": svg(DOUBLING)}
    release = Release(
        number=0, files={name: hashlib.sha256(data).hexdigest() for name, data in files.items()}
    )
    with pytest.raises(RimecrestError, match="“use”"):
        read_bundle(zipped({**files, "release.json": dump_record(release, "release").encode()}), "it")
