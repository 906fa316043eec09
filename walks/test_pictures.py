"""The jobs of whoever gives a button its picture, each by mouse and by keys alone."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from PIL import Image, ImageDraw
from PyQt6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QDragEnterEvent, QDragMoveEvent, QDropEvent, QImage
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication
from tests.studio.conftest import ALT, CTRL, NONE, SHIFT

from rimecrest.core.catalogue.surfaces import Button
from rimecrest.core.pictures.drawing import Drawing
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.studio.pictures.canvas import SIDE, Canvas
from walks.hands import Hands

AtMost = Callable[[int], None]
BAR = "department.freight:freight"
TABLE = "department.freight:table"
NOTICE = "department.freight:sailing-notice"


@pytest.fixture
def image(tmp_path: Path) -> Path:
    path = tmp_path / "lane-marker.png"
    made = Image.new("RGBA", (96, 96))
    draw = ImageDraw.Draw(made)
    draw.rectangle((10, 10, 30, 85), fill="#14657A")
    draw.rectangle((60, 10, 80, 85), fill="#A8480A")
    made.save(path)
    return path


def stroke(hands: Hands, begin: tuple[int, int], end: tuple[int, int]) -> None:
    """One stroke of the mouse on the grid."""
    hands.gestures += 1
    canvas = hands.studio.find("canvas")
    assert isinstance(canvas, Canvas)
    side = SIDE / canvas.drawing.size
    points = [QPoint(int((x + 0.5) * side), int((y + 0.5) * side)) for x, y in (begin, end)]
    QTest.mousePress(canvas, Qt.MouseButton.LeftButton, NONE, points[0])
    QTest.mouseMove(canvas, points[1])
    QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, NONE, points[1])
    QApplication.processEvents()


def stored(hands: Hands, identity: str) -> Button:
    """The button as it lies on the disk."""
    layout = read_workspace(hands.studio.folder).layout("department.freight", "letters")
    item = next(item for item in layout.all_items() if layout.full(item.id) == identity)
    assert isinstance(item, Button)
    return item


def _has_the_drawn_picture(hands: Hands) -> None:
    row = hands.row(BAR)
    assert row.index(NOTICE) == row.index(TABLE) + 1 < len(row) - 1
    item = stored(hands, NOTICE)
    assert (item.run, item.tip) == ("macro:sailing-notice", "Tells passengers")
    content = read_workspace(hands.studio.folder).pictures[str(item.picture).removeprefix("own:")]
    assert any(Drawing.of(content).cells)


def test_own_command_with_a_drawn_picture_by_mouse(hands: Hands, at_most: AtMost) -> None:
    at_most(12)
    slot = hands.studio.slot()
    hands.click(slot.caret.center())
    hands.type("sailing not")
    hands.click_item(NOTICE)
    hands.press(Qt.Key.Key_Space)
    hands.push("card-tip")
    hands.write_over("Tells passengers")
    hands.push("card-picture")
    hands.push("picture-drawn")
    stroke(hands, (3, 9), (16, 9))
    hands.press(Qt.Key.Key_Escape)
    hands.press(Qt.Key.Key_Escape)
    hands.drag(hands.centre(NOTICE), hands.centre(TABLE) + QPoint(34, 0))
    _has_the_drawn_picture(hands)


def test_own_command_with_a_drawn_picture_by_keys(hands: Hands, at_most: AtMost) -> None:
    at_most(14)
    overlay = hands.studio.place.overlay
    overlay.caret.put(hands.studio.slot(after=TABLE))
    overlay.setFocus()
    hands.type("sailing not")
    hands.press(Qt.Key.Key_Left, SHIFT)
    hands.press(Qt.Key.Key_F10, SHIFT)
    hands.type("tip")
    hands.write_over("Tells passengers")
    hands.press(Qt.Key.Key_Escape)
    hands.press(Qt.Key.Key_F10, SHIFT)
    hands.type("pict")
    hands.press(Qt.Key.Key_Tab, CTRL)
    hands.press(Qt.Key.Key_Space)
    hands.press(Qt.Key.Key_Escape)
    hands.press(Qt.Key.Key_Escape)
    hands.press(Qt.Key.Key_Right, ALT)
    hands.press(Qt.Key.Key_Left, ALT)
    _has_the_drawn_picture(hands)


def _has_it_only(hands: Hands, identity: str) -> None:
    item = stored(hands, identity)
    assert item.picture in ("own:table.png", "own:lane-marker.png")
    assert item.face == "picture"


def test_picture_copied_elsewhere_by_mouse(hands: Hands, at_most: AtMost, image: Path) -> None:
    at_most(7)
    QApplication.clipboard().setImage(QImage(str(image)))
    hands.click_item(TABLE)
    hands.right_click(hands.centre(TABLE))
    hands.choose("Picture …")
    hands.studio.qtbot.waitUntil(lambda: bool(hands.studio.find("picture-chooser")))
    hands.push("picture-imported")
    hands.push("picture-paste")
    hands.right_click(hands.centre(TABLE))
    hands.choose("Picture only")
    _has_it_only(hands, TABLE)


def test_picture_copied_elsewhere_by_keys(hands: Hands, at_most: AtMost, image: Path) -> None:
    at_most(7)
    QApplication.clipboard().setImage(QImage(str(image)))
    hands.studio.place.overlay.caret.put(hands.studio.slot(after=TABLE))
    hands.studio.place.overlay.setFocus()
    hands.press(Qt.Key.Key_Left, SHIFT)
    hands.press(Qt.Key.Key_V, CTRL)
    hands.press(Qt.Key.Key_F10, SHIFT)
    hands.row_typed("picture only")
    _has_it_only(hands, TABLE)


def test_image_file_as_picture_by_mouse(hands: Hands, at_most: AtMost, image: Path) -> None:
    at_most(4)
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(image))])
    overlay, spot = hands.studio.place.overlay, hands.centre(TABLE)
    hands.gestures += 1
    held, copy = Qt.MouseButton.LeftButton, Qt.DropAction.CopyAction
    QApplication.sendEvent(overlay, QDragEnterEvent(spot, copy, data, held, NONE))
    QApplication.sendEvent(overlay, QDragMoveEvent(spot, copy, data, held, NONE))
    QApplication.sendEvent(overlay, QDropEvent(QPointF(spot), copy, data, held, NONE))
    assert stored(hands, TABLE).picture == "own:lane-marker.png"


def test_image_file_as_picture_by_keys(hands: Hands, at_most: AtMost, image: Path) -> None:
    at_most(4)
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(image))])
    QApplication.clipboard().setMimeData(data)  # copied in a file manager
    hands.studio.place.overlay.caret.put(hands.studio.slot(after=TABLE))
    hands.studio.place.overlay.setFocus()
    hands.press(Qt.Key.Key_Left, SHIFT)
    hands.press(Qt.Key.Key_V, CTRL)
    assert stored(hands, TABLE).picture == "own:lane-marker.png"
    hands.press(Qt.Key.Key_Z, CTRL)
    assert stored(hands, TABLE).picture is None
