"""How words and paragraphs look."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Literal, cast

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QBrush, QColor, QFont, QTextBlockFormat, QTextCharFormat, QTextCursor, QTextListFormat

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.kit.commands.result import CommandResult
from rimecrest.kit.declare import Between, Colour, Switch
from rimecrest.kit.documents.shared_declarations import SharedDeclarations
from rimecrest_standins.formatted_text.document import FormattedText
from rimecrest_standins.formatted_text.looks import (
    HEADINGS,
    LEAST_POINTS,
    MARK,
    MOST_POINTS,
    PLAIN_POINTS,
    POINTS_PER_PIXEL,
    give_size,
    points_of,
)

formatting = SharedDeclarations()
command = formatting.command

EDITS = (Effect.EDITS,)
STEP = 48
"""Pixels that one step inwards takes."""

PER_CENT: int = cast(int, QTextBlockFormat.LineHeightTypes.ProportionalHeight.value)

Side = Literal["left", "centre", "right", "both"]
Style = Literal["text", "heading", "subheading", "quotation"]
_SIDES = {
    "left": Qt.AlignmentFlag.AlignLeft,
    "centre": Qt.AlignmentFlag.AlignHCenter,
    "right": Qt.AlignmentFlag.AlignRight,
    "both": Qt.AlignmentFlag.AlignJustify,
}
# Heading level, points, bold, slanted, margin above in pixels, indentation in pixels.
_STYLES = {
    "text": (0, PLAIN_POINTS, False, False, 0, 0),
    "heading": (1, HEADINGS[1], True, False, 14, 0),
    "subheading": (2, HEADINGS[2], True, False, 10, 0),
    "quotation": (0, PLAIN_POINTS, False, True, 6, STEP),
}


def _switch(
    doc: FormattedText, on: Switch, now: bool, change: Callable[[QTextCharFormat, bool], None]
) -> CommandResult:
    made = QTextCharFormat()
    reached = on.reached(now)
    change(made, reached)
    doc.format_words(made)
    return CommandResult.switch(reached)


@command(
    "embolden",
    "Bold",
    synonyms=("strong",),
    about="Make the selected words bold, or what you write next",
    keys="Ctrl+B",
    context="writing",
    effects=EDITS,
    changes={"chosen.bold"},
    picture="format-bold",
)
def embolden(doc: FormattedText, on: Switch = Switch.FLIP) -> CommandResult:
    now = doc.look().fontWeight() >= QFont.Weight.Bold
    return _switch(
        doc, on, now, lambda f, yes: f.setFontWeight(QFont.Weight.Bold if yes else QFont.Weight.Normal)
    )


@command(
    "slant",
    "Italic",
    synonyms=("italics",),
    about="Slant the selected words, or what you write next",
    keys="Ctrl+I",
    context="writing",
    effects=EDITS,
    changes={"chosen.slanted"},
    picture="format-italic",
)
def slant(doc: FormattedText, on: Switch = Switch.FLIP) -> CommandResult:
    return _switch(doc, on, doc.look().fontItalic(), QTextCharFormat.setFontItalic)


@command(
    "underline",
    "Underline",
    about="Underline the selected words, or what you write next",
    keys="Ctrl+U",
    context="writing",
    effects=EDITS,
    changes={"chosen.underlined"},
    picture="format-underline",
)
def underline(doc: FormattedText, on: Switch = Switch.FLIP) -> CommandResult:
    return _switch(doc, on, doc.look().fontUnderline(), QTextCharFormat.setFontUnderline)


@command(
    "strike-out",
    "Strike out",
    synonyms=("strikethrough",),
    about="Draw a line through the selected words",
    keys="Ctrl+J, O",
    context="writing",
    effects=EDITS,
    changes={"chosen.struck-out"},
    picture="format-strikethrough",
)
def strike_out(doc: FormattedText, on: Switch = Switch.FLIP) -> CommandResult:
    return _switch(doc, on, doc.look().fontStrikeOut(), QTextCharFormat.setFontStrikeOut)


def _height(doc: FormattedText, on: Switch, which: QTextCharFormat.VerticalAlignment) -> CommandResult:
    now = doc.look().verticalAlignment() == which
    normal = QTextCharFormat.VerticalAlignment.AlignNormal
    return _switch(doc, on, now, lambda f, yes: f.setVerticalAlignment(which if yes else normal))


@command(
    "superscript",
    "Superscript",
    was=("raise-words",),
    about="Set the selected words small and above the line",
    keys="Ctrl+J, U",
    context="writing",
    effects=EDITS,
    changes={"chosen.raised"},
    picture="format-superscript",
)
def raise_words(doc: FormattedText, on: Switch = Switch.FLIP) -> CommandResult:
    return _height(doc, on, QTextCharFormat.VerticalAlignment.AlignSuperScript)


@command(
    "subscript",
    "Subscript",
    was=("lower-words",),
    about="Set the selected words small and below the line",
    keys="Ctrl+J, L",
    context="writing",
    effects=EDITS,
    changes={"chosen.lowered"},
    picture="format-subscript",
)
def lower_words(doc: FormattedText, on: Switch = Switch.FLIP) -> CommandResult:
    return _height(doc, on, QTextCharFormat.VerticalAlignment.AlignSubScript)


def _resize(doc: FormattedText, points: float) -> None:
    doc.change_words(lambda look, _: give_size(look, points))


@command(
    "set-size",
    "Size",
    about="Set the size of the selected words, in points",
    context="writing",
    effects=EDITS,
    picture="format-size",
)
def set_size(doc: FormattedText, to: Annotated[float, Between(LEAST_POINTS, MOST_POINTS)] = 11) -> None:
    _resize(doc, to)


@command(
    "enlarge",
    "Larger",
    about="Make the selected words larger",
    keys="Ctrl+J, E",
    context="writing",
    effects=EDITS,
    picture="format-font-size-increase",
    repeats=True,
)
def enlarge(doc: FormattedText) -> None:
    _resize(doc, min(round(points_of(doc.look())) + 2, MOST_POINTS))


@command(
    "shrink",
    "Smaller",
    about="Make the selected words smaller",
    keys="Ctrl+J, S",
    context="writing",
    effects=EDITS,
    picture="format-font-size-decrease",
    repeats=True,
)
def shrink(doc: FormattedText) -> None:
    _resize(doc, max(round(points_of(doc.look())) - 2, LEAST_POINTS))


@command(
    "colour-words",
    "Colour",
    about="Give the selected words a colour",
    context="writing",
    effects=EDITS,
    picture="format-color-text",
)
def colour_words(doc: FormattedText, to: Colour = Colour("#14657A")) -> None:
    made = QTextCharFormat()
    made.setForeground(QBrush(QColor(to)))
    doc.format_words(made)


@command(
    "highlight",
    "Highlight",
    was=("mark-words",),
    synonyms=("marker",),
    about="Draw over the selected words as with a marker",
    keys="Ctrl+J, M",
    context="writing",
    effects=EDITS,
    picture="marker",
)
def mark_words(doc: FormattedText, to: Colour = Colour(MARK)) -> None:
    made = QTextCharFormat()
    made.setBackground(QBrush(QColor(to)))
    doc.format_words(made)


@command(
    "remove-formatting",
    "Remove formatting",
    was=("clear-look",),
    synonyms=(
        "clear look",
        "plain",
    ),
    about="Take all formatting from the selected words",
    keys="Ctrl+J, K",
    context="writing",
    effects=EDITS,
    picture="format-clear",
)
def clear_look(doc: FormattedText) -> None:
    cursor = doc.cursor()
    cursor.setCharFormat(QTextCharFormat())
    doc.page.setCurrentCharFormat(QTextCharFormat())


@command(
    "align-paragraph",
    "Align",
    about="Line the paragraph up left, right, centred or at both sides",
    context="writing",
    effects=EDITS,
    picture="format-align-center",
)
def align_paragraph(doc: FormattedText, to: Side = "centre") -> None:
    made = QTextBlockFormat()
    made.setAlignment(_SIDES[to])
    doc.cursor().mergeBlockFormat(made)


def _step(doc: FormattedText, by: int) -> None:
    made = QTextBlockFormat()
    made.setIndent(max(doc.cursor().blockFormat().indent() + by, 0))
    doc.cursor().mergeBlockFormat(made)


@command(
    "indent-more",
    "Indent more",
    was=("step-in",),
    about="Indent the paragraph more",
    keys="Ctrl+J, Right",
    context="writing",
    effects=EDITS,
    picture="format-indent-increase",
    repeats=True,
)
def step_in(doc: FormattedText) -> None:
    _step(doc, 1)


@command(
    "indent-less",
    "Indent less",
    was=("step-out",),
    about="Indent the paragraph less",
    keys="Ctrl+J, Left",
    context="writing",
    effects=EDITS,
    picture="format-indent-decrease",
    repeats=True,
)
def step_out(doc: FormattedText) -> None:
    _step(doc, -1)


@command(
    "line-spacing",
    "Line spacing",
    was=("space-lines",),
    about="Set the distance of lines, in per cent of a line",
    context="writing",
    effects=EDITS,
    picture="format-line-spacing",
)
def space_lines(doc: FormattedText, to: Annotated[int, Between(80, 300)] = 150) -> None:
    made = QTextBlockFormat()
    made.setLineHeight(to, PER_CENT)
    doc.cursor().mergeBlockFormat(made)


@command(
    "space-before",
    "Space before",
    synonyms=("gap", "distance", "margin above"),
    about="Set the space before the paragraph, in points",
    context="writing",
    effects=EDITS,
    picture="format-line-spacing",
)
def space_before(doc: FormattedText, to: Annotated[float, Between(0, 200)] = 12) -> None:
    made = QTextBlockFormat()
    made.setTopMargin(to / POINTS_PER_PIXEL)
    doc.cursor().mergeBlockFormat(made)


def style_cursor(cursor: QTextCursor, style: str) -> None:
    """Give the cursor's paragraphs a style."""
    level, points, is_bold, is_slanted, above, inwards = _STYLES[style]
    block = QTextBlockFormat()
    block.setHeadingLevel(level)
    block.setTopMargin(above)
    block.setLeftMargin(inwards)
    words = QTextCharFormat()
    give_size(words, points)
    words.setFontWeight(QFont.Weight.Bold if is_bold else QFont.Weight.Normal)
    words.setFontItalic(is_slanted)
    cursor.mergeBlockFormat(block)
    whole = QTextCursor(cursor)
    if not whole.hasSelection():
        whole.movePosition(QTextCursor.MoveOperation.StartOfBlock)
        whole.movePosition(QTextCursor.MoveOperation.EndOfBlock, QTextCursor.MoveMode.KeepAnchor)
    whole.mergeCharFormat(words)
    cursor.mergeBlockCharFormat(words)


