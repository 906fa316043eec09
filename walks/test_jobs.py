"""The jobs of whoever turns a chore into a key or a button, each by mouse and by keys alone."""

from __future__ import annotations

import re
import shutil
from collections.abc import Callable
from pathlib import Path
from time import perf_counter

import pytest
from PyQt6.QtCore import QPoint, Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QFileDialog, QMenu, QWidget
from pytestqt.qtbot import QtBot
from tests.programs import CTRL, SHIFT, Grid, Letters
from tests.studio.conftest import Studio

from rimecrest.core.catalogue.surfaces import Button
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.kit.macros.macro_list import MacroList
from rimecrest.studio.macros.export_dialog import ExportDialog
from rimecrest.studio.macros.import_dialog import TakeIn
from rimecrest.studio.shared.edit_target import EditTarget
from walks.desk import Worker, grid_at, letters_at
from walks.hands import ENTER, Hands

AtMost = Callable[[int], None]
CTRL_SHIFT = CTRL | SHIFT
FREIGHT = "department.freight"
DOWN, RIGHT = Qt.Key.Key_Down, Qt.Key.Key_Right


@pytest.fixture
def at_grid(hands: Hands) -> Hands:
    """The studio at the freight desk's layer of Grid."""
    hands.studio.session.aim_at(EditTarget(FREIGHT, "grid", "Freight 3", 1024))
    return hands


Later = Callable[[], Grid]
LettersLater = Callable[[], Letters]


@pytest.fixture
def later_grid(request: pytest.FixtureRequest) -> Later:
    """A window of Grid, opened when it is wanted: until then the studio has the keys."""
    return lambda: request.getfixturevalue("grid")


@pytest.fixture
def later_letters(request: pytest.FixtureRequest) -> LettersLater:
    """The same for Letters."""
    return lambda: request.getfixturevalue("letters")


def macro(hands: Hands, name: str) -> str:
    """The steps of the macro of that name, as they are stored."""
    found = [file for file in hands.studio.session.workspace.macros.values() if file.name == name]
    assert len(found) == 1, [file.name for file in hands.studio.session.workspace.macros.values()]
    lines = found[0].text.splitlines(keepends=True)
    return "".join(
        line for line in lines if line.strip() and line.split()[0] not in ("macro", "about", "for")
    )


def key_of(hands: Hands, name: str) -> str:
    """The key that the freight desk gives the macro of that name."""
    workspace = hands.studio.session.workspace
    run = next(f"macro:{file.id}" for file in workspace.macros.values() if file.name == name)
    keys = workspace.layout(FREIGHT, hands.studio.session.aim.app).keys
    return next(key.keys for key in keys if key.run == run)


def button_of(hands: Hands, name: str) -> Button:
    """The button of the freight desk that runs the macro of that name."""
    workspace = hands.studio.session.workspace
    run = next(f"macro:{file.id}" for file in workspace.macros.values() if file.name == name)
    items = workspace.layout(FREIGHT, hands.studio.session.aim.app).all_items()
    return next(item for item in items if isinstance(item, Button) and item.run == run)


def make_by_mouse(hands: Hands, name: str) -> None:
    """The place of the macros, and a new one: three gestures."""
    hands.push("place-macros")
    hands.push("macro-new")
    hands.write_over(name)


def make_by_keys(hands: Hands, name: str) -> None:
    """The same by keys."""
    hands.press(Qt.Key.Key_1, CTRL)
    hands.press(Qt.Key.Key_N, CTRL)
    hands.write_over(name)


def run_here(worker: Worker, name: str) -> None:
    """Run the macro of that name in the application's window; not counted."""
    worker.draft(FREIGHT)
    identity = next(i for i, file in worker.program.window.library.files.items() if file.name == name)
    worker.program.window.dispatcher.perform(f"macro:{identity}", {})
    worker.program.qtbot.waitUntil(lambda: worker.program.window.dispatcher.run is None, timeout=20_000)


# The next different value in a column, on a key, its first choice taken


def _goes_to_the_next_different(hands: Hands, later_grid: Later, name: str) -> None:
    assert key_of(hands, name)
    grid = later_grid()
    worker = grid_at(hands, grid)
    grid.fill("Vessel\nOvessa\nOvessa\nQuessel")
    grid.go("A2")
    run_here(worker, name)
    assert grid.read("here.cell") == "A4"


