"""The trial and recording, against the real applications, each a process of its own."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from PyQt6.QtCore import QRect, QRectF, QSize, Qt
from PyQt6.QtGui import QImage, QPainter, QPixmap
from PyQt6.QtWidgets import QComboBox
from pytestqt.qtbot import QtBot

from rimecrest.core.catalogue.items import Button
from rimecrest.core.workspace.file_edits import PutMacro
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.core.workspace.origin import marked
from rimecrest.link.addresses import listening
from rimecrest.link.line import Line
from rimecrest.studio.macros.place import MacrosPlace
from rimecrest.studio.macros.recording import running_windows
from rimecrest.studio.macros.shelves import Shelves
from rimecrest.studio.macros.step_painting import NUMBER
from rimecrest.studio.macros.step_trial import PICTURE, cut_to
from tests.studio.conftest import CTRL, Studio

BOX = ("department.freight", "weather-box")
PLAIN = 'macro "Plain"\nabout ""\nfor letters\n\nwrite "one"\ndo new-line\nwrite "two"\ndo embolden on=yes\n'


@pytest.fixture
def place(studio: Studio) -> MacrosPlace:
    studio.press(Qt.Key.Key_1, CTRL)
    studio.session.do(PutMacro("department.freight", "plain", PLAIN))
    studio.desk.places["Macros"].open(("department.freight", "plain"))
    return studio.desk.places["Macros"]


def until(studio: Studio, done: Callable[[], bool]) -> None:
    studio.qtbot.waitUntil(done, timeout=20_000)


def ink(picture: QImage) -> int:
    """How many dark points a picture has; a caret has some twenty."""
    # Lines of a picture are padded to four bytes: here there is nothing to pad.
    whole = QImage(picture.width() // 4 * 4, picture.height(), QImage.Format.Format_RGB32)
    # What is clear is as light as the paper behind it.
    whole.fill(Qt.GlobalColor.white)
    painter = QPainter(whole)
    painter.drawImage(0, 0, picture)
    painter.end()
    grey = whole.convertToFormat(QImage.Format.Format_Grayscale8)
    bits = grey.constBits()
    assert bits is not None
    return sum(value < 100 for value in bytes(bits.asarray(grey.sizeInBytes())))


def shown(place: MacrosPlace) -> list[int]:
    """The steps whose picture is of now."""
    return [index for index, shot in sorted(place.trial.shots.items()) if shot.picture and not shot.stale]


def test_a_picture_is_taken_after_each_step(studio: Studio, place: MacrosPlace) -> None:
    studio.push("trial-all")
    until(studio, lambda: len(shown(place)) == 4 and not place.trial.running)
    for index in range(4):
        shot = place.trial.shots[index]
        assert shot.picture is not None
        # What is written on the way is seen on the way, not only at the end.
        assert ink(shot.picture.toImage()) > 50, index
    assert ink(place.trial.first.toImage()) < 50
    assert "“Plain”: done." in studio.said


def test_pictures_show_what_was_written_after_a_question(studio: Studio, place: MacrosPlace) -> None:
    """The window holds its drawing back while a macro runs; a picture is taken all the same."""
    place.open(BOX)
    studio.push("trial-all")
    until(studio, lambda: place.trial.question is not None)
    place.trial.answer(["North sound"])
    until(studio, lambda: not place.trial.running)
    shots = [place.trial.shots[index] for index in shown(place)]
    assert len(shots) > 3
    assert all(shot.picture is not None and ink(shot.picture.toImage()) > 50 for shot in shots[1:])


def test_a_macro_of_messages_is_tried_on_a_mailbox_of_its_own(studio: Studio, place: MacrosPlace) -> None:
    place.open(("department.care", "late-running-reply"))
    studio.push("trial-all")
    until(studio, lambda: place.trial.question is not None)
    assert [prompt for prompt, _, _ in place.trial.question.questions] == [
        "Which sailing was late?", "Because of what?"
    ]  # fmt: skip
    place.trial.answer(["06:40", "fog"])
    until(studio, lambda: not place.trial.running)
    assert "“Late-running reply”: done." in studio.said
    last = place.trial.shots[max(place.trial.shots)]
    assert last.picture is not None
    assert ink(last.picture.toImage()) > 500


def test_step_by_step_and_to_the_chosen_one(studio: Studio, place: MacrosPlace) -> None:
    studio.push("trial-start")
    until(studio, lambda: place.trial.held == 5)
    assert shown(place) == []
    studio.push("trial-step")
    until(studio, lambda: place.trial.held == 6)
    assert shown(place) == [0]
    place.steps.choose((2,))
    studio.push("trial-here")
    until(studio, lambda: place.trial.held == 8)
    assert shown(place) == [0, 1, 2]
    studio.push("trial-step")
    until(studio, lambda: not place.trial.running)
    assert shown(place) == [0, 1, 2, 3]


def test_after_a_change_pictures_from_there_on_are_of_before(studio: Studio, place: MacrosPlace) -> None:
    studio.push("trial-all")
    until(studio, lambda: len(shown(place)) == 4 and not place.trial.running)
    studio.session.do(PutMacro("department.freight", "plain", PLAIN.replace("two", "three")))
    assert shown(place) == [0, 1]
    assert [frame.accessibleName() for frame in place.panel.frames][2:] == [
        "Step 3, before your change",
        "Step 4, before your change",
    ]
    studio.push("trial-all")
    until(studio, lambda: len(shown(place)) == 4 and not place.trial.running)


def test_the_step_that_fails_is_marked_with_its_reason(studio: Studio, place: MacrosPlace) -> None:
    studio.session.do(PutMacro("department.freight", "plain", PLAIN + "do add-row\n"))
    studio.push("trial-all")
    until(studio, lambda: not place.trial.running and bool(place.trial.sentence))
    failed = [shot.failed for _, shot in sorted(place.trial.shots.items())]
    assert failed[:4] == ["", "", "", ""]
    assert "works in a table only" in failed[4]
    assert "works in a table only" in place.panel._said.text()


def test_what_is_asked_is_answered_in_the_studio_once(studio: Studio, place: MacrosPlace) -> None:
    place.open(BOX)
    studio.push("trial-all")
    until(studio, lambda: place.trial.question is not None)
    field = studio.find("trial-questions").findChild(QComboBox)
    assert field is not None
    assert [field.itemText(index) for index in range(field.count())] == [
        "North sound",
        "South sound",
        "Open water",
    ]
    field.setCurrentText("South sound")
    studio.push("trial-answer")
    until(studio, lambda: not place.trial.running)
    assert len(shown(place)) == 8
    studio.push("trial-all")
    until(studio, lambda: not place.trial.running)
    assert place.trial.question is None


def test_cancelling_the_question_ends_the_trial_with_nothing_done(studio: Studio, place: MacrosPlace) -> None:
    place.open(BOX)
    studio.push("trial-all")
    until(studio, lambda: place.trial.question is not None)
    studio.push("trial-cancel")
    until(studio, lambda: "Cancelled: nothing was changed." in studio.said)
    assert shown(place) == []


def test_it_is_tried_on_a_copy_and_the_file_is_never_touched(
    studio: Studio, place: MacrosPlace, tmp_path: Path
) -> None:
    letter = tmp_path / "Letter.html"
    letter.write_text("<p>Already here.</p>")
    place.panel._take_document(str(letter))
    studio.session.do(PutMacro("department.freight", "plain", PLAIN + "do save\n"))
    studio.push("trial-start")
    until(studio, lambda: place.trial.held == 5)
    first = place.trial.first
    assert first is not None
    studio.push("trial-step")
    until(studio, lambda: place.trial.held == 6)
    assert letter.read_text() == "<p>Already here.</p>"


def test_an_application_that_ends_in_mid_trial_is_told(studio: Studio, place: MacrosPlace) -> None:
    studio.push("trial-start")
    until(studio, lambda: place.trial.held == 5)
    place.trial._scratch._process.kill()
    until(studio, lambda: not place.trial.running)
    assert "was closed. Try it again." in studio.said
    studio.push("trial-all")
    until(studio, lambda: len(shown(place)) == 4 and not place.trial.running)


def test_a_macro_of_a_maker_nobody_vouches_for_does_not_run_in_a_trial(
    studio: Studio, place: MacrosPlace
) -> None:
    text = studio.session.workspace.macros["department.freight", "plain"].text
    studio.session.do(PutMacro("department.freight", "plain", marked(text, "Somebody")))
    studio.push("trial-all")
    until(studio, lambda: not place.trial.running and bool(place.trial.sentence))
    assert "whom your organisation does not vouch for" in place.trial.sentence
    assert shown(place) == []


def test_its_pictures_follow_the_cursor(studio: Studio, place: MacrosPlace) -> None:
    lines = "repeat 60 times\n  do new-line\nend\n"
    studio.session.do(
        PutMacro("department.freight", "plain", f'macro "Plain"\nfor letters\n\n{lines}write "far below"\n')
    )
    studio.push("trial-all")
    until(studio, lambda: not place.trial.running)
    last = place.trial.shots[max(place.trial.shots)]
    assert last.picture is not None
    cut = cut_to(last.picture, PICTURE, last.spot)
    assert cut.contains(QRectF(last.spot))
    # The words stand just before the cursor: there is ink in that part of the picture.
    words = last.picture.toImage().copy(last.spot.adjusted(-40, 0, 0, 0))
    assert any(words.pixelColor(x, words.height() // 2).lightness() < 128 for x in range(words.width()))


@pytest.mark.parametrize(
    ("spot", "corner"),
    [((10, 20, 1, 16), (0, 0)), ((700, 500, 1, 16), (480, 398)), ((990, 680, 1, 16), (560, 480))],
)
def test_a_frame_shows_the_part_of_the_picture_where_the_step_was(
    qtbot: QtBot, spot: tuple[int, int, int, int], corner: tuple[int, int]
) -> None:
    cut = cut_to(QPixmap(1000, 700), QSize(440, 220), QRect(*spot))
    assert (round(cut.left()), round(cut.top())) == corner
    assert cut.contains(QRectF(QRect(*spot)))


def test_a_step_that_fails_is_named_by_the_number_that_the_list_shows(
    studio: Studio, place: MacrosPlace
) -> None:
    body = 'part "Head"\n  write "one"\n  # A remark\nend\n\ndo add-row\n'
    studio.session.do(PutMacro("department.freight", "plain", f'macro "Plain"\nfor letters\n\n{body}'))
    studio.push("trial-all")
    until(studio, lambda: not place.trial.running and bool(place.trial.sentence))
    assert [place.steps.item(row).data(NUMBER) for row in range(place.steps.count())] == [
        *("1", "2", ""),
        *("", "3"),
    ]
    assert place.trial.sentence.startswith("Step 3: ")
    assert place.panel._said.wordWrap()
    assert place.panel._said.height() >= place.panel._said.heightForWidth(place.panel._said.width())


def test_a_fault_is_named_by_number_beside_the_steps_and_shown_whole(
    studio: Studio, place: MacrosPlace
) -> None:
    studio.session.do(PutMacro("department.freight", "plain", PLAIN + "do embolded\n"))
    said = place.sheet.fault
    assert said.text().startswith("Step 5: ")
    assert said.text().endswith("Did you mean “embolden”?")
    assert said.height() >= said.heightForWidth(said.width())
    studio.push("show-text")
    assert said.text().startswith("line 9, column")


def test_enter_in_a_list_of_choices_goes_on(studio: Studio, place: MacrosPlace) -> None:
    place.open(BOX)
    studio.push("trial-all")
    until(studio, lambda: place.trial.question is not None)
    field = studio.find("trial-questions").findChild(QComboBox)
    assert field is not None
    field.setFocus()
    studio.press(Qt.Key.Key_Down)
    assert field.currentText() == "South sound"
    studio.press(Qt.Key.Key_Return)
    until(studio, lambda: not place.trial.running)
    assert len(shown(place)) == 8


def test_enter_twice_answers_once(studio: Studio, place: MacrosPlace) -> None:
    place.open(BOX)
    studio.push("trial-all")
    until(studio, lambda: place.trial.question is not None)
    place.trial.answer(["North sound"])
    place.trial.answer(["North sound"])
    until(studio, lambda: not place.trial.running)
    assert place.trial.sentence == ""


def test_another_application_is_not_tried_on_this_ones_file(
    studio: Studio, place: MacrosPlace, tmp_path: Path
) -> None:
    letter = tmp_path / "Letter.html"
    letter.write_text("<p>Already here.</p>")
    place.panel._take_document(str(letter))
    assert studio.find("trial-document").text() == "Letter.html"
    place.open(("department.freight", "next-overweight"))
    assert place.presenter.file().macro.application == "grid"
    assert place.trial.document == ""
    assert studio.find("trial-document").text() == "an empty document"
    place.open(("department.freight", "plain"))
    assert place.trial.document == str(letter)


def test_a_macro_that_is_run_is_one_step_of_the_trial(studio: Studio, place: MacrosPlace) -> None:
    inner = 'macro "Inner"\nfor letters\n\nwrite "a"\nwrite "b"\ndo add-row\n'
    studio.session.do(PutMacro("department.freight", "inner", inner))
    outer = 'macro "Plain"\nfor letters\n\nwrite "one"\nrun "inner"\nwrite "two"\n'
    studio.session.do(PutMacro("department.freight", "plain", outer))
    studio.push("trial-all")
    until(studio, lambda: not place.trial.running and bool(place.trial.sentence))
    assert place.trial.sentence.startswith("Step 2, in step 3 of “Inner”: ")
    assert [shot.failed != "" for _, shot in sorted(place.trial.shots.items())] == [False, True]
    studio.session.do(PutMacro("department.freight", "inner", inner.replace("do add-row\n", "")))
    place.steps.choose((1,))
    studio.push("trial-here")
    until(studio, lambda: place.trial.held == 6)
    assert shown(place) == [0, 1]


# Recording


def record(studio: Studio, place: MacrosPlace, words: str) -> Line:
    studio.push("macro-record")
    studio.choose(words)
    until(studio, lambda: bool(listening("letters")))
    line = Line(listening("letters")[0])
    until(studio, lambda: place.recording.button.text().startswith("■"))
    return line


def test_a_chore_becomes_a_button_with_a_key(studio: Studio, place: MacrosPlace) -> None:
    line = record(studio, place, "A scratch window of Letters")
    line.ask("perform", run="letters:insert-date")
    line.ask("perform", run="letters:embolden")
    until(studio, lambda: place.recording.button.text() == "■ Stop (2)")
    shelf = studio.window.findChild(Shelves)
    right = place.recording.button.mapTo(place, place.recording.button.rect().topRight()).x()
    assert right < shelf.mapTo(place, shelf.rect().topRight()).x()  # no wider than the shelf above it
    studio.push("macro-record")
    until(studio, lambda: place.recording.finish is not None)
    assert place.now == ("department.freight", "new-recording")
    assert place.presenter.file().text.endswith("do insert-date\ndo embolden on=yes\n")
    studio.push("finish-name")
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Dated line")
    studio.press(Qt.Key.Key_Return)
    assert [studio.find(f"finish-{name}").text() for name in ("name", "surface", "after", "key")] == [
        "Dated line",
        "Freight",
        "Numbered list",
        "none",
    ]
    studio.push("finish-key")
    second = place.recording.finish.offered[1]
    studio.choose(second)
    studio.push("finish-put")
    layout = read_workspace(studio.folder).layout("department.freight", "letters")
    assert [item.run for item in layout.all_items() if isinstance(item, Button)][-1] == "macro:dated-line"
    assert [key.keys for key in layout.keys if key.run == "macro:dated-line"] == [second]
    assert place.recording.finish is None
    studio.session.undo()
    assert studio.session.undo_label.startswith("macro")


def test_a_running_window_can_be_recorded_in(studio: Studio, place: MacrosPlace) -> None:
    studio.push("try-it")
    until(studio, lambda: bool(running_windows(("letters",))))
    line = record(studio, place, "“New letter” in Letters")
    line.ask("perform", run="letters:insert-rule")
    line.ask("record.stop")
    until(studio, lambda: place.recording.finish is not None)
    assert place.presenter.file().text.endswith("do insert-rule\n")
    studio.push("finish-later")
    assert place.recording.finish is None
    assert "New recording" in [row.text() for row in place.shelves._rows.values()]


def test_a_macro_goes_into_the_document_and_from_there_to_a_shelf(studio: Studio, place: MacrosPlace) -> None:
    studio.push("try-it")
    until(studio, lambda: bool(listening("letters")))
    line = Line(listening("letters")[0])
    until(studio, lambda: studio.desk.preview._scratch.listens)
    studio.push("macro-copy")
    studio.choose("The document being tried")
    until(studio, lambda: ("document", "plain") in place.shelves._rows)
    assert line.ask("document.macros") == {"plain": PLAIN}
    studio.push("macro document/plain")
    studio.choose("Move to Berth desk")
    assert place.now == ("department.berth", "plain-2")
    until(studio, lambda: ("document", "plain") not in place.shelves._rows)
    assert line.ask("document.macros") == {}
    assert ("department.berth", "plain-2") in read_workspace(studio.folder).macros
