"""The releases as a line in time, each with the share that applied it."""

from __future__ import annotations

from PyQt6.QtCore import QDate, QLocale, QRectF, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme, bold, font
from rimecrest.studio.rollout.board import ReleaseBar


class TimeLine(QWidget):
    """The releases as a line in time, each with the share that applied it."""

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme
        self._bars: tuple[ReleaseBar, ...] = ()
        self.setFixedHeight(54)

    def show_bars(self, bars: tuple[ReleaseBar, ...]) -> None:
        self._bars = bars
        self.setAccessibleName(
            tr("Releases: {bars}", bars=", ".join(f"{bar.number} {bar.share:.0%}" for bar in bars))
        )
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme = self._scheme
        painter.setPen(scheme.color("line"))
        painter.drawLine(0, self.height() - 6, self.width(), self.height() - 6)
        for index, bar in enumerate(self._bars):
            newest = index + 1 == len(self._bars)
            x = 6 + index * 170.0
            painter.setFont(bold(12) if newest else font(12))
            painter.setPen(scheme.color("ink" if newest else "ink2"))
            words = (
                f"{bar.number} · {day_words(bar.day)}"
                if bar.day
                else tr("{number} · nobody yet", number=bar.number)
            )
            painter.drawText(QRectF(x, 2, 160, 20), Qt.AlignmentFlag.AlignVCenter, words)
            box = QRectF(x, 28, 96, 8)
            painter.setPen(scheme.color("faint"))
            painter.setBrush(scheme.color("sheet"))
            painter.drawRoundedRect(box, 4, 4)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(scheme.color("crest" if newest else "faint"))
            if bar.share:
                painter.drawRoundedRect(QRectF(box.x(), box.y(), max(box.width() * bar.share, 8), 8), 4, 4)
            painter.setPen(scheme.color("ink2"))
            painter.setFont(font(11))
            painter.drawText(QRectF(x + 102, 22, 50, 20), Qt.AlignmentFlag.AlignVCenter, f"{bar.share:.0%}")


def day_words(text: str) -> str:
    """A day as people write it: “9 Nov 2026” for 2026-11-09."""
    return QLocale(QLocale.Language.English).toString(
        QDate.fromString(text, Qt.DateFormat.ISODate), "d MMM yyyy"
    )
