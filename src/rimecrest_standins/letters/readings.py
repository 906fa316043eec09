"""What Letters can tell a macro."""

from __future__ import annotations

from rimecrest.shell.plain_text import plain_text
from rimecrest_standins.letters.declared import reading
from rimecrest_standins.letters.document import LetterDocument
from rimecrest_standins.letters.inserting import named_places


@reading("here.body", "Whether the cursor is in the text itself, in no note and no table", type="switch",
         no_in=("note", "table"))  # fmt: skip
def here_body(doc: LetterDocument) -> str:
    return "no" if doc.note() is not None or doc.table() is not None else "yes"


@reading("replaced", "How many places the last replacing has changed", type="number")
def replaced(doc: LetterDocument) -> int:
    return doc.replaced


@reading("places", "The named places of the letter", type="list")
def places(doc: LetterDocument) -> list[str]:
    return list(named_places(doc))


@reading("letter.text", "The whole letter, without its formatting")
def letter_text(doc: LetterDocument) -> str:
    return plain_text(doc.text)


@reading("letter.words", "How many words the letter has", type="number")
def letter_words(doc: LetterDocument) -> int:
    return len(letter_text(doc).split())


@reading("letter.name", "The name of the letter's file")
def letter_name(doc: LetterDocument) -> str:
    return doc.path.stem if doc.path else ""
