"""Files of Letters: opening at a heading; what comes out on paper."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

from PyQt6.QtGui import QTextDocument

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.kit.commands.result import CommandResult
from rimecrest.kit.declare import Among
from rimecrest.kit.documents.file_commands import declare_files, open_at
from rimecrest.kit.documents.outside import declare_outside
from rimecrest.kit.documents.shared_commands import declare_everyday
from rimecrest.kit.documents.template_commands import declare_templates
from rimecrest.kit.documents.view_commands import declare_print
from rimecrest_standins.formatted_text.selecting import find_heading
from rimecrest_standins.letters.declared import command, declarations
from rimecrest_standins.letters.document import LetterDocument

declare_files(declarations, "letter")
declare_everyday(declarations)
declare_templates(declarations, "letter", ".html", "writing")
declare_outside(declarations)


@command(
    "open",
    "Open",
    about="Open a letter, and go to a heading in it",
    keys="Ctrl+O",
    effects=(Effect.OPENS_FILES,),
    picture="folder-open-outline",
    everyday=True,
)
def open_(
    doc: LetterDocument, path: Path = Path(), heading: Annotated[str, Among("headings")] = ""
) -> CommandResult:
    return open_at(doc, path, "heading", heading, find_heading)


def _copy(doc: LetterDocument) -> QTextDocument:
    """The letter once more, for paper. It belongs to the letter, which is asked for what is named in it."""
    letter = doc.text
    copy = letter.clone(letter)
    assert copy is not None
    return copy


declare_print(declarations, "the letter", _copy)
