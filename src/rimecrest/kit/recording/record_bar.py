"""The bar in the frame of a window that is being recorded: it cannot be overlooked."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QFont, QPainter, QPaintEvent, QPalette
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.errors import RimecrestError
from rimecrest.core.macro.sentences import sentence
from rimecrest.core.macro.steps import Comment
from rimecrest.core.words import counted, tr
from rimecrest.kit.recording.recorder import Recorder
from rimecrest.shell.theme import Scheme, bold, font

PAUSE, DROP, ASK, STOP = "Shift+F5", "Shift+F6", "Shift+F7", "Shift+F8"
"""The keys of the bar, while it shows."""
SHOWN = 3
"""The last steps that the bar shows in words."""


class RecordBar(QWidget):
    """Name, steps in words as they come, and what can be done about it. Hidden while nothing is recorded."""

    def __init__(
        self,
        recorder: Recorder,
        catalogue: Catalogue,
        scheme: Scheme,
        say: Callable[[str], None],
    ) -> None:
        super().__init__()
        self._recorder = recorder
        self._catalogue = catalogue
        self._scheme = scheme
        self._say = say
        self.setObjectName("record-bar")
        row = QHBoxLayout(self)
        row.setContentsMargins(46, 6, 12, 6)
        row.setSpacing(8)
        words = QVBoxLayout()
        words.setSpacing(1)
        self._title = self._label(bold(14))
        self._title.setObjectName("record-title")
        self._steps = self._label(font(12))
        self._steps.setObjectName("record-steps")
        words.addWidget(self._title)
        words.addWidget(self._steps)
        row.addLayout(words, 1)
        self._keys: dict[str, QPushButton] = {}
        self._pause = self._button("Pause", "record-pause", PAUSE, self._turn)
        self._drop = self._button(tr("Drop last"), "record-drop", DROP, self._drop_last)
        self._ask = self._button(tr("Ask for it"), "record-ask", ASK, self._ask_for_last)
        self._ask.setToolTip(tr("Ask for what was written last, each time the macro runs"))
        self._stop = self._button("Stop", "record-stop", STOP, recorder.stop)
        for button in (self._pause, self._drop, self._ask, self._stop):
            row.addWidget(button)
        recorder.changed.connect(self._fill)
        recorder.idle.connect(self._wonder)
        self._fill()

    def _label(self, made: QFont) -> QLabel:
        label = QLabel(self)
        label.setFont(made)
        label.setTextFormat(Qt.TextFormat.PlainText)
        label.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        colours = label.palette()
        colours.setColor(QPalette.ColorRole.WindowText, self._scheme.color("ink"))
        label.setPalette(colours)
        return label

    def _button(self, words: str, name: str, keys: str, do: Callable[[], object]) -> QPushButton:
        button = QPushButton(f"{words}  {keys}", self)
        self._keys[keys] = button
        button.setObjectName(name)
        button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        button.clicked.connect(lambda _=False: do())
        return button

    def press(self, keys: str) -> bool:
        """Press the button that has this key. Returns whether there is one now."""
        button = self._keys.get(keys)
        if button is None or not self._recorder.on:
            return False
        button.click()
        return True

    def _turn(self) -> None:
        self._recorder.go_on() if self._recorder.paused else self._recorder.pause()

    def _drop_last(self) -> None:
        if said := self._recorder.drop_last():
            self._say(said)

    def _ask_for_last(self) -> None:
        try:
            self._recorder.ask_for_last()
        except RimecrestError as error:
            self._say(str(error))

    def _fill(self) -> None:
        recorder = self._recorder
        self.setVisible(recorder.on)
        state = "Paused" if recorder.paused else "Recording"
        steps = [step for step in recorder.steps if not isinstance(step, Comment) or step.comment]
        self._title.setText(f"{state}: {recorder.name} · {counted(len(steps), 'step')}")
        said = [sentence(step, self._catalogue) for step in steps[-SHOWN:]]
        self._steps.setText(
            (" … " if len(steps) > SHOWN else "") + "  ·  ".join(said)
            if said
            else tr("Do the chore now; what you do is written down.")
        )
        self._steps.setToolTip("\n".join(sentence(step, self._catalogue) for step in steps))
        self._pause.setText(f"{'Go on' if recorder.paused else 'Pause'}  {PAUSE}")
        self._drop.setEnabled(bool(steps))
        self._ask.setEnabled(bool(steps))
        self.setAccessibleName(self._title.text())
        self.update()

    def _wonder(self) -> None:
        self._title.setText(
            tr("Nothing was done for a minute. Still recording {name}?", name=self._recorder.name)
        )
        self._pause.setText(f"{'Go on' if self._recorder.paused else 'Pause'}  {PAUSE}")
        self.setAccessibleName(self._title.text())

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme, paused = self._scheme, self._recorder.paused
        painter.fillRect(self.rect(), scheme.color("asks_tint" if paused else "blocks_tint"))
        colour = scheme.color("asks" if paused else "blocks")
        # A frame all round and a sign: the state is told by shape as well.
        painter.fillRect(0, 0, self.width(), 3, colour)
        painter.fillRect(0, self.height() - 3, self.width(), 3, colour)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour)
        middle = self.height() / 2
        if paused:
            painter.drawRect(QRectF(17, middle - 8, 5, 16))
            painter.drawRect(QRectF(26, middle - 8, 5, 16))
        else:
            painter.drawEllipse(QRectF(15, middle - 8, 16, 16))
