"""The files of a message as a row of buttons, each with its name and size."""

from __future__ import annotations

from PyQt6.QtCore import QLocale, Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QToolButton, QWidget

from rimecrest_standins.post.message_parts import Attached

SI = QLocale.DataSizeFormat.DataSizeSIFormat


class FileRow(QWidget):
    """Shows files. `clicked` tells the name of one."""

    clicked = pyqtSignal(str)

    def __init__(self, about: str, sign: str = "") -> None:
        """`about` says with `{name}` what a click does, `sign` stands behind each."""
        super().__init__()
        self._about, self._sign = about, sign
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(0, 2, 0, 4)
        self._row.addStretch(1)
        self.hide()

    def show_files(self, files: tuple[Attached, ...]) -> None:
        """Show these and no others."""
        for button in self.findChildren(QToolButton):
            self._row.removeWidget(button)
            button.deleteLater()
        for number, file in enumerate(files):
            button = QToolButton(self)
            size = QLocale().formattedDataSize(len(file.content), 1, SI)
            button.setText(f"{file.name} · {size}{self._sign}".replace("&", "&&"))
            button.setToolTip(self._about.format(name=file.name))
            button.setAccessibleName(button.toolTip())
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.clicked.connect(lambda _=False, name=file.name: self.clicked.emit(name))
            self._row.insertWidget(number, button)
        self.setVisible(bool(files))
