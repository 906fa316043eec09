"""The commands that every application has: undo, closing, help. Declared once, for all of them."""

from __future__ import annotations

import html
from datetime import date

from msgspec.structs import replace
from PyQt6.QtWidgets import QApplication, QDialog, QTextBrowser, QVBoxLayout

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.words import tr
from rimecrest.kit.commands.result import NOT_DONE, CommandResult
from rimecrest.kit.declare import Declarations, Switch
from rimecrest.kit.documents.document import Document


def declare_everyday(declarations: Declarations) -> None:  # noqa: C901  one command after the other
    """Declare quitting, undo, help and the readings of the day."""
    command = declarations.command
    title = declarations.title

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
    def quit_(doc: Document) -> CommandResult | None:
        window = doc.widget.window()
        if window is None or not window.close():
            return NOT_DONE
        QApplication.quit()
        return None

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
        "list-macros",
        "Macros …",
        about="Show every macro that can run here, to search and run it",
        keys="Shift+F5",
        picture="format-list-text",
    )
    def list_macros(doc: Document) -> CommandResult:
        doc.documents.show_macros()
        return NOT_DONE

    @command(
        "find-command",
        "Find a command",
        synonyms=("search", "anything", "menu"),
        about="Find any command or macro by a word of its name or purpose, and run it",
        keys="F3",
        picture="magnify",
    )
    def find_command(doc: Document) -> CommandResult:
        doc.documents.find_command()
        return NOT_DONE

    @command(
        "show-menu",
        "Open the right-click menu",
        synonyms=("context menu",),
        about="Open the right-click menu of the place where the cursor is",
        keys="Shift+F10",
        picture="menu",
    )
    def show_menu(doc: Document) -> CommandResult:
        doc.documents.show_menu()
        return NOT_DONE

    @command(
        "record-macro",
        "Record a macro",
        synonyms=("recording", "teach", "capture"),
        about="Write down what you do from here on, to do it again; the same ends it",
        keys="Alt+Shift+R",
        picture="record-circle-outline",
    )
    def record_macro(doc: Document) -> CommandResult:
        doc.documents.record()
        return NOT_DONE

    @command(
        "macro-sounds",
        "Macros are heard",
        synonyms=("sound", "beep", "bell", "quiet"),
        about="Let macros that end aloud be heard on this seat, or not",
        changes=("macro-sounds",),
        picture="bell-outline",
    )
    def macro_sounds(doc: Document, on: Switch = Switch.FLIP) -> CommandResult:
        reached = on.reached(doc.documents.sounds.on)
        doc.documents.sounds.turn(reached)
        says = tr("Macros are heard.") if reached else tr("Macros are not heard any more.")
        return replace(CommandResult.switch(reached), says=says)

    @declarations.reading("macro-sounds", "Whether macros are heard on this seat", type="switch")
    def macro_sounds_on(doc: Document) -> str:
        return "yes" if doc.documents.sounds.on else "no"

    @command(
        "help",
        "Help",
        about="Show every command with its key",
        keys="F1",
        picture="help-circle-outline",
        everyday=True,
    )
    def help_(doc: Document) -> CommandResult:
        catalogue = declarations.catalogue()
        keys = {own.run: own.keys for own in catalogue.keys}
        rows = "".join(
            f"<tr><td>{html.escape(c.name)}</td><td>{html.escape(keys.get(c.id, ''))}</td>"
            f"<td>{html.escape(c.about)}</td></tr>"
            for c in sorted(catalogue.commands, key=lambda c: c.name)
        )
        dialog = QDialog(doc.widget.window())
        heading = tr("What {title} can do", title=title)
        dialog.setWindowTitle(heading)
        dialog.resize(640, 560)
        text = QTextBrowser(dialog)
        text.setHtml(f"<h3>{html.escape(heading)}</h3><table cellpadding='4'>{rows}</table>")
        QVBoxLayout(dialog).addWidget(text)
        dialog.open()
        return NOT_DONE

    @declarations.reading("today.weekday", "The day of the week")
    def today_weekday(_doc: Document) -> str:
        return DAYS[date.today().weekday()]

    @declarations.reading("today.date", "Today's date, as 2026-11-23")
    def today_date(_doc: Document) -> str:
        return date.today().isoformat()


DAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
