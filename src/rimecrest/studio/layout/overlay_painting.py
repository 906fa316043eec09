"""Drawing what lies over the stage: marks, caret, selection, insertion points, hints. Takes no room in it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from msgspec import Struct, field
from PyQt6.QtCore import QPoint, QPointF, QRect, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPen

from rimecrest.core.check.kinds import Weight
from rimecrest.core.layout.seen import BUILT_IN, SeenButton, SeenControl, SeenPanel, SeenSeparator
from rimecrest.shell.theme import LIGHT, bold, font
from rimecrest.studio.layout.caret import Caret
from rimecrest.studio.layout.grid_pointer import Placing
from rimecrest.studio.layout.surface_tools import Plus, Target, end_plus, handles
from rimecrest.studio.shared.marks import SIGNS, draw_owner, hexagon, notched
from rimecrest.surfaces.button import ItemButton
from rimecrest.surfaces.frame import Frame
from rimecrest.surfaces.insertion_points import InsertionPoint
from rimecrest.surfaces.panel_controls import ControlView

PLUS = 15
"""Pixels of the hexagon with a plus at an insertion point."""


class Shown(Struct):
    """What is drawn besides the items themselves."""

    caret: Caret
    layer: str = ""
    """The layer being edited: what it placed is marked as yours."""
    marks: Mapping[str, Weight] = field(default_factory=dict)
    """Item → the worst finding about it."""
    previewed: set[str] = field(default_factory=set)
    hover: InsertionPoint | None = None
    dragging: bool = False
    keys: bool = False
    """Whether the keys go to the stage."""
    hint: str = ""
    framed: frozenset[str] = frozenset()
    """What differs from the last release, while the two are compared."""
    band: QRect | None = None
    ground: QPoint | None = None
    target: Target | None = None
    placing: Placing | None = None
    """What is dragged over a panel's free grid."""
    near: Plus | None = None


