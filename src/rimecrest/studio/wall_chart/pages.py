"""Where everything on a wall chart stands: pages of texts and boxes in millimetres, which the writers draw.

Widths of words are those of `core.layout.widths`, so that a chart has the same pages wherever it is made.
"""

from __future__ import annotations

from typing import Literal

from msgspec import Struct, field

from rimecrest.core.layout.widths import text_width
from rimecrest.core.words import tr
from rimecrest.studio.wall_chart.content import Chart, ChartKey, ChartPart, Drawn, legend_of, said_on

WIDE, TALL = 273.0, 186.0
"""What is written on, in millimetres: A4 on its side without its margins."""
MARGIN = 12.0
COLUMNS = 3
GAP = 7.0
COLUMN = (WIDE - GAP * (COLUMNS - 1)) / COLUMNS
KEY = 14.8
"""Most that a key is high, in millimetres: two keyboards of five rows fill a page."""
SAID = 2.9
"""Height of the letters on a cap, in millimetres, some eight points: read at arm's length (ISO 9241-303 asks
for 16 minutes of arc, which at 0.6 m are 2.8 mm)."""
LINES = 3
"""Lines of words on a cap at most."""
SCALES = (1.0, 0.9, 0.8)
"""Sizes of the lists that are tried, the largest first: at the last their letters are 2.5 mm high."""
LINE_HEIGHT = 1.22
"""Height of a line of text, in heights of its letters."""
BOLD = 1.07
"""How much wider a bold word is."""

Role = Literal["title", "heading", "key", "text"]


class Text(Struct, frozen=True):
    """One line of words; `x` and `y` are its upper left corner, `size` the height of its letters."""

    x: float
    y: float
    words: str
    size: float
    strong: bool = False
    role: Role = "text"

    @property
    def width(self) -> float:
        """How long the line is."""
        return width_of(self.words, self.size, self.strong)


class Box(Struct, frozen=True):
    """A rounded frame, or with no height a rule; `line` is how thick it is drawn."""

    x: float
    y: float
    width: float
    height: float
    line: float
    radius: float = 0.0


class Page(Struct):
    """What stands on one page, in the order in which it is read."""

    marks: list[Text | Box] = field(default_factory=list)


def width_of(words: str, size: float, strong: bool = False) -> float:
    """Millimetres that words take in letters of a height."""
    return text_width(words, size) * (BOLD if strong else 1)


def wrapped(words: str, room: float, size: float, strong: bool = False, most: int = 0) -> list[str]:
    """Words in lines of a width in millimetres, at most so many (0: all it takes); … for what is cut."""
    lines: list[str] = []
    left = words.split()
    while left and (not most or len(lines) < most):
        line = left.pop(0)
        while left and width_of(f"{line} {left[0]}", size, strong) <= room:
            line = f"{line} {left.pop(0)}"
        lines.append(line)
    if left:
        lines[-1] += " …"
    return [_cut(line, room, size, strong) for line in lines]


def _cut(line: str, room: float, size: float, strong: bool) -> str:
    if width_of(line, size, strong) <= room:
        return line
    kept = line.removesuffix(" …")
    while kept and width_of(f"{kept}…", size, strong) > room:
        kept = kept[:-1]
    return f"{kept}…"


def pages_of(chart: Chart) -> list[Page]:
    """The pages of a chart. A page that is nearly empty is saved with slightly smaller lists."""
    best = _Sheet(chart, SCALES[0]).pages
    for scale in SCALES[1:]:
        if len(best) > 1 and len(smaller := _Sheet(chart, scale).pages) < len(best):
            best = smaller
    return best