def test_next_different_by_mouse(at_grid: Hands, at_most: AtMost, later_grid: Later) -> None:
    hands = at_grid
    at_most(14)
    make_by_mouse(hands, "Further on")
    hands.type("what is different")
    hands.type("{here.value}")
    hands.push("macro-key")
    hands.choose("")
    _goes_to_the_next_different(hands, later_grid, "Further on")


def test_next_different_by_keys(at_grid: Hands, at_most: AtMost, later_grid: Later) -> None:
    hands = at_grid
    at_most(14)
    make_by_keys(hands, "Further on")
    hands.type("what is different")
    hands.type("{here.value}")
    hands.press(Qt.Key.Key_K, CTRL_SHIFT)
    hands.press(ENTER)
    _goes_to_the_next_different(hands, later_grid, "Further on")


# Titles, border, bold and the sheet's name recorded, on an own tab, run on another workbook


def _runs_on_another_workbook(hands: Hands, worker: Worker, grid: Grid) -> None:
    """The button on the own tab does the same to a new workbook; two gestures and the new workbook's."""
    worker.draft(FREIGHT)
    worker.press(Qt.Key.Key_N, CTRL)
    grid.fill("Vessel Lane\nOvessa 3")
    worker.tab("Titles")
    worker.push("Titles")
    grid.qtbot.waitUntil(lambda: grid.window.dispatcher.run is None)
    assert grid.read("here.sheet") == "Lanes"
    looks = [grid.document.sheet.row(0)[column].look for column in range(2)]
    assert all(look.bold and look.borders for look in looks)


def test_titles_by_mouse(at_grid: Hands, at_most: AtMost, grid: Grid) -> None:
    hands, worker = at_grid, grid_at(at_grid, grid)
    at_most(20)
    grid.fill("Vessel Lane\nQuessel 1")
    worker.tab("Calculate")
    worker.push("Record a macro")
    grid.qtbot.waitUntil(lambda: grid.window.recorder.on)
    cells = grid.document.widget.cells
    head = cells.verticalHeader()
    worker.click(head.viewport(), QPoint(8, head.sectionViewportPosition(0) + 8))
    worker.tab("Cells")
    worker.push("Bold")
    worker.push("Borders")
    worker.tab("Sheets")
    worker.push("Name the sheet")
    worker.type("Lanes", enter=True)
    worker.bar("record-stop")
    hands.write_over("Titles")
    hands.push("finish-surface")
    hands.choose("new tab")
    hands.type("Titles")
    hands.push("finish-put")
    _runs_on_another_workbook(hands, worker, grid)


def test_titles_by_keys(at_grid: Hands, at_most: AtMost, grid: Grid) -> None:
    hands, worker = at_grid, grid_at(at_grid, grid)
    at_most(20)
    grid.fill("Vessel Lane\nQuessel 1")
    worker.record()
    worker.behind(Qt.Key.Key_R)
    worker.press(Qt.Key.Key_B, CTRL)
    worker.behind(Qt.Key.Key_B, SHIFT)
    worker.behind(Qt.Key.Key_S, SHIFT)
    worker.type("Lanes", enter=True)
    worker.record()
    hands.write_over("Titles")
    hands.press(ENTER)
    hands.row_typed("new tab")
    hands.type("Titles")
    hands.press(ENTER, CTRL)
    _runs_on_another_workbook(hands, worker, grid)


# A file opened at a sheet, its path pasted with quotes


def _opens_the_plan(hands: Hands, path: Path) -> None:
    assert macro(hands, "The plan") == f'do open path="{path}" sheet="Tuesday"\n'