def paint_overlay(painter: QPainter, frame: Frame, shown: Shown) -> None:
    """Draw it all, in the frame's pixels."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for widget in frame.buttons():
        box = frame.box_of_widget(widget)
        if isinstance(widget, ItemButton | ControlView) and not box.isEmpty():
            if isinstance(widget, ControlView):
                # Its words begin at its edge: marks stand in the panel's margin.
                box.adjust(-7, -1, 3, 1)
            _paint_item(painter, widget.item, QRectF(box), shown)
    if frame.outcome is not None:
        tabs = {tab.id: tab.layer for tab in frame.outcome.tabs}
        groups = {group.id: group.layer for tab in frame.outcome.tabs for group in tab.groups}
        _paint_names(painter, frame.tab_rects(), tabs, shown.layer)
        _paint_names(painter, frame.head_rects(), groups, shown.layer)
        panels = {panel.id: panel.layer for panel in frame.outcome.panels}
        _paint_names(painter, frame.panel_heads(), panels, shown.layer)
    _paint_surfaces(painter, frame, shown)
    _paint_grid(painter, frame, shown)
    slot = shown.hover if shown.dragging else shown.caret.slot()
    if shown.hover is not None and not shown.dragging and shown.hover != slot:
        _paint_point(painter, shown.hover, faint=True)
    if slot is not None and (shown.keys or shown.dragging):
        _paint_point(painter, slot, faint=False)
    if shown.hint and slot is not None:
        _paint_hint(painter, shown.hint, slot, frame.width())


def _paint_surfaces(painter: QPainter, frame: Frame, shown: Shown) -> None:
    """Handles, what is held, pluses, and where what is dragged would go."""
    crest = LIGHT.color("crest")
    for name, box in handles(frame):
        if (shown.keys and name == shown.caret.held) or box.width() == box.height():
            painter.setPen(QPen(crest if name == shown.caret.held else LIGHT.color("faint"), 1.4))
            painter.setBrush(crest if name == shown.caret.held else LIGHT.color("sheet"))
            painter.drawPolygon(hexagon(QRectF(box).adjusted(2, 1, -2, -1)))
    if shown.caret.held is not None:
        named = (
            dict(frame.floating_heads())
            | dict(frame.panel_heads())
            | dict(frame.head_rects())
            | dict(frame.tab_rects())
        )
        box = named.get(shown.caret.held) or frame.rect_of(shown.caret.held) or QRect()
        painter.setPen(QPen(crest, 2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRoundedRect(QRectF(box).adjusted(2, 2, -2, -2), 5, 5)
    _paint_plus(painter, QPointF(end_plus(frame).box.center()))
    if shown.near is not None:
        _paint_plus(painter, QPointF(shown.near.box.center()))
    if shown.band is not None:
        painter.setPen(QPen(crest, 1, Qt.PenStyle.DashLine))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(shown.band)
    if shown.target is not None:
        _paint_target(painter, shown.target.line, shown.target.edge == "float")
    elif shown.ground is not None:
        _paint_target(painter, QRect(shown.ground, QSize(60, 34)), True)


def _paint_grid(painter: QPainter, frame: Frame, shown: Shown) -> None:
    """On a free grid: the order in which Tab goes, and where what is dragged would stand."""
    slot = shown.caret.slot()
    seen = frame.outcome
    panel = (
        seen.row(shown.caret.held or (slot.surface if slot is not None else "")) if seen is not None else None
    )
    if isinstance(panel, SeenPanel) and panel.flow == "grid":
        painter.setFont(bold(11))
        for number, item in enumerate(panel.items, start=1):
            box = frame.rect_of(item.id)
            if box is not None and not isinstance(item, SeenSeparator):
                mark = QRectF(box.right() - 17, box.top() - 3, 18, 15)
                painter.setPen(QPen(LIGHT.color("crest"), 1))
                painter.setBrush(LIGHT.color("sheet"))
                painter.drawRoundedRect(mark, 4, 4)
                painter.drawText(mark, Qt.AlignmentFlag.AlignCenter, str(number))
    if shown.placing is not None:
        for line in shown.placing.lines:
            painter.fillRect(line, LIGHT.color("asks"))
        for box in shown.placing.boxes:
            _paint_target(painter, box, True)


def _paint_target(painter: QPainter, box: QRect, afloat: bool) -> None:
    if afloat:
        painter.setPen(QPen(LIGHT.color("crest"), 2, Qt.PenStyle.DashLine))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(box)
    else:
        painter.fillRect(box, LIGHT.color("crest"))


def _paint_item(painter: QPainter, item: SeenButton | SeenControl, box: QRectF, shown: Shown) -> None:
    inner = box.adjusted(1, 2, -1, -2)
    weight = shown.marks.get(item.id)
    if weight in (Weight.BLOCKS, Weight.ASKS):
        tint = LIGHT.color(weight.value)
        tint.setAlpha(28)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(tint)
        painter.drawPath(notched(inner, 10, 4))
        painter.setPen(LIGHT.color(weight.value))
        painter.setFont(bold(12))
        sign = QRectF(box.right() - 11, box.top(), 11, 13)
        painter.drawText(sign, Qt.AlignmentFlag.AlignCenter, SIGNS[weight])
    yours = item.layer == shown.layer or shown.layer in item.changed_by
    if yours or item.layer != BUILT_IN:
        draw_owner(painter, LIGHT, box, yours)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if item.id in shown.previewed:
        painter.setPen(QPen(LIGHT.color("crest"), 1, Qt.PenStyle.DashLine))
        painter.drawRoundedRect(inner, 5, 5)
    if item.id in shown.framed:
        painter.setPen(QPen(LIGHT.color("asks"), 2, Qt.PenStyle.DashLine))
        painter.drawRoundedRect(inner, 5, 5)
    if item.id in shown.caret.selected:
        painter.setPen(QPen(LIGHT.color("crest"), 2))
        painter.drawRoundedRect(inner, 5, 5)


def _paint_names(
    painter: QPainter, rects: Iterable[tuple[str, QRect]], layers: Mapping[str, str], mine: str
) -> None:
    """The hexagon before a name: filled for this layer's, hollow for another's, none for built-in ones."""
    for name, box in rects:
        layer = layers.get(name, BUILT_IN)
        if layer == BUILT_IN:
            continue
        yours = layer == mine
        painter.setPen(QPen(LIGHT.color("crest" if yours else "slate"), 1.5))
        painter.setBrush(LIGHT.color("crest") if yours else Qt.BrushStyle.NoBrush)
        painter.drawPolygon(hexagon(QRectF(box.left() + 5, box.center().y() - 4, 8, 9)))


def _paint_point(painter: QPainter, slot: InsertionPoint, faint: bool) -> None:
    color = LIGHT.color("crest")
    if faint:
        color.setAlpha(120)
    painter.fillRect(slot.caret, color)
    if slot.new_group:
        centre = QPointF(slot.caret.center().x() + 0.5, slot.caret.bottom() - 2)
        _paint_plus(painter, centre)


def _paint_plus(painter: QPainter, centre: QPointF) -> None:
    """A hexagon with a plus: here something new can begin."""
    box = QRectF(centre.x() - PLUS / 2, centre.y() - PLUS / 2, PLUS - 1, PLUS)
    painter.setPen(QPen(LIGHT.color("crest"), 1.5))
    painter.setBrush(LIGHT.color("sheet"))
    painter.drawPolygon(hexagon(box))
    middle, arm = box.center(), 3.0
    painter.drawLine(middle - QPointF(arm, 0), middle + QPointF(arm, 0))
    painter.drawLine(middle - QPointF(0, arm), middle + QPointF(0, arm))


def _paint_hint(painter: QPainter, hint: str, slot: InsertionPoint, width: int) -> None:
    painter.setFont(font(12))
    wide = painter.fontMetrics().horizontalAdvance(hint) + 20
    x = max(min(slot.caret.center().x() + 10, width - wide - 6), 4)
    box = QRectF(x, slot.caret.bottom() + 8, wide, 26)
    painter.setPen(LIGHT.color("line"))
    painter.setBrush(LIGHT.color("sheet"))
    painter.drawRoundedRect(box, 5, 5)
    painter.setPen(LIGHT.color("ink2"))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, hint)
