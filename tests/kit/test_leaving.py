"""What a macro reaches for outside: the thing is named and done only after a yes."""

from __future__ import annotations

import os
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from PyQt6.QtCore import QObject, QRect, Qt, QUrl, pyqtSlot
from PyQt6.QtGui import QDesktopServices
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QCheckBox, QLabel, QPushButton
from pytestqt.qtbot import QtBot

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.identities import MacroId
from rimecrest.core.release.stack import ShelvedMacro, StackState
from rimecrest.core.workspace.macro_file import macro_file
from rimecrest.kit.commands.leaving import Agreements, starts_something
from rimecrest.kit.documents.outside import open_link
from rimecrest.kit.macros.questions import LeaveQuestion
from rimecrest.kit.remote.trial import Trial
from tests.programs import Grid, Letters, Post, Program


class Opened(QObject):
    """Stands where the desktop would open addresses."""

    def __init__(self) -> None:
        super().__init__()
        self.urls: list[str] = []

    @pyqtSlot(QUrl)
    def take(self, url: QUrl) -> None:
        self.urls.append(url.toString())


SCHEMES = ("https", "http", "mailto", "file")


@pytest.fixture
def opened() -> Iterator[list[str]]:
    """The addresses that were handed to the desktop."""
    handler = Opened()
    for scheme in SCHEMES:
        QDesktopServices.setUrlHandler(scheme, handler.take)
    yield handler.urls
    for scheme in SCHEMES:
        QDesktopServices.unsetUrlHandler(scheme)


@pytest.fixture(params=["letters", "grid"])
def program(request: pytest.FixtureRequest) -> Program:
    made = request.getfixturevalue(request.param)
    assert isinstance(made, Program)
    return made


def start(program: Program, body: str) -> None:
    program.run(body, wait=False)


def question(program: Program) -> LeaveQuestion:
    """The question that is open now."""

    def open_one() -> list[LeaveQuestion]:
        return [each for each in program.window.findChildren(LeaveQuestion) if each.isVisible()]

    program.qtbot.waitUntil(lambda: bool(open_one()))
    return open_one()[-1]


def words(asked: LeaveQuestion) -> str:
    return asked.findChild(QLabel, "leave-words").text()


def say(program: Program, asked: LeaveQuestion, button: str) -> None:
    QTest.mouseClick(asked.findChild(QPushButton, button), Qt.MouseButton.LeftButton)
    program.qtbot.waitUntil(lambda: not asked.isVisible())


def over(program: Program) -> None:
    program.qtbot.waitUntil(lambda: program.window.dispatcher.run is None)


OPEN = 'do open-address to="https://weather.example.org/today"'


def test_an_address_is_named_and_opened_after_a_yes(letters: Letters, opened: list[str]) -> None:
    start(letters, f'write "Weather: "\n{OPEN}')
    asked = question(letters)
    assert words(asked) == "“Test” wants to open weather.example.org."
    assert opened == []
    say(letters, asked, "leave-go")
    over(letters)
    assert opened == ["https://weather.example.org/today"]


@pytest.mark.parametrize("key", [Qt.Key.Key_Escape, Qt.Key.Key_Return])
def test_a_key_pressed_twice_says_no_and_the_rest_stays(
    letters: Letters, opened: list[str], key: Qt.Key
) -> None:
    start(letters, f'write "Weather: "\n{OPEN}')
    asked = question(letters)
    QTest.keyClick(asked, key)
    over(letters)
    assert opened == []
    assert "did not open weather.example.org. What was written stays" in letters.said
    assert letters.document.widget.toPlainText() == "Weather: "


def test_a_yes_for_good_is_of_this_macro_as_it_is_written_and_this_host(
    letters: Letters, opened: list[str]
) -> None:
    start(letters, OPEN)
    asked = question(letters)
    asked.findChild(QCheckBox, "leave-lasts").click()
    say(letters, asked, "leave-go")
    over(letters)
    start(letters, OPEN)
    over(letters)
    assert len(opened) == 2
    start(letters, OPEN.replace("weather", "other"))
    assert words(question(letters)) == "“Test” wants to open other.example.org."
    say(letters, question(letters), "leave-stay")
    over(letters)


