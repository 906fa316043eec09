"""The sentence that finishes a recording: where it is kept, on what it goes, the key, and their defaults."""

from __future__ import annotations

import subprocess
import sys
import time
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QRect, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QMenu

from rimecrest.core.catalogue.items import Button
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.core.workspace.layer_ids import MINE
from rimecrest.link.addresses import listening
from rimecrest.link.line import Line
from rimecrest.studio.macros.finish import FinishSentence
from rimecrest.studio.macros.place import MacrosPlace
from rimecrest.studio.shared.choice_list import ChoiceList
from rimecrest.studio.shared.key_field import KeyField
from rimecrest.studio.shared.sentence_widgets import InlineField, Plain, Word
from tests.studio.conftest import BAR, CTRL, Studio

TEXT = 'macro "New recording"\nfor letters\n\ndo insert-date\n'
LAYER = "department.freight"


@pytest.fixture
def finish(studio: Studio, place: MacrosPlace) -> FinishSentence:
    assert place.recording.take_recorded("New recording", TEXT, "letters")
    QApplication.processEvents()
    assert place.recording.finish is not None
    return place.recording.finish


def test_the_field_of_the_name_covers_no_other_word(studio: Studio, finish: FinishSentence) -> None:
    QTest.keyClicks(QApplication.focusWidget(), "Date")
    studio.press(Qt.Key.Key_Return)
    studio.push("finish-name")
    (field,) = [found for found in finish.findChildren(InlineField) if found.isVisible()]
    word = studio.find("finish-name")
    QApplication.processEvents()
    texts = [found for kind in (Plain, Word) for found in finish.findChildren(kind) if found.isVisible()]
    beside = [found for found in texts if found is not word]
    assert len(beside) > 5
    covered = [w for w in beside if QRect(w.mapTo(finish, QPoint()), w.size()).intersects(field.geometry())]
    assert [w.text() for w in covered] == []
    studio.press(Qt.Key.Key_Escape)
    assert studio.find("finish-name").width() < field.width()


def words(studio: Studio, *names: str) -> list[str]:
    return [studio.find(f"finish-{name}").text() for name in names]


def listed(studio: Studio, name: str) -> list[str]:
    studio.push(f"finish-{name}")
    menu = next(menu for menu in studio.window.findChildren(QMenu, "choices") if menu.isVisible())
    found = [action.text() for action in menu.actions()]
    menu.close()
    QApplication.processEvents()
    return found


def choose(studio: Studio, name: str, row: str) -> None:
    studio.push(f"finish-{name}")
    menu = next(menu for menu in studio.window.findChildren(QMenu, "choices") if menu.isVisible())
    menu.setActiveAction(next(action for action in menu.actions() if action.text() == row))
    QTest.keyClick(menu, Qt.Key.Key_Return)
    QApplication.processEvents()


def shelf(studio: Studio) -> str:
    return next(layer for layer, name in studio.session.workspace.macros if name == "new-recording")


def runs(studio: Studio, layer: str = LAYER, name: str = "new-recording") -> list[str]:
    items = studio.saved(layer).all_items()
    return [item.id for item in items if isinstance(item, Button) and item.run == f"macro:{name}"]


def test_it_says_where_it_is_kept_and_offers_what_the_layer_sees(
    studio: Studio, finish: FinishSentence
) -> None:
    assert words(studio, "name", "kept", "surface", "after") == [
        "New recording",
        "for Freight desk",
        "Freight",
        "Numbered list",
    ]
    assert listed(studio, "kept") == ["for Freight desk", "for Everyone", "for me alone"]


def test_kept_for_everyone_it_moves_there_and_its_button_stays_with_the_desk(
    studio: Studio, finish: FinishSentence
) -> None:
    choose(studio, "kept", "for Everyone")
    studio.push("finish-put")
    assert shelf(studio) == "organisation"
    assert studio.desk.places["Macros"].now == ("organisation", "new-recording")
    assert not [w for w in studio.window.findChildren(FinishSentence) if w.isVisible()]
    assert len(runs(studio)) == 1
    studio.push("undo")
    assert shelf(studio) == LAYER
    assert runs(studio) == []


