"""Where the card of an item stands: beside it, never on it, and where it stood while its words change."""

from __future__ import annotations

from enum import Enum

from msgspec import Struct
from PyQt6.QtCore import QPoint, QRect, QSize

BEAK = 10
"""Pixels from the card's edge to the tip of its beak."""
EDGE = 6
"""Pixels left free at the edges of the room."""


class Side(Enum):
    """On which side of its item the card stands."""

    BELOW = "below"
    ABOVE = "above"
    RIGHT = "right"
    LEFT = "left"


class CardPlace(Struct, frozen=True):
    """The card's box, beak included, the side, and the tip of the beak."""

    box: QRect
    side: Side
    tip: QPoint


def place_card(
    item: QRect, size: QSize, room: QRect, before: CardPlace | None = None, around: QRect | None = None
) -> CardPlace:
    """Where a card of a size goes; as low as the room where it is taller.

    Args:
        item: the item's box, in the pixels of the room.
        size: what the card needs, without its beak.
        before: where it stood: it stays there while it fits.
        around: what of the item's neighbours stays in sight as well.
    """
    clear = item if around is None else item.united(around)
    sides = (
        list(Side) if before is None else [before.side, *(side for side in Side if side is not before.side)]
    )
    if around is not None and before is None:
        # Beside what stays in sight it is at the height of its item.
        sides = [Side.LEFT, Side.RIGHT, Side.BELOW, Side.ABOVE]
    rooms = {side: _room(clear, room, side) for side in Side}

    def whole(side: Side) -> bool:
        upright = side in (Side.BELOW, Side.ABOVE)
        wide = size.width() + (0 if upright else BEAK)
        tall = size.height() + (BEAK if upright else 0)
        return rooms[side].width() >= wide and rooms[side].height() >= tall

    def area(side: Side) -> int:
        return min(rooms[side].width(), size.width()) * min(rooms[side].height(), size.height())

    side = next((side for side in sides if whole(side)), max(Side, key=area))
    return CardPlace(_box(item, size, rooms[side], side, before), side, _tip(item, clear, side))


def _room(item: QRect, room: QRect, side: Side) -> QRect:
    inner = room.adjusted(EDGE, EDGE, -EDGE, -EDGE)
    found = QRect(inner)
    if side is Side.BELOW:
        found.setTop(item.bottom() + 1)
    elif side is Side.ABOVE:
        found.setBottom(item.top() - 1)
    elif side is Side.RIGHT:
        found.setLeft(item.right() + 1)
    else:
        found.setRight(item.left() - 1)
    return found


def _tip(item: QRect, clear: QRect, side: Side) -> QPoint:
    return {
        Side.BELOW: QPoint(item.center().x(), clear.bottom() + 1),
        Side.ABOVE: QPoint(item.center().x(), clear.top() - 1),
        Side.RIGHT: QPoint(clear.right() + 1, item.center().y()),
        Side.LEFT: QPoint(clear.left() - 1, item.center().y()),
    }[side]


def _box(item: QRect, size: QSize, room: QRect, side: Side, before: CardPlace | None) -> QRect:
    upright = side in (Side.BELOW, Side.ABOVE)
    wide = min(size.width() + (0 if upright else BEAK), room.width())
    tall = min(size.height() + (BEAK if upright else 0), room.height())
    stays = before is not None and before.side is side
    if upright:
        left = before.box.left() if stays and before is not None else item.center().x() - 80
        left = max(room.left(), min(left, room.right() + 1 - wide))
        top = room.top() if side is Side.BELOW else room.bottom() + 1 - tall
    else:
        top = before.box.top() if stays and before is not None else item.center().y() - 60
        top = max(room.top(), min(top, room.bottom() + 1 - tall))
        left = room.left() if side is Side.RIGHT else room.right() + 1 - wide
    return QRect(left, top, wide, tall)
