"""What Letters can tell a macro."""

from __future__ import annotations

from PyQt6.QtGui import QFont, QTextCharFormat, QTextCursor, QTextListFormat

from rimecrest.apps.letters.declared import reading
from rimecrest.apps.letters.document import LetterDocument
from rimecrest.apps.letters.inserting import named_places
from rimecrest.shell.plain_text import plain_text


@reading("chosen.text", "The selected words")
def chosen_text(doc: LetterDocument) -> str:
    return doc.cursor().selectedText().replace("\u2029", "\n")


@reading("chosen.words", "How many words are selected", type="number")
def chosen_words(doc: LetterDocument) -> int:
    return len(chosen_text(doc).split())


@reading("chosen.bold", "Whether the selected words are bold", type="switch")
def chosen_bold(doc: LetterDocument) -> str:
    return "yes" if doc.look().fontWeight() >= QFont.Weight.Bold else "no"


@reading("chosen.slanted", "Whether the selected words are slanted", type="switch")
def chosen_slanted(doc: LetterDocument) -> str:
    return "yes" if doc.look().fontItalic() else "no"


@reading("chosen.underlined", "Whether the selected words are underlined", type="switch")
def chosen_underlined(doc: LetterDocument) -> str:
    return "yes" if doc.look().fontUnderline() else "no"


@reading("chosen.struck-out", "Whether the selected words are struck out", type="switch")
def chosen_struck_out(doc: LetterDocument) -> str:
    return "yes" if doc.look().fontStrikeOut() else "no"


@reading("chosen.raised", "Whether the selected words are raised", type="switch")
def chosen_raised(doc: LetterDocument) -> str:
    look = doc.look().verticalAlignment()
    return "yes" if look == QTextCharFormat.VerticalAlignment.AlignSuperScript else "no"


@reading("chosen.lowered", "Whether the selected words are lowered", type="switch")
def chosen_lowered(doc: LetterDocument) -> str:
    look = doc.look().verticalAlignment()
    return "yes" if look == QTextCharFormat.VerticalAlignment.AlignSubScript else "no"


@reading("here.points", "Whether the cursor is in a list of points", type="switch")
def here_points(doc: LetterDocument) -> str:
    points = doc.cursor().currentList()
    return "yes" if points and points.format().style() == QTextListFormat.Style.ListDisc else "no"


@reading("here.numbered", "Whether the cursor is in a numbered list", type="switch")
def here_numbered(doc: LetterDocument) -> str:
    points = doc.cursor().currentList()
    return "yes" if points and points.format().style() == QTextListFormat.Style.ListDecimal else "no"


@reading("here.body", "Whether the cursor is in the text itself, in no note and no table", type="switch")
def here_body(doc: LetterDocument) -> str:
    return "no" if doc.note() is not None or doc.table() is not None else "yes"


@reading("at-end", "Whether the cursor is at the end of the letter", type="switch")
def at_end(doc: LetterDocument) -> str:
    return "yes" if doc.cursor().atEnd() else "no"


@reading("replaced", "How many places the last replacing has changed", type="number")
def replaced(doc: LetterDocument) -> int:
    return doc.replaced


@reading("places", "The named places of the letter", type="list")
def places(doc: LetterDocument) -> list[str]:
    return list(named_places(doc))


@reading("here.word", "The word at the cursor")
def here_word(doc: LetterDocument) -> str:
    cursor = doc.cursor()
    cursor.select(QTextCursor.SelectionType.WordUnderCursor)
    return cursor.selectedText()


@reading("here.paragraph", "The paragraph at the cursor")
def here_paragraph(doc: LetterDocument) -> str:
    return doc.cursor().block().text()


@reading("letter.text", "The whole letter, without its formatting")
def letter_text(doc: LetterDocument) -> str:
    return plain_text(doc.widget.document())


@reading("letter.words", "How many words the letter has", type="number")
def letter_words(doc: LetterDocument) -> int:
    return len(letter_text(doc).split())


@reading("letter.name", "The name of the letter's file")
def letter_name(doc: LetterDocument) -> str:
    return doc.path.stem if doc.path else ""


@reading("headings", "The headings of the letter", type="list")
def headings(doc: LetterDocument) -> list[str]:
    found, block = [], doc.widget.document().begin()
    while block.isValid():
        if block.blockFormat().headingLevel() and block.text().strip():
            found.append(block.text().strip())
        block = block.next()
    return found
