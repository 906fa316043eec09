"""What gestures on the stage mean: from an intent to an edit, and where the caret is after it.

No widgets in here. The caret moves only when the edit was accepted.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import islice
from typing import Any

from rimecrest.core.catalogue.items import Item, Submenu
from rimecrest.core.catalogue.surfaces import Edge, Panel, Tab
from rimecrest.core.layout.seen import SeenButton, SeenGroup
from rimecrest.core.words import tr
from rimecrest.core.workspace.carry_over import (
    Counterpart,
    carried_over,
    counterparts,
    handlers_over,
    keys_along,
)
from rimecrest.core.workspace.edits import Bind, Edit, PutItems, SetFields, TakeOff, Together
from rimecrest.core.workspace.fresh import distinct, fresh_thing
from rimecrest.studio.layout import gestures
from rimecrest.studio.layout.caret import Caret
from rimecrest.studio.layout.clipboard import Copied
from rimecrest.studio.layout.control_kinds import BY_CHARACTER, control
from rimecrest.studio.shared.session import Session
from rimecrest.surfaces.insertion_points import InsertionPoint

NO_CARET = tr("There is no caret: click between two items, or press Tab.")


class StagePresenter:
    """Turns intents at the caret into edits of the aimed layer. Each answers whether it was done."""

    def __init__(self, session: Session, caret: Caret) -> None:
        self._session = session
        self.caret = caret

    def _do(self, edit: Edit | None) -> bool:
        return edit is not None and self._session.do(edit)

    def slot(self) -> InsertionPoint | None:
        """Where the caret is; says so when it is nowhere."""
        slot = self.caret.slot()
        if slot is None:
            self._session.say(NO_CARET)
        return slot

    def put(self, run: str, args: gestures.Args = (), label: str = "") -> str | None:
        """Put an item that runs a target with settings at the caret. Returns the row it is put in."""
        slot = self.slot()
        if slot is None:
            return None
        item = gestures.item_for(self._session, run, args, label)
        if not self._do(gestures.put(self._session, slot, [item])):
            return None
        return self._behind(f"{self._session.aim.layer}:{item.id}")

    def _behind(self, identity: str) -> str | None:
        """Put the caret behind an item that has just come."""
        row = self._session.outcome().row_of(identity)
        if row is None:
            return None
        self.caret.put_after(row.id, identity)
        return row.id

    def put_separator(self) -> bool:
        """Put a separator at the caret."""
        slot = self.slot()
        if slot is None or slot.new_group:
            return False
        rule = gestures.separator(self._session)
        done = self._do(gestures.put(self._session, slot, [rule]))
        if done:
            self._behind(f"{self._session.aim.layer}:{rule.id}")
        return done

    def put_control(self, begins: str, words: str) -> str | None:
        """Put a text, field, choice or tick box with its words at the caret. Returns its identity."""
        slot = self.slot()
        if slot is None:
            return None
        item = control(self._session, BY_CHARACTER[begins], words)
        if not self._do(gestures.put(self._session, slot, [item])):
            return None
        identity = f"{self._session.aim.layer}:{item.id}"
        self._behind(identity)
        return identity

    def put_submenu(self, title: str) -> str | None:
        """Put a line that opens another menu at the caret. Returns its identity."""
        slot = self.slot()
        if slot is None:
            return None
        aim = self._session.aim
        identity = fresh_thing(self._session.workspace, aim.layer, aim.app, title)
        item = Submenu(id=identity, submenu=title)
        if not self._do(gestures.put(self._session, slot, [item])):
            return None
        return f"{aim.layer}:{identity}"

    def paste(self, copied: Copied) -> bool:
        """Put what was copied where the caret or what is held is; what was cut here keeps its identities."""
        edit = self._pasting(copied)
        done = edit is not None and self._do(edit[0])
        if done and edit is not None:
            self._after_paste(edit[1])
        return done

    def counterparts(self, copied: Copied) -> list[Counterpart]:
        """What the commands of copied items have for their likes in the aimed application."""
        workspace = self._session.workspace
        there, here = workspace.catalogue(copied.app), workspace.catalogue(self._session.aim.app)
        return counterparts(copied.everything(), there, here)

    def carried_over(self, copied: Copied, runs: Mapping[str, str]) -> Copied:
        """What was copied in another application, as it can stand in the aimed one."""
        here = self._session.workspace.catalogue(self._session.aim.app)
        surface = copied.surface
        if isinstance(surface, Tab):
            groups = tuple(
                group.model_copy(update={"items": tuple(carried_over(group.items, runs, here))})
                for group in surface.groups
            )
            surface = surface.model_copy(update={"groups": groups})
        elif surface is not None:
            over: dict[str, Any] = {"items": tuple(carried_over(surface.items, runs, here))}
            if isinstance(surface, Panel):
                over["on"] = handlers_over(surface.on, runs, here)
            surface = surface.model_copy(update=over)
        items = tuple(carried_over(copied.items, runs, here))
        inside = {name: tuple(carried_over(held, runs, here)) for name, held in copied.inside.items()}
        return Copied(copied.layer, self._session.aim.app, False, items, surface, inside)

    def paste_with_keys(self, copied: Copied, runs: Mapping[str, str], source: tuple[str, str]) -> bool:
        """Paste, and bind the keys that a layout has for what was copied to its likes."""
        session, aim = self._session, self._session.aim
        here = session.workspace.catalogue(aim.app)
        keys = keys_along(session.workspace.layout(*source), runs, here)
        edit = self._pasting(copied)
        if edit is None:
            return False
        bound = tuple(Bind(aim.layer, aim.app, key) for key in keys)
        done = self._do(Together(tr("paste"), (edit[0], *bound)) if bound else edit[0])
        if done:
            self._after_paste(edit[1])
        return done

    def _pasting(self, copied: Copied) -> tuple[Edit, list[str]] | None:
        """The edit that pastes, and the identities of what comes; None when it cannot, which was said."""
        aim = self._session.aim
        if copied.surface is not None:
            seen, held = self._session.outcome(), self.caret.held
            slot = self.caret.slot()
            beside = held if held is not None else slot.surface if slot is not None else None
            if isinstance(copied.surface, Tab) and (beside is None or seen.tab(beside) is None):
                row = seen.row(beside) if beside is not None else None
                last = seen.tabs[-1].id if seen.tabs else None
                beside = row.tab if isinstance(row, SeenGroup) else last
            made = gestures.put_surface(self._session, copied.surface, beside)
            if made is None:
                self._session.say(tr("A group stands in a tab: hold a group or a tab first."))
                return None
            return made[0], [made[1]]
        slot = self.slot()
        cut = copied.cut and (copied.layer, copied.app) == (aim.layer, aim.app)
        fresh = distinct(self._session.workspace, aim.layer, aim.app, copied.everything(), cut)
        items = fresh[: len(copied.items)]
        if slot is None or not items:
            return None
        edit = gestures.put(self._session, slot, items)
        if inner := self._put_inside(copied, fresh):
            edit = Together(edit.label, (edit, *inner))
        return edit, [f"{aim.layer}:{item.id}" for item in items]

    def _put_inside(self, copied: Copied, fresh: list[Item]) -> list[Edit]:
        """What fills the submenus that are pasted; `fresh` is everything copied with its new identities."""
        aim = self._session.aim
        now = {
            str(old.id): f"{aim.layer}:{new.id}" for old, new in zip(copied.everything(), fresh, strict=True)
        }
        rest = iter(fresh[len(copied.items) :])
        parts = [(now.get(name), tuple(islice(rest, len(held)))) for name, held in copied.inside.items()]
        return [PutItems(aim.layer, aim.app, into, None, held) for into, held in parts if into and held]

    def _after_paste(self, things: list[str]) -> None:
        """What has come is held, or selected where it is several items: one sees it, and can change it."""
        if self._session.outcome().is_surface(things[-1]):
            self.caret.hold(things[-1])
            return
        self._behind(things[-1])
        if len(things) > 1:
            self.caret.selected = things

    def take_off(self, things: Sequence[str]) -> bool:
        """Remove items, or hide them where they are not this layer's."""
        if not things:
            self._session.say(tr("There is nothing beside the caret to remove."))
            return False
        slot = self.caret.slot()
        before: list[str | None] = []
        if slot is not None and slot.after in things:
            order = [known.after for known in self.caret.slots if known.surface == slot.surface]
            before = [name for name in order[: order.index(slot.after)] if name not in things]
        aim = self._session.aim
        off = TakeOff(aim.layer, aim.app, tuple(things))
        rows = gestures.keep_rows(self._session, things)
        done = self._do(Together(off.label, (off, *rows)) if rows else off)
        if done and slot is not None and slot.after in things:
            self.caret.put_after(slot.surface, before[-1] if before else None)
        return done

    def move(self, things: Sequence[str], slot: InsertionPoint) -> bool:
        """Move items to a place; they stay selected."""
        done = self._do(gestures.move(self._session, list(things), slot))
        if done:
            self._behind(things[-1])
            self.caret.selected = list(things)
        return done

    def shift(self, thing: str, by: int) -> bool:
        """Shift an item one place along its surface."""
        return self._do(gestures.shift(self._session, thing, by))

    def widen(self, item: SeenButton, by: int) -> bool:
        """Pull an item's edge by some pixels: to double width, or back to single."""
        width = 2 if by > 0 else 1
        if width == item.width:
            return False
        words = tr("double width") if width == 2 else tr("single width")
        aim = self._session.aim
        return self._do(SetFields(aim.layer, aim.app, item.id, {"width": width}, words))

    def set_all(self, things: Sequence[str], fields: dict[str, Any], words: str) -> bool:
        """Give several items the same values, as one edit; separators among them stay as they are."""
        seen, aim = self._session.outcome(), self._session.aim
        edits = tuple(
            SetFields(aim.layer, aim.app, name, fields, words)
            for name in things
            if seen.button(name) is not None
        )
        if not edits:
            return False
        return self._do(edits[0] if len(edits) == 1 else Together(words, edits))

    def bar_of(self, things: Sequence[str], edge: Edge, at: tuple[int, int] | None) -> bool:
        """Move items to a new bar at an edge, or floating at a place of the document."""
        edit, identity = gestures.bar_of(self._session, list(things), edge, at)
        if not self._do(edit):
            return False
        self._behind(things[-1])
        self.caret.selected = list(things)
        self._session.say(tr("A new bar: F2 on it gives it a name."))
        return identity is not None

    def rename(self, identity: str, field: str, before: str, name: str) -> bool:
        """Give a thing another name; an empty one is told."""
        if not name:
            self._session.say(
                tr("Everything here needs a name: this one is still called “{before}”.", before=before)
            )
            return False
        aim = self._session.aim
        return name != before and self._do(
            SetFields(aim.layer, aim.app, identity, {field: name}, tr("call it {name}", name=name))
        )
