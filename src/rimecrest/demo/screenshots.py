"""The pictures of the manual: one per main view, 1280 × 800, from the demo."""

from __future__ import annotations

import os
import tempfile
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from rimecrest.demo.office import make_demo
from rimecrest.kit.documents.file_document import in_a_file
from rimecrest.shell.there import there

if TYPE_CHECKING:
    from rimecrest.studio.desk import Desk
    from rimecrest.studio.macros.place import MacrosPlace


NOON = 1_790_071_200.0
"""The moment at which pictures of times are made: 22 September 2026, 10:00 UTC."""


def take_screenshots(folder: Path) -> None:
    """Draw every main view without a screen and write the pictures into `folder`."""
    os.environ["QT_QPA_PLATFORM"] = "offscreen"
    folder.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(prefix="rimecrest-pictures-") as scratch:
        os.environ["XDG_RUNTIME_DIR"] = scratch
        os.environ["XDG_DATA_HOME"] = f"{scratch}/data"
        workspace = make_demo(Path(scratch))
        _studio(folder, workspace)
        _letters(folder, workspace)
        _grid(folder, workspace)
        _post(folder, workspace)


def _settle() -> None:
    from PyQt6.QtWidgets import QApplication

    for _ in range(40):
        QApplication.processEvents()


def _studio(folder: Path, workspace: Path) -> None:
    from PyQt6.QtCore import Qt
    from PyQt6.QtTest import QTest
    from PyQt6.QtWidgets import QWidget

    from rimecrest.shell.start import make_qt_application
    from rimecrest.studio.layout.place import LayoutPlace
    from rimecrest.studio.macros.place import MacrosPlace
    from rimecrest.studio.rollout.place import RolloutPlace
    from rimecrest.studio.shared.place import Thing
    from rimecrest.studio.window import StudioWindow

    make_qt_application("Rimecrest")
    window = StudioWindow()
    window.show()

    def shoot(name: str) -> None:
        _settle()
        window.grab().save(str(folder / f"{name}.png"))
        print(folder / f"{name}.png")

    window.show_start()
    shoot("start")
    window.open_folder(workspace)
    desk = window.desk
    assert desk is not None
    desk.session.history.clock = partial(float, NOON - 3 * 24 * 3600)
    place = desk.place(LayoutPlace)
    _settle()
    shoot("layout")
    for letter in "sai":
        QTest.keyClick(place.overlay, letter)  # type: ignore[call-overload]  # the stubs forget strings and keys
    shoot("layout-caret")
    place.put_target("macro:sailing-notice")
    place.stage.frame.choose_tab("organisation:notices")
    place.open_card("department.freight:sailing-notice")
    place.card.wants.emit(place.card.key_edit("Ctrl+J, F"))
    _settle()
    place.card.offer_key("Ctrl+J, N")
    shoot("layout-card")
    place.card.shut()
    _pictures(desk, shoot)
    _as_it_was(desk, shoot)
    _open = desk.findChild(QWidget, "strip")
    assert _open is not None
    desk.open_findings(everything=True)
    shoot("findings")
    desk.sheet.shut()
    desk.finder.setText("not")
    desk.finder.textEdited.emit("not")
    shoot("finder")
    QTest.keyClick(desk.finder, Qt.Key.Key_Escape)  # type: ignore[call-overload]  # the stubs forget strings and keys
    _panel(desk, shoot)
    desk.go("Macros")
    _try_out(desk.place(MacrosPlace))
    shoot("macros")
    _finish(desk.place(MacrosPlace))
    shoot("recorded")
    desk.session.undo()
    _keys(desk, shoot)
    desk.go("Roll-out")
    desk.place(RolloutPlace).show_thing(Thing("seat", "Care 9"))
    shoot("roll-out")
    window.turn_scheme()
    desk = there(window.desk)
    desk.go("Layout")
    shoot("layout-dark")
    window.close()


