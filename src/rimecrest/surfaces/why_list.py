"""The chain of *Why?* as widgets: a line a link, told by sign and word; and the sheet that opens with it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from PyQt6.QtCore import QPoint, QSize, Qt
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QFrame, QGridLayout, QLabel, QSizePolicy, QVBoxLayout, QWidget

from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme, bold, font, palette

if TYPE_CHECKING:
    from rimecrest.core.explain.why import Verdict

YES, NO = "✓", "✕"


def wrapped(text: str, scheme: Scheme, ink: str, pixels: int = 13, strong: bool = False) -> QLabel:
    """A label of plain words that breaks its lines."""
    label = QLabel(text)
    label.setTextFormat(Qt.TextFormat.PlainText)
    label.setWordWrap(True)
    label.setFont(bold(pixels) if strong else font(pixels))
    colours = palette(scheme)
    colours.setColor(colours.ColorRole.WindowText, scheme.color(ink))
    label.setPalette(colours)
    label.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)
    return label


class WhyList(QWidget):
    """The links of one chain; the first that says no is the last, with its way out under it."""

    def __init__(self, scheme: Scheme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._scheme = scheme
        self._rows = QGridLayout(self)
        self._rows.setContentsMargins(0, 0, 0, 0)
        self._rows.setHorizontalSpacing(8)
        self._rows.setVerticalSpacing(5)
        self._rows.setColumnStretch(1, 1)
        self.links: tuple[Verdict, ...] = ()

    def show_links(self, links: Sequence[Verdict]) -> None:
        """Show another chain."""
        self.links = tuple(links)
        while (item := self._rows.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.hide()
                widget.deleteLater()
        row = 0
        for link in links:
            sign = wrapped(YES if link.ok else NO, self._scheme, "good" if link.ok else "blocks", 13, True)
            sign.setFixedWidth(14)
            sign.setAccessibleName("yes" if link.ok else "no")
            words = wrapped(link.sentence, self._scheme, "ink", 13, strong=not link.ok)
            words.setAccessibleName(f"{link.name}: {'yes' if link.ok else 'no'}. {link.sentence}")
            self._rows.addWidget(sign, row, 0, Qt.AlignmentFlag.AlignTop)
            words.setAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop)
            self._rows.addWidget(words, row, 1)
            row += 1
            if link.way_out and not link.ok:
                self._rows.addWidget(wrapped(link.way_out, self._scheme, "ink2", 12), row, 1)
                row += 1


class WhySheet(QFrame):
    """A sheet over the application that answers *Why?*; Escape or a click beside it closes it."""

    def __init__(self, title: str, links: Sequence[Verdict], scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self._scheme = scheme
        self._over = parent
        self.setObjectName("why-sheet")
        self.setAccessibleName(tr("Why? {title}", title=title))
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setPalette(palette(scheme))
        rows = QVBoxLayout(self)
        rows.setContentsMargins(16, 14, 16, 14)
        rows.setSpacing(8)
        rows.addWidget(wrapped(tr("Why does it do that?"), scheme, "ink2", 12))
        rows.addWidget(wrapped(title, scheme, "ink", 16, strong=True))
        self.list = WhyList(scheme)
        self.list.show_links(links)
        rows.addWidget(self.list)
        self._rows = rows
        self.setFixedWidth(360)

    def sizeHint(self) -> QSize:
        return QSize(360, self._rows.totalHeightForWidth(360))

    def open_at(self, where: QPoint) -> None:
        """Show it at a place on the screen, drawn back where it would stand over the edge."""
        self.resize(self.sizeHint())
        over = self._over.window()
        assert over is not None
        room = over.frameGeometry()
        x = min(where.x(), room.right() - self.width() - 4)
        y = min(where.y(), max(room.top(), room.bottom() - self.height() - 4))
        self.move(x, y)
        self.show()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() in (Qt.Key.Key_Escape, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.close()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._scheme.color("sheet"))
        painter.setPen(self._scheme.color("slate"))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
