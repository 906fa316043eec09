"""The stage: the colleague's own window, drawn by the code that the application runs."""

from __future__ import annotations

from PyQt6.QtCore import QRect, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPixmap
from PyQt6.QtWidgets import QSizePolicy, QStyleFactory, QWidget

from rimecrest.core.layout.seen import Outcome
from rimecrest.core.words import tr
from rimecrest.shell.pictures import PictureBook
from rimecrest.shell.theme import LIGHT, font, palette
from rimecrest.surfaces.frame import Frame
from rimecrest.surfaces.painting import Painting
from rimecrest.surfaces.seat_keys import KeySeat

TITLE_HEIGHT = 27
HEIGHT = 660
"""Pixels of the drawn window."""


class DocumentPicture(QWidget):
    """The document's area: a picture of it."""

    def __init__(self) -> None:
        super().__init__()
        self._picture = QPixmap()
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Ignored)
        self.setAccessibleName(tr("The document"))

    def show_picture(self, picture: QPixmap) -> None:
        self._picture = picture
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), LIGHT.color("sheet"))
        if not self._picture.isNull():
            painter.drawPixmap(0, 0, self._picture)


class Stage(QWidget):
    """A window with a title strip, as wide as the colleague's; it has a palette and a style of its own."""

    def __init__(self, pictures: PictureBook) -> None:
        super().__init__()
        self._title = ""
        self.setStyle(QStyleFactory.create("Fusion"))
        self.setPalette(palette(LIGHT))
        self.setFont(font(13))
        self.document = DocumentPicture()
        self.frame = Frame(Painting(LIGHT, pictures), self.document, self)
        self.frame.panels.choices = lambda reading: [tr("{reading} of the document", reading=reading)]
        self.frame.setFocusPolicy(Qt.FocusPolicy.NoFocus)

    def set_width(self, width: int) -> None:
        """The colleague's window, `width` pixels wide."""
        if self.width() == width and self.minimumWidth() == width:
            return
        self.setFixedSize(QSize(width, HEIGHT))
        self.resize(width, HEIGHT)
        self.frame.setGeometry(1, TITLE_HEIGHT, width - 2, HEIGHT - TITLE_HEIGHT - 1)
        self.frame.settle()

    def show_outcome(self, outcome: Outcome, seat: KeySeat, title: str) -> None:
        self._title = title
        self.frame.show_outcome(outcome, seat)
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setPen(LIGHT.color("faint"))
        painter.setBrush(LIGHT.color("spine"))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
        painter.setPen(LIGHT.color("ink2"))
        painter.setFont(font(12))
        box = QRect(12, 0, self.width() - 24, TITLE_HEIGHT)
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, self._title)
