"""What a letter carries along in the head of its HTML, which every browser passes over.

Macros that are kept in it are data blocks, in base64, so that nothing in them can end the block (HTML
standard, 4.12.1: data blocks); the template that it was made from is a `meta` of its own name (4.2.5).
"""

from __future__ import annotations

import base64
import html
from collections.abc import Mapping

from msgspec import Struct, field

KIND = "text/x-rimecrest-steps"
TEMPLATE = "rimecrest-template"


class Carried(Struct, frozen=True):
    """Macros by id, and the name of the template; empty where there is none."""

    macros: Mapping[str, str] = field(default_factory=dict)
    template: str = ""


def with_carried(page: str, carried: Carried) -> str:
    """The page with that in its head."""
    blocks = "".join(
        f'<script type="{KIND}" id="{html.escape(name)}">{base64.b64encode(text.encode()).decode()}</script>'
        for name, text in sorted(carried.macros.items())
    )
    if carried.template:
        blocks += f'<meta name="{TEMPLATE}" content="{html.escape(carried.template)}">'
    return page.replace("</head>", f"{blocks}</head>", 1) if blocks else page
