"""The Keys place, worked in with real keys and clicks on a copy of the demo."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import QMimeData, QPoint, QPointF, Qt
from PyQt6.QtGui import QDragEnterEvent, QDropEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLabel, QMenu, QWidget

from rimecrest.core.check.kinds import Weight
from rimecrest.core.keys.chords import format_sequence, parse_sequence
from rimecrest.core.layout.layout import KeyBinding, Layout
from rimecrest.core.release.audience import Assignment, audience_of, seat_id
from rimecrest.core.release.package import build_package
from rimecrest.core.release.receipt import Receipt
from rimecrest.core.workspace.edits import Bind
from rimecrest.core.workspace.people import Seat
from rimecrest.rollout.folder import FolderRepository
from rimecrest.studio.keys.installed import installed
from rimecrest.studio.keys.key_cap import TARGET, KeyCap
from rimecrest.studio.keys.key_details import SuggestionRow
from rimecrest.studio.keys.place import KeysPlace
from rimecrest.studio.shared.edit_target import EditTarget
from rimecrest.surfaces.why_list import WhyList
from tests.studio.conftest import ALT, CTRL, NONE, SHIFT, Studio

OVERWEIGHT = "macro:next-overweight"


@pytest.fixture
def keys(studio: Studio) -> KeysPlace:
    """The freight desk's keys of Grid."""
    studio.session.aim_at(EditTarget("department.freight", "grid", "Freight 3", 1024))
    studio.push("place-keys")
    return studio.desk.places["Keys"]


def cap(keys: KeysPlace, key: str) -> KeyCap:
    return keys.bed.caps[key]


def click(studio: Studio, widget: QWidget) -> None:
    QTest.mouseClick(widget, Qt.MouseButton.LeftButton)
    QApplication.processEvents()


def layout(studio: Studio) -> Layout:
    return studio.session.workspace.layout("department.freight", "grid")


def bound(studio: Studio) -> dict[str, str | None]:
    return {key.keys: key.run for key in layout(studio).keys}


def sheet_says(studio: Studio, keys: KeysPlace) -> str:
    return " ".join(w.accessibleName() for w in keys.sheet.findChildren(QWidget) if not w.isHidden())


def test_the_bed_opens_behind_the_opener_in_the_context_that_has_most_keys(keys: KeysPlace) -> None:
    assert keys.presenter.context == "cell"
    assert keys.presenter.opener == parse_sequence("Ctrl+J")
    said = cap(keys, "AB02").accessibleName()
    assert said.startswith("Ctrl+J, X: Next overweight sailing; note: Ctrl+J, X for Next overweight sailing")
    assert cap(keys, "AD05").accessibleName() == "Ctrl+J, T: Sum"
    assert cap(keys, "AC07").accessibleName() == "Ctrl+J, J: free"


def test_every_key_of_the_keyboard_is_a_widget_with_a_name(keys: KeysPlace) -> None:
    caps = keys.bed.findChildren(KeyCap)
    assert {cap.cap.key for cap in caps} == set(keys.bed.caps)
    assert len(caps) == 88
    assert all(cap.accessibleName() for cap in caps)


def test_arrows_walk_over_the_caps_and_the_sheet_follows(studio: Studio, keys: KeysPlace) -> None:
    keys.bed.choose("AC01")
    studio.press(Qt.Key.Key_Right)
    assert keys.bed.current == "AC02"
    studio.press(Qt.Key.Key_Up)
    assert keys.bed.current == "AD02"
    studio.press(Qt.Key.Key_Down)
    studio.press(Qt.Key.Key_Left)
    assert keys.bed.current == "AC01"
    assert keys.presenter.key == "Ctrl+J, A"
    assert "Select the block around" in sheet_says(studio, keys)


def test_held_modifiers_change_the_bed_as_long_as_they_are_held(studio: Studio, keys: KeysPlace) -> None:
    keys.go_behind(())
    bed = keys.bed
    QTest.keyPress(bed, Qt.Key.Key_Control, CTRL)
    assert cap(keys, "AC02").state.words == "Save"
    QTest.keyPress(bed, Qt.Key.Key_Shift, CTRL | SHIFT)
    assert cap(keys, "AC02").state.keys == "Ctrl+Shift+S"
    QTest.keyRelease(bed, Qt.Key.Key_Shift, CTRL)
    QTest.keyRelease(bed, Qt.Key.Key_Control, NONE)
    assert cap(keys, "AC02").state.words == ""
    QTest.keyPress(bed, Qt.Key.Key_Alt, ALT)
    keys.bed.let_go()
    assert bed.modifiers == frozenset()


