"""Link methods about a window: its identity, its commands and its layout."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any

from PyQt6.QtCore import Qt

from rimecrest.core.identities import MacroId
from rimecrest.core.model import validated
from rimecrest.core.release.stack import StackState
from rimecrest.core.workspace.macro_file import macro_file
from rimecrest.kit.commands.result import CommandResult
from rimecrest.kit.dispatcher import Dispatcher
from rimecrest.kit.personal.shown_stack import ShownStack
from rimecrest.shell.later import Later
from rimecrest.surfaces.frame import Frame
from rimecrest.surfaces.on_screen import where_on_screen


def link_methods(
    dispatcher: Dispatcher,
    stack: ShownStack,
    frame: Frame,
    hello: Callable[[], dict[str, str]],
    reload: Callable[[], str],
) -> dict[str, Callable[..., Any]]:
    """Return the methods by name.

    Args:
        hello: returns the identity of the window, with its profile and document.
        reload: shows the release that is installed in the profile, and returns the news.
    """
    executor = dispatcher.executor

    def perform(run: str, args: dict[str, str] | None = None) -> Any:
        answer = dispatcher.perform_or_raise(run, args or {})
        return answer.then(_reached) if isinstance(answer, Later) else _reached(answer)

    def run(macro: str) -> bool:
        dispatcher.perform_or_raise(f"macro:{macro}", {})
        return True

    def run_text(text: str) -> bool:
        """Run a macro that is on no shelf here: whoever may speak on this link may do what it does."""
        dispatcher.begin_steps(macro_file("link", MacroId("link"), text))
        return True

    def show_draft(state: dict[str, Any]) -> bool:
        stack.draft = True
        stack.use(validated(StackState, state, "the draft"))
        return True

    return {
        "hello": lambda: {**hello(), "release": stack.state.release},
        "catalogue": executor.catalogue.to_data,
        "contexts": lambda: sorted(executor.live()),
        "perform": perform,
        "run": run,
        "run.text": run_text,
        "read": executor.read,
        "draft.show": show_draft,
        "layout.reload": reload,
        "raise": lambda: come_to_the_front(frame),
        "where": partial(where_on_screen, frame),
    }


def _reached(answer: Any) -> Any:
    """Return the answer of a command in the form that is sent."""
    return dict(answer.args) if isinstance(answer, CommandResult) else answer


def come_to_the_front(frame: Frame) -> bool:
    """Raise the window and give it the focus."""
    window = frame.window()
    assert window is not None
    window.setWindowState(window.windowState() & ~Qt.WindowState.WindowMinimized)
    window.raise_()
    window.activateWindow()
    return True
