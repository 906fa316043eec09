"""Every macro of the demo: it runs, says its need when unmet, can be cancelled."""

from __future__ import annotations

import base64
from collections.abc import Callable
from dataclasses import dataclass
from datetime import date
from pathlib import Path
from typing import Any

import pytest
from PyQt6.QtWidgets import QComboBox
from pytestqt.qtbot import QtBot

from rimecrest.core.macro.check import check_macro
from rimecrest.core.release.stack import ShelvedMacro, StackState
from rimecrest.core.workspace.folder import open_workspace
from rimecrest.demo.berth_plan import berth_plan
from rimecrest.demo.office import OFFICE
from rimecrest_standins.post.message import MessageDocument
from tests.programs import Grid, Letters, Post, Program

MACROS = {path.stem: path.read_text("utf-8") for path in sorted((OFFICE / "macros").glob("*/*.steps"))}
COMPANIONS = {
    "berth-plan.ods": berth_plan(),
    **{path.name: path.read_bytes() for path in (OFFICE / "companions").iterdir()},
}
LANES = (
    "Sailing Vessel Weight Limit\n07:10 Brinholt 40 44\n07:55 Ovessa 53 52\n"
    "08:40 Quessel 31 36\n09:20 Brinholt 47 44"
)


def two_sheets(grid: Program) -> None:
    assert isinstance(grid, Grid)
    grid.fill(LANES)
    grid.do("name-sheet", name="Monday")
    grid.do("add-sheet", name="Tuesday")
    grid.fill("Vessel Weight\nQuessel 10\nBrinholt 20")


def lanes(grid: Program) -> None:
    assert isinstance(grid, Grid)
    grid.fill(LANES)


def booking(grid: Program) -> None:
    lanes(grid)
    grid.do("go-to-cell", name="A2:B2")


def a_pasted_letter(letters: Program) -> None:
    letters.do("set-size", to="30")
    letters.window.dispatcher.write("From elsewhere")
    letters.do("new-line")
    letters.window.dispatcher.write("in another look")


def writing_in_a_cell(grid: Program) -> None:
    lanes(grid)
    grid.type("half")


def in_a_note(letters: Program) -> None:
    letters.do("insert-note")


def in_a_table(letters: Program) -> None:
    letters.do("insert-table")


def late_on_monday(post: Program) -> None:
    post.do("choose-message", name="Late on Monday")


def in_a_message(post: Program) -> None:
    post.do("new")


def reply(post: Post) -> tuple[str, str, str]:
    """To whom, about what, and how it begins."""
    return post.message.field("to"), str(post.read("subject"))[:13], post.text[23:51]


def nothing(_program: Program) -> None:
    """An empty document."""


@dataclass(frozen=True)
class Case:
    """One macro: its answers, a state it runs in, what it leaves, a state in which its need is unmet."""

    id: str
    app: type[Program]
    begin: Callable[[Program], None]
    answers: dict[str, str]
    leaves: Callable[[Any], Any]
    expected: Any
    unmet: Callable[[Program], None]
    says: str


def text(letters: Letters) -> str:
    return letters.text


def bold_words(letters: Letters) -> str:
    letters.do("find-formatting", look="bold")
    return str(letters.read("chosen.text"))


