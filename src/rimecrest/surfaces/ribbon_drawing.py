"""What the names of tabs and the groups of a page draw alike."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QPointF, QRectF, Qt
from PyQt6.QtGui import QFont, QFontMetrics, QPainter, QPainterPath, QPolygonF

from rimecrest.core.layout.widths import TITLE_MOST
from rimecrest.surfaces.painting import Painting

CUT = 9
"""Pixels that are cut away at the upper right corner of a group and of the open tab."""
MARK = 18
"""Pixels before a name: the mark of who placed the group or tab stands in them."""
PICTURE = 16
"""Pixels of the picture of a tab, or of a group that is folded."""


def cut_corner(box: QRectF, cut: float = CUT) -> QPainterPath:
    """A box whose upper right corner is cut away."""
    path = QPainterPath()
    path.addPolygon(
        QPolygonF(
            [
                box.topLeft(),
                QPointF(box.right() - cut, box.top()),
                QPointF(box.right(), box.top() + cut),
                box.bottomRight(),
                box.bottomLeft(),
            ]
        )
    )
    path.closeSubpath()
    return path


def short(title: str, shown: QFont) -> str:
    """The title of a tab or group, cut where it is longer than any may be."""
    return QFontMetrics(shown).elidedText(title, Qt.TextElideMode.ElideRight, TITLE_MOST)


def draw_picture(painter: QPainter, painting: Painting, picture: str, at: QPoint, ratio: float) -> None:
    """The picture of a tab or of a folded group; nothing where there is none of that name."""
    pixmap = painting.pictures.pixmap(picture, painting.scheme.color("ink"), PICTURE, ratio)
    if pixmap is not None:
        painter.drawPixmap(at, pixmap)