@pytest.fixture
def plan(hands: Hands, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A workbook with a sheet for each day, where everybody reaches it."""
    # It lies under /tmp, which no colleague has: here that is a folder that all have.
    monkeypatch.setattr("rimecrest.core.macro.check._HOMES", ("/home/",))
    path = tmp_path / "Berth plan.ods"
    path.write_bytes((hands.studio.folder / "companions" / "berth-plan.ods").read_bytes())
    return path


def _list_of_sheets(hands: Hands) -> None:
    """The file is looked into by an application of its own: that may take a moment."""
    hands.studio.qtbot.waitUntil(
        lambda: any(
            menu.isVisible() and "Tuesday" in [action.text() for action in menu.actions()]
            for menu in hands.studio.window.findChildren(QMenu, "choices")
        ),
        timeout=20_000,
    )


def test_a_file_by_mouse(at_grid: Hands, at_most: AtMost, plan: Path) -> None:
    hands = at_grid
    at_most(8)
    hands.studio.push("place-macros")
    hands.push("macro-new")
    hands.write_over("The plan")
    hands.type("open")
    hands.choose("Write or paste")
    hands.paste(f" '{plan}' ")
    hands.press(ENTER)
    _click_word(hands, "setting sheet")
    _list_of_sheets(hands)
    hands.choose("Tuesday")
    _opens_the_plan(hands, plan)


def test_a_file_by_keys(at_grid: Hands, at_most: AtMost, plan: Path) -> None:
    hands = at_grid
    at_most(8)
    hands.studio.push("place-macros")
    hands.press(Qt.Key.Key_N, CTRL)
    hands.write_over("The plan")
    hands.type("open")
    hands.paste(f'"{plan}"')
    hands.press(RIGHT)
    hands.press(ENTER)
    _list_of_sheets(hands)
    hands.row_typed("Tuesday")
    _opens_the_plan(hands, plan)


def _click_word(hands: Hands, field: str) -> None:
    """A click on a word of the step that is chosen."""
    steps = hands.studio.desk.places["Macros"].steps
    box = next(box for box in steps.fields(steps.currentRow()) if box.piece.field == field)
    hands.gestures += 1
    QTest.mouseClick(steps.viewport(), Qt.MouseButton.LeftButton, pos=box.rect.center().toPoint())
    QApplication.processEvents()


# A signature with a typo recorded, on a button


def _signs(hands: Hands) -> None:
    assert macro(hands, "Signature") == 'write "Kind regards, the freight desk"\n'
    assert button_of(hands, "Signature")


def test_signature_by_mouse(hands: Hands, at_most: AtMost, letters: Letters) -> None:
    worker = letters_at(hands, letters)
    at_most(9)
    worker.push("Record a macro")
    letters.qtbot.waitUntil(lambda: letters.window.recorder.on)
    letters.document.widget.setFocus()
    worker.type("Kind regardz")
    worker.press(Qt.Key.Key_Backspace)
    worker.type("s, the freight desk")
    worker.bar("record-stop")
    hands.write_over("Signature")
    hands.push("finish-surface")
    hands.choose("Freight")
    hands.push("finish-put")
    _signs(hands)


def test_signature_by_keys(hands: Hands, at_most: AtMost, letters: Letters) -> None:
    worker = letters_at(hands, letters)
    at_most(9)
    worker.record()
    worker.type("Kind regardz")
    worker.press(Qt.Key.Key_Backspace)
    worker.type("s, the freight desk")
    worker.record()
    hands.write_over("Signature")
    hands.press(ENTER)
    hands.row_typed("freight")
    hands.press(ENTER, CTRL)
    _signs(hands)


# Two keys recorded, a no-break space in and the blank behind it out, on a button


def _keeps_together(hands: Hands, letters: Letters) -> None:
    button_of(hands, "Together")
    letters.do("select-all")
    letters.press(Qt.Key.Key_Delete)
    letters.type("12 kg")
    letters.choose(2, 2)
    worker = letters_at(hands, letters)
    run_here(worker, "Together")
    assert letters.document.cursor().document().toRawText() == "12\u00a0kg"


def test_two_keys_by_mouse(hands: Hands, at_most: AtMost, letters: Letters) -> None:
    worker = letters_at(hands, letters)
    letters.type("5 km")
    letters.choose(1, 1)
    at_most(8)
    worker.push("Record a macro")
    letters.qtbot.waitUntil(lambda: letters.window.recorder.on)
    letters.document.widget.setFocus()
    worker.type("\u00a0")
    worker.press(Qt.Key.Key_Delete)
    worker.bar("record-stop")
    hands.write_over("Together")
    hands.push("finish-surface")
    hands.choose("Freight")
    hands.push("finish-put")
    _keeps_together(hands, letters)


def test_two_keys_by_keys(hands: Hands, at_most: AtMost, letters: Letters) -> None:
    worker = letters_at(hands, letters)
    letters.type("5 km")
    letters.choose(1, 1)
    at_most(8)
    worker.record()
    worker.type("\u00a0")
    worker.press(Qt.Key.Key_Delete)
    worker.record()
    hands.write_over("Together")
    hands.press(ENTER)
    hands.row_typed("freight")
    hands.press(ENTER, CTRL)
    _keeps_together(hands, letters)


# Links and underlining out of a letter, by key

PLAIN = (
    'do replace-formatting look="linked" by="no link, usual colour, not underlined"',
    'do replace-formatting look="underlined" by="not underlined"',
)


def _takes_them_out(hands: Hands, later_letters: LettersLater) -> None:
    assert key_of(hands, "Plain again")
    letters = later_letters()
    worker = letters_at(hands, letters)
    letters.do("insert-link", to="https://tides.vessry.example")
    letters.type(" and ")
    letters.do("underline", on="yes")
    letters.type("more")
    letters.do("underline", on="no")
    run_here(worker, "Plain again")
    assert "href" not in letters.html
    assert "underline" not in letters.html


def test_links_out_by_mouse(hands: Hands, at_most: AtMost, later_letters: LettersLater) -> None:
    at_most(8)
    make_by_mouse(hands, "Plain again")
    for line in PLAIN:
        hands.type(line)
    hands.push("macro-key")
    hands.choose("")
    _takes_them_out(hands, later_letters)


def test_links_out_by_keys(hands: Hands, at_most: AtMost, later_letters: LettersLater) -> None:
    at_most(8)
    make_by_keys(hands, "Plain again")
    for line in PLAIN:
        hands.type(line)
    hands.press(Qt.Key.Key_K, CTRL_SHIFT)
    hands.press(ENTER)
    _takes_them_out(hands, later_letters)


# Seven commands composed, one undo, a used key taken on purpose

SEVEN = (
    "select all",
    "capitals",
    "do embolden on=yes",
    "go to the end",
    "new line",
    "line across",
    "today's date",
)


def _is_one_undo(hands: Hands, later_letters: LettersLater) -> None:
    assert macro(hands, "Headline").count("do ") == 7
    assert key_of(hands, "Headline") == "Ctrl+J, H"
    told = hands.studio.session.checked.findings
    assert not [f for f in told if f.where == "Ctrl+J, H" and f.kind == "takes-over"]
    kept = hands.studio.session.workspace.layout(FREIGHT, "letters").acceptances
    assert kept[-1].why == "Nobody draws lines."
    letters = later_letters()
    worker = letters_at(hands, letters)
    letters.type("lanes")
    before = letters.html
    run_here(worker, "Headline")
    assert letters.text.startswith("LANES")
    letters.press(Qt.Key.Key_Z, CTRL)
    assert letters.html == before


def test_seven_commands_by_mouse(hands: Hands, at_most: AtMost, later_letters: LettersLater) -> None:
    at_most(16)
    make_by_mouse(hands, "Headline")
    for words in SEVEN:
        hands.type(words)
    hands.push("macro-key")
    hands.choose("Press it")
    hands.press(Qt.Key.Key_J, CTRL)
    hands.press(Qt.Key.Key_H)
    _accept(hands)
    _is_one_undo(hands, later_letters)


def test_seven_commands_by_keys(hands: Hands, at_most: AtMost, later_letters: LettersLater) -> None:
    at_most(16)
    make_by_keys(hands, "Headline")
    for words in SEVEN:
        hands.type(words)
    hands.press(Qt.Key.Key_K, CTRL_SHIFT)
    hands.row_typed("press")
    hands.press(Qt.Key.Key_J, CTRL)
    hands.press(Qt.Key.Key_H)
    _accept(hands)
    _is_one_undo(hands, later_letters)


def _accept(hands: Hands) -> None:
    """The question in the strip is answered with a reason."""
    strip = hands.studio.desk.strip
    hands.studio.session.say("")
    strip.say("")
    hands.push("fix-1")
    hands.type("Nobody draws lines.")


# A filter for the active cell and its toggle, on two keys


def _filters(hands: Hands, later_grid: Later) -> None:
    keys = {key.run: key.keys for key in hands.studio.session.workspace.layout(FREIGHT, "grid").keys}
    assert (keys["grid:show-only"], keys["grid:turn-filter"]) == ("Alt+Shift+F", "Alt+Shift+G")
    grid = later_grid()
    worker = grid_at(hands, grid)
    grid.fill("Vessel\nOvessa\nQuessel\nOvessa")
    grid.go("A3")
    worker.draft(FREIGHT)
    alt_shift = Qt.KeyboardModifier.AltModifier | SHIFT
    grid.press(Qt.Key.Key_F, alt_shift)
    assert grid.read("filter.value") == "Quessel"
    grid.press(Qt.Key.Key_G, alt_shift)
    assert grid.read("filtered") == "no"
    grid.press(Qt.Key.Key_G, alt_shift)
    assert grid.read("filter.value") == "Quessel"


ALT_SHIFT = Qt.KeyboardModifier.AltModifier | SHIFT


def test_filter_by_mouse(at_grid: Hands, at_most: AtMost, later_grid: Later) -> None:
    hands = at_grid
    at_most(7)
    hands.push("place-keys")
    for key, words in ((Qt.Key.Key_F, "show only"), (Qt.Key.Key_G, "filter on")):
        hands.push("listen")
        hands.press(key, ALT_SHIFT)
        hands.studio.find("give-key").setFocus()
        hands.type(words)
    _filters(hands, later_grid)


def test_filter_by_keys(at_grid: Hands, at_most: AtMost, later_grid: Later) -> None:
    hands = at_grid
    at_most(7)
    hands.press(Qt.Key.Key_3, CTRL)
    for keys, words in (("Alt+Shift+F", "show only"), ("Alt+Shift+G", "filter on")):
        hands.press(Qt.Key.Key_F3)
        hands.type(keys)
        hands.type(words)
    _filters(hands, later_grid)


# Two macros exported with what they need, and taken in elsewhere


@pytest.fixture
def elsewhere(hands: Hands, qtbot: QtBot, tmp_path: Path, demo_folder: Path) -> Callable[[], Hands]:
    """Another office's studio; its gestures are counted with those of the first."""
    folder = tmp_path / "elsewhere"
    shutil.copytree(demo_folder / "vessry", folder)
    for name in ("berth-plan", "hazard-note"):
        for path in folder.glob(f"macros/*/{name}.steps"):
            path.unlink()
    (folder / "companions" / "berth-plan.ods").unlink()
    return lambda: Hands(Studio(qtbot, folder))


@pytest.fixture
def bundle(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """The file that both dialogs of the desktop answer with."""
    path = tmp_path / "two.crestbundle"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(path), ""))
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(path), ""))
    return path