CASES = [
    Case("sailing-notice", Letters, nothing, {"Which vessel?": "Ovessa"}, bold_words,
         "Notice to passengers of Ovessa", in_a_table, "Put the cursor into the text"),
    Case("settle-pasted-text", Letters, a_pasted_letter, {},
         lambda letter: "font-size:30px" in letter.html, False, nothing, "The letter is still empty."),
    Case("hazard-note", Letters, nothing, {"Which hazard class?": "3"}, bold_words,
         "Hazardous goods, class 3", in_a_note, "Put the cursor into the text"),
    Case("berth-line", Letters, nothing, {"Which berth?": "Fish quay"}, lambda letter: letter.text[:24],
         "Berth Fish quay, planned", in_a_table, "Put the cursor into the text"),
    Case("weather-box", Letters, nothing, {"Which area?": "Open water"}, bold_words, "Weather: Open water",
         in_a_note, "Put the cursor into the text"),
    Case("lost-property", Letters, nothing, {"What was left on board?": "umbrella"},
         lambda letter: letter.text[:42], "Thank you for asking after your umbrella. ",
         in_a_note, "Put the cursor into the text"),
    Case("todays-berth-plan", Grid, lanes, {"Which day?": "Thursday"},
         lambda g: (g.read("here.sheet"), g.read("here.heading"), g.read("documents")[0]),
         ("Thursday", "Vessel", "New workbook"), writing_in_a_cell, "Finish what you are writing first."),
    Case("next-overweight", Grid, lanes, {}, lambda g: (g.read("here.cell"), g.said),
         ("C3", "53 is over the limit of 52."), writing_in_a_cell,
         "Put the cursor on a row of the sheet first."),
    Case("weeks-weights", Grid, two_sheets, {"What is the summary called?": "Week"}, lambda g: g.rows("Week"),
         [["Sheet", "Weight"], ["Monday", "171"], ["Tuesday", "30"]],
         nothing, "This sheet is empty: open the week's weights first."),
    Case("close-the-booking", Grid, booking, {},
         lambda g: (g.document.sheet.cell(1, 0).look.slanted, g.document.sheet.cell(1, 0).note[:18]),
         (True, "Booking closed on "), nothing, "Select the cells of the booking first."),
    Case("late-running-reply", Post, late_on_monday,
         {"Which sailing was late?": "06:40", "Because of what?": "fog"}, reply,
         ("Kaia Voe <kaia.voe@mail.vessry.example>", "The 06:40 of ", f"The 06:40 of {date.today()} was "),
         in_a_message, "Go to the mailbox"),
]  # fmt: skip


def load(program: Program, name: str) -> None:
    text = MACROS[name]
    program.window.stack.use(
        StackState(
            app=program.app,
            macros={name: ShelvedMacro(layer="organisation", text=text)},
            companions={name: base64.b64encode(content).decode() for name, content in COMPANIONS.items()},
        )
    )


def answer(dialog: Any, answers: dict[str, str]) -> None:
    for field_ in dialog.fields:
        given = answers[field_.accessibleName()]
        field_.setCurrentText(given) if isinstance(field_, QComboBox) else field_.setText(given)
    dialog.accept()


def state(program: Program) -> Any:
    """All that a colleague has: every document's content."""
    if isinstance(program, Letters):
        return [document.widget.toHtml() for document in program.window.documents.all]  # type: ignore[attr-defined]
    if isinstance(program, Post):
        written = [doc for doc in program.window.documents.all if isinstance(doc, MessageDocument)]
        return program.box.mailbox.keys("Inbox"), [(doc.shown(), doc.text.toHtml()) for doc in written]
    return [
        [(sheet.name, [dict(row) for row in sheet.rows[: sheet.height]]) for sheet in document.book.sheets]  # type: ignore[attr-defined]
        for document in program.window.documents.all
    ]


def run(program: Program, name: str, react: Callable[[Any], None]) -> str:
    window = program.window
    window.asker.asks.connect(react)
    with program.qtbot.waitSignal(window.dispatcher.run_ended, timeout=10_000) as ended:
        assert window.dispatcher.perform(f"macro:{name}"), program.said
    window.asker.asks.disconnect(react)
    return str(ended.args[1])


@pytest.mark.parametrize("case", CASES, ids=lambda case: case.id)
def test_it_runs_and_one_undo_takes_it_back(qtbot: QtBot, case: Case) -> None:
    program = case.app(qtbot)
    load(program, case.id)
    case.begin(program)
    before, first = state(program), program.window.document
    run(program, case.id, lambda dialog: answer(dialog, case.answers))
    assert case.leaves(program) == case.expected
    if program.window.document is first and first.undo.undo_label:
        if state(program) != before:
            program.do("undo")
        assert state(program) == before


