"""What Letters can tell a macro."""

from __future__ import annotations

from datetime import date

from PyQt6.QtGui import QFont, QTextCursor

from rimecrest.apps.letters.declared import reading
from rimecrest.apps.letters.document import LetterDocument

_DAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")


@reading("chosen.text", "The chosen words")
def chosen_text(doc: LetterDocument) -> str:
    return doc.cursor().selectedText().replace("\u2029", "\n")


@reading("chosen.words", "How many words are chosen", type="number")
def chosen_words(doc: LetterDocument) -> int:
    return len(chosen_text(doc).split())


@reading("chosen.bold", "Whether the chosen words are bold", type="switch")
def chosen_bold(doc: LetterDocument) -> str:
    return "yes" if doc.cursor().charFormat().fontWeight() >= QFont.Weight.Bold else "no"


@reading("here.word", "The word at the cursor")
def here_word(doc: LetterDocument) -> str:
    cursor = doc.cursor()
    cursor.select(QTextCursor.SelectionType.WordUnderCursor)
    return cursor.selectedText()


@reading("here.paragraph", "The paragraph at the cursor")
def here_paragraph(doc: LetterDocument) -> str:
    return doc.cursor().block().text()


@reading("letter.text", "The whole letter, without its look")
def letter_text(doc: LetterDocument) -> str:
    return doc.widget.toPlainText()


@reading("letter.words", "How many words the letter has", type="number")
def letter_words(doc: LetterDocument) -> int:
    return len(doc.widget.toPlainText().split())


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


@reading("today.weekday", "The day of the week")
def today_weekday(_doc: LetterDocument) -> str:
    return _DAYS[date.today().weekday()]


@reading("today.date", "Today's date, as 2026-11-23")
def today_date(_doc: LetterDocument) -> str:
    return date.today().isoformat()
