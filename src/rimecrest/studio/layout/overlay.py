"""What lies over the stage and takes the mouse and the keys: caret, selection, marks, preview.

It changes nothing itself: it emits what the specialist wants done, as edits or as wishes.
"""

from __future__ import annotations

import json
from collections.abc import Mapping

from PyQt6.QtCore import QEvent, QMimeData, QPoint, QRect, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QApplication, QWidget

from rimecrest.core.catalogue.surfaces import item_of
from rimecrest.core.check import Weight
from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout import BUILT_IN, SeenButton
from rimecrest.core.model import parse_json
from rimecrest.core.workspace import SetFields, TakeOff, distinct
from rimecrest.shell.theme import LIGHT, bold, font
from rimecrest.studio.layout import gestures
from rimecrest.studio.layout.caret import Caret
from rimecrest.studio.shared.marks import SIGNS, notched
from rimecrest.studio.shared.sentence_widgets import InlineField
from rimecrest.studio.shared.session import Session
from rimecrest.surfaces import Frame, InsertionPoint, ItemButton

MIME = "application/x-rimecrest-items+json"
EDGE = 5
"""Pixels at an item's right edge that take hold of its width."""


class Overlay(QWidget):
    """Over a `Frame`, as large as it.

    Signals:
        wants(edit): do this.
        typing(text): the letters typed at the caret; empty when there are none.
        candidate(key): a key for the list of candidates, while it is open.
        opens(identity): open the card of this item.
        moved: the caret or the selection is elsewhere.
    """

    wants = pyqtSignal(object)
    typing = pyqtSignal(str)
    candidate = pyqtSignal(int)
    opens = pyqtSignal(str)
    moved = pyqtSignal()

    def __init__(self, frame: Frame, session: Session, parent: QWidget) -> None:
        super().__init__(parent)
        self.caret = Caret()
        self.typed = ""
        self.previewed: set[str] = set()
        """Items that show only as a preview."""
        self.marks: Mapping[str, Weight] = {}
        """Item → the worst finding about it."""
        self.hint = ""
        self._frame = frame
        self._session = session
        self._hover: InsertionPoint | None = None
        self._pressed: str | None = None
        self._pressed_at = QPoint()
        self._dragging = False
        self._widening: str | None = None
        self._rename: InlineField | None = None
        self.setObjectName("overlay")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAccessibleName("The colleague's window: type to put something at the caret")

    # Drawing

    def redrawn(self) -> None:
        """The frame shows another outcome: find the caret's place again."""
        self.caret.use(self._frame.insertion_points())
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for widget in self._frame.buttons():
            if isinstance(widget, ItemButton):
                box = QRect(widget.mapTo(self._frame, QPoint(0, 0)), widget.size())
                self._paint_item(painter, widget, QRectF(box))
        self._paint_tabs(painter)
        for offered in self.caret.slots:
            if offered.new_group:
                self._paint_new_group(painter, offered)
        if self._hover is not None and not self._hover.new_group and not self._dragging:
            shade = LIGHT.color("crest")
            shade.setAlpha(110)
            painter.fillRect(self._hover.caret, shade)
        slot = self._hover if self._dragging else self.caret.slot()
        if slot is not None and not slot.new_group and (self.hasFocus() or self._dragging or self.typed):
            painter.fillRect(
                slot.caret.adjusted(-1, 0, 1, 0) if self._dragging else slot.caret, LIGHT.color("crest")
            )
        if self.hint:
            self._paint_hint(painter)

    def _paint_item(self, painter: QPainter, widget: ItemButton, box: QRectF) -> None:
        item = widget.item
        inner = box.adjusted(2, 2, -2, -2)
        weight = self.marks.get(item.id)
        if weight in (Weight.BLOCKS, Weight.ASKS):
            token = weight.value
            tint = LIGHT.color(token)
            tint.setAlpha(28)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(tint)
            painter.drawPath(notched(inner, 11, 5))
            painter.setPen(LIGHT.color(token))
            painter.setFont(bold(12))
            painter.drawText(
                QRectF(box.right() - 12, box.top() + (1 if box.height() < 50 else 9), 11, 13),
                Qt.AlignmentFlag.AlignCenter,
                SIGNS[weight],
            )
        if item.layer == self._session.aim.layer or self._session.aim.layer in item.changed_by:
            painter.fillRect(QRectF(box.left() + 8, box.top() + 1, box.width() - 16, 3), LIGHT.color("crest"))
        elif item.layer != BUILT_IN:
            painter.fillRect(
                QRectF(box.left() + 8, box.bottom() - 3, box.width() - 16, 3), LIGHT.color("slate")
            )
        if item.id in self.previewed:
            painter.setPen(QPen(LIGHT.color("crest"), 1, Qt.PenStyle.DashLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(inner, 5, 5)
        if item.id in self.caret.selected:
            painter.setPen(QPen(LIGHT.color("crest"), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(inner, 5, 5)

    def _paint_tabs(self, painter: QPainter) -> None:
        layers = {tab.id: tab.layer for tab in self._frame.outcome.tabs} if self._frame.outcome else {}
        for tab, box in self._frame.tab_rects():
            if layers.get(tab) == self._session.aim.layer:
                painter.fillRect(box.left() + 10, box.top() + 6, box.width() - 20, 3, LIGHT.color("crest"))
            elif layers.get(tab) != BUILT_IN:
                painter.fillRect(box.left() + 10, box.bottom() - 3, box.width() - 20, 3, LIGHT.color("slate"))

    def _paint_new_group(self, painter: QPainter, slot: InsertionPoint) -> None:
        chosen = slot == self.caret.slot()
        here = chosen or slot == self._hover
        painter.setBrush(LIGHT.color("hover") if chosen else Qt.BrushStyle.NoBrush)
        painter.setPen(
            QPen(LIGHT.color("crest" if here else "faint"), 2 if chosen else 1, Qt.PenStyle.DashLine)
        )
        painter.drawRoundedRect(QRectF(slot.caret), 4, 4)
        painter.setPen(LIGHT.color("crest" if here else "ink2"))
        painter.setFont(font(11))
        painter.save()
        painter.translate(slot.caret.center())
        painter.rotate(-90)
        words = QRectF(
            -slot.caret.height() / 2, -slot.caret.width() / 2, slot.caret.height(), slot.caret.width()
        )
        painter.drawText(words, Qt.AlignmentFlag.AlignCenter, "new group")
        painter.restore()

    def _paint_hint(self, painter: QPainter) -> None:
        slot = self.caret.slot()
        if slot is None or self.typed:
            return
        painter.setFont(font(12))
        width = painter.fontMetrics().horizontalAdvance(self.hint) + 20
        x = min(slot.caret.center().x() + 10, self.width() - width - 6)
        box = QRectF(max(x, 4), slot.caret.bottom() + 8, width, 26)
        painter.setPen(LIGHT.color("line"))
        painter.setBrush(LIGHT.color("sheet"))
        painter.drawRoundedRect(box, 5, 5)
        painter.setPen(LIGHT.color("ink2"))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, self.hint)

    # The mouse

    def _button_at(self, point: QPoint) -> ItemButton | None:
        for widget in self._frame.buttons():
            if isinstance(widget, ItemButton):
                if QRect(widget.mapTo(self._frame, QPoint(0, 0)), widget.size()).contains(point):
                    return widget
        return None

    def _at_edge(self, widget: ItemButton, point: QPoint) -> bool:
        right = widget.mapTo(self._frame, QPoint(widget.width(), 0)).x()
        return 0 <= right - point.x() <= EDGE

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        point = event.position().toPoint()
        self.stop_typing()
        self.hint = ""
        for tab, box in self._frame.tab_rects():
            if box.contains(point):
                self._frame.choose_tab(tab)
                return
        button = self._button_at(point)
        near = self.caret.nearest(point, within=4)
        if (
            button is not None
            and self._at_edge(button, point)
            and event.button() == Qt.MouseButton.LeftButton
        ):
            # Pulled, the edge changes the width; only clicked, it is the place behind the item.
            self._widening = button.item.id
            self._pressed_at = point
            if near is not None:
                self.caret.put(near)
        elif near is not None and (button is None or near.new_group or self._close_to(near, point)):
            self.caret.put(near)
        elif button is not None:
            more = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            surface = self._surface_of(button.item.id)
            if surface is not None:
                self.caret.select(surface, button.item.id, more)
            self._pressed, self._pressed_at = button.item.id, point
        elif (slot := self.caret.nearest(point, within=40)) is not None:
            self.caret.put(slot)
        self.moved.emit()
        self.update()

    def _close_to(self, slot: InsertionPoint, point: QPoint) -> bool:
        upright = slot.caret.height() > slot.caret.width()
        distance = (
            abs(slot.caret.center().x() - point.x()) if upright else abs(slot.caret.center().y() - point.y())
        )
        return distance <= 3

    def _surface_of(self, identity: str) -> str | None:
        row = self._frame.outcome.row_of(identity) if self._frame.outcome else None
        return row.id if row is not None else None

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        point = event.position().toPoint()
        if self._widening is not None:
            return
        if self._pressed is not None and not self._dragging:
            far = (point - self._pressed_at).manhattanLength() >= QApplication.startDragDistance()
            self._dragging = far
        if self._dragging:
            for tab, box in self._frame.tab_rects():
                if box.contains(point):
                    # Rest on a tab's name to drop in that tab.
                    self._frame.choose_tab(tab)
            self._hover = self.caret.nearest(point)
            self.setCursor(Qt.CursorShape.ClosedHandCursor)
        else:
            button = self._button_at(point)
            self._hover = self.caret.nearest(point, within=6)
            if button is not None and self._at_edge(button, point):
                self.setCursor(Qt.CursorShape.SizeHorCursor)
                self._hover = None
            else:
                self.setCursor(Qt.CursorShape.ArrowCursor)
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        point = event.position().toPoint()
        if self._widening is not None:
            self._widen(self._widening, point.x() - self._pressed_at.x())
        elif self._dragging and self._hover is not None and self._pressed is not None:
            things = self.caret.selected if self._pressed in self.caret.selected else [self._pressed]
            slot = self._hover
            edit = gestures.move(self._session, list(things), slot)
            if edit is not None:
                self.wants.emit(edit)
        self._pressed = self._widening = self._hover = None
        self._dragging = False
        self.setCursor(Qt.CursorShape.ArrowCursor)
        self.update()

    def _widen(self, identity: str, by: int) -> None:
        item = self._frame.outcome.button(identity) if self._frame.outcome else None
        if item is None or abs(by) < 12:
            return
        width = 2 if by > 0 else 1
        if width != item.width:
            words = "double width" if width == 2 else "single width"
            self.wants.emit(
                SetFields(self._session.aim.layer, self._session.aim.app, identity, {"width": width}, words)
            )

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        point = event.position().toPoint()
        button = self._button_at(point)
        if button is not None:
            self.opens.emit(button.item.id)
            return
        for tab, box in self._frame.tab_rects():
            if box.contains(point):
                self.rename(tab)
                return
        for group, box in self._frame.group_rects():
            if box.contains(point) and point.y() > box.bottom() - 24:
                self.rename(group)
                return

    def leaveEvent(self, event: QEvent) -> None:
        self._hover = None
        self.update()

    # The keyboard

    def event(self, event: QEvent) -> bool:
        # Tab walks over the surfaces; it would else leave the stage.
        if event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            if event.key() in (Qt.Key.Key_Tab, Qt.Key.Key_Backtab) and not self.typed and self.caret.slots:
                held = event.modifiers() & Qt.KeyboardModifier.ControlModifier
                if not held:
                    self.caret.jump(1 if event.key() == Qt.Key.Key_Tab else -1)
                    self._after_move()
                    return True
        return super().event(event)

    def _after_move(self) -> None:
        self.hint = ""
        self.moved.emit()
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key, held = event.key(), event.modifiers()
        control = bool(held & Qt.KeyboardModifier.ControlModifier)
        if self.typed and key in (Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.candidate.emit(key)
            return
        if key == Qt.Key.Key_Escape:
            if self.typed:
                self.stop_typing()
            else:
                self.caret.selected = []
            self._after_move()
        elif held & Qt.KeyboardModifier.AltModifier and key in _STEPS:
            for thing in self.caret.chosen()[:1]:
                if (edit := gestures.shift(self._session, thing, _STEPS[key])) is not None:
                    self.wants.emit(edit)
        elif key in _STEPS and not self.typed:
            self.caret.step(_STEPS[key], bool(held & Qt.KeyboardModifier.ShiftModifier))
            self._after_move()
        elif key in (Qt.Key.Key_Home, Qt.Key.Key_End) and not self.typed:
            self.caret.to_end(key == Qt.Key.Key_End)
            self._after_move()
        elif key in (Qt.Key.Key_PageUp, Qt.Key.Key_PageDown):
            self._step_tab(1 if key == Qt.Key.Key_PageDown else -1)
        elif key == Qt.Key.Key_Backspace and self.typed:
            self._type(self.typed[:-1])
        elif key == Qt.Key.Key_Backspace:
            self._take_off(self.caret.chosen())
        elif key == Qt.Key.Key_Delete and not self.typed:
            behind = self.caret.behind()
            self._take_off(self.caret.selected or ([behind] if behind else []))
        elif key == Qt.Key.Key_F2:
            self._rename_here()
        elif control and key in (Qt.Key.Key_C, Qt.Key.Key_X, Qt.Key.Key_V):
            self._clipboard(key)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) or (key == Qt.Key.Key_Space and not self.typed):
            for thing in self.caret.chosen()[-1:]:
                self.opens.emit(thing)
        elif event.text() and event.text().isprintable() and not control:
            self._character(event.text())
        else:
            super().keyPressEvent(event)

    def _character(self, text: str) -> None:
        slot = self.caret.slot()
        if slot is None:
            return
        if text == "|" and not self.typed and not slot.new_group:
            rule = gestures.separator(self._session)
            edit = gestures.put(self._session, slot, [rule])
            self.caret.put_after(slot.surface, f"{self._session.aim.layer}:{rule.id}")
            self.wants.emit(edit)
        else:
            self._type(self.typed + text)

    def _type(self, text: str) -> None:
        self.typed = text
        self.hint = ""
        self.typing.emit(text)
        self.update()

    def stop_typing(self) -> None:
        if self.typed:
            self._type("")

    def _step_tab(self, by: int) -> None:
        tabs = [tab for tab, _ in self._frame.tab_rects()]
        if self._frame.open_tab in tabs:
            self._frame.choose_tab(tabs[(tabs.index(self._frame.open_tab) + by) % len(tabs)])

    def _take_off(self, things: list[str]) -> None:
        if not things:
            return
        slot = self.caret.slot()
        if slot is not None and slot.after in things:
            order = [known.after for known in self.caret.slots if known.surface == slot.surface]
            before = [name for name in order[: order.index(slot.after)] if name not in things]
            self.caret.put_after(slot.surface, before[-1] if before else None)
        aim = self._session.aim
        self.wants.emit(TakeOff(aim.layer, aim.app, tuple(things)))

    def _clipboard(self, key: int) -> None:
        seen = self._frame.outcome
        if key == Qt.Key.Key_V:
            self._paste()
            return
        items = [item for name in self.caret.chosen() if seen and (item := seen.item(name))]
        if not items:
            return
        stored = [gestures.as_stored(item).to_data() for item in items]
        data = QMimeData()
        aim = self._session.aim
        copied = {"from": [aim.layer, aim.app], "cut": key == Qt.Key.Key_X, "items": stored}
        data.setData(MIME, json.dumps(copied).encode())
        data.setText(", ".join(item.label for item in items if isinstance(item, SeenButton)))
        QApplication.clipboard().setMimeData(data)
        if key == Qt.Key.Key_X:
            self._take_off([item.id for item in items])

    def _paste(self) -> None:
        slot, data = self.caret.slot(), QApplication.clipboard().mimeData()
        if slot is None or data is None or not data.hasFormat(MIME):
            return
        try:
            found = parse_json(data.data(MIME).data().decode(), "what was copied")
            items = [item_of(row, "what was copied") for row in found["items"]]
            aim = self._session.aim
            cut = bool(found["cut"]) and found["from"] == [aim.layer, aim.app]
        except (RimecrestError, KeyError, TypeError, UnicodeDecodeError) as error:
            self._session.say(f"What was copied cannot be pasted: {error}")
            return
        items = distinct(self._session.workspace, aim.layer, aim.app, items, cut)
        edit = gestures.put(self._session, slot, items)
        if items and not slot.new_group:
            self.caret.put_after(slot.surface, f"{self._session.aim.layer}:{items[-1].id}")
        self.wants.emit(edit)

    # Names in place

    def _rename_here(self) -> None:
        chosen = self.caret.chosen()
        slot = self.caret.slot()
        if chosen:
            self.rename(chosen[-1])
        elif slot is not None:
            self.rename(slot.surface)

    def rename(self, identity: str) -> None:
        """Edit a thing's words where it stands."""
        box = self._frame.rect_of(identity)
        seen = self._frame.outcome
        if box is None or seen is None:
            return
        item = seen.button(identity)
        now = item.label if item is not None else seen.title_of(identity)
        if item is None and identity in dict(self._frame.group_rects()):
            box = QRect(box.left(), box.bottom() - 24, box.width(), 22)
        field = InlineField(now, "its words", self)
        field.setObjectName("rename")
        width = max(box.width(), 130)
        left = max(0, min(box.center().x() - width // 2, self.width() - width))
        field.setGeometry(left, box.center().y() - 13, width, 27)
        what = "label" if item is not None else "title"

        def enter(text: str) -> None:
            self._close_rename()
            if text and text != now:
                aim = self._session.aim
                self.wants.emit(SetFields(aim.layer, aim.app, identity, {what: text}, f"call it {text}"))

        field.entered.connect(enter)
        field.given_up.connect(self._close_rename)
        self._rename = field
        field.show()
        field.setFocus()

    def _close_rename(self) -> None:
        if self._rename is not None:
            self._rename.hide()
            self._rename.deleteLater()
            self._rename = None
            self.setFocus()

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        if self.caret.at is None and self.caret.slots:
            self.caret.put(self.caret.slots[0])
        self.update()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self.update()


_STEPS: dict[int, int] = {
    Qt.Key.Key_Left: -1,
    Qt.Key.Key_Up: -1,
    Qt.Key.Key_Right: 1,
    Qt.Key.Key_Down: 1,
}
