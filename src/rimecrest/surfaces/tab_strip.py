"""The names of the ribbon tabs in a row; the page of the open one is beneath (`ribbon.Page`)."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QPoint, QRectF, QSignalBlocker, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QAbstractButton, QMenu, QWidget

from rimecrest.core.layout.seen import SeenTab
from rimecrest.core.layout.widths import TITLE_MOST
from rimecrest.core.words import tr
from rimecrest.shell.theme import bold, font
from rimecrest.surfaces.button import MoreButton
from rimecrest.surfaces.painting import Painting
from rimecrest.surfaces.region import Region
from rimecrest.surfaces.ribbon_drawing import MARK, PICTURE, cut_corner, draw_picture, short

STRIP_HEIGHT = 36


class TabName(QAbstractButton):
    """The name of a tab in the strip."""

    def __init__(self, tab: SeenTab, painting: Painting, parent: QWidget) -> None:
        super().__init__(parent)
        self.tab = tab
        self._painting = painting
        self.setCheckable(True)
        # One of several: that is how it is read aloud.
        self.setAutoExclusive(True)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.setAccessibleName(tr("Tab {title}", title=tab.title))
        self.setToolTip(tab.title if short(tab.title, bold(13)) != tab.title else "")

    def sizeHint(self) -> QSize:
        words = min(QFontMetrics(bold(13)).horizontalAdvance(self.tab.title), TITLE_MOST)
        return QSize(words + 2 * MARK + 8 + (PICTURE + 4 if self.tab.picture else 0), STRIP_HEIGHT)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme = self._painting.scheme
        painter.setPen(Qt.PenStyle.NoPen)
        if self.isChecked():
            painter.setBrush(scheme.color("hover"))
            painter.drawPath(cut_corner(QRectF(self.rect()).adjusted(0, 5, 0, -4)))
        elif self.underMouse():
            painter.setBrush(scheme.color("paper"))
            painter.drawPath(cut_corner(QRectF(self.rect()).adjusted(0, 5, 0, -4)))
        painter.setPen(scheme.color("ink"))
        painter.setFont(bold(13) if self.isChecked() else font(13))
        words = self.rect()
        if self.tab.picture:
            at = QPoint(MARK + 2, (self.height() - PICTURE) // 2)
            draw_picture(painter, self._painting, self.tab.picture, at, self.devicePixelRatioF())
            words = words.adjusted(PICTURE + 4, 0, 0, 0)
        painter.drawText(words, Qt.AlignmentFlag.AlignCenter, short(self.tab.title, bold(13)))


class TabStrip(Region):
    """All tabs' names."""

    chosen = pyqtSignal(str)

    def __init__(self, tabs: tuple[SeenTab, ...], painting: Painting, parent: QWidget) -> None:
        super().__init__(tr("Tabs"), parent)
        self.tabs = tabs
        self._painting = painting
        self.names = [TabName(tab, painting, self) for tab in tabs]
        for name in self.names:
            # Assistive technology turns a button over without a click.
            name.toggled.connect(lambda on, tab=name.tab.id: self.chosen.emit(tab) if on else None)
        self._more = MoreButton(painting, self)
        self._more.clicked.connect(self._show_rest)
        self._first = 0
        """The place of the first name that is seen: the names go along so that the open tab's is seen."""
        self._arranged_for = (-1, -1)
        """The width, and the place of the open tab, for which the names were placed last."""
        self.setFixedHeight(STRIP_HEIGHT)
        self.arrange()

    def mark(self, tab: str) -> None:
        """Show which tab is open; where there is no room for all names, its name is among those seen."""
        for name in self.names:
            with QSignalBlocker(name):
                # Exclusive buttons do not let the checked one be unchecked.
                name.setAutoExclusive(False)
                name.setChecked(name.tab.id == tab)
                name.setAutoExclusive(True)
            name.update()
        self.arrange()

    def seen(self) -> list[TabName]:
        """The names for which there is room."""
        return [name for name in self.names if not name.isHidden()]

    def resizeEvent(self, _event: QResizeEvent | None) -> None:
        self.arrange()

    def arrange(self) -> None:
        """Place the names; those for which there is no room go under »."""
        active = next((place for place, name in enumerate(self.names) if name.isChecked()), 0)
        if self._arranged_for == (self.width(), active):
            return
        self._arranged_for = self.width(), active
        widths = [name.sizeHint().width() + 2 for name in self.names]
        whole = sum(widths) + 8
        room = self.width() - 8 - (MoreButton.SIZE + 6 if whole > self.width() else 0)
        self._first = 0 if whole <= self.width() else min(self._first, active)
        while self._first < active and sum(widths[self._first : active + 1]) > room:
            self._first += 1
        at, full = 8, False
        for place, name in enumerate(self.names):
            fits = place >= self._first and not full and at + widths[place] <= room + 8
            full = full or (place >= self._first and not fits)
            # However narrow the window is, the open tab has its name.
            name.setVisible(fits or place == active)
            if fits or place == active:
                name.setGeometry(at, 0, name.sizeHint().width(), STRIP_HEIGHT)
                at += widths[place]
        self._more.setVisible(len(self.seen()) < len(self.names))
        top = (STRIP_HEIGHT - MoreButton.SIZE) // 2
        self._more.setGeometry(self.width() - MoreButton.SIZE - 4, top, MoreButton.SIZE, MoreButton.SIZE)

    def _show_rest(self) -> None:
        """The tabs for whose names there is no room."""
        menu = QMenu(self)
        menu.setFont(font(13))
        for name in self.names:
            if name.isHidden():
                words = name.tab.title.replace("&", "&&")
                menu.addAction(words, partial(self.chosen.emit, name.tab.id))
        menu.aboutToHide.connect(menu.deleteLater)
        menu.popup(self._more.mapToGlobal(QPoint(0, MoreButton.SIZE)))

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._painting.scheme.color("sheet"))
