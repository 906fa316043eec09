"""Commands that hand something to the desktop: an address, a file, another application to start."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from PyQt6.QtCore import QUrl
from PyQt6.QtGui import QDesktopServices

from rimecrest.core.catalogue.arguments import address_words
from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.paths import clean_path
from rimecrest.core.words import tr
from rimecrest.kit.commands.result import NOT_DONE, CommandResult
from rimecrest.kit.declare import Address, Declarations, Wants
from rimecrest.shell.file_dialogs import ask_open
from rimecrest.shell.installed_programs import start_program


def hand_over(url: QUrl) -> None:
    """Have the desktop open an address or a file. Raises RimecrestError where nothing takes it."""
    if not QDesktopServices.openUrl(url):
        raise RimecrestError(
            tr("Nothing on this computer opens {address}.", address=url.toString()),
            tr("Ask whoever looks after it for a program that does."),
        )


def open_link(address: str) -> None:
    """Have the desktop open an address of the web or of mail.

    Raises:
        RimecrestError: it is of another kind, as one that starts a program; or nothing takes it.
    """
    if not address_words(address):
        raise RimecrestError(
            tr("“{address}” is not opened: it is no address of the web or of mail.", address=address),
            tr("Links begin with https:, http: or mailto:."),
        )
    hand_over(QUrl(address))


def opening(address: str) -> Wants | None:
    """Wants of a command that opens an address."""
    host = address_words(address)
    return Wants(tr("open {host}", host=host), lasting=f"link {host}") if host else None


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
        reaches=lambda doc, to: opening(to),
    )
    def open_address(_doc: Any, to: Address) -> None:
        open_link(to)

    @command(
        "open-outside",
        "Open with its own program",
        about="Open a file with the program that the desktop has for it",
        effects=(Effect.OPENS_FILES, Effect.LEAVES),
        picture="file-export-outline",
        leaves_document=True,
        reaches=lambda doc, path=Path(): (
            Wants(tr("open {path} with its own program", path=path), lasting=f"file {path}")
            if path != Path()
            else None
        ),
    )
    def open_outside(doc: Any, path: Path = Path()) -> CommandResult:
        if path == Path():
            name = ask_open(doc.widget, tr("Open with its own program"))
            if not name:
                return NOT_DONE
            path = Path(name)
        path = clean_path(path)
        if not path.is_file():
            raise RimecrestError(
                tr("There is no file {path}.", path=path), tr("Choose another one, or ask who has it.")
            )
        hand_over(QUrl.fromLocalFile(str(path.absolute())))
        return CommandResult({"path": str(path)})

    @command(
        "start-application",
        "Start another application",
        about="Start an application that is installed on this computer",
        effects=(Effect.LEAVES,),
        picture="application-outline",
        synonyms=("launch", "program", "run"),
        leaves_document=True,
        reaches=lambda doc, application: Wants(
            tr("start the application {application}", application=application),
            lasting=f"application {application}",
        ),
    )
    def start_application(_doc: Any, application: str) -> None:
        start_program(application)
