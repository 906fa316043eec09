"""Opening a program that has a window: the studio, an application.

Someone waits for the window, so nothing is loaded before it that it does not need: a plain `studio [FOLDER]`
and `app NAME …` do not even go through the library that reads the command line.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path


def program_asked_for(words: Sequence[str]) -> Callable[[], int] | None:
    """What opens the program that words of the command line plainly ask for; None: they ask for more."""
    if "--help" in words:
        return None
    match words:
        case ["studio", *folder] if len(folder) <= 1 and not any(word.startswith("-") for word in folder):
            return partial(open_studio, Path(folder[0]) if folder else None)
        case ["app", name, *arguments] if not name.startswith("-"):
            return partial(open_application, name, arguments)
    return None


def open_studio(workspace: Path | None) -> int:
    """Open the studio, and return its exit status when it is closed."""
    from rimecrest.studio.program import run_studio

    return run_studio(workspace)


def open_application(name: str, arguments: Sequence[str]) -> int:
    """Open an application, and return its exit status when it is closed.

    Raises:
        RimecrestError: no package here brings one of that name, or the libraries that it needs are missing.
    """
    from rimecrest.link.applications import find_application

    return int(find_application(name).load()(list(arguments)))
