"""The chart as one HTML file that needs nothing else."""

from __future__ import annotations

import textwrap
from pathlib import Path

from rimecrest.core.workspace.atomic import write_atomically
from rimecrest.studio.wall_chart.content import Chart, legend_of, said_on

LETTERS = 9
"""Letters that fit across a key of single width, at the size the template writes them."""


def _lines(words: str, width: float) -> list[str]:
    return textwrap.wrap(words, max(4, round(LETTERS * width)))[:3]


def chart_html(chart: Chart) -> str:
    """The text of the page."""
    from jinja2 import Environment, PackageLoader, StrictUndefined  # noqa: PLC0415  only for a chart

    pages = Environment(
        loader=PackageLoader("rimecrest.studio.wall_chart", "."), autoescape=True, undefined=StrictUndefined
    )
    return pages.get_template("chart.html").render(chart=chart, said=said_on, legend=legend_of, lines=_lines)


def write_html(chart: Chart, path: Path) -> None:
    """Write the page. Raises RimecrestError when the file cannot be written."""
    write_atomically(path, chart_html(chart).encode())
