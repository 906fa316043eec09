"""The field that listens to keys, and takes them typed out in letters where the desktop never lets them
through."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent
from PyQt6.QtWidgets import QWidget

from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.chords import LONGEST, Sequence, format_sequence, normalise
from rimecrest.core.keys.trie import PATIENCE
from rimecrest.core.words import tr
from rimecrest.shell.key_codes import chord_of, silence_of
from rimecrest.shell.theme import Scheme, font
from rimecrest.studio.shared.sentence_widgets import Field

SILENT = tr("Press a key to look it up")
LISTENING = tr("press it now · Esc twice ends")


class ListenField(Field):
    """Off until it is clicked; then every key is heard, not done. Esc twice, or a click elsewhere, ends it.

    A chord belongs to the sequence that an opener has begun while that one waits, as long as it does in an
    application; else a new one begins. A chord that is typed out is read as well: letters without a modifier
    are text, Enter takes them.

    Signals:
        heard(keys): one to three chords so far, in their one spelling.
        told(sentence): why what was typed cannot be read, or why a key is none.
    """

    heard = pyqtSignal(str)
    told = pyqtSignal(str)
    ended = pyqtSignal()

    def __init__(
        self, scheme: Scheme, begins: Callable[[Sequence], bool], parent: QWidget | None = None
    ) -> None:
        """`begins`: whether some sequence goes on from these chords."""
        super().__init__(scheme, "", parent)
        self.setObjectName("listen")
        self.setFont(font(13))
        self.setMinimumWidth(100)
        widest = max(self.fontMetrics().horizontalAdvance(words) for words in (LISTENING, SILENT))
        self.setMaximumWidth(widest + 26)
        self._typed: Sequence = ()
        """The sequence that waits for its next chord."""
        self._begins = begins
        self._waiting = QTimer(self)
        self._waiting.setSingleShot(True)
        self._waiting.timeout.connect(self._give_up)
        self._escapes = 0
        self._written = False
        """Whether what stands there is being typed out."""
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

    def event(self, event: QEvent | None) -> bool:
        assert event is not None
        if event.type() == QEvent.Type.ShortcutOverride:
            event.accept()
            return True
        if event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            self.keyPressEvent(event)
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        chord = chord_of(event)
        plain = not event.modifiers() & ~(
            Qt.KeyboardModifier.KeypadModifier | Qt.KeyboardModifier.ShiftModifier
        )
        if silence := silence_of(event):
            self.told.emit(silence)
            return
        if chord is not None and chord.key == "Escape" and plain:
            self._escapes += 1
            if self._escapes > 1:
                self.stop_listening()
                return
            # Whether Escape is meant, or the way out, the next key tells.
            self.setText(format_sequence((chord,)))
            self._say()
            return
        if self._escapes:
            self._typed = ()
        self._escapes = 0
        if self._typed and chord is not None:
            self._hear((*self._typed, chord))
            return
        writes = plain and (event.text().isprintable() and event.text())
        if writes or (plain and event.key() in _WRITING and self._written):
            if not self._written:
                self.clear()
                self._written = True
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._read()
            else:
                super().keyPressEvent(event)
        elif chord is not None:
            self._hear((chord,))

    def _hear(self, heard: Sequence) -> None:
        goes_on = len(heard) < LONGEST and self._begins(heard)
        self._typed, self._written = heard if goes_on else (), False
        self._waiting.start(PATIENCE) if goes_on else self._waiting.stop()
        self.setText(f"{format_sequence(heard)}, …" if goes_on else format_sequence(heard))
        self._say()
        self.heard.emit(format_sequence(heard))

    def _give_up(self) -> None:
        """Wait no longer: the next chord begins anew."""
        self.setText(format_sequence(self._typed))
        self._typed = ()
        self._say()

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

    def stop_listening(self) -> None:
        """Hear no more keys, and leave the field."""
        self._forget()
        self.clearFocus()
        self.ended.emit()

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self._forget()
        self._say()

    def _forget(self) -> None:
        self._typed, self._escapes, self._written = (), 0, False
        self._waiting.stop()
        self.clear()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self._forget()
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
