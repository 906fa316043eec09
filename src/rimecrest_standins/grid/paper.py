"""A sheet on paper: its cells drawn straight onto pages.

The toolkit lays a table out as a whole, for ten thousand cells a second or two; here each is drawn where it
comes. Columns that do not fit beside one another go on pages of their own, behind those before them.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import accumulate, pairwise

from msgspec import Struct
from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QPagedPaintDevice, QPainter, QPen

from rimecrest.shell.theme import LIGHT, font

POINTS, TITLE_POINTS = 9, 14
PADDING = 4
"""Points between the words of a cell and its lines."""
NARROWEST = 24
"""Points of a column at least."""
WIDEST_SHARE = 0.4
"""Of a page's width that one column takes at most; longer words go on in the next line."""
_AT_WORDS, _ANYWHERE = Qt.TextFlag.TextWordWrap.value, Qt.TextFlag.TextWrapAnywhere.value


class Printed(Struct, frozen=True):
    """What a cell shows, and whether it stands at the right as numbers do."""

    words: str
    right: bool = False


class SheetOnPaper(Struct, frozen=True):
    """The rows of a sheet, all of one length, below its name."""

    title: str
    rows: Sequence[Sequence[Printed]]

    def print(self, to: QPagedPaintDevice) -> None:
        """Draw all pages onto a printer or into a PDF."""
        painter = QPainter(to)
        try:
            _Pages(painter, to, self).draw()
        finally:
            painter.end()


class _Pages:
    def __init__(self, painter: QPainter, to: QPagedPaintDevice, sheet: SheetOnPaper) -> None:
        self.painter = painter
        self.to = to
        self.sheet = sheet
        self.y = 0.0
        self._measured: dict[str, float] = {}
        self.point = self.to.logicalDpiY() / 72
        self.area = QRectF(self.painter.viewport())
        self.plain, self.head = _font(POINTS), _font(TITLE_POINTS)
        self.head.setBold(True)
        self.metrics = QFontMetricsF(self.plain, self.to)
        self.padding = PADDING * self.point

    def draw(self) -> None:
        self._draw_title()
        widths = self._widths()
        for number, (first, end) in enumerate(pairwise(self._parts(widths))):
            if number:
                self._new_page()
            for row in self.sheet.rows:
                self._draw_row(row[first:end], widths[first:end])

    def _draw_title(self) -> None:
        self.painter.setFont(self.head)
        height = QFontMetricsF(self.head, self.to).lineSpacing()
        self.painter.drawText(QRectF(0, 0, self.area.width(), height), 0, self.sheet.title)
        self.y = height + 2 * self.padding
        self.painter.setFont(self.plain)
        self.ink = QPen(QColor(LIGHT.ink))
        self.line = QPen(QColor(LIGHT.slate), 0.5 * self.point)

    def _wide(self, words: str) -> float:
        if words not in self._measured:
            lines = words.split("\n")
            self._measured[words] = max(self.metrics.horizontalAdvance(line) for line in lines)
        return self._measured[words]

    def _widths(self) -> list[float]:
        """Of each column: as wide as its widest cell, within bounds."""
        most = self.area.width() * WIDEST_SHARE
        found = []
        for cells in zip(*self.sheet.rows, strict=True):
            widest = max(self._wide(words) for words in {cell.words for cell in cells})
            # A point to spare: what is measured and what is drawn differ by less.
            found.append(min(max(widest + 2 * self.padding + self.point, NARROWEST * self.point), most))
        return found

    def _parts(self, widths: list[float]) -> list[int]:
        """Where the columns of each part begin, and where the last ends."""
        starts, taken = [0], 0.0
        for column, width in enumerate(widths):
            if taken and taken + width > self.area.width():
                starts.append(column)
                taken = 0.0
            taken += width
        return [*starts, len(widths)]

    def _new_page(self) -> None:
        self.to.newPage()
        self.y = 0

    def _draw_row(self, cells: Sequence[Printed], widths: Sequence[float]) -> None:
        height = max(map(self._height, cells, widths), default=0)
        if self.y and self.y + height > self.area.height():
            self._new_page()
        edges = accumulate(widths, initial=0.0)
        boxes = [QRectF(x, self.y, width, height) for x, width in zip(edges, widths, strict=False)]
        self.painter.setPen(self.line)
        for box in boxes:
            self.painter.drawRect(box)
        self.painter.setPen(self.ink)
        for cell, box in zip(cells, boxes, strict=True):
            if cell.words:
                side = Qt.AlignmentFlag.AlignRight if cell.right else Qt.AlignmentFlag.AlignLeft
                inner = box.adjusted(self.padding, self.padding, -self.padding, -self.padding)
                self.painter.drawText(inner, side.value | self._breaks(cell.words, inner.width()), cell.words)
        self.y += height

    def _breaks(self, words: str, inner: float) -> int:
        """Where a line may end: between words, or, where one is wider than the cell, anywhere."""
        if self._wide(words) <= inner:
            return _AT_WORDS
        return _ANYWHERE if any(self._wide(word) > inner for word in words.split()) else _AT_WORDS

    def _height(self, cell: Printed, width: float) -> float:
        inner = width - 2 * self.padding
        lines = self.metrics.lineSpacing()
        if "\n" in cell.words or self._wide(cell.words) > inner:
            flags = self._breaks(cell.words, inner)
            lines = self.metrics.boundingRect(QRectF(0, 0, inner, 1e7), flags, cell.words).height()
        return min(lines + 2 * self.padding, self.area.height())


def _font(points: int) -> QFont:
    made = font()
    made.setPointSize(points)
    return made
