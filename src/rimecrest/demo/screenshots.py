"""The pictures of the manual: one per main view, 1280 × 800, from the demo."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Callable
from pathlib import Path

from rimecrest.demo.vessry import make_demo


def take_screenshots(folder: Path) -> None:
    """Draw every main view without a screen and write the pictures into `folder`."""
    os.environ["QT_QPA_PLATFORM"] = "offscreen"
    folder.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(prefix="rimecrest-pictures-") as scratch:
        os.environ["XDG_RUNTIME_DIR"] = scratch
        workspace = make_demo(Path(scratch))
        _studio(folder, workspace)
        _letters(folder, workspace)


def _settle() -> None:
    from PyQt6.QtWidgets import QApplication

    for _ in range(40):
        QApplication.processEvents()


def _studio(folder: Path, workspace: Path) -> None:
    from PyQt6.QtTest import QTest
    from PyQt6.QtWidgets import QWidget

    from rimecrest.embed.program import make_qt_application
    from rimecrest.studio.window import Desk, StudioWindow

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
    assert isinstance(desk, Desk)
    place = desk.layout_place
    _settle()
    shoot("layout")
    for letter in "sai":
        QTest.keyClick(place.overlay, letter)  # type: ignore[call-overload]
    shoot("layout-caret")
    place.put_target("macro:sailing-notice")
    place.stage.frame.choose_tab("organisation:notices")
    place.open_card("department.freight:sailing-notice")
    place.card.wants.emit(place.card.key_edit("Ctrl+J, F"))
    _settle()
    place.card._offer_key("Ctrl+J, N")
    shoot("layout-card")
    place.card.shut()
    _open = desk.findChild(QWidget, "strip")
    assert _open is not None
    desk.sheet._everything = True
    desk._open_sheet()
    shoot("findings")
    desk.sheet.shut()
    desk.finder.setText("not")
    desk.finder.textEdited.emit("not")
    shoot("finder")
    desk.finder._close()
    desk.go("Macros")
    desk.macros.open(("organisation", "sailing-notice"))
    desk.macros.steps.choose((2, 2))
    shoot("macros")
    desk.go("Roll-out")
    cells = [cell for _, row in desk.rollout.comb._combs for cell in row]
    next(cell for cell in cells if cell.seat.seat.seat == "Care 9").click()
    shoot("roll-out")
    window.turn_scheme()
    desk = window.desk
    desk.go("Layout")
    shoot("layout-dark")
    window.close()


def _letters(folder: Path, workspace: Path) -> None:
    from rimecrest.apps.letters.document import LetterDocument
    from rimecrest.apps.letters.letters import declarations
    from rimecrest.core.release import draft_stack
    from rimecrest.core.workspace import read_workspace
    from rimecrest.embed.window import AppWindow

    window = AppWindow(declarations, LetterDocument, None)
    document = window.document
    window.resize(1280, 800)
    window.show()
    opened = read_workspace(workspace)
    window.take_over(draft_stack(opened, ("organisation", "department.freight"), "letters"))
    steps: list[Callable[[], object]] = [
        lambda: window.dispatcher.perform("letters:style-paragraph", {"to": "heading"}),
        lambda: window.dispatcher.write("Notice to passengers of Corran"),
        lambda: window.dispatcher.perform("letters:new-line"),
        lambda: window.dispatcher.write("The sailing at 07:55 leaves from the fish quay on Monday."),
        lambda: window.dispatcher.perform("letters:new-line"),
        lambda: window.dispatcher.perform("letters:insert-table", {"rows": "3", "columns": "3"}),
    ]
    for step in steps:
        step()
    words = ("Sailing", "Vessel", "Quay", "07:10", "Ailsa", "North", "07:55", "Corran", "Fish quay")
    for number, word in enumerate(words):
        window.dispatcher.write(word)
        if number + 1 < len(words):
            window.dispatcher.perform("letters:next-cell")
    window.frame.say("")
    window.document.widget.clearFocus()
    _settle()
    window.grab().save(str(folder / "letters.png"))
    print(folder / "letters.png")
    document.saved()
    window.close()