def test_kept_for_me_alone_no_shared_bar_or_key_runs_it(studio: Studio, finish: FinishSentence) -> None:
    choose(studio, "kept", "for me alone")
    assert words(studio, "surface", "key") == ["nothing yet", "none"]
    studio.push("finish-put")
    assert shelf(studio) == MINE
    assert runs(studio) == []
    assert not [f for f in studio.session.checked.findings if "new-recording" in f.where]


def test_a_surface_or_a_key_brings_it_back_to_a_shared_shelf(studio: Studio, finish: FinishSentence) -> None:
    choose(studio, "kept", "for me alone")
    choose(studio, "surface", "Freight")
    assert words(studio, "kept") == ["for Freight desk"]
    choose(studio, "kept", "for me alone")
    choose(studio, "key", finish.offered[1])
    assert words(studio, "kept") == ["for Freight desk"]


def test_a_key_is_pressed_and_who_has_it_is_told(studio: Studio, finish: FinishSentence) -> None:
    choose(studio, "key", "Press it …")
    assert isinstance(QApplication.focusWidget(), KeyField)
    studio.press(Qt.Key.Key_J, CTRL)
    studio.press(Qt.Key.Key_T)
    assert words(studio, "key") == ["Ctrl+J, T"]
    assert studio.said == "Ctrl+J, T is taken over from Table."
    studio.push("finish-put")
    assert [k.keys for k in studio.saved().keys if k.run == "macro:new-recording"] == ["Ctrl+J, T"]


def test_a_word_that_is_clicked_while_the_name_is_typed_opens_its_list(
    studio: Studio, finish: FinishSentence
) -> None:
    QTest.keyClicks(QApplication.focusWidget(), "A much longer name than before")
    studio.push("finish-key")
    assert words(studio, "name") == ["A much longer name than before"]
    menu = QApplication.activePopupWidget()
    assert isinstance(menu, ChoiceList)
    QTest.keyClick(menu, Qt.Key.Key_K, CTRL)
    assert words(studio, "key") == ["Ctrl+K"]


def test_escape_leaves_the_key_as_it_was(studio: Studio, finish: FinishSentence) -> None:
    choose(studio, "key", "Press it …")
    studio.press(Qt.Key.Key_Escape)
    assert words(studio, "key") == ["none"]
    assert not finish.findChildren(KeyField) or not finish.findChildren(KeyField)[-1].isVisible()


def rename(studio: Studio, name: str) -> None:
    studio.push("finish-name")
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type(name)
    studio.press(Qt.Key.Key_Return)


def test_no_key_is_given_that_nobody_chose_and_another_name_offers_others(
    studio: Studio, finish: FinishSentence
) -> None:
    assert words(studio, "key") == ["none"]
    assert "Ctrl+R" in finish.offered
    rename(studio, "Dated line")
    assert words(studio, "key") == ["none"]
    assert "Ctrl+D" in finish.offered
    assert "Ctrl+R" not in finish.offered
    studio.push("finish-put")
    assert runs(studio, name="dated-line")
    assert not [key for key in studio.saved().keys if key.run == "macro:dated-line"]


def test_a_chosen_key_stays_when_the_name_changes(studio: Studio, finish: FinishSentence) -> None:
    choose(studio, "key", finish.offered[2])
    chosen = finish.keys
    rename(studio, "Kindly yours")
    assert words(studio, "key") == [chosen]
    assert "Ctrl+K" in finish.offered


def test_ctrl_enter_in_the_name_puts_the_macro_there_under_that_name(
    studio: Studio, finish: FinishSentence
) -> None:
    studio.type("Dated line")
    studio.press(Qt.Key.Key_Return, CTRL)
    assert runs(studio, name="dated-line")
    assert [file.name for file in studio.session.workspace.macros.values()].count("Dated line") == 1


