"""The steps as sentences: chosen, muted, moved, doubled and taken out with keys or by their buttons."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter
from PyQt6.QtWidgets import (
    QListWidget,
    QListWidgetItem,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QWidget,
)

from rimecrest.core.catalogue import Catalogue
from rimecrest.core.macro import Block, Comment, Fault, Macro
from rimecrest.core.macro.rework import Path, walk
from rimecrest.core.macro.sentences import sentence
from rimecrest.embed.look import Scheme, bold, font

PATH, DEPTH, MUTED, FAULT, NUMBER, BLOCK = (Qt.ItemDataRole.UserRole + offset for offset in range(6))
ROW = 33
INDENT = 26


class StepPainter(QStyledItemDelegate):
    """Draws one step: its number, its sentence, its fault."""

    def __init__(self, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent)
        self._scheme = scheme

    def sizeHint(self, _option: QStyleOptionViewItem, _index: object) -> QSize:
        return QSize(200, ROW)

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: object) -> None:
        scheme = self._scheme
        box = QRectF(option.rect)
        muted, fault = index.data(MUTED), index.data(FAULT)  # type: ignore[attr-defined]
        indent = 34 + INDENT * index.data(DEPTH)  # type: ignore[attr-defined]
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if fault:
            painter.fillRect(box, scheme.color("blocks_tint"))
        if option.state & QStyle.StateFlag.State_Selected:
            painter.fillRect(box, scheme.color("hover"))
            painter.fillRect(QRectF(box.left(), box.top() + 4, 3, box.height() - 8), scheme.color("crest"))
        painter.setPen(scheme.color("line"))
        painter.drawLine(box.bottomLeft(), box.bottomRight())
        for depth in range(index.data(DEPTH)):  # type: ignore[attr-defined]
            x = box.left() + 38 + INDENT * depth
            painter.drawLine(int(x), int(box.top()), int(x), int(box.bottom()))
        painter.setFont(font(11))
        painter.setPen(scheme.color("ink2"))
        number = QRectF(box.left() + 8, box.top(), 24, box.height())
        painter.drawText(number, Qt.AlignmentFlag.AlignVCenter, index.data(NUMBER))  # type: ignore[attr-defined]
        made = bold(14) if index.data(BLOCK) else font(14)  # type: ignore[attr-defined]
        made.setStrikeOut(bool(muted))
        painter.setFont(made)
        painter.setPen(scheme.color("ink2" if muted else "ink"))
        words = box.adjusted(indent + 8, 0, -28, 0)
        text = painter.fontMetrics().elidedText(
            index.data(),  # type: ignore[attr-defined]
            Qt.TextElideMode.ElideRight,
            int(words.width()),
        )
        painter.drawText(words, Qt.AlignmentFlag.AlignVCenter, text)
        if fault:
            painter.setPen(scheme.color("blocks"))
            painter.drawText(
                box.adjusted(0, 0, -10, 0), Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, "!"
            )
        painter.restore()


class StepList(QListWidget):
    """The steps of one macro.

    Signals:
        reworked(name, path): mute, take out, double, up or down was asked for.
        went_to(line): a step was chosen; its line in the text, from 1.
    """

    reworked = pyqtSignal(str, object)
    went_to = pyqtSignal(int)

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self.setObjectName("steps")
        self.setAccessibleName("Steps")
        self.setFrameShape(QListWidget.Shape.NoFrame)
        self.setItemDelegate(StepPainter(scheme, self))
        self.setFont(font(14))
        self.currentRowChanged.connect(self._moved)
        self._lines: list[int] = []

    def show_macro(self, macro: Macro, catalogue: Catalogue | None, faults: list[Fault]) -> None:
        """Show the steps; the chosen one stays chosen where it can."""
        now = self.path()
        bad: dict[int, str] = {}
        for fault in faults:
            bad.setdefault(fault.line, str(fault))
        self.blockSignals(True)
        self.clear()
        self._lines = []
        count = 0
        for path, step in walk(macro):
            if isinstance(step, Comment) and not step.comment:
                continue
            plain = isinstance(step, Comment)
            count += not plain
            row = QListWidgetItem(sentence(step, catalogue))
            row.setData(PATH, path)
            row.setData(DEPTH, len(path) - 1)
            row.setData(MUTED, step.muted)
            row.setData(BLOCK, isinstance(step, Block))
            row.setData(FAULT, bad.get(step.line, ""))
            row.setData(NUMBER, "" if plain else str(count))
            row.setToolTip(bad.get(step.line, ""))
            self.addItem(row)
            self._lines.append(step.line)
            if path == now:
                self.setCurrentItem(row)
        self.blockSignals(False)

    def path(self) -> Path | None:
        """The chosen step."""
        row = self.currentItem()
        return tuple(row.data(PATH)) if row is not None else None

    def choose(self, path: Path) -> None:
        for index in range(self.count()):
            if tuple(self.item(index).data(PATH)) == path:
                self.setCurrentRow(index)

    def _moved(self, row: int) -> None:
        if 0 <= row < len(self._lines):
            self.went_to.emit(self._lines[row])

    def keyPressEvent(self, event: QKeyEvent) -> None:
        alt = bool(event.modifiers() & Qt.KeyboardModifier.AltModifier)
        control = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        key, path = event.key(), self.path()
        name = ""
        if alt and key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            name = "up" if key == Qt.Key.Key_Up else "down"
        elif key == Qt.Key.Key_Space:
            name = "mute"
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            name = "take out"
        elif control and key == Qt.Key.Key_D:
            name = "double"
        if name and path is not None:
            self.reworked.emit(name, path)
        elif not name:
            super().keyPressEvent(event)
