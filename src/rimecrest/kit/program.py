"""Starting an application as a process of its own."""

from __future__ import annotations

import argparse
import tempfile
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import Qt

from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import write_atomically
from rimecrest.core.model import dump_record
from rimecrest.core.release.profile import Profile, default_folder
from rimecrest.kit.declare import Declarations
from rimecrest.kit.documents.document import Document, Documents
from rimecrest.kit.documents.open_documents import OpenDocuments
from rimecrest.kit.window import AppWindow
from rimecrest.shell.start import make_qt_application, run

MakeDocument = Callable[[Documents], Document]


def run_application(
    declarations: Declarations,
    make_document: MakeDocument,
    profile: Path | None,
    path: Path | None,
) -> int:
    """Run an application until its window closes. Returns the exit status."""
    qt = make_qt_application(declarations.title)
    window = AppWindow(declarations, make_document, Profile(profile) if profile else None)
    if path is not None:
        try:
            window.documents.open(path)
        except RimecrestError as error:
            window.frame.say(str(error))
    window.retitle()
    window.show()
    window.document.widget.setFocus()
    return run(qt)


def describe(
    declarations: Declarations, make_document: Callable[[Documents], Document], folder: Path
) -> None:
    """Write `<app>.json`, the catalogue, and `<app>.png`, a picture of an empty document."""
    make_qt_application(declarations.title)
    # On a profile of its own: nothing of whoever sits here is in the picture.
    with tempfile.TemporaryDirectory(prefix="rimecrest-describe-") as scratch:
        documents = OpenDocuments(make_document, Path(scratch))
        document = documents.current
        # Laid out as on a screen, without being on one.
        documents.widget.setAttribute(Qt.WidgetAttribute.WA_DontShowOnScreen)
        documents.widget.resize(1200, 620)
        documents.widget.show()
        catalogue = declarations.catalogue()
        write_atomically(folder / f"{declarations.app}.json", dump_record(catalogue, "catalogue").encode())
        document.picture().save(str(folder / f"{declarations.app}.png"))


def enrolled_here() -> Path | None:
    """The profile of whoever is logged in; None where none was enrolled."""
    folder = default_folder()
    return folder if (folder / "seat.json").is_file() else None


def start(
    declarations: Declarations,
    make_document: MakeDocument,
    arguments: list[str] | None = None,
) -> int:
    """The `main` of an application: run it, or, with `--describe`, write its catalogue and end."""
    parser = argparse.ArgumentParser(prog=f"rimecrest app {declarations.app}", description=declarations.title)
    parser.add_argument(
        "--profile",
        type=Path,
        help="the seat's profile folder; else your own, if enrolled",
    )
    parser.add_argument("--describe", type=Path, metavar="DIR", help="write the catalogue there, and end")
    parser.add_argument("file", type=Path, nargs="?", help="a file to open")
    given = parser.parse_args(arguments)
    if given.describe:
        describe(declarations, make_document, given.describe)
        return 0
    return run_application(declarations, make_document, given.profile or enrolled_here(), given.file)
