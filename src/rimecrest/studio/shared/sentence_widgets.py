"""Sentences whose words are choosers: an underlined word opens a list, a field, or does something."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPoint, QRect, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QFontMetrics, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QLabel,
    QLayout,
    QLayoutItem,
    QLineEdit,
    QSizePolicy,
    QWidget,
    QWidgetItem,
)
from PyQt6.sip import isdeleted

from rimecrest.shell.theme import Scheme, bold, font
from rimecrest.shell.there import there


class Flow(QLayout):
    """Lays widgets out like words: from left to right, then on the next line."""

    def __init__(self, parent: QWidget | None = None, gap: int = 4, line_gap: int = 6) -> None:
        super().__init__(parent)
        self._items: list[QLayoutItem] = []
        self._gap = gap
        self._line_gap = line_gap
        self.setContentsMargins(0, 0, 0, 0)

    def addItem(self, item: QLayoutItem | None) -> None:
        assert item is not None
        self._items.append(item)

    def count(self) -> int:
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def replace(self, widget: QWidget, other: QWidget) -> None:
        """Lay another widget out where this one stands, which is no longer part of it."""
        at = self.indexOf(widget)
        self.addChildWidget(other)
        self._items[at] = QWidgetItem(other)
        self.invalidate()

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return self._arrange(QRect(0, 0, width, 0), move=False)

    def setGeometry(self, box: QRect) -> None:
        super().setGeometry(box)
        self._arrange(box, move=True)

    def sizeHint(self) -> QSize:
        return self.minimumSize()

    def minimumSize(self) -> QSize:
        size = QSize()
        for item in self._items:
            size = size.expandedTo(item.minimumSize())
        return size

    def _arrange(self, box: QRect, move: bool) -> int:
        x, y, line = box.x(), box.y(), 0
        row: list[tuple[QLayoutItem, QRect]] = []
        items = [item for item in self._items if not item.isEmpty()]
        for item, behind in zip([*items, None], [*items[1:], None, None], strict=True):
            size = QSize() if item is None else item.sizeHint().boundedTo(QSize(max(box.width(), 1), 10_000))
            hugs = bool(row) and _hugs(item)
            # A comma never begins a line: a word goes to the next one together with it.
            wide = size.width() + (behind.sizeHint().width() - self._gap if behind and _hugs(behind) else 0)
            if item is None or (x + wide > box.right() + 1 and x > box.x() and not hugs):
                if move:
                    # Words of one line stand on one middle.
                    for placed, where in row:
                        where.moveTop(y + (line - where.height()) // 2)
                        placed.setGeometry(where)
                row = []
                if item is None:
                    break
                x, y, line = box.x(), y + line + self._line_gap, 0
            if hugs:
                x -= self._gap  # a comma stands right behind its word
            row.append((item, QRect(QPoint(x, y), size)))
            x += size.width() + self._gap
            line = max(line, size.height())
        return y + line - box.y()


def stand_in(widget: QWidget, other: QWidget) -> None:
    """Have another widget stand where this one does, in whatever lays it out; this one is hidden."""
    for layout in there(widget.parentWidget()).findChildren(QLayout):
        if layout.indexOf(widget) >= 0:
            if isinstance(layout, Flow):
                layout.replace(widget, other)
            else:
                layout.replaceWidget(widget, other)
            break
    widget.hide()
    other.show()


def _hugs(item: QLayoutItem | None) -> bool:
    """Whether that is a comma or its like."""
    widget = item.widget() if item is not None else None
    return widget is not None and bool(widget.property("hugs"))


class Pressable(QAbstractButton):
    """What the studio's own buttons share: a name, reached with Tab, pressed with Space or Enter."""

    def __init__(self, text: str, scheme: Scheme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._scheme = scheme
        self.setText(text)
        self.setAccessibleName(text)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.by_mouse = False
        """Whether it was pressed with the mouse last."""

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        self.by_mouse = False
        if event.key() not in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            super().keyPressEvent(event)
        elif event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            event.ignore()  # it may mean something to what the button stands in
        elif not event.isAutoRepeat():
            self.click()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self.by_mouse = True
        super().mousePressEvent(event)

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        # The first click was for what stood here before and has gone: the second is not for what came.
        if self.by_mouse:
            super().mouseDoubleClickEvent(event)


class Word(Pressable):
    """An underlined word of a sentence that can be clicked."""

    def __init__(self, text: str, scheme: Scheme, pixels: int = 13, parent: QWidget | None = None) -> None:
        super().__init__(text, scheme, parent)
        self._pixels = pixels
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def when_pressed(self, do: Callable[[Word], object]) -> None:
        """Have it do something when it is pressed. What is being typed beside it is kept first; if that
        writes the sentence anew, the word that stands in its place is pressed instead."""
        self.clicked.connect(lambda _=False: self._press(do))

    def _press(self, do: Callable[[Word], object]) -> None:
        window, name = self.window(), self.objectName()
        if window is not None:
            end_fields(window)
        if isdeleted(self) or not self.isVisible():
            words = there(window).findChildren(Word, name) if name else []
            for word in words:
                if word.isVisible():
                    word.click()
                    return
        else:
            do(self)

    def sizeHint(self) -> QSize:
        metrics = QFontMetrics(bold(self._pixels))
        return QSize(metrics.horizontalAdvance(self.text()) + 2, metrics.height() + 5)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        active = self.hasFocus() or self.underMouse()
        painter.setPen(self._scheme.color("crest" if active else "ink"))
        painter.setFont(bold(self._pixels))
        metrics = QFontMetrics(bold(self._pixels))
        shown = metrics.elidedText(self.text(), Qt.TextElideMode.ElideRight, self.width() - 1)
        painter.drawText(self.rect().adjusted(1, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, shown)
        painter.fillRect(1, self.height() - 2, self.width() - 2, 2, self._scheme.color("crest"))
        if self.hasFocus():
            # Where the keys go is told by a frame, not by a colour alone.
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))


