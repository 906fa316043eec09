"""A studio on a copy of the demo, without a screen, and the hands that work in it."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QMenu, QWidget
from PyQt6.sip import isdeleted
from pytestqt.qtbot import QtBot

from rimecrest.core.check.kinds import Weight
from rimecrest.core.layout.layout import Layout
from rimecrest.core.layout.seen import SeenItem
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.studio.desk import Desk
from rimecrest.studio.layout.place import LayoutPlace
from rimecrest.studio.macros.place import MacrosPlace
from rimecrest.studio.shared.session import Session
from rimecrest.studio.window import StudioWindow
from rimecrest.surfaces.insertion_points import InsertionPoint

BAR = "department.freight:freight"
LAST = "department.freight:numbered"
NONE = Qt.KeyboardModifier.NoModifier
CTRL = Qt.KeyboardModifier.ControlModifier
SHIFT = Qt.KeyboardModifier.ShiftModifier
ALT = Qt.KeyboardModifier.AltModifier


class Studio:
    """The studio's window with short words for what a specialist does in it."""

    def __init__(self, qtbot: QtBot, folder: Path) -> None:
        self.qtbot = qtbot
        self.folder = folder
        self.window = StudioWindow()
        qtbot.addWidget(self.window)
        self.window.open_folder(folder)
        with qtbot.waitActive(self.window):
            self.window.show()
        qtbot.waitUntil(lambda: self.session.is_checked)

    @property
    def desk(self) -> Desk:
        assert self.window.desk is not None
        return self.window.desk

    @property
    def session(self) -> Session:
        assert self.window.session is not None
        return self.window.session

    @property
    def place(self) -> LayoutPlace:
        return self.desk.places["Layout"]

    @property
    def layout(self) -> Layout:
        aim = self.session.aim
        return self.session.workspace.layout(aim.layer, aim.app)

    @property
    def said(self) -> str:
        return self.desk.strip.accessibleName()

    def saved(self, layer: str = "department.freight") -> Layout:
        """The layout as it lies on the disk now."""
        return read_workspace(self.folder).layout(layer, "letters")

    def item(self, identity: str) -> SeenItem | None:
        return self.session.outcome().item(identity)

    def row(self, surface: str = BAR) -> list[str]:
        """Identities on a surface, without the layer."""
        seen = self.session.outcome()
        return next([item.id.split(":")[1] for item in row.items] for row in seen.rows() if row.id == surface)

    def slot(self, surface: str = BAR, after: str | None = LAST, new_group: bool = False) -> InsertionPoint:
        return next(
            slot
            for slot in self.place.stage.frame.insertion_points()
            if (slot.surface, slot.after, slot.new_group) == (surface, after, new_group)
        )

    def click(self, point: QPoint, held: Qt.KeyboardModifier = NONE) -> None:
        QTest.mouseClick(self.place.overlay, Qt.MouseButton.LeftButton, held, point)
        QApplication.processEvents()

    def click_slot(self, surface: str = BAR, after: str | None = LAST, new_group: bool = False) -> None:
        self.click(self.slot(surface, after, new_group).caret.center())

    def click_item(self, identity: str, held: Qt.KeyboardModifier = NONE) -> None:
        box = self.place.stage.frame.rect_of(identity)
        assert box is not None
        self.click(box.center(), held)

    def drag(self, start: QPoint, end: QPoint) -> None:
        overlay = self.place.overlay
        QTest.mousePress(overlay, Qt.MouseButton.LeftButton, NONE, start)
        for step in range(1, 6):
            QTest.mouseMove(overlay, start + (end - start) * step / 5)
        QTest.mouseRelease(overlay, Qt.MouseButton.LeftButton, NONE, end)
        QApplication.processEvents()

    def _focus(self) -> QWidget:
        # Not `or`: a list with nothing in it counts as false.
        focused = QApplication.focusWidget()
        return self.place.overlay if focused is None else focused

    def type(self, text: str) -> None:
        for character in text:
            QTest.keyClick(self._focus(), character)
        QApplication.processEvents()

    def press(self, key: Qt.Key, held: Qt.KeyboardModifier = NONE) -> None:
        QTest.keyClick(self._focus(), key, held)
        QApplication.processEvents()

    def find(self, name: str) -> QWidget:
        """A visible widget by its object name."""
        QApplication.processEvents()
        found = [widget for widget in self.window.findChildren(QWidget, name) if widget.isVisible()]
        assert found, f"there is no visible {name}"
        return found[-1]

    def push(self, name: str) -> None:
        QTest.mouseClick(self.find(name), Qt.MouseButton.LeftButton)
        QApplication.processEvents()

    def choose(self, words: str) -> None:
        """Take a row of the list that is open."""
        menu = next(menu for menu in self.window.findChildren(QMenu, "choices") if menu.isVisible())
        next(action for action in menu.actions() if action.text() == words).trigger()
        # What was chosen may have drawn the row anew that the list belongs to.
        if not isdeleted(menu):
            menu.close()
        QApplication.processEvents()

    def count(self, weight: Weight) -> int:
        return sum(finding.weight is weight for finding in self.session.checked.findings)


@pytest.fixture
def demo_copy(demo_folder: Path, tmp_path: Path) -> Path:
    shutil.copytree(demo_folder, tmp_path / "demo")
    return tmp_path / "demo" / "vessry"


@pytest.fixture
def studio(qtbot: QtBot, demo_copy: Path) -> Iterator[Studio]:
    made = Studio(qtbot, demo_copy)
    yield made
    # A list or a question that a test leaves open would have the keys of the next one.
    for window in [*QApplication.topLevelWidgets(), made.window]:
        if not isdeleted(window) and window.isVisible():
            window.close()
    QApplication.clipboard().clear()


@pytest.fixture
def place(studio: Studio) -> MacrosPlace:
    """The Macros place, in view."""
    studio.press(Qt.Key.Key_1, CTRL)
    studio.qtbot.waitUntil(lambda: studio.desk.places["Macros"].isVisible())
    found: MacrosPlace = studio.desk.places["Macros"]
    return found
