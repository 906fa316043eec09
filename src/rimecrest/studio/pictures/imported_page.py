"""Taking a picture from a file, from what is dropped, or from what another program copied."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QHBoxLayout, QSizePolicy, QVBoxLayout, QWidget

from rimecrest.core.words import tr
from rimecrest.shell.file_dialogs import ask_open
from rimecrest.shell.theme import Scheme, bold, font
from rimecrest.studio.shared.sentence_widgets import Plain, Push

FILES = tr("Pictures (*.png *.svg *.ico *.webp)")


class DropZone(QWidget):
    """Says what can be dropped here. The whole chooser takes it."""

    def __init__(self, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent)
        self._scheme = scheme
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)

    def sizeHint(self) -> QSize:
        return QSize(330, 230)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self._scheme.color("faint"), 1, Qt.PenStyle.DashLine))
        box = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        painter.drawRoundedRect(box, 6, 6)
        middle = Qt.AlignmentFlag.AlignCenter
        painter.setPen(self._scheme.color("ink"))
        painter.setFont(bold(14))
        painter.drawText(box.adjusted(0, -26, 0, -26), middle, tr("Drop a PNG, SVG, ICO or WebP file here"))
        painter.setPen(self._scheme.color("ink2"))
        painter.setFont(font(13))
        painter.drawText(
            box.adjusted(0, 4, 0, 4), middle, tr("or paste what you copied in any program: Ctrl+V")
        )


class ImportedPage(QWidget):
    """What can be brought in, and how the last one came out.

    Signals:
        file_wanted(path): take the picture in that file.
        paste_wanted: take the one on the clipboard.
    """

    file_wanted = pyqtSignal(str)
    paste_wanted = pyqtSignal()

    def __init__(self, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent)
        self.choose = Push(tr("Choose a file …"), scheme, parent=self)
        self.choose.setObjectName("picture-file")
        self.paste = Push(tr("Paste"), scheme, parent=self)
        self.paste.setObjectName("picture-paste")
        self.outcome = Plain("", scheme, "ink", 13)
        self.outcome.setWordWrap(True)
        self.outcome.setObjectName("picture-outcome")
        rows = QVBoxLayout(self)
        rows.setContentsMargins(0, 0, 0, 0)
        rows.setSpacing(10)
        rows.addWidget(DropZone(scheme, self), 1)
        line = QHBoxLayout()
        line.addWidget(self.choose)
        line.addWidget(self.paste)
        line.addStretch(1)
        rows.addLayout(line)
        rows.addWidget(self.outcome)
        self.choose.clicked.connect(lambda _=False: self._choose())
        self.paste.clicked.connect(lambda _=False: self.paste_wanted.emit())

    def _choose(self) -> None:
        path = ask_open(self, tr("A picture"), "", FILES)
        if path:
            self.file_wanted.emit(path)
