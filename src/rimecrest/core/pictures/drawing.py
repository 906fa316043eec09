"""A picture drawn on a grid of pixels: what each tool does to it, and how it is stored.

A cell is empty (""), a token of `paints` ("ink", "crest" …) or a value like "#A8480A". It is stored as an SVG
of one path a colour, a run of cells after another, and read back from that.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from enum import StrEnum

from msgspec import Struct
from msgspec.structs import replace
from PIL import Image

from rimecrest.core.pictures.checked import follows_scheme
from rimecrest.core.pictures.images import fitted
from rimecrest.core.pictures.looks import drawn
from rimecrest.core.pictures.paints import INK, PAINTS, as_written

GRIDS = (16, 20, 24, 32)
"""Cells a side."""
Point = tuple[int, int]
_PATH = re.compile(r'<path (?:fill="(currentColor|#[0-9A-Fa-f]{6})")(?: class="([a-z]+)")? d="([^"]*)"/>')
_RUN = re.compile(r"M(\d+) (\d+)h(\d+)v1h-\d+z")
_SEEN = 110
"""Alpha (0 to 255) from which a pixel of an image becomes a drawn cell."""


class Mirror(StrEnum):
    """Where else each stroke is drawn."""

    NONE = "nowhere"
    ACROSS = "left and right"
    DOWN = "top and bottom"
    BOTH = "both"


class Drawing(Struct, frozen=True):
    """Cells row by row from the upper left corner, `size` × `size` of them."""

    size: int
    cells: tuple[str, ...]

    @staticmethod
    def empty(size: int = 20) -> Drawing:
        return Drawing(size, ("",) * (size * size))

    def at(self, point: Point) -> str:
        """The colour of a cell; empty outside."""
        return self.cells[self._index(point)] if self.holds(point) else ""

    def holds(self, point: Point) -> bool:
        return all(0 <= along < self.size for along in point)

    def _index(self, point: Point) -> int:
        return point[1] * self.size + point[0]

    # The tools

    def painted(self, points: Iterable[Point], colour: str, mirror: Mirror = Mirror.NONE) -> Drawing:
        """With these cells, and those opposite, in that colour; what is outside is left out."""
        cells = list(self.cells)
        for point in points:
            for each in self._opposite(point, mirror):
                if self.holds(each):
                    cells[self._index(each)] = colour
        return replace(self, cells=tuple(cells))

    def _opposite(self, point: Point, mirror: Mirror) -> Iterator[Point]:
        x, y = point
        last = self.size - 1
        yield point
        if mirror in (Mirror.ACROSS, Mirror.BOTH):
            yield last - x, y
        if mirror in (Mirror.DOWN, Mirror.BOTH):
            yield x, last - y
        if mirror is Mirror.BOTH:
            yield last - x, last - y

    def filled(self, point: Point, colour: str, mirror: Mirror = Mirror.NONE) -> Drawing:
        """With the cells of one colour that hang together there, side by side, in another."""
        made = self
        for begin in self._opposite(point, mirror):
            made = made._flooded(begin, colour)
        return made

    def _flooded(self, begin: Point, colour: str) -> Drawing:
        before = self.at(begin)
        if not self.holds(begin) or before == colour:
            return self
        cells = list(self.cells)
        ahead = [begin]
        while ahead:
            point = ahead.pop()
            if self.holds(point) and cells[self._index(point)] == before:
                cells[self._index(point)] = colour
                x, y = point
                ahead += [(x - 1, y), (x + 1, y), (x, y - 1), (x, y + 1)]
        return replace(self, cells=tuple(cells))

    def shifted(self, dx: int, dy: int) -> Drawing:
        """Moved by whole cells; what leaves at one side comes in at the other, so nothing is lost."""
        moved = (
            self.at(((x - dx) % self.size, (y - dy) % self.size))
            for y in range(self.size)
            for x in range(self.size)
        )
        return replace(self, cells=tuple(moved))

    def resized(self, size: int) -> Drawing:
        """On another grid, at the same scale of the whole: each new cell takes the one at its middle."""
        every = [
            self.at((int((x + 0.5) * self.size / size), int((y + 0.5) * self.size / size)))
            for y in range(size)
            for x in range(size)
        ]
        return Drawing(size, tuple(every))

    # How it is stored

    def to_svg(self) -> bytes:
        runs: dict[str, list[str]] = {}
        for y in range(self.size):
            x = 0
            while x < self.size:
                colour, begin = self.at((x, y)), x
                while x < self.size and self.at((x, y)) == colour:
                    x += 1
                if colour:
                    runs.setdefault(colour, []).append(f"M{begin} {y}h{x - begin}v1h-{x - begin}z")
        paths = (f'<path {as_written(colour)} d="{"".join(run)}"/>' for colour, run in sorted(runs.items()))
        head = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {self.size} {self.size}">'
        return f"{head}{''.join(paths)}</svg>\n".encode()

    @staticmethod
    def of(content: bytes, size: int = 20) -> Drawing:
        """What is stored, on a grid: cell by cell what was drawn here, else as well as that many cells can.

        Args:
            size: cells a side for what was not drawn here.
        """
        return _own(content) or _of_image(drawn(content, size), content, size)


def _own(content: bytes) -> Drawing | None:
    text = content.decode("utf-8", "replace")
    head = re.match(r'<svg xmlns="[^"]*" viewBox="0 0 (\d+) \1">', text)
    if head is None or int(head[1]) not in GRIDS:
        return None
    size, rest = int(head[1]), text[head.end() :].strip().removesuffix("</svg>")
    if _PATH.sub("", rest).strip():
        return None
    made = Drawing.empty(size)
    for value, token, data in _PATH.findall(rest):
        if _RUN.sub("", data):
            return None
        colour = token if token in PAINTS else INK if value == "currentColor" else value
        cells = [(int(x) + step, int(y)) for x, y, long in _RUN.findall(data) for step in range(int(long))]
        made = made.painted(cells, colour)
    return made


def _of_image(image: Image.Image, content: bytes, size: int) -> Drawing:
    plain = follows_scheme(content)
    pixels = fitted(image, size).tobytes()
    cells = []
    for at in range(0, len(pixels), 4):
        red, green, blue, alpha = pixels[at : at + 4]
        colour = INK if plain else f"#{red:02X}{green:02X}{blue:02X}"
        cells.append(colour if alpha >= _SEEN else "")
    return Drawing(size, tuple(cells))


# Which cells a shape covers


def line(begin: Point, end: Point) -> list[Point]:
    """The cells of a straight line, both ends with it (Bresenham, 1965)."""
    (x, y), (to_x, to_y) = begin, end
    across, down = abs(to_x - x), -abs(to_y - y)
    step_x, step_y = (1 if x < to_x else -1), (1 if y < to_y else -1)
    error, found = across + down, [(x, y)]
    while (x, y) != (to_x, to_y):
        twice = 2 * error
        if twice >= down:
            error, x = error + down, x + step_x
        if twice <= across:
            error, y = error + across, y + step_y
        found.append((x, y))
    return found


def frame(begin: Point, end: Point) -> list[Point]:
    """The cells around a box whose opposite corners these are."""
    (left, right), (top, bottom) = (sorted(pair) for pair in zip(begin, end, strict=True))
    rows = [(x, y) for y in (top, bottom) for x in range(left, right + 1)]
    return rows + [(x, y) for x in (left, right) for y in range(top, bottom + 1)]


def ellipse(begin: Point, end: Point) -> list[Point]:
    """The cells of an ellipse that fits into that box: those that its outline goes through."""
    (left, right), (top, bottom) = (sorted(pair) for pair in zip(begin, end, strict=True))
    wide, high = (right - left + 1) / 2, (bottom - top + 1) / 2

    def inside(x: int, y: int) -> bool:
        across, down = (x + 0.5 - left - wide) / wide, (y + 0.5 - top - high) / high
        return across * across + down * down <= 1

    box = [(x, y) for y in range(top, bottom + 1) for x in range(left, right + 1) if inside(x, y)]
    return [
        (x, y)
        for x, y in box
        if not all(inside(x + dx, y + dy) for dx, dy in ((1, 0), (-1, 0), (0, 1), (0, -1)))
        or x in (left, right)
        or y in (top, bottom)
    ]
