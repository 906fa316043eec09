"""A field that a hotkey is given to by pressing it."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QFontMetrics, QKeyEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget
from PyQt6.sip import isdeleted

from rimecrest.core.keys.chords import LONGEST, Chord, Sequence, format_sequence
from rimecrest.core.words import tr
from rimecrest.shell.key_codes import chord_of
from rimecrest.shell.theme import Scheme, font
from rimecrest.studio.shared.sentence_widgets import Word, stand_in


def ask_in_place(
    word: Word, scheme: Scheme, begins: Callable[[Sequence], bool], pressed: Callable[[str], object]
) -> KeyField:
    """Have a key pressed into a field that stands in a sentence instead of one of its words.

    The word comes back when it is over; `pressed` gets the sequence after that.
    """
    field = KeyField(scheme, begins, word.parentWidget())
    stand_in(word, field)

    def over() -> None:
        field.blockSignals(True)
        if not isdeleted(word):
            had_the_keys = field.hasFocus()
            stand_in(field, word)
            if had_the_keys:
                word.setFocus()
        field.deleteLater()

    def finished(keys: str) -> None:
        over()
        pressed(keys)

    field.pressed.connect(finished)
    field.given_up.connect(over)
    field.setFocus()
    return field


class KeyField(QWidget):
    """Takes one to three chords. A chord that begins known sequences waits for the next one.

    Enter takes what was pressed so far, Backspace takes the last chord back, Escape gives up.

    Signals:
        pressed(keys): a whole sequence.
        given_up: Escape, or the focus went elsewhere with nothing pressed.
    """

    pressed = pyqtSignal(str)
    given_up = pyqtSignal()

    def __init__(
        self, scheme: Scheme, begins: Callable[[Sequence], bool], parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self._scheme = scheme
        self._begins = begins
        self._typed: Sequence = ()
        self.setObjectName("key-field")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self._say()

    def _say(self) -> None:
        self._words = f"{format_sequence(self._typed)}, …" if self._typed else tr("press the keys")
        self.setAccessibleName(tr("Hotkey: {words}", words=self._words))
        self.updateGeometry()
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(max(QFontMetrics(font(13)).horizontalAdvance(self._words) + 24, 130), 26)

    def event(self, event: QEvent | None) -> bool:
        assert event is not None
        if event.type() == QEvent.Type.ShortcutOverride:
            # Here every key is a key to be given, the studio's own too.
            event.accept()
            return True
        if event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            self.keyPressEvent(event)
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        plain = not event.modifiers() & ~Qt.KeyboardModifier.KeypadModifier
        if plain and event.key() == Qt.Key.Key_Escape:
            self.given_up.emit()
        elif plain and event.key() == Qt.Key.Key_Backspace:
            self._typed = self._typed[:-1]
            self._say()
        elif plain and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            if self._typed:
                self._finish()
        elif (chord := chord_of(event)) is not None:
            self.take(chord)

    def take(self, chord: Chord) -> None:
        """Take one chord, as if it had been pressed here."""
        self._typed = (*self._typed, chord)
        self._say()
        if len(self._typed) == LONGEST or not self._begins(self._typed):
            self._finish()

    def _finish(self) -> None:
        keys, self._typed = format_sequence(self._typed), ()
        self._say()
        self.pressed.emit(keys)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        assert event is not None
        super().focusOutEvent(event)
        if event.reason() != Qt.FocusReason.ActiveWindowFocusReason:
            self.given_up.emit()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(self._scheme.color("crest"))
        painter.setBrush(self._scheme.color("hover"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 5, 5)
        painter.setPen(self._scheme.color("ink"))
        painter.setFont(font(13))
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, self._words)