def test_a_click_on_a_modifier_holds_it_until_the_next(studio: Studio, keys: KeysPlace) -> None:
    keys.go_behind(())
    click(studio, cap(keys, "LCTL"))
    assert cap(keys, "RCTL").accessibleName() == "Ctrl, held"
    assert cap(keys, "AD10").state.words == "Print"
    click(studio, cap(keys, "LCTL"))
    assert cap(keys, "AD10").state.words == ""


def test_an_opener_is_entered_and_left_by_key(studio: Studio, keys: KeysPlace) -> None:
    studio.press(Qt.Key.Key_Backspace)
    assert keys.presenter.opener == ()
    click(studio, cap(keys, "LCTL"))
    keys.bed.choose("AC07")
    assert "opens" in cap(keys, "AC07").accessibleName()
    studio.press(Qt.Key.Key_Return)
    assert keys.presenter.opener == parse_sequence("Ctrl+J")
    assert keys.bed.modifiers == frozenset()


def test_a_context_is_chosen_on_its_band(studio: Studio, keys: KeysPlace) -> None:
    studio.push("context-note")
    assert keys.presenter.context == "note"
    assert cap(keys, "AB02").state.words == ""
    studio.push("context-anywhere")
    assert keys.presenter.context == "anywhere"


def test_a_name_typed_at_a_key_gives_it_to_that(studio: Studio, keys: KeysPlace) -> None:
    keys.bed.choose("AC07")
    studio.type("close the b")
    assert [entry.title for entry in keys.sheet.give._list.entries][:1] == ["Close the booking"]
    studio.press(Qt.Key.Key_Return)
    assert bound(studio)["Ctrl+J, J"] == "macro:close-the-booking"
    assert next(key for key in layout(studio).keys if key.keys == "Ctrl+J, J").in_context == "cell"
    assert cap(keys, "AC07").mine
    assert "runs Close the booking" in studio.said
    studio.push("undo")
    assert "Ctrl+J, J" not in bound(studio)


def test_letters_typed_at_a_modifier_alone_look_nothing_up(studio: Studio, keys: KeysPlace) -> None:
    keys.bed.choose("LALT")
    studio.type("close the b")
    assert not keys.sheet.give._list.isVisible()
    assert keys.sheet.give.text() == ""


def test_enter_at_a_key_and_a_name_does_the_same(studio: Studio, keys: KeysPlace) -> None:
    keys.bed.choose("AB01")
    studio.press(Qt.Key.Key_Return)
    studio.type("formulas")
    studio.press(Qt.Key.Key_Escape)
    assert "Ctrl+J, Z" not in bound(studio)
    keys.bed.choose("AB01")
    studio.press(Qt.Key.Key_Return)
    studio.type("formulas to val")
    studio.press(Qt.Key.Key_Return)
    assert bound(studio)["Ctrl+J, Z"] == "grid:formulas-to-values"


def test_a_command_that_needs_settings_is_refused_with_a_way_out(studio: Studio, keys: KeysPlace) -> None:
    needs = next(c for c in studio.session.workspace.catalogue("grid").commands if c.argument_faults({}))
    keys.bed.choose("AB01")
    keys.give("Ctrl+J, Z", needs.id)
    assert "needs settings; put it into a macro" in studio.said
    assert "Ctrl+J, Z" not in bound(studio)


def test_what_is_dropped_on_a_key_gets_it(studio: Studio, keys: KeysPlace) -> None:
    drop(cap(keys, "AC07"), "macro:close-the-booking")
    assert bound(studio)["Ctrl+J, J"] == "macro:close-the-booking"
    drop(cap(keys, "AB01"), f"{OVERWEIGHT}\tCtrl+J, X")
    assert bound(studio)["Ctrl+J, Z"] == OVERWEIGHT
    assert "Ctrl+J, X" not in bound(studio)


def drop(widget: QWidget, what: str) -> None:
    data = QMimeData()
    data.setData(TARGET, what.encode())
    actions, button = Qt.DropAction.CopyAction, Qt.MouseButton.LeftButton
    enter = QDragEnterEvent(QPoint(5, 5), actions, data, button, NONE)
    QApplication.sendEvent(widget, enter)
    assert enter.isAccepted()
    QApplication.sendEvent(widget, QDropEvent(QPointF(5, 5), actions, data, button, NONE))
    QApplication.processEvents()