def _needs() -> list[str]:
    return ["Hazard note", "Today's berth plan"]


def _are_there(office: Hands, hands: Hands) -> None:
    """The two are in the other office with their file; its gestures count too."""
    hands.gestures += office.gestures
    names = {file.name for file in read_workspace(office.studio.folder).macros.values()}
    assert {*_needs()} <= names
    assert "berth-plan.ods" in read_workspace(office.studio.folder).companions


def _dialog(hands: Hands, kind: type[QWidget]) -> QWidget:
    QApplication.processEvents()
    return next(found for found in hands.studio.window.findChildren(kind) if found.isVisible())


def test_hand_over_by_mouse(
    hands: Hands, at_most: AtMost, elsewhere: Callable[[], Hands], bundle: Path
) -> None:
    at_most(10)
    hands.push("place-macros")
    hands.push("macro department.freight/hazard-note")
    hands.push("macro-export")
    dialog = _dialog(hands, ExportDialog)
    assert isinstance(dialog, ExportDialog)
    tree = dialog.shelves
    row = next(
        item
        for top in range(tree.topLevelItemCount())
        for item in [tree.topLevelItem(top).child(n) for n in range(tree.topLevelItem(top).childCount())]
        if item.text(0) == "Today's berth plan"
    )
    tree.scrollToItem(row)
    box = tree.visualItemRect(row)
    hands.gestures += 1
    QTest.mouseClick(tree.viewport(), Qt.MouseButton.LeftButton, pos=QPoint(box.left() + 8, box.center().y()))
    _push_in(hands, dialog, "export-go")
    office = elsewhere()
    office.push("place-macros")
    office.push("macro-import")
    _push_in(office, _dialog(office, TakeIn), "import-go")
    assert bundle.is_file()
    _are_there(office, hands)


