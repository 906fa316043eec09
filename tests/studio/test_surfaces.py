"""Tabs, groups, bars and menus on the stage: held, moved, hidden and brought back, by mouse and by keys."""

from __future__ import annotations

from typing import Any

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QContextMenuEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QMenu, QWidget
from PyQt6.sip import isdeleted

from rimecrest.core.catalogue.surfaces import Tab, Toolbar
from rimecrest.core.layout.room import unseen_at
from rimecrest.core.layout.seen import SeenButton, SeenSubmenu, SeenToolbar
from rimecrest.core.workspace.edits import PutTab, PutToolbar
from rimecrest.shell.there import there
from rimecrest.studio.layout.lost_items import LostItems
from rimecrest.studio.layout.surface_tools import edge_pluses, end_plus, handles
from rimecrest.studio.pictures.chooser import PictureChooser
from rimecrest.studio.shared.edit_target import EditTarget
from rimecrest.studio.shared.key_field import KeyField
from rimecrest.studio.shared.sentence_widgets import Word
from tests.studio.conftest import ALT, BAR, CTRL, LAST, SHIFT, Studio

ENTER = Qt.Key.Key_Return
MINE = "department.freight"
TABLE = f"{MINE}:table"


def tabs(studio: Studio) -> list[str]:
    return [tab.id for tab in studio.session.outcome().tabs]


def groups(studio: Studio, tab: str) -> list[str]:
    found = studio.session.outcome().tab(tab)
    assert found is not None
    return [group.id for group in found.groups]


def bar(studio: Studio, identity: str = BAR) -> SeenToolbar:
    row = studio.session.outcome().row(identity)
    assert isinstance(row, SeenToolbar)
    return row


def hold(studio: Studio, identity: str) -> None:
    """Click its name or handle."""
    box = studio.place.overlay.box_of(identity)
    assert box is not None
    studio.click(box.center())
    assert studio.place.overlay.caret.held == identity


def own_tab(studio: Studio, after: str) -> str:
    """A new tab of this layer, by keys, called Lanes."""
    hold(studio, after)
    studio.press(Qt.Key.Key_Insert)
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Lanes")
    studio.press(ENTER)
    return next(tab.id for tab in studio.session.outcome().tabs if tab.title == "Lanes")


def choose(studio: Studio, begins: str) -> None:
    """Take a row of the open list by how it begins."""
    menu = next(m for m in studio.window.findChildren(QMenu, "choices") if m.isVisible())
    next(action for action in menu.actions() if action.text().startswith(begins)).trigger()
    if not isdeleted(menu):
        menu.close()
    QApplication.processEvents()


def open_menu(studio: Studio, point: QPoint) -> QMenu:
    """Right-click on the stage."""
    overlay = studio.place.overlay
    event = QContextMenuEvent(QContextMenuEvent.Reason.Mouse, point, overlay.mapToGlobal(point))
    QApplication.sendEvent(overlay, event)
    return next(m for m in studio.window.findChildren(QMenu, "choices") if m.isVisible())


# Tabs


def test_the_plus_at_the_end_of_the_row_begins_a_tab(studio: Studio) -> None:
    before = tabs(studio)
    plus = end_plus(studio.place.stage.frame).box.center()
    QTest.mouseMove(studio.place.overlay, plus)
    studio.click(plus)
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Lanes")
    studio.press(ENTER)
    studio.place.overlay.grab()
    assert studio.place.overlay.shown.near is None  # no plus is left where there is a tab now
    assert tabs(studio)[:-1] == before
    assert studio.session.outcome().tabs[-1].title == "Lanes"


def test_a_click_between_two_tabs_begins_one_there_and_at_the_front(studio: Studio) -> None:
    before = tabs(studio)
    for at in (2, 0):
        box = dict(studio.place.stage.frame.tab_rects())[before[at]]
        studio.click(QPoint(box.left() + 1, box.center().y()))
        studio.press(ENTER)
        new = [name for name in tabs(studio) if name not in before]
        assert tabs(studio).index(new[0]) == at
        studio.session.undo()


