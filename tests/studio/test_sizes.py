"""Every place is whole in a small window, and the window never grows by itself."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import QRect
from PyQt6.QtWidgets import QAbstractButton, QApplication, QLineEdit

from rimecrest.studio.keys.key_cap import KeyCap
from rimecrest.studio.places import PLACES
from rimecrest.studio.shared.edit_target import EditTarget
from rimecrest.studio.shared.sentence_widgets import Push
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


def test_what_an_arrangement_says_and_offers_is_whole(studio: Studio) -> None:
    studio.session.aim_at(EditTarget("department.freight", "grid", "Freight 3", 1024))
    studio.desk.go("Keys")
    keys = studio.desk.places["Keys"]
    keys.begin_arranging()
    QApplication.processEvents()
    sheet = keys.arranger.sheet
    pushes = [push for push in sheet.findChildren(Push) if push.isVisible()]
    assert len(pushes) >= 2
    for push in pushes:
        right = push.mapTo(studio.window, push.rect().topRight()).x()
        assert right <= sheet.mapTo(studio.window, sheet.rect().topRight()).x()


def test_the_field_that_looks_a_key_up_shows_all_its_words(studio: Studio) -> None:
    studio.window.resize(1280, 800)
    studio.desk.go("Keys")
    QApplication.processEvents()
    field = studio.desk.places["Keys"].listen
    words = field.fontMetrics().horizontalAdvance(field.placeholderText())
    assert field.width() >= words + 20
