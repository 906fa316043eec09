"""The wall chart: a layout's keys and buttons on one or two pages, as PDF and as HTML.

`chart_of` says what is on it; `write_pdf` and `write_html` draw it. It has no colour, so that any printer
will do.
"""