def test_a_held_tab_goes_along_the_row_with_keys(studio: Studio) -> None:
    made = own_tab(studio, "app:tab-write")
    order = tabs(studio)
    at = order.index(made)
    hold(studio, made)
    for _ in range(at):
        studio.press(Qt.Key.Key_Left, ALT)
    assert tabs(studio)[0] == made
    assert studio.place.overlay.caret.held == made
    studio.press(Qt.Key.Key_Left, ALT)
    assert "further" in studio.said
    studio.press(Qt.Key.Key_Right, ALT)
    assert tabs(studio)[1] == made


def test_a_built_in_tab_is_dragged_to_the_front_and_back(studio: Studio) -> None:
    before = tabs(studio)
    boxes = dict(studio.place.stage.frame.tab_rects())
    first = boxes[before[0]]
    studio.drag(boxes[before[2]].center(), QPoint(first.left() + 2, first.center().y()))
    assert tabs(studio)[0] == before[2]
    studio.press(Qt.Key.Key_Z, CTRL)
    assert tabs(studio) == before


def test_a_built_in_tab_is_hidden_and_comes_back_from_the_list(studio: Studio) -> None:
    hold(studio, "app:tab-look-over")
    studio.press(Qt.Key.Key_Delete)
    assert "app:tab-look-over" not in tabs(studio)
    assert "is hidden" in studio.said
    word = studio.find("hidden-things")
    assert word.text().endswith("hidden …")
    studio.push("hidden-things")
    choose(studio, "Show again: Find and print (tab), hidden by Freight desk")
    assert "app:tab-look-over" in tabs(studio)


def test_an_own_tab_goes_with_all_that_is_in_it_in_one_undo(studio: Studio) -> None:
    made = own_tab(studio, "app:tab-write")
    studio.press(Qt.Key.Key_Down, CTRL)
    studio.press(Qt.Key.Key_Escape)
    hold(studio, made)
    studio.press(Qt.Key.Key_Delete)
    assert made not in tabs(studio)
    assert "removed with all that is in it" in studio.said
    studio.press(Qt.Key.Key_Z, CTRL)
    assert made in tabs(studio)


def test_f2_and_a_double_click_name_a_tab(studio: Studio) -> None:
    made = own_tab(studio, "app:tab-write")
    hold(studio, made)
    studio.press(Qt.Key.Key_F2)
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Freight lanes")
    studio.press(ENTER)
    assert studio.session.outcome().title_of(made) == "Freight lanes"
    assert studio.place.overlay.hasFocus()


# Groups


def test_a_group_is_dragged_into_another_tab(studio: Studio) -> None:
    frame = studio.place.stage.frame
    frame.choose_tab("app:tab-write")
    studio.place.overlay.redrawn()
    head = dict(frame.head_rects())["app:group-steps"]
    overlay = studio.place.overlay
    start = head.center()
    QTest.mousePress(overlay, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start)
    over = dict(frame.tab_rects())["app:tab-shape"].center()
    for step in range(1, 6):
        QTest.mouseMove(overlay, start + (over - start) * step / 5)
    drop = next(slot for slot in frame.insertion_points() if slot.new_group).caret.center()
    QTest.mouseMove(overlay, drop)
    QTest.mouseRelease(overlay, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, drop)
    QApplication.processEvents()
    assert groups(studio, "app:tab-shape")[0] == "app:group-steps"
    assert "app:group-steps" not in groups(studio, "app:tab-write")


def test_a_held_group_goes_over_the_end_of_its_tab_into_the_next(studio: Studio) -> None:
    studio.place.stage.frame.choose_tab("app:tab-write")
    studio.place.overlay.redrawn()
    hold(studio, "app:group-again")
    studio.press(Qt.Key.Key_Right, ALT)
    assert "app:group-again" in groups(studio, tabs(studio)[tabs(studio).index("app:tab-write") + 1])
    assert studio.place.overlay.caret.held == "app:group-again"


def test_ctrl_up_holds_what_the_caret_stands_in_and_ctrl_down_goes_in_again(studio: Studio) -> None:
    caret = studio.place.overlay.caret
    studio.place.overlay.keys.step_tab(0)
    slot = caret.slot()
    assert slot is not None
    studio.press(Qt.Key.Key_Up, CTRL)
    assert caret.held == slot.surface
    studio.press(Qt.Key.Key_Up, CTRL)
    assert caret.held == studio.place.stage.frame.open_tab
    studio.press(Qt.Key.Key_Down, CTRL)
    assert caret.held == groups(studio, studio.place.stage.frame.open_tab)[0]
    studio.press(Qt.Key.Key_Down, CTRL)
    assert caret.held is None
    assert caret.slot() is not None


