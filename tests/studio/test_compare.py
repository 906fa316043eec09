"""The draft beside the last release, with one key."""

from __future__ import annotations

import shutil

from PyQt6.QtCore import Qt

from rimecrest.core.layout.seen import Outcome
from tests.studio.conftest import BAR, Studio

TABLE = "department.freight:table"


def shown(studio: Studio) -> Outcome:
    seen = studio.place.stage.frame.outcome
    assert seen is not None
    return seen


def test_f7_shows_the_last_release_and_the_draft_again_with_what_differs_framed(studio: Studio) -> None:
    studio.click_item(TABLE)
    studio.press(Qt.Key.Key_Delete)
    assert studio.item(TABLE) is None
    studio.press(Qt.Key.Key_F7)
    assert "Release 7" in studio.said
    assert shown(studio).item(TABLE) is not None
    assert TABLE in studio.place.overlay.shown.framed
    studio.press(Qt.Key.Key_F7)
    assert shown(studio).item(TABLE) is None
    assert "what differs from release 7 is framed" in studio.said


def test_nothing_is_changed_while_the_release_is_shown(studio: Studio) -> None:
    studio.click_slot()
    before, row = studio.session.edits, studio.row(BAR)
    for key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
        studio.press(Qt.Key.Key_F7)
        studio.press(key)
        assert not studio.place.overlay.looking_back
    studio.press(Qt.Key.Key_F7)
    studio.type("x")
    studio.press(Qt.Key.Key_F7)
    box = studio.place.stage.frame.rect_of(TABLE)
    assert box is not None
    studio.click(box.center())
    assert (studio.session.edits, studio.row(BAR)) == (before, row)


def test_without_a_release_there_is_nothing_to_compare_with(studio: Studio) -> None:
    shutil.rmtree(studio.folder.parent / "channel" / "releases")
    studio.press(Qt.Key.Key_F7)
    assert not studio.place.overlay.looking_back
    assert studio.said
