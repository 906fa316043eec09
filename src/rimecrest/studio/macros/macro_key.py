"""Giving the macro that is open a key, from its sheet."""

from __future__ import annotations

from rimecrest.core.suggest.free_keys import free_keys
from rimecrest.core.words import tr
from rimecrest.core.workspace import MINE, MacroFile, Unbind
from rimecrest.core.workspace.give_key import context_for, give_key, own_key
from rimecrest.shell.theme import Scheme
from rimecrest.studio.macros.macro_sheet import MacroSheet
from rimecrest.studio.shared.key_choice import KeyChoice
from rimecrest.studio.shared.session import Session

OFFERED = 5
"""Free keys in the list."""


class MacroKeyWord:
    """The word *key* at the foot of the sheet, and what it opens."""

    def __init__(self, session: Session, sheet: MacroSheet, scheme: Scheme) -> None:
        self._session = session
        self._sheet = sheet
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

        def take(keys: str) -> None:
            self._sheet.steps.setFocus()
            if keys:
                context = context_for(session.workspace, aim.stack(session.workspace), aim.app, run)
                session.do(
                    give_key(session.workspace, aim.layer, aim.app, (run, ()), keys, context, moved=known)
                )
            elif known is not None:
                session.do(Unbind(aim.layer, aim.app, known.identity))

        none = tr("none") if known is not None else ""
        now = known.keys if known is not None else ""
        self._choice.choose(self._sheet.key, offered, now, take, self._sheet.steps.setFocus, none)
