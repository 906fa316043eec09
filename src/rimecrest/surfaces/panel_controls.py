"""What stands on panels and nowhere else: texts, fields, choices, lists and tick boxes."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QSignalBlocker, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QResizeEvent, QWheelEvent
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QLabel,
    QListWidget,
    QSizePolicy,
    QStyle,
    QStyleOptionButton,
    QVBoxLayout,
    QWidget,
)

from rimecrest.core.layout.seen import SeenControl
from rimecrest.shell.line_field import LineField
from rimecrest.shell.theme import bold, font
from rimecrest.surfaces.happenings import Happenings

ROW = 26
"""Pixels of a row of a list: wide enough to be met with a finger or an unsteady mouse."""
LEAST, MOST = 3, 8
"""The rows that a list shows at least and at most; what is beyond is scrolled to."""

Choices = Callable[[str], Sequence[str]]
"""The present entries of a reading that is a list."""


def entries_of(item: SeenControl, choices: Choices) -> list[str]:
    """The entries that a choice or a list has now: the fixed ones, or those of its reading."""
    return list(choices(item.reading)) if item.reading else list(item.choices)


class PanelField(LineField):
    """A field; its value is settled with Enter or when the focus goes, Escape leaves it as it was."""

    settled = pyqtSignal()
    left = pyqtSignal()

    def __init__(self, value: str, parent: QWidget) -> None:
        super().__init__(value, parent)
        self._before = value
        self.editingFinished.connect(self._settle)

    def put(self, value: str) -> None:
        """Write a value, as a macro does: nothing happens on that."""
        self._before = value
        self.setText(value)

    def _settle(self) -> None:
        if self.text() != self._before:
            self._before = self.text()
            self.settled.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.setText(self._before)
            self.left.emit()
            return
        super().keyPressEvent(event)


class PanelChoice(QComboBox):
    """A box to choose from; where its entries come from a reading, they are read as it opens."""

    def __init__(self, item: SeenControl, choices: Choices, parent: QWidget) -> None:
        super().__init__(parent)
        self._item = item
        self._choices = choices
        self.refill()
        self.put(item.value)

    def refill(self) -> None:
        """Take the entries that there are now; what was chosen stays while it is there, else nothing is."""
        now = self.currentText()
        with QSignalBlocker(self):
            self.clear()
            self.addItems(entries_of(self._item, self._choices))
        self.put(now)

    def put(self, value: str) -> None:
        """Choose an entry, as a macro does: nothing happens on that."""
        with QSignalBlocker(self):
            self.setCurrentIndex(self.findText(value, Qt.MatchFlag.MatchExactly))

    def showPopup(self) -> None:
        self.refill()
        super().showPopup()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is not None:
            # The wheel scrolls the panel; it would choose, and run what a choice runs.
            event.ignore()


class PanelList(QListWidget):
    """Entries that stay in sight. A click or Enter chooses one, the arrows only go from one to another.

    Signals:
        chosen: an entry was chosen, by hand.
        left: Escape; the document wants the keys again.
    """

    chosen = pyqtSignal()
    left = pyqtSignal()

    def __init__(self, item: SeenControl, choices: Choices, parent: QWidget) -> None:
        super().__init__(parent)
        self._item = item
        self._choices = choices
        self._value = item.value
        self._shown: list[str] | None = None
        self.setUniformItemSizes(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.itemClicked.connect(lambda _: self._choose())
        self.refill()

    def refill(self) -> None:
        """Take the entries that there are now; it stays where it was scrolled to."""
        entries = entries_of(self._item, self._choices)
        if entries != self._shown:
            self._shown = entries
            bar = self.verticalScrollBar()
            at = bar.value() if bar is not None else 0
            self.clear()
            self.addItems(entries)
            for row in map(self.item, range(len(entries))):
                if row is not None:
                    row.setToolTip(row.text())
                    row.setSizeHint(QSize(0, ROW))
            rows = min(max(len(entries), LEAST), MOST)
            self.setFixedHeight(rows * ROW + 2 * self.frameWidth())
            if bar is not None:
                bar.setValue(at)
        self.put(self._value)

    def value(self) -> str:
        """The entry that was chosen last; empty where there is none, or it is gone."""
        return self._value if self._value in entries_of(self._item, self._choices) else ""

    def put(self, value: str) -> None:
        """Choose an entry, as a macro does: nothing happens on that."""
        self._value = value
        found = self.findItems(value, Qt.MatchFlag.MatchExactly | Qt.MatchFlag.MatchCaseSensitive)
        if found:
            self.setCurrentItem(found[0])
        else:
            self.setCurrentRow(-1)

    def _choose(self) -> None:
        row = self.currentItem()
        if row is not None:
            self._value = row.text()
            self.chosen.emit()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        # What the arrows went to was not chosen.
        self.put(self._value)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._choose()
        elif event is not None and event.key() == Qt.Key.Key_Escape:
            self.put(self._value)
            self.left.emit()
        else:
            super().keyPressEvent(event)


LONG_WORDS, PIECE = 60, 8
"""Letters from which words have a tip as well, and letters of a long word between two places to break it."""
_ZERO_WIDTH = "\u200b"


def breakable(text: str) -> str:
    """Words in which even the longest one can be broken: with places for it that nobody sees."""
    words = []
    for word in text.split(" "):
        pieces = [word[at : at + PIECE] for at in range(0, len(word), PIECE)]
        words.append(_ZERO_WIDTH.join(pieces) if len(word) > 2 * PIECE else word)
    return " ".join(words)


class Elided(QCheckBox):
    """A tick box whose words end in "…" where there is no room for them; the tip has them whole."""

    def __init__(self, text: str, parent: QWidget) -> None:
        super().__init__(parent)
        self._whole = text
        self.setAccessibleName(text)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self._fit()

    def _fit(self) -> None:
        option = QStyleOptionButton()
        self.initStyleOption(option)
        style = self.style()
        assert style is not None
        box = style.subElementRect(QStyle.SubElement.SE_CheckBoxContents, option, self)
        mode = Qt.TextElideMode.ElideRight
        shown = self.fontMetrics().elidedText(self._whole, mode, max(self.width() - box.left() - 2, 20))
        self.setText(shown.replace("&", "&&"))
        self.setToolTip(self._whole if shown != self._whole else "")

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit()


class Words(QLabel):
    """The words of a control; those that do something when clicked look so and have the keys as well."""

    pressed = pyqtSignal()

    def __init__(self, text: str, bold_words: bool, pressable: bool, parent: QWidget) -> None:
        super().__init__(breakable(text), parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setWordWrap(True)
        self.setToolTip(text if len(text) > LONG_WORDS else "")
        self.setAccessibleName(text)
        shown = bold(12) if bold_words else font(13)
        self._pressable = pressable
        if pressable:
            shown.setUnderline(True)
            self.setForegroundRole(self.palette().ColorRole.Link)
            self.setCursor(Qt.CursorShape.PointingHandCursor)
            self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setFont(shown)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        keys = (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space)
        if event is not None and self._pressable and event.key() in keys:
            self.pressed.emit()
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.setFrameShape(QLabel.Shape.Box)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.setFrameShape(QLabel.Shape.NoFrame)


class ControlView(QWidget):
    """One text, field, choice, list or tick box with its caption.

    Signals:
        happened(event): one of `core.catalogue.items.Event` that the control listens to.
        left: Escape in its field or list.
    """

    happened = pyqtSignal(str)
    left = pyqtSignal()

    def __init__(self, item: SeenControl, choices: Choices, parent: QWidget) -> None:
        super().__init__(parent)
        self.item = item
        self._listens = frozenset(doing.event for doing in item.doings)
        self.setAccessibleName(item.caption)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(0, 0, 0, 0)
        rows.setSpacing(2)
        self._field: PanelField | None = None
        self._choice: PanelChoice | None = None
        self._list: PanelList | None = None
        self._tick: QCheckBox | None = None
        if item.kind == "tick":
            self._tick = Elided(item.caption, self)
            self._tick.setChecked(item.value == "yes")
            self._tick.clicked.connect(lambda _=False: self._happen("change"))
            rows.addWidget(self._tick)
        else:
            words = Words(item.caption, item.kind != "text", item.kind == "text" and self._pressable(), self)
            words.pressed.connect(lambda: self._happen("click" if "click" in self._listens else "double"))
            rows.addWidget(words)
        if item.kind == "field":
            self._field = PanelField(item.value, self)
            self._field.settled.connect(lambda: self._happen("change"))
            self._field.left.connect(self.left)
            self._field.setAccessibleName(item.caption)
            rows.addWidget(self._field)
        elif item.kind == "list":
            self._list = PanelList(item, choices, self)
            self._list.chosen.connect(lambda: self._happen("change"))
            self._list.left.connect(self.left)
            self._list.setAccessibleName(item.caption)
            rows.addWidget(self._list)
        elif item.kind == "choice":
            self._choice = PanelChoice(item, choices, self)
            self._choice.textActivated.connect(lambda _: self._happen("change"))
            self._choice.setAccessibleName(item.caption)
            self._choice.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
            rows.addWidget(self._choice)
        happenings = Happenings(self, self.findChildren(QWidget), self._listens)
        happenings.happened.connect(self.happened)

    def _pressable(self) -> bool:
        return bool(self._listens & {"click", "double"})

    def _happen(self, event: str) -> None:
        if event in self._listens:
            self.happened.emit(event)

    # What is in it

    def value(self) -> str:
        """What is in it: the text, the entry, yes or no."""
        if self._field is not None:
            return self._field.text()
        if self._choice is not None:
            return self._choice.currentText()
        if self._list is not None:
            return self._list.value()
        return ("yes" if self._tick.isChecked() else "no") if self._tick is not None else ""

    def put(self, value: str) -> None:
        """Give it a value without anything happening on that."""
        if self._field is not None:
            self._field.put(value)
        elif self._choice is not None:
            self._choice.put(value)
        elif self._list is not None:
            self._list.put(value)
        elif self._tick is not None:
            self._tick.setChecked(value == "yes")

    def take_focus(self) -> None:
        """Have the keys go to what is filled in here."""
        for box in (self._field, self._choice, self._list, self._tick):
            if box is not None:
                box.setFocus(Qt.FocusReason.TabFocusReason)

    def refill(self) -> None:
        """Take the entries that there are now, where they come from a reading."""
        for box in (self._choice, self._list):
            if box is not None and self.item.reading:
                box.refill()
