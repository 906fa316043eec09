"""Letters' commands do what their declarations say."""

from __future__ import annotations

import html
from pathlib import Path

import pytest
from PyQt6.QtCore import QMimeData, Qt, QTimer
from PyQt6.QtGui import QFont, QTextBlockFormat
from PyQt6.QtWidgets import QApplication, QDialog, QInputDialog, QMessageBox

from rimecrest.core.catalogue.catalogue import Effect, parse_catalogue
from rimecrest.core.catalogue.items import Button
from rimecrest.core.keys.chords import extends, parse_sequence
from rimecrest.core.model import dump_record
from rimecrest.core.paths import clean_path
from rimecrest.core.release.pictures import freeze
from rimecrest.kit.macros.questions import Question
from rimecrest_standins.letters.letters import declarations
from tests.programs import CTRL, SHIFT, Letters


def test_the_catalogue_is_written_from_the_declarations_and_read_back() -> None:
    catalogue = declarations.catalogue()
    assert parse_catalogue(dump_record(catalogue, "catalogue"), "it") == catalogue
    assert len(catalogue.commands) >= 30
    bold = catalogue.by_id["letters:embolden"]
    assert (bold.name, bold.context, bold.effects) == ("Bold", "writing", (Effect.EDITS,))
    assert [(a.name, a.type.value, a.default) for a in bold.arguments] == [("on", "switch", "flip")]
    size = catalogue.by_id["letters:set-size"].arguments[0]
    assert (size.type.value, size.least, size.most) == ("number", 6, 96)


def test_every_command_has_a_purpose_and_every_picture_exists() -> None:
    for command in declarations.catalogue().commands:
        assert command.about, command.id
        if command.picture:
            assert freeze(command.picture.removeprefix("set:")), command.id


def test_every_item_of_the_own_surfaces_runs_a_command_without_settings() -> None:
    catalogue = declarations.catalogue()
    items = [item for row in catalogue.rows() for item in row.items]
    for item in (item for item in items if isinstance(item, Button)):
        assert catalogue.by_id[item.run].argument_faults(item.args) == []


def test_no_own_key_is_hidden_by_another_of_the_same_context() -> None:
    keys = declarations.catalogue().keys
    for one in keys:
        for other in keys:
            if one is not other and one.context == other.context:
                assert not extends(parse_sequence(one.keys), parse_sequence(other.keys)), (one, other)


def test_the_everyday_set_has_its_usual_keys() -> None:
    catalogue = declarations.catalogue()
    everyday = {command.verb for command in catalogue.commands if command.everyday}
    assert everyday == {
        *("copy", "cut", "paste", "undo", "redo", "save", "open", "new", "print", "find"),
        *("select-all", "close", "quit", "help"),
    }
    assert {own.run for own in catalogue.keys} >= {f"letters:{verb}" for verb in everyday}


@pytest.mark.parametrize(
    ("verb", "seen"),
    [
        ("embolden", lambda f: f.fontWeight() >= QFont.Weight.Bold),
        ("slant", lambda f: f.fontItalic()),
        ("underline", lambda f: f.fontUnderline()),
        ("strike-out", lambda f: f.fontStrikeOut()),
        ("superscript", lambda f: f.verticalAlignment() == f.VerticalAlignment.AlignSuperScript),
        ("subscript", lambda f: f.verticalAlignment() == f.VerticalAlignment.AlignSubScript),
    ],
)
def test_a_look_is_reached_not_only_turned_over(letters: Letters, verb: str, seen: object) -> None:
    assert callable(seen)
    letters.type("word")
    letters.do("select-word")
    for on, expected in (("yes", True), ("yes", True), ("no", False), ("flip", True), ("flip", False)):
        letters.do(verb, on=on)
        assert seen(letters.document.cursor().charFormat()) is expected
    letters.do(verb)
    assert seen(letters.document.cursor().charFormat())


