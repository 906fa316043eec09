"""The chart as PDF: drawn with real text, which can be selected and searched."""

from __future__ import annotations

import tempfile
from pathlib import Path

from PyQt6.QtCore import QMarginsF, QRectF, QSizeF, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QPageLayout, QPageSize, QPainter, QPdfWriter, QPen

from rimecrest.core.workspace.atomic import write_atomically
from rimecrest.shell.theme import font
from rimecrest.studio.wall_chart.content import Chart, ChartKey, ChartPart, Drawn, legend_of, said_on

DPI = 300
WIDE = 273.0
"""Width of what is written, in millimetres: A4 on its side without its margins of 12."""
TALL = 186.0
COLUMNS = 3
GAP = 7.0
COLUMN = (WIDE - GAP * (COLUMNS - 1)) / COLUMNS
KEY = 14.8
"""Most that a key is high, in millimetres: two keyboards of five rows fill a page."""
SAID = 2.9
"""Height of the letters on a cap, in millimetres, some eight points: read at arm's length (ISO 9241-303 asks
for 16 minutes of arc, which at 0.6 m are 2.8 mm)."""
LINES = 3
SCALES = (1.0, 0.9, 0.8)
"""Sizes of the lists that are tried, the largest first: at the last their letters are 2.5 mm high."""
BLACK = QColor(0, 0, 0)


class _Page:
    """Draws in millimetres, from the top down, then in columns; a full page begins the next."""

    def __init__(self, writer: QPdfWriter, scale: float) -> None:
        self.writer = writer
        self.scale = scale
        """How large the lists are, from 0 to 1."""
        self.painter = QPainter(writer)
        self.painter.scale(DPI / 25.4, DPI / 25.4)
        self.pages = 1
        self.top = 0.0
        self.column = 0
        self.begin = 0.0
        """Where the columns of this page begin, and"""
        self.y = 0.0
        """how far the one that is written has come."""

    def letters(self, millimetres: float, strong: bool = False) -> QFont:
        """The interface's font at a height in millimetres."""
        made = QFont(font(12).family())
        made.setPointSizeF(millimetres * 72 / 25.4)
        made.setWeight(QFont.Weight.DemiBold if strong else QFont.Weight.Normal)
        return made

    def write(self, box: QRectF, text: str, size: float, strong: bool = False, wrap: bool = False) -> float:
        """Write into a box; returns how high the text came out, in millimetres."""
        painter, scale = self.painter, DPI / 25.4
        painter.save()
        painter.scale(1 / scale, 1 / scale)
        painter.setFont(self.letters(size, strong))
        painter.setPen(BLACK)
        device = QRectF(box.x() * scale, box.y() * scale, box.width() * scale, box.height() * scale)
        flags = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop
        if wrap:
            flags |= Qt.TextFlag.TextWordWrap
        used = painter.boundingRect(device, int(flags), text)
        painter.drawText(device, int(flags), text)
        painter.restore()
        return used.height() / scale

    def fitted(self, text: str, width: float, size: float, strong: bool, most: int) -> list[str]:
        """A text in at most that many lines of a width in millimetres; … where there was more."""
        metrics = QFontMetricsF(self.letters(size, strong), self.writer)
        room = width * DPI / 25.4
        lines: list[str] = []
        words = text.split()
        while words and len(lines) < most:
            line = words.pop(0)
            while words and metrics.horizontalAdvance(f"{line} {words[0]}") <= room:
                line = f"{line} {words.pop(0)}"
            lines.append(line)
        if words:
            lines[-1] += " …"
        return [metrics.elidedText(line, Qt.TextElideMode.ElideRight, room) for line in lines]

    def tall(self, width: float, text: str, size: float) -> float:
        """How high a text becomes at a width, in millimetres."""
        scale = DPI / 25.4
        metrics = QFontMetricsF(self.letters(size), self.writer)
        flags = int(Qt.TextFlag.TextWordWrap)
        return metrics.boundingRect(QRectF(0, 0, width * scale, 1e6), flags, text).height() / scale

    def rule(self, x: float, y: float, width: float) -> None:
        self.painter.setPen(QPen(BLACK, 0.25))
        self.painter.drawLine(QRectF(x, y, width, 0).topLeft(), QRectF(x, y, width, 0).topRight())

    def new(self) -> None:
        self.writer.newPage()
        self.pages += 1
        self.top = self.begin = self.y = 0.0
        self.column = 0

    def next_column(self) -> None:
        """The next column of the page, else the first of the next page."""
        if self.column + 1 == COLUMNS:
            self.new()
        else:
            self.column += 1
            self.y = self.begin

    @property
    def left(self) -> float:
        return self.column * (COLUMN + GAP)


def write_pdf(chart: Chart, path: Path) -> int:
    """Write the chart as A4 pages; returns how many.

    Needs a running QGuiApplication.

    Raises:
        RimecrestError: the file cannot be written.
    """
    with tempfile.TemporaryDirectory(prefix="rimecrest-chart-") as scratch:
        made = Path(scratch) / "chart.pdf"
        pages = _written(chart, made, SCALES[0])
        for scale in SCALES[1:]:
            # A page that is nearly empty is better saved with slightly smaller lists.
            smaller = Path(scratch) / f"chart-{scale}.pdf"
            if pages > 1 and (fewer := _written(chart, smaller, scale)) < pages:
                made, pages = smaller, fewer
        write_atomically(path, made.read_bytes())
    return pages


