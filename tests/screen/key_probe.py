"""A real window of an application that tells which binding each key press came to, instead of doing it.

usage: key_probe.py APP WORKSPACE LAYER KEYBOARD      (a process of its own, driven by its standard input)

A line on the input names the context that is live from then on; `ready` answers it. Every binding that is
resolved is printed by its identity; F12, which nothing has, prints `end`.
"""

from __future__ import annotations

import sys
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QEvent, QObject, QSocketNotifier
from PyQt6.QtGui import QKeyEvent

from rimecrest.core.keys.traits import Traits
from rimecrest.core.release.stack_sources import draft_stack
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.kit.window import AppWindow
from rimecrest.shell.key_codes import chord_of
from rimecrest.shell.start import make_qt_application


def say(words: str) -> None:
    print(words, flush=True)


class End(QObject):
    """Tells F12, before anything else sees it."""

    def __init__(self, clear: Callable[[], None]) -> None:
        super().__init__()
        self._clear = clear

    def eventFilter(self, _watched: QObject | None, event: QEvent | None) -> bool:
        if event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            chord = chord_of(event)
            if chord is not None and chord.key == "F12":
                self._clear()
                say("end")
                return True
        return False


def main(app: str, folder: str, layer: str, board: str) -> None:
    qt = make_qt_application(app)
    workspace = read_workspace(Path(folder))
    if app == "letters":
        from rimecrest_standins.letters.document import LetterDocument as Document
        from rimecrest_standins.letters.letters import declarations
    else:
        from rimecrest_standins.grid.document import GridDocument as Document  # type: ignore[assignment]
        from rimecrest_standins.grid.grid import declarations
    window = AppWindow(declarations, Document, None)
    live = "anywhere"
    window.keys.live = lambda: window.catalogue.context_tree.live([live])  # type: ignore[method-assign]
    window.frame.press_access = lambda _letter: False  # type: ignore[method-assign]
    # Tab may have gone into a panel, in a context in which nothing else has it.
    window.panels.passes = lambda _chord: False  # type: ignore[method-assign]
    window.take_over(draft_stack(workspace, workspace.stack_up_to(layer), app, Traits(keyboard=board)))
    window.keys.resolved.disconnect()
    window.keys.resolved.connect(lambda binding: say(binding.id))

    def other_context(_socket: int) -> None:
        nonlocal live
        live = sys.stdin.readline().strip()
        window.keys.give_up()
        say("ready")

    notifier = QSocketNotifier(sys.stdin.fileno(), QSocketNotifier.Type.Read, window)
    notifier.activated.connect(other_context)
    window.show()
    end = End(window.keys.give_up)
    window.windowHandle().installEventFilter(end)
    window.activateWindow()
    say("here")
    qt.exec()


if __name__ == "__main__":
    main(*sys.argv[1:])
