"""Start one program up to its first painted window, tell its memory in KiB, and end: bare, letters or studio.

usage: starting.py bare|letters|studio|found|command [WORKSPACE|WORDS]

`found` is the studio with its findings and what would mend the worst one, which come after the first paint;
`command` is `rimecrest WORDS`, as people start it.
"""

from __future__ import annotations

import os
import sys
from pathlib import Path


def bare() -> None:
    from PyQt6.QtWidgets import QApplication, QWidget

    qt = QApplication([])
    window = QWidget()
    window.resize(1024, 720)
    window.show()
    qt.processEvents()
    window.grab()


def letters() -> None:
    from rimecrest.kit.window import AppWindow
    from rimecrest.shell.start import make_qt_application
    from rimecrest_standins.letters.document import LetterDocument
    from rimecrest_standins.letters.letters import declarations

    qt = make_qt_application("Letters")
    window = AppWindow(declarations, LetterDocument, None)
    window.show()
    qt.processEvents()
    window.grab()
    window.server.close()


def studio(workspace: str, found: bool = False) -> None:
    from rimecrest.shell.start import make_qt_application
    from rimecrest.studio.window import StudioWindow

    qt = make_qt_application("Rimecrest")
    window = StudioWindow()
    window.open_folder(Path(workspace))
    window.show()
    qt.processEvents()
    while found and not (window.session and window.session.is_checked):
        qt.processEvents()
    window.grab()
    window.server.close()


def found(workspace: str) -> None:
    studio(workspace, found=True)


def command(*words: str) -> None:
    from rimecrest.cli import main  # before the toolkit, as in the real program

    def painted() -> None:
        qt = QApplication.instance()
        assert isinstance(qt, QApplication)
        qt.processEvents()
        next(window for window in qt.topLevelWidgets() if window.isVisible()).grab()
        tell_and_end()

    from PyQt6.QtWidgets import QApplication

    QApplication.exec = staticmethod(painted)  # type: ignore[method-assign,assignment]
    sys.argv[1:] = words
    main()


def tell_and_end() -> None:
    status = Path("/proc/self/status").read_text()
    print(next(line.split()[1] for line in status.splitlines() if line.startswith("VmHWM")), flush=True)
    os._exit(0)  # the end of a program is not what is measured


PROGRAMS = {"bare": bare, "letters": letters, "studio": studio, "found": found, "command": command}

if __name__ == "__main__":
    PROGRAMS[sys.argv[1]](*sys.argv[2:])
    tell_and_end()
