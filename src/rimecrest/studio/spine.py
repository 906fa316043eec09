"""The slim spine at the left: the places that exist, the workspace's name, the colour scheme."""

from __future__ import annotations

from PyQt6.QtCore import QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from rimecrest.core.words import tr
from rimecrest.shell.pictures import PictureBook
from rimecrest.shell.theme import Scheme, bold, font
from rimecrest.studio.shared.sentence_widgets import Plain, Pressable

WIDTH = 72


class PlaceButton(Pressable):
    """One place."""

    def __init__(self, name: str, picture: str, scheme: Scheme, book: PictureBook, parent: QWidget) -> None:
        super().__init__(tr(name), scheme, parent)
        self._picture = picture
        self._book = book
        self.setObjectName(f"place-{name.lower()}")
        self.setCheckable(True)

    def sizeHint(self) -> QSize:
        return QSize(max(WIDTH, QFontMetrics(bold(11)).horizontalAdvance(self.text()) + 10), 62)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme, on = self._scheme, self.isChecked()
        box = QRectF(self.rect()).adjusted(4.5, 2.5, -4.5, -2.5)
        if on or self.underMouse() or self.hasFocus():
            painter.setPen(scheme.color("crest" if self.hasFocus() else "line"))
            painter.setBrush(scheme.color("sheet" if on else "hover"))
            painter.drawRoundedRect(box, 6, 6)
        ink = scheme.color("crest" if on else "ink2")
        pixmap = self._book.pixmap(self._picture, ink, 20, self.devicePixelRatioF())
        if pixmap is not None:
            painter.drawPixmap((self.width() - 20) // 2, 12, pixmap)
        painter.setPen(ink)
        painter.setFont(bold(11) if on else font(11))
        painter.drawText(QRect(0, 36, self.width(), 18), Qt.AlignmentFlag.AlignCenter, self.text())


class SchemeButton(Pressable):
    """Turns light and dark over."""

    def __init__(self, scheme: Scheme, parent: QWidget) -> None:
        other = tr("dark") if scheme.name == "light" else tr("light")
        super().__init__(other.capitalize(), scheme, parent)
        self.setObjectName("scheme")
        self.setToolTip(tr("Change to {other}", other=other))
        self.setAccessibleName(tr("Change to {other}", other=other))

    def sizeHint(self) -> QSize:
        return QSize(WIDTH, 24)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setPen(self._scheme.color("crest" if self.underMouse() or self.hasFocus() else "ink2"))
        painter.setFont(font(11))
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, self.text())
        width = QFontMetrics(font(11)).horizontalAdvance(self.text())
        left = (self.width() - width) // 2
        painter.drawLine(left, self.height() - 5, left + width, self.height() - 5)


class Spine(QWidget):
    """Emits `chosen` with a place's name, `turned` when the scheme is to change."""

    chosen = pyqtSignal(str)
    turned = pyqtSignal()

    def __init__(self, places: list[tuple[str, str]], title: str, scheme: Scheme, book: PictureBook) -> None:
        super().__init__()
        self._scheme = scheme
        rows = QVBoxLayout(self)
        rows.setContentsMargins(0, 10, 0, 10)
        rows.setSpacing(2)
        self._buttons = {}
        for name, picture in places:
            button = PlaceButton(name, picture, scheme, book, self)
            button.clicked.connect(lambda _=False, name=name: self.chosen.emit(name))
            rows.addWidget(button)
            self._buttons[name] = button
        self.setFixedWidth(max(button.sizeHint().width() for button in self._buttons.values()))
        rows.addStretch(1)
        words = Plain(title, scheme, "ink2", 11, self)
        words.setWordWrap(True)
        words.setAlignment(Qt.AlignmentFlag.AlignCenter)
        words.setContentsMargins(5, 0, 5, 2)
        rows.addWidget(words)
        turn = SchemeButton(scheme, self)
        turn.clicked.connect(self.turned)
        rows.addWidget(turn)

    def mark(self, place: str) -> None:
        for name, button in self._buttons.items():
            button.setChecked(name == place)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._scheme.color("spine"))
        painter.setPen(self._scheme.color("line"))
        painter.drawLine(self.width() - 1, 0, self.width() - 1, self.height())
