"""Panels in an application: what their controls do, what macros read of them, which are open.

While a control of a panel has the keys, plain ones are its own (`passes`); of the others, those count that
are bound in the context of fields (`panel_fields`) and anywhere.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QObject, QTimer
from PyQt6.QtWidgets import QApplication

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.catalogue.items import Event
from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import Folder
from rimecrest.core.keys.chords import Chord
from rimecrest.core.keys.focus_keys import EDITS, kept_by_field
from rimecrest.core.layout.panel_readings import PREFIX, with_panels
from rimecrest.core.layout.seen import Doing, Outcome, SeenButton, SeenControl, SeenPanel
from rimecrest.core.log import log
from rimecrest.core.release.stack import StackState
from rimecrest.kit.panels.asked import AskedPanel
from rimecrest.kit.panels.fields import KEEPS_KEYS
from rimecrest.surfaces.frame import Frame
from rimecrest.surfaces.panel_button import PanelButton
from rimecrest.surfaces.panel_controls import ControlView


class PanelHost(QObject):
    """What the panels of one window do."""

    def __init__(
        self,
        frame: Frame,
        catalogue: Catalogue,
        read: Callable[[str], Any],
        run: Callable[[Doing, str], None],
        profile: Path | None,
    ) -> None:
        """`read` tells a reading; `run` does what is done at an event, and is told the id of the panel."""
        super().__init__()
        self._frame = frame
        self._catalogue = catalogue
        self._read = read
        self._run = run
        self._files = Folder(profile) if profile is not None else None
        self._name = f"panels-{catalogue.app}.json"
        self.own_panel = ""
        """The panel whose private steps run now: its fields have short names."""
        self._state = StackState(app=catalogue.app)
        self._before: dict[str, str] | None = None
        """What stood in the panels before a macro asked with one."""
        self._unread: set[str] = set()
        """The readings that could not be read, which was said."""
        frame.panels.choices = self.choices
        # Several changes of one command are read once, and none while it still runs.
        self._reading = QTimer(self)
        self._reading.setSingleShot(True)
        self._reading.timeout.connect(frame.panels.refill)
        frame.happened.connect(self._happened)
        frame.turned.connect(self._turned)
        self._take_up()

    # What is told

    def use(self, state: StackState) -> None:
        """Take over a stack: its panels can be read."""
        self._state = state
        self._unread = set()

    def told(self, own: str = "") -> Catalogue:
        """The catalogue with what can be read of the panels."""
        return with_panels(self._catalogue, self._state.layouts, own)

    def _panel_of(self, name: str) -> SeenPanel | None:
        outcome = self._frame.outcome
        panels = outcome.panels if outcome is not None else ()
        return next((panel for panel in panels if panel.id.rpartition(":")[2] == name), None)

    def read(self, name: str) -> str | None:
        """The value behind `panel.lanes.vessel`, in a panel's own steps `panel.vessel`; None: no reading."""
        if not name.startswith(PREFIX):
            return None
        panel_name, _, control = name.removeprefix(PREFIX).rpartition(".")
        panel = self._panel_of(panel_name or self.own_panel)
        if panel is None:
            return None
        item = next((c for c in panel.controls() if c.id.rpartition(":")[2] == control), None)
        if item is None or not item.holds_value:
            return None
        return self._frame.panels.values().get(item.id, item.value)

    def refresh(self) -> None:
        """Something in the documents is another: have choices and lists show the entries of now."""
        self._reading.start()

    def choices(self, reading: str) -> list[str]:
        """The entries that a reading tells now; none, and that is said once, where it cannot be read."""
        try:
            found = self._read(reading)
        except RimecrestError as error:
            # Lists are read again with each change of the document: once is enough.
            if reading not in self._unread:
                self._unread.add(reading)
                self._frame.say(str(error))
            return []
        return [str(entry) for entry in found] if isinstance(found, list | tuple) else [str(found)]

    # What a macro asks

    def asked(self, name: str) -> AskedPanel | None:
        """A panel as a question, open or shut; None: there is none of that id."""
        panel = self._panel_of(name)
        return AskedPanel(panel, self._frame.panels.values()) if panel is not None else None

    def fill(self, answers: Mapping[str, str]) -> None:
        """Write what was answered; a run that does not end well takes it back."""
        if self._before is None:
            self._before = self._frame.panels.values()
        self._frame.panels.put_values(answers)

    def run_over(self, well: bool) -> None:
        """A macro's run has ended."""
        before, self._before = self._before, None
        if before is not None and not well:
            self._frame.panels.put_values(before)

    # What is done

    def _happened(self, identity: str, event: Event) -> None:
        outcome: Outcome | None = self._frame.outcome
        item = outcome.item(identity) if outcome is not None else None
        row = outcome.row_of(identity) if outcome is not None else None
        doing = item.doing(event) if isinstance(item, SeenControl | SeenButton) else None
        if doing is not None and row is not None:
            self._run(doing, row.id.rpartition(":")[2])

    def _turned(self, panel: str, is_open: bool) -> None:
        self._remember()
        outcome = self._frame.outcome
        row = outcome.row(panel) if outcome is not None else None
        for doing in row.doings if isinstance(row, SeenPanel) and is_open else ():
            self._run(doing, panel.rpartition(":")[2])

    def passes(self, chord: Chord) -> bool:
        """Whether a key is for the control of a panel or a field that has the focus, and no layout's."""
        focused = QApplication.focusWidget()
        if focused is None:
            return False
        if focused.property(KEEPS_KEYS):
            return kept_by_field(chord) or chord in EDITS
        mine = isinstance(focused, PanelButton) or isinstance(focused.parent(), ControlView)
        return mine and kept_by_field(chord)

    # Which are open

    def _take_up(self) -> None:
        """Have those shut and open that were when the window was closed last."""
        if self._files is None or not self._files.is_there(self._name):
            return
        try:
            kept = json.loads(self._files.text(self._name))
            known = {str(name): bool(is_open) for name, is_open in dict(kept).items()}
        except (RimecrestError, ValueError, TypeError) as error:
            log.warning("which panels were open is not known", reason=str(error))
            return
        self._frame.panels.remember(known)

    def _remember(self) -> None:
        outcome = self._frame.outcome
        if self._files is None or outcome is None:
            return
        known = {panel.id: panel.id not in self._frame.panels.shut for panel in outcome.panels}
        try:
            self._files.write(self._name, json.dumps(known, indent=2).encode())
        except RimecrestError as error:
            log.warning("which panels are open is not kept", reason=str(error))
