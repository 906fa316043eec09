"""The card to hang up: a layout's keys and buttons on one or two pages, as PDF and as HTML.

`card_of` says what is on it; `write_pdf` and `write_html` draw it. It has no colour, so that any printer
will do.
"""

from rimecrest.studio.wall_chart.content import Card, CardKey, CardPart, Drawn, card_of
from rimecrest.studio.wall_chart.html import card_html, write_html
from rimecrest.studio.wall_chart.pdf import write_pdf

__all__ = ["Card", "CardKey", "CardPart", "Drawn", "card_html", "card_of", "write_html", "write_pdf"]
