"""Editing on the stage: typed, clicked, dragged; each gesture saved at once and undone."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLineEdit

from rimecrest.core.catalogue.items import Button, StepsButton
from rimecrest.core.catalogue.surfaces import Group
from rimecrest.core.check.kinds import Weight
from rimecrest.core.layout.layout import KeyBinding
from rimecrest.core.layout.seen import SeenGroup
from rimecrest.core.workspace.edits import Bind, PutGroup, PutItems, SetFields
from rimecrest.core.workspace.file_edits import PutPicture
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.studio.shared.edit_target import EditTarget
from rimecrest.surfaces.button import ItemButton
from tests.studio.conftest import ALT, BAR, CTRL, LAST, SHIFT, Studio

START = ["hazard-note", "table", "rule-1", "points", "numbered"]


def test_the_stage_shows_what_the_colleague_sees(studio: Studio) -> None:
    frame = studio.place.stage.frame
    assert frame.outcome == studio.session.outcome()
    assert frame.width() == studio.session.aim.width - 2
    assert [name for name, _ in frame.tab_rects()][3] == "organisation:notices"


def test_three_letters_and_enter_put_a_macro_at_the_caret(studio: Studio) -> None:
    studio.click_slot()
    studio.type("sai")
    assert studio.place.candidates.isVisible()
    assert studio.place.candidates.entries[0].title == "Sailing notice"
    assert studio.row() == START
    shown = studio.place.stage.frame.outcome
    assert shown.item("department.freight:sailing-notice") is not None
    assert studio.place.overlay.shown.previewed == {"department.freight:sailing-notice"}
    studio.press(Qt.Key.Key_Return)
    assert studio.row() == [*START, "sailing-notice"]
    assert not studio.place.candidates.isVisible()
    assert studio.saved().toolbars[0].items[-1].run == "macro:sailing-notice"
    assert studio.place.overlay.caret.before() == "department.freight:sailing-notice"


def test_escape_ends_the_typing_and_leaves_nothing(studio: Studio) -> None:
    studio.click_slot()
    studio.type("sai")
    studio.press(Qt.Key.Key_Escape)
    assert studio.row() == START
    assert studio.place.stage.frame.outcome == studio.session.outcome()
    assert studio.session.edits == 0


def test_arrows_choose_among_candidates_and_backspace_shortens(studio: Studio) -> None:
    studio.click_slot()
    studio.type("sav")
    first = studio.place.candidates.current()
    studio.press(Qt.Key.Key_Down)
    second = studio.place.candidates.current()
    assert first != second
    studio.press(Qt.Key.Key_Up)
    studio.press(Qt.Key.Key_Backspace)
    assert studio.place.overlay.writing.typed == "sa"
    studio.press(Qt.Key.Key_Backspace)
    studio.press(Qt.Key.Key_Backspace)
    assert not studio.place.candidates.isVisible()


def test_what_does_not_exist_is_said_plainly(studio: Studio) -> None:
    studio.click_slot()
    studio.type("zzzz")
    assert studio.place.candidates.entries == []
    assert "Letters has no command like that" in studio.place.candidates.accessibleName()
    studio.press(Qt.Key.Key_Return)
    assert studio.row() == START


def test_a_candidate_is_taken_with_the_mouse(studio: Studio) -> None:
    studio.click_slot()
    studio.type("sai")
    candidates = studio.place.candidates
    QTest.mouseClick(candidates, Qt.MouseButton.LeftButton, pos=QPoint(40, candidates.height() - 20))
    assert len(studio.row()) == 6


def test_commands_on_no_surface_are_found_by_a_word_of_their_purpose(studio: Studio) -> None:
    studio.click_slot()
    studio.type("distance")
    assert [entry.title for entry in studio.place.candidates.entries][:1] == ["Line spacing"]
    assert studio.place.candidates.entries[0].hint == "Letters · on no bar yet"


def test_a_bar_makes_a_separator(studio: Studio) -> None:
    studio.click_slot(after="department.freight:table")
    studio.type("|")
    assert studio.row() == ["hazard-note", "table", "rule", "rule-1", "points", "numbered"]


def test_backspace_takes_the_item_before_the_caret_and_delete_the_one_after(studio: Studio) -> None:
    studio.click_slot()
    studio.press(Qt.Key.Key_Backspace)
    assert studio.row() == START[:-1]
    assert studio.place.overlay.caret.before() == "department.freight:points"
    studio.press(Qt.Key.Key_Home)
    studio.press(Qt.Key.Key_Delete)
    assert studio.row() == START[1:-1]


def test_an_item_of_the_application_is_hidden_in_this_layer_only(studio: Studio) -> None:
    studio.click_item("app:bar-save")
    studio.press(Qt.Key.Key_Backspace)
    assert "app:bar-save" in studio.layout.hide
    assert studio.item("app:bar-save") is None
    assert studio.session.workspace.outcome(("organisation",), "letters").item("app:bar-save") is not None


def test_everything_undoes_and_does_again(studio: Studio) -> None:
    studio.click_slot()
    studio.press(Qt.Key.Key_Backspace)
    studio.press(Qt.Key.Key_Backspace)
    studio.push("undo")
    assert studio.row() == START[:-1]
    studio.push("undo")
    assert studio.row() == START
    assert studio.saved() == studio.layout
    assert not studio.find("undo").isEnabled()
    studio.push("redo")
    studio.push("redo")
    assert studio.row() == START[:-2]
    assert studio.session.edits == 2


def test_shift_and_arrows_select_and_cut_and_paste_moves(studio: Studio) -> None:
    studio.click_slot()
    studio.press(Qt.Key.Key_Left, SHIFT)
    studio.press(Qt.Key.Key_Left, SHIFT)
    assert studio.place.overlay.caret.selected == ["department.freight:points", LAST]
    studio.press(Qt.Key.Key_X, CTRL)
    assert studio.row() == START[:3]
    studio.press(Qt.Key.Key_Home)
    studio.press(Qt.Key.Key_V, CTRL)
    assert studio.row() == ["points", "numbered", "hazard-note", "table", "rule-1"]


def test_copies_get_identities_of_their_own_and_go_to_another_surface(studio: Studio) -> None:
    studio.click_item("department.freight:hazard-note")
    studio.press(Qt.Key.Key_C, CTRL)
    studio.place.stage.frame.choose_tab("organisation:notices")
    studio.click_slot("organisation:everyone", "organisation:date")
    studio.press(Qt.Key.Key_V, CTRL)
    assert studio.row("organisation:everyone") == ["settle-pasted-text", "date", "hazard-note-2"]
    copied = studio.item("department.freight:hazard-note-2")
    assert copied is not None
    assert (copied.run, copied.picture) == ("macro:hazard-note", "set:alert-outline")


def test_what_others_copied_cannot_be_pasted_and_breaks_nothing(studio: Studio) -> None:
    from PyQt6.QtCore import QMimeData

    from rimecrest.studio.layout.clipboard import MIME

    studio.click_slot()
    for content in (b"rubbish", b"{}", b'{"items": [{"id": 5}]}', b"\xff"):
        data = QMimeData()
        data.setData(MIME, content)
        QApplication.clipboard().setMimeData(data)
        studio.press(Qt.Key.Key_V, CTRL)
        assert "cannot be pasted" in studio.said
    assert studio.row() == START


def test_alt_and_arrows_shift_an_item(studio: Studio) -> None:
    studio.click_item("department.freight:table")
    studio.press(Qt.Key.Key_Left, ALT)
    assert studio.row()[:2] == ["table", "hazard-note"]
    studio.press(Qt.Key.Key_Left, ALT)
    assert studio.row()[:2] == ["table", "hazard-note"]
    for _ in range(4):
        studio.press(Qt.Key.Key_Right, ALT)
    assert studio.row()[-1] == "table"


def test_an_item_of_the_application_is_shifted_by_a_move_of_this_layer(studio: Studio) -> None:
    studio.click_item("app:bar-open")
    studio.press(Qt.Key.Key_Up, ALT)
    assert studio.row("app:main")[:2] == ["bar-open", "bar-new"]
    assert [move.of for move in studio.layout.move] == ["app:bar-open"]


def test_dragging_moves_an_item_along_and_to_another_bar(studio: Studio) -> None:
    frame = studio.place.stage.frame
    start = frame.rect_of("department.freight:hazard-note").center()
    studio.drag(start, studio.slot().caret.center())
    assert studio.row() == ["table", "rule-1", "points", "numbered", "hazard-note"]
    start = frame.rect_of("department.freight:hazard-note").center()
    studio.drag(start, studio.slot("app:main", "app:bar-new").caret.center())
    assert studio.row("app:main")[:2] == ["bar-new", "hazard-note"]
    assert studio.saved() == studio.layout


def test_an_items_edge_snaps_it_to_double_and_single_width(studio: Studio) -> None:
    frame = studio.place.stage.frame
    box = frame.rect_of("department.freight:hazard-note")
    edge = QPoint(box.right() - 1, box.center().y())
    studio.drag(edge, edge + QPoint(60, 0))
    assert studio.item("department.freight:hazard-note").width == 2
    box = frame.rect_of("department.freight:hazard-note")
    edge = QPoint(box.right() - 1, box.center().y())
    studio.drag(edge, edge - QPoint(60, 0))
    assert studio.item("department.freight:hazard-note").width == 1


def test_f2_renames_in_place(studio: Studio) -> None:
    studio.click_item("department.freight:table")
    studio.press(Qt.Key.Key_F2)
    field = studio.find("rename")
    assert isinstance(field, QLineEdit)
    assert field.text() == "Table"
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Lanes")
    studio.press(Qt.Key.Key_Return)
    assert studio.item("department.freight:table").label == "Lanes"
    studio.press(Qt.Key.Key_F2)
    studio.type("never")
    studio.press(Qt.Key.Key_Escape)
    assert studio.item("department.freight:table").label == "Lanes"


def test_a_new_group_stands_at_every_boundary_of_every_tab(studio: Studio) -> None:
    frame = studio.place.stage.frame
    for tab in studio.session.outcome().tabs:
        frame.choose_tab(tab.id)
        offered = [slot for slot in frame.insertion_points() if slot.new_group]
        shown = [group for group, box in frame.group_rects() if not box.isNull()]
        assert len(offered) == len(shown) + 1
        assert len(shown) >= len(tab.groups) - 1
        assert all(slot.surface == tab.id for slot in offered)


def test_typing_at_new_group_makes_one_with_its_first_item_and_asks_its_name(studio: Studio) -> None:
    studio.click_slot("app:tab-write", "app:group-letter", new_group=True)
    studio.type("haz")
    studio.press(Qt.Key.Key_Return)
    studio.qtbot.waitUntil(lambda: isinstance(QApplication.focusWidget(), QLineEdit))
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Loads")
    studio.press(Qt.Key.Key_Return)
    tab = studio.session.outcome().tabs[0]
    assert [group.title for group in tab.groups] == ["Letter", "Loads", "Words", "Steps", "Select", "Macros"]
    assert [item.run for item in tab.groups[1].items] == ["macro:hazard-note"]
    studio.push("undo")
    studio.push("undo")
    assert len(studio.session.outcome().tabs[0].groups) == 5


def test_between_a_built_in_item_and_what_another_layer_hung_on_it(studio: Studio) -> None:
    session = studio.session
    session.aim_at(EditTarget("organisation", "letters", "Freight 1", 1024))
    studio.click_slot("app:main", "app:bar-new")
    studio.type("print")
    studio.press(Qt.Key.Key_Return)
    session.aim_at(EditTarget("department.freight", "letters", "Freight 1", 1024))
    studio.click_slot("app:main", "app:bar-new")
    studio.type("help")
    studio.press(Qt.Key.Key_Return)
    assert studio.row("app:main")[:3] == ["bar-new", "help", "print"]


def test_tab_and_page_keys_walk_over_surfaces_and_tabs(studio: Studio) -> None:
    studio.click_slot()
    seen = []
    for _ in range(4):
        studio.press(Qt.Key.Key_Tab)
        seen.append(studio.place.overlay.caret.at[0])
    assert len(set(seen)) == 4
    studio.press(Qt.Key.Key_PageDown)
    assert studio.place.stage.frame.open_tab == "app:tab-shape"
    studio.press(Qt.Key.Key_PageUp)
    assert studio.place.stage.frame.open_tab == "app:tab-write"


def test_the_whole_way_by_keyboard_alone(studio: Studio) -> None:
    assert QApplication.focusWidget() is studio.place.overlay
    studio.type("sai")
    studio.press(Qt.Key.Key_Return)
    studio.press(Qt.Key.Key_Space)
    assert studio.place.card.isVisible()
    for _ in range(12):
        if QApplication.focusWidget() is studio.find("card-key"):
            break
        studio.press(Qt.Key.Key_Tab)
    assert QApplication.focusWidget() is studio.find("card-key")
    studio.press(Qt.Key.Key_Return)
    studio.press(Qt.Key.Key_J, CTRL)
    studio.press(Qt.Key.Key_F)
    assert [key.keys for key in studio.layout.keys if key.run == "macro:sailing-notice"] == ["Ctrl+J, F"]


# The card


@pytest.fixture
def card(studio: Studio) -> Studio:
    """The card of Hazard note is open."""
    studio.click_item("department.freight:hazard-note")
    studio.press(Qt.Key.Key_Space)
    assert studio.place.card.isVisible()
    return studio


HAZARD = "department.freight:hazard-note"


def test_a_picture_with_colours_of_its_own_is_pale_where_unavailable(card: Studio) -> None:
    square = b'<rect width="9" height="9" fill="#c00000"/>'
    red = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9">' + square + b"</svg>"
    card.session.do(PutPicture("red.svg", red))
    card.session.do(SetFields("department.freight", "letters", HAZARD, {"picture": "own:red.svg"}, "picture"))

    def pixels(state: str) -> set[str]:
        (button,) = [b for b in card.place.card.findChildren(ItemButton) if b.shown_state == state]
        image = button.grab().toImage()
        return {image.pixelColor(x, image.height() // 2).name() for x in range(image.width())}

    assert "#c00000" in pixels("")
    assert "#c00000" not in pixels("unavailable")


def test_the_card_says_what_the_item_is_in_four_states(card: Studio) -> None:
    states = [
        button.shown_state
        for button in card.place.card.findChildren(type(card.place.stage.frame.button(HAZARD)))
    ]
    assert states == ["", "pointed", "pressed", "unavailable"]
    assert card.find("card-run").accessibleName() == "Hazard note"
    assert card.find("card-face").accessibleName() == "picture and words"
    assert card.find("card-width").accessibleName() == "single"


@pytest.mark.parametrize(
    ("word", "choice", "field", "value"),
    [
        ("card-face", "words only", "face", "words"),
        ("card-width", "double", "width", 2),
        ("card-collapse", "last", "collapse", 1),
    ],
)
def test_words_of_the_sentence_are_choosers(
    card: Studio, word: str, choice: str, field: str, value: object
) -> None:
    card.push(word)
    card.choose(choice)
    assert getattr(card.item(HAZARD), field) == value
    assert card.place.card.isVisible()


@pytest.mark.parametrize(("word", "field"), [("card-label", "label"), ("card-tip", "tip")])
def test_words_are_changed_in_place(card: Studio, word: str, field: str) -> None:
    card.push(word)
    card.press(Qt.Key.Key_A, CTRL)
    card.type("Danger")
    card.press(Qt.Key.Key_Return)
    assert getattr(card.item(HAZARD), field) == "Danger"


def test_another_target_is_found_by_its_name(card: Studio) -> None:
    card.push("card-run")
    card.press(Qt.Key.Key_A, CTRL)
    card.type("settle")
    card.press(Qt.Key.Key_Return)
    assert card.item(HAZARD).run == "macro:settle-pasted-text"
    card.push("card-run")
    card.press(Qt.Key.Key_A, CTRL)
    card.type("zzzz")
    card.press(Qt.Key.Key_Return)
    assert "There is no command or macro “zzzz”." in card.said


def test_settings_are_chosen_by_their_type(studio: Studio) -> None:
    studio.click_item("app:bar-embolden")
    studio.press(Qt.Key.Key_Space)
    words = {
        word.accessibleName(): word for word in studio.place.card.findChildren(type(studio.find("card-run")))
    }
    QTest.mouseClick(words["flip"], Qt.MouseButton.LeftButton)
    studio.choose("yes")
    assert studio.item("app:bar-embolden").args == (("on", "yes"),)
    assert studio.layout.change[0].of == "app:bar-embolden"


def test_a_setting_that_does_not_fit_is_told(studio: Studio) -> None:
    studio.click_item("department.freight:table")
    studio.press(Qt.Key.Key_Space)
    words = [
        w for w in studio.place.card.findChildren(type(studio.find("card-run"))) if w.accessibleName() == "3"
    ]
    QTest.mouseClick(words[0], Qt.MouseButton.LeftButton)
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("900")
    studio.press(Qt.Key.Key_Return)
    assert "rows lies from 1 to 60, not 900." in studio.said
    assert studio.item("department.freight:table").args == ()


def press_key(studio: Studio, *keys: Qt.Key) -> None:
    studio.push("card-key")
    for index, key in enumerate(keys):
        studio.press(key, CTRL if index == 0 else Qt.KeyboardModifier.NoModifier)


def test_a_free_key_is_given_by_pressing_it(card: Studio) -> None:
    press_key(card, Qt.Key.Key_J, Qt.Key.Key_F)
    assert [key.keys for key in card.layout.keys] == ["Ctrl+J, F"]
    assert card.layout.keys[0].in_context == "writing"
    card.push("undo")
    assert [key.keys for key in card.layout.keys] == ["Ctrl+J, O"]


def test_a_taken_key_says_who_has_it_and_offers_others(card: Studio) -> None:
    press_key(card, Qt.Key.Key_P)
    assert "Ctrl+P is the key of Print (built in)." in card.find("card-taken").accessibleName()
    assert [key.keys for key in card.layout.keys] == ["Ctrl+J, O"]
    card.push("free-key-1")
    assert [key.keys for key in card.layout.keys] != ["Ctrl+J, O"]
    assert card.count(Weight.ASKS) == 3


def test_a_taken_key_may_be_taken_over_on_purpose(card: Studio) -> None:
    press_key(card, Qt.Key.Key_P)
    card.push("take-over")
    assert [key.keys for key in card.layout.keys] == ["Ctrl+P"]
    assert any(f.where == "Ctrl+P" and f.layer == "department.freight" for f in card.session.checked.findings)


def test_a_key_of_the_department_next_door_is_taken_too_where_a_seat_has_both(card: Studio) -> None:
    berth = KeyBinding.model_validate({"keys": "F9", "in": "writing", "run": "macro:berth-line"})
    card.session.do(Bind("department.berth", "letters", berth))
    card.push("card-key")
    card.press(Qt.Key.Key_F9)
    assert (
        "F9 is the key of Berth line (Berth desk) when writing." in card.find("card-taken").accessibleName()
    )


def test_escape_gives_up_the_key_and_then_the_card(card: Studio) -> None:
    card.push("card-key")
    card.press(Qt.Key.Key_Escape)
    assert [key.keys for key in card.layout.keys] == ["Ctrl+J, O"]
    assert QApplication.focusWidget() is card.find("card-key"), "the word has the keys again"
    card.press(Qt.Key.Key_Escape)
    assert not card.place.card.isVisible()
    assert QApplication.focusWidget() is card.place.overlay


def test_the_cards_finding_has_its_fixes_there(card: Studio) -> None:
    texts = [chip.text() for chip in card.place.card.findChildren(type(card.find("fix-1")))]
    assert "Accept, with a reason" in texts


def test_take_off_and_as_the_layer_beneath_has_it(studio: Studio) -> None:
    studio.click_item("app:bar-save")
    studio.press(Qt.Key.Key_Space)
    studio.push("card-label")
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Keep")
    studio.press(Qt.Key.Key_Return)
    back = [
        w
        for w in studio.place.card.findChildren(type(studio.find("card-run")))
        if w.accessibleName() == "as the layer beneath has it"
    ]
    QTest.mouseClick(back[0], Qt.MouseButton.LeftButton)
    assert studio.item("app:bar-save").label == "Save"
    studio.push("card-remove")
    assert studio.item("app:bar-save") is None
    assert not studio.place.card.isVisible()


# Widths


def test_pulling_the_ruler_narrows_the_window_and_lists_what_is_lost(studio: Studio) -> None:
    ruler = studio.place.ruler
    for number in range(5):
        title = f"A group with a rather long name {number}"
        items = (Button(id=f"g{number}", run="letters:print", face="words"),)
        group = Group(id=f"wide-{number}", title=title, items=items)
        studio.session.do(PutGroup("department.freight", "letters", "app:tab-shape", None, group))
    studio.session.aim_at(EditTarget("department.freight", "letters", "Freight 1", 2400))
    studio.place.stage.frame.choose_tab("app:tab-shape")
    ruler.setFocus()
    assert studio.place._side.said() == "At 2,400 px everything fits."
    QTest.mousePress(ruler, Qt.MouseButton.LeftButton, pos=QPoint(2400, 20))
    QTest.mouseMove(ruler, QPoint(800, 20))
    QTest.mouseMove(ruler, QPoint(430, 20))
    QTest.mouseRelease(ruler, Qt.MouseButton.LeftButton, pos=QPoint(430, 20))
    assert studio.session.aim.width == 430
    assert "only when opened" in studio.place._side.said()
    lost = next(item for item in studio.place.stage.frame.unseen())
    assert lost.label in studio.place._side.said()
    studio.place.show_item(lost.id)
    assert studio.place.stage.frame.button(lost.id) is not None
    assert studio.place.overlay.caret.selected == [lost.id]
    studio.press(Qt.Key.Key_Escape)
    studio.press(Qt.Key.Key_Escape)
    assert studio.place.stage.frame.button(lost.id) is None
    studio.push(f"lost-{lost.id}")
    assert studio.place.card.isVisible()
    assert studio.place.card.item.id == lost.id
    ruler.setFocus()
    QTest.keyClick(ruler, Qt.Key.Key_Right)
    assert studio.session.aim.width == 446


def test_marks_stand_on_the_items_that_findings_are_about(studio: Studio) -> None:
    assert studio.place.overlay.shown.marks == {HAZARD: Weight.ASKS}
    studio.place.overlay.grab()


def test_an_item_gets_steps_of_its_own_and_they_become_a_macro_again(studio: Studio) -> None:
    hazard = "department.freight:hazard-note"
    studio.place.open_card(hazard)
    studio.push("card-own-steps")
    item = studio.item(hazard)
    assert item is not None
    assert (item.run, item.label) == (None, "Hazard note")
    assert item.steps == studio.session.workspace.macros["department.freight", "hazard-note"].text
    assert not [f for f in studio.session.checked.findings if f.where == hazard]
    studio.place.open_card(hazard)
    studio.push("card-own-steps")
    assert studio.item(hazard).run == "macro:hazard-note-2"
    assert ("department.freight", "hazard-note-2") in read_workspace(studio.folder).macros
    studio.session.undo()
    studio.session.undo()
    assert studio.item(hazard).run == "macro:hazard-note"


# Whatever an item is travels whole

WHOLE = StepsButton(
    id="own",
    steps='macro "Own"\nfor letters\n\ndo insert-date\n',
    label="Stamp",
    tip="Puts the date in",
    picture="set:weight",
    face="both",
    width=2,
    collapse=1,
    access="S",
)


@pytest.fixture
def whole(studio: Studio) -> Studio:
    """An item with private steps and all its face stands on the bar, and is chosen."""
    studio.session.do(PutItems("department.freight", "letters", BAR, LAST, (WHOLE,)))
    studio.click_item("department.freight:own")
    return studio


def stored(studio: Studio, label: str = "Stamp") -> list[dict[str, object]]:
    """The items of that label as they are stored, without their identities."""
    items = [item.to_data() for item in studio.saved().all_items() if item.to_data().get("label") == label]
    return [{name: value for name, value in item.items() if name != "id"} for item in items]


ALL = {name: value for name, value in WHOLE.to_data().items() if name != "id"}


def test_a_copy_has_all_that_the_item_has(whole: Studio) -> None:
    whole.press(Qt.Key.Key_C, CTRL)
    whole.click_slot(BAR, None)
    whole.press(Qt.Key.Key_V, CTRL)
    assert stored(whole) == [ALL, ALL]


def test_what_is_cut_and_pasted_has_all_it_had_and_its_identity(whole: Studio) -> None:
    whole.press(Qt.Key.Key_X, CTRL)
    assert stored(whole) == []
    whole.click_slot(BAR, None)
    whole.press(Qt.Key.Key_V, CTRL)
    assert stored(whole) == [ALL]
    assert whole.row()[0] == "own"
    whole.press(Qt.Key.Key_V, CTRL)
    assert whole.row()[:2] == ["own", "own-2"]


def test_what_is_dragged_onto_a_new_group_has_all_it_had(whole: Studio) -> None:
    frame = whole.place.stage.frame
    slot = next(slot for slot in frame.insertion_points() if slot.new_group)
    box = frame.rect_of("department.freight:own")
    assert box is not None
    whole.drag(box.center(), slot.caret.center())
    assert stored(whole) == [ALL]
    row = whole.session.outcome().row_of("department.freight:own")
    assert isinstance(row, SeenGroup)


def test_the_menu_of_an_item_marks_what_it_is_and_begins_at_the_top(studio: Studio) -> None:
    studio.click_item(HAZARD)
    studio.press(Qt.Key.Key_F10, SHIFT)
    menu = QApplication.activePopupWidget()
    marked = [action.text() for action in menu.actions() if action.isChecked()]
    assert marked == ["Picture and words", "Single width"]
    assert menu.activeAction() is menu.actions()[0]
    QTest.mouseRelease(
        menu, Qt.MouseButton.RightButton, pos=menu.actionGeometry(menu.activeAction()).center()
    )
    assert menu.isVisible()
    assert not studio.place.card.isVisible()
