"""The names of surfaces as they are drawn: in one line, with “…” where there is no room for all of it."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QPainter

from rimecrest.shell.theme import bold


def draw_title(painter: QPainter, box: QRectF, title: str, size: int) -> None:
    """Draw a name in bold, `size` pixels high, in the middle of the height of a box."""
    painter.setFont(bold(size))
    words = painter.fontMetrics().elidedText(title, Qt.TextElideMode.ElideRight, int(box.width()))
    painter.drawText(box, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, words)
