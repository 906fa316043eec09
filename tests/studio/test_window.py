"""The studio around the stage: strip, sheet, finder, aim, start, saving, other programs, roll-out."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from PyQt6.QtCore import QDate, QEvent, QLocale, QPoint, Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLabel, QMessageBox, QWidget
from pytestqt.qtbot import QtBot

from rimecrest.core.catalogue.items import Button
from rimecrest.core.check.kinds import Weight
from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.layout import KeyBinding
from rimecrest.core.search import Match, Search, spans
from rimecrest.core.workspace.edits import Bind
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.core.workspace.journal import framed
from rimecrest.core.workspace.keeper import Keeper
from rimecrest.core.workspace.people import parse_people
from rimecrest.studio.layout.targets import places
from rimecrest.studio.shared.edit_target import EditTarget
from rimecrest.studio.shared.kept_row import KeptRow
from rimecrest.studio.shared.own_name import own_name
from rimecrest.studio.shared.sentence_widgets import Chip, Word
from rimecrest.studio.start_screen import begin_workspace
from rimecrest.studio.window import StudioWindow
from tests.studio.conftest import BAR, CTRL, SHIFT, Studio
from tests.studio.test_surfaces import choose

FREIGHT = "layouts/department.freight/letters.json"


def aim(studio: Studio, layer: str) -> None:
    seat = next(s.seat for s in studio.session.workspace.people if layer.endswith(s.departments[0]))
    studio.session.aim_at(EditTarget(layer, "letters", seat, 1024))
    QApplication.processEvents()


# The strip and the sheet


def test_the_strip_counts_and_tells_the_worst_finding_of_the_aim(studio: Studio) -> None:
    assert "Ctrl+J, O now runs Hazard note instead of Berth line" in studio.said
    aim(studio, "department.quay")
    assert "“Timetable” runs the macro" in studio.said
    studio.session.aim_at(EditTarget("organisation", "letters", "Care 1", 1024))
    assert "Sailing notice is used 640 times" in studio.said
    studio.session.aim_at(EditTarget("department.berth", "grid", "Berth 1", 1024))
    assert studio.said == "No findings here"


def test_a_findings_first_words_show_what_it_is_about(studio: Studio) -> None:
    aim(studio, "department.quay")
    studio.push("finding-subject")
    assert studio.place.stage.frame.open_tab == "department.quay:posters"
    assert studio.place.overlay.caret.selected == ["department.quay:weekly-timetable"]
    aim(studio, "department.freight")
    studio.push("place-roll-out")
    studio.push("finding-subject")
    assert studio.desk.at == "Keys"
    assert studio.desk.places["Keys"].presenter.key == "Ctrl+J, O"


def test_a_fix_in_the_strip_is_one_click(studio: Studio) -> None:
    aim(studio, "department.quay")
    studio.push("fix-1")
    assert studio.count(Weight.BLOCKS) == 2
    assert [item.id for item in studio.saved("department.quay").all_items()] == ["across"]
    assert studio.said == "Done: Remove it."
    QApplication.sendEvent(studio.desk.strip, QEvent(QEvent.Type.Leave))
    assert "Ctrl+Alt+C for Today's date types ¢" in studio.said
    studio.push("fix-1")
    QApplication.sendEvent(studio.desk.strip, QEvent(QEvent.Type.Leave))
    assert "does not fit" in studio.said


def test_arrows_walk_along_the_findings(studio: Studio) -> None:
    aim(studio, "department.quay")
    studio.desk.strip.setFocus()
    studio.press(Qt.Key.Key_Right)
    studio.press(Qt.Key.Key_Right)
    assert "does not fit" in studio.said
    studio.press(Qt.Key.Key_Right)
    assert "Timetable" in studio.said


def test_keeping_a_finding_asks_why_and_stays_kept(studio: Studio) -> None:
    studio.push("fix-1")
    field = studio.find("reason")
    assert QApplication.focusWidget() is field
    studio.press(Qt.Key.Key_Return)
    assert "now runs" in studio.said
    studio.push("fix-1")
    studio.type("Only one seat has both.")
    studio.press(Qt.Key.Key_Return)
    assert studio.said == "No findings here"
    assert studio.saved().acceptances[-1].why == "Only one seat has both."
    studio.push("undo")
    assert "now runs" in studio.said


def test_what_is_kept_is_listed_with_why_since_when_and_by_whom_and_taken_back(studio: Studio) -> None:
    studio.push("fix-1")
    studio.type("Only one seat has both.")
    studio.press(Qt.Key.Key_Return)
    studio.press(Qt.Key.Key_F9)
    sheet = studio.desk.sheet
    assert studio.find("findings-kept").text() == "kept on purpose: 2"
    studio.push("findings-kept")
    row = [row for row in sheet.findChildren(KeptRow) if row.isVisible()][-1]
    today = QLocale(QLocale.Language.English).toString(QDate.currentDate(), "d MMMM yyyy")
    why = row.findChild(QLabel, "kept-why").text()
    assert why == f"Kept because: Only one seat has both. Since {today}, by {own_name()}."
    studio.push("withdraw")
    assert [kept.why for kept in studio.saved().acceptances] == ["Nobody at the desk strikes words out."]
    assert studio.find("findings-kept").text() == "back to the findings"
    studio.push("findings-kept")
    assert studio.find("findings-kept").text() == "kept on purpose: 1"
    assert studio.count(Weight.ASKS) > 0


def test_a_key_that_is_hardly_used_is_taken_over_with_one_click(studio: Studio) -> None:
    workspace = studio.session.workspace
    unused = next(
        own
        for own in workspace.catalogue("letters").keys
        if workspace.habits.uses("letters", own.run) == 0
        and not workspace.catalogue("letters").by_id[own.run].everyday
        and own.context == "writing"
    )
    binding = KeyBinding.model_validate({"keys": unused.keys, "in": "writing", "run": "letters:bold"})
    studio.session.do(Bind("department.freight", "letters", binding))
    studio.desk.strip.setFocus()
    for _ in studio.session.findings():
        if studio.said.startswith(f"{unused.keys} now runs"):
            break
        studio.press(Qt.Key.Key_Right)
    assert studio.find("fix-1").text() == "Accept: not counted"
    studio.push("fix-1")
    assert studio.saved().acceptances[-1].why == "not counted"
    assert not [f for f in studio.session.findings() if f.where == unused.keys and f.kind == "takes-over"]


def test_the_sheet_lists_all_with_their_fixes_and_goes_there(studio: Studio) -> None:
    studio.press(Qt.Key.Key_F9)
    sheet = studio.desk.sheet
    assert sheet.isVisible()
    studio.push("findings-filter")
    sentences = [w.text() for w in sheet.findChildren(QWidget) if hasattr(w, "text") and w.isVisible()]
    assert any("“Timetable” runs" in text for text in sentences)
    where = [w for w in sheet.findChildren(QWidget) if w.accessibleName() == "Quay offices, Letters"]
    QTest.mouseClick(where[0], Qt.MouseButton.LeftButton)
    assert studio.session.aim.layer == "department.quay"
    assert not sheet.isVisible()
    studio.press(Qt.Key.Key_F9)
    studio.press(Qt.Key.Key_Escape)
    assert not sheet.isVisible()


def test_a_fix_in_the_sheet_is_reached_and_taken_by_keyboard_alone(studio: Studio) -> None:
    aim(studio, "department.quay")
    studio.press(Qt.Key.Key_F9)
    for _ in range(8):
        studio.press(Qt.Key.Key_Tab)
        if QApplication.focusWidget().accessibleName() == "Remove it":
            break
    studio.press(Qt.Key.Key_Return)
    assert studio.count(Weight.BLOCKS) == 2
    # The keys stay in the list: Enter once more does nothing there, and Tab goes on where the fix was.
    assert QApplication.focusWidget() is studio.desk.sheet
    studio.press(Qt.Key.Key_Return)
    assert studio.count(Weight.BLOCKS) == 2
    studio.press(Qt.Key.Key_Tab)
    assert QApplication.focusWidget().accessibleName() == "Quay offices, Letters"
    first = [word for word in studio.desk.sheet.findChildren(Word) if word.text() == "Quay offices, Letters"]
    assert QApplication.focusWidget() is first[0]
    studio.press(Qt.Key.Key_Escape)
    assert not studio.desk.sheet.isVisible()


def test_a_fix_in_the_sheet_mends(studio: Studio) -> None:
    aim(studio, "department.quay")
    studio.press(Qt.Key.Key_F9)
    chips = [w for w in studio.desk.sheet.findChildren(QWidget) if w.accessibleName() == "Remove it"]
    QTest.mouseClick(chips[0], Qt.MouseButton.LeftButton)
    assert studio.count(Weight.BLOCKS) == 2


# The finder


def look_for(studio: Studio, text: str) -> list[str]:
    studio.press(Qt.Key.Key_F3)
    studio.qtbot.waitUntil(lambda: QApplication.focusWidget() is studio.desk.finder)
    studio.type(text)
    return [entry.title for entry in studio.desk.finder._list.entries]


def test_enter_in_the_finder_goes_there_and_changes_nothing(studio: Studio) -> None:
    studio.click_slot()
    assert look_for(studio, "weather box")[0] == "Weather box"
    studio.press(Qt.Key.Key_Return)
    assert studio.desk.at == "Macros"
    assert studio.desk.places["Macros"].now == ("department.freight", "weather-box")
    look_for(studio, "bold")
    studio.press(Qt.Key.Key_Return)
    assert studio.desk.at == "Layout"
    (name,) = studio.place.overlay.caret.selected
    assert studio.session.outcome().button(name).run == "letters:embolden"
    assert studio.session.edits == 0


def test_what_is_on_no_bar_is_said_so(studio: Studio) -> None:
    seen = studio.session.outcome()
    used = {*places(seen), *(bound.target[0] for bound in seen.bindings)}
    commands = studio.session.workspace.catalogue("letters").commands
    bare = next(command for command in commands if command.id not in used)
    assert look_for(studio, bare.name)[0] == bare.name
    studio.press(Qt.Key.Key_Return)
    assert "on no bar" in studio.said
    assert studio.session.edits == 0


def test_shift_enter_in_the_finder_puts_a_command_at_the_caret(studio: Studio) -> None:
    studio.click_slot()
    assert look_for(studio, "capit")[0] == "Capitals"
    studio.press(Qt.Key.Key_Return, SHIFT)
    assert studio.row()[-1] == "capitals"
    assert QApplication.focusWidget() is studio.place.overlay


def test_the_finder_finds_macros_of_all_layers_whatever_the_aim(studio: Studio) -> None:
    studio.session.aim_at(EditTarget("department.berth", "letters", "Berth 1", 1024))
    assert look_for(studio, "overweight")[0] == "Next overweight sailing"
    studio.press(Qt.Key.Key_Return)
    assert studio.desk.places["Macros"].now == ("department.freight", "next-overweight")


def test_a_macro_for_another_application_is_not_put_here(studio: Studio) -> None:
    studio.click_slot()
    look_for(studio, "close the booking")
    studio.press(Qt.Key.Key_Return, SHIFT)
    assert "is for Grid" in studio.said
    assert studio.session.edits == 0


def test_a_slip_of_the_fingers_finds_the_nearest(studio: Studio) -> None:
    titles = look_for(studio, "tabel")
    assert titles[0] == "Table"
    assert "Letters has no command like that" in studio.desk.finder._list.caption
    assert titles[-1] == "Make a macro called “tabel”"


def test_a_macro_of_the_name_that_was_sought_can_be_made(studio: Studio) -> None:
    assert look_for(studio, 'count "gulls"')[-1] == 'Make a macro called “count "gulls"”'
    studio.press(Qt.Key.Key_Up)
    studio.press(Qt.Key.Key_Return)
    file = studio.desk.places["Macros"].presenter.file()
    assert file is not None
    assert (file.name, file.faults) == ('count "gulls"', ())


def test_with_nothing_typed_the_finder_shows_all_from_a_to_z(studio: Studio) -> None:
    studio.press(Qt.Key.Key_F3)
    rows = studio.desk.finder._list
    titles = [entry.title for entry in rows.entries if entry.kind in ("command", "macro")]
    assert titles == sorted(titles, key=str.casefold)
    assert len(titles) > 60
    studio.press(Qt.Key.Key_Home)  # nothing is in the field: no key of it changes the list
    studio.press(Qt.Key.Key_Up)
    studio.press(Qt.Key.Key_Return)
    assert rows.isVisible()
    placed = places(studio.session.outcome())
    assert {entry.id for entry in rows.entries if entry.kind == "command"}.isdisjoint(placed)
    studio.press(Qt.Key.Key_Up)
    studio.press(Qt.Key.Key_Return)
    assert {entry.kind for entry in rows.entries} == {"filter", "macro"}
    studio.press(Qt.Key.Key_Up)
    studio.press(Qt.Key.Key_Return, SHIFT)
    assert rows.isVisible()


def test_the_finder_knows_colleagues_by_name_and_seat(studio: Studio) -> None:
    person = studio.session.workspace.seat("Care 3")
    assert look_for(studio, person.name)[0] == f"{person.name} · Care 3"
    studio.press(Qt.Key.Key_Return)
    assert (studio.session.aim.seat, studio.session.aim.layer) == ("Care 3", "department.care")


def test_the_finder_shows_an_item_where_it_sits(studio: Studio) -> None:
    titles = look_for(studio, "note")
    rows = studio.desk.finder._list.entries
    index = next(
        i for i, entry in enumerate(rows) if entry.kind == "item" and entry.id == "app:item-note-insert-note"
    )
    assert titles
    studio.desk.finder.found.emit(rows[index])
    assert studio.place.stage.frame.open_tab == "app:tab-put-in"
    assert studio.place.overlay.caret.selected == ["app:item-note-insert-note"]


def test_the_finder_tells_who_has_a_key_typed_out(studio: Studio) -> None:
    assert look_for(studio, "ctrl+s")[0] == "Ctrl+S: Save"
    studio.press(Qt.Key.Key_Escape)
    assert look_for(studio, "f11")[0] == "F11 is free"


def test_the_finder_makes_a_tab_and_a_bar(studio: Studio) -> None:
    look_for(studio, "new tab")
    studio.press(Qt.Key.Key_Return)
    studio.type("Lanes")
    studio.press(Qt.Key.Key_Return)
    assert studio.session.outcome().tabs[-1].title.endswith("Lanes")
    look_for(studio, "new toolbar")
    studio.press(Qt.Key.Key_Return)
    studio.type("haz")
    studio.press(Qt.Key.Key_Return)
    assert studio.row("department.freight:bar") == ["hazard-note-2"]


def test_a_word_nobody_has_is_said_so(studio: Studio) -> None:
    assert look_for(studio, "qqqq") == ["Make a macro called “qqqq”"]
    assert "Letters has no command like that" in studio.desk.finder._list.accessibleName()
    studio.press(Qt.Key.Key_Escape)
    assert QApplication.focusWidget() is studio.place.overlay


def test_search_ranks_beginnings_then_words_then_purpose_then_likeness() -> None:
    search = Search(
        [
            Match("c", "1", "Overweight sailing", more="next"),
            Match("c", "2", "Next overweight"),
            Match("c", "3", "Narrow", more="next to nothing"),
            Match("c", "4", "Weights"),
        ]
    )
    assert [entry.id for entry in search.find("next")] == ["2", "3", "1"]
    assert [entry.id for entry in search.find("over")] == ["1", "2"]
    assert next(entry.id for entry in search.find("wieghts")) == "4"
    assert search.find("  ") == []
    assert spans("Next overweight", "over") == [(5, 4)]


# The aim


def test_the_line_of_aim_chooses_layer_seat_and_width(studio: Studio) -> None:
    studio.push("aim-layer")
    studio.choose("Passenger care")
    assert studio.session.aim.layer == "department.care"
    assert studio.session.aim.seat.startswith("Care")
    studio.push("aim-seat")
    studio.choose(f"Care 5 · {studio.session.workspace.seat('Care 5').name}")
    studio.push("aim-width")
    studio.choose("1,280 px")
    assert (studio.session.aim.seat, studio.session.aim.width) == ("Care 5", 1280)
    studio.session.step_aim(-1)
    assert studio.session.aim.width == 1024
    studio.session.step_aim(1)
    assert studio.session.aim.width == 1280
    assert studio.place.stage.width() == 1280


def test_a_seat_of_two_departments_is_seen_with_both(studio: Studio) -> None:
    studio.session.aim_at(EditTarget("department.freight", "letters", "Freight 5", 1024))
    assert studio.session.aim.stack(studio.session.workspace) == (
        "organisation",
        "department.berth",
        "department.freight",
    )


def test_light_and_dark_keep_the_place_and_what_was_done(studio: Studio) -> None:
    studio.click_item("department.freight:table")
    studio.press(Qt.Key.Key_Backspace)
    studio.push("scheme")
    assert studio.window.scheme.name == "dark"
    assert "table" not in studio.row()
    studio.push("undo")
    assert "table" in studio.row()
    studio.push("place-roll-out")
    studio.push("scheme")
    assert studio.desk.at == "Roll-out"


# Saving, and other programs


def test_the_draft_outlives_the_studio(studio: Studio) -> None:
    studio.click_slot()
    studio.press(Qt.Key.Key_Backspace)
    assert len(read_workspace(studio.folder).layout("department.freight", "letters").all_items()) == 4


def test_a_folder_that_cannot_be_written_is_told_and_the_screen_stays_true(studio: Studio) -> None:
    before = studio.row()
    studio.folder.rename(studio.folder.with_name("gone"))
    studio.click_slot()
    studio.press(Qt.Key.Key_Backspace)
    assert "cannot be written" in studio.said
    assert studio.row() == before
    studio.folder.with_name("gone").rename(studio.folder)
    studio.press(Qt.Key.Key_Backspace)
    assert len(studio.row()) == len(before) - 1


def test_a_second_studio_opens_read_only_and_says_who_has_it(studio: Studio, qtbot: QtBot) -> None:
    second = Studio(qtbot, studio.folder)
    assert "Open read-only" in second.said
    assert "process" in second.said
    second.click_slot()
    second.press(Qt.Key.Key_Backspace)
    assert "read-only" in second.said
    assert second.row() == studio.row()
    second.window.close()


def test_what_another_program_changes_is_read_and_told(studio: Studio) -> None:
    path = studio.folder / FREIGHT
    data = json.loads(path.read_text())
    data["toolbars"][0]["title"] = "Cargo"
    path.write_text(json.dumps(data))
    studio.qtbot.waitUntil(lambda: "Another program changed" in studio.said, timeout=5000)
    assert studio.session.outcome().title_of(BAR) == "Cargo"
    assert studio.session.undo_label == ""


@pytest.mark.parametrize(
    "path",
    ["people.csv", "workspace.json", "pictures/ferry.svg", "companions/new.ods", "catalogues/grid.json"],
)
def test_whatever_kind_of_file_another_program_writes_is_read(studio: Studio, path: str) -> None:
    place = studio.folder / path
    place.parent.mkdir(exist_ok=True)
    content = place.read_bytes() if place.exists() else b"<svg/>"
    place.write_bytes(content + b"\n")
    studio.qtbot.waitUntil(lambda: f"Another program changed {path}" in studio.said, timeout=5000)


def test_a_step_on_a_file_that_changed_a_moment_ago_is_not_done_and_nothing_is_lost(studio: Studio) -> None:
    path = studio.folder / FREIGHT
    path.write_text(path.read_text().replace('"Freight"', '"Cargo"'))
    before = studio.row()
    studio.click_slot()
    studio.press(Qt.Key.Key_Backspace)
    assert "meanwhile; your last step was not done" in studio.said
    assert studio.row() == before
    assert studio.session.outcome().title_of(BAR) == "Cargo"
    studio.click_slot()
    studio.press(Qt.Key.Key_Backspace)
    assert len(studio.row()) == len(before) - 1
    assert '"Cargo"' in path.read_text()


def test_a_file_that_another_program_breaks_is_named_and_the_rest_stays_open(studio: Studio) -> None:
    path = studio.folder / FREIGHT
    good = path.read_text()
    path.write_text("{ broken")
    studio.qtbot.waitUntil(lambda: "Another program broke" in studio.said, timeout=5000)
    assert FREIGHT in studio.said
    studio.click_item("app:bar-save")
    studio.press(Qt.Key.Key_Backspace)
    assert "cannot be changed" in studio.said
    assert path.read_text() == "{ broken"
    path.write_text(good)
    studio.qtbot.waitUntil(lambda: "Another program changed" in studio.said, timeout=5000)
    assert len(studio.row()) == 5


def test_a_workspace_without_its_catalogue_says_so_on_the_stage(qtbot: QtBot, demo_copy: Path) -> None:
    (demo_copy / "catalogues" / "letters.json").unlink()
    studio = Studio(qtbot, demo_copy)
    assert "There is no catalogue of “letters”" in studio.place._trouble.text()
    assert "Start Letters once" in studio.place._trouble.text()
    assert "catalogues/letters.json cannot be used" in studio.said
    studio.window.close()


@pytest.mark.parametrize(
    ("words", "opens", "there"),
    [("Complete it", True, True), ("Leave it out", True, False), ("", False, False)],
)
def test_a_save_that_another_computer_left_unfinished_is_asked_about(
    qtbot: QtBot, demo_copy: Path, words: str, opens: bool, there: bool
) -> None:
    record = {"label": "plan", "files": {"companions/plan.txt": "plan"}, "by": "0" * 16}
    (demo_copy / ".rimecrest").mkdir()
    (demo_copy / ".rimecrest" / "journal.jsonl").write_bytes(framed(record))
    window = StudioWindow()
    qtbot.addWidget(window)

    def answer() -> None:
        box = window.findChild(QMessageBox, "unfinished-elsewhere")
        assert "“plan”, which writes companions/plan.txt" in box.text()
        chosen = [button for button in box.buttons() if button.text() == words]
        if chosen:
            QTest.mouseClick(chosen[0], Qt.MouseButton.LeftButton)
        else:
            QTest.keyClick(box, Qt.Key.Key_Return)

    QTimer.singleShot(0, answer)
    assert window.open_folder(demo_copy) is opens
    assert (demo_copy / "companions" / "plan.txt").exists() is there


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("{", "workspace.json, line 1"),
        ('{"format": "rimecrest.workspace/7", "name": "x"}', "Update Rimecrest"),
    ],
)
def test_a_workspace_that_cannot_be_opened_leads_to_the_start_with_the_reason(
    qtbot: QtBot, demo_copy: Path, text: str, says: str
) -> None:
    (demo_copy / "workspace.json").write_text(text)
    window = StudioWindow()
    qtbot.addWidget(window)
    assert not window.open_folder(demo_copy)
    trouble = window.findChild(QWidget, "start-trouble")
    assert says in trouble.text()


# The start


def test_an_office_begins_with_its_applications_and_people(tmp_path: Path) -> None:
    people = parse_people("seat,name,departments\nDesk 1,Ailis Sundby,front\n")
    folder = begin_workspace(tmp_path / "office", "Harbour office", ["letters"], people)
    workspace = read_workspace(folder)
    assert workspace.settings.name == "Harbour office"
    assert workspace.layers == ("organisation", "department.front")
    assert workspace.catalogues["letters"].commands
    assert workspace.broken == {}
    with pytest.raises(RimecrestError, match="holds a workspace already"):
        begin_workspace(folder, "x", [], people)


def test_the_first_hour_begins_with_the_caret_and_one_hint(
    qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("HOME", str(tmp_path))
    window = StudioWindow()
    qtbot.addWidget(window)
    window.show_start()
    window.show()
    name = window.findChild(QWidget, "start-name")
    QTest.keyClicks(name, "Quay shop")
    QTest.mouseClick(window.findChild(QWidget, "begin"), Qt.MouseButton.LeftButton)
    assert window.desk is not None
    assert (tmp_path / "Rimecrest" / "quay-shop" / "workspace.json").is_file()
    assert window.desk.places["Layout"].overlay.hint == "Type what you do often."
    for letter in "count":
        QTest.keyClick(window.desk.places["Layout"].overlay, letter)
    QTest.keyClick(window.desk.places["Layout"].overlay, Qt.Key.Key_Return)
    layout = read_workspace(tmp_path / "Rimecrest" / "quay-shop").layout("organisation", "grid")
    assert [item.run for item in layout.all_items() if isinstance(item, Button)] == ["grid:insert-count"]
    window.close()


def test_a_list_of_people_that_does_not_fit_is_told_on_the_start(
    qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("HOME", str(tmp_path))
    window = StudioWindow()
    qtbot.addWidget(window)
    window.show_start()
    window.show()
    QTest.mouseClick(window.findChild(QWidget, "start-list"), Qt.MouseButton.LeftButton)
    window.findChild(QWidget, "start-people").setPlainText("name\nAilis")
    QTest.mouseClick(window.findChild(QWidget, "begin"), Qt.MouseButton.LeftButton)
    assert "the column “seat” is missing" in window.findChild(QWidget, "start-trouble").text()
    assert window.desk is None
    window.close()


# The link of the studio


def test_the_studio_tells_where_things_are(studio: Studio) -> None:
    where = studio.window._where
    assert where(f"slot {BAR} after department.freight:numbered") is not None
    assert where("try-it")[2] > 30
    assert where("department.freight:table") is not None
    assert where("nothing") is None
    assert studio.window._read("aim")["layer"] == "department.freight"
    with pytest.raises(RimecrestError, match="cannot tell"):
        studio.window._read("everything")


def test_closing_gives_the_lock_back(studio: Studio) -> None:
    studio.window.close()
    keeper = Keeper(studio.folder)
    keeper.open()
    assert not keeper.read_only
    keeper.close()


def test_undo_and_redo_have_keys_and_names(studio: Studio) -> None:
    studio.click_slot()
    studio.press(Qt.Key.Key_Backspace)
    assert studio.find("undo").toolTip() == "Undo: remove 1 thing"
    studio.press(Qt.Key.Key_Z, CTRL)
    studio.qtbot.waitUntil(lambda: len(studio.row()) == 5)
    studio.press(Qt.Key.Key_Z, CTRL | SHIFT)
    studio.qtbot.waitUntil(lambda: len(studio.row()) == 4)
    studio.session.redo()
    assert "nothing to redo" in studio.said


def test_a_new_step_leaves_nothing_to_do_again(studio: Studio) -> None:
    studio.click_slot()
    studio.press(Qt.Key.Key_Backspace)
    studio.press(Qt.Key.Key_Z, CTRL)
    studio.qtbot.waitUntil(lambda: len(studio.row()) == 5)
    studio.click_item("app:bar-save")
    studio.press(Qt.Key.Key_Backspace)
    kept = studio.row()
    studio.press(Qt.Key.Key_Z, CTRL | SHIFT)
    assert "nothing to redo" in studio.said
    assert studio.row() == kept


def test_the_aim_says_in_which_documents_the_layout_applies(studio: Studio) -> None:
    studio.push("aim-applies")
    choose(studio, "in documents made from berth-plan")
    assert studio.layout.applies.templates == ("berth-plan",)
    (word,) = (w for w in studio.window.findChildren(Word, "aim-applies") if not w.isHidden())
    assert word.text().startswith("in documents made")
    studio.push("aim-applies")
    choose(studio, "in documents made from a template")
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("sailing-sheet, late")
    studio.press(Qt.Key.Key_Return)
    assert studio.layout.applies.templates == ("sailing-sheet", "late")
    studio.press(Qt.Key.Key_Z, CTRL)
    studio.press(Qt.Key.Key_Z, CTRL)
    assert studio.layout.applies.everywhere


def test_the_other_places_are_made_once_the_first_one_shows(studio: Studio) -> None:
    places = studio.desk.places
    studio.qtbot.waitUntil(lambda: len(places.made) == len(places) == 4)
    assert studio.desk.at == "Layout"


def test_the_window_is_painted_first_then_come_the_findings_and_nothing_moves(
    qtbot: QtBot, demo_copy: Path
) -> None:
    window = StudioWindow()
    qtbot.addWidget(window)
    assert window.open_folder(demo_copy)
    session, desk = window.session, window.desk
    assert session is not None
    assert desk is not None
    shown = desk.places["Layout"].overlay.shown
    assert not session.is_checked
    assert (desk.strip.accessibleName(), shown.marks) == ("", {})
    window.show()
    where = desk.strip.geometry(), desk.places["Layout"].stage.geometry()
    qtbot.waitUntil(lambda: bool(desk.strip.accessibleName()))
    assert session.is_checked
    assert desk.strip.accessibleName().startswith("Ctrl+J, O now runs")
    assert shown.marks
    assert (desk.strip.geometry(), desk.places["Layout"].stage.geometry()) == where


def test_what_is_done_before_anything_is_painted_is_checked_all_the_same(
    qtbot: QtBot, demo_copy: Path
) -> None:
    window = StudioWindow()
    qtbot.addWidget(window)
    assert window.open_folder(demo_copy)
    session = window.session
    assert session is not None
    aim = session.aim
    assert session.do(Bind(aim.layer, aim.app, KeyBinding(keys="Ctrl+B", run="letters:underline")))
    assert session.is_checked
    assert any(finding.where == "Ctrl+B" for finding in session.findings())


def test_the_number_of_findings_elsewhere_opens_those_and_no_others(studio: Studio) -> None:
    here = {finding.sentence for finding in studio.session.findings()}
    elsewhere = {finding.sentence for finding in studio.session.elsewhere()}
    assert elsewhere
    word = studio.find("findings-elsewhere")
    QTest.mouseClick(word, Qt.MouseButton.LeftButton, pos=word.rect().center())
    QApplication.processEvents()
    sheet = studio.find("findings")
    assert sheet.isVisible()
    shown = {label.text() for label in sheet.findChildren(QLabel)}
    assert elsewhere <= shown
    assert not here & shown


def test_rows_below_stay_where_they_are_after_a_fix_by_mouse(studio: Studio) -> None:
    studio.desk.sheet.open(True)
    QApplication.processEvents()
    rows = studio.desk.sheet._listed
    chip = next(chip for row in rows[:3] for chip in row.findChildren(Chip) if chip.text() == "Remove it")
    before = [row.mapTo(studio.window, QPoint()).y() for row in rows]
    QTest.mouseClick(chip, Qt.MouseButton.LeftButton, pos=chip.rect().center())
    QApplication.processEvents()
    assert [row.mapTo(studio.window, QPoint()).y() for row in rows] == before
    assert "Done: Remove it" in [c.text() for row in rows[:3] for c in row.findChildren(Chip)]


def test_the_strip_shows_the_question_that_the_last_change_brought(studio: Studio) -> None:
    aim = studio.session.aim
    assert studio.session.findings()[0].where == "Ctrl+J, O"
    key = KeyBinding.model_validate({"keys": "Ctrl+J, H", "in": "writing", "run": "letters:highlight"})
    assert studio.session.do(Bind(aim.layer, aim.app, key)), studio.said
    studio.desk.strip.say("")
    assert studio.session.findings()[0].where == "Ctrl+J, O"
    assert "Ctrl+J, H" in studio.desk.strip.accessibleName()


@pytest.mark.parametrize("place", ["Macros", "Keys", "Roll-out"])
@pytest.mark.parametrize("word", ["layer", "app", "seat", "width"])
def test_keys_go_to_what_shows_after_a_word_of_the_aim_is_changed(
    studio: Studio, place: str, word: str
) -> None:
    studio.push(f"place-{place.lower()}")
    studio.push(f"aim-{word}")
    aim = studio.session.aim
    for key in (Qt.Key.Key_Down, Qt.Key.Key_Return):
        QTest.keyClick(QApplication.activePopupWidget(), key)
    QApplication.processEvents()
    assert studio.session.aim != aim
    focused = QApplication.focusWidget()
    assert focused is None or focused.isVisible()
    items = [layout.all_items() for layout in studio.session.workspace.layouts.values()]
    studio.type("stack the")
    studio.press(Qt.Key.Key_Return)
    assert [layout.all_items() for layout in studio.session.workspace.layouts.values()] == items
