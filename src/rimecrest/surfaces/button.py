"""One item as a button. It draws itself, never takes the focus, and a screen reader can name it."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent, QPen, QPixmap
from PyQt6.QtWidgets import QAbstractButton, QSizePolicy, QWidget

from rimecrest.core.layout.seen import SeenButton, SeenSeparator
from rimecrest.core.layout.widths import (
    BAR_CELL,
    BAR_PICTURE,
    CELL_GAP,
    CELL_HEIGHT,
    CELL_LEAD,
    CELL_PICTURE,
    CELL_TAIL,
    LABEL_SIZE,
    MORE,
    SEPARATOR,
    bar_length,
    cell_width,
)
from rimecrest.core.words import tr
from rimecrest.shell.theme import font
from rimecrest.surfaces.painting import Painting

RADIUS = 6
PALE = 0.4
"""How much is left of a picture that is unavailable."""


def _pale(picture: QPixmap) -> QPixmap:
    made = QPixmap(picture.size())
    made.setDevicePixelRatio(picture.devicePixelRatio())
    made.fill(Qt.GlobalColor.transparent)
    painter = QPainter(made)
    painter.setOpacity(PALE)
    painter.drawPixmap(0, 0, picture)
    painter.end()
    return made


class ItemButton(QAbstractButton):
    """An item in a bar (`cell` False) or in a ribbon tab's group (`cell` True)."""

    def __init__(
        self, item: SeenButton, painting: Painting, cell: bool, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.item = item
        self.rank = item.collapse
        """What has more stays longer where there is little room."""
        self.cell = cell
        self.bare = False
        """Whether its words have gone because space is short."""
        self._painting = painting
        self.shown_state = ""
        """Draw as "pointed", "pressed" or "unavailable" whatever the mouse does: for the studio's card."""
        color = painting.scheme.color("ink")
        self._pictured = painting.pictures.pixmap(item.picture, color, BAR_PICTURE, 1.0) is not None
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.setFont(font(LABEL_SIZE))
        self.setAccessibleName(item.label)
        self.setAccessibleDescription(item.tip)
        self.setToolTip(painting.tooltip(item))
        self.resize(self.sizeHint())

    def sizeHint(self) -> QSize:
        if self.cell:
            return QSize(self.cell_width(self.bare), CELL_HEIGHT)
        item = self.item
        return QSize(bar_length(item.label, item.face, item.width, self._has_picture()), BAR_CELL)

    def can_be_bare(self) -> bool:
        """Whether there is a picture to stand for its words."""
        return self.item.face == "both" and self._has_picture()

    def cell_width(self, bare: bool) -> int:
        """Pixels that it takes in a ribbon group, with its words or without."""
        picture = self.item.face != "words" and self._has_picture()
        if bare or (picture and self.item.face == "picture"):
            return CELL_HEIGHT * (1 if bare else self.item.width)
        return cell_width(self.item.label, self.item.width, picture)

    def _has_picture(self) -> bool:
        # Other pictures come with another drawing: a button is made anew then.
        return self._pictured

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme = self._painting.scheme
        available = self.isEnabled() and self.shown_state != "unavailable" and self.item.exists
        if available and (self.isDown() or self.shown_state == "pressed"):
            self._fill(painter, "pressed")
        elif available and (self.underMouse() or self.shown_state == "pointed"):
            self._fill(painter, "hover")
        ink = scheme.color("ink" if available else "faint")
        words = not self.bare and (self.item.face != "picture" or not self._has_picture())
        picture = None
        if self.item.face != "words":
            size = CELL_PICTURE if self.cell else BAR_PICTURE
            tint = scheme.color("ink")
            picture = self._painting.pictures.pixmap(self.item.picture, tint, size, self.devicePixelRatioF())
            if picture and not available:
                picture = _pale(picture)  # one with colours of its own too
        painter.setPen(QPen(ink))
        painter.setFont(self.font())
        if self.cell:
            self._paint_cell(painter, picture, words)
        else:
            self._paint_row(painter, picture, words)

    def _fill(self, painter: QPainter, token: str) -> None:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._painting.scheme.color(token))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), RADIUS, RADIUS)

    def _paint_cell(self, painter: QPainter, picture: QPixmap | None, words: bool) -> None:
        top = (self.height() - CELL_PICTURE) // 2
        if not words:
            if picture:
                painter.drawPixmap((self.width() - CELL_PICTURE) // 2, top, picture)
            return
        left = CELL_LEAD
        if picture:
            painter.drawPixmap(left, top, picture)
            left += CELL_PICTURE + CELL_GAP
        room = self.width() - left - CELL_TAIL + 1
        shown = QFontMetrics(self.font()).elidedText(self.item.label, Qt.TextElideMode.ElideRight, room)
        box = QRectF(left, 0, room, self.height())
        flags = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft | Qt.TextFlag.TextDontClip
        painter.drawText(box, flags, shown)

    def _paint_row(self, painter: QPainter, picture: QPixmap | None, words: bool) -> None:
        middle = int((self.height() - BAR_PICTURE) / 2)
        if picture and not words:
            painter.drawPixmap(int((self.width() - BAR_PICTURE) / 2), middle, picture)
            return
        metrics = QFontMetrics(self.font())
        beside = BAR_PICTURE + 6 if picture else 0
        shown = metrics.elidedText(self.item.label, Qt.TextElideMode.ElideRight, self.width() - beside - 8)
        left = (self.width() - metrics.horizontalAdvance(shown) - beside) // 2
        if picture:
            painter.drawPixmap(left, middle, picture)
            left += BAR_PICTURE + 6
        painter.drawText(self.rect().adjusted(left, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, shown)


class Rule(QWidget):
    """A separator between items."""

    def __init__(
        self, item: SeenSeparator, painting: Painting, upright: bool, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.item = item
        self.rank = 0
        self._painting = painting
        self._upright = upright
        self.setAccessibleName(tr("Separator"))
        self.resize(self.sizeHint())

    def sizeHint(self) -> QSize:
        return QSize(SEPARATOR, BAR_CELL) if self._upright else QSize(BAR_CELL, SEPARATOR)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setPen(self._painting.scheme.color("line"))
        centre = self.rect().center()
        if self._upright:
            painter.drawLine(centre.x(), 7, centre.x(), self.height() - 7)
        else:
            painter.drawLine(7, centre.y(), self.width() - 7, centre.y())


class MoreButton(QAbstractButton):
    """The » that opens what does not fit."""

    SIZE = MORE

    def __init__(self, painting: Painting, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._painting = painting
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.setAccessibleName(tr("What does not fit"))
        self.setToolTip(tr("What does not fit at this width"))
        self.setFont(font(16))

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.underMouse():
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(self._painting.scheme.color("hover"))
            painter.drawRoundedRect(QRectF(self.rect()), RADIUS, RADIUS)
        painter.setPen(self._painting.scheme.color("ink"))
        painter.setFont(self.font())
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "»")