def test_an_own_group_begins_in_a_built_in_tab_beside_a_given_one(studio: Studio) -> None:
    studio.place.stage.frame.choose_tab("app:tab-write")
    studio.place.overlay.redrawn()
    hold(studio, "app:group-letter")
    studio.press(Qt.Key.Key_Insert)
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Ours")
    studio.press(ENTER)
    order = groups(studio, "app:tab-write")
    mine = order[order.index("app:group-letter") + 1]
    assert studio.session.outcome().title_of(mine) == "Ours"


# Bars


def test_a_bar_floats_docks_is_hidden_and_shown_by_keys(studio: Studio) -> None:
    studio.click_slot()
    studio.press(Qt.Key.Key_Up, CTRL)
    studio.press(Qt.Key.Key_Home, CTRL)
    assert (bar(studio).edge, bar(studio).at) == ("float", (60, 40))
    studio.press(Qt.Key.Key_Home, CTRL)
    assert (bar(studio).edge, bar(studio).at) == ("window", (60, 40))
    studio.press(Qt.Key.Key_Home, CTRL)
    assert (bar(studio).edge, bar(studio).at) == ("float", (60, 40))
    studio.press(Qt.Key.Key_Left, CTRL)
    assert (bar(studio).edge, bar(studio).at) == ("left", None)
    studio.press(Qt.Key.Key_Delete)
    assert studio.session.outcome().row(BAR) is None
    studio.press(Qt.Key.Key_Z, CTRL)
    assert bar(studio).edge == "left"


def test_a_bar_is_dragged_by_its_handle_to_another_edge_and_afloat(studio: Studio) -> None:
    frame = studio.place.stage.frame
    ground = frame.centre_rect()
    studio.drag(dict(handles(frame))[BAR].center(), QPoint(ground.right() - 4, ground.center().y()))
    assert bar(studio).edge == "right"
    handle = dict(handles(frame))[BAR].center()
    studio.drag(handle, ground.center())
    assert bar(studio).edge == "float"
    head = dict(frame.floating_heads())[BAR]
    assert abs(head.left() - ground.center().x()) < 90
    studio.drag(head.center(), QPoint(frame.centre_rect().center().x(), frame.centre_rect().bottom() - 3))
    assert bar(studio).edge == "bottom"


def test_a_bar_with_a_window_of_its_own_is_dragged_and_keeps_it(studio: Studio) -> None:
    frame = studio.place.stage.frame
    assert studio.place.overlay.surfaces.dock(BAR, "window", (50, 50))
    head = dict(frame.floating_heads())[BAR]
    assert head.topLeft() == frame.centre_rect().topLeft() + QPoint(50, 50)
    studio.drag(head.center(), frame.centre_rect().center())
    assert bar(studio).edge == "window"
    assert bar(studio).at != (50, 50)
    assert studio.place.overlay.surfaces.dock(BAR, "float")
    assert bar(studio).at != (50, 50)


def test_an_item_dropped_on_empty_ground_makes_a_bar(studio: Studio) -> None:
    frame = studio.place.stage.frame
    box = frame.rect_of(TABLE)
    assert box is not None
    studio.drag(box.center(), frame.centre_rect().center())
    row = studio.session.outcome().row_of(TABLE)
    assert isinstance(row, SeenToolbar)
    assert (row.edge, row.title, [item.id for item in row.items]) == ("float", "New bar", [TABLE])
    studio.press(Qt.Key.Key_Z, CTRL)
    assert TABLE.split(":")[1] in studio.row()


def test_the_pluses_at_the_documents_edges_begin_bars(studio: Studio) -> None:
    for plus in edge_pluses(studio.place.stage.frame):
        before = {known.id for known in studio.session.outcome().toolbars}
        studio.click(plus.box.center())
        choose(studio, "New bar here")
        studio.press(ENTER)
        made = next(known for known in studio.session.outcome().toolbars if known.id not in before)
        assert made.edge == plus.edge
        studio.session.undo()


# Several at once


