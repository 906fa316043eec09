"""Which pictures are taken: PNG within bounds, and SVG that is nothing but shapes.

What draws an SVG follows everything in it: uses of uses double without end, images and styles name files.
So only shapes with plain attributes are let in, and every door asks here: reading a workspace, a bundle, a
release, and the drawing itself. Sizes are told by the header, before anything is decoded.
"""

from __future__ import annotations

import re
from xml.parsers import expat

from rimecrest.core.errors import BrokenFile
from rimecrest.core.words import tr

LARGEST = 1024 * 1024
"""Bytes of a picture on a button."""
MOST_ACROSS = 2048
"""Pixels of a PNG, each way: a button shows 48 at most, and its screen may be of three times the density."""
MOST_ELEMENTS = 2_000
DEEPEST = 20
"""Elements within one another."""

_PNG = b"\x89PNG\r\n\x1a\n"
_SHAPES = frozenset(("path", "rect", "circle", "ellipse", "line", "polyline", "polygon"))
_ELEMENTS = _SHAPES | {"svg", "g", "title", "desc"}
_ATTRIBUTES = frozenset(
    (
        *("d", "points", "x", "y", "x1", "y1", "x2", "y2", "cx", "cy", "r", "rx", "ry", "width", "height"),
        *("viewBox", "version", "id", "class", "transform", "color", "opacity", "preserveAspectRatio"),
        *("fill", "fill-opacity", "fill-rule", "clip-rule"),
        *(
            "stroke",
            "stroke-opacity",
            "stroke-width",
            "stroke-linecap",
            "stroke-linejoin",
            "stroke-miterlimit",
        ),
        *("xmlns", "xml:space", "role", "focusable"),
    )
)
"""No dashes among them: a line in dashes of a thousandth is a million lines."""
_NAMES_OTHERS = re.compile(r"url\s*\(|@import|\\", re.IGNORECASE)


def checked_picture(content: bytes, where: str) -> bytes:
    """The picture itself, when it may be drawn.

    Raises:
        BrokenFile: it is neither a PNG nor an SVG of shapes, or beyond a bound; the reason says which.
    """
    if len(content) > LARGEST:
        raise BrokenFile(where, tr("it is larger than {most} KiB", most=LARGEST >> 10))
    if content.startswith(_PNG):
        width, height = int.from_bytes(content[16:20]), int.from_bytes(content[20:24])
        if content[12:16] != b"IHDR" or not 0 < width <= MOST_ACROSS or not 0 < height <= MOST_ACROSS:
            raise BrokenFile(where, tr("it has more than {most} pixels a side", most=MOST_ACROSS))
        return content
    try:
        _Shapes(where).read(content)
    except (expat.ExpatError, ValueError, LookupError) as error:
        raise BrokenFile(where, tr("it is neither a PNG nor an SVG ({error})", error=error)) from None
    return content


def follows_scheme(content: bytes) -> bool:
    """Whether a picture has no colours of its own: a PNG of grey with alpha, an SVG in `currentColor`."""
    if content.startswith(_PNG):
        return content[25:26] == b"\x04"
    return b"currentColor" in content and b'fill="#' not in content


class _Shapes:
    """Reads an SVG, and refuses what is no shape."""

    def __init__(self, where: str) -> None:
        self._where = where
        self._depth = self._count = 0
        self._parser = expat.ParserCreate()
        self._parser.StartElementHandler = self._begun
        self._parser.EndElementHandler = self._ended
        self._parser.StartDoctypeDeclHandler = self._declared
        self._parser.EntityDeclHandler = self._declared

    def read(self, content: bytes) -> None:
        self._parser.Parse(content, True)

    def _refuse(self, what: str) -> BrokenFile:
        return BrokenFile(self._where, tr("{what}: save it as an SVG of plain paths", what=what))

    def _declared(self, *_declaration: object) -> None:
        raise self._refuse(tr("it declares a document type"))

    def _begun(self, name: str, attributes: dict[str, str]) -> None:
        if self._count == 0 and name != "svg":
            raise self._refuse(tr("it begins with “{name}”", name=name[:40]))
        self._count += 1
        self._depth += 1
        if self._count > MOST_ELEMENTS or self._depth > DEEPEST:
            raise self._refuse(tr("it has too many elements"))
        if name not in _ELEMENTS:
            raise self._refuse(tr("it has a “{name}”", name=name[:40]))
        for attribute, value in attributes.items():
            # What other programs note for themselves under names of their own is not drawn.
            foreign = ":" in attribute and not attribute.startswith(("xlink:", "xml:"))
            if (attribute not in _ATTRIBUTES and not foreign) or _NAMES_OTHERS.search(value):
                raise self._refuse(tr("it has the attribute “{name}”", name=attribute[:40]))

    def _ended(self, _name: str) -> None:
        self._depth -= 1
