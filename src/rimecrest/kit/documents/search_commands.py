"""Finding words, again and backwards: declared once for the applications in which words can be found."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any

from PyQt6.QtWidgets import QInputDialog, QWidget

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.kit.commands.result import NOT_DONE, CommandResult
from rimecrest.kit.declare import Declarations

Find = Callable[[Any, str, bool], None]
"""Select the next hit for some words in a document, or the one before; RimecrestError when there is none."""


def ask_replacement(parent: QWidget) -> tuple[str, str] | None:
    """Ask which words are to be replaced by which; None when it was given up."""
    text, go_on = QInputDialog.getText(parent, "Replace", tr("Replace these words:"))
    if not go_on or not text:
        return None
    by, go_on = QInputDialog.getText(parent, "Replace", tr("Instead of “{text}” write:", text=text))
    return (text, by) if go_on else None


def declare_search(
    declarations: Declarations,
    about: tuple[str, str],
    context: str,
    find_words: Find,
    begin_with: Callable[[Any], str],
    changes: Iterable[str] = (),
) -> None:
    """Declare find, find the next and find the previous.

    Args:
        about: what *find* and what *find the previous* does, in a sentence.
        begin_with: the words that the question begins with.
        changes: the readings that it changes.
    """
    command, changes = declarations.command, tuple(changes)

    @command(
        "find",
        "Find",
        about=about[0],
        keys="Ctrl+F",
        context=context,
        changes=changes,
        picture="magnify",
        everyday=True,
    )
    def find(doc: Any, text: str = "") -> CommandResult:
        if not text:
            words = begin_with(doc)
            text, go_on = QInputDialog.getText(doc.widget, "Find", tr("Find these words:"), text=words)
            if not go_on or not text:
                return NOT_DONE
        doc.sought = text
        find_words(doc, text, False)
        return CommandResult({"text": text})

    def again(doc: Any, backwards: bool) -> None:
        if not doc.sought:
            raise RimecrestError(tr("Nothing was sought yet."), tr("Use Find first."))
        find_words(doc, doc.sought, backwards)

    @command(
        "find-next",
        "Find the next",
        about="Find the same words again",
        keys="F4",
        context=context,
        changes=changes,
        picture="arrow-down-circle-outline",
        repeats=True,
    )
    def find_next(doc: Any) -> None:
        again(doc, False)

    @command(
        "find-previous",
        "Find the previous",
        about=about[1],
        keys="Shift+F4",
        context=context,
        changes=changes,
        picture="arrow-up-circle-outline",
        repeats=True,
    )
    def find_previous(doc: Any) -> None:
        again(doc, True)
