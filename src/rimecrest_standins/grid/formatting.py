"""How cells look."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal

from msgspec.structs import replace

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.kit.commands.result import CommandResult
from rimecrest.kit.declare import Colour, Switch
from rimecrest_standins.grid.book import PLAIN, SIDES, Look, bordered, relooked
from rimecrest_standins.grid.cell_input import each_chosen, each_chosen_at, filled_block
from rimecrest_standins.grid.declared import command
from rimecrest_standins.grid.document import GridDocument

EDITS = (Effect.EDITS,)


def _relook(doc: GridDocument, change: Callable[[Look], Look]) -> None:
    each_chosen(doc, relooked(change))


@command(
    "embolden",
    "Bold",
    synonyms=("strong",),
    about="Make the selected cells bold",
    keys="Ctrl+B",
    context="cell",
    effects=EDITS,
    changes={"chosen.bold"},
    picture="format-bold",
)
def embolden(doc: GridDocument, on: Switch = Switch.FLIP) -> CommandResult:
    reached = on.reached(doc.here.look.bold)
    _relook(doc, lambda look: replace(look, bold=reached))
    return CommandResult.switch(reached)


@command(
    "slant",
    "Italic",
    synonyms=("italics",),
    about="Slant the words of the selected cells",
    keys="Ctrl+I",
    context="cell",
    effects=EDITS,
    changes={"chosen.slanted"},
    picture="format-italic",
)
def slant(doc: GridDocument, on: Switch = Switch.FLIP) -> CommandResult:
    reached = on.reached(doc.here.look.slanted)
    _relook(doc, lambda look: replace(look, slanted=reached))
    return CommandResult.switch(reached)


@command(
    "underline",
    "Underline",
    about="Underline the words of the selected cells",
    keys="Ctrl+U",
    context="cell",
    effects=EDITS,
    changes={"chosen.underlined"},
    picture="format-underline",
)
def underline(doc: GridDocument, on: Switch = Switch.FLIP) -> CommandResult:
    reached = on.reached(doc.here.look.underlined)
    _relook(doc, lambda look: replace(look, underlined=reached))
    return CommandResult.switch(reached)


@command(
    "colour-words",
    "Colour",
    about="Give the words of the selected cells a colour",
    context="cell",
    effects=EDITS,
    picture="format-color-text",
)
def colour_words(doc: GridDocument, to: Colour = Colour("#14657A")) -> None:
    _relook(doc, lambda look: replace(look, ink=to.upper()))


@command(
    "colour-cells",
    "Cell colour",
    about="Give the selected cells a background colour",
    keys="Ctrl+J, M",
    context="cell",
    effects=EDITS,
    picture="format-color-fill",
)
def colour_cells(doc: GridDocument, to: Colour = Colour("#FFF1A8")) -> None:
    _relook(doc, lambda look: replace(look, ground=to.upper()))


Borders = Literal["around", "all", "above", "below", "none"]


@command(
    "draw-borders",
    "Borders",
    synonyms=("frame", "lines", "outline"),
    about="Draw lines around the selected cells, at all their sides, above or below them, or none",
    keys="Ctrl+J, Shift+B",
    context="cell",
    effects=EDITS,
    picture="border-all",
)
def draw_borders(doc: GridDocument, sides: Borders = "around") -> CommandResult:
    top, left, bottom, right = filled_block(doc)

    def lined(row: int, column: int, look: Look) -> Look:
        if sides == "none":
            return replace(look, borders="")
        if sides == "all":
            return bordered(look, SIDES)
        edges = {
            "top": row == top and sides in ("around", "above"),
            "bottom": row == bottom and sides in ("around", "below"),
            "left": column == left and sides == "around",
            "right": column == right and sides == "around",
        }
        return bordered(look, [side for side, on in edges.items() if on])

    each_chosen_at(doc, lambda row, column, cell: replace(cell, look=lined(row, column, cell.look)))
    return CommandResult({"sides": sides})


@command(
    "align-cells",
    "Align",
    about="Line the selected cells up left, right or centred",
    context="cell",
    effects=EDITS,
    picture="format-align-center",
)
def align_cells(doc: GridDocument, to: Literal["left", "centre", "right"] = "centre") -> None:
    _relook(doc, lambda look: replace(look, side=to))


@command(
    "number-format",
    "Number format",
    was=("show-as",),
    about="How numbers in the selected cells are written",
    keys="Ctrl+J, Shift+F",
    context="cell",
    effects=EDITS,
    changes={"here.value"},
    picture="decimal",
)
def show_as(
    doc: GridDocument, form: Literal["plain", "whole", "hundredths", "percent", "text"] = "hundredths"
) -> None:
    _relook(doc, lambda look: replace(look, form=form))


@command(
    "remove-formatting",
    "Remove formatting",
    was=("clear-look",),
    synonyms=(
        "clear look",
        "plain",
    ),
    about="Take all formatting from the selected cells",
    keys="Ctrl+J, K",
    context="cell",
    effects=EDITS,
    changes={"here.value"},
    picture="format-clear",
)
def clear_look(doc: GridDocument) -> None:
    _relook(doc, lambda look: PLAIN)


@command(
    "mark-heading",
    "Heading",
    about="Make this row a heading: bold on a quiet background",
    keys="Ctrl+J, H",
    context="cell",
    effects=EDITS,
    changes={"chosen.bold"},
    picture="page-layout-header",
)
def mark_heading(doc: GridDocument) -> None:
    row = doc.place().row
    last = max(doc.sheet.breadth - 1, 0)
    doc.book.change(
        doc.sheet, row, row, 0, last, relooked(lambda look: replace(look, bold=True, ground="#E0EEF3"))
    )
