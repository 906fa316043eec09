"""Letters' parts beyond single words: looks that are sought, pages, headings, places, other files."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtGui import QTextCursor, QTextFormat
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QComboBox, QDialogButtonBox

from rimecrest_standins.formatted_text.looks import parse_look, runs
from rimecrest_standins.letters.look_dialog import LookDialog
from tests.programs import Letters


@pytest.fixture
def headed(letters: Letters) -> Letters:
    """A letter with two headings of two levels and text beneath each."""
    for style, words in (
        ("heading", "North quay"),
        ("text", "High at six."),
        ("subheading", "Fish quay"),
        ("text", "High at seven."),
    ):
        letters.do("style-paragraph", to=style)
        letters.window.dispatcher.write(words)
        letters.do("new-line")
    letters.do("go-to-start")
    return letters


def chosen(letters: Letters) -> str:
    return str(letters.read("chosen.text"))


def look(letters: Letters, words: str, verb: str, **args: str) -> None:
    start = letters.text.index(words)
    letters.choose(start, start + len(words))
    letters.do(verb, **args)


@pytest.mark.parametrize(
    ("verb", "args", "seen"),
    [
        ("embolden", {"on": "yes"}, "bold"),
        ("slant", {"on": "yes"}, "slanted"),
        ("underline", {"on": "yes"}, "underlined"),
        ("strike-out", {"on": "yes"}, "struck-out"),
        ("highlight", {}, "marked"),
        ("insert-link", {"to": "https://quay.example"}, "linked"),
    ],
)
def test_words_are_found_by_their_look(letters: Letters, verb: str, args: dict[str, str], seen: str) -> None:
    letters.window.dispatcher.write("Brinholt sails at six, Quessel at seven.")
    look(letters, "six", verb, **args)
    look(letters, "Quessel", verb, **args)
    letters.do("go-to-start")
    letters.do("find-formatting", look=seen)
    assert chosen(letters) == "six"
    letters.do("find-formatting", look=seen)
    assert chosen(letters) == "Quessel"
    letters.do("find-formatting", look=seen)
    assert chosen(letters) == "six"


def test_a_look_is_replaced_in_the_whole_letter_and_undone_at_once(letters: Letters) -> None:
    letters.window.dispatcher.write("one two three")
    look(letters, "one", "embolden", on="yes")
    look(letters, "three", "embolden", on="yes")
    before = letters.html
    letters.do("replace-formatting", look="bold", by="marked, not bold")
    assert not letters.do("find-formatting", look="bold")
    assert "No words in this letter are bold" in letters.said
    letters.do("go-to-start")
    letters.do("find-formatting", look="marked")
    assert chosen(letters) == "one"
    letters.do("undo")
    assert letters.html == before


def fragments(letters: Letters) -> list[tuple[str, list[str]]]:
    """The words of the letter by their look, each with what they are."""
    found = []
    document = letters.window.document.widget.document()
    for name in ("bold", "underlined", "linked", "colour #14657a", "the usual colour"):
        for start, end in runs(document, parse_look(name)):
            cursor = QTextCursor(document)
            cursor.setPosition(start)
            cursor.setPosition(end, QTextCursor.MoveMode.KeepAnchor)
            found.append((cursor.selectedText(), name))
    words = dict.fromkeys(text for text, _ in found)
    return [(text, [name for known, name in found if known == text]) for text in words]


def test_what_is_named_is_changed_in_one_go_and_the_rest_stays(letters: Letters) -> None:
    letters.window.dispatcher.write("six and Quessel")
    for verb, args in (("embolden", {"on": "yes"}), ("underline", {"on": "yes"})):
        look(letters, "six", verb, **args)
    look(letters, "Quessel", "insert-link", to="https://quay.example")
    letters.do("replace-formatting", look="underlined", by="not underlined")
    assert fragments(letters)[0] == ("six", ["bold"])
    letters.do("replace-formatting", look="linked", by="no link, the usual colour")
    assert "https://quay.example" not in letters.html
    assert letters.read("replaced") == 1
    letters.do("undo")
    assert "https://quay.example" in letters.html


def test_a_look_of_several_properties_is_looked_for_and_made(letters: Letters) -> None:
    letters.window.dispatcher.write("one two three")
    look(letters, "one", "embolden", on="yes")
    look(letters, "two", "embolden", on="yes")
    look(letters, "two", "slant", on="yes")
    letters.do("replace-formatting", look="bold, not slanted", by="not bold, colour #14657A, 14 pt")
    assert fragments(letters)[0] == ("two", ["bold"])
    assert ("one", ["colour #14657a"]) in fragments(letters)
    letters.do("go-to-start")
    letters.do("find-formatting", look="14 pt")
    assert chosen(letters) == "one"
    letters.do("replace-formatting", look="14 pt", by="plain")
    assert not letters.do("find-formatting", look="14 pt")


def test_one_place_is_changed_after_another_and_no_match_is_a_result(letters: Letters) -> None:
    letters.window.dispatcher.write("one two three")
    look(letters, "one", "embolden", on="yes")
    look(letters, "three", "embolden", on="yes")
    letters.do("go-to-start")
    for word in ("one", "three"):
        letters.do("replace-formatting", look="bold", by="slanted", where="next")
        assert (chosen(letters), letters.read("replaced")) == (word, 1)
    assert letters.do("replace-formatting", look="bold", by="slanted", where="next")
    assert letters.read("replaced") == 0
    assert "nothing is changed" in letters.said
    letters.do("replace-formatting", look="bold", by="not bold", where="this")
    letters.do("go-to-start")
    letters.do("find-formatting", look="bold")
    assert chosen(letters) == "one"
    assert letters.do("replace", text="ninety", by="x")
    assert letters.read("replaced") == 0


def test_no_match_does_not_end_a_macro(letters: Letters) -> None:
    letters.run('do replace-formatting look="linked" by="no link"\nwrite "{replaced} links"')
    assert letters.text == "0 links"


@pytest.mark.parametrize(
    ("look_for", "by", "says"),
    [
        ("blod", "bold", "Did you mean “bold”"),
        ("bold", "linked", "Link gives words an address"),
        ("bold", ", ,", "No look is named"),
        ("200 pt", "bold", "is no look of words"),
    ],
)
def test_a_look_that_is_none_is_refused(letters: Letters, look_for: str, by: str, says: str) -> None:
    letters.window.dispatcher.write("one")
    assert not letters.do("replace-formatting", look=look_for, by=by)
    assert says in letters.said


@pytest.mark.parametrize("verb", ["find-formatting", 'replace-formatting look="bold"'])
def test_a_macro_is_never_asked_for_a_look(letters: Letters, verb: str) -> None:
    letters.window.dispatcher.write("one")
    assert "No look is named" in letters.run(f"do {verb}")
    assert QApplication.activeModalWidget() is None


def test_a_link_is_removed_with_its_look(letters: Letters) -> None:
    letters.window.dispatcher.write("one two three")
    look(letters, "two", "insert-link", to="https://quay.example")
    look(letters, "two", "embolden", on="yes")
    letters.do("go-to-start")
    assert not letters.do("remove-link")
    assert "no link here" in letters.said
    letters.do("find-formatting", look="linked")
    letters.do("remove-link")
    assert "https://quay.example" not in letters.html
    assert ("two", ["bold"]) in fragments(letters)
    assert not letters.do("find-formatting", look="underlined")


def test_sizes_are_points_and_the_usual_one_is_that_of_the_paragraph(letters: Letters) -> None:
    letters.window.dispatcher.write("Fish quay")
    letters.do("style-paragraph", to="heading")
    letters.do("select-all")
    letters.do("set-size", to="9.5")
    letters.do("find-formatting", look="9.5 pt")
    assert "font-size:9.5pt" in letters.html
    letters.do("replace-formatting", look="9.5 pt", by="the usual size")
    assert "font-size:18pt" in letters.html
    letters.do("enlarge")
    assert "font-size:20pt" in letters.html


def test_looks_are_asked_in_one_dialog(letters: Letters) -> None:
    letters.window.dispatcher.write("one two")
    look(letters, "one", "embolden", on="yes")

    def fill() -> None:
        dialog = QApplication.activeModalWidget()
        assert isinstance(dialog, LookDialog)
        sought, made = dialog.findChildren(QComboBox, "look-bold")
        ok = dialog.findChild(QDialogButtonBox).button(QDialogButtonBox.StandardButton.Ok)
        assert not ok.isEnabled()
        QTest.keyClick(sought, Qt.Key.Key_Down)
        QTest.keyClick(made, Qt.Key.Key_Down)
        QTest.keyClick(made, Qt.Key.Key_Down)
        assert (dialog.sought(), dialog.made()) == ("bold", "not bold")
        size = dialog.findChildren(QComboBox, "look-size")[1]
        size.setFocus()
        size.lineEdit().selectAll()
        QTest.keyClicks(size, "300 pt")
        assert not ok.isEnabled()
        size.lineEdit().selectAll()
        QTest.keyClicks(size, "12 pt")
        QTest.mouseClick(ok, Qt.MouseButton.LeftButton)

    QTimer.singleShot(0, fill)
    assert letters.window.dispatcher.perform("letters:replace-formatting", by_hand=True)
    letters.do("find-formatting", look="12 pt, not bold")
    assert chosen(letters) == "one"


def test_pages_and_parts_begin_where_they_are_told_to(headed: Letters) -> None:
    headed.do("go-to-heading", name="Fish quay")
    headed.do("break-page")
    always = QTextFormat.PageBreakFlag.PageBreak_AlwaysBefore
    assert headed.document.cursor().blockFormat().pageBreakPolicy() & always
    headed.do("join-pages")
    assert not headed.document.cursor().blockFormat().pageBreakPolicy() & always
    headed.do("break-section")
    assert "<hr" in headed.html
    assert headed.document.cursor().blockFormat().pageBreakPolicy() & always


def test_a_page_break_in_a_paragraph_parts_it(letters: Letters) -> None:
    letters.window.dispatcher.write("onetwo")
    letters.choose(3, 3)
    letters.do("break-page")
    assert letters.text == "one\ntwo"


def test_headings_are_listed_by_level_and_gone_to_one_by_one(headed: Letters) -> None:
    headed.do("go-to-end")
    headed.do("list-headings")
    assert headed.text.endswith("North quay\nFish quay\n")
    assert headed.read("headings") == ["North quay", "Fish quay"]
    headed.do("go-to-start")
    headed.do("go-to-next-heading")
    assert headed.read("here.paragraph") == "Fish quay"
    assert not headed.do("go-to-next-heading")


def test_a_letter_without_headings_has_none_to_list(letters: Letters) -> None:
    letters.type("plain")
    assert not letters.do("list-headings")
    assert "has no headings" in letters.said


def test_places_get_names_that_outlive_saving(headed: Letters, tmp_path: Path) -> None:
    look(headed, "seven", "name-place", name="late tide")
    assert headed.read("places") == ["late tide"]
    path = tmp_path / "tides.html"
    headed.do("save-as", path=str(path))
    headed.do("close")
    headed.do("open", path=str(path), heading="Fish quay")
    assert headed.read("here.paragraph") == "Fish quay"
    headed.do("go-to-place", name="late tide")
    assert headed.read("here.word") == "seven"
    assert not headed.do("go-to-place", name="early tide")
    assert "It has: “late tide”." in headed.said


def test_a_place_needs_a_word_to_hang_on(letters: Letters) -> None:
    assert not letters.do("name-place", name="x")
    assert "no word here" in letters.said


def test_the_text_of_a_file_comes_in_as_it_looks(letters: Letters, tmp_path: Path) -> None:
    path = tmp_path / "block.html"
    path.write_text("<p>Stow on the <b>open</b> deck.</p>")
    letters.type("Lanes. ")
    letters.do("insert-file", path=f"file://{path}")
    assert "Stow on the open deck." in letters.text
    letters.do("go-to-start")
    letters.do("find-formatting", look="bold")
    assert chosen(letters) == "open"
    letters.do("undo")
    assert letters.text == "Lanes. "
    assert not letters.do("insert-file", path=str(tmp_path / "none.html"))


@pytest.mark.parametrize(
    ("verb", "args", "place"),
    [
        ("go-words", {"by": "2"}, 11),
        ("go-words", {"by": "-1"}, 0),
        ("go-characters", {"by": "3"}, 6),
        ("go-characters", {"by": "-99"}, 0),
        ("go-to-paragraph-end", {}, 15),
        ("go-paragraphs", {"by": "1"}, 16),
    ],
)
def test_the_cursor_goes_by_what_is_counted(
    letters: Letters, verb: str, args: dict[str, str], place: int
) -> None:
    letters.window.dispatcher.write("North quay open\nSouth quay shut")
    letters.choose(3, 3)
    assert letters.do(verb, **args)
    assert letters.document.cursor().position() == place


def test_there_is_nothing_beyond_the_ends(letters: Letters) -> None:
    letters.type("one")
    assert not letters.do("go-paragraphs", by="1")
    assert not letters.do("go-paragraphs", by="-1")
    assert not letters.do("go-to-next-heading")


def test_what_was_just_written_is_chosen_and_nothing_before_it(letters: Letters) -> None:
    letters.type("before ")
    letters.press(Qt.Key.Key_Home)
    letters.press(Qt.Key.Key_End)
    letters.document.settle()
    assert not letters.do("select-written")
    letters.type("now")
    letters.do("select-written")
    assert chosen(letters) == "now"
