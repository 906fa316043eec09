"""The commands of an application whose documents lie in files. Declared once, for all of them."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Annotated, Any, Literal

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.paths import clean_path
from rimecrest.core.words import tr
from rimecrest.kit.commands.leaving import writing
from rimecrest.kit.commands.result import NOT_DONE, CommandResult
from rimecrest.kit.declare import Among, Declarations, Wants
from rimecrest.kit.documents.document import Document
from rimecrest.kit.documents.file_document import FileDocument, in_a_file
from rimecrest.shell.file_dialogs import ask_open


def ask_for_file(doc: FileDocument, title: str) -> Path | None:
    """Ask which file to open; None when none was chosen."""
    name = ask_open(doc.widget, title, str(doc.path or ""), doc.kinds)
    return Path(name) if name else None


def open_at(
    doc: FileDocument, path: Path, name: str, place: str, go: Callable[[Any, str], object]
) -> CommandResult:
    """What `open` does: ask for a file where none is named, open it, and go to a place in it.

    Args:
        name: what the place is called among the command's arguments; it is empty where nobody named one.
    """
    if path == Path():
        asked = ask_for_file(doc, tr("Open a {noun}", noun=doc.noun))
        if asked is None:
            return NOT_DONE
        path = asked
    path = clean_path(path)
    opened = in_a_file(doc.documents.open(path))
    if place:
        go(opened, place)
    return CommandResult(
        {"path": str(path), **({name: place} if place else {})}, says=opened.said_of_unkept()
    )


def where_to(doc: FileDocument, path: Path, title: str, ending: str = "", kinds: str = "") -> Path | None:
    """Where a command writes to: the path that it was given, cleaned, or one that is asked for."""
    if path == Path():
        asked = doc.ask_where(title, ending, kinds)
        if asked is None:
            return None
        path = asked
    return clean_path(path)


def _written(doc: FileDocument, path: Path) -> Wants | None:
    return writing(doc.with_ending(clean_path(path))) if path != Path() else None


def declare_new(declarations: Declarations, noun: str) -> None:
    """Declare beginning another `noun`."""

    @declarations.command(
        "new",
        "New",
        about=f"Begin a new {noun}",
        keys="Ctrl+N",
        effects=(Effect.CREATES,),
        picture="file-plus-outline",
        everyday=True,
    )
    def new(doc: Document) -> None:
        doc.documents.begin()


def declare_files(declarations: Declarations, noun: str) -> None:  # noqa: C901  one command after the other
    """Declare new, save, close and their like for an application whose documents are `noun`s in files."""
    command = declarations.command
    declare_new(declarations, noun)

    @command(
        "new-from",
        f"New {noun} from a file",
        about=f"Begin a new {noun} that starts as a copy of a file",
        effects=(Effect.CREATES, Effect.OPENS_FILES),
        picture="file-document-plus-outline",
    )
    def new_from(doc: FileDocument, path: Path = Path()) -> CommandResult:
        if path == Path():
            asked = ask_for_file(doc, tr("Begin from this file"))
            if asked is None:
                return NOT_DONE
            path = asked
        path = clean_path(path)
        document = in_a_file(doc.documents.begin())
        try:
            document.open_path(path)
        except RimecrestError:
            if len(doc.documents.all) > 1 and document is not doc:
                doc.documents.close(document)
            raise
        document.made_from(path)
        document.undo.changed.emit()
        return CommandResult({"path": str(path)})

    @command(
        "save",
        "Save",
        about=f"Save the {noun}",
        keys="Ctrl+S",
        picture="content-save-outline",
        everyday=True,
        effects=(Effect.OVERWRITES,),
        leaves_document=True,
        reaches=lambda doc: (
            writing(doc.path, own=not doc.changed_outside())
            if doc.path is not None and doc.keeps_all(doc.path) and not doc.unkept
            else None
        ),
    )
    def save(doc: FileDocument) -> CommandResult | None:
        if not doc.save():
            return NOT_DONE
        return CommandResult(says=doc.remark) if doc.remark else None

    @command(
        "save-as",
        "Save under a name",
        about=f"Save the {noun} under another name",
        keys="Ctrl+Shift+S",
        effects=(Effect.CREATES, Effect.OVERWRITES),
        picture="content-save-edit-outline",
        leaves_document=True,
        reaches=lambda doc, path=Path(): _written(doc, path),
    )
    def save_as(doc: FileDocument, path: Path = Path()) -> CommandResult:
        place = where_to(doc, path, tr("Save the {noun}", noun=noun))
        if place is None:
            return NOT_DONE
        path = doc.with_ending(place)
        doc.save_to(path)
        return CommandResult({"path": str(path)})

    @command(
        "save-for-sending",
        "Save for sending",
        about=f"Save a copy of the {noun} to send; macros kept in it stay behind unless you say otherwise",
        effects=(Effect.CREATES, Effect.OVERWRITES),
        picture="email-arrow-right-outline",
        leaves_document=True,
        reaches=lambda doc, path=Path(), macros="": _written(doc, path),
    )
    def save_for_sending(
        doc: FileDocument, path: Path = Path(), macros: Literal["stay-behind", "go-along"] = "stay-behind"
    ) -> CommandResult:
        place = where_to(doc, path, tr("Save a copy of the {noun} to send", noun=noun))
        if place is None:
            return NOT_DONE
        path = doc.with_ending(place)
        doc.settle()
        doc.write_to(path, macros == "go-along")
        return CommandResult({"path": str(path), "macros": macros})

    declare_open_documents(declarations, noun)


def declare_open_documents(declarations: Declarations, noun: str) -> None:
    """Declare closing a `noun`, and going from one that is open to another."""
    command = declarations.command

    @command("close", "Close", about=f"Close this {noun}", keys="Ctrl+W", picture="close", everyday=True,
             leaves_document=True)  # fmt: skip
    def close(doc: Document) -> CommandResult | None:
        return None if doc.documents.close(doc) else NOT_DONE

    @command(
        "next-document",
        f"Next {noun}",
        about=f"Go to the next of the open {noun}s",
        keys="Ctrl+Tab",
        picture="arrow-right-circle-outline",
    )
    def next_document(doc: Document) -> None:
        doc.documents.step(1)

    @command(
        "go-to-document",
        f"Go to an open {noun}",
        about=f"Work in the open {noun} of this name",
        picture="file-move-outline",
    )
    def go_to_document(doc: Document, name: Annotated[str, Among("documents")]) -> None:
        for document in doc.documents.all:
            if document.name() == name.strip():
                doc.documents.show(document)
                return
        known = ", ".join(f"“{document.name()}”" for document in doc.documents.all)
        raise RimecrestError(
            tr("No {noun} “{name}” is open.", noun=noun, name=name), tr("Open are: {known}.", known=known)
        )

    @declarations.reading("documents", f"The names of the open {noun}s", type="list")
    def documents(doc: Document) -> list[str]:
        return [document.name() for document in doc.documents.all]
