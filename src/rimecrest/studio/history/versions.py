"""The earlier versions of one file: of a macro, or of a picture."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtWidgets import QWidget

from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme
from rimecrest.studio.history.times import when
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.session import Session

MOST = 20
"""Versions in a list."""


def choose_version(
    session: Session, path: str, word: QWidget, scheme: Scheme, take: Callable[[bytes, str], object]
) -> None:
    """List what a file was before, newest first, under a word.

    Args:
        take: gets the content of the chosen one, and when that was.
    """
    now = session.history.clock()
    points = session.history.points([path])
    changed = [point for point in points if path in point.paths]
    contents: dict[str, tuple[bytes, str]] = {}
    for point in changed[:MOST]:
        # As it was before each of its changes.
        content = session.history.changed_since(point.id - 1).get(path)
        if content is not None:
            said = when(point.at, now)
            contents[str(point.id)] = (content, said)
    if not contents:
        session.say(tr("Nothing earlier is known of it."))
        return
    rows = [(key, tr("as before {when}", when=said)) for key, (_, said) in contents.items()]
    choose_from(word, rows, "", scheme, lambda key: take(*contents[key]))
