"""The commands that every application has: files, undo, closing, help. Declared once, for all of them."""

from __future__ import annotations

import html
from datetime import date
from pathlib import Path
from typing import Literal

from PyQt6.QtWidgets import QApplication, QDialog, QFileDialog, QTextBrowser, QVBoxLayout

from rimecrest.core.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.embed.declare import Declarations
from rimecrest.embed.document import Document, Reached
from rimecrest.shell.paths import clean_path


def ask_for_file(doc: Document, title: str) -> Path | None:
    name, _ = QFileDialog.getOpenFileName(doc.widget, title, str(doc.path or ""), doc.kinds)
    return Path(name) if name else None


def declare_everyday(declarations: Declarations, noun: str) -> None:
    """Declare new, open, save, close, undo and their like for an application whose documents are `noun`s."""
    command = declarations.command
    title = declarations.title

    @command(
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

    @command(
        "new-from",
        f"New {noun} from a template",
        about=f"Begin a new {noun} that starts as a copy of a file",
        effects=(Effect.CREATES, Effect.OPENS_FILES),
        picture="file-document-plus-outline",
    )
    def new_from(doc: Document, path: Path = Path()) -> Reached | None:
        if path == Path():
            asked = ask_for_file(doc, "Begin from this file")
            if asked is None:
                return None
            path = asked
        path = clean_path(path)
        document = doc.documents.begin()
        try:
            document.open_path(path)
        except RimecrestError:
            if len(doc.documents.all) > 1 and document is not doc:
                doc.documents.close(document)
            raise
        # It lies nowhere yet: saving must not write over the template.
        document.path = None
        document.undo.changed.emit()
        return Reached({"path": str(path)})

    @command(
        "save",
        "Save",
        about=f"Save the {noun}",
        keys="Ctrl+S",
        picture="content-save-outline",
        everyday=True,
        leaves_document=True,
    )
    def save(doc: Document) -> None:
        doc.save()

    @command(
        "save-as",
        "Save under a name",
        about=f"Save the {noun} under another name",
        keys="Ctrl+Shift+S",
        effects=(Effect.CREATES,),
        picture="content-save-edit-outline",
        leaves_document=True,
    )
    def save_as(doc: Document, path: Path = Path()) -> Reached | None:
        if path == Path():
            asked = doc.ask_where(f"Save the {noun}")
            if asked is None:
                return None
            path = asked
        path = doc.with_ending(clean_path(path))
        doc.save_to(path)
        return Reached({"path": str(path)})

    @command(
        "save-for-sending",
        "Save for sending",
        about=f"Save a copy of the {noun} to send; macros kept in it stay behind unless you say otherwise",
        effects=(Effect.CREATES,),
        picture="email-arrow-right-outline",
        leaves_document=True,
    )
    def save_for_sending(
        doc: Document, path: Path = Path(), macros: Literal["stay-behind", "go-along"] = "stay-behind"
    ) -> Reached | None:
        if path == Path():
            asked = doc.ask_where(f"Save a copy of the {noun} to send")
            if asked is None:
                return None
            path = asked
        path = doc.with_ending(clean_path(path))
        doc.settle()
        doc.write_to(path, macros == "go-along")
        return Reached({"path": str(path), "macros": macros})

    @command("close", "Close", about=f"Close this {noun}", keys="Ctrl+W", picture="close", everyday=True,
             leaves_document=True)  # fmt: skip
    def close(doc: Document) -> None:
        doc.documents.close(doc)

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
    def go_to_document(doc: Document, name: str) -> None:
        for document in doc.documents.all:
            if document.title().removesuffix(" *") == name.strip():
                doc.documents.show(document)
                return
        known = ", ".join(f"“{document.title().removesuffix(' *')}”" for document in doc.documents.all)
        raise RimecrestError(f"No {noun} “{name}” is open.", f"Open are: {known}.")

    @command(
        "quit",
        "Quit",
        about=f"Leave {title}",
        keys="Ctrl+Q",
        effects=(Effect.LEAVES,),
        picture="power",
        everyday=True,
        leaves_document=True,
    )
    def quit_(doc: Document) -> None:
        window = doc.widget.window()
        if window is not None and window.close():
            QApplication.quit()

    @command(
        "undo",
        "Undo",
        about="Take the last step back",
        keys="Ctrl+Z",
        picture="undo",
        everyday=True,
        repeats=True,
    )
    def undo(doc: Document) -> None:
        doc.settle()
        doc.documents.undo()

    @command(
        "redo",
        "Redo",
        about="Do again what was undone",
        keys="Ctrl+Shift+Z",
        picture="redo",
        everyday=True,
        repeats=True,
    )
    def redo(doc: Document) -> None:
        doc.documents.redo()

    @command(
        "help",
        "Help",
        about="Show every command with its key",
        keys="F1",
        picture="help-circle-outline",
        everyday=True,
    )
    def help_(doc: Document) -> None:
        catalogue = declarations.catalogue()
        keys = {own.run: own.keys for own in catalogue.keys}
        rows = "".join(
            f"<tr><td>{html.escape(c.name)}</td><td>{html.escape(keys.get(c.id, ''))}</td>"
            f"<td>{html.escape(c.about)}</td></tr>"
            for c in sorted(catalogue.commands, key=lambda c: c.name)
        )
        dialog = QDialog(doc.widget.window())
        dialog.setWindowTitle(f"What {title} can do")
        dialog.resize(640, 560)
        text = QTextBrowser(dialog)
        text.setHtml(f"<h3>What {title} can do</h3><table cellpadding='4'>{rows}</table>")
        QVBoxLayout(dialog).addWidget(text)
        dialog.open()

    @declarations.reading("documents", f"The names of the open {noun}s", type="list")
    def documents(doc: Document) -> list[str]:
        return [document.title().removesuffix(" *") for document in doc.documents.all]

    @declarations.reading("today.weekday", "The day of the week")
    def today_weekday(_doc: Document) -> str:
        return DAYS[date.today().weekday()]

    @declarations.reading("today.date", "Today's date, as 2026-11-23")
    def today_date(_doc: Document) -> str:
        return date.today().isoformat()


DAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
