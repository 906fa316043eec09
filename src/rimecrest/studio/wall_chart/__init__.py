"""The wall chart: a layout's keys and buttons on one or two pages, as PDF and as HTML.

`chart_of` says what is on it; `write_pdf` and `write_html` draw it. It has no colour, so that any printer
will do.
"""

from rimecrest.studio.wall_chart.content import Chart, ChartKey, ChartPart, Drawn, chart_of
from rimecrest.studio.wall_chart.html import chart_html, write_html
from rimecrest.studio.wall_chart.pdf import write_pdf

__all__ = ["Chart", "ChartKey", "ChartPart", "Drawn", "chart_html", "chart_of", "write_html", "write_pdf"]
