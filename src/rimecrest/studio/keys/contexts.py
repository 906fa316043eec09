"""The contexts of an application as nested bands; a click says where one is."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QSizePolicy, QWidget

from rimecrest.core.keys.contexts import ANYWHERE, Context, Contexts
from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme, bold, font
from rimecrest.studio.shared.sentence_widgets import Pressable


class Band(Pressable):
    """One context."""

    def __init__(self, context: Context, words: str, scheme: Scheme, chosen: bool) -> None:
        super().__init__(words, scheme)
        self.setObjectName(f"context-{context.id}")
        self.setCheckable(True)
        self.setChecked(chosen)

    def sizeHint(self) -> QSize:
        return QSize(QFontMetrics(bold(12)).horizontalAdvance(self.text()) + 20, 24)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme, on = self._scheme, self.isChecked()
        if on or self.underMouse() or self.hasFocus():
            painter.setPen(scheme.color("crest" if on or self.hasFocus() else "line"))
            painter.setBrush(scheme.color("hover"))
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4)
        painter.setPen(scheme.color("ink"))
        painter.setFont(bold(12) if on else font(12))
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, self.text())


class Nest(QWidget):
    """A context with those inside it, in one frame."""

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme
        self.row = QHBoxLayout(self)
        self.row.setContentsMargins(5, 3, 5, 3)
        self.row.setSpacing(6)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(self._scheme.color("line"))
        painter.setBrush(self._scheme.color("sheet"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6)


class ContextBands(QWidget):
    """Emits `chosen` with a context's id."""

    chosen = pyqtSignal(str)

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(0, 0, 0, 0)
        self.setFixedHeight(46)

    def show_contexts(self, contexts: Contexts, title: str, now: str) -> None:
        """Draw the contexts of an application."""
        while (item := self._row.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.hide()
                widget.deleteLater()
        anywhere = next(context for context in contexts if context.id == ANYWHERE)
        self._row.addWidget(self._nest(anywhere, contexts, title, now))
        self._row.addStretch(1)

    def _nest(self, context: Context, contexts: Contexts, title: str, now: str) -> QWidget:
        words = tr("Anywhere in {title}", title=title) if context.id == ANYWHERE else context.name
        band = Band(context, words, self._scheme, context.id == now)
        band.clicked.connect(lambda _=False, name=context.id: self.chosen.emit(name))
        inside = [one for one in contexts if one.within == context.id]
        if not inside:
            return band
        nest = Nest(self._scheme)
        nest.row.addWidget(band)
        for one in inside:
            nest.row.addWidget(self._nest(one, contexts, title, now))
        return nest
