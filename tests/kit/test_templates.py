"""Templates and text blocks: begun from, filled in on one form, kept, put in; by hand and by macro."""

from __future__ import annotations

import base64
from pathlib import Path

import pytest
from PyQt6.QtCore import QDate, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QComboBox, QDateEdit, QInputDialog, QLabel, QLineEdit

from rimecrest.core.errors import RimecrestError
from rimecrest.kit.documents.name_list import NameList
from rimecrest.kit.documents.template_shelf import TemplateShelf
from rimecrest.kit.macros.questions import LeaveQuestion, Question
from tests.programs import CTRL, Grid, Letters

NOTICE = (
    "<h1>Notice of [[Vessel: Ovessa, Brinholt, Quessel]]</h1><p>On [[Day: date]] she berths at "
    "<b>[[Berth = 2]]</b>, [[Vessel]].</p><ul><li>[[Beside: from documents]]</li></ul>"
)
FAREWELL = "<p>Kind regards,<br><b>Vessry Isles Ferries</b></p>"


@pytest.fixture
def shelf(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """The colleague's own folder of templates, empty."""
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    folder = tmp_path / "data" / "rimecrest" / "templates"
    folder.mkdir(parents=True)
    return folder


def lend(program: Letters | Grid, **files: str | bytes) -> None:
    """Have companions come with a release."""
    encoded = {
        name.replace("__", ".").replace("_", "-"): base64.b64encode(
            content.encode() if isinstance(content, str) else content
        ).decode()
        for name, content in files.items()
    }
    program.window.stack.use(program.window.stack.state.model_copy(update={"companions": encoded}))


def form(program: Letters | Grid) -> Question:
    program.qtbot.waitUntil(
        lambda: any(one.isVisible() for one in program.window.findChildren(Question, "template-fields"))
    )
    return next(one for one in program.window.findChildren(Question, "template-fields") if one.isVisible())


def test_a_template_that_came_along_is_begun_from_and_its_fields_asked_on_one_form(
    letters: Letters, shelf: Path
) -> None:
    lend(letters, berth_notice__html=NOTICE)
    assert letters.read("templates") == ["berth-notice"]
    letters.do("new-from-template", name="Berth-Notice")
    asked = form(letters)
    vessel, day, berth, beside = asked.fields
    assert isinstance(vessel, QComboBox)
    assert isinstance(day, QDateEdit)
    assert isinstance(berth, QLineEdit)
    assert (berth.text(), day.date()) == ("2", QDate.currentDate())
    assert isinstance(beside, QComboBox)
    # Tabbed through, from the first.
    QTest.keyClick(vessel, "b")
    QTest.keyClick(vessel, Qt.Key.Key_Tab)
    day.setDate(QDate(2026, 12, 1))
    berth.setFocus()
    QTest.keyClick(berth, Qt.Key.Key_A, CTRL)
    QTest.keyClick(berth, "7")
    QTest.keyClick(berth, Qt.Key.Key_Return)
    letters.qtbot.waitUntil(lambda: "Brinholt" in letters.text)
    assert "Notice of Brinholt" in letters.text
    assert "On 2026-12-01 she berths at 7, Brinholt." in letters.text
    assert "[[" not in letters.text
    assert letters.document.template == "berth-notice"
    assert letters.document.path is None
    # The answers look as the fields did, and are one step of undo.
    letters.choose(letters.text.index("7,"), letters.text.index("7,") + 1)
    assert letters.read("chosen.bold") == "yes"
    letters.do("undo")
    assert "[[Vessel" in letters.text


def test_given_up_the_fields_stay_and_can_be_filled_in_later(letters: Letters, shelf: Path) -> None:
    lend(letters, a__html="<p>[[Vessel]] [[Berth]]</p>")
    letters.do("new-from-template", name="a")
    QTest.keyClick(form(letters), Qt.Key.Key_Escape)
    QApplication.processEvents()
    assert letters.text == "[[Vessel]] [[Berth]]"
    assert letters.read("fields") == ["Vessel", "Berth"]
    letters.do("fill-fields", values="Berth=2; Vessel=Ovessa")
    assert letters.text == "Ovessa 2"
    with pytest.raises(RimecrestError, match="There is no field “Vessel” here"):
        letters.window.dispatcher.perform_or_raise("letters:fill-fields", {"values": "Vessel=x"})


def test_a_button_without_a_name_opens_the_list(letters: Letters, shelf: Path) -> None:
    lend(letters, a__html="<p>A</p>", b__html="<p>B</p>", c__block__html=FAREWELL)
    item = {"id": "t", "run": "letters:new-from-template", "label": "From a template"}
    letters.use({"toolbars": [{"id": "mine", "title": "Mine", "edge": "top", "items": [item]}]})
    lend(letters, a__html="<p>A</p>", b__html="<p>B</p>", c__block__html=FAREWELL)
    button = letters.window.frame.button("organisation:t")
    assert button is not None
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    letters.qtbot.waitUntil(lambda: bool(letters.window.findChildren(NameList)))
    chooser = letters.window.findChildren(NameList)[-1]
    assert [chooser.list.item(n).text() for n in range(chooser.list.count())] == ["a", "b"]
    QTest.keyClick(chooser.field, "b")
    QTest.keyClick(chooser.field, Qt.Key.Key_Return)
    letters.qtbot.waitUntil(lambda: letters.text == "B")


def test_a_macro_begins_from_a_template_and_fills_it_without_asking(letters: Letters, shelf: Path) -> None:
    text = (
        'macro "Berth"\nfor letters\n\ndo new-from-template name="a"\n'
        'do fill-fields values="Vessel=Ovessa; Berth=2"\nwrite "At once: "\n'
    )
    letters.use({}, berth=text)
    lend(letters, a__html="<p>[[Vessel]] at [[Berth]]</p>")
    assert letters.window.dispatcher.perform("macro:berth")
    letters.qtbot.waitUntil(lambda: letters.window.dispatcher.run is None)
    assert letters.text == "OvessaAt once:  at 2"
    assert not letters.window.findChildren(Question, "template-fields")


def test_what_is_not_there_is_told_with_what_is(letters: Letters, shelf: Path) -> None:
    with pytest.raises(RimecrestError, match="There is none at all yet"):
        letters.window.dispatcher.perform_or_raise("letters:new-from-template", {"name": "x"})
    lend(letters, a__html="<p>A</p>")
    with pytest.raises(RimecrestError, match="There are: “a”"):
        letters.window.dispatcher.perform_or_raise("letters:new-from-template", {"name": "x"})
    assert letters.text == ""


def test_one_of_ones_own_is_kept_and_begun_from(letters: Letters, shelf: Path) -> None:
    letters.type("Dear [[Name]]")
    letters.do("save-template", name="Greeting/../..")
    assert [path.name for path in shelf.iterdir()] == ["Greeting.....html"]
    letters.do("save-template", name="Greeting")
    assert "Greeting" in letters.read("templates")
    letters.do("new-from-template", name="greeting")
    asked = form(letters)
    QTest.keyClick(asked.fields[0], "A")
    QTest.keyClick(asked.fields[0], Qt.Key.Key_Return)
    letters.qtbot.waitUntil(lambda: letters.text == "Dear A")


def test_a_shared_macro_asks_before_it_writes_over_a_template_of_ones_own(
    letters: Letters, shelf: Path
) -> None:
    (shelf / "Mine.html").write_text("<p>mine</p>")
    letters.use({}, keep='macro "Keep"\nfor letters\n\nwrite "x"\ndo save-template name="Mine"\n')
    assert letters.window.dispatcher.perform("macro:keep")
    letters.qtbot.waitUntil(lambda: bool(letters.window.findChildren(LeaveQuestion)))
    question = letters.window.findChildren(LeaveQuestion)[-1]
    assert "Mine.html" in " ".join(label.text() for label in question.findChildren(QLabel))
    question.reject()
    letters.qtbot.waitUntil(lambda: letters.window.dispatcher.run is None)
    assert (shelf / "Mine.html").read_text() == "<p>mine</p>"


def test_a_template_without_a_name_is_asked_for(
    letters: Letters, shelf: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(QInputDialog, "getText", lambda *_args, **_known: ("Asked", True))
    letters.type("x")
    letters.do("save-template")
    assert (shelf / "Asked.html").is_file()
    monkeypatch.setattr(QInputDialog, "getText", lambda *_args, **_known: ("", False))
    letters.do("save-template")
    assert len(list(shelf.iterdir())) == 1


def test_a_text_block_goes_in_as_it_looks_in_a_body_and_in_a_note(letters: Letters, shelf: Path) -> None:
    lend(letters, farewell__block__html=FAREWELL)
    assert (letters.read("templates"), letters.read("text-blocks")) == ([], ["farewell"])
    letters.type("Dear all")
    letters.do("insert-block", name="farewell")
    assert letters.text.endswith("Vessry Isles Ferries")
    at = letters.text.index("Vessry")
    letters.choose(at, at + 6)
    assert letters.read("chosen.bold") == "yes"
    letters.do("undo")
    assert letters.text == "Dear all"
    letters.do("insert-note")
    letters.do("insert-block", name="farewell")
    assert letters.document.note() is not None
    assert "Vessry" in letters.text


def test_chosen_words_are_kept_as_a_block(letters: Letters, shelf: Path) -> None:
    letters.type("Mind the gap")
    letters.choose(0, 4)
    letters.do("embolden")
    letters.do("save-block", name="Mind")
    assert (shelf / "Mind.block.html").is_file()
    letters.choose(12, 12)
    letters.do("insert-block", name="mind")
    assert letters.text == "Mind the gapMind"
    letters.choose(12, 12)
    with pytest.raises(RimecrestError, match="Nothing is chosen"):
        letters.window.dispatcher.perform_or_raise("letters:save-block", {"name": "x"})


def test_grid_fills_its_cells_and_takes_a_block_into_one(grid: Grid, shelf: Path) -> None:
    grid.fill("[[Vessel]]\tLane:[[Lane=N]]\n=1+1\t[[Vessel]]")
    grid.do("save-template", name="Lanes")
    grid.do("new-from-template", name="lanes")
    asked = form(grid)
    assert len(asked.fields) == 2
    QTest.keyClicks(asked.fields[0], "Ovessa")
    QTest.keyClick(asked.fields[0], Qt.Key.Key_Return)
    grid.qtbot.waitUntil(lambda: grid.read("fields") == [])
    grid.go("B1")
    assert grid.read("here.value") == "Lane:N"
    grid.go("B2")
    assert grid.read("here.value") == "Ovessa"
    lend(grid, farewell__block__html=FAREWELL)
    grid.go("C5")
    grid.do("insert-block", name="farewell")
    assert "Vessry Isles Ferries" in grid.read("here.value")
    grid.do("undo")
    assert grid.read("here.value") == ""


def test_a_shelf_leaves_out_what_is_no_file_and_ones_own_goes_first(tmp_path: Path) -> None:
    lent, own = tmp_path / "lent", tmp_path / "own"
    (own / "templates" / "x.html").mkdir(parents=True)
    lent.mkdir()
    (lent / "a.html").write_text("lent")
    (lent / ".b.html").write_text("hidden")
    (lent / "c.ods").write_bytes(b"")
    (own / "templates" / "a.html").write_text("own")
    assert TemplateShelf(lent, own, ".html").templates() == {"a": own / "templates" / "a.html"}