class Chip(Pressable):
    """A small rounded button: one fix, one suggestion."""

    def __init__(self, text: str, scheme: Scheme, parent: QWidget | None = None) -> None:
        super().__init__(text, scheme, parent)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def sizeHint(self) -> QSize:
        return QSize(QFontMetrics(font(12)).horizontalAdvance(self.text()) + 24, 24)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        active = self.underMouse() or self.hasFocus()
        painter.setPen(QPen(self._scheme.color("crest" if active else "faint"), 2 if self.hasFocus() else 1))
        painter.setBrush(self._scheme.color("hover" if active else "sheet"))
        painter.drawRoundedRect(self.rect().adjusted(1, 1, -1, -1).toRectF(), 11, 11)
        painter.setPen(self._scheme.color("ink"))
        painter.setFont(font(12))
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, self.text())


class Push(Pressable):
    """A button of the studio; `first` marks the primary action."""

    def __init__(self, text: str, scheme: Scheme, first: bool = False, parent: QWidget | None = None) -> None:
        super().__init__(text, scheme, parent)
        self._first = first

    def sizeHint(self) -> QSize:
        return QSize(max(QFontMetrics(bold(13)).horizontalAdvance(self.text()) + 28, 36), 30)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme, on = self._scheme, self.isEnabled()
        filled = self._first and on
        painter.setPen(scheme.color("crest" if filled or self.hasFocus() else "line"))
        ground = "crest" if filled else ("hover" if on and self.underMouse() else "sheet")
        painter.setBrush(scheme.color(ground))
        painter.drawRoundedRect(self.rect().adjusted(1, 1, -1, -1).toRectF(), 6, 6)
        if filled and self.hasFocus():
            painter.setPen(scheme.color("on_crest"))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(self.rect().adjusted(4, 4, -4, -4).toRectF(), 4, 4)
        painter.setPen(scheme.color("on_crest" if filled else ("ink" if on else "faint")))
        painter.setFont(bold(13) if self._first else font(13))
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, self.text())


class KeyCaps(QWidget):
    """A sequence drawn as key caps."""

    def __init__(self, keys: str, scheme: Scheme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._caps = [chord.replace("+", " ") for chord in keys.split(", ") if chord]
        self._scheme = scheme
        self.setAccessibleName(keys)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        metrics = QFontMetrics(font(12))
        return QSize(sum(metrics.horizontalAdvance(cap) + 16 for cap in self._caps), 22)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(font(12))
        x = 0
        for cap in self._caps:
            width = QFontMetrics(font(12)).horizontalAdvance(cap) + 12
            painter.setPen(self._scheme.color("faint"))
            painter.setBrush(self._scheme.color("paper"))
            painter.drawRoundedRect(x + 1, 1, width, 19, 4, 4)
            painter.setPen(self._scheme.color("ink"))
            painter.drawText(QRect(x + 1, 1, width, 19), Qt.AlignmentFlag.AlignCenter, cap)
            x += width + 4


class Plain(QLabel):
    """Words of a sentence that are no choosers."""

    def __init__(
        self, text: str, scheme: Scheme, ink: str = "ink", pixels: int = 13, parent: QWidget | None = None
    ) -> None:
        super().__init__(text, parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setFont(font(pixels))
        colors = self.palette()
        colors.setColor(self.foregroundRole(), scheme.color(ink))
        self.setPalette(colors)


class Elided(Plain):
    """Words that end in … where there is no room for all; the whole of them is the tooltip."""

    def __init__(self, text: str, scheme: Scheme, ink: str = "ink", pixels: int = 13) -> None:
        super().__init__(text, scheme, ink, pixels)
        self.setToolTip(text)
        self.setMinimumWidth(60)
        self.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Preferred)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setPen(self.palette().color(self.foregroundRole()))
        painter.setFont(self.font())
        shown = self.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideRight, self.width())
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignVCenter, shown)