def test_agreements_are_kept_in_the_profile_for_its_owner_alone(tmp_path: Path) -> None:
    file = macro_file("organisation", MacroId("m"), 'macro "M"\nfor letters\n')
    Agreements(tmp_path).add(file, "link example.org")
    again = Agreements(tmp_path)
    assert again.has(file, "link example.org")
    assert not again.has(file, "link example.com")
    assert not again.has(macro_file("organisation", MacroId("m"), file.text + "stop\n"), "link example.org")
    assert (tmp_path / "agreed.json").stat().st_mode & 0o777 == 0o600
    (tmp_path / "agreed.json").write_text("{")
    assert not Agreements(tmp_path).has(file, "link example.org")


def test_a_macro_of_ones_own_shelf_does_not_ask(letters: Letters, opened: list[str]) -> None:
    letters.window.document.put_macro("own", f'macro "Own"\nfor letters\n{OPEN}\n')
    assert letters.window.dispatcher.perform("macro:own")
    over(letters)
    assert len(opened) == 1


@pytest.mark.parametrize(
    "address", ["file:///etc/passwd", "javascript:x", "smb://a/b", "run me", "", "https:"]
)
def test_other_kinds_of_addresses_are_never_opened(qtbot: QtBot, opened: list[str], address: str) -> None:
    with pytest.raises(RimecrestError, match="is not opened: it is no address of the web or of mail"):
        open_link(address)
    assert opened == []


def test_a_link_in_a_letter_leads_to_no_file(letters: Letters, opened: list[str], tmp_path: Path) -> None:
    path = tmp_path / "letter.html"
    path.write_text('<p><a href="file:///etc/passwd">Timetable</a></p>')
    letters.do("open", path=str(path))
    letters.choose(2, 2)
    assert not letters.window.dispatcher.perform("letters:follow-link")
    assert "is not opened" in letters.said
    assert opened == []


# Files


def test_a_file_that_was_there_is_overwritten_only_after_a_yes(program: Program, tmp_path: Path) -> None:
    ending = "html" if program.app == "letters" else "ods"
    there = tmp_path / f"there.{ending}"
    there.write_text("dear")
    start(program, f'do save-as path="{there}"')
    asked = question(program)
    assert words(asked) == f"“Test” wants to overwrite {there}."
    assert not asked.findChild(QCheckBox, "leave-lasts").isVisible()
    say(program, asked, "leave-stay")
    over(program)
    assert there.read_text() == "dear"
    start(program, f'do save-as path="{there}"')
    say(program, question(program), "leave-go")
    over(program)
    assert there.read_bytes() != b"dear"


def test_a_letter_that_the_macro_opened_emptied_and_saves_is_asked_about(
    letters: Letters, tmp_path: Path
) -> None:
    path = tmp_path / "letter.html"
    path.write_text("<p>Dear reader</p>")
    start(letters, f'do open path="{path}"\ndo select-all\nwrite ""\ndo save')
    assert words(question(letters)) == f"“Test” wants to overwrite {path}."
    say(letters, question(letters), "leave-stay")
    over(letters)
    assert "Dear reader" in path.read_text()


def test_what_was_open_is_saved_and_what_the_run_made_written_again_without_a_question(
    letters: Letters, tmp_path: Path
) -> None:
    path, other = tmp_path / "letter.html", tmp_path / "other.html"
    letters.do("save-as", path=str(path))
    start(
        letters, f'write "Mine"\ndo save\ndo save-as path="{other}"\ndo make-pdf path="{other}.pdf"\ndo save'
    )
    over(letters)
    assert letters.said == "“Test” is done."
    assert "Mine" in other.read_text()


def test_each_save_is_of_the_document_it_was_written_for(letters: Letters, tmp_path: Path) -> None:
    paths = [tmp_path / f"{name}.html" for name in ("one", "two")]
    for path in paths:
        letters.do("new")
        letters.do("save-as", path=str(path))
    body = "\n".join(f'do open path="{path}"\nwrite "for {path.stem}"\ndo save' for path in paths)
    start(letters, f'{body}\ndo open path="{paths[0]}"')
    over(letters)
    for path in paths:
        assert f"for {path.stem}" in path.read_text()
    assert letters.window.document.name() == "one"