def test_groups_are_listed_with_their_tab_and_a_new_tab_is_made(
    studio: Studio, finish: FinishSentence
) -> None:
    rows = listed(studio, "surface")
    assert "Write, Words" in rows
    assert "Insert, Lines" in rows
    assert rows[-2:] == ["new tab …", "nothing yet"]
    choose(studio, "surface", "new tab …")
    studio.type("Lanes")
    studio.press(Qt.Key.Key_Return)
    assert words(studio, "surface") == ["the new tab “Lanes”"]
    studio.push("finish-put")
    [tab] = [tab for tab in studio.saved().tabs if tab.title == "Lanes"]
    assert [group.title for group in tab.groups] == ["Lanes"]
    assert [item.id for item in tab.groups[0].items] == runs(studio)
    assert studio.session.outcome().tabs[-1].title == "Lanes"


def test_recorded_buttons_show_their_words(studio: Studio, place: MacrosPlace) -> None:
    for name in ("One", "Two"):
        assert place.recording.take_recorded(name, TEXT.replace("New recording", name), "letters")
        QApplication.processEvents()
        studio.push("finish-put")
    row = next(row for row in studio.session.outcome().rows() if row.id == BAR)
    faces = {item.label: item.face for item in row.buttons() if item.label in ("One", "Two")}
    assert faces == {"One": "words", "Two": "words"}
    assert not [f for f in studio.session.checked.findings if f.kind == "twin"]


def test_what_an_application_hands_over_lies_on_the_specialists_own_shelf(
    studio: Studio, tmp_path: Path
) -> None:
    run = [sys.executable, "-m", "rimecrest", "app", "letters", "--profile", str(tmp_path / "profile")]
    with subprocess.Popen(run) as process:
        try:
            studio.qtbot.waitUntil(lambda: bool(listening("letters")), timeout=30_000)
            hand = studio.window._methods()["take.recorded"]
            until = time.monotonic() + 60
            sent = {"name": "New recording", "text": TEXT, "document": "New letter", "pid": process.pid}
            sent |= {"recording": "ab" * 16, "until": until}
            assert not hand(app="unheard-of", **sent)
            assert hand(app="letters", **sent)
            QApplication.processEvents()
            assert studio.desk.at == "Macros"
            assert shelf(studio) == MINE
            assert words(studio, "kept", "surface", "key") == ["for me alone", "nothing yet", "none"]
            assert listed(studio, "kept")[-1] == "in “New letter”"
            choose(studio, "kept", "in “New letter”")
            studio.push("finish-put")
            assert studio.said == "It is kept in “New letter” in Letters."
            with Line(listening("letters")[0], timeout=20) as line:
                assert list(line.ask("document.macros")) == ["new-recording"]
            assert not [name for _, name in studio.session.workspace.macros if name == "new-recording"]
        finally:
            process.terminate()


def test_a_window_that_is_gone_keeps_nothing_and_the_macro_stays(
    studio: Studio, place: MacrosPlace, tmp_path: Path
) -> None:
    hand = studio.window._methods()["take.recorded"]
    sent = {"name": "New recording", "text": TEXT, "document": "New letter", "pid": 1}
    assert hand(app="letters", **sent, recording="ab" * 16, until=time.monotonic() + 60)
    QApplication.processEvents()
    assert listed(studio, "kept") == ["for Freight desk", "for Everyone", "for me alone"]
    finish = place.recording.finish
    assert finish is not None
    finish.kept = "document"
    studio.push("finish-put")
    assert shelf(studio) == MINE
    assert read_workspace(studio.folder).layers == studio.session.workspace.layers


def test_the_name_is_ready_to_be_written_over_and_all_is_done_by_keys(
    studio: Studio, finish: FinishSentence
) -> None:
    focused = QApplication.focusWidget()
    assert isinstance(focused, InlineField)
    assert focused.selectedText() == "New recording"
    studio.type("Dated line")
    studio.press(Qt.Key.Key_Return)
    assert QApplication.focusWidget() is studio.find("finish-surface")
    studio.press(Qt.Key.Key_Return, CTRL)
    assert len(runs(studio, name="dated-line")) == 1
    assert not [w for w in studio.window.findChildren(FinishSentence) if w.isVisible()]


def test_escape_leaves_the_name_and_goes_on(studio: Studio, finish: FinishSentence) -> None:
    studio.press(Qt.Key.Key_Escape)
    assert words(studio, "name") == ["New recording"]
    assert QApplication.focusWidget() is studio.find("finish-surface")
