"""Choosing a key for a macro: its best free ones, or one that is pressed; who has that is told."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from rimecrest.core.suggest.free_keys import holders
from rimecrest.core.words import listed, tr
from rimecrest.shell.theme import Scheme
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.key_field import ask_in_place
from rimecrest.studio.shared.sentence_widgets import Word
from rimecrest.studio.shared.session import Session

PRESS = "press"


class KeyChoice:
    """The list under a word, and the field that a key is pressed into."""

    def __init__(self, session: Session, scheme: Scheme) -> None:
        self._session = session
        self._scheme = scheme

    def choose(
        self,
        word: Word,
        offered: Sequence[str],
        now: str,
        taken: Callable[[str], object],
        back: Callable[[], object],
        none: str = "",
    ) -> None:
        """Open the list.

        Args:
            offered: free keys, the best first.
            now: the key that it has.
            taken: gets the key; an empty one for none.
            back: gives the keyboard back when nothing was pressed.
            none: what the row is called that takes the key away; no row where it is empty.
        """
        rows = [*((keys, keys) for keys in offered), (PRESS, tr("Press it …"))]
        rows += [("", none)] if none else []
        if now and now not in offered:
            rows.insert(0, (now, now))

        def take(keys: str) -> None:
            if keys == PRESS:
                self._listen(word, taken, back)
            else:
                taken(keys)

        choose_from(word, rows, now, self._scheme, take)

    def _listen(self, word: Word, taken: Callable[[str], object], back: Callable[[], object]) -> None:
        def pressed(keys: str) -> None:
            session, aim = self._session, self._session.aim
            known = holders(session.workspace, aim.app, aim.layer, keys)
            back()
            taken(keys)
            if known:
                names = listed(owner.name for owner in known)
                session.say(tr("{keys} is taken over from {names}.", keys=keys, names=names))

        field = ask_in_place(word, self._scheme, self._session.begins_sequence, pressed)
        field.given_up.connect(back)