def test_a_rectangle_selects_items_and_one_choice_is_for_all_of_them(studio: Studio) -> None:
    frame = studio.place.stage.frame
    ground = frame.centre_rect()
    last = frame.rect_of(LAST)
    first = frame.rect_of(f"{MINE}:hazard-note")
    assert first is not None
    assert last is not None
    start = QPoint(ground.left() + 200, ground.top() + 60)
    studio.drag(start, QPoint(first.left() + 2, first.top() + 2))
    chosen = list(studio.place.overlay.caret.selected)
    assert len(chosen) > 1
    assert f"{MINE}:hazard-note" in chosen
    open_menu(studio, first.center())
    choose(studio, "Words only")

    def faces() -> set[str]:
        found = (studio.session.outcome().button(name) for name in chosen)
        return {button.face for button in found if button is not None}

    assert faces() == {"words"}
    studio.session.undo()
    assert faces() != {"words"}


def test_ctrl_click_adds_and_takes_away(studio: Studio) -> None:
    caret = studio.place.overlay.caret
    studio.click_item(TABLE)
    studio.click_item(LAST, CTRL)
    assert set(caret.selected) == {TABLE, LAST}
    studio.click_item(TABLE, CTRL)
    assert caret.selected == [LAST]
    studio.click_item(TABLE, SHIFT)
    assert set(caret.selected) == {TABLE, LAST}


# Menus


def test_a_right_click_on_the_document_opens_a_menu_that_stays_and_is_edited(studio: Studio) -> None:
    frame = studio.place.stage.frame
    open_menu(studio, frame.centre_rect().center())
    choose(studio, "Right-click in text")
    assert frame.sheets.pinned_menu == "app:menu-text"
    slot = studio.place.overlay.caret.slot()
    assert slot is not None
    assert slot.surface == "app:menu-text"
    studio.type("|")
    studio.type("weather")
    studio.press(ENTER)
    row = studio.session.outcome().row("app:menu-text")
    assert row is not None
    assert [item.layer for item in row.items[-2:]] == [MINE, MINE]
    assert row.items[-1].run == "macro:weather-box"
    studio.press(Qt.Key.Key_Escape)
    assert frame.sheets.pinned_menu == ""
    assert studio.place.overlay.caret.slot() is None


def test_a_right_click_on_an_item_names_what_can_be_done(studio: Studio) -> None:
    box = studio.place.stage.frame.rect_of(TABLE)
    assert box is not None
    menu = open_menu(studio, box.center())
    words = [action.text().partition("\t")[0] for action in menu.actions()]
    assert words[:2] == ["Card", "Rename"]
    assert words[-1] == "Remove"
    choose(studio, "Remove")
    assert studio.item(TABLE) is None


# The card of a surface


def test_the_card_of_a_bar_changes_its_edge_its_line_and_its_name(studio: Studio) -> None:
    hold(studio, BAR)
    studio.press(Qt.Key.Key_Space)
    card = studio.find("surface-card")
    studio.push("surface-edge")
    choose(studio, "at the bottom")
    assert bar(studio).edge == "bottom"
    studio.push("surface-row")
    choose(studio, "line 1")
    assert bar(studio).row == 1
    studio.push("surface-title")
    field = QApplication.focusWidget()
    assert field is not None
    assert field.objectName() == "surface-field"
    field.setText("Lanes")
    studio.press(ENTER)
    assert bar(studio).title == "Lanes"
    assert card.isVisible()
    box = studio.place.overlay.box_of(BAR)
    assert box is not None
    there = box.translated(studio.place.overlay.mapTo(studio.place, QPoint(0, 0)))
    assert not card.geometry().adjusted(0, 12, 0, -12).intersects(there)
    QTest.keyClick(card, Qt.Key.Key_Escape)
    assert not any(w.isVisible() for w in studio.window.findChildren(QWidget, "surface-card"))
    assert studio.place.overlay.hasFocus()


def test_a_changed_built_in_surface_goes_back_to_what_the_layer_beneath_has(studio: Studio) -> None:
    hold(studio, "app:tab-write")
    studio.press(Qt.Key.Key_F2)
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Letters")
    studio.press(ENTER)
    assert studio.session.outcome().title_of("app:tab-write") == "Letters"
    hold(studio, "app:tab-write")
    studio.press(Qt.Key.Key_Space)
    studio.push("surface-as-beneath")
    assert studio.session.outcome().title_of("app:tab-write") == "Write"


# Much of it


