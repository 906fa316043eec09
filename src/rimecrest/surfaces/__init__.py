"""The surfaces that a colleague sees: bars, ribbon tabs, right-click menus, drawn from an `Outcome`.

`Frame` is the whole window but its document. The application puts its document into it; the studio's stage
puts a picture there. There is no second renderer.
"""

from rimecrest.surfaces.bar import Bar
from rimecrest.surfaces.button import ItemButton
from rimecrest.surfaces.frame import Frame
from rimecrest.surfaces.insertion_points import InsertionPoint
from rimecrest.surfaces.menu import build_menu
from rimecrest.surfaces.painting import Painting
from rimecrest.surfaces.seat_keys import KeySeat, best_keys

__all__ = ["Bar", "Frame", "ItemButton", "KeySeat", "Painting", "InsertionPoint", "best_keys", "build_menu"]