class Field(QLineEdit):
    """A field with the studio's corners and lines."""

    def __init__(self, scheme: Scheme, text: str = "", parent: QWidget | None = None) -> None:
        super().__init__(text, parent)
        self._scheme = scheme
        self.setFrame(False)
        self.setTextMargins(9, 0, 9, 0)
        self.setMinimumHeight(30)
        colors = self.palette()
        colors.setColor(colors.ColorRole.Base, QColor(0, 0, 0, 0))
        self.setPalette(colors)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self._scheme.color("crest" if self.hasFocus() else "faint"), 1))
        painter.setBrush(self._scheme.color("sheet"))
        painter.drawRoundedRect(self.rect().toRectF().adjusted(0.5, 0.5, -0.5, -0.5), 6, 6)
        painter.end()
        super().paintEvent(event)


class InlineField(QLineEdit):
    """A field that opens in place of a word or name, and ends with Enter, Escape, or when the focus goes.

    The key that ends it ends only that: nothing behind it gets the key. The focus goes back to where `back`
    says. `entered` carries the text at Enter or when the focus goes; Escape gives up. If something was typed,
    the first Escape only puts the text from before back: undo in the field brings back what was typed.
    """

    entered = pyqtSignal(str)
    given_up = pyqtSignal()

    def __init__(
        self,
        text: str,
        placeholder: str = "",
        parent: QWidget | None = None,
        back: QWidget | None = None,
    ) -> None:
        super().__init__(text, parent)
        self.setPlaceholderText(placeholder)
        self.setFont(font(13))
        self._before = text
        self._back = back
        self.over = False
        """Whether it has been entered or given up: it does so once."""
        self.by_key = False
        """Whether a key ended it, rather than that the focus went elsewhere."""
        self.editingFinished.connect(self._left)
        self.selectAll()

    def written(self) -> str:
        """What it stands for; most fields hold names, where more than one blank is a slip."""
        return " ".join(self.text().split())

    def _left(self) -> None:
        """The focus went elsewhere. While something around the field is being hidden, it waits for the end of
        that: whoever hears of the text may build anew what is being hidden."""
        if self.isVisible():
            self.keep()
        else:
            QTimer.singleShot(0, lambda: None if isdeleted(self) else self.keep())

    def keep(self) -> None:
        """End it as Enter does."""
        if not self.over:
            self.over = True
            self.entered.emit(self.written())

    def give_up(self) -> None:
        """End it as Escape does."""
        if not self.over:
            self.over = True
            self.given_up.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() not in (Qt.Key.Key_Escape, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            super().keyPressEvent(event)
            return
        event.accept()
        if self.over or (event.key() == Qt.Key.Key_Escape and take_back(self, self._before)):
            return
        self.over = self.by_key = True
        # Before anybody hears of it: who hides the field would send the focus to whatever comes next.
        if self._back is not None and not isdeleted(self._back):
            self._back.setFocus()
        if event.key() == Qt.Key.Key_Escape:
            self.given_up.emit()
        else:
            self.entered.emit(self.written())


def take_back(field: QLineEdit, before: str) -> bool:
    """Put the text from before back into a field, so that undo there brings back what was typed.

    Returns whether anything had been typed.
    """
    if field.text() == before:
        return False
    field.selectAll()
    field.insert(before)
    field.selectAll()
    return True


def end_fields(container: QWidget) -> None:
    """Keep what is being typed in a widget that is about to be hidden or to change: it belongs to what is
    there now."""
    for field in container.findChildren(InlineField):
        if field.isVisible():
            field.keep()


def step_focus(container: QWidget, forward: bool) -> bool:
    """Move the focus among what can be reached with Tab in a container, in reading order, round and round."""
    reachable = [
        widget
        for widget in container.findChildren(QWidget)
        if widget.isVisible() and widget.isEnabled() and widget.focusPolicy() & Qt.FocusPolicy.TabFocus
    ]
    if not reachable:
        return False

    def place(widget: QWidget) -> tuple[int, int]:
        middle = widget.mapTo(container, widget.rect().center())
        # Words of one line differ by a few pixels in height.
        return middle.y() // 12, middle.x()

    reachable.sort(key=place)
    now = QApplication.focusWidget()
    at = reachable.index(now) if now in reachable else (-1 if forward else 0)
    reachable[(at + (1 if forward else -1)) % len(reachable)].setFocus(Qt.FocusReason.TabFocusReason)
    return True