@pytest.mark.parametrize("case", CASES, ids=lambda case: case.id)
def test_with_its_need_unmet_it_says_so_and_changes_nothing(qtbot: QtBot, case: Case) -> None:
    program = case.app(qtbot)
    load(program, case.id)
    case.unmet(program)
    before, place = state(program), program.window.document.place()
    said = run(program, case.id, lambda dialog: pytest.fail("it asked"))
    assert case.says in said
    assert (state(program), program.window.document.place()) == (before, place)


@pytest.mark.parametrize("case", CASES, ids=lambda case: case.id)
def test_cancelled_midway_it_changes_nothing(
    qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, case: Case
) -> None:
    program = case.app(qtbot)
    load(program, case.id)
    case.begin(program)
    before, place = state(program), program.window.document.place()
    if case.answers:
        said = run(program, case.id, lambda dialog: dialog.reject())
        assert "Cancelled: nothing was changed." in said
        assert state(program) == before
    # And stopped behind its second step, with things done already.
    done: list[str] = []

    executor = program.window.executor

    def stopping(carry_out: Callable[..., None]) -> Callable[..., None]:
        def carried(*what: object) -> None:
            carry_out(*what)
            done.append(str(what[0]))
            if len(done) == 2:
                program.window.dispatcher.stop_run()

        return carried

    for name in ("perform", "write"):
        monkeypatch.setattr(executor, name, stopping(getattr(executor, name)))
    said = run(program, case.id, lambda dialog: answer(dialog, case.answers))
    assert len(done) == 2
    assert "was stopped; nothing was changed" in said
    assert state(program) == before
    assert program.window.document.place() == place or isinstance(program, Letters)
    assert len(program.window.documents.all) == 1


def test_every_macro_of_the_demo_but_the_planted_one_is_without_fault(demo_folder: Path) -> None:
    office = open_workspace(demo_folder / "vessry")
    faulty = []
    for (layer, name), file in office.macros.items():
        told = office.told(office.stack_up_to(layer), file.macro.application)
        if file.faults or check_macro(file.macro, told, set(map("companions/{}".format, office.companions))):
            faulty.append(name)
    assert faulty == ["quay-rota"]
    assert {case.id for case in CASES} == MACROS.keys() - {
        "quay-rota",
        "berth-change",
    }  # tests/standins/test_post_demo.py


def test_next_overweight_goes_on_from_where_it_stands_and_ends(qtbot: QtBot) -> None:
    grid = Grid(qtbot)
    load(grid, "next-overweight")
    lanes(grid)
    places = []
    for _ in range(3):
        said = run(grid, "next-overweight", lambda dialog: None)
        places.append((grid.read("here.cell"), said))
    assert [cell for cell, _ in places[:2]] == ["C3", "C5"]
    assert places[2][1] == "No sailing further down is over its limit."


def test_a_companion_is_opened_as_a_copy_that_lies_nowhere(qtbot: QtBot) -> None:
    grid = Grid(qtbot)
    load(grid, "todays-berth-plan")
    run(grid, "todays-berth-plan", lambda dialog: answer(dialog, {"Which day?": "Monday"}))
    assert grid.document.path is None
    assert grid.read("sheets")[0] == "Monday"


def test_a_note_is_one_run_of_formatted_text(qtbot: QtBot) -> None:
    letters = Letters(qtbot)
    load(letters, "hazard-note")
    letters.window.dispatcher.write("Lanes")
    run(letters, "hazard-note", lambda dialog: answer(dialog, {"Which hazard class?": "8"}))
    assert "Stow on the open deck" in letters.text
    assert letters.document.note() is None  # the cursor is back in the letter
