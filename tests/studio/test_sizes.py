"""Every place is whole in a small window, and the window never grows by itself."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import QRect
from PyQt6.QtWidgets import QAbstractButton, QApplication, QLineEdit

from rimecrest.studio.keys.bed_view import KeyCap
from rimecrest.studio.places import PLACES
from rimecrest.studio.shared.edit_target import EditTarget
from tests.studio.conftest import Studio

SMALL = (1000, 640)


@pytest.mark.parametrize("place", [row.name for row in PLACES])
def test_a_place_is_whole_at_a_thousand_pixels(studio: Studio, place: str) -> None:
    studio.window.resize(*SMALL)
    for layer in ("department.freight", "department.quay"):
        studio.session.aim_at(EditTarget(layer, "letters", studio.session.aim.seat, 1024))
        studio.desk.go(place)
        QApplication.processEvents()
        assert (studio.window.width(), studio.window.height()) == SMALL
    if place == "Layout":
        return  # the stage scrolls where the colleague's window is wider
    room = studio.desk.places[place]
    for kind in (QAbstractButton, QLineEdit):
        for widget in room.findChildren(kind):
            if widget.isVisible() and not isinstance(widget, KeyCap):
                box = QRect(widget.mapTo(studio.window, widget.rect().topLeft()), widget.size())
                assert box.right() <= SMALL[0], widget.objectName()


def test_a_long_finding_makes_no_window_wider(studio: Studio) -> None:
    studio.window.resize(*SMALL)
    QApplication.processEvents()
    studio.session.say("A sentence " * 60)
    QApplication.processEvents()
    assert studio.window.width() == SMALL[0]
