"""Choosing a key for a macro: its best free ones, or one that is pressed, also while the list is open."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from rimecrest.core.keys.chords import Chord
from rimecrest.core.words import tr
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
        taken: Callable[[str], str],
        back: Callable[[], object],
        none: str = "",
    ) -> None:
        """Open the list.

        Args:
            offered: free keys, the best first.
            now: the key that it has.
            taken: gets the key, an empty one for none; returns what there is to say of it.
            back: gives the keyboard back when nothing was pressed.
            none: the words of the row that removes the key; no such row if empty.
        """
        rows = [(keys, keys) for keys in offered]
        if now and now not in offered:
            rows.insert(0, (now, now))
        rows += [("", none)] if none else []
        # In the same place whether there is a key to remove or not.
        rows.append((PRESS, tr("Press it …")))

        def take(keys: str) -> None:
            if keys == PRESS:
                self._listen(word, taken, back)
            else:
                self._take(keys, taken)

        def pressed(chord: Chord) -> None:
            self._listen(word, taken, back, chord)

        choose_from(word, rows, now, self._scheme, take, pressed)

    def _take(self, keys: str, taken: Callable[[str], str]) -> None:
        if said := taken(keys):
            self._session.say(said)

    def _listen(
        self,
        word: Word,
        taken: Callable[[str], str],
        back: Callable[[], object],
        first: Chord | None = None,
    ) -> None:
        def pressed(keys: str) -> None:
            back()
            self._take(keys, taken)

        field = ask_in_place(word, self._scheme, self._session.begins_sequence, pressed)
        field.given_up.connect(back)
        if first is not None:
            field.take(first)
