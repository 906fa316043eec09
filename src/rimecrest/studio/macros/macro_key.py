"""Giving the macro that is open a key, from its sheet."""

from __future__ import annotations

from rimecrest.core.explain.given_key import between
from rimecrest.core.suggest.free_keys import free_keys
from rimecrest.core.words import tr
from rimecrest.core.workspace.give_key import context_for, give_key, give_up_key, own_key
from rimecrest.core.workspace.layer_ids import MINE
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.shell.theme import Scheme
from rimecrest.studio.macros.macro_sheet import MacroSheet
from rimecrest.studio.shared.key_choice import KeyChoice
from rimecrest.studio.shared.key_context import choose_context, context_words
from rimecrest.studio.shared.session import Session

OFFERED = 5
"""Free keys in the list."""


class MacroKeyWord:
    """The word *key* at the foot of the sheet, and what it opens."""

    def __init__(self, session: Session, sheet: MacroSheet, scheme: Scheme) -> None:
        self._session = session
        self._sheet = sheet
        self._scheme = scheme
        self._choice = KeyChoice(session, scheme)

    def choose(self, file: MacroFile) -> None:
        """Ask which key the aimed layer gives the macro."""
        session, aim = self._session, self._session.aim
        if file.layer == MINE:
            session.say(tr("Only you have “{name}”: move it to a shared shelf first.", name=file.name))
            return
        run = f"macro:{file.id}"
        known = own_key(session.workspace, aim.layer, aim.app, (run, ()))
        offered = free_keys(
            session.workspace, aim.app, aim.layer, file.name, OFFERED, checked=session.checked
        )

        def take(keys: str) -> str:
            self._sheet.steps.setFocus()
            before = session.workspace
            if keys:
                context = known.in_context if known is not None else ""
                return self._give(file, keys, context or self._context(run))
            if known is not None:
                session.do(give_up_key(before, aim.layer, aim.app, (run, ()), known.keys))
            return ""

        none = tr("none") if known is not None else ""
        now = known.keys if known is not None else ""
        self._choice.choose(self._sheet.key, offered, now, take, self._sheet.steps.setFocus, none)

    def _context(self, run: str) -> str:
        session, aim = self._session, self._session.aim
        return context_for(session.workspace, aim.stack(session.workspace), aim.app, run)

    def _give(self, file: MacroFile, keys: str, context: str) -> str:
        """Give the macro a key there, in place of the one it had. Returns what there is to say of it."""
        session, aim = self._session, self._session.aim
        before, target = session.workspace, (f"macro:{file.id}", ())
        known = own_key(before, aim.layer, aim.app, target)
        if not session.do(give_key(before, aim.layer, aim.app, target, keys, context, moved=known)):
            return ""
        return between(before, session.workspace, aim.app, aim.layer, target, keys).sentence(keys, file.name)

    def choose_context(self, file: MacroFile) -> None:
        """Ask where the macro's key is live."""
        session, aim = self._session, self._session.aim
        target = (f"macro:{file.id}", ())
        known = own_key(session.workspace, aim.layer, aim.app, target)
        if known is None:
            return

        def take(context: str) -> None:
            self._sheet.steps.setFocus()
            if said := self._give(file, known.keys, context):
                session.say(said)

        choose_context(session, self._sheet.key_context, target, known.in_context, self._scheme, take)

    def show(self, file: MacroFile | None) -> None:
        """Say where the macro's key is live, if the scope's layer gives it one."""
        session, aim = self._session, self._session.aim
        key = None
        if file is not None and file.macro.application == aim.app:
            key = own_key(session.workspace, aim.layer, aim.app, (f"macro:{file.id}", ()))
        self._sheet.key_context.setVisible(key is not None)
        if key is not None:
            self._sheet.key_context.setText(context_words(session, key.in_context))
            self._sheet.key_context.updateGeometry()
