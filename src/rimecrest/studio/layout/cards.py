"""The card that is open over the stage: of an item, of a surface, or of a panel's control; one at a time."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QRect, QTimer, pyqtSignal
from PyQt6.QtWidgets import QWidget

from rimecrest.core.layout.seen import SeenButton, SeenControl, SeenGroup
from rimecrest.core.mend.fix import Fix
from rimecrest.core.workspace.edits import Edit
from rimecrest.shell.theme import Scheme
from rimecrest.studio.layout.control_card import ControlCard
from rimecrest.studio.layout.item_card import Card
from rimecrest.studio.layout.overlay import Overlay
from rimecrest.studio.layout.surface_card import SurfaceCard
from rimecrest.studio.shared.sentence_widgets import Word
from rimecrest.studio.shared.session import Session
from rimecrest.surfaces.frame import Frame


class Cards(QObject):
    """Opens the right card at a thing.

    Signals:
        wants(edit): do this.
        fixes(fix): apply this fix of a finding.
    """

    wants = pyqtSignal(Edit)
    fixes = pyqtSignal(Fix)

    def __init__(
        self, frame: Frame, overlay: Overlay, session: Session, scheme: Scheme, parent: QWidget
    ) -> None:
        super().__init__(parent)
        self._frame = frame
        self._overlay = overlay
        self._over = parent
        self.item = Card(session, frame.painting, scheme, parent)
        self.surface = SurfaceCard(session, overlay.surfaces, frame.painting, scheme, parent)
        self.control = ControlCard(session, scheme, parent)
        self.item.fixes.connect(self.fixes)
        for card in (self.item, self.surface, self.control):
            card.wants.connect(self.wants)
            card.closed.connect(overlay.setFocus)
            overlay.moved.connect(card.shut)

    def shut(self) -> None:
        """Close the card that is open."""
        for card in (self.item, self.surface, self.control):
            card.shut()

    def refresh(self) -> None:
        """Draw the card that is open anew, as its thing is now."""
        if self.item.isVisible() and self.item.shown is not None:
            self.open(self.item.item.id)
        if self.surface.isVisible():
            self.open(self.surface.surface)
        if self.control.isVisible() and self.control.item is not None:
            self.open(self.control.item.id)

    def open(self, identity: str) -> None:
        """Open the card of something that shows; without such a thing none is open."""
        self._overlay.kinds.hide()
        seen, box = self._frame.outcome, self._overlay.box_of(identity)
        if seen is None or box is None:
            self.shut()
            return
        if seen.is_surface(identity):
            self._shut_all_but(self.surface)
            if identity in dict(self._frame.floating_heads()) | dict(self._frame.panel_heads()):
                # Beside all of it, not only beside its name.
                box = box.united(self._frame.rect_of(identity) or box)
            self.surface.show_surface(identity, seen, self._there(box))
            return
        item, row = seen.item(identity), seen.row_of(identity)
        if isinstance(item, SeenControl):
            self._shut_all_but(self.control)
            panel = self._frame.rect_of(row.id) if row is not None else None
            self.control.show_control(item, self._there(box), self._there(panel) if panel else None)
        elif isinstance(item, SeenButton):
            self._shut_all_but(self.item)
            self.item.show_item(item, isinstance(row, SeenGroup), self._there(box))
        else:
            self.shut()

    def open_word(self, identity: str, word: str) -> None:
        """Open the card of an item, and what a word of it opens, by its object's name."""
        self.open(identity)
        found = self.item.findChildren(Word, word)
        if found:
            # The menu that asked for it closes first: it would take a list that opens along.
            QTimer.singleShot(0, found[-1].click)

    def write_steps(self, identity: str) -> None:
        """Open the card of a control where its private steps are written."""
        seen = self._frame.outcome
        item = seen.item(identity) if seen is not None else None
        if isinstance(item, SeenControl) and item.holds_value:
            self.open(identity)
            self.control.write_steps()

    def _there(self, box: QRect) -> QRect:
        return QRect(self._overlay.mapTo(self._over, box.topLeft()), box.size())

    def _shut_all_but(self, stays: QWidget) -> None:
        for card in (self.item, self.surface, self.control):
            if card is not stays:
                card.shut()
