"""What becomes of a recording that was begun in the window: its name, its key, kept or thrown away."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QFont, QKeyEvent, QPalette
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QWidget

from rimecrest.core.keys.chords import Sequence, format_sequence
from rimecrest.core.words import tr
from rimecrest.kit.panels.fields import KEEPS_KEYS
from rimecrest.shell.theme import Scheme, bold, font
from rimecrest.surfaces.panel_controls import PanelField


class RecordedLine(QWidget):
    """A line in the frame of the window, hidden while there is nothing to finish.

    Args:
        ask_key: asks for the next key, whole.
        holder: what a key does now, in words; empty where it is free.

    Signals: kept(name, keys); thrown_away.
    """

    kept = pyqtSignal(str, str)
    thrown_away = pyqtSignal()

    def __init__(
        self,
        scheme: Scheme,
        ask_key: Callable[[Callable[[Sequence], None]], None],
        holder: Callable[[str], str],
    ) -> None:
        super().__init__()
        self._scheme = scheme
        self._ask_key = ask_key
        self._holder = holder
        self.keys = ""
        self.setObjectName("recorded-line")
        self.setAutoFillBackground(True)
        colours = self.palette()
        colours.setColor(QPalette.ColorRole.Window, scheme.color("hover"))
        colours.setColor(QPalette.ColorRole.WindowText, scheme.color("ink"))
        self.setPalette(colours)
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 6, 12, 6)
        row.setSpacing(8)
        self._said = self._label(tr("Recorded. It is called"), bold(13))
        row.addWidget(self._said)
        self.name = PanelField("", self)
        self.name.setObjectName("recorded-name")
        self.name.setAccessibleName(tr("Name of the macro"))
        self.name.setFont(font(13))
        self.name.setMaximumWidth(240)
        self.name.textChanged.connect(self._named)
        self.name.setProperty(KEEPS_KEYS, True)
        self.name.returnPressed.connect(self._keep)
        row.addWidget(self.name, 1)
        row.addWidget(self._label(tr("key"), font(13)))
        self.press = self._button("", "recorded-key", self._listen)
        row.addWidget(self.press)
        self.taken = self._label("", font(12))
        self.taken.setObjectName("recorded-taken")
        row.addWidget(self.taken)
        row.addStretch(1)
        self.keep = self._button(tr("Keep it"), "recorded-keep", self._keep)
        row.addWidget(self.keep)
        row.addWidget(self._button(tr("Throw it away"), "recorded-drop", self._drop))
        self.hide()

    def _label(self, words: str, made: QFont) -> QLabel:
        label = QLabel(words, self)
        label.setFont(made)
        label.setTextFormat(Qt.TextFormat.PlainText)
        return label

    def _button(self, words: str, name: str, do: Callable[[], object]) -> QPushButton:
        button = QPushButton(words, self)
        button.setObjectName(name)
        button.setProperty(KEEPS_KEYS, True)
        button.clicked.connect(lambda _=False: do())
        return button

    def ask(self, name: str) -> None:
        """Ask what becomes of it; `name` is what it is called unless somebody writes another one."""
        self.keys = ""
        self.name.setText(name)
        self._say_key(tr("Press one …"))
        self.show()
        self.name.selectAll()
        self.name.setFocus()

    def _say_key(self, words: str) -> None:
        self.press.setText(words)
        held = self._holder(self.keys) if self.keys else ""
        self.taken.setText(tr("instead of {held}", held=held) if held else "")

    def _named(self) -> None:
        self.keep.setEnabled(bool(self.name.text().strip()))

    def _listen(self) -> None:
        self._say_key(tr("now press the key"))
        self.press.setFocus()
        self._ask_key(self._pressed)

    def _pressed(self, typed: Sequence) -> None:
        if not self.isVisible():
            return
        keys = format_sequence(typed)
        if keys != "Escape":
            self.keys = keys
        self._say_key(self.keys or tr("Press one …"))
        self.keep.setFocus()

    def _keep(self) -> None:
        if self.name.text().strip():
            self.hide()
            self.kept.emit(" ".join(self.name.text().split()), self.keys)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        focused = self.focusWidget()
        enter = event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter)
        if enter and isinstance(focused, QPushButton):
            focused.click()
        else:
            super().keyPressEvent(event)

    def _drop(self) -> None:
        self.hide()
        self.thrown_away.emit()
