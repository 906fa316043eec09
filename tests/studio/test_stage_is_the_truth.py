"""The stage shows the colleague's window as it is: the same surfaces, pixel by pixel."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QColor, QImage, QPainter
from PyQt6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot

from rimecrest.apps.letters.document import LetterDocument
from rimecrest.apps.letters.letters import declarations
from rimecrest.core.catalogue.surfaces import Button, Toolbar
from rimecrest.core.release import draft_stack
from rimecrest.core.workspace import PutToolbar
from rimecrest.embed.window import AppWindow
from rimecrest.studio.shared.edit_target import EditTarget
from rimecrest.surfaces import Frame
from tests.studio.conftest import Studio


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
@pytest.mark.parametrize("bars", [1, 2])
def test_the_stage_and_the_real_window_agree(
    studio: Studio, window: AppWindow, width: int, bars: int
) -> None:
    if bars == 2:
        items = (Button(id="one", run="letters:print"), Button(id="two", run="letters:save", face="words"))
        bar = Toolbar(id="second", title="Second", edge="top", items=items)
        assert studio.session.do(PutToolbar("department.freight", "letters", bar))
    studio.session.aim_at(EditTarget("department.freight", "letters", "Freight 1", width))
    studio.place.overlay.hide()
    stage = studio.place.stage.frame
    stack = studio.session.aim.stack(studio.session.workspace)
    window.use(draft_stack(studio.session.workspace, stack, "letters"))
    window.frame.say("")
    window.resize(stage.width(), stage.height())
    window.show()
    assert len(stage.tab_rects()) >= 4
    for tab, _ in stage.tab_rects():
        stage.choose_tab(tab)
        window.frame.choose_tab(tab)
        assert surfaces_of(stage) == surfaces_of(window.frame), f"{tab} differs at {width} pixels"