def test_a_look_without_chosen_words_counts_for_what_is_written_next(letters: Letters) -> None:
    letters.type("a")
    letters.press(Qt.Key.Key_B, CTRL)
    letters.type("b")
    letters.press(Qt.Key.Key_B, CTRL)
    letters.type("c")
    weights = []
    for position in (1, 2, 3):
        cursor = letters.document.cursor()
        cursor.setPosition(position)
        weights.append(cursor.charFormat().fontWeight() >= QFont.Weight.Bold)
    assert weights == [False, True, False]


def test_sizes_grow_shrink_and_stay_within_their_bounds(letters: Letters) -> None:
    letters.type("x")
    letters.do("select-all")
    letters.do("set-size", to="20")
    letters.do("enlarge")
    assert letters.document.cursor().charFormat().fontPointSize() == 22
    letters.do("shrink")
    letters.do("shrink")
    assert letters.document.cursor().charFormat().fontPointSize() == 18
    assert not letters.do("set-size", to="500")
    assert "lies from 6 to 96" in letters.said


def test_colours_marks_and_clearing(letters: Letters) -> None:
    letters.type("x")
    letters.do("select-all")
    letters.do("colour-words", to="#B3213B")
    letters.do("highlight")
    look = letters.document.cursor().charFormat()
    assert look.foreground().color().name() == "#b3213b"
    assert look.background().color().name() == "#fff1a8"
    assert not letters.do("colour-words", to="red")
    letters.do("remove-formatting")
    assert letters.document.cursor().charFormat().background().style() == Qt.BrushStyle.NoBrush


def test_paragraphs_align_step_and_have_styles(letters: Letters) -> None:
    letters.type("Title")
    letters.do("style-paragraph", to="heading")
    assert letters.window.executor.read("headings") == ["Title"]
    letters.press(Qt.Key.Key_Return)
    letters.type("text")
    assert letters.window.executor.read("headings") == ["Title"]
    letters.do("align-paragraph", to="right")
    letters.do("indent-more")
    letters.do("line-spacing", to="200")
    block: QTextBlockFormat = letters.document.cursor().blockFormat()
    assert block.alignment() & Qt.AlignmentFlag.AlignRight
    assert (block.indent(), block.lineHeight()) == (1, 200)
    letters.do("indent-less")
    letters.do("indent-less")
    assert letters.document.cursor().blockFormat().indent() == 0
    letters.do("go-to-heading", name="Title")
    assert letters.window.executor.read("here.paragraph") == "Title"
    assert not letters.do("go-to-heading", name="None")


def test_lists_turn_on_and_off(letters: Letters) -> None:
    letters.type("one")
    letters.do("bulleted-list")
    assert letters.document.cursor().currentList() is not None
    letters.do("numbered-list")
    letters.do("numbered-list")
    assert letters.document.cursor().currentList() is None
    letters.do("bulleted-list")
    letters.press(Qt.Key.Key_Home)
    letters.press(Qt.Key.Key_Backspace)
    assert letters.document.cursor().currentList() is None
    assert letters.text == "one"


def test_taking_away_letters_and_words(letters: Letters) -> None:
    letters.type("one two three")
    letters.press(Qt.Key.Key_Backspace)
    assert letters.text == "one two thre"
    letters.press(Qt.Key.Key_Backspace, CTRL)
    assert letters.text == "one two "
    letters.press(Qt.Key.Key_Home)
    letters.press(Qt.Key.Key_Delete)
    assert letters.text == "ne two "
    letters.press(Qt.Key.Key_Delete, CTRL)
    assert letters.text == "two "


