"""Looks of words: any set of properties, named in words, found in a text and given to words.

A look is written as properties with commas between them: `linked, underlined`, `not bold, 14 pt`,
`no link, the usual colour`. What is not named is not looked at, and stays as it is.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from functools import partial

from msgspec import Struct
from PyQt6.QtCore import Qt
from PyQt6.QtGui import (
    QBrush,
    QColor,
    QFont,
    QTextBlock,
    QTextCharFormat,
    QTextCursor,
    QTextDocument,
    QTextFragment,
)
from rapidfuzz import process

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr

PLAIN_POINTS = 11.25
"""Points of plain text: its 15 pixels at 96 to the inch."""
POINTS_PER_PIXEL = 0.75
MARK = "#FFF1A8"
HEADINGS = {1: 18.0, 2: 13.5}
"""Heading level → points."""

_Height = QTextCharFormat.VerticalAlignment
_Property = QTextCharFormat.Property


class Trait(Struct, frozen=True):
    """One property of words, as it is looked for and made.

    `shows(format, usual)` and `make(format)`; `usual` are the points that words of the paragraph have.
    """

    words: str
    shows: Callable[[QTextCharFormat, float], bool]
    make: Callable[[QTextCharFormat], None] | None


def points_of(look: QTextCharFormat) -> float:
    """The size of words."""
    if look.hasProperty(_Property.FontPointSize.value):
        return look.fontPointSize()
    pixels = look.property(_Property.FontPixelSize.value)
    return float(pixels) * POINTS_PER_PIXEL if pixels else PLAIN_POINTS


def give_size(look: QTextCharFormat, points: float | None) -> None:
    """Give words a size; None: the one that plain text has."""
    look.clearProperty(_Property.FontPixelSize.value)
    look.clearProperty(_Property.FontSizeAdjustment.value)
    if points is None:
        look.clearProperty(_Property.FontPointSize.value)
    else:
        look.setFontPointSize(points)


def usual_points(block: QTextBlock) -> float:
    """The size that words of a paragraph have by its style."""
    return HEADINGS.get(block.blockFormat().headingLevel(), PLAIN_POINTS)


def _bold(on: bool, look: QTextCharFormat) -> None:
    look.setFontWeight(QFont.Weight.Bold if on else QFont.Weight.Normal)


def _slanted(on: bool, look: QTextCharFormat) -> None:
    look.setFontItalic(on)


def _underlined(on: bool, look: QTextCharFormat) -> None:
    look.setFontUnderline(on)


def _struck_out(on: bool, look: QTextCharFormat) -> None:
    look.setFontStrikeOut(on)


def _highlighted(on: bool, look: QTextCharFormat) -> None:
    if on:
        look.setBackground(QBrush(QColor(MARK)))
    else:
        look.clearBackground()


def _raised(on: bool, look: QTextCharFormat) -> None:
    look.setVerticalAlignment(_Height.AlignSuperScript if on else _Height.AlignNormal)


def _lowered(on: bool, look: QTextCharFormat) -> None:
    look.setVerticalAlignment(_Height.AlignSubScript if on else _Height.AlignNormal)


def _without_link(look: QTextCharFormat) -> None:
    for each in (_Property.IsAnchor, _Property.AnchorHref):
        look.clearProperty(each.value)


_SWITCHES: dict[
    str, tuple[Callable[[QTextCharFormat], bool], Callable[[bool, QTextCharFormat], None] | None]
] = {
    "bold": (lambda look: look.fontWeight() >= QFont.Weight.Bold, _bold),
    "slanted": (lambda look: look.fontItalic(), _slanted),
    "underlined": (lambda look: look.fontUnderline(), _underlined),
    "struck out": (lambda look: look.fontStrikeOut(), _struck_out),
    "highlighted": (lambda look: look.background().style() != Qt.BrushStyle.NoBrush, _highlighted),
    "raised": (lambda look: look.verticalAlignment() == _Height.AlignSuperScript, _raised),
    "lowered": (lambda look: look.verticalAlignment() == _Height.AlignSubScript, _lowered),
    "linked": (lambda look: bool(look.anchorHref()), None),
}
SWITCHES = tuple(_SWITCHES)
"""What words are or are not."""
_OTHER_WORDS = {"marked": "highlighted", "no link": "not linked", "usual colour": "the usual colour"}
_OTHER_WORDS |= {"usual size": "the usual size", "not marked": "not highlighted"}
_COLOUR = re.compile(r"(?:colour )?(#[0-9a-f]{6})")
_SIZE = re.compile(r"(\d+(?:\.\d+)?) ?(?:pt|points)")
LEAST_POINTS, MOST_POINTS = 6, 96


def _usual_colour(look: QTextCharFormat, _usual: float) -> bool:
    given = look.hasProperty(_Property.ForegroundBrush.value)
    return not given or look.foreground().color().name() == "#000000"


def _switch(name: str, on: bool) -> Trait:
    shows, make = _SWITCHES[name]
    if name == "linked":
        words, change = ("linked", None) if on else (tr("no link"), _without_link)
    else:
        assert make is not None
        words, change = (name if on else f"not {name}"), partial(make, on)
    return Trait(words, lambda look, _: shows(look) is on, change)


def _trait(words: str) -> list[Trait]:
    name = " ".join(words.casefold().replace("-", " ").split())
    name = _OTHER_WORDS.get(name, name)
    if name == "plain":
        every = [_switch(each, False) for each in _SWITCHES]
        return [*every, *_trait("the usual colour"), *_trait("the usual size")]
    if name == "the usual colour":
        return [Trait(name, _usual_colour, lambda look: look.clearForeground())]
    if name == "the usual size":
        return [
            Trait(
                name,
                lambda look, usual: abs(points_of(look) - usual) < 0.3,
                lambda look: give_size(look, None),
            )
        ]
    if found := _COLOUR.fullmatch(name):
        colour = found[1]
        return [
            Trait(
                f"colour {colour}",
                lambda look, _: not _usual_colour(look, 0) and look.foreground().color().name() == colour,
                lambda look: look.setForeground(QBrush(QColor(colour))),
            )
        ]
    if (found := _SIZE.fullmatch(name)) and LEAST_POINTS <= float(found[1]) <= MOST_POINTS:
        points = float(found[1])
        return [
            Trait(
                f"{points:g} pt",
                lambda look, _: abs(points_of(look) - points) < 0.3,
                lambda look: give_size(look, points),
            )
        ]
    on = not name.startswith("not ")
    if (bare := name.removeprefix("not ")) in _SWITCHES:
        return [_switch(bare, on)]
    known = [*_SWITCHES, *(f"not {each}" for each in _SWITCHES), *_OTHER_WORDS, "the usual colour"]

    near = process.extractOne(name, [*known, "the usual size", "plain"])
    raise RimecrestError(
        tr("“{words}” is no look of words.", words=words.strip()),
        tr("Did you mean “{near}”? A colour is written #14657A, a size 12 pt.", near=near[0] if near else ""),
    )


def parse_look(text: str) -> list[Trait]:
    """Read a look.

    Raises:
        RimecrestError: a property is none, or none is named.
    """
    found = [trait for words in text.split(",") if words.strip() for trait in _trait(words)]
    if not found:
        raise RimecrestError(tr("No look is named."), tr("Write one, like: bold, not underlined, 12 pt."))
    return found


def parse_made_look(text: str) -> list[Trait]:
    """Read a look that words are to be given. Raises RimecrestError, also for one that only is found."""
    for trait in (found := parse_look(text)):
        if trait.make is None:
            raise RimecrestError(
                tr("“{words}” can be looked for, not given.", words=trait.words),
                tr("Link gives words an address."),
            )
    return found


def runs(document: QTextDocument, look: list[Trait]) -> list[tuple[int, int]]:
    """From where to where words have a look, in the order of the text."""
    found: list[tuple[int, int]] = []
    for block, fragment in _fragments(document):
        usual = usual_points(block)
        if all(trait.shows(fragment.charFormat(), usual) for trait in look):
            start, end = fragment.position(), fragment.position() + fragment.length()
            if found and found[-1][1] == start:
                start = found.pop()[0]
            found.append((start, end))
    return found


def _fragments(document: QTextDocument) -> Iterator[tuple[QTextBlock, QTextFragment]]:
    block = document.begin()
    while block.isValid():
        fragments = block.begin()
        while not fragments.atEnd():
            yield block, fragments.fragment()
            fragments += 1
        block = block.next()


def change_looks(
    document: QTextDocument, start: int, end: int, change: Callable[[QTextCharFormat, QTextBlock], None]
) -> None:
    """Change how words from one place to another look; each keeps what the change does not touch."""
    pieces = [
        (block, max(part.position(), start), min(part.position() + part.length(), end), part.charFormat())
        for block, part in _fragments(document)
        if part.position() < end and part.position() + part.length() > start
    ]
    for block, first, last, look in pieces:
        change(look, block)
        cursor = QTextCursor(document)
        cursor.setPosition(first)
        cursor.setPosition(last, QTextCursor.MoveMode.KeepAnchor)
        cursor.setCharFormat(look)


def give_look(document: QTextDocument, start: int, end: int, look: list[Trait]) -> None:
    """Give words from one place to another a look (`parse_made_look`), all of it in one go."""
    usual_size = any(trait.words == "the usual size" for trait in look)

    def change(words: QTextCharFormat, block: QTextBlock) -> None:
        for trait in look:
            if trait.make is not None:
                trait.make(words)
        if usual_size and block.blockFormat().headingLevel():
            give_size(words, usual_points(block))

    change_looks(document, start, end, change)
