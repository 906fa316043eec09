"""Two or three letters as a picture, fitted into the square of a button."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QFont, QPainterPath, QTransform

from rimecrest.shell.theme import font

SIDE = 24
MARGIN = 1.5
MOST = 4
"""Letters; more of them are too small to read at 16 pixels."""


def letters_svg(text: str) -> bytes:
    """The letters as an SVG of one path in the scheme's colour, as large as fits; empty text: no shape."""
    shown = QFont(font(20))
    shown.setWeight(QFont.Weight.Bold)
    path = QPainterPath()
    path.addText(0, 0, shown, text[:MOST])
    box, room = path.boundingRect(), SIDE - 2 * MARGIN
    if not box.isEmpty():
        scale = min(room / box.width(), room / box.height())
        middle = QRectF(0, 0, SIDE, SIDE).center()
        turn = QTransform().translate(middle.x(), middle.y()).scale(scale, scale)
        path = turn.translate(-box.center().x(), -box.center().y()).map(path)
    head = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {SIDE} {SIDE}">'
    return f'{head}<path fill="currentColor" d="{_data(path)}"/></svg>\n'.encode()


def _data(path: QPainterPath) -> str:
    """The outline as SVG path data."""
    parts: list[str] = []
    kinds = QPainterPath.ElementType
    for at in range(path.elementCount()):
        element = path.elementAt(at)
        point = f"{element.x:.2f} {element.y:.2f}"
        if element.type == kinds.MoveToElement:
            parts.append(f"{'Z' if parts else ''}M{point}")
        elif element.type == kinds.LineToElement:
            parts.append(f"L{point}")
        elif element.type == kinds.CurveToElement:
            parts.append(f"C{point}")
        else:
            parts.append(f" {point}")
    return "".join(parts) + ("Z" if parts else "")
