"""Replacing, finding by how words look, and the size of what is seen."""

from __future__ import annotations

from PyQt6.QtGui import QTextCursor

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import counted, tr
from rimecrest.kit.commands.result import NOT_DONE, CommandResult
from rimecrest.kit.documents.search_commands import ask_replacement
from rimecrest.kit.documents.view_commands import declare_zoom
from rimecrest_standins.formatted_text.looks import give_look, parse_look, parse_made_look, runs
from rimecrest_standins.letters.declared import command, declarations
from rimecrest_standins.letters.document import LetterDocument
from rimecrest_standins.letters.look_dialog import Where, ask_look, ask_looks


@command(
    "replace",
    "Replace",
    about="Write other words wherever these stand",
    context="writing",
    effects=(Effect.EDITS,),
    changes={"replaced"},
    picture="find-replace",
)
def replace(doc: LetterDocument, text: str = "", by: str = "") -> CommandResult:
    if not text:
        asked = ask_replacement(doc.widget)
        if asked is None:
            return NOT_DONE
        text, by = asked
    document, cursor = doc.text, QTextCursor(doc.text)
    count = 0
    while not (found := document.find(text, cursor)).isNull():
        found.insertText(by)
        cursor = found
        count += 1
    doc.replaced = count
    says = (
        tr("{count} replaced.", count=counted(count, tr("place")))
        if count
        else tr("“{text}” is not in this letter: nothing is replaced.", text=text)
    )
    return CommandResult({"text": text, "by": by}, says=says)


def _zoom(doc: LetterDocument, by: int) -> None:
    doc.page.zoomIn(by)


declare_zoom(declarations, "letter", _zoom)


def _ask_look(doc: LetterDocument) -> None:
    """Ask which look is to be found, and find it."""
    if (look := ask_look(doc.widget, doc.sought_look)) is not None:
        doc.wants.emit("find-formatting", {"look": look})


def _ask_looks(doc: LetterDocument) -> None:
    """Ask which look becomes which, and have it so."""
    asked = ask_looks(doc.widget, doc.sought_look)
    if asked is not None:
        doc.wants.emit("replace-formatting", dict(zip(("look", "by", "where"), asked, strict=True)))


@command(
    "find-formatting",
    "Find by formatting",
    was=("find-look",),
    about="Select the next words with this formatting: bold, not underlined, linked, 12 pt …",
    context="writing",
    picture="format-color-highlight",
    asks=_ask_look,
)
def find_look(doc: LetterDocument, look: str = "") -> None:
    found = runs(doc.text, parse_look(look))
    doc.sought_look = look
    if not found:
        raise RimecrestError(tr("No words in this letter are {look}.", look=look.replace("-", " ")))
    here = doc.cursor().selectionEnd()
    _select(doc, *next((run for run in found if run[0] >= here), found[0]))


def _select(doc: LetterDocument, start: int, end: int) -> None:
    cursor = doc.cursor()
    cursor.setPosition(start)
    cursor.setPosition(end, QTextCursor.MoveMode.KeepAnchor)
    doc.put(cursor)


@command(
    "replace-formatting",
    "Replace formatting",
    was=("replace-look",),
    about="Change what is named in the look of words that have another look; the rest of it stays",
    context="writing",
    effects=(Effect.EDITS,),
    changes={"replaced"},
    picture="format-paint",
    asks=_ask_looks,
)
def replace_look(doc: LetterDocument, look: str = "", by: str = "", where: Where = "all") -> CommandResult:
    document, made = doc.text, parse_made_look(by)
    found = runs(document, parse_look(look))
    doc.sought_look = look
    cursor = doc.cursor()
    if where == "this":
        found = [
            run for run in found if run[0] <= cursor.selectionEnd() and run[1] >= cursor.selectionStart()
        ]
    elif where == "next":
        found = [run for run in found if run[0] >= cursor.selectionEnd()]
    chosen = found if where == "all" else found[:1]
    for start, end in chosen:
        give_look(document, start, end, made)
    doc.replaced = len(chosen)
    if where == "next" and chosen:
        _select(doc, *chosen[0])
    says = (
        tr("{count} changed.", count=counted(len(chosen), tr("place")))
        if chosen
        else tr("No words here are {look}: nothing is changed.", look=look)
    )
    return CommandResult({"look": look, "by": by, "where": where}, says=says)
