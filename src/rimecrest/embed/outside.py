"""Commands that hand something to the desktop: an address, a file, another application to start."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from PyQt6.QtCore import QUrl
from PyQt6.QtGui import QDesktopServices
from PyQt6.QtWidgets import QFileDialog

from rimecrest.core.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.paths import clean_path
from rimecrest.core.words import tr
from rimecrest.embed.declare import Address, Declarations
from rimecrest.embed.document import NOT_DONE, Reached
from rimecrest.shell.installed_programs import start_program


def hand_over(url: QUrl) -> None:
    """Have the desktop open an address or a file. Raises RimecrestError where nothing takes it."""
    if not QDesktopServices.openUrl(url):
        raise RimecrestError(
            tr("Nothing on this computer opens {address}.", address=url.toString()),
            tr("Ask whoever looks after it for a program that does."),
        )


def declare_outside(declarations: Declarations) -> None:
    """Declare opening an address, and a file with the desktop's own program."""
    command = declarations.command

    @command(
        "open-address",
        "Open an address",
        about="Open an address of the web, or write to a mail address",
        effects=(Effect.OPENS_LINKS,),
        picture="link-box-variant-outline",
        synonyms=("link", "page", "mailto"),
        leaves_document=True,
    )
    def open_address(doc: Any, to: Address) -> None:
        hand_over(QUrl(to))

    @command(
        "open-outside",
        "Open with its own program",
        about="Open a file with the program that the desktop has for it",
        effects=(Effect.OPENS_FILES,),
        picture="file-export-outline",
        leaves_document=True,
    )
    def open_outside(doc: Any, path: Path = Path()) -> Reached:
        if path == Path():
            name, _ = QFileDialog.getOpenFileName(doc.widget, tr("Open with its own program"))
            if not name:
                return NOT_DONE
            path = Path(name)
        path = clean_path(path)
        if not path.is_file():
            raise RimecrestError(
                tr("There is no file {path}.", path=path), tr("Choose another one, or ask who has it.")
            )
        hand_over(QUrl.fromLocalFile(str(path.absolute())))
        return Reached({"path": str(path)})

    @command(
        "start-application",
        "Start another application",
        about="Start an application that is installed on this computer",
        effects=(Effect.LEAVES,),
        picture="application-outline",
        synonyms=("launch", "program", "run"),
        leaves_document=True,
    )
    def start_application(doc: Any, application: str) -> None:
        start_program(application)