def test_after_a_no_one_is_in_the_document_where_the_last_step_was(letters: Letters, tmp_path: Path) -> None:
    paths = [tmp_path / f"{name}.html" for name in ("one", "two")]
    for path in paths:
        path.write_text("<p>Theirs</p>")
    start(letters, f'do open path="{paths[0]}"\nwrite "x"\ndo save\ndo open path="{paths[1]}"')
    assert words(question(letters)) == f"“Test” wants to overwrite {paths[0]}."
    say(letters, question(letters), "leave-stay")
    over(letters)
    assert letters.window.document.name() == "two"


def test_stopped_while_it_is_asked_nothing_leaves(letters: Letters, opened: list[str]) -> None:
    start(letters, OPEN)
    question(letters)
    letters.window.dispatcher.stop_run()
    over(letters)
    assert opened == []


def test_a_trial_asks_whatever_shelf_it_is_on(letters: Letters, opened: list[str]) -> None:
    told: list[tuple[str, dict[str, Any]]] = []
    trial = Trial(
        letters.window.dispatcher,
        letters.window.documents.try_on,
        lambda method, params: told.append((method, dict(params))),
        lambda: "",
        lambda: QRect(),
        lambda reading: [],
    )
    mine = ShelvedMacro(layer="mine", text=f'macro "Own"\nfor letters\n{OPEN}\n')
    letters.window.stack.use(StackState(app="letters", macros={"own": mine}))
    trial.begin("own")
    trial.go()
    letters.qtbot.waitUntil(lambda: any(method == "trial.asks" for method, _ in told))
    [asked] = [params for method, params in told if method == "trial.asks"]
    assert asked["questions"][0]["prompt"] == "“Own” wants to open weather.example.org. May it?"
    trial.answer(["no"])
    over(letters)
    assert opened == []


# Where programs are started from

REACHING = (Effect.OVERWRITES, Effect.SENDS, Effect.OPENS_LINKS)
RISKY = (
    ".config/autostart/e.desktop", ".config/autostart/deep/e.txt", ".bashrc", ".local/bin/tool",
    "Desktop/e.desktop", "Desktop/E.DESKTOP", ".hidden/letter.html", "letters/.hidden.html",
    "units/e.service", "letters/../.profile",
)  # fmt: skip
PLAIN = ("letters/letter.html", "letter.html", "desktop.html", "a.b/c.d.html", "letters/../letter.html")


@pytest.mark.parametrize("kind", [Letters, Grid, Post])
def test_every_command_that_writes_over_sends_or_opens_says_what_it_reaches(kind: type[Program]) -> None:
    found = [
        identity
        for identity, declared in kind.declarations.commands.items()
        if set(declared.command.effects) & set(REACHING) and declared.reaches is None
    ]
    assert found == []


@pytest.mark.parametrize("path", RISKY)
def test_a_new_file_from_where_programs_are_started_is_asked_about(
    letters: Letters, tmp_path: Path, path: str
) -> None:
    (tmp_path / "letters").mkdir()
    place = tmp_path / path
    assert starts_something(place)
    (tmp_path / path).parent.mkdir(parents=True, exist_ok=True)
    start(letters, f'write "words"\ndo save-as path="{place}"')
    asked = question(letters)
    assert "which other programs may start" in words(asked)
    QTest.keyClick(asked, Qt.Key.Key_Escape)
    over(letters)
    assert not place.exists()


@pytest.mark.parametrize("path", PLAIN)
def test_a_new_file_in_a_plain_folder_is_written_unasked(letters: Letters, tmp_path: Path, path: str) -> None:
    for folder in ("letters", "a.b"):
        (tmp_path / folder).mkdir()
    start(letters, f'write "words"\ndo save-as path="{tmp_path / path}"')
    over(letters)
    assert (tmp_path / path).exists()


def test_a_link_to_where_programs_are_started_is_looked_through(tmp_path: Path) -> None:
    (tmp_path / ".config").mkdir()
    (tmp_path / "plain").symlink_to(tmp_path / ".config")
    assert starts_something(tmp_path / "plain" / "letter.html")
    for folder in os.get_exec_path():
        assert starts_something(Path(folder) / "tool")


def test_who_writes_and_the_signature_are_asked_about(post: Post) -> None:
    post.do("new")
    start(post, 'do set-sender to="Boss <boss@vessry.example>"')
    asked = question(post)
    assert words(asked) == "“Test” wants to have your messages be from Boss <boss@vessry.example>."
    QTest.keyClick(asked, Qt.Key.Key_Escape)
    over(post)
    assert "boss" not in post.window.document.own.sender