def _pictures(desk: Desk, shoot: Callable[[str], None]) -> None:
    """The picture of a button, as it is drawn."""
    from PyQt6.QtWidgets import QWidget

    from rimecrest.core.pictures.drawing import Drawing, Mirror
    from rimecrest.studio.layout.place import LayoutPlace
    from rimecrest.studio.pictures.chooser import DRAWN, PictureChooser
    from rimecrest.studio.shared.sentence_widgets import Word

    place = desk.place(LayoutPlace)
    place.open_card("department.freight:table")
    place.card.findChild(Word, "card-picture").click()
    chooser = there(desk.window()).findChildren(QWidget, "picture-chooser")[-1]
    assert isinstance(chooser, PictureChooser)
    chooser.turn_to(DRAWN)
    posts = [(x, y) for x in (3, 4) for y in range(3, 17)]
    lane = Drawing.empty(20).painted(posts, "crest", Mirror.ACROSS)
    lane = lane.painted([(x, y) for x in (9, 10) for y in (4, 5, 9, 10, 14, 15)], "asks")
    chooser.drawn.canvas.show_drawing(lane)
    chooser.drawn.canvas.drawn.emit(lane)
    chooser.drawn.canvas.setFocus()
    shoot("pictures")
    chooser.close()
    place.card.shut()
    desk.session.undo()


def _as_it_was(desk: Desk, shoot: Callable[[str], None]) -> None:
    """Yesterday's layout on the stage; the day is the same whenever the picture is made."""
    from rimecrest.core.workspace.edits import SetFields, TakeOff
    from rimecrest.studio.layout.place import LayoutPlace

    here, history = ("department.freight", "letters"), desk.session.history
    now = NOON
    for at, edit in (
        (now - 26 * 3600, SetFields(*here, "department.freight:table", {"label": "Lanes"}, "call it Lanes")),
        (now - 3 * 3600, TakeOff(*here, ("department.freight:numbered",))),
        (
            now - 600,
            SetFields(*here, "department.freight:hazard-note", {"label": "Hazard"}, "call it Hazard"),
        ),
    ):
        history.clock = partial(float, at)
        desk.session.do(edit)
    history.clock = partial(float, now)
    place = desk.place(LayoutPlace)
    place.past.open()
    shoot("as-it-was")
    place.past.sheet.shut()
    for _ in range(3):
        desk.session.undo()


def _panel(desk: Desk, shoot: Callable[[str], None]) -> None:
    """A panel on the stage, with the card of one of its controls."""
    from rimecrest.studio.layout.place import LayoutPlace
    from rimecrest.studio.shared.edit_target import EditTarget

    before = desk.session.aim
    desk.session.aim_at(EditTarget("department.freight", "grid", "Freight 1", 1024))
    place = desk.place(LayoutPlace)
    place.overlay.enter("department.freight:lanes")
    place.open_card("department.freight:day")
    shoot("panel")
    place.control_card.shut()
    desk.session.aim_at(before)


def _keys(desk: Desk, shoot: Callable[[str], None]) -> None:
    """The key bed with a key that blocks, with suggestions, and with an arrangement."""
    from rimecrest.core.search import Match
    from rimecrest.studio.keys.place import KeysPlace
    from rimecrest.studio.shared.edit_target import EditTarget

    before = desk.session.aim
    desk.session.aim_at(EditTarget("organisation", "grid", "Freight 3", 1024))
    desk.go("Keys")
    desk.place(KeysPlace).show_keys("Ctrl+J, [")
    shoot("keys")
    desk.session.aim_at(EditTarget("department.freight", "grid", "Freight 3", 1024))
    desk.place(KeysPlace).suggest_for(Match("macro", "macro:close-the-booking", "Close the booking"))
    shoot("keys-suggested")
    desk.place(KeysPlace).begin_arranging()
    shoot("keys-arranged")
    desk.place(KeysPlace).arranger.end()
    desk.session.aim_at(before)


def _wait_for(done: Callable[[], bool]) -> None:
    """Let the windows go on until something has come. Gives up after half a minute."""
    from PyQt6.QtWidgets import QApplication

    end = time.monotonic() + 30
    while not done() and time.monotonic() < end:
        QApplication.processEvents()
        time.sleep(0.01)


def _try_out(macros: MacrosPlace) -> None:
    """A trial of the weather box, with one step changed since."""
    macros.open(("department.freight", "weather-box"))
    macros.trial.run_all()
    _wait_for(lambda: macros.trial.question is not None)
    macros.trial.answer(["North sound"])
    _wait_for(lambda: not macros.trial.running)
    macros.change_word((4,), "text", "Sailings may change at short notice today.")
    macros.steps.choose((1, 2))


def _finish(macros: MacrosPlace) -> None:
    """A recording has just ended."""
    text = (
        'macro "Weather line"\nabout ""\nfor letters\n\nwrite "Weather: storm"\ndo select-written\n'
        "do embolden on=yes\ndo go-to-paragraph-end\ndo new-line\n"
    )
    macros.recording.take_recorded("Weather line", text, "letters")


