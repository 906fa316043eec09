"""`make bench`: what matters, each against something everybody can judge, as a ratio measured in one run."""

from __future__ import annotations

import json
import os
import shutil
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from itertools import chain
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"
sys.path.insert(0, str(Path(__file__).parent))

import answering
import cells
import frames
import keys
import memory
import messages
import opening
import pages
import searching
import seats
from rimecrest.demo.office import make_demo

ROUNDS = 7
STEPS = 10_000
Row = tuple[str, str, str, str]


def seconds(action: Callable[[], object]) -> float:
    start = time.perf_counter()
    action()
    return time.perf_counter() - start


def compared(what: str, against: str, action: Callable[[], object], base: Callable[[], object]) -> Row:
    """A row of the table: both measured in turn, the ratio from each pair, medians of all."""
    action(), base()  # what is only slow the first time is not measured
    pairs = [(seconds(action), seconds(base)) for _ in range(ROUNDS)]
    took = statistics.median(pair[0] for pair in pairs)
    other = statistics.median(pair[1] for pair in pairs)
    ratio = statistics.median(pair[0] / pair[1] for pair in pairs)
    return what, f"{took * 1000:,.1f} ms", f"{ratio:.2f} ×", f"{against} ({other * 1000:,.1f} ms)"


def started(*arguments: str) -> Callable[[], object]:
    script = str(Path(__file__).with_name("starting.py"))
    # As installed programs start: with their bytecode written, here into a folder of its own.
    environment = {**os.environ, "PYTHONPYCACHEPREFIX": f"{tempfile.gettempdir()}/rimecrest-bench-bytecode"}
    environment.pop("PYTHONDONTWRITEBYTECODE", None)
    return lambda: subprocess.run(
        [sys.executable, script, *arguments], check=True, capture_output=True, env=environment
    )


def starts(workspace: Path) -> list[Row]:
    programs = {
        "Letters starts": ("letters",),
        "by its command": ("command", "app", "letters"),
        "the studio starts": ("studio", str(workspace)),
        "with its findings": ("found", str(workspace)),
        "and by its command": ("command", "studio", str(workspace)),
    }
    return [
        compared(name, "a bare PyQt6 window", started(*words), started("bare"))
        for name, words in programs.items()
    ]


def edit_to_repaint(workspace: Path, what: str = "one edit, saved, checked, drawn") -> Row:
    """One edit through saving, checking and drawing, against drawing the same window again."""
    from rimecrest.core.workspace.edits import SetFields
    from rimecrest.shell.start import make_qt_application
    from rimecrest.studio.window import StudioWindow

    qt = make_qt_application("Rimecrest")
    window = StudioWindow()
    window.open_folder(workspace)
    window.show()
    qt.processEvents()
    count = iter(range(1_000_000))

    def edit() -> None:
        label = {"label": f"Table {next(count)}"}
        window.session.do(SetFields("department.freight", "letters", "department.freight:table", label))
        qt.processEvents()  # this draws what the edit has changed

    def repaint() -> None:
        qt.processEvents()
        window.grab()

    row = compared(what, "drawing the window again", edit, repaint)
    window.close()
    return row


def _with_many_items(workspace: Path, folder: Path) -> Path:
    """A copy of the workspace with a layout of 400 items more, in ten tabs."""
    copy = folder / "many"
    shutil.copytree(workspace, copy)
    catalogue = json.loads((copy / "catalogues" / "letters.json").read_text("utf-8"))
    verbs = [command["id"] for command in catalogue["commands"] if not command.get("arguments")]
    many = len(verbs)
    path = copy / "layouts" / "department.freight" / "letters.json"
    layout = json.loads(path.read_text("utf-8"))
    for tab in range(10):
        groups = [
            {
                "id": f"g{tab}-{group}",
                "title": f"Group {group}",
                "items": [
                    {
                        "id": f"i{tab}-{group}-{item}",
                        "run": verbs[(tab * 40 + group * 10 + item) % many],
                    }
                    for item in range(10)
                ],
            }
            for group in range(4)
        ]
        layout.setdefault("tabs", []).append({"id": f"t{tab}", "title": f"Tab {tab}", "groups": groups})
    path.write_text(json.dumps(layout))
    return copy


def macro() -> Row:
    """A macro of many steps against the same commands straight through the dispatcher."""
    from rimecrest.core.release.stack import ShelvedMacro, StackState
    from rimecrest.kit.window import AppWindow
    from rimecrest.shell.start import make_qt_application
    from rimecrest_standins.letters.document import LetterDocument
    from rimecrest_standins.letters.letters import declarations

    qt = make_qt_application("Letters")
    window = AppWindow(declarations, LetterDocument, None)
    document = window.document
    window.show()
    text = 'macro "Many"\nfor letters\n' + "do embolden on=yes\n" * STEPS
    window.stack.use(
        StackState(app="letters", macros={"many": ShelvedMacro(layer="organisation", text=text)})
    )
    ended: list[str] = []
    window.dispatcher.run_ended.connect(lambda _name, said: ended.append(said))

    def run() -> None:
        ended.clear()
        window.dispatcher.perform("macro:many")
        while not ended:
            qt.processEvents()

    def straight() -> None:
        document.undo.begin_run("straight")
        for _ in range(STEPS):
            window.dispatcher.perform_or_raise("letters:embolden", {"on": "yes"})
        document.undo.end_run()

    row = compared(f"a macro of {STEPS:,} steps", "its commands straight through", run, straight)
    window.close()
    return row


def main() -> None:
    with tempfile.TemporaryDirectory(prefix="rimecrest-bench-") as scratch:
        # As in a session of a desktop; programs that end in the middle leave their sockets there.
        session = Path(scratch) / "session"
        session.mkdir(mode=0o700)
        os.environ["XDG_RUNTIME_DIR"] = str(session)
        workspace = make_demo(Path(scratch) / "office")
        rows: list[Row] = [*keys.rows(), *starts(workspace), edit_to_repaint(workspace)]
        many = _with_many_items(workspace, Path(scratch))
        rows.append(edit_to_repaint(many, "the same among 400 items more"))
        rows += [macro(), answering.row(), *frames.rows(), *memory.rows(workspace)]
        crowded = seats.with_many_seats(workspace, Path(scratch))
        rows += seats.rows(crowded)
        rows += [
            compared(*each)
            for each in chain(
                searching.comparisons(),
                messages.comparisons(),
                cells.comparisons(),
                pages.comparisons(),
                opening.comparisons(workspace / "catalogues" / "letters.json"),
                seats.comparisons(workspace, crowded),
            )
        ]
    header: Row = ("what", "median", "ratio", "against")
    widths = [max(len(row[column]) for row in (header, *rows)) for column in range(4)]
    for row in (header, *rows):
        print("  ".join(text.ljust(width) for text, width in zip(row, widths, strict=True)).rstrip())


if __name__ == "__main__":
    main()
