"""Arranging all keys of a layer: what moves, what it gains, pins; nothing changes until it is taken."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QSizePolicy, QWidget

from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme, bold, font
from rimecrest.studio.keys.panel import WIDTH, Panel
from rimecrest.studio.shared.sentence_widgets import Chip, Pressable, Push
from rimecrest.surfaces.why_list import wrapped

if TYPE_CHECKING:
    from rimecrest.core.suggest.arrange import Arrangement, Move


def duration(seconds: float) -> str:
    """“12 min”, “40 s”: as exact as anybody needs it."""
    if seconds >= 5400:
        return f"{seconds / 3600:.1f} h"
    return f"{seconds / 60:.0f} min" if seconds >= 90 else f"{seconds:.0f} s"


class MoveRow(Pressable):
    """One target with its key before and after; a click pins it where it is, or lets it go."""

    def __init__(self, move: Move, scheme: Scheme) -> None:
        super().__init__(move.name, scheme)
        self.move_ = move
        self.setObjectName(f"move-{move.identity}")
        self.setCheckable(True)
        self.setChecked(move.pinned)
        what = (
            tr("from {before} to {after}", before=move.before, after=move.after)
            if move.moves
            else tr("stays on {before}", before=move.before)
        )
        self.setAccessibleName(f"{move.name}: {what}{', pinned' if move.pinned else ''}")
        self.setToolTip(tr("Click to pin it where it is") if not move.pinned else tr("Click to let it move"))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(WIDTH - 40, 42)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme, move = self._scheme, self.move_
        if self.underMouse() or self.hasFocus():
            painter.setPen(scheme.color("crest" if self.hasFocus() else "line"))
            painter.setBrush(scheme.color("hover"))
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4)
        painter.setPen(scheme.color("crest" if move.pinned else "faint"))
        painter.setBrush(scheme.color("crest") if move.pinned else Qt.BrushStyle.NoBrush)
        painter.drawEllipse(QRectF(7, 8, 9, 9))
        painter.drawLine(11, 17, 11, 24)
        painter.setPen(scheme.color("ink"))
        painter.setFont(bold(12) if move.moves else font(12))
        box = self.rect().adjusted(24, 3, -8, -3)
        painter.drawText(box, Qt.AlignmentFlag.AlignTop, move.name)
        painter.setFont(font(12))
        painter.setPen(scheme.color("ink2"))
        words = f"{move.before}  →  {move.after}" if move.moves else f"{move.before}  stays"
        painter.drawText(box, Qt.AlignmentFlag.AlignBottom, words)
        painter.drawText(box, Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignRight, f"{move.uses:,} ×")


class ArrangeSheet(Panel):
    """Signals: pinned(identity) turns a pin over; taken; left; side(after) shows before or after on the
    bed."""

    pinned = pyqtSignal(str)
    taken = pyqtSignal()
    left = pyqtSignal()
    side = pyqtSignal(bool)

    def __init__(self, scheme: Scheme) -> None:
        super().__init__("arrange-sheet", scheme)

    def show_arrangement(self, found: Arrangement, after: bool) -> None:
        """Show what would move, and what it gains."""
        self.clear()
        moving = [move for move in found.moves if move.moves]
        self._rows.addWidget(wrapped(tr("Arrange the keys"), self._scheme, "ink", 18, strong=True))
        self._rows.addWidget(wrapped(said(found), self._scheme, "ink", 13))
        sides = QWidget()
        line = QHBoxLayout(sides)
        line.setContentsMargins(0, 2, 0, 2)
        for words, value in (("Before", False), ("After", True)):
            chip = Chip(words + (" ✓" if value is after else ""), self._scheme)
            chip.setObjectName(f"arrange-{words.lower()}")
            chip.clicked.connect(lambda _=False, value=value: self.side.emit(value))
            line.addWidget(chip)
        line.addStretch(1)
        self._rows.addWidget(sides)
        for move in sorted(found.moves, key=lambda move: (not move.moves, -move.uses, move.name)):
            row = MoveRow(move, self._scheme)
            row.clicked.connect(lambda _=False, name=move.identity: self.pinned.emit(name))
            self._rows.addWidget(row)
        self._rows.addWidget(wrapped(tr("A pin keeps a key where it is."), self._scheme, "ink2", 12))
        foot = QWidget()
        line = QHBoxLayout(foot)
        line.setContentsMargins(0, 4, 0, 0)
        take = Push(tr("Use these keys"), self._scheme, first=True)
        take.setObjectName("arrange-take")
        take.setEnabled(bool(moving))
        take.clicked.connect(self.taken)
        leave = Push(tr("Discard"), self._scheme)
        leave.setObjectName("arrange-leave")
        leave.clicked.connect(self.left)
        line.addWidget(take)
        line.addWidget(leave)
        line.addStretch(1)
        self._rows.addWidget(foot)
        self.close_up()


def said(found: Arrangement) -> str:
    """What an arrangement gains, in a sentence whose numbers are those of the arrangement."""
    moving = sum(move.moves for move in found.moves)
    if all(move.pinned for move in found.moves):
        return tr("Every key is pinned, so all stay where they are. Let one go to have it arranged.")
    if not moving:
        return tr(
            "Every key is where it should be: {duration} a month of all colleagues.",
            duration=duration(found.cost_now),
        )
    keys = tr("1 key moves") if moving == 1 else tr("{moving} keys move", moving=moving)
    gained = found.gain
    order = found.cost_in_order - found.cost
    words = tr(
        "{keys}; pressing them would cost colleagues {duration} a month less than now",
        keys=keys,
        duration=duration(gained),
    )
    return words + (
        tr(", and {duration} less than choosing one by one.", duration=duration(order)) if order >= 1 else "."
    )
