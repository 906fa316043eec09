"""The pages of a chart as PDF: drawn with real text, which can be selected and searched."""

from __future__ import annotations

import tempfile
from pathlib import Path

from PyQt6.QtCore import QMarginsF, QPointF, QRectF, QSizeF, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QPageLayout, QPageSize, QPainter, QPdfWriter, QPen

from rimecrest.core.files import write_atomically
from rimecrest.shell.theme import font
from rimecrest.studio.wall_chart.content import Chart
from rimecrest.studio.wall_chart.pages import MARGIN, Box, Text, pages_of

DPI = 300
DOTS = DPI / 25.4
"""Dots to a millimetre."""
BLACK = QColor(0, 0, 0)


def write_pdf(chart: Chart, path: Path) -> int:
    """Write the chart as A4 pages; returns how many.

    Needs a running QGuiApplication.

    Raises:
        RimecrestError: the file cannot be written.
    """
    pages = pages_of(chart)
    with tempfile.TemporaryDirectory(prefix="rimecrest-chart-") as scratch:
        made = Path(scratch) / "chart.pdf"
        writer = _writer(made, chart.title)
        painter = QPainter(writer)
        for number, page in enumerate(pages):
            if number:
                writer.newPage()
            for mark in page.marks:
                _write(painter, writer, mark) if isinstance(mark, Text) else _draw(painter, mark)
        painter.end()
        write_atomically(path, made.read_bytes())
    return len(pages)


def _writer(path: Path, title: str) -> QPdfWriter:
    writer = QPdfWriter(str(path))
    writer.setResolution(DPI)
    writer.setTitle(title)
    writer.setCreator("Rimecrest")
    size = QPageSize(QSizeF(210, 297), QPageSize.Unit.Millimeter)
    margins = QMarginsF(MARGIN, MARGIN, MARGIN, MARGIN)
    turned = QPageLayout.Orientation.Landscape
    writer.setPageLayout(QPageLayout(size, turned, margins, QPageLayout.Unit.Millimeter))
    return writer


def _write(painter: QPainter, writer: QPdfWriter, text: Text) -> None:
    made = QFont(font(12).family())
    made.setPointSizeF(text.size * 72 / 25.4)
    made.setWeight(QFont.Weight.DemiBold if text.strong else QFont.Weight.Normal)
    long = QFontMetricsF(made, writer).horizontalAdvance(text.words)
    room = text.width * DOTS
    if long > room > 0:
        # Another typeface is wider than the one that the page was laid out for: it gives way.
        made.setStretch(max(50, int(100 * room / long)))
    painter.setFont(made)
    painter.setPen(BLACK)
    ascent = QFontMetricsF(made, writer).ascent()
    painter.drawText(QPointF(text.x * DOTS, text.y * DOTS + ascent), text.words)


def _draw(painter: QPainter, box: Box) -> None:
    painter.setPen(QPen(BLACK, box.line * DOTS))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    place = QRectF(box.x * DOTS, box.y * DOTS, box.width * DOTS, box.height * DOTS)
    if box.height:
        painter.drawRoundedRect(place, box.radius * DOTS, box.radius * DOTS)
    else:
        painter.drawLine(place.topLeft(), place.topRight())