def test_copy_cut_and_paste_with_and_without_the_look(letters: Letters) -> None:
    letters.type("bold")
    letters.do("select-all")
    letters.do("embolden", on="yes")
    letters.press(Qt.Key.Key_X, CTRL)
    assert letters.text == ""
    letters.press(Qt.Key.Key_V, CTRL)
    assert letters.text == "bold"
    letters.do("select-word")
    assert letters.window.executor.read("chosen.bold") == "yes"
    letters.press(Qt.Key.Key_C, CTRL)
    letters.do("new")
    assert letters.do("remove-formatting")
    letters.press(Qt.Key.Key_V, CTRL, SHIFT)
    assert letters.text.endswith("bold")
    QApplication.clipboard().setMimeData(QMimeData())
    assert not letters.do("paste")
    assert letters.said.startswith("There is no text to paste.")


@pytest.fixture(autouse=True)
def never_ask(monkeypatch: pytest.MonkeyPatch) -> None:
    """Unsaved changes are left behind, but where a test says otherwise."""
    monkeypatch.setattr("rimecrest_standins.letters.document.LetterDocument.may_close", lambda self: True)


def test_nothing_chosen_cannot_be_copied(letters: Letters) -> None:
    assert not letters.do("copy")
    assert letters.said.startswith("Nothing is chosen.")


def test_capitals_keep_the_look_of_each_letter(letters: Letters) -> None:
    letters.window.dispatcher.write("straße")
    letters.choose(0, 2)
    letters.do("embolden", on="yes")
    letters.choose(0, 6)
    letters.do("capitals")
    assert letters.text == "STRAßE"
    cursor = letters.document.cursor()
    cursor.setPosition(1)
    assert cursor.charFormat().fontWeight() >= QFont.Weight.Bold
    letters.do("small-letters")
    assert letters.text == "straße"


def test_a_table_grows_shrinks_and_goes(letters: Letters) -> None:
    letters.do("insert-table", rows="2", columns="2")
    table = letters.document.table()
    assert (table.rows(), table.columns()) == (2, 2)
    assert letters.document.innermost() == ("table",)
    letters.press(Qt.Key.Key_Tab)
    letters.press(Qt.Key.Key_Tab)
    letters.press(Qt.Key.Key_Tab)
    letters.press(Qt.Key.Key_Tab)
    assert table.rows() == 3
    letters.press(Qt.Key.Key_Tab, SHIFT)
    letters.do("add-row")
    letters.do("add-column")
    assert (table.rows(), table.columns()) == (4, 3)
    letters.do("delete-row")
    letters.do("delete-column")
    assert (table.rows(), table.columns()) == (3, 2)
    letters.do("delete-table")
    assert letters.document.table() is None
    assert not letters.do("add-row")
    assert "works in a table only" in letters.said


def test_tab_in_text_writes_a_tab(letters: Letters) -> None:
    letters.type("a")
    letters.press(Qt.Key.Key_Tab)
    letters.type("b")
    assert letters.text == "a\tb"


def test_a_note_is_a_context_of_its_own(letters: Letters) -> None:
    letters.type("text")
    letters.do("insert-note")
    assert letters.document.innermost() == ("note",)
    letters.type("remark")
    letters.press(Qt.Key.Key_Escape)
    assert letters.document.innermost() == ("writing",)
    letters.type("more")
    assert "remark" in letters.text
    letters.do("go-to-end")
    letters.press(Qt.Key.Key_Z, CTRL)
    letters.press(Qt.Key.Key_Z, CTRL)
    letters.press(Qt.Key.Key_Z, CTRL)
    assert letters.text == "text"


def test_a_note_can_be_taken_away(letters: Letters) -> None:
    letters.type("text")
    letters.do("insert-note")
    letters.type("remark")
    letters.do("delete-note")
    assert "remark" not in letters.text
    assert letters.document.note() is None


def test_dates_rules_and_links(letters: Letters) -> None:
    letters.do("insert-date")
    assert "20" in letters.text
    letters.do("insert-rule")
    letters.do("insert-link", to=' "https://example.org" ')
    assert 'href="https://example.org"' in letters.html
    letters.do("new-line")
    letters.type("x")
    assert not letters.do("follow-link")
    assert "There is no link here" in letters.said


