"""Which layout a window shows first: what is installed, what was before it, or the application's own."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import partial
from typing import TYPE_CHECKING

from rimecrest.core.errors import RimecrestError
from rimecrest.core.log import log
from rimecrest.core.release.stack import StackState
from rimecrest.core.words import tr

if TYPE_CHECKING:  # an application without a profile starts without it
    from rimecrest.core.release.profile import Profile


def _stacks(app: str, profile: Profile | None) -> Iterator[Callable[[], StackState]]:
    """What may be shown, best first; each raises RimecrestError where it cannot be read."""
    if profile is not None:
        yield partial(profile.stack, app)
        yield partial(profile.stack_before, app)
    yield partial(StackState, app=app)


def use_first(app: str, profile: Profile | None, use: Callable[[StackState], object]) -> str:
    """Have the best one used that can be; the sentence that says what was wrong with a better one, or "".

    Whatever is wrong with a layout must not keep a colleague from writing.
    """
    trouble = ""
    for stack in _stacks(app, profile):
        try:
            state = stack()
            use(state)
        except RimecrestError as error:
            log.warning("installed layout left out", reason=str(error))
            trouble = trouble or str(error)
        except Exception as error:
            log.error("installed layout left out", exc_info=error)
            trouble = trouble or tr(
                "The installed layout cannot be used ({name}).", name=type(error).__name__
            )
        else:
            return f"{trouble} {_instead(state)}" if trouble else ""
    return trouble


def _instead(state: StackState) -> str:
    if state.release:
        return tr("Shown is release {release}, from before.", release=state.release)
    return tr("Shown is what the application comes with.")
