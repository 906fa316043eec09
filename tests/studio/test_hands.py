"""Where hands go: a key or a click does what is seen, once, and only there."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import QEvent, QPoint, QPointF, Qt
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QWidget

from rimecrest.core.catalogue.items import Button
from rimecrest.core.catalogue.surfaces import Toolbar
from rimecrest.core.check.kinds import Weight
from rimecrest.core.workspace.edits import PutToolbar
from rimecrest.studio.shared.edit_target import EditTarget
from rimecrest.studio.shared.sentence_widgets import Chip
from rimecrest.surfaces.bar import Bar
from rimecrest.surfaces.ribbon import Page
from tests.studio.conftest import BAR, SHIFT, Studio

TABLE = "department.freight:table"
POINTS = "department.freight:points"
ENTER = Qt.Key.Key_Return


def find(studio: Studio, text: str) -> None:
    studio.press(Qt.Key.Key_F3)
    studio.type(text)


# Enter that ends a field ends only that


def test_the_enter_that_names_an_item_opens_nothing(studio: Studio) -> None:
    studio.click_item(TABLE)
    studio.press(Qt.Key.Key_F2)
    studio.type("Lanes")
    studio.press(ENTER)
    assert studio.item(TABLE).label.endswith("Lanes")
    assert not studio.place.card.isVisible()
    assert QApplication.focusWidget() is studio.place.overlay


def test_the_enter_that_names_a_new_tab_opens_nothing_and_puts_the_caret_on_its_page(studio: Studio) -> None:
    studio.click_item(TABLE)
    find(studio, "new tab")
    studio.press(ENTER)
    studio.type("Kbd")
    studio.press(ENTER)
    tab = studio.session.outcome().tabs[-1]
    assert tab.title == "Kbd"
    assert not studio.place.card.isVisible()
    assert studio.place.stage.frame.open_tab == tab.id
    slot = studio.place.overlay.caret.slot()
    assert slot is not None
    assert slot.surface == tab.id
    studio.type("capit")
    studio.press(ENTER)
    assert [item.run for group in studio.session.outcome().tabs[-1].groups for item in group.items] == [
        "letters:capitals"
    ]


def test_the_enter_that_names_a_new_group_opens_nothing(studio: Studio) -> None:
    studio.place.stage.frame.choose_tab("organisation:notices")
    slot = next(s for s in studio.place.stage.frame.insertion_points() if s.new_group)
    studio.click(slot.caret.center())
    studio.type("capit")
    studio.press(ENTER)
    assert QApplication.focusWidget().objectName() == "rename"
    studio.type("Loads")
    studio.press(ENTER)
    tab = next(tab for tab in studio.session.outcome().tabs if tab.id == "organisation:notices")
    assert "Loads" in [group.title for group in tab.groups]
    assert not studio.place.card.isVisible()


def test_escape_in_a_name_gives_up_only_the_name(studio: Studio) -> None:
    studio.click_item(TABLE)
    studio.press(Qt.Key.Key_F2)
    studio.type("Lanes")
    studio.press(Qt.Key.Key_Escape)
    assert studio.item(TABLE).label == "Table"
    assert studio.place.overlay.caret.selected == [TABLE]


def test_the_enter_that_ends_a_reason_opens_no_list(studio: Studio) -> None:
    studio.push("fix-1")
    studio.type("both desks know")
    studio.press(ENTER)
    assert not studio.desk.sheet.isVisible()
    assert studio.layout.acceptances[-1].why == "both desks know"


def test_the_enter_that_ends_a_word_of_a_step_does_not_open_it_again(studio: Studio) -> None:
    macros = studio.desk.places["Macros"]
    studio.desk.go("Macros")
    macros.open(("department.freight", "hazard-note"))
    macros.steps.setFocus()
    row = next(n for n in range(macros.steps.count()) if macros.steps.fields(n))
    macros.steps.setCurrentRow(row)
    macros.steps.edit_field(0)
    assert QApplication.focusWidget().objectName() == "word-field"
    studio.press(ENTER)
    open_fields = [w for w in macros.findChildren(QWidget, "word-field") if w.isVisible()]
    assert open_fields == []
    assert QApplication.focusWidget() is macros.steps


def test_a_key_held_down_opens_a_card_only_once(studio: Studio) -> None:
    from PyQt6.QtCore import QEvent
    from PyQt6.QtGui import QKeyEvent

    studio.click_item(TABLE)
    again = QKeyEvent(QEvent.Type.KeyPress, ENTER, Qt.KeyboardModifier.NoModifier, "\r", True)
    QApplication.sendEvent(studio.place.overlay, again)
    assert not studio.place.card.isVisible()


# Keys change only what is seen


@pytest.mark.parametrize("key", [Qt.Key.Key_Backspace, Qt.Key.Key_Delete])
def test_after_a_click_on_a_tab_no_key_changes_the_bar(studio: Studio, key: Qt.Key) -> None:
    studio.click_slot(BAR, "department.freight:rule-1")
    tabs = dict(studio.place.stage.frame.tab_rects())
    studio.click(tabs["app:tab-write"].center())
    before = studio.row(BAR)
    studio.press(key)
    # The tab is what is held and seen: Delete hides that, and says so; the bar stays as it is.
    assert studio.row(BAR) == before
    gone = "app:tab-write" not in dict(studio.place.stage.frame.tab_rects())
    assert gone is (key == Qt.Key.Key_Delete)
    assert studio.session.edits == int(gone)
    assert ("is hidden" if gone else "Delete removes") in studio.said
    studio.press(Qt.Key.Key_Escape)
    studio.type("x")
    assert "There is no caret" in studio.said
    assert studio.place.overlay.writing.typed == ""
    studio.press(Qt.Key.Key_Right)
    assert studio.place.overlay.caret.slot() is not None


def test_the_next_tab_takes_the_caret_along(studio: Studio) -> None:
    studio.click_slot()
    studio.press(Qt.Key.Key_PageDown)
    slot = studio.place.overlay.caret.slot()
    assert slot is not None
    page = {group for group, _ in studio.place.stage.frame.head_rects()}
    assert slot.surface in page
    studio.press(Qt.Key.Key_Backspace)
    assert studio.session.edits == 0
    assert "nothing beside the caret" in studio.said


# Clicks mean what they hit


def short_bar(studio: Studio) -> str:
    """A second bar at the top, under the first and much shorter."""
    aim = studio.session.aim
    bar = Toolbar(
        id="short", title="Short", edge="top", after=BAR, items=(Button(id="one", run="letters:print"),)
    )
    assert studio.session.do(PutToolbar(aim.layer, aim.app, bar))
    QApplication.processEvents()
    return "department.freight:short"


@pytest.mark.parametrize("along", [0.3, 0.6, 0.95])
def test_a_click_in_the_empty_part_of_a_bar_is_that_bars(studio: Studio, along: float) -> None:
    name = short_bar(studio)
    box = studio.place.stage.frame.rect_of(name)
    studio.click(QPoint(box.left() + int(box.width() * along), box.top() + 3))
    assert studio.place.overlay.caret.at == (name, "department.freight:one", False, False)


def test_a_drop_in_the_empty_part_of_a_bar_is_that_bars(studio: Studio) -> None:
    name = short_bar(studio)
    box = studio.place.stage.frame.rect_of(name)
    start = studio.place.stage.frame.rect_of(TABLE).center()
    studio.drag(start, QPoint(box.right() - 40, box.top() + 3))
    assert studio.row(name) == ["one", "table"]


def test_all_that_is_selected_is_dragged(studio: Studio) -> None:
    name = short_bar(studio)
    studio.click_item(TABLE)
    studio.click_item(POINTS, SHIFT)
    box = studio.place.stage.frame.rect_of(name)
    studio.drag(studio.place.stage.frame.rect_of(TABLE).center(), QPoint(box.right() - 40, box.top() + 3))
    assert studio.row(name) == ["one", "table", "points"]
    assert studio.place.overlay.caret.selected == [TABLE, POINTS]


def test_a_click_on_one_of_several_selected_ones_selects_only_it(studio: Studio) -> None:
    studio.click_item(TABLE)
    studio.click_item(POINTS, SHIFT)
    studio.click_item(TABLE)
    assert studio.place.overlay.caret.selected == [TABLE]


def quay(studio: Studio) -> None:
    studio.session.aim_at(EditTarget("department.quay", "letters", "Quay 1", 1024))
    QApplication.processEvents()


def test_a_double_click_on_a_fix_takes_one_fix(studio: Studio) -> None:
    quay(studio)
    chip = studio.find("fix-1")
    where = chip.mapTo(studio.window, chip.rect().center())
    before = studio.count(Weight.BLOCKS)
    QTest.mouseClick(studio.window.childAt(where), Qt.MouseButton.LeftButton)
    QApplication.processEvents()
    QTest.mouseDClick(studio.window.childAt(where), Qt.MouseButton.LeftButton)
    assert studio.session.edits == 1
    assert studio.count(Weight.BLOCKS) == before - 1
    assert studio.said.startswith("Done: ")


def test_the_second_click_of_a_double_click_is_not_for_what_came_after_the_first(studio: Studio) -> None:
    pressed: list[str] = []
    for name in ("came", "was"):
        chip = Chip(name, studio.desk.scheme, studio.window)
        chip.clicked.connect(lambda _=False, name=name: pressed.append(name))
        chip.show()
    came, was = (next(c for c in studio.window.findChildren(Chip) if c.text() == n) for n in ("came", "was"))
    QTest.mouseClick(was, Qt.MouseButton.LeftButton)
    QTest.mouseDClick(was, Qt.MouseButton.LeftButton)
    count = len(pressed)
    assert set(pressed) == {"was"}
    where = came.rect().center()
    event = QMouseEvent(
        QEvent.Type.MouseButtonDblClick, QPointF(where), QPointF(where), Qt.MouseButton.LeftButton,
        Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier,
    )  # fmt: skip
    QApplication.sendEvent(came, event)
    QTest.mouseRelease(came, Qt.MouseButton.LeftButton)
    assert len(pressed) == count


def test_rows_of_the_list_stay_until_the_pointer_leaves(studio: Studio) -> None:
    from PyQt6.QtCore import QEvent

    quay(studio)
    studio.press(Qt.Key.Key_F9)
    sheet = studio.desk.sheet

    def chips() -> list[tuple[str, int]]:
        found = [chip for chip in sheet.findChildren(Chip) if chip.isVisible()]
        return [(chip.text(), chip.mapTo(sheet, QPoint(0, 0)).y()) for chip in found]

    before = chips()
    first = next(chip for chip in sheet.findChildren(Chip) if chip.isVisible())
    QTest.mouseClick(first, Qt.MouseButton.LeftButton)
    QApplication.processEvents()
    assert studio.session.edits == 1
    assert [y for _, y in chips()] == [y for _, y in before]
    assert chips()[0][0] == f"Done: {before[0][0]}"
    QApplication.sendEvent(sheet, QEvent(QEvent.Type.Leave))
    QApplication.processEvents()
    assert len(chips()) < len(before)


# Names


def test_a_field_for_a_name_covers_no_neighbour(studio: Studio) -> None:
    overlay, frame = studio.place.overlay, studio.place.stage.frame
    boxes = dict(frame.tab_rects())
    for name in boxes:
        overlay.rename(name)
        field = studio.find("rename")
        others = [box for other, box in boxes.items() if other != name]
        assert not any(box.intersects(field.geometry()) for box in others)
    studio.press(Qt.Key.Key_Escape)


def test_an_empty_name_is_told(studio: Studio) -> None:
    studio.click_item(TABLE)
    studio.press(Qt.Key.Key_F2)
    studio.press(Qt.Key.Key_Backspace)
    studio.press(ENTER)
    assert studio.item(TABLE).label == "Table"
    assert "still called “Table”" in studio.said


@pytest.mark.parametrize(("name", "told"), [("Cargo 𒀀", "U+12000"), ("Cargo שלום", ""), ("Cargo ⇧", "")])
def test_what_no_font_can_draw_is_told(studio: Studio, name: str, told: str) -> None:
    studio.click_item(TABLE)
    studio.press(Qt.Key.Key_F2)
    QApplication.focusWidget().setText(name)
    studio.press(ENTER)
    assert studio.item(TABLE).label == name
    assert ("No font here can draw" in studio.said) is bool(told)
    assert told in studio.said


def test_a_name_keeps_single_blanks(studio: Studio) -> None:
    studio.click_item(TABLE)
    studio.press(Qt.Key.Key_F2)
    studio.place.window()
    QApplication.focusWidget().clear()
    studio.type(" Lane   sheet ")
    studio.press(ENTER)
    assert studio.item(TABLE).label == "Lane sheet"


# Drawing


def test_a_letter_draws_only_the_bar_it_changes_and_enter_draws_nothing_twice(
    studio: Studio, monkeypatch: pytest.MonkeyPatch
) -> None:
    made: list[str] = []
    make_bar, make_page = Bar.__init__, Page.__init__
    monkeypatch.setattr(Bar, "__init__", lambda bar, *a: (made.append("bar"), make_bar(bar, *a))[1])
    monkeypatch.setattr(Page, "__init__", lambda page, *a: (made.append("page"), make_page(page, *a))[1])
    studio.click_slot()
    studio.type("s")
    assert made == ["bar"]
    studio.type("a")
    studio.type("i")
    assert len(made) <= 3
    assert "page" not in made
    made.clear()
    studio.press(ENTER)
    assert studio.row()[-1] == "sailing-notice"
    assert made == []


def test_a_refused_edit_leaves_the_caret_where_it_is(studio: Studio, monkeypatch: pytest.MonkeyPatch) -> None:
    studio.click_slot()
    before = studio.place.overlay.caret.at
    monkeypatch.setattr(studio.session, "do", lambda edit: False)
    for key in (Qt.Key.Key_Backspace, Qt.Key.Key_Bar):
        QTest.keyClick(studio.place.overlay, key)
        assert studio.place.overlay.caret.at == before


def test_insert_shows_all_that_can_be_put_there(studio: Studio) -> None:
    studio.click_slot()
    studio.press(Qt.Key.Key_Insert)
    titles = [entry.title for entry in studio.place.candidates.entries]
    assert titles == sorted(titles, key=str.casefold)
    studio.press(Qt.Key.Key_Down)
    studio.press(ENTER)
    item = studio.session.outcome().row(BAR).items[-1]
    assert item.label == titles[1]
    assert not studio.place.candidates.isVisible()
