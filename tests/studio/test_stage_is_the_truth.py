"""The stage shows the colleague's window as it is: the same surfaces, pixel by pixel."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QColor, QImage, QPainter
from PyQt6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot

from rimecrest.core.catalogue.items import Button
from rimecrest.core.catalogue.surfaces import Toolbar
from rimecrest.core.release.stack_sources import draft_stack
from rimecrest.core.workspace.edits import PutToolbar, SetFields
from rimecrest.kit.window import AppWindow
from rimecrest.studio.shared.edit_target import EditTarget
from rimecrest.surfaces.frame import Frame
from rimecrest_standins.letters.document import LetterDocument
from rimecrest_standins.letters.letters import declarations
from tests.studio.conftest import Studio

PICTURED = {"picture": "set:ferry"}


@pytest.fixture
def window(qtbot: QtBot) -> Iterator[AppWindow]:
    """The real application."""
    made = AppWindow(declarations, LetterDocument, None)
    qtbot.addWidget(made)
    yield made
    made.document.saved()
    made.close()


def surfaces_of(frame: Frame) -> QImage:
    """All of a frame but the document in the middle of it, which is painted over."""
    QApplication.processEvents()
    for widget in frame.findChildren(QWidget):
        # Wherever the mouse happens to be: it points at nothing in either of them.
        widget.setAttribute(Qt.WidgetAttribute.WA_UnderMouse, False)
    image = frame.grab().toImage().convertToFormat(QImage.Format.Format_RGB32)
    painter = QPainter(image)
    painter.fillRect(frame.centre_rect(), QColor(0, 0, 0))
    painter.end()
    return image


@pytest.mark.parametrize("width", [460, 640, 800, 1024, 1280])
@pytest.mark.parametrize("bars", [1, 2, 5])
def test_the_stage_and_the_real_window_agree(
    studio: Studio, window: AppWindow, width: int, bars: int
) -> None:
    if bars > 1:
        items = (Button(id="one", run="letters:print"), Button(id="two", run="letters:save", face="words"))
        bar = Toolbar(id="second", title="Second", edge="top", items=items)
        assert studio.session.do(PutToolbar("department.freight", "letters", bar))
    if bars == 5:
        items = (Button(id="three", run="letters:print"), Button(id="four", run="letters:copy"))
        for name, edge, row in (("a", "bottom", 1), ("b", "bottom", 1), ("c", "right", None)):
            mine = tuple(item.model_copy(update={"id": f"{item.id}-{name}"}) for item in items)
            bar = Toolbar(id=name, title=name, edge=edge, row=row, items=mine)
            assert studio.session.do(PutToolbar("department.freight", "letters", bar))
        assert studio.session.do(SetFields("department.freight", "letters", "app:group-letter", PICTURED))
        assert studio.session.do(SetFields("department.freight", "letters", "app:tab-shape", PICTURED))
    studio.session.aim_at(EditTarget("department.freight", "letters", "Freight 1", width))
    studio.place.overlay.hide()
    stage = studio.place.stage.frame
    stack = studio.session.aim.stack(studio.session.workspace)
    window.stack.use(draft_stack(studio.session.workspace, stack, "letters"))
    window.frame.say("")
    window.resize(stage.width(), stage.height())
    window.show()
    assert len(stage.tab_rects()) >= 4
    for tab, _ in stage.tab_rects():
        stage.choose_tab(tab)
        window.frame.choose_tab(tab)
        assert surfaces_of(stage) == surfaces_of(window.frame), f"{tab} differs at {width} pixels"


def test_bars_of_one_row_share_a_line_and_floating_ones_stand_over_the_document(
    studio: Studio, window: AppWindow
) -> None:
    items = (Button(id="print-it", run="letters:print"),)
    for name, fields in (
        ("one", {"edge": "bottom", "row": 1}),
        ("two", {"edge": "bottom", "row": 1}),
        ("alone", {"edge": "bottom"}),
        ("afloat", {"edge": "float", "at": [40, 30]}),
        ("far", {"edge": "float", "at": [9000, 9000]}),
    ):
        mine = [{"id": f"{item.id}-{name}", "run": item.run} for item in items]
        bar = Toolbar.model_validate({"id": name, "title": name.title(), "items": mine, **fields})
        assert studio.session.do(PutToolbar("department.freight", "letters", bar))
    stack = studio.session.aim.stack(studio.session.workspace)
    window.stack.use(draft_stack(studio.session.workspace, stack, "letters"))
    window.show()
    for frame in (studio.place.stage.frame, window.frame):
        frame.settle()
        boxes = {name.rpartition(":")[2]: box for name, box in frame.bar_rects()}
        assert boxes["one"].top() == boxes["two"].top()
        assert boxes["alone"].top() != boxes["one"].top()
        document = frame.centre_rect()
        heads = {name.rpartition(":")[2]: box for name, box in frame.floating_heads()}
        assert heads["afloat"].topLeft() == document.topLeft() + QPoint(40, 30)
        assert document.contains(boxes["far"])
        assert document.contains(boxes["afloat"])


def test_a_bar_with_a_window_of_its_own_looks_on_the_stage_as_in_that_window(
    studio: Studio, window: AppWindow
) -> None:
    items = (Button(id="print-it", run="letters:print"), Button(id="save-it", run="letters:save"))
    bar = Toolbar(id="own", title="Own", edge="window", at=(40, 30), items=items)
    assert studio.session.do(PutToolbar("department.freight", "letters", bar))
    stack = studio.session.aim.stack(studio.session.workspace)
    window.stack.use(draft_stack(studio.session.workspace, stack, "letters"))
    window.show()
    QApplication.processEvents()
    studio.place.overlay.hide()
    seen = []
    for frame in (studio.place.stage.frame, window.frame):
        above = frame.window()
        assert above is not None
        sheet = above.findChild(QWidget, "floating department.freight:own")
        assert sheet is not None
        assert sheet.window().objectName().startswith("window") is (frame is window.frame)
        for widget in sheet.findChildren(QWidget):
            widget.setAttribute(Qt.WidgetAttribute.WA_UnderMouse, False)
        seen.append(sheet.grab().toImage().convertToFormat(QImage.Format.Format_RGB32))
    assert seen[0] == seen[1]
    document = studio.place.stage.frame.centre_rect()
    assert dict(studio.place.stage.frame.floating_heads())[
        "department.freight:own"
    ].topLeft() == document.topLeft() + QPoint(40, 30)