def test_delete_takes_a_key_away_from_the_layer_or_from_beneath(studio: Studio, keys: KeysPlace) -> None:
    keys.bed.choose("AB02")
    studio.press(Qt.Key.Key_Delete)
    assert "Ctrl+J, X" not in bound(studio)
    keys.bed.choose("AD05")
    studio.press(Qt.Key.Key_Delete)
    assert bound(studio)["Ctrl+J, T"] is None
    assert cap(keys, "AD05").state.words == "taken away"


def test_listening_takes_any_key_and_ends_with_escape_twice(studio: Studio, keys: KeysPlace) -> None:
    click(studio, keys.listen)
    assert keys.listen.listening
    studio.press(Qt.Key.Key_S, CTRL)
    assert keys.listen.text() == "Ctrl+S"
    assert keys.presenter.key == "Ctrl+S"
    assert "Save" in sheet_says(studio, keys)
    assert studio.session.undo_label == ""
    studio.press(Qt.Key.Key_Z, CTRL)
    assert keys.listen.text() == "Ctrl+Z"
    studio.press(Qt.Key.Key_Escape)
    assert keys.listen.text() == "Escape"
    studio.press(Qt.Key.Key_Escape)
    assert not keys.listen.listening
    assert keys.listen.text() == ""


def test_listening_hears_a_sequence_while_its_opener_waits(studio: Studio, keys: KeysPlace) -> None:
    click(studio, keys.listen)
    studio.press(Qt.Key.Key_J, CTRL)
    assert keys.listen.text() == "Ctrl+J, …"
    studio.press(Qt.Key.Key_O)
    assert keys.listen.text() == "Ctrl+J, O"
    assert keys.presenter.key == "Ctrl+J, O"
    studio.press(Qt.Key.Key_S, CTRL)
    assert keys.listen.text() == "Ctrl+S"
    studio.press(Qt.Key.Key_1, CTRL)
    assert keys.listen.text() == "Ctrl+1"