@command(
    "style-paragraph",
    "Style",
    about="Make the paragraph a heading, a quotation or plain text",
    context="writing",
    effects=EDITS,
    changes={"headings"},
    picture="format-header-pound",
)
def style_paragraph(doc: FormattedText, to: Style = "heading") -> None:
    cursor = doc.cursor()
    style_cursor(cursor, to)
    doc.page.mergeCurrentCharFormat(cursor.blockCharFormat())


def _list(doc: FormattedText, style: QTextListFormat.Style, on: Switch) -> CommandResult:
    cursor = doc.cursor()
    inside = cursor.currentList()
    there = inside if inside is not None and inside.format().style() == style else None
    reached = on.reached(there is not None)
    if reached and there is None:
        cursor.createList(style)
    elif there is not None and not reached:
        there.remove(cursor.block())
        plain = cursor.blockFormat()
        plain.setIndent(0)
        cursor.setBlockFormat(plain)
    return CommandResult.switch(reached)


@command(
    "bulleted-list",
    "Bulleted list",
    was=("points",),
    synonyms=(
        "points",
        "bullets",
    ),
    about="Make the paragraphs a bulleted list, or plain again",
    keys="Ctrl+J, Shift+P",
    context="writing",
    effects=EDITS,
    changes={"here.points"},
    picture="format-list-bulleted",
)
def points(doc: FormattedText, on: Switch = Switch.FLIP) -> CommandResult:
    return _list(doc, QTextListFormat.Style.ListDisc, on)


@command(
    "numbered-list",
    "Numbered list",
    was=("numbered",),
    about="Make the paragraphs a numbered list, or plain again",
    keys="Ctrl+J, Shift+N",
    context="writing",
    effects=EDITS,
    changes={"here.numbered"},
    picture="format-list-numbered",
)
def numbered(doc: FormattedText, on: Switch = Switch.FLIP) -> CommandResult:
    return _list(doc, QTextListFormat.Style.ListDecimal, on)
