"""The names of the sheets at the foot of a workbook: gone to, named, added, moved, deleted there by hand."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, Qt, pyqtSignal
from PyQt6.QtGui import QContextMenuEvent, QFocusEvent, QKeyEvent, QMouseEvent
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QMenu, QTabBar, QToolButton, QWidget

from rimecrest.core.words import tr
from rimecrest.kit.documents.document import OWN_MENU
from rimecrest.kit.panels.fields import KEEPS_KEYS
from rimecrest.shell.theme import font
from rimecrest.shell.there import there

NAME_ROOM = 140
"""Pixels of the field for a name, at least."""


class NameField(QLineEdit):
    """Where a sheet is named, over its tab. `entered(name)`: Enter, or the focus went."""

    entered = pyqtSignal(str)
    given_up = pyqtSignal()

    def __init__(self, name: str, parent: QWidget) -> None:
        super().__init__(name, parent)
        self.setObjectName("sheet-name")
        self.setAccessibleName(tr("The name of the sheet"))
        self.setFont(font(12))
        self.setProperty(KEEPS_KEYS, True)
        self.selectAll()
        self._over = False

    def _end(self, keep: bool) -> None:
        if not self._over:
            self._over = True
            self.entered.emit(self.text().strip()) if keep else self.given_up.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._end(True)
        elif event is not None and event.key() == Qt.Key.Key_Escape:
            self._end(False)
        else:
            super().keyPressEvent(event)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self._end(True)


class SheetNames(QTabBar):
    """The tabs. A drag moves a sheet, a double click names it, a right click says what can be done.

    Signals:
        wants(verb, settings): a gesture that is a command.
        naming(index): this sheet is to be named.
    """

    wants = pyqtSignal(str, dict)
    naming = pyqtSignal(int)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setObjectName("sheets")
        self.setShape(QTabBar.Shape.RoundedSouth)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setFont(font(12))
        self.setExpanding(False)
        self.setUsesScrollButtons(True)
        self.setProperty(OWN_MENU, True)
        self._pressed: int | None = None
        """The tab that the mouse went down on."""

    def name(self, index: int) -> str:
        return self.tabText(index).replace("&&", "&")

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        shown = self.currentIndex()
        super().mousePressEvent(event)
        if event is None:
            return
        index = self.tabAt(event.position().toPoint())
        self._pressed = index if event.button() == Qt.MouseButton.LeftButton and index >= 0 else None
        if index not in (-1, shown):
            self.wants.emit("go-to-sheet", {"name": self.name(index)})

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        super().mouseReleaseEvent(event)
        pressed, self._pressed = self._pressed, None
        if event is None or pressed is None:
            return
        at = self.tabAt(event.position().toPoint())
        if at < 0:
            far = event.position().x() > self.tabRect(self.count() - 1).right()
            at = self.count() - 1 if far else 0
        if at != pressed and self.rect().adjusted(-40, -40, 200, 40).contains(event.position().toPoint()):
            self.wants.emit("move-sheet", {"by": str(at - pressed)})

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and (index := self.tabAt(event.position().toPoint())) >= 0:
            self._pressed = None
            self.naming.emit(index)

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        if event is None or (index := self.tabAt(event.pos())) < 0:
            return
        menu = QMenu(self)
        menu.setObjectName("sheet-menu")
        menu.addAction(tr("Name it …"), lambda: self.naming.emit(index))
        menu.addAction(tr("New sheet behind it"), lambda: self.wants.emit("add-sheet", {}))
        menu.addAction(tr("Copy it"), lambda: self.wants.emit("copy-sheet", {}))
        left = menu.addAction(tr("Move to the left"), lambda: self.wants.emit("move-sheet", {"by": "-1"}))
        right = menu.addAction(tr("Move to the right"), lambda: self.wants.emit("move-sheet", {"by": "1"}))
        menu.addSeparator()
        away = menu.addAction(tr("Delete it"), lambda: self.wants.emit("delete-sheet", {}))
        for action, can in ((left, index > 0), (right, index < self.count() - 1), (away, self.count() > 1)):
            if action is not None:
                action.setEnabled(can)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(event.globalPos())


class SheetRow(QWidget):
    """The row of tabs with a plus for a new sheet. `wants(verb, settings)`: a gesture that is a command."""

    wants = pyqtSignal(str, dict)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.names = SheetNames(self)
        self.names.wants.connect(self.wants)
        self.names.naming.connect(self.edit_name)
        self._plus = QToolButton(self)
        self._plus.setObjectName("new-sheet")
        self._plus.setText("+")
        self._plus.setToolTip(tr("New sheet"))
        self._plus.setAccessibleName(tr("New sheet"))
        self._plus.setAutoRaise(True)
        self._plus.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._plus.clicked.connect(self._added)
        self._field: NameField | None = None
        line = QHBoxLayout(self)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(2)
        line.addWidget(self.names)
        line.addWidget(self._plus)
        line.addStretch(1)

    def _added(self, _checked: bool = False) -> None:
        self.wants.emit("add-sheet", {})

    def show_names(self, names: list[str], now: int) -> None:
        """Show these names, with one of them as the sheet that is seen."""
        tabs = self.names
        tabs.blockSignals(True)
        while tabs.count() > len(names):
            tabs.removeTab(tabs.count() - 1)
        for index, name in enumerate(names):
            if index >= tabs.count():
                tabs.addTab(name)
            tabs.setTabText(index, name.replace("&", "&&"))
        tabs.setCurrentIndex(now)
        tabs.blockSignals(False)

    def edit_name(self, index: int) -> None:
        """Have a sheet named right over its tab."""
        if self._field is not None:
            return
        before = self.names.name(index)
        field = self._field = NameField(before, self)
        box = self.names.tabRect(index)
        corner = self.names.mapTo(self, box.topLeft()) + QPoint(2, 1)
        field.setGeometry(corner.x(), corner.y(), max(box.width(), NAME_ROOM), self.height() - 2)

        def over(name: str) -> None:
            self._field = None
            field.hide()
            field.deleteLater()
            window = self.window()
            if window is not None and window.focusWidget() in (None, field):
                there(self.parentWidget()).setFocus()
            if name and name != before:
                self.wants.emit("name-sheet", {"name": name})

        field.entered.connect(over)
        field.given_up.connect(lambda: over(""))
        field.show()
        field.setFocus()
