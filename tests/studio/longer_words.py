"""Walks through the studio in a language that takes 40 % more room, and prints what is cut off.

A process of its own, because sentences that are made with the modules are made once.
"""

from __future__ import annotations

import gettext
import os
import re
import sys
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

GROWTH = 1.4
SIZE = (1280, 800)
PLACEHOLDER = re.compile(r"(\{[^}]*\})")


def longer(sentence: str) -> str:
    """The sentence with its vowels drawn out until it is 40 % longer; what is put into it stays."""
    parts = PLACEHOLDER.split(sentence)
    owed = round(sum(len(part) for part in parts[::2]) * (GROWTH - 1) + 0.5)
    while owed > 0 and re.search(r"[aeiouyAEIOUY]", "".join(parts[::2])):
        for at in range(0, len(parts), 2):
            made = []
            for letter in parts[at]:
                made.append(letter)
                if owed > 0 and letter in "aeiouy":
                    made.append(letter)
                    owed -= 1
            parts[at] = "".join(made)
        if not re.search(r"[aeiouy]", "".join(parts[::2])):
            break
    return "".join(parts)


class Longer(gettext.NullTranslations):
    """The made-up language."""

    def gettext(self, message: str) -> str:
        return longer(message)

    def ngettext(self, msgid1: str, msgid2: str, n: int) -> str:
        return longer(msgid1 if n == 1 else msgid2)


def main(folder: Path) -> None:
    from rimecrest.core.words import use_language

    use_language(Longer())
    from PyQt6.QtWidgets import QAbstractButton, QAbstractScrollArea, QApplication, QLabel, QLineEdit, QWidget

    from rimecrest.shell.start import make_qt_application
    from rimecrest.studio.keys.place import KeysPlace
    from rimecrest.studio.shared.place import Thing
    from rimecrest.studio.shared.sentence_widgets import Elided
    from rimecrest.studio.window import StudioWindow
    from rimecrest.surfaces.frame import Frame

    make_qt_application("Rimecrest")
    window = StudioWindow()

    def trouble(widget: QWidget) -> str:
        """What is wrong with how a widget shows its words; empty when nothing is."""
        if isinstance(widget, QLabel):
            if isinstance(widget, Elided) or not widget.text() or widget.pixmap().width():
                return ""
            if widget.wordWrap():
                needs = widget.heightForWidth(widget.width())
                return f"needs {needs} px of height, has {widget.height()}" if needs > widget.height() else ""
            needs = widget.fontMetrics().horizontalAdvance(widget.text())
            if needs > widget.contentsRect().width() + 1:
                return f"needs {needs} px, has {widget.contentsRect().width()}"
        elif isinstance(widget, QAbstractButton):
            needs = widget.sizeHint().width()
            told = widget.toolTip() or widget.accessibleName()
            if widget.text() and needs > widget.width() + 1 and told != widget.text():
                return f"needs {needs} px, has {widget.width()}"
        elif isinstance(widget, QLineEdit):
            needs = widget.fontMetrics().horizontalAdvance(widget.placeholderText())
            if needs > widget.width() - 8 and not widget.toolTip():
                return f"placeholder needs {needs} px, has {widget.width()}"
        else:
            return ""
        box = widget.rect()
        parent, inner = widget.parentWidget(), widget
        while parent is not None and not isinstance(inner.parentWidget(), QAbstractScrollArea):
            box = box.translated(inner.pos())
            if isinstance(parent.parentWidget(), QAbstractScrollArea):
                break
            if not parent.rect().adjusted(-1, -1, 1, 1).contains(box):
                return f"lies at {box.getRect()} in {type(parent).__name__} of {parent.rect().getRect()}"
            inner, parent = parent, parent.parentWidget()
        return ""

    def look(where: str) -> None:
        for _ in range(5):
            QApplication.processEvents()
        for widget in window.findChildren(QWidget):
            # The stage shows the colleague's window, in the colleague's words.
            stage = any(isinstance(up, Frame) for up in _above(widget))
            if widget.isVisible() and not stage and (found := trouble(widget)):
                words = widget.text() or widget.placeholderText() if hasattr(widget, "text") else ""
                print(f"{where}: {type(widget).__name__} {widget.objectName()} “{words}” {found}")

    def _above(widget: QWidget) -> list[QWidget]:
        found: list[QWidget] = []
        at: QWidget | None = widget
        while at is not None:
            found.append(at)
            at = at.parentWidget()
        return found

    window.show()
    window.resize(*SIZE)
    look("start")
    window.open_folder(folder)
    desk = window.desk
    for name in desk.places:
        desk.go(name)
        look(name)
    desk.place(KeysPlace).begin_arranging()
    desk.go("Keys")
    look("arranging")
    desk.go("Layout")
    desk.show_thing(Thing("item", "department.freight:numbered"))
    look("the card of an item")
    desk.open_findings(True)
    look("the findings")
    if window.width() > SIZE[0]:
        print(f"the window is {window.width()} px wide")
    window.close()


if __name__ == "__main__":
    main(Path(sys.argv[1]))
