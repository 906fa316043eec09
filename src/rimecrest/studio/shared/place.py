"""What the window knows of a place: nothing but this."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any, Literal, NamedTuple, get_args

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from rimecrest.core.mend.fix import Fix
from rimecrest.core.search import Match
from rimecrest.shell.theme import Scheme
from rimecrest.studio.shared.live_preview import LivePreview
from rimecrest.studio.shared.session import Session

Kind = Literal["finding", "item", "surface", "picture", "key", "macro", "command", "seat"]


class Thing(NamedTuple):
    """Something that a place can show: what kind of thing, and its identity.

    A finding is named by where it is; a key by its sequence; a macro and a command by what they are called in
    layouts; an item or surface by its identity; a picture as items name it; a seat by what it is called.
    """

    kind: Kind
    name: str


def thing_of(match: Match) -> Thing | None:
    """What was found, where a place can show it; None: it is something to do, or an aim."""
    for kind in get_args(Kind):
        if match.kind == kind:
            return Thing(kind, match.id)
    return None


Task = Literal["change", "edit", "place", "key", "delete"]
"""What is to be done with a thing: change an item, edit, place, delete a macro or give it a key."""


class Recorded(NamedTuple):
    """What was recorded in a window of an application, on its own initiative: the text of a macro.

    `document` is the name of the document that it was recorded in, `pid` the process of the window; both are
    empty for a recording that was left behind.
    """

    app: str
    name: str
    text: str
    document: str
    pid: int


class Surroundings(NamedTuple):
    """What the window gives to each place."""

    session: Session
    scheme: Scheme
    preview: LivePreview
    window: QWidget
    """Lists and sheets that lie over everything are its children."""


class Place(QWidget):
    """One room of the studio. A place says with signals what it wants of the window.

    Signals:
        fix_wanted(fix): apply this fix of a finding.
        wanted: come to the fore, for something that was begun from elsewhere.
    """

    fix_wanted = pyqtSignal(Fix)
    wanted = pyqtSignal()

    def begin(self) -> None:
        """The place is shown: draw what is, and take the keys."""

    def welcome(self) -> None:
        """The workspace has just been begun: say what to do first."""

    def leave(self) -> None:
        """Another place is shown: keep what was typed last."""

    def close_down(self) -> None:
        """The studio ends, or the workspace is closed: end what runs."""

    def take_focus(self) -> None:
        """What lay over the place is gone: take the keys again."""
        self.setFocus()

    def actions_here(self) -> list[Match]:
        """What the finder offers to do here."""
        return []

    def offers(self, _word: str) -> list[Match]:
        """What the finder offers to do with a word that nothing has."""
        return []

    def put_thing(self, _thing: Thing) -> bool:
        """Put something where the caret is; whether this is a place where that can be."""
        return False

    def take_recorded(self, _recorded: Recorded) -> bool:
        """Take over what was recorded in an application's own window; whether this place does that."""
        return False

    def take_up(self, _what: Task, _thing: Thing) -> bool:
        """Begin something with a thing, as an application asks; whether this is the place for it."""
        return False

    def shows(self, _thing: Thing) -> bool:
        """Whether it can show that."""
        return False

    def show_thing(self, _thing: Thing) -> None:
        """Bring into view what it `shows`."""

    def readings(self) -> Mapping[str, Callable[[], Any]]:
        """What the place tells over the link, for tests and for assistance that walks the windows."""
        return {}

    def where(self, _thing: str) -> list[int] | None:
        """Where something that it draws itself is on the screen, in pixels: x, y, width, height."""
        return None


def action(name: str, do: Callable[[], object], hint: str = "action", more: str = "") -> Match:
    """A row of the finder that does something."""
    return Match("action", name, name, hint, more, action=do)