def _written(chart: Chart, path: Path, scale: float) -> int:
    """Draw it with lists of that size; returns how many pages it has."""
    writer = QPdfWriter(str(path))
    writer.setResolution(DPI)
    writer.setTitle(chart.title)
    writer.setCreator("Rimecrest")
    size = QPageSize(QSizeF(210, 297), QPageSize.Unit.Millimeter)
    margins = QMarginsF(12, 12, 12, 12)
    turned = QPageLayout.Orientation.Landscape
    writer.setPageLayout(QPageLayout(size, turned, margins, QPageLayout.Unit.Millimeter))
    page = _Page(writer, scale)
    _draw(page, chart)
    page.painter.end()
    return page.pages


def _draw(page: _Page, chart: Chart) -> None:
    page.top += page.write(QRectF(0, 0, WIDE, 12), chart.title, 7, strong=True) + 1
    page.top += page.write(QRectF(0, page.top, WIDE, 6), chart.subtitle, 3.2) + 3
    for drawn in chart.keyboards:
        _keyboard(page, drawn)
    page.begin = page.y = page.top
    parts = [*chart.tasks, *(ChartPart(f"Buttons: {part.title}", part.lines) for part in chart.buttons)]
    for part in parts:
        _part(page, part)
    if chart.withheld:
        _part(page, ChartPart("Not yet: something is in the way of them", chart.withheld))


def _keyboard(page: _Page, drawn: Drawn) -> None:
    unit = WIDE / drawn.geometry.width
    high = min(unit, KEY)
    if page.top + high * drawn.geometry.height + 8 > TALL:
        page.new()
    page.top += page.write(QRectF(0, page.top, WIDE, 6), drawn.title, 3.6, strong=True) + 1.5
    for cap in drawn.geometry.caps.values():
        state = drawn.caps[cap.key]
        words = said_on(state)
        box = QRectF(cap.x * unit, page.top + cap.y * high, cap.width * unit - 0.5, cap.height * high - 0.5)
        strong = bool(words) and state.layer != "built-in"
        page.painter.setPen(QPen(BLACK, 0.55 if strong else 0.15))
        page.painter.setBrush(Qt.BrushStyle.NoBrush)
        page.painter.drawRoundedRect(box, 0.9, 0.9)
        page.write(box.adjusted(0.9, 0.4, 0, 0), legend_of(state), 2.6, strong=True)
        if words:
            for number, line in enumerate(page.fitted(words, box.width() - 1.2, SAID, strong, LINES)):
                page.write(box.adjusted(0.8, 3.7 + 3.6 * number, 2, 0), line, SAID, strong=strong)
    page.top += high * drawn.geometry.height + 4


def _part(page: _Page, part: ChartPart) -> None:
    """A part under its title; what does not fit goes on in the next column."""
    caps = max((_caps_width(page, line) for line in part.lines), default=0.0)
    heights = [_line_height(page, line, COLUMN - caps - 3) for line in part.lines]
    # A title never stands alone at the foot of a column.
    if page.y + 7 * page.scale + sum(heights[:1]) > TALL:
        page.next_column()
    _title(page, part.title)
    for line, height in zip(part.lines, heights, strict=True):
        if page.y + height > TALL:
            page.next_column()
            _title(page, f"{part.title} …")
        _line(page, line, QRectF(page.left, page.y, COLUMN, height), caps)
        page.y += height
    page.y += 4


def _title(page: _Page, title: str) -> None:
    page.y += page.write(QRectF(page.left, page.y, COLUMN, 6), title, 3.6 * page.scale, strong=True) + 0.6
    page.rule(page.left, page.y, COLUMN)
    page.y += 1.4


def _caps_width(page: _Page, line: ChartKey) -> float:
    scale = DPI / 25.4
    metrics = QFontMetricsF(page.letters(2.9 * page.scale, True), page.writer)
    return metrics.horizontalAdvance(line.keys) / scale + 2.4 if line.keys else 0.0


def _line_height(page: _Page, line: ChartKey, room: float) -> float:
    about = page.tall(room, line.about, 2.5 * page.scale) + 0.4 if line.about and line.shared else 0.0
    return max(5.2 * page.scale, page.tall(room, line.words, 3.1 * page.scale) + about + 1.4 * page.scale)


def _line(page: _Page, line: ChartKey, box: QRectF, caps: float) -> None:
    if line.keys:
        frame = QRectF(box.x(), box.y(), _caps_width(page, line), 4.2 * page.scale)
        page.painter.setPen(QPen(BLACK, 0.2))
        page.painter.drawRoundedRect(frame, 0.8, 0.8)
        page.write(frame.adjusted(1.2, 0.35, 2, 0), line.keys, 2.9 * page.scale, strong=True)
    room = box.adjusted(caps + 3, 0.2, 0, 0)
    used = page.write(room, line.words, 3.1 * page.scale, wrap=True)
    if line.about and line.shared:
        page.write(room.adjusted(0, used + 0.3, 0, 0), line.about, 2.5 * page.scale, wrap=True)