def test_hand_over_by_keys(
    hands: Hands, at_most: AtMost, elsewhere: Callable[[], Hands], bundle: Path
) -> None:
    at_most(10)
    hands.press(Qt.Key.Key_F3)
    hands.type("export macros")
    dialog = _dialog(hands, ExportDialog)
    assert isinstance(dialog, ExportDialog)
    for words in _needs():
        # What is typed after a pause is searched for anew.
        QTest.qWait(QApplication.keyboardInputInterval() + 50)
        hands.gestures += 2
        QTest.keyClicks(dialog.shelves, words.split()[0])
        if dialog.shelves.currentItem().checkState(0) is not Qt.CheckState.Checked:
            QTest.keyClick(dialog.shelves, Qt.Key.Key_Space)
    hands.gestures += 1
    QTest.keyClick(dialog, ENTER)
    office = elsewhere()
    office.press(Qt.Key.Key_F3)
    office.type("import macros")
    office.gestures += 1
    QTest.keyClick(_dialog(office, TakeIn), ENTER)
    assert bundle.is_file()
    _are_there(office, hands)


def _push_in(hands: Hands, dialog: QWidget, name: str) -> None:
    hands.gestures += 1
    QTest.mouseClick(dialog.findChild(QWidget, name), Qt.MouseButton.LeftButton)
    QApplication.processEvents()