def test_an_opener_that_is_not_gone_on_with_is_heard_by_itself(
    studio: Studio, keys: KeysPlace, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("rimecrest.studio.keys.listen.PATIENCE", 30)
    click(studio, keys.listen)
    studio.press(Qt.Key.Key_J, CTRL)
    studio.qtbot.waitUntil(lambda: keys.listen.text() == "Ctrl+J")
    studio.press(Qt.Key.Key_B, CTRL)
    assert keys.listen.text() == "Ctrl+B"
    studio.type("ctrl+j, o")
    studio.press(Qt.Key.Key_Return)
    assert keys.presenter.key == "Ctrl+J, O"


@pytest.mark.parametrize(
    ("key", "says"),
    [(Qt.Key.Key_AltGr, "AltGr writes characters"), (Qt.Key.Key_Dead_Acute, "writes an accent")],
)
def test_a_key_that_is_no_hotkey_says_why(studio: Studio, keys: KeysPlace, key: Qt.Key, says: str) -> None:
    click(studio, keys.listen)
    studio.press(key)
    assert says in studio.said
    assert keys.listen.text() == ""


def test_a_key_that_never_comes_through_is_typed_out(studio: Studio, keys: KeysPlace) -> None:
    click(studio, keys.listen)
    studio.type("ctrl+alt+l")
    studio.press(Qt.Key.Key_Return)
    assert keys.presenter.key == "Ctrl+Alt+L"
    assert "error: Xfce takes it first: it locks the screen with Ctrl+Alt+L." in sheet_says(studio, keys)
    assert cap(keys, "AC09").state.taken == "Xfce"
    studio.type("ctrl+nix")
    studio.press(Qt.Key.Key_Return)
    assert "is no key" in studio.said


def test_a_click_elsewhere_ends_listening(studio: Studio, keys: KeysPlace) -> None:
    click(studio, keys.listen)
    click(studio, cap(keys, "AC07"))
    assert not keys.listen.listening


def test_the_map_leads_to_a_key(studio: Studio, keys: KeysPlace) -> None:
    model = keys.map.model()
    column = keys.map._room.keys.index("AC09")
    assert "taken by Xfce" in model.data(model.index(2, column), Qt.ItemDataRole.ToolTipRole)
    box = keys.map.visualRect(model.index(1, keys.map._room.keys.index("AC02")))
    QTest.mouseClick(keys.map.viewport(), Qt.MouseButton.LeftButton, NONE, box.center())
    assert keys.presenter.key == "Ctrl+Shift+S"
    assert cap(keys, "AC02").state.words == "Save under a name"


def test_what_has_no_key_comes_by_how_often_it_is_used(studio: Studio, keys: KeysPlace) -> None:
    aim, counts = studio.session.aim, studio.session.workspace.habits.counts
    used = {run for app, run in counts if app == aim.app and run.startswith(f"{app}:")}
    for binding in keys.view().outcome.bindings:
        if binding.run in used:
            taken = {"keys": format_sequence(binding.sequence), "in": binding.context, "run": None}
            edit = Bind(aim.layer, aim.app, KeyBinding.model_validate(taken))
            assert studio.session.do(edit), studio.said
    listed = keys.presenter.keyless(keys.view())
    uses = [counts[aim.app, entry.id].uses for entry in listed if entry.id in used]
    assert len(uses) > 2
    assert uses == sorted(uses, reverse=True)
    assert [entry.title for entry in listed] != sorted(entry.title for entry in listed)


def test_the_best_free_keys_are_painted_and_one_click_takes_one(studio: Studio, keys: KeysPlace) -> None:
    click(studio, studio.find("keyless-macro:close-the-booking"))
    rows = [row for row in keys.sheet.findChildren(SuggestionRow) if not row.isHidden()]
    assert len(rows) == 10
    first = keys.presenter.suggestions[0]
    assert (
        rows[0]
        .accessibleName()
        .startswith(f"1: {first.keys}, {first.seconds:.2f} seconds: first letter of Close")
    )
    key = keys.view().key_of(first.keys)
    assert cap(keys, key).rank == 1
    assert cap(keys, key).accessibleName().endswith("suggestion 1; free")
    click(studio, studio.find("suggestion-1"))
    assert bound(studio)[first.keys] == "macro:close-the-booking"
    assert keys.presenter.suggesting is None


def test_arranging_changes_nothing_until_it_is_taken(studio: Studio, keys: KeysPlace) -> None:
    before = bound(studio)
    studio.push("arrange")
    moves = {move.name: move for move in keys.arranger.found().moves}
    assert moves["Next overweight sailing"].moves
    assert bound(studio) == before
    assert not keys.moves.isHidden()
    studio.push("arrange-before")
    assert cap(keys, "AB02").state.words == "Next overweight sailing"
    studio.push("arrange-after")
    assert cap(keys, "AB02").state.words == ""
    click(studio, studio.find("move-key:cell:Ctrl+J, X"))
    assert not {m.name: m for m in keys.arranger.found().moves}["Next overweight sailing"].moves
    click(studio, studio.find("move-key:cell:Ctrl+J, G"))
    assert all(move.pinned for move in keys.arranger.found().moves)
    assert not studio.find("arrange-take").isEnabled()
    click(studio, studio.find("move-key:cell:Ctrl+J, G"))
    studio.push("arrange-take")
    assert bound(studio)["Ctrl+J, X"] == OVERWEIGHT
    assert "Ctrl+J, G" not in bound(studio)
    studio.push("undo")
    assert bound(studio) == before


def test_one_seat_shows_its_chain_and_what_it_has_installed(studio: Studio, keys: KeysPlace) -> None:
    keys.aim_at_seat("Freight 7")
    keys.show_keys("Ctrl+J, X")
    QApplication.processEvents()
    chain = keys.sheet.findChildren(WhyList)[-1]
    assert [link.ok for link in chain.links][-1] is False
    assert "which goes first" in chain.links[-1].sentence
    studio.push("keys-side")
    assert keys.presenter.as_installed
    chain = keys.sheet.findChildren(WhyList)[-1]
    assert any("installed" in link.sentence for link in chain.links)
    studio.press(Qt.Key.Key_F7)
    assert not keys.presenter.as_installed


@pytest.mark.parametrize(
    ("stack", "freight_keys"), [(("organisation",), False), (("organisation", "department.freight"), True)]
)
def test_what_a_seat_has_installed_is_what_it_says_it_was_assigned(
    studio: Studio, keys: KeysPlace, stack: tuple[str, ...], freight_keys: bool
) -> None:
    workspace = studio.session.workspace
    seat = next(seat for seat in workspace.people if seat.seat == "Freight 7")
    channel = FolderRepository(studio.folder.parent / "channel")
    channel.publish(8, build_package(workspace, 8, {}, {}), audience_of(workspace, 8, ["Freight 7"]))
    channel.put_receipt(
        Receipt(
            seat=seat_id(workspace.settings.name, "Freight 7"),
            release=8,
            state="applied",
            at="2026-11-23T10:00:00+00:00",
            assigned=Assignment(release=8, stack=stack, **seat.traits._asdict()),
        )
    )
    number, shown = installed(studio.session, seat, "grid")
    assert number == 8
    assert shown is not None
    assert any(binding.run == OVERWEIGHT for binding in shown.bindings) is freight_keys


def test_the_keyboard_of_a_seat_is_drawn_with_its_legends(studio: Studio, keys: KeysPlace) -> None:
    studio.session.aim_at(EditTarget("organisation", "grid", "Care 1", 1024))
    german = next(s for s in studio.session.workspace.people if s.keyboard == "de")
    keys.aim_at_seat(german.seat)
    assert keys.presenter.board == "de"
    assert cap(keys, "AD06").state.legend == "Z"
    assert cap(keys, "AD11").state.legend == "Ü"
    keys.aim_at_seat("")
    QApplication.processEvents()
    studio.push("keys-board")
    studio.choose("Norwegian · 4 seats")
    assert cap(keys, "AC10").state.legend == "Ø"


def test_a_finding_is_mended_from_the_sheet(studio: Studio, keys: KeysPlace) -> None:
    studio.session.aim_at(EditTarget("organisation", "grid", "Care 1", 1024))
    keys.show_keys("Ctrl+J, [")
    QApplication.processEvents()
    assert cap(keys, "AD11").state.weight is Weight.BLOCKS
    assert "error" in cap(keys, "AD11").accessibleName()
    studio.push("key-fix-2")
    saved = studio.session.workspace.layout("organisation", "grid").keys[0]
    assert saved.on == {"de": None, "no": None, "be": None}
    assert cap(keys, "AD11").state.weight is None


def test_a_seat_with_a_keyboard_that_is_not_known_is_drawn_on_one_that_is(
    studio: Studio, keys: KeysPlace
) -> None:
    from msgspec.structs import replace

    workspace = studio.session.workspace
    people = tuple(
        replace(seat, keyboard="qq") if "freight" in seat.departments else seat for seat in workspace.people
    )
    assert all(isinstance(seat, Seat) for seat in people)
    studio.session._become(replace(workspace, people=people))
    assert keys.presenter.board == "gb"
    assert any(f.kind == "unknown" for f in studio.session.checked.findings)


def test_a_key_found_in_the_finder_opens_on_the_bed(studio: Studio, keys: KeysPlace) -> None:
    studio.push("place-layout")
    studio.press(Qt.Key.Key_F3)
    studio.type("ctrl+j, x")
    studio.press(Qt.Key.Key_Return)
    assert studio.desk.at == "Keys"
    assert keys.presenter.key == "Ctrl+J, X"


def test_a_variant_is_given_and_taken_back_by_hand(studio: Studio, keys: KeysPlace) -> None:
    studio.session.aim_at(EditTarget("organisation", "grid", "Care 1", 1024))
    keys.show_keys("Ctrl+J, [")
    QApplication.processEvents()
    studio.push("variants")
    studio.choose("German keyboard: go without")
    stored = studio.session.workspace.layout("organisation", "grid").keys[0]
    assert stored.on == {"de": None}
    assert stored.keys == "Ctrl+J, ["
    assert "On the German keyboard none." in [
        label.text() for label in keys.sheet.findChildren(QLabel) if not label.isHidden()
    ]
    QApplication.processEvents()
    studio.push("variants")
    menu = next(menu for menu in studio.window.findChildren(QMenu, "choices") if menu.isVisible())
    words = next(text for a in menu.actions() if (text := a.text()).startswith("xfce desktop: Ctrl"))
    studio.choose(words)
    assert studio.session.workspace.layout("organisation", "grid").keys[0].on == {
        "de": None,
        "desktop:xfce": words.removeprefix("xfce desktop: "),
    }
    QApplication.processEvents()
    studio.push("variants")
    studio.choose("German keyboard: as everywhere")
    assert "de" not in studio.session.workspace.layout("organisation", "grid").keys[0].on
