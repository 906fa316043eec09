"""The line of aim: what is being worked on, for whom, as seen where."""

from __future__ import annotations

from msgspec import Struct, field

from rimecrest.core.workspace.people import Seat
from rimecrest.core.workspace.workspace import Workspace


class EditTarget(Struct, frozen=True):
    """A layer of an application, seen on a seat at a window width in pixels.

    `text` is the size of the desktop's text in per cent of the usual one: all grows with it, and the window
    has room for less.
    """

    layer: str
    app: str
    seat: str
    width: int
    text: int = 100

    @property
    def room(self) -> int:
        """The width in pixels of the usual text size that there is room for."""
        return round(self.width * 100 / self.text)

    def stack(self, workspace: Workspace) -> tuple[str, ...]:
        """The layers to draw: the seat's, up to the one that is edited."""
        seat = self.find_seat(workspace)
        stack = workspace.stack_of(seat) if seat else workspace.stack_up_to(self.layer)
        if self.layer not in stack:
            stack = workspace.stack_up_to(self.layer)
        return stack

    def find_seat(self, workspace: Workspace) -> Seat | None:
        return next((seat for seat in workspace.people if seat.seat == self.seat), None)


class TargetHistory(Struct):
    """Aims visited, with a place in them."""

    aims: list[EditTarget] = field(default_factory=list)
    at: int = -1

    @property
    def now(self) -> EditTarget:
        return self.aims[self.at]

    def visit(self, aim: EditTarget) -> None:
        del self.aims[self.at + 1 :]
        self.aims.append(aim)
        self.at = len(self.aims) - 1

    def step(self, by: int) -> bool:
        """Go back (-1) or forth (1). Returns whether there was somewhere to go."""
        if not 0 <= self.at + by < len(self.aims):
            return False
        self.at += by
        return True


def first_target(workspace: Workspace) -> EditTarget:
    """Where a workspace opens: the layer that places most, on one of its seats."""
    app = next(iter(workspace.settings.applications), "")
    drawn = [layer for layer in workspace.layers if (layer, app) in workspace.layouts]
    layer = max(drawn or workspace.layers, key=lambda name: len(workspace.layout(name, app).all_items()))
    width = workspace.settings.widths[0] if workspace.settings.widths else 1024
    return EditTarget(layer, app, seat_for(workspace, layer), width)


def seat_for(workspace: Workspace, layer: str) -> str:
    """A seat that has the layer and as little else as possible."""
    having = [seat for seat in workspace.people if layer in workspace.stack_of(seat)]
    return min(having, key=lambda seat: len(workspace.stack_of(seat))).seat if having else ""