def test_of_thirty_tabs_the_open_one_is_always_seen_and_the_others_are_under_one_button(
    studio: Studio,
) -> None:
    surfaces = studio.place.overlay.surfaces
    last = tabs(studio)[-1]
    for _ in range(30):
        last = surfaces.new_tab(last) or last
    frame = studio.place.stage.frame
    strip = frame.strip_rect()
    for tab in (tabs(studio)[0], tabs(studio)[17], tabs(studio)[-1]):
        frame.choose_tab(tab)
        studio.place.overlay.redrawn()
        boxes = dict(frame.tab_rects())
        assert tab in boxes
        assert len(boxes) < len(tabs(studio))
        assert all(strip.contains(box) for box in boxes.values())
    # Page Down goes through all of them, seen or not.
    frame.choose_tab(tabs(studio)[0])
    for expected in tabs(studio)[1:]:
        studio.press(Qt.Key.Key_PageDown)
        assert frame.open_tab == expected


def test_sixty_items_on_a_bar_keep_the_caret_in_sight(studio: Studio) -> None:
    studio.click_slot()
    for _ in range(3):
        studio.press(Qt.Key.Key_Home)
        for _ in range(5):
            studio.press(Qt.Key.Key_Right, SHIFT)
        studio.press(Qt.Key.Key_C, CTRL)
        studio.press(Qt.Key.Key_V, CTRL)
        studio.press(Qt.Key.Key_V, CTRL)
    assert len(studio.row()) > 20
    assert studio.place.overlay.caret.slot() is not None


def test_the_word_about_hidden_things_stands_behind_the_tabs_from_the_start(studio: Studio) -> None:
    word = studio.place.overlay.hidden
    assert word.isVisible()
    last = studio.place.stage.frame.tab_rects()[-1][1]
    assert word.x() > last.right()
    assert end_plus(studio.place.stage.frame).box.right() < word.x()


def test_what_was_hidden_last_stands_first_in_the_list_and_enter_shows_it(studio: Studio) -> None:
    for name in ("app:tab-put-in", "app:tab-look-over"):
        hold(studio, name)
        studio.press(Qt.Key.Key_Delete)
    studio.press(Qt.Key.Key_H, CTRL)
    menu = QApplication.activePopupWidget()
    assert menu is not None
    assert [action.text().split(" (")[0] for action in menu.actions()][:2] == [
        "Show again: Find and print",
        "Show again: Insert",
    ]
    QTest.keyClick(menu, ENTER)
    assert "app:tab-look-over" in tabs(studio)
    assert "app:tab-put-in" not in tabs(studio)


# What there is no room for


def narrow(studio: Studio, width: int) -> None:
    aim = studio.session.aim
    studio.session.aim_at(EditTarget(aim.layer, aim.app, aim.seat, width))
    QApplication.processEvents()


def many(studio: Studio, count: int) -> str:
    """A bar at the top with many items of this layer; its identity."""
    items = [{"id": f"n{n}", "run": "letters:copy", "label": f"Number {n}"} for n in range(count)]
    bar = Toolbar.model_validate({"id": "long", "title": "Long", "edge": "top", "items": items})
    aim = studio.session.aim
    assert studio.session.do(PutToolbar(aim.layer, aim.app, bar))
    return f"{aim.layer}:long"


def test_behind_the_last_that_fits_a_click_and_the_arrow_lay_the_rest_open(studio: Studio) -> None:
    long = many(studio, 60)
    frame, caret = studio.place.stage.frame, studio.place.overlay.caret
    rest = next(rest for rest in frame.rests() if rest.holder == long)
    hidden = rest.items[0].id
    assert frame.button(hidden) is None
    studio.click(rest.at.center())
    assert frame.sheets.open_holder == long
    assert frame.button(hidden) is not None
    slot = caret.slot()
    assert slot is not None
    assert (slot.surface, slot.after) == (long, hidden)
    studio.type("weather box")
    studio.press(ENTER)
    row = studio.session.outcome().row(long)
    assert row is not None
    order = [item.id for item in row.items]
    assert getattr(row.items[order.index(hidden) + 1], "run", "") == "macro:weather-box"
    studio.press(Qt.Key.Key_Escape)
    assert frame.sheets.open_holder == ""
    last = next(s for s in reversed(caret.slots) if s.surface == long)
    caret.put(last)
    studio.press(Qt.Key.Key_Right)
    assert frame.sheets.open_holder == long
    caret.put(next(slot for slot in caret.slots if slot.surface != long))
    studio.place.overlay.caret_moved()
    assert frame.sheets.open_holder == ""