# A block with a bold heading into a note

BLOCK = (
    "note",
    "do embolden on=yes",
    'write "Hazardous goods\\n"',
    "do embolden on=no",
    '"Stow on the open deck.',
)


def _stands_in_a_note(hands: Hands, later_letters: LettersLater) -> None:
    letters = later_letters()
    worker = letters_at(hands, letters)
    letters.type("Lane 4")
    run_here(worker, "Deck note")
    assert letters.text.startswith("Lane 4")
    note = letters.html.partition("<table")[2]
    assert re.search(r"font-weight:[67]00;\">Hazardous goods<", note)
    assert re.search(r"[^>]*>Stow on the open deck\.<", note)
    assert "font-weight" not in note.partition("Hazardous goods")[2]


def test_block_by_mouse(hands: Hands, at_most: AtMost, later_letters: LettersLater) -> None:
    at_most(7)
    hands.studio.push("place-macros")
    hands.push("macro-new")
    hands.write_over("Deck note")
    for words in BLOCK:
        hands.type(words)
    _stands_in_a_note(hands, later_letters)


def test_block_by_keys(hands: Hands, at_most: AtMost, later_letters: LettersLater) -> None:
    at_most(7)
    hands.studio.push("place-macros")
    hands.press(Qt.Key.Key_N, CTRL)
    hands.write_over("Deck note")
    for words in BLOCK:
        hands.type(words)
    _stands_in_a_note(hands, later_letters)


# Eleven sheets combined, their headings pointed at; from the document to everyone's shelf

SHEETS, ROWS = 11, 1750
COMBINE = """macro "All in one"
for grid

ask headings "Which rows are headings?" range
set weeks = sheets
do go-to-cell name="{headings}"
do copy
do add-sheet name="All"
do paste
for each week in weeks
  do go-to-sheet name="{week}"
  do go-to-cell name="A2"
  set more = sheet.rows - 2
  do select-block down="{more}" right=3
  do copy
  do go-to-sheet name="All"
  do go-below
  do paste
end
"""


class Answering:
    """How long the window did not answer, at the longest, in milliseconds."""

    def __init__(self, owner: QWidget) -> None:
        self.longest = 0.0
        self._last = perf_counter()
        self._beat = QTimer(owner)
        self._beat.setInterval(0)
        self._beat.timeout.connect(self._tick)
        self._beat.start()

    def _tick(self) -> None:
        now = perf_counter()
        self.longest = max(self.longest, (now - self._last) * 1000)
        self._last = now

    def stop(self) -> None:
        self._beat.stop()


@pytest.fixture
def eleven(grid: Grid) -> Grid:
    """A workbook with a sheet for each of eleven weeks, and the macro kept in it."""
    rows = "\n".join(f"Ovessa\t{n}\t{n * 3}\tNorth" for n in range(ROWS))
    for week in range(1, SHEETS + 1):
        if week == 1:
            grid.do("name-sheet", name="Week 1")
        else:
            grid.do("add-sheet", name=f"Week {week}")
        grid.go("A1")
        grid.do("insert-values", text=f"Vessel\tLane\tWeight\tQuay\n{rows}")
    grid.do("go-to-sheet", name="Week 1")
    grid.document.put_macro("all-in-one", COMBINE)
    grid.document.widget.setFocus()
    return grid


