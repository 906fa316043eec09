"""What those who take part of the hands' work on the stage ask of the overlay that they work for."""

from __future__ import annotations

from typing import Protocol

from PyQt6.QtCore import QPoint, QRect


class Stage(Protocol):
    """The overlay, as keys, letters, names and menus know it."""

    looking_back: bool
    """Whether the last release is shown."""

    def redrawn(self) -> None:
        """The frame shows another outcome."""
        ...

    def caret_moved(self) -> None:
        """The caret, the selection or what is held is elsewhere."""
        ...

    def update(self) -> None:
        """Paint anew."""
        ...

    def rename(self, identity: str) -> None:
        """Edit a name in place."""
        ...

    def open_card(self, identity: str) -> None:
        """Open the card of a thing."""
        ...

    def write_steps(self, identity: str) -> None:
        """Open the private steps of a control."""
        ...

    def open_past(self) -> None:
        """Show the points of what was."""
        ...

    def compare(self) -> None:
        """Turn between the last release and the draft."""
        ...

    def show_all(self) -> None:
        """Show all that can be put at the caret."""
        ...

    def show_submenu(self) -> None:
        """Have the submenu open that is chosen."""
        ...

    def menu_by_key(self) -> None:
        """Open the right-click menu of what is chosen."""
        ...

    def list_hidden(self) -> None:
        """Open the list of what is hidden."""
        ...

    def paste(self) -> None:
        """Put what is on the clipboard at the caret."""
        ...

    def give_up(self) -> None:
        """Leave what is open or chosen, one at a time."""
        ...

    def say_typed(self, text: str) -> None:
        """Tell which letters stand at the caret now."""
        ...

    def hasFocus(self) -> bool:
        """Whether the keys come here."""
        ...

    def box_of(self, identity: str) -> QRect | None:
        """Where a thing's name or handle is."""
        ...

    def mapToGlobal(self, point: QPoint, /) -> QPoint:
        """Where a point of it is on the screen."""
        ...