def _grid(folder: Path, workspace: Path) -> None:
    from rimecrest.core.release.stack_sources import draft_stack
    from rimecrest.core.workspace.folder import read_workspace
    from rimecrest.kit.window import AppWindow
    from rimecrest_standins.grid.document import GridDocument
    from rimecrest_standins.grid.grid import declarations

    window = AppWindow(declarations, GridDocument, None)
    window.resize(1280, 800)
    window.show()
    opened = read_workspace(workspace)
    window.take_over(draft_stack(opened, ("organisation", "department.freight"), "grid"))
    steps: tuple[tuple[str, dict[str, str]], ...] = (
        ("open", {"path": "companions/berth-plan.ods", "sheet": "Monday"}),
        ("go-to-cell", {"name": "A1"}),
        ("mark-heading", {}),
        ("go-to-cell", {"name": "D9"}),
        ("insert-sum", {}),
        ("set-cell", {"to": "=SUM(D2:D8)"}),
        ("go-to-cell", {"name": "B4"}),
        ("write-note", {}),
    )
    for verb, args in steps:
        window.dispatcher.perform(f"grid:{verb}", args)
    window.dispatcher.write("weighed at the gate")
    window.dispatcher.perform("grid:keep-note", {})
    window.dispatcher.perform("grid:go-to-cell", {"name": "D2:E8"})
    window.recorder.start("Lane check")
    window.dispatcher.perform("grid:go-to-cell", {"name": "D2"}, by_hand=True)
    window.dispatcher.perform("grid:sort-descending", {}, by_hand=True)
    window.dispatcher.perform("grid:embolden", {}, by_hand=True)
    window.frame.say("")
    _settle()
    window.grab().save(str(folder / "grid.png"))
    print(folder / "grid.png")
    window.recorder.throw_away()
    for document in window.documents.all:
        in_a_file(document).saved()
    window.close()


def _letters(folder: Path, workspace: Path) -> None:
    from rimecrest.core.release.stack_sources import draft_stack
    from rimecrest.core.workspace.folder import read_workspace
    from rimecrest.kit.window import AppWindow
    from rimecrest_standins.letters.document import LetterDocument
    from rimecrest_standins.letters.letters import declarations

    window = AppWindow(declarations, LetterDocument, None)
    document = window.document
    window.resize(1280, 800)
    window.show()
    opened = read_workspace(workspace)
    window.take_over(draft_stack(opened, ("organisation", "department.freight"), "letters"))
    steps: list[Callable[[], object]] = [
        lambda: window.dispatcher.perform("letters:style-paragraph", {"to": "heading"}),
        lambda: window.dispatcher.write("Notice to passengers of Ovessa"),
        lambda: window.dispatcher.perform("letters:new-line"),
        lambda: window.dispatcher.write("The sailing at 07:55 leaves from the fish quay on Monday."),
        lambda: window.dispatcher.perform("letters:new-line"),
        lambda: window.dispatcher.perform("letters:insert-table", {"rows": "3", "columns": "3"}),
    ]
    for step in steps:
        step()
    words = ("Sailing", "Vessel", "Quay", "07:10", "Brinholt", "North", "07:55", "Ovessa", "Fish quay")
    for number, word in enumerate(words):
        window.dispatcher.write(word)
        if number + 1 < len(words):
            window.dispatcher.perform("letters:next-cell")
    window.frame.say("")
    window.document.widget.clearFocus()
    _settle()
    window.grab().save(str(folder / "letters.png"))
    print(folder / "letters.png")
    in_a_file(document).saved()
    window.close()


def _post(folder: Path, workspace: Path) -> None:
    from rimecrest.core.release.stack_sources import draft_stack
    from rimecrest.core.workspace.folder import read_workspace
    from rimecrest.kit.window import AppWindow
    from rimecrest_standins.post.mailbox import MailboxDocument
    from rimecrest_standins.post.post import declarations

    window = AppWindow(declarations, MailboxDocument, None)
    window.resize(1280, 800)
    window.show()
    opened = read_workspace(workspace)
    window.take_over(draft_stack(opened, ("organisation", "department.care"), "post"))
    for verb, args in (
        ("choose-message", {"name": "Late on Monday"}),
        ("flag-message", {}),
        ("reply", {}),
        ("go-to-document", {"name": "Inbox"}),
        ("choose-message", {"name": "Berths of the week"}),
    ):
        window.dispatcher.perform(f"post:{verb}", args)
    window.frame.say("")
    window.news.hide()
    _settle()
    window.grab().save(str(folder / "post.png"))
    print(folder / "post.png")
    for document in window.documents.all[1:]:
        in_a_file(document).saved()
    window.close()