def _ask(grid: Grid) -> None:
    grid.qtbot.waitUntil(lambda: grid.window.asker.pointing is not None)


def _combined(grid: Grid) -> None:
    """All rows are on one sheet, in one undo, and Escape stops it and takes everything back."""
    watch = Answering(grid.window)
    grid.qtbot.waitUntil(lambda: grid.window.dispatcher.run is None, timeout=60_000)
    watch.stop()
    print(f"\nthe longest that the window did not answer: {watch.longest:.0f} ms")
    sheet = grid.document.book.sheet("All")
    assert sheet is not None
    assert sheet.height == 1 + SHEETS * ROWS
    assert [sheet.cell(0, column).written for column in range(4)] == ["Vessel", "Lane", "Weight", "Quay"]
    assert sheet.cell(SHEETS * ROWS, 1).written == str(ROWS - 1)
    grid.press(Qt.Key.Key_Z, CTRL)
    assert [known.name for known in grid.document.book.sheets] == WEEKS
    grid.window.dispatcher.perform("macro:all-in-one", {})
    _ask(grid)
    grid.window.asker.pointing.accept()
    grid.qtbot.waitUntil(lambda: grid.document.book.sheet("All") is not None)
    grid.press(Qt.Key.Key_Escape)
    grid.qtbot.waitUntil(lambda: grid.window.dispatcher.run is None)
    assert [known.name for known in grid.document.book.sheets] == WEEKS


WEEKS = [f"Week {week}" for week in range(1, SHEETS + 1)]


def _to_everyone(hands: Hands, move: Callable[[], None]) -> None:
    """The studio sees what is kept in the document that is tried; from there it goes to everyone's shelf."""
    preview = hands.studio.desk.preview
    preview.kept = {"all-in-one": COMBINE}
    preview.kept_changed.emit()
    move()
    assert ("organisation", "all-in-one") in hands.studio.session.workspace.macros


def test_eleven_sheets_by_mouse(hands: Hands, at_most: AtMost, eleven: Grid) -> None:
    grid, worker = eleven, grid_at(hands, eleven)
    at_most(12)
    worker.tab("Calculate")
    worker.push("Macros")
    grid.qtbot.waitUntil(lambda: grid.window.findChild(MacroList) is not None)
    dialog = grid.window.findChild(MacroList)
    hands.gestures += 1
    QTest.mouseClick(dialog.go, Qt.MouseButton.LeftButton)
    _ask(grid)
    cells = grid.document.widget.cells
    for column, held in ((0, Qt.KeyboardModifier.NoModifier), (3, SHIFT)):
        at = cells.visualRect(cells.model().index(0, column)).center()
        worker.click(cells.viewport(), at, held)
    worker.bar("range-go-on")
    _combined(grid)

    def move() -> None:
        hands.push("place-macros")
        hands.push("macro document/all-in-one")
        hands.choose("Move to Everyone")

    _to_everyone(hands, move)


def test_eleven_sheets_by_keys(hands: Hands, at_most: AtMost, eleven: Grid) -> None:
    grid, worker = eleven, grid_at(hands, eleven)
    at_most(12)
    worker.press(Qt.Key.Key_F5, SHIFT)
    grid.qtbot.waitUntil(lambda: grid.window.findChild(MacroList) is not None)
    dialog = grid.window.findChild(MacroList)
    hands.gestures += 1
    QTest.keyClicks(dialog.field, "all in")
    QTest.keyClick(dialog.field, ENTER)
    _ask(grid)
    worker.press(Qt.Key.Key_Home, CTRL)
    for _ in range(3):
        worker.press(RIGHT, SHIFT)
    worker.press(ENTER)
    _combined(grid)

    def move() -> None:
        hands.studio.window.activateWindow()
        hands.studio.desk.focus_place()
        hands.press(Qt.Key.Key_F3)
        hands.type("all in one")
        hands.row_typed("move to everyone")

    _to_everyone(hands, move)
