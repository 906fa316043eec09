"""Which macros go into a bundle, a whole shelf or some, and the name that people know their maker by."""

from __future__ import annotations

from collections.abc import Iterator

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLineEdit,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from rimecrest.core.words import counted, tr
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.shell.theme import Scheme, bold, font, palette
from rimecrest.studio.macros.presenter import MacroKey
from rimecrest.studio.shared.sentence_widgets import Plain, Push

KEY = Qt.ItemDataRole.UserRole


class ExportDialog(QDialog):
    """A tick for each shelf and each macro on it. `accepted`: there is something to export, and a name."""

    def __init__(
        self, workspace: Workspace, ticked: MacroKey | None, maker: str, scheme: Scheme, parent: QWidget
    ) -> None:
        super().__init__(parent)
        self.setObjectName("export")
        self.setWindowTitle(tr("Export macros"))
        self.setPalette(palette(scheme))
        self.setFont(font(13))
        self.resize(460, 520)
        self._workspace = workspace
        rows = QVBoxLayout(self)
        rows.setContentsMargins(22, 18, 22, 16)
        rows.setSpacing(8)
        title = Plain(tr("Export macros, with all they need"), scheme)
        title.setFont(bold(17))
        rows.addWidget(title)
        self.shelves = QTreeWidget(self)
        self.shelves.setObjectName("export-macros")
        self.shelves.setAccessibleName(tr("The macros to export"))
        self.shelves.setHeaderHidden(True)
        self._fill(ticked)
        rows.addWidget(self.shelves, 1)
        rows.addWidget(Plain(tr("Your name, as those who get them know it"), scheme, "ink2", 12))
        self.maker = QLineEdit(maker, self)
        self.maker.setObjectName("export-maker")
        self.maker.setAccessibleName(tr("Your name"))
        rows.addWidget(self.maker)
        buttons = QHBoxLayout()
        self._go = Push("", scheme, first=True)
        leave = Push(tr("Cancel"), scheme)
        self._go.setObjectName("export-go")
        leave.setObjectName("export-cancel")
        self._go.clicked.connect(self._try)
        leave.clicked.connect(self.reject)
        buttons.addWidget(self._go)
        buttons.addWidget(leave)
        buttons.addStretch(1)
        rows.addLayout(buttons)
        self.shelves.itemChanged.connect(lambda *_: self._count())
        self.maker.textChanged.connect(lambda _: self._count())
        self._count()

    def _fill(self, ticked: MacroKey | None) -> None:
        shelves: dict[str, QTreeWidgetItem] = {}
        for key, file in sorted(self._workspace.macros.items(), key=lambda pair: (pair[0][0], pair[1].name)):
            if key[0] not in shelves:
                shelf = QTreeWidgetItem(self.shelves, [self._workspace.layer_title(key[0])])
                shelf.setFlags(
                    shelf.flags() | Qt.ItemFlag.ItemIsAutoTristate | Qt.ItemFlag.ItemIsUserCheckable
                )
                shelf.setCheckState(0, Qt.CheckState.Unchecked)
                shelves[key[0]] = shelf
            row = QTreeWidgetItem(shelves[key[0]], [file.name])
            row.setData(0, KEY, key)
            on = key == ticked
            row.setCheckState(0, Qt.CheckState.Checked if on else Qt.CheckState.Unchecked)
            if on:
                self.shelves.setCurrentItem(row)
        self.shelves.expandAll()

    def _rows(self) -> Iterator[QTreeWidgetItem]:
        for index in range(self.shelves.topLevelItemCount()):
            shelf = self.shelves.topLevelItem(index)
            for place in range(shelf.childCount() if shelf is not None else 0):
                if shelf is not None and (row := shelf.child(place)) is not None:
                    yield row

    def files(self) -> list[MacroFile]:
        """The macros that are ticked."""
        keys = [row.data(0, KEY) for row in self._rows() if row.checkState(0) == Qt.CheckState.Checked]
        return [self._workspace.macros[tuple(key)] for key in keys]

    def name(self) -> str:
        """The name of the maker."""
        return self.maker.text().strip()

    def _count(self) -> None:
        self._go.setText(tr("Export {macros} …", macros=counted(len(self.files()), "macro")))
        self._go.setEnabled(bool(self.files()) and bool(self.name()))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._try()
        else:
            super().keyPressEvent(event)

    def _try(self) -> None:
        if self.files() and self.name():
            self.accept()
