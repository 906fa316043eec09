"""Where bars stand: lines along an edge that several may share."""

from __future__ import annotations

from collections.abc import Iterable

from PyQt6.QtWidgets import QBoxLayout, QSizePolicy, QWidget

from rimecrest.core.catalogue.surfaces import AFLOAT
from rimecrest.surfaces.bar import Bar


def lines_of(bars: Iterable[Bar]) -> list[list[Bar]]:
    """The bars of each line: those of one edge that follow one another with the same row share one.

    Floating ones stand in no line.
    """
    lines: list[list[Bar]] = []
    last: dict[str, list[Bar]] = {}
    for bar in bars:
        edge, row = bar.surface.edge, bar.surface.row
        if edge in AFLOAT:
            continue
        line = last.get(edge)
        if line is not None and row is not None and line[-1].surface.row == row:
            line.append(bar)
        else:
            last[edge] = [bar]
            lines.append(last[edge])
    return lines


def fix_thickness(bar: Bar, thick: int) -> None:
    """Give a bar its size across; along its line it takes what there is."""
    if bar.upright:
        bar.setFixedWidth(thick)
        bar.setMinimumHeight(0)
    else:
        bar.setFixedHeight(thick)
        bar.setMinimumWidth(0)


class Line(QWidget):
    """Several bars that share a line; the last takes the room that is left."""

    def __init__(self, bars: list[Bar], parent: QWidget) -> None:
        super().__init__(parent)
        upright = bars[0].upright
        along = QBoxLayout.Direction.TopToBottom if upright else QBoxLayout.Direction.LeftToRight
        row = QBoxLayout(along, self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        hints = [bar.sizeHint() for bar in bars]
        thick = max(hint.width() if upright else hint.height() for hint in hints)
        for bar in bars:
            last = bar is bars[-1]
            grows = QSizePolicy.Policy.Expanding if last else QSizePolicy.Policy.Preferred
            bar.setSizePolicy(grows, grows)
            fix_thickness(bar, thick)
            row.addWidget(bar, 1 if last else 0)
        if upright:
            self.setFixedWidth(thick)
        else:
            self.setFixedHeight(thick)
