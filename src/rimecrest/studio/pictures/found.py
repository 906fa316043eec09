"""Which pictures of the free sets the chooser shows, for what is typed and before anything is."""

from __future__ import annotations

from functools import lru_cache

from rimecrest.core.pictures.index import PictureIndex
from rimecrest.core.release.pictures import picture_names
from rimecrest.studio.pictures.presenter import SET

MOST = 60
"""Pictures that a search shows at most."""
RECENT = 12
"""Pictures taken last that are shown before anything is typed."""
_taken: dict[str, None] = {}
"""The pictures of the free sets that were taken since the studio began, the last one last."""


@lru_cache(maxsize=1)
def _index() -> PictureIndex:
    return PictureIndex(picture_names())


def how_many() -> int:
    """The number of pictures in all sets."""
    return len(_index().names)


def found(typed: str, now: str, about: str) -> list[str]:
    """The pictures to show, best first.

    Args:
        typed: what is looked for. Empty: first comes the picture that the thing has, then those taken last,
            then those that fit its words, then the rest.
        now: the picture that the thing has.
        about: the words of the thing.
    """
    index = _index()
    if typed:
        names = list(index.find(typed, MOST))
    else:
        current = now.removeprefix(SET)
        fitting = index.find(about, MOST)
        latest = list(_taken)[::-1][:RECENT]
        own = [current] if current in set(index.names) else []
        names = list(dict.fromkeys((*own, *latest, *fitting, *index.names[:MOST])))
    return [f"{SET}{name}" for name in names[:MOST]]


def note_taken(name: str) -> None:
    """Remember which picture was taken; those of one's own are shown elsewhere."""
    if name.startswith(SET):
        plain = name.removeprefix(SET)
        _taken.pop(plain, None)
        _taken[plain] = None