class _Sheet:
    """Lays a chart from the top down, then in columns; a full page begins the next."""

    def __init__(self, chart: Chart, scale: float) -> None:
        """`scale` is how large the lists are, from 0 to 1."""
        self._scale = scale
        self.pages = [Page()]
        self._column = 0
        self._y = 0.0
        """How far what is written has come."""
        self._y += self._write(0, chart.title, 7, strong=True, role="title") + 1
        self._y += self._write(0, chart.subtitle, 3.2) + 3
        for drawn in chart.keyboards:
            self._keyboard(drawn)
        self._begin = self._y
        """Where the columns of this page begin."""
        buttons = (ChartPart(tr("Buttons: {title}", title=part.title), part.lines) for part in chart.buttons)
        for part in (*chart.tasks, *buttons):
            self._part(part)
        if chart.withheld:
            self._part(ChartPart(tr("Not yet: something is in the way of them"), chart.withheld))

    def _put(self, mark: Text | Box) -> None:
        self.pages[-1].marks.append(mark)

    def _write(self, x: float, words: str, size: float, strong: bool = False, role: Role = "text") -> float:
        self._put(Text(x, self._y, words, size, strong, role))
        return size * LINE_HEIGHT

    def _new(self) -> None:
        self.pages.append(Page())
        self._y = self._begin = 0.0
        self._column = 0

    def _next_column(self) -> None:
        """The next column of the page, else the first of the next page."""
        if self._column + 1 == COLUMNS:
            self._new()
        else:
            self._column += 1
            self._y = self._begin

    @property
    def _left(self) -> float:
        return self._column * (COLUMN + GAP)

    def _keyboard(self, drawn: Drawn) -> None:
        unit = WIDE / drawn.geometry.width
        high = min(unit, KEY)
        if self._y + high * drawn.geometry.height + 8 > TALL:
            self._new()
        self._y += self._write(0, drawn.title, 3.6, strong=True, role="heading") + 1.5
        for cap in drawn.geometry.caps.values():
            state = drawn.caps[cap.key]
            words = said_on(state)
            strong = bool(words) and state.layer != "built-in"
            x, y = cap.x * unit, self._y + cap.y * high
            width = cap.width * unit - 0.5
            self._put(Box(x, y, width, cap.height * high - 0.5, 0.55 if strong else 0.15, 0.9))
            self._put(Text(x + 0.9, y + 0.4, legend_of(state), 2.6, strong=True))
            for number, line in enumerate(wrapped(words, width - 1.2, SAID, strong, LINES)):
                self._put(Text(x + 0.8, y + 3.5 + 3.4 * number, line, SAID, strong))
        self._y += high * drawn.geometry.height + 4

    def _part(self, part: ChartPart) -> None:
        """A part under its title; what does not fit goes on in the next column."""
        keys = max((self._keys_width(line) for line in part.lines), default=0.0)
        heights = [self._height(line, COLUMN - keys - 3) for line in part.lines]
        # A title never stands alone at the foot of a column.
        if self._y + 7 * self._scale + sum(heights[:1]) > TALL:
            self._next_column()
        self._title(part.title)
        for line, height in zip(part.lines, heights, strict=True):
            if self._y + height > TALL:
                self._next_column()
                self._title(f"{part.title} …")
            self._line(line, keys)
            self._y += height
        self._y += 4

    def _title(self, title: str) -> None:
        size = 3.6 * self._scale
        self._y += self._write(self._left, _cut(title, COLUMN, size, True), size, True, "heading") + 0.6
        self._put(Box(self._left, self._y, COLUMN, 0, 0.25))
        self._y += 1.4

    def _keys_width(self, line: ChartKey) -> float:
        return width_of(line.keys, 2.9 * self._scale, strong=True) + 2.4 if line.keys else 0.0

    def _texts(self, line: ChartKey, room: float) -> tuple[list[str], list[str]]:
        """What a line says, and what about it, each in lines of text."""
        about = wrapped(line.about, room, 2.5 * self._scale) if line.shared else []
        return wrapped(line.words, room, 3.1 * self._scale), about

    def _height(self, line: ChartKey, room: float) -> float:
        words, about = self._texts(line, room)
        tall = LINE_HEIGHT * self._scale * (3.1 * len(words) + 2.5 * len(about)) + (0.4 if about else 0)
        return max(5.2 * self._scale, tall + 1.4 * self._scale)

    def _line(self, line: ChartKey, keys: float) -> None:
        x, y, scale = self._left, self._y, self._scale
        if line.keys:
            self._put(Box(x, y, self._keys_width(line), 4.2 * scale, 0.2, 0.8))
            self._put(Text(x + 1.2, y + 0.35, line.keys, 2.9 * scale, strong=True, role="key"))
        x, y = x + keys + 3, y + 0.2
        words, about = self._texts(line, COLUMN - keys - 3)
        for text in words:
            self._put(Text(x, y, text, 3.1 * scale))
            y += 3.1 * scale * LINE_HEIGHT
        for text in about:
            self._put(Text(x, y + 0.3, text, 2.5 * scale))
            y += 2.5 * scale * LINE_HEIGHT
