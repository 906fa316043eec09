"""Finding, counting, and the size of what is seen."""

from __future__ import annotations

import html

from PyQt6.QtGui import QTextCursor, QTextDocument
from PyQt6.QtWidgets import QDialog, QInputDialog, QTextBrowser, QVBoxLayout

from rimecrest.apps.letters.declared import command, declarations
from rimecrest.apps.letters.document import LetterDocument
from rimecrest.core.catalogue import Effect
from rimecrest.core.errors import RimecrestError


def _find(doc: LetterDocument, text: str, backwards: bool = False) -> None:
    flags = QTextDocument.FindFlag.FindBackward if backwards else QTextDocument.FindFlag(0)
    document = doc.widget.document()
    found = document.find(text, doc.cursor(), flags)
    if found.isNull():
        # Once round: from the other end.
        end = QTextCursor(document)
        if backwards:
            end.movePosition(QTextCursor.MoveOperation.End)
        found = document.find(text, end, flags)
    if found.isNull():
        raise RimecrestError(f"“{text}” is not in this letter.")
    doc.place(found)


@command(
    "find",
    "Find",
    about="Find words in the letter",
    keys="Ctrl+F",
    context="writing",
    picture="magnify",
    everyday=True,
)
def find(doc: LetterDocument, text: str = "") -> None:
    if not text:
        chosen = doc.cursor().selectedText()
        text, go_on = QInputDialog.getText(doc.widget, "Find", "Find these words:", text=chosen)
        if not go_on or not text:
            return
    doc.sought = text
    _find(doc, text)


@command(
    "find-next",
    "Find the next",
    about="Find the same words again",
    keys="F4",
    context="writing",
    picture="arrow-down-circle-outline",
    repeats=True,
)
def find_next(doc: LetterDocument) -> None:
    if not doc.sought:
        raise RimecrestError("Nothing was sought yet.", "Use Find first.")
    _find(doc, doc.sought)


@command(
    "find-previous",
    "Find the previous",
    about="Find the same words before the cursor",
    keys="Shift+F4",
    context="writing",
    picture="arrow-up-circle-outline",
    repeats=True,
)
def find_previous(doc: LetterDocument) -> None:
    if not doc.sought:
        raise RimecrestError("Nothing was sought yet.", "Use Find first.")
    _find(doc, doc.sought, backwards=True)


@command(
    "replace",
    "Replace",
    about="Write other words wherever these stand",
    context="writing",
    effects=(Effect.EDITS,),
    picture="find-replace",
)
def replace(doc: LetterDocument, text: str = "", by: str = "") -> None:
    if not text:
        text, go_on = QInputDialog.getText(doc.widget, "Replace", "Replace these words:")
        if not go_on or not text:
            return
        by, go_on = QInputDialog.getText(doc.widget, "Replace", f"Instead of “{text}” write:")
        if not go_on:
            return
    document, cursor = doc.widget.document(), QTextCursor(doc.widget.document())
    count = 0
    while not (found := document.find(text, cursor)).isNull():
        found.insertText(by)
        cursor = found
        count += 1
    if not count:
        raise RimecrestError(f"“{text}” is not in this letter.")


@command(
    "larger-view",
    "See it larger",
    about="Show the letter larger",
    keys="Ctrl+=",
    picture="magnify-plus-outline",
    repeats=True,
)
def larger_view(doc: LetterDocument) -> None:
    doc.widget.zoomIn(2)


@command(
    "smaller-view",
    "See it smaller",
    about="Show the letter smaller",
    keys="Ctrl+-",
    picture="magnify-minus-outline",
    repeats=True,
)
def smaller_view(doc: LetterDocument) -> None:
    doc.widget.zoomOut(2)


@command(
    "help",
    "Help",
    about="Show every command with its key",
    keys="F1",
    picture="help-circle-outline",
    everyday=True,
)
def help_(doc: LetterDocument) -> None:
    catalogue = declarations.catalogue()
    keys = {own.run: own.keys for own in catalogue.keys}
    rows = "".join(
        f"<tr><td>{html.escape(c.name)}</td><td>{html.escape(keys.get(c.id, ''))}</td>"
        f"<td>{html.escape(c.about)}</td></tr>"
        for c in sorted(catalogue.commands, key=lambda c: c.name)
    )
    dialog = QDialog(doc.widget.window())
    dialog.setWindowTitle("What Letters can do")
    dialog.resize(640, 560)
    text = QTextBrowser(dialog)
    text.setHtml(f"<h3>What Letters can do</h3><table cellpadding='4'>{rows}</table>")
    QVBoxLayout(dialog).addWidget(text)
    dialog.open()
