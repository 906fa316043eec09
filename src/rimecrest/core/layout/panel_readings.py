"""What macros can read of panels: `panel.lanes.vessel`, or, in a panel's own steps, `panel.vessel`."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Iterator

from rimecrest.core.catalogue.catalogue import Catalogue, Reading
from rimecrest.core.catalogue.items import Control, Text
from rimecrest.core.catalogue.surfaces import Panel
from rimecrest.core.layout.layout import Layout
from rimecrest.core.words import tr

PREFIX = "panel."

_QUOTED = re.compile(r'"(?:\\.|[^"\\])*"')
_NAMED = re.compile(r"\{[^{}]*\}")
_READING = re.compile(r"(?<![\w.-])panel((?:\.[a-z0-9][a-z0-9-]*)+)")


def readings_of(panel: Panel, own: bool = False) -> list[Reading]:
    """The readings of one panel; `own`: by the short names that its own steps use."""
    stem = PREFIX if own else f"{PREFIX}{panel.id}."
    found = []
    for item in panel.items:
        if isinstance(item, Control) and not isinstance(item, Text):
            about = tr("“{caption}” on the panel {title}", caption=item.caption, title=panel.title)
            found.append(Reading(id=f"{stem}{item.id}", about=about))
    return found


def with_panels(catalogue: Catalogue, layouts: Iterable[Layout], own: str = "") -> Catalogue:
    """The catalogue with what macros can read of the panels of some layouts besides.

    Args:
        own: the id of the panel whose private steps are looked at.
    """
    known = {reading.id for reading in catalogue.readings}
    added: list[Reading] = []
    layouts = [*layouts]
    hidden = {layout.full(identity) for layout in layouts for identity in layout.hide}
    for layout in layouts:
        for panel in layout.panels:
            if layout.full(panel.id) in hidden:
                continue
            found = readings_of(panel) + (readings_of(panel, own=True) if panel.id == own else [])
            # Two layers may have a panel of one id: the lower one's is meant.
            added += [reading for reading in found if reading.id not in known]
            known |= {reading.id for reading in found}
    return catalogue.model_copy(update={"readings": (*catalogue.readings, *added)}) if added else catalogue


def _pieces(text: str) -> Iterator[tuple[str, bool]]:
    """The text in pieces, each with whether names count in it: in quotes only what stands in braces does."""
    at = 0
    for quoted in _QUOTED.finditer(text):
        yield text[at : quoted.start()], True
        inner = quoted.start()
        for named in _NAMED.finditer(text, quoted.start(), quoted.end()):
            yield text[inner : named.start()], False
            yield named[0], True
            inner = named.end()
        yield text[inner : quoted.end()], False
        at = quoted.end()
    yield text[at:], True


def renamed_readings(text: str, rename: Callable[[tuple[str, ...]], tuple[str, ...]]) -> str:
    """The text of a macro with other names for what it reads of panels; words in quotes stay people's.

    Args:
        rename: the parts of a name behind `panel.` → those it has instead: a panel and a control, or in a
            panel's own steps a control.
    """

    def name(found: re.Match[str]) -> str:
        return PREFIX + ".".join(rename(tuple(found[1].split(".")[1:])))

    return "".join(_READING.sub(name, piece) if counts else piece for piece, counts in _pieces(text))


def panels_named(text: str) -> set[str]:
    """The ids of the panels that a macro's text reads by their long names."""
    pieces = [piece for piece, counts in _pieces(text) if counts]
    found = [match[1].split(".")[1:] for piece in pieces for match in _READING.finditer(piece)]
    return {parts[0] for parts in found if len(parts) == 2}
