"""A list to choose from, under a word: it begins on the present choice, and looks like the rest."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from functools import partial

from PyQt6.QtCore import QPoint, QPointF, QRect, QRectF, QSize, Qt, QTimer
from PyQt6.QtGui import (
    QAction,
    QFontMetrics,
    QIcon,
    QKeyEvent,
    QKeySequence,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPixmap,
)
from PyQt6.QtWidgets import QApplication, QMenu, QProxyStyle, QStyle, QStyleOption, QWidget

from rimecrest.core.keys.chords import Chord
from rimecrest.shell.key_codes import chord_of
from rimecrest.shell.theme import Scheme, bold, font, palette
from rimecrest.shell.there import there

ROW = 28
SIDE = 30
PAUSE = 1200
"""Milliseconds after which typed letters begin anew."""


class _Rows(QProxyStyle):
    """Rows of one height, with room at the left for the mark of the present choice."""

    def sizeFromContents(
        self,
        type: QStyle.ContentsType,
        option: QStyleOption | None,
        size: QSize,
        widget: QWidget | None = None,
    ) -> QSize:
        found = super().sizeFromContents(type, option, size, widget)
        if type is QStyle.ContentsType.CT_MenuItem and isinstance(widget, ChoiceList):
            return QSize(widget.wide(), 9 if size.height() < 10 else ROW)
        return found


def _hotkey(event: QKeyEvent) -> Chord | None:
    """The chord of a key press that no list answers itself; None for letters, arrows, Enter and the like."""
    chord = chord_of(event)
    if chord is None or not (set(chord.mods) - {"Shift"} or re.fullmatch(r"F\d+", chord.key)):
        return None
    return chord


class ChoiceList(QMenu):
    """Rows to choose from. What is chosen now is bold and has a bar before it; no row has a tick box.

    Typed letters go to the first row that begins so, or has them.
    """

    def __init__(self, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent)
        self._scheme = scheme
        self._typed = ""
        self._pausing = QTimer(self)
        self._pausing.setSingleShot(True)
        self._pausing.setInterval(PAUSE)
        self._pausing.timeout.connect(self._forget)
        self.pasted: Callable[[str], object] | None = None
        """Takes the text of the clipboard, where Ctrl+V means something here."""
        self.pressed: Callable[[Chord], object] | None = None
        """Takes a hotkey that is pressed while the list is open, where that is a choice."""
        self.setObjectName("choices")
        self.setPalette(palette(scheme))
        self.setFont(font(13))
        self._rows = _Rows("Fusion")
        self.setStyle(self._rows)
        self.aboutToHide.connect(self.deleteLater)

    def add(
        self,
        words: str,
        do: Callable[[], object],
        now: bool = False,
        keys: str = "",
        patch: QPixmap | None = None,
    ) -> QAction:
        """One more row.

        Args:
            now: it is what is chosen at present.
            keys: the keys that do the same.
            patch: a small picture before the words, as of a colour.
        """
        action = QAction(words.replace("&", "&&") + (f"\t{keys}" if keys else ""), self)
        self.addAction(action)
        if patch is not None:
            action.setIcon(QIcon(patch))
        action.triggered.connect(lambda _checked=False: do())
        action.setCheckable(now)
        action.setChecked(now)
        return action

    def wide(self) -> int:
        """Pixels that the widest row needs."""
        words = [action.text().replace("&&", "&").replace("\t", "      ") for action in self.actions()]
        return max((QFontMetrics(bold(13)).horizontalAdvance(text) for text in words), default=60) + 2 * SIDE

    def show_under(self, at: QWidget) -> None:
        """Open under a widget, on the present choice."""
        self.show_at(at.mapToGlobal(QPoint(0, at.height() + 2)))

    def show_at(self, corner: QPoint, from_top: bool = False) -> None:
        """Open with the upper left corner there on the screen, on the present choice, else the first row."""
        self.popup(corner)
        rows = [action for action in self.actions() if not action.isSeparator()]
        if rows:
            now = (action for action in rows if action.isChecked() and not from_top)
            self.setActiveAction(next(now, rows[0]))

    def _forget(self) -> None:
        self._typed = ""

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        # The click that opened it ends over its first row, and chooses nothing.
        if event is not None and event.button() != Qt.MouseButton.RightButton:
            super().mouseReleaseEvent(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        text = event.text()
        if self.pressed is not None and (chord := _hotkey(event)) is not None:
            take_chord = self.pressed
            self.close()
            take_chord(chord)
        elif self.pasted is not None and event.matches(QKeySequence.StandardKey.Paste):
            take = self.pasted
            self.close()
            take(there(QApplication.clipboard()).text())
        elif (text.isprintable() and text.strip()) or (text == " " and self._typed):
            self._typed += text.casefold()
            self._pausing.start()
            self._go_to(self._typed)
        else:
            self._forget()
            super().keyPressEvent(event)

    def _go_to(self, typed: str) -> None:
        rows = [(action.text().replace("&&", "&").casefold(), action) for action in self.actions()]
        found = [action for words, action in rows if words.startswith(typed)]
        found += [action for words, action in rows if typed in words]
        if found:
            self.setActiveAction(found[0])

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme = self._scheme
        painter.fillRect(self.rect(), scheme.color("sheet"))
        painter.setPen(scheme.color("faint"))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
        left = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
        for action in self.actions():
            box = QRectF(self.actionGeometry(action))
            if action.isSeparator():
                painter.setPen(scheme.color("line"))
                middle = box.center().y()
                painter.drawLine(QPointF(box.left() + 10, middle), QPointF(box.right() - 10, middle))
                continue
            if action is self.activeAction():
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(scheme.color("hover"))
                painter.drawRoundedRect(box.adjusted(3, 1, -3, -1), 4, 4)
            if action.isChecked():
                mark = QRectF(box.left() + 10, box.top() + 7, 3, box.height() - 14)
                painter.fillRect(mark, scheme.color("crest"))
            painter.setFont(bold(13) if action.isChecked() else font(13))
            painter.setPen(scheme.color("ink" if action.isEnabled() else "faint"))
            words, _, keys = action.text().replace("&&", "&").partition("\t")
            line = box.adjusted(SIDE - 8, 0, -12, 0)
            if not action.icon().isNull():
                patch = QRect(QPoint(0, 0), QSize(14, 14))
                patch.moveCenter(QPoint(int(line.left()) + 6, int(line.center().y())))
                action.icon().paint(painter, patch)
                line = line.adjusted(20, 0, 0, 0)
            painter.drawText(line, left, words)
            painter.setFont(font(12))
            painter.setPen(scheme.color("ink2"))
            painter.drawText(line, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, keys)


def choose_from(
    at: QWidget,
    choices: Sequence[tuple[str, str]],
    now: str,
    scheme: Scheme,
    chosen: Callable[[str], object],
    pressed: Callable[[Chord], object] | None = None,
) -> ChoiceList:
    """Open a list under a word.

    Args:
        choices: (value, words) pairs.
        chosen: gets the value.
        pressed: gets a hotkey that is pressed while the list is open.
    """
    made = ChoiceList(scheme, at)
    made.pressed = pressed
    for value, words in choices:
        made.add(words, partial(chosen, value), now=value == now)
    made.show_under(at)
    return made
