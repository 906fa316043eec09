"""What macros can read of panels: `panel.lanes.vessel`, or, in a panel's own steps, `panel.vessel`."""

from __future__ import annotations

from collections.abc import Iterable

from rimecrest.core.catalogue.catalogue import Catalogue, Reading
from rimecrest.core.catalogue.surfaces import Control, Panel, Text
from rimecrest.core.layout.layout import Layout
from rimecrest.core.words import tr

PREFIX = "panel."


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
    for layout in layouts:
        for panel in layout.panels:
            found = readings_of(panel) + (readings_of(panel, own=True) if panel.id == own else [])
            # Two layers may have a panel of one id: the lower one's is meant.
            added += [reading for reading in found if reading.id not in known]
            known |= {reading.id for reading in found}
    return catalogue.model_copy(update={"readings": (*catalogue.readings, *added)}) if added else catalogue
