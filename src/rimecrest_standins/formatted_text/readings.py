"""What a document with formatted text can tell a macro."""

from __future__ import annotations

from PyQt6.QtGui import QFont, QTextCharFormat, QTextCursor, QTextListFormat

from rimecrest.kit.documents.shared_declarations import SharedDeclarations
from rimecrest_standins.formatted_text.document import FormattedText

readings = SharedDeclarations()
reading = readings.reading


@reading("chosen.text", "The selected words")
def chosen_text(doc: FormattedText) -> str:
    return doc.cursor().selectedText().replace("\u2029", "\n")


@reading("chosen.words", "How many words are selected", type="number")
def chosen_words(doc: FormattedText) -> int:
    return len(chosen_text(doc).split())


@reading("chosen.bold", "Whether the selected words are bold", type="switch")
def chosen_bold(doc: FormattedText) -> str:
    return "yes" if doc.look().fontWeight() >= QFont.Weight.Bold else "no"


@reading("chosen.slanted", "Whether the selected words are slanted", type="switch")
def chosen_slanted(doc: FormattedText) -> str:
    return "yes" if doc.look().fontItalic() else "no"


@reading("chosen.underlined", "Whether the selected words are underlined", type="switch")
def chosen_underlined(doc: FormattedText) -> str:
    return "yes" if doc.look().fontUnderline() else "no"


@reading("chosen.struck-out", "Whether the selected words are struck out", type="switch")
def chosen_struck_out(doc: FormattedText) -> str:
    return "yes" if doc.look().fontStrikeOut() else "no"


@reading("chosen.raised", "Whether the selected words are raised", type="switch")
def chosen_raised(doc: FormattedText) -> str:
    look = doc.look().verticalAlignment()
    return "yes" if look == QTextCharFormat.VerticalAlignment.AlignSuperScript else "no"


@reading("chosen.lowered", "Whether the selected words are lowered", type="switch")
def chosen_lowered(doc: FormattedText) -> str:
    look = doc.look().verticalAlignment()
    return "yes" if look == QTextCharFormat.VerticalAlignment.AlignSubScript else "no"


@reading("here.points", "Whether the cursor is in a list of points", type="switch")
def here_points(doc: FormattedText) -> str:
    points = doc.cursor().currentList()
    return "yes" if points and points.format().style() == QTextListFormat.Style.ListDisc else "no"


@reading("here.numbered", "Whether the cursor is in a numbered list", type="switch")
def here_numbered(doc: FormattedText) -> str:
    points = doc.cursor().currentList()
    return "yes" if points and points.format().style() == QTextListFormat.Style.ListDecimal else "no"


@reading("at-end", "Whether the cursor is at the end of the {noun}", type="switch")
def at_end(doc: FormattedText) -> str:
    return "yes" if doc.cursor().atEnd() else "no"


@reading("here.word", "The word at the cursor")
def here_word(doc: FormattedText) -> str:
    cursor = doc.cursor()
    cursor.select(QTextCursor.SelectionType.WordUnderCursor)
    return cursor.selectedText()


@reading("here.paragraph", "The paragraph at the cursor")
def here_paragraph(doc: FormattedText) -> str:
    return doc.cursor().block().text()


@reading("headings", "The headings of the {noun}", type="list")
def headings(doc: FormattedText) -> list[str]:
    found, block = [], doc.text.begin()
    while block.isValid():
        if block.blockFormat().headingLevel() and block.text().strip():
            found.append(block.text().strip())
        block = block.next()
    return found
