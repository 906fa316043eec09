"""*Why?* in an application, of an item or of the next key; and only keys that work on this seat."""

from __future__ import annotations

from typing import Any

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QContextMenuEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QMenu

from rimecrest.core.keys.traits import Traits
from rimecrest.core.layout.layout import Layout
from rimecrest.core.release.stack import ShelvedMacro, StackState
from rimecrest.surfaces.why_list import WhySheet
from tests.programs import Letters

CTRL = Qt.KeyboardModifier.ControlModifier
NOTE = 'macro "Hazard note"\nabout "Writes it."\nfor letters\nwrite "Hazard"\n'


def show(letters: Letters, traits: Traits = Traits(), **fields: Any) -> None:
    layout = Layout.model_validate({"app": "letters", "layer": "department.freight", **fields})
    letters.window.stack.use(
        StackState(
            app="letters",
            release=8,
            traits=traits,
            titles={"department.freight": "Freight desk"},
            layouts=(layout,),
            macros={"hazard-note": ShelvedMacro(layer="department.freight", text=NOTE)},
        )
    )
    QApplication.processEvents()


BAR = [{"id": "bar", "title": "Bar", "items": [{"id": "x", "run": "macro:hazard-note", "face": "both"}]}]


def sheet(letters: Letters) -> WhySheet:
    found = [s for s in letters.window.findChildren(WhySheet) if s.isVisible()]
    assert len(found) == 1
    return found[0]


def right_click(letters: Letters, identity: str) -> QMenu:
    frame = letters.window.frame
    box = frame.rect_of(identity)
    assert box is not None
    at = box.center()
    QApplication.sendEvent(
        frame, QContextMenuEvent(QContextMenuEvent.Reason.Mouse, at, frame.mapToGlobal(at))
    )
    return next(m for m in letters.window.findChildren(QMenu, "item-menu") if m.isVisible())


def test_a_right_click_on_an_item_tells_where_it_comes_from_and_what_it_runs(letters: Letters) -> None:
    show(letters, toolbars=BAR, keys=[{"keys": "Ctrl+J, Q", "in": "writing", "run": "macro:hazard-note"}])
    menu = right_click(letters, "department.freight:x")
    menu.actions()[0].trigger()
    menu.close()
    links = sheet(letters).list.links
    assert [link.sentence for link in links] == [
        "Release 8 is installed.",
        "“Hazard note” stands on Bar, put there by Freight desk.",
        "It runs Hazard note, as Ctrl+J, Q does.",
        "It can run.",
    ]
    assert all(link.ok for link in links)
    QTest.keyClick(sheet(letters), Qt.Key.Key_Escape)
    assert not [s for s in letters.window.findChildren(WhySheet) if s.isVisible()]


def test_a_key_that_does_not_reach_this_seat_is_told_with_its_item(letters: Letters) -> None:
    traits = Traits("gb", "xfce")
    show(letters, traits, toolbars=BAR, keys=[{"keys": "Ctrl+Alt+L", "run": "macro:hazard-note"}])
    menu = right_click(letters, "department.freight:x")
    menu.actions()[0].trigger()
    menu.close()
    last = sheet(letters).list.links[-1]
    assert not last.ok
    assert last.sentence == "Xfce takes Ctrl+Alt+L first: it locks the screen with Ctrl+Alt+L."


def test_the_next_key_is_taken_as_a_question_and_not_done(letters: Letters) -> None:
    show(letters)
    letters.type("One")
    letters.window.why.listen()
    assert "Press the key in question" in letters.said
    letters.press(Qt.Key.Key_B, CTRL)
    links = sheet(letters).list.links
    assert "Ctrl+B runs Bold (built in)." in [link.sentence for link in links]
    assert letters.window.executor.read("chosen.bold") == "no"
    sheet(letters).close()
    letters.press(Qt.Key.Key_B, CTRL)
    assert letters.window.executor.read("chosen.bold") == "yes"


def test_a_sequence_is_asked_about_as_a_whole_and_escape_leaves_it(letters: Letters) -> None:
    show(letters, keys=[{"keys": "Ctrl+J, O", "in": "writing", "run": "macro:hazard-note"}])
    letters.window.why.listen()
    letters.press(Qt.Key.Key_J, CTRL)
    letters.press(Qt.Key.Key_O)
    said = [link.sentence for link in sheet(letters).list.links]
    assert "Strike out (built in) gives way to Hazard note (Freight desk)." in said
    sheet(letters).close()
    QApplication.processEvents()
    letters.window.why.listen()
    letters.press(Qt.Key.Key_Escape)
    assert not [s for s in letters.window.findChildren(WhySheet) if s.isVisible()]


@pytest.mark.parametrize(
    ("traits", "keys"),
    [(Traits("gb", "gnome"), "Ctrl+Alt+L"), (Traits("gb", "xfce"), ""), (Traits("de", "xfce"), "Ctrl+J, Q")],
)
def test_tooltips_and_menus_show_only_a_key_that_works_on_this_seat(
    letters: Letters, traits: Traits, keys: str
) -> None:
    bound = {"keys": "Ctrl+Alt+L", "run": "macro:hazard-note", "on": {"de": "Ctrl+J, Q"}}
    show(letters, traits, toolbars=BAR, keys=[bound])
    tip = letters.window.frame.button("department.freight:x").toolTip()
    assert ("Ctrl+" in tip) == bool(keys)
    assert keys in tip
    assert letters.window.painting.keys.get(("macro:hazard-note", ()), "") == keys


def test_a_chain_in_words_for_a_screen_reader(letters: Letters) -> None:
    show(letters, toolbars=BAR)
    letters.window.why.tell(
        "x",
        letters.window.why.of_item(letters.window.frame.outcome.item("department.freight:x")),
        QPoint(10, 10),
    )
    names = [w.accessibleName() for w in sheet(letters).list.children() if hasattr(w, "accessibleName")]
    assert any(name.startswith("release: yes.") for name in names)