def test_finding_goes_round_and_says_when_there_is_nothing(letters: Letters) -> None:
    letters.type("one two one")
    letters.do("find", text="one")
    assert letters.document.cursor().selectionStart() == 0
    letters.press(Qt.Key.Key_F4)
    assert letters.document.cursor().selectionStart() == 8
    letters.press(Qt.Key.Key_F4, SHIFT)
    assert letters.document.cursor().selectionStart() == 0
    assert not letters.do("find", text="three")
    assert "“three” is not in this letter." in letters.said


def test_replacing_is_one_undo_and_does_not_chase_its_own_words(letters: Letters) -> None:
    letters.type("a b a")
    assert letters.do("replace", text="a", by="aa")
    assert letters.text == "aa b aa"
    letters.press(Qt.Key.Key_Z, CTRL)
    assert letters.text == "a b a"


def test_find_asks_for_the_words(letters: Letters) -> None:
    letters.type("here")

    def answer() -> None:
        dialog = QApplication.activeModalWidget()
        assert isinstance(dialog, QInputDialog)
        dialog.setTextValue("here")
        dialog.accept()

    QTimer.singleShot(0, answer)
    letters.do("find")
    assert letters.window.executor.read("chosen.text") == "here"


def test_help_lists_every_command(letters: Letters) -> None:
    letters.press(Qt.Key.Key_F1)
    dialog = letters.window.findChild(QDialog)
    text = dialog.findChildren(type(letters.document.widget).__mro__[1])[0].toPlainText()
    assert all(command.name in text for command in declarations.catalogue().commands)
    dialog.close()


def test_readings_tell_what_is_chosen_and_how_much_there_is(letters: Letters) -> None:
    letters.type("Dear reader of this")
    letters.choose(5, 14)
    read = letters.window.executor.read
    assert (read("chosen.text"), read("chosen.words")) == ("reader of", 2)
    assert (read("letter.words"), read("letter.name"), read("here.word")) == (4, "", "of")
    assert read("today.weekday").endswith("day")
    assert len(read("today.date")) == 10


def test_a_letter_is_saved_and_opened_as_html_with_tables_and_notes(letters: Letters, tmp_path: Path) -> None:
    letters.type("Heading")
    letters.do("style-paragraph", to="heading")
    letters.press(Qt.Key.Key_Return)
    letters.type("Some ")
    letters.press(Qt.Key.Key_B, CTRL)
    letters.type("bold")
    letters.do("insert-table", rows="1", columns="2")
    letters.type("cell")
    letters.do("go-to-end")
    letters.do("insert-note")
    letters.type("remark")
    path = tmp_path / "letter.html"
    assert letters.do("save-as", path=str(path))
    before = letters.text
    assert not letters.document.widget.document().isModified()
    letters.do("new")
    assert letters.text == ""
    assert letters.do("open", path=f'"{path}"')
    assert letters.text == before
    assert letters.window.executor.read("headings") == ["Heading"]
    assert "font-weight" in letters.html
    assert letters.window.windowTitle() == "letter · Letters"
    letters.do("find", text="remark")
    assert letters.document.innermost() == ("note",)
    letters.do("find", text="cell")
    assert letters.document.innermost() == ("table",)
    letters.type("changed")
    letters.press(Qt.Key.Key_S, CTRL)
    assert "changed" in path.read_text()


@pytest.mark.parametrize(
    ("make", "says"),
    [
        (lambda p: None, "cannot be opened: No such file"),
        (lambda p: p.mkdir(), "is a folder, not a letter"),
        (lambda p: p.write_bytes(b"\xff\xfe\xff"), "is not UTF-8 text"),
    ],
)
def test_a_file_that_cannot_be_opened_leaves_the_letter(
    letters: Letters, tmp_path: Path, make: object, says: str
) -> None:
    assert callable(make)
    letters.type("mine")
    path = tmp_path / "x.html"
    make(path)
    assert not letters.do("open", path=str(path))
    assert says in letters.said
    assert letters.text == "mine"