def test_a_folded_group_is_laid_open_and_entered_by_keys(studio: Studio) -> None:
    words = {"run": "letters:copy", "face": "words", "label": "Words that stay"}
    groups = [
        {"id": f"g{g}", "title": f"Group {g}", "items": [{"id": f"g{g}i{n}", **words} for n in range(4)]}
        for g in range(4)
    ]
    aim = studio.session.aim
    tab = Tab.model_validate({"id": "wide", "title": "Wide", "after": "app:write", "groups": groups})
    assert studio.session.do(PutTab(aim.layer, aim.app, tab))
    narrow(studio, 640)
    frame = studio.place.stage.frame
    frame.choose_tab(f"{aim.layer}:wide")
    rest = next(rest for rest in frame.rests() if rest.whole)
    studio.place.overlay.caret.hold(rest.holder)
    studio.press(Qt.Key.Key_Down, CTRL)
    assert frame.sheets.open_holder == rest.holder
    slot = studio.place.overlay.caret.slot()
    assert slot is not None
    assert (slot.surface, slot.after) == (rest.holder, None)


def test_a_lost_item_is_laid_open_by_its_link(studio: Studio) -> None:
    long = many(studio, 60)
    frame = studio.place.stage.frame
    hidden = next(rest for rest in frame.rests() if rest.holder == long).items[0].id
    studio.place.show_item(hidden)
    assert frame.sheets.open_holder == long
    assert studio.place.overlay.caret.selected == [hidden]


def test_what_is_found_without_a_window_is_what_the_window_has_no_room_for(studio: Studio) -> None:
    many(studio, 60)
    frame = studio.place.stage.frame
    for width in (800, 1024, 1280):
        narrow(studio, width)
        found = {item.id for _, items in unseen_at(studio.session.outcome(), width - 2) for item in items}
        drawn: set[str] = set()
        for tab in tabs(studio):
            frame.choose_tab(tab)
            QApplication.processEvents()
            drawn |= {item.id for item in frame.unseen()}
        upright = {
            item.id for row in frame.outcome.toolbars if row.edge in ("left", "right") for item in row.items
        }
        assert found == drawn - upright, width


def test_with_larger_text_the_stage_has_room_for_less_and_the_ruler_still_tells_pixels(
    studio: Studio,
) -> None:
    many(studio, 30)
    narrow(studio, 1280)
    frame = studio.place.stage.frame
    usual = len(frame.unseen())
    studio.push("aim-width")
    choose(studio, "text at 150 %")
    assert studio.session.aim.text == 150
    assert studio.place.stage.width() == 853
    assert len(frame.unseen()) > usual
    (word,) = (w for w in studio.window.findChildren(Word, "aim-width") if not w.isHidden())
    assert word.text() == "1,280 px at 150 %"
    side = studio.window.findChild(LostItems, "unseen")
    assert side is not None
    assert side.said().startswith("At 1,280 px, text at 150 %")
    studio.push("aim-width")
    choose(studio, "1,024 px")
    assert (studio.session.aim.width, studio.session.aim.text) == (1024, 150)


# Submenus


def test_a_submenu_begins_with_its_character_is_filled_entered_and_renamed(studio: Studio) -> None:
    frame = studio.place.stage.frame
    open_menu(studio, frame.centre_rect().center())
    choose(studio, "Right-click in text")
    studio.window.activateWindow()
    studio.place.overlay.setFocus()
    studio.type(">")
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Notices")
    studio.press(ENTER)
    menu = studio.session.outcome().row("app:menu-text")
    assert menu is not None
    line = next(item for item in menu.items if isinstance(item, SeenSubmenu))
    assert [name for name, _ in frame.menu_rects()] == ["app:menu-text", line.id]
    slot = studio.place.overlay.caret.slot()
    assert slot is not None
    assert (slot.surface, slot.after) == (line.id, None)
    studio.type("weather")
    studio.press(ENTER)
    made = studio.session.outcome().row(line.id)
    assert made is not None
    assert [item.run for item in made.buttons()] == ["macro:weather-box"]
    studio.place.overlay.caret.put_after("app:menu-text", None)
    studio.place.overlay.caret_moved()
    assert [name for name, _ in frame.menu_rects()] == ["app:menu-text"]
    box = frame.rect_of(line.id)
    assert box is not None
    studio.click(box.center())
    assert [name for name, _ in frame.menu_rects()] == ["app:menu-text", line.id]
    studio.press(Qt.Key.Key_F2)
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Warnings")
    studio.press(ENTER)
    assert studio.session.outcome().title_of(line.id) == "Warnings"
    studio.press(Qt.Key.Key_Down, CTRL)
    slot = studio.place.overlay.caret.slot()
    assert slot is not None
    assert slot.surface == line.id


