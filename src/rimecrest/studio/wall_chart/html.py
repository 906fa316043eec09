"""The pages of a chart as one HTML file that needs nothing else."""

from __future__ import annotations

from pathlib import Path

from rimecrest.core.files import write_atomically
from rimecrest.studio.wall_chart.content import Chart
from rimecrest.studio.wall_chart.pages import MARGIN, TALL, WIDE, Role, pages_of

TAGS: dict[Role, str] = {"title": "h1", "heading": "h2", "key": "kbd", "text": "span"}
"""What a text is called, for whoever has the page read out."""


def chart_html(chart: Chart) -> str:
    """The text of the file."""
    from jinja2 import Environment, PackageLoader, StrictUndefined  # noqa: PLC0415  only for a chart

    made = Environment(
        loader=PackageLoader("rimecrest.studio.wall_chart", "."), autoescape=True, undefined=StrictUndefined
    )
    return made.get_template("chart.html").render(
        title=chart.title, pages=pages_of(chart), tags=TAGS, wide=WIDE, tall=TALL, margin=MARGIN
    )


def write_html(chart: Chart, path: Path) -> None:
    """Write the file. Raises RimecrestError when it cannot be written."""
    write_atomically(path, chart_html(chart).encode())