def test_a_letter_that_cannot_be_saved_stays_unsaved(letters: Letters, tmp_path: Path) -> None:
    letters.type("mine")
    (tmp_path / "file").write_text("")
    assert not letters.do("save-as", path=str(tmp_path / "file" / "x.html"))
    assert "cannot be written" in letters.said
    assert letters.document.widget.document().isModified()


def test_a_pdf_is_made(letters: Letters, tmp_path: Path) -> None:
    letters.type("Notice")
    assert letters.do("make-pdf", path=str(tmp_path / "x.pdf"))
    assert (tmp_path / "x.pdf").read_bytes().startswith(b"%PDF")
    assert not letters.do("make-pdf", path=str(tmp_path / "none" / "x.pdf"))


@pytest.mark.parametrize(
    ("written", "meant"),
    [('"/a b/c.html"', "/a b/c.html"), ("file:///a/c.html", "/a/c.html"), ("  /a/c.html ", "/a/c.html")],
)
def test_paths_are_cleaned_of_what_comes_along_with_a_paste(written: str, meant: str) -> None:
    assert clean_path(Path(written)) == Path(meant)


class TestUnsaved:
    """Closing with unsaved changes asks, with three answers."""

    @pytest.fixture(autouse=True)
    def never_ask(self) -> None:
        """Here it asks."""

    def answer(self, words: str) -> None:
        box = QApplication.activeModalWidget()
        assert isinstance(box, QMessageBox)
        next(button for button in box.buttons() if button.text() == words).click()

    def test_stay(self, letters: Letters) -> None:
        letters.type("mine")
        QTimer.singleShot(0, lambda: self.answer("Stay here"))
        letters.do("close")
        assert letters.text == "mine"

    def test_leave(self, letters: Letters) -> None:
        letters.type("mine")
        QTimer.singleShot(0, lambda: self.answer("Discard"))
        letters.do("close")
        assert letters.text == ""

    def test_save(self, letters: Letters, tmp_path: Path) -> None:
        letters.type("mine")
        letters.document.path = tmp_path / "x.html"
        QTimer.singleShot(0, lambda: self.answer("Save"))
        letters.do("close")
        assert letters.text == ""
        assert html.unescape((tmp_path / "x.html").read_text()).count("mine") == 1

    def test_closing_the_window_asks_too(self, letters: Letters) -> None:
        letters.type("mine")
        QTimer.singleShot(0, lambda: self.answer("Stay here"))
        assert not letters.window.close()
        assert letters.window.isVisible()


@pytest.mark.parametrize("end", ["stop", "cancel"])
def test_a_run_that_is_stopped_or_cancelled_leaves_cursor_selection_and_scroll(
    letters: Letters, end: str
) -> None:
    letters.window.dispatcher.write("\n".join(f"Line {number}" for number in range(200)))
    letters.choose(900, 910)
    bar = letters.document.widget.verticalScrollBar()
    bar.setValue(bar.maximum() // 2)
    before = (bar.value(), letters.document.place())
    body = 'do go-to-start\nwrite "x"\nask name "Who?"'
    letters.run(body, wait=False)
    letters.qtbot.waitUntil(lambda: letters.window.findChild(Question) is not None)
    question = letters.window.findChild(Question)
    if end == "stop":
        letters.window.dispatcher.stop_run()
    else:
        question.reject()
    letters.qtbot.waitUntil(lambda: letters.window.dispatcher.run is None)
    assert letters.text.startswith("Line 0\n")
    assert (bar.value(), letters.document.place()) == before


def test_what_is_typed_after_undo_and_redo_is_an_entry_of_its_own(letters: Letters) -> None:
    letters.type("ab")
    letters.do("undo")
    letters.do("redo")
    letters.type("c")
    assert letters.text == "abc"
    letters.do("undo")
    assert letters.text == "ab"
