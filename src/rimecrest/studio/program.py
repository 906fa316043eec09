"""Starting the studio."""

from __future__ import annotations

import os
from pathlib import Path

from platformdirs import user_data_path
from PyQt6.QtCore import QProcess

from rimecrest.link.launch import FIRST_MAIL, own_command
from rimecrest.shell.start import make_qt_application, run
from rimecrest.studio.window import StudioWindow


def run_studio(workspace: Path | None) -> int:
    """Run the studio until its window closes. Returns the exit status."""
    qt = make_qt_application("Rimecrest")
    window = StudioWindow()
    window.demo_wanted.connect(lambda: open_demo(window))
    if workspace is None:
        window.show_start()
    else:
        window.open_folder(workspace)
    window.show()
    window.activateWindow()
    # Told to end by the session, no window was closed: give the lock back and end what is being tried.
    qt.aboutToQuit.connect(window.close)
    return run(qt)


def open_demo(window: StudioWindow) -> None:
    """Have the demo written by a process of its own, then open it."""
    folder = user_data_path("rimecrest") / "demo"
    os.environ[FIRST_MAIL] = str(folder / "mail")
    if (folder / "vessry" / "workspace.json").is_file():
        window.open_folder(folder / "vessry")
        return
    process = QProcess(window)
    process.finished.connect(lambda *_: window.open_folder(folder / "vessry"))
    program, *arguments = own_command("demo", "--make", str(folder))
    process.start(program, arguments)
