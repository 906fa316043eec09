"""The toolkit's questions for a file or folder. Nothing can be deleted, renamed or made in them.

The desktop's own dialogs stand in where there are any; the toolkit's would delete a whole folder at a key.
"""

from __future__ import annotations

from PyQt6.QtWidgets import QFileDialog, QWidget

_OPTIONS = QFileDialog.Option.ReadOnly


def ask_open(parent: QWidget | None, title: str, begin: str = "", kinds: str = "") -> str:
    """A file to open; empty where none was chosen."""
    return QFileDialog.getOpenFileName(parent, title, begin, kinds, "", _OPTIONS)[0]


def ask_save(parent: QWidget | None, title: str, begin: str = "", kinds: str = "") -> str:
    """A file to write; empty where none was chosen."""
    return QFileDialog.getSaveFileName(parent, title, begin, kinds, "", _OPTIONS)[0]


def ask_folder(parent: QWidget | None, title: str) -> str:
    """A folder; empty where none was chosen."""
    return QFileDialog.getExistingDirectory(parent, title, "", QFileDialog.Option.ShowDirsOnly | _OPTIONS)