def in_submenus(studio: Studio, menu: str) -> list[Any]:
    """What is in a menu: the runs of its buttons, and of its submenus their words with what is in them."""
    row = studio.session.outcome().row(menu)
    assert row is not None
    return [
        (item.label, in_submenus(studio, item.id)) if isinstance(item, SeenSubmenu) else item.run
        for item in row.items
        if isinstance(item, SeenSubmenu | SeenButton) and item.layer != "app"
    ]


@pytest.mark.parametrize("cut", [False, True])
def test_a_submenu_is_copied_and_cut_with_all_that_is_in_it(studio: Studio, cut: bool) -> None:
    frame, overlay = studio.place.stage.frame, studio.place.overlay
    open_menu(studio, frame.centre_rect().center())
    choose(studio, "Right-click in text")
    studio.window.activateWindow()
    overlay.setFocus()
    for name in ("Notices", "Deeper"):
        studio.type(">")
        studio.press(Qt.Key.Key_A, CTRL)
        studio.type(name)
        studio.press(ENTER)
    studio.type("weather")
    studio.press(ENTER)
    whole = ("Notices", [("Deeper", ["macro:weather-box"])])
    assert in_submenus(studio, "app:menu-text")[-1] == whole
    before = in_submenus(studio, "app:menu-text")
    row = studio.session.outcome().row("app:menu-text")
    assert row is not None
    line = next(item.id for item in row.items if isinstance(item, SeenSubmenu))
    overlay.caret.select("app:menu-text", line)
    studio.press(Qt.Key.Key_X if cut else Qt.Key.Key_C, CTRL)
    if cut:
        assert whole not in in_submenus(studio, "app:menu-text")
        layout = studio.session.workspace.layout("department.freight", "letters")
        assert layout is not None
        assert not any(change.into.endswith(("notices", "deeper")) for change in layout.insert)
    overlay.caret.put_after("app:menu-text", None)
    studio.press(Qt.Key.Key_V, CTRL)
    assert in_submenus(studio, "app:menu-text").count(whole) == (1 if cut else 2)
    studio.press(Qt.Key.Key_Z, CTRL)
    if cut:
        studio.press(Qt.Key.Key_Z, CTRL)
    assert in_submenus(studio, "app:menu-text") == before


def test_the_menu_of_an_item_opens_its_picture_and_its_key(studio: Studio) -> None:
    box = studio.place.stage.frame.rect_of(TABLE)
    assert box is not None
    open_menu(studio, box.center())
    choose(studio, "Picture …")
    assert studio.place.card.isVisible()
    studio.qtbot.waitUntil(lambda: bool(studio.window.findChildren(PictureChooser)))
    studio.window.findChildren(PictureChooser)[-1].close()
    open_menu(studio, box.center())
    choose(studio, "Key …")
    studio.qtbot.waitUntil(lambda: any(f.isVisible() for f in studio.window.findChildren(KeyField)))
    field = next(field for field in studio.window.findChildren(KeyField) if field.isVisible())
    QTest.keyClick(field, Qt.Key.Key_J, CTRL)

    def word_shows() -> bool:
        return any(word.isVisible() for word in studio.place.card.findChildren(Word, "card-key"))

    beside = [other for other in there(field.parentWidget()).children() if isinstance(other, QWidget)]
    shown = [other for other in beside if other.isVisible() and other is not field]
    # It stands in the sentence: the words behind it make room.
    assert shown
    assert not word_shows()
    assert not [other for other in shown if other.geometry().intersects(field.geometry())]
    QTest.keyClick(field, Qt.Key.Key_Escape)
    studio.qtbot.waitUntil(word_shows)
