"""Start one program up to its first painted window, tell its memory in KiB, and end: bare, letters or studio.

usage: starting.py bare|letters|studio|found [WORKSPACE]

`found` is the studio with its findings and what would mend the worst one, which come after the first paint.
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
    from rimecrest.apps.letters.document import LetterDocument
    from rimecrest.apps.letters.letters import declarations
    from rimecrest.embed.window import AppWindow
    from rimecrest.shell.start import make_qt_application

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


if __name__ == "__main__":
    if sys.argv[1] != "bare":
        from rimecrest.core import starting

        starting.hold()  # as the command line does
    {"bare": bare, "letters": letters, "studio": studio, "found": found}[sys.argv[1]](*sys.argv[2:])
    status = Path("/proc/self/status").read_text()
    print(next(line.split()[1] for line in status.splitlines() if line.startswith("VmHWM")), flush=True)
    os._exit(0)  # the end of a program is not what is measured
