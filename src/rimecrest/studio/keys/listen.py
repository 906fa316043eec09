"""The field that listens to keys, and takes them typed out in letters where the desktop never lets them
through."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent
from PyQt6.QtWidgets import QWidget

from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys import Sequence, format_sequence, normalise
from rimecrest.core.keys.chords import LONGEST
from rimecrest.core.words import tr
from rimecrest.shell.key_codes import chord_of
from rimecrest.shell.theme import Scheme, font
from rimecrest.studio.shared.sentence_widgets import Field

SILENT = tr("Press a key to look it up")
LISTENING = tr("press it now · Esc twice ends")


class ListenField(Field):
    """Off until it is clicked; then every key is heard, not done. Esc twice, or a click elsewhere, ends it.

    A chord that is typed out is read as well: letters without a modifier are text, Enter takes them.

    Signals:
        heard(keys): one to three chords so far, in their one spelling.
        told(sentence): why what was typed cannot be read.
    """

    heard = pyqtSignal(str)
    told = pyqtSignal(str)
    ended = pyqtSignal()

    def __init__(self, scheme: Scheme, parent: QWidget | None = None) -> None:
        super().__init__(scheme, "", parent)
        self.setObjectName("listen")
        self.setFont(font(13))
        self.setMinimumWidth(100)
        widest = max(self.fontMetrics().horizontalAdvance(words) for words in (LISTENING, SILENT))
        self.setMaximumWidth(widest + 26)
        self._typed: Sequence = ()
        self._escapes = 0
        self._say()

    def sizeHint(self) -> QSize:
        # All of its words, where there is room; it gives way in a narrow window.
        return QSize(self.maximumWidth(), super().sizeHint().height())

    @property
    def listening(self) -> bool:
        return self.hasFocus()

    def _say(self) -> None:
        words = LISTENING if self.hasFocus() else SILENT
        self.setPlaceholderText(words)
        self.setAccessibleName(tr("Look a key up: {keys}", keys=self.text() or words))

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.ShortcutOverride:
            event.accept()
            return True
        if event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            self.keyPressEvent(event)
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        chord = chord_of(event)
        plain = not event.modifiers() & ~(
            Qt.KeyboardModifier.KeypadModifier | Qt.KeyboardModifier.ShiftModifier
        )
        if chord is not None and chord.key == "Escape" and plain:
            self._escapes += 1
            if self._escapes > 1:
                self.end()
                return
            # Whether Escape is meant, or the way out, the next key tells.
            self.setText(format_sequence((chord,)))
            self._say()
            return
        if self._escapes:
            self._typed = ()
        self._escapes = 0
        writes = plain and (event.text().isprintable() and event.text())
        if writes or (plain and event.key() in _WRITING and self.text() and not self._typed):
            if self._typed:
                self.clear()
                self._typed = ()
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._read()
            else:
                super().keyPressEvent(event)
        elif chord is not None:
            self._hear((*self._typed, chord) if len(self._typed) < LONGEST else (chord,))

    def _hear(self, typed: Sequence) -> None:
        self._typed = typed
        self.setText(format_sequence(typed))
        self._say()
        self.heard.emit(format_sequence(typed))

    def _read(self) -> None:
        try:
            keys = normalise(self.text())
        except RimecrestError as error:
            self.told.emit(str(error))
            return
        self.setText(keys)
        self.selectAll()
        self._say()
        self.heard.emit(keys)

    def end(self) -> None:
        """Stop listening."""
        self._typed, self._escapes = (), 0
        self.clear()
        self.clearFocus()
        self.ended.emit()

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        self._typed, self._escapes = (), 0
        self.clear()
        self._say()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self.clear()
        self._say()


_WRITING = (
    Qt.Key.Key_Return,
    Qt.Key.Key_Enter,
    Qt.Key.Key_Backspace,
    Qt.Key.Key_Delete,
    Qt.Key.Key_Left,
    Qt.Key.Key_Right,
    Qt.Key.Key_Home,
    Qt.Key.Key_End,
)
