"""Surfaces and items copied between surfaces, layers and applications."""

from __future__ import annotations

from PyQt6.QtCore import QMimeData, Qt
from PyQt6.QtWidgets import QApplication

from rimecrest.core.layout.seen import SeenButton, SeenToolbar
from rimecrest.studio.layout.clipboard import MIME
from rimecrest.studio.layout.paste_mapping import PasteMapping
from rimecrest.studio.shared.edit_target import EditTarget
from tests.studio.conftest import BAR, CTRL, Studio
from tests.studio.test_surfaces import ENTER, MINE, groups, hold, own_tab, tabs


def aim(studio: Studio, app: str) -> None:
    studio.session.aim_at(EditTarget(MINE, app, "Freight 1", 1280))
    QApplication.processEvents()


def mapping(studio: Studio) -> PasteMapping:
    found = studio.window.findChildren(PasteMapping)
    assert found
    return found[-1]


def test_a_bar_is_copied_with_all_that_is_in_it(studio: Studio) -> None:
    hold(studio, BAR)
    studio.press(Qt.Key.Key_C, CTRL)
    assert "copied with all that is in it" in studio.said
    assert QApplication.clipboard().text() == "Freight"
    before = {bar.id for bar in studio.session.outcome().toolbars}
    studio.press(Qt.Key.Key_V, CTRL)
    made = next(bar for bar in studio.session.outcome().toolbars if bar.id not in before)
    original = studio.session.outcome().row(BAR)
    assert original is not None
    assert [item.run for item in made.buttons()] == [item.run for item in original.buttons()]
    assert not {item.id for item in made.items} & {item.id for item in original.items}
    assert studio.place.overlay.caret.held == made.id


def test_several_items_that_were_pasted_are_selected_and_changed_together(studio: Studio) -> None:
    studio.place.overlay.enter(BAR)
    studio.press(Qt.Key.Key_Home)
    studio.press(Qt.Key.Key_End, Qt.KeyboardModifier.ShiftModifier)
    studio.press(Qt.Key.Key_C, CTRL)
    row = studio.session.outcome().row(BAR)
    assert row is not None
    studio.press(Qt.Key.Key_End)
    studio.press(Qt.Key.Key_V, CTRL)
    after = studio.session.outcome().row(BAR)
    assert after is not None
    came = [item.id for item in after.items[len(row.items) :]]
    assert studio.place.overlay.caret.selected == came
    studio.press(Qt.Key.Key_Delete)
    assert studio.session.outcome().row(BAR) == row


def test_the_finder_aims_at_an_application(studio: Studio) -> None:
    studio.press(Qt.Key.Key_F3)
    studio.type("grid")
    studio.press(ENTER)
    assert (studio.session.aim.app, studio.session.aim.layer) == ("grid", MINE)


def test_a_tab_and_a_group_are_copied_beside_what_is_held(studio: Studio) -> None:
    hold(studio, "app:tab-shape")
    studio.press(Qt.Key.Key_C, CTRL)
    studio.press(Qt.Key.Key_V, CTRL)
    order = tabs(studio)
    copy = order[order.index("app:tab-shape") + 1]
    assert studio.session.outcome().title_of(copy) == "Format"
    assert len(groups(studio, copy)) == len(groups(studio, "app:tab-shape"))
    made = own_tab(studio, "app:tab-write")
    studio.place.stage.frame.choose_tab("app:tab-write")
    studio.place.overlay.redrawn()
    hold(studio, "app:group-steps")
    studio.press(Qt.Key.Key_C, CTRL)
    hold(studio, made)
    studio.press(Qt.Key.Key_V, CTRL)
    assert [studio.session.outcome().title_of(name) for name in groups(studio, made)] == ["Steps"]


def test_a_bar_goes_into_another_application_with_the_mapping_taken(studio: Studio) -> None:
    hold(studio, "app:main")
    studio.press(Qt.Key.Key_C, CTRL)
    aim(studio, "grid")
    before = {bar.id for bar in studio.session.outcome().toolbars}
    studio.press(Qt.Key.Key_V, CTRL)
    dialog = mapping(studio)
    runs = dialog.runs()
    assert runs["letters:embolden"] == "grid:embolden"
    assert runs["letters:bulleted-list"] == ""
    dialog.accept()
    QApplication.processEvents()
    made = next(bar for bar in studio.session.outcome().toolbars if bar.id not in before)
    assert "grid:embolden" in [item.run for item in made.buttons()]
    assert all((item.run or "").startswith("grid:") for item in made.buttons())


def test_items_go_into_another_application_with_their_keys(studio: Studio) -> None:
    studio.place.overlay.caret.select("app:main", "app:bar-undo")
    row = studio.session.outcome().row("app:main")
    assert row is not None
    assert isinstance(row, SeenToolbar)
    studio.press(Qt.Key.Key_C, CTRL)
    aim(studio, "grid")
    slot = studio.place.overlay.caret.slot()
    assert slot is not None
    studio.press(Qt.Key.Key_V, CTRL)
    dialog = mapping(studio)
    dialog.keys.setChecked(True)
    dialog.accept()
    QApplication.processEvents()
    items = [item for _, item in studio.session.outcome().buttons() if item.layer == MINE]
    assert any(isinstance(item, SeenButton) and item.run == "grid:undo" for item in items)


def test_cancel_pastes_nothing(studio: Studio) -> None:
    hold(studio, BAR)
    studio.press(Qt.Key.Key_C, CTRL)
    aim(studio, "grid")
    before = studio.session.edits
    studio.press(Qt.Key.Key_V, CTRL)
    mapping(studio).reject()
    assert studio.session.edits == before


def test_a_paste_of_nonsense_is_told(studio: Studio) -> None:
    for content in (b"\xff", b"{}", b'{"from": ["a", "b"], "cut": false, "items": [], "surface": ["x", {}]}'):
        data = QMimeData()
        data.setData(MIME, content)
        QApplication.clipboard().setMimeData(data)
        studio.click_slot()
        before = studio.session.edits
        studio.press(Qt.Key.Key_V, CTRL)
        assert studio.session.edits == before
        assert "cannot be pasted" in studio.said
    studio.press(ENTER)
