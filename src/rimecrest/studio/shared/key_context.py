"""The word that says where a hotkey is live, and the list of where else it could be."""

from __future__ import annotations

from collections.abc import Callable

from rimecrest.core.explain.given_key import target_runs
from rimecrest.core.workspace.give_key import Target
from rimecrest.shell.theme import Scheme
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.sentence_widgets import Word
from rimecrest.studio.shared.session import Session


def context_words(session: Session, context: str) -> str:
    """Return the context's name as it is written in a sentence: “when writing”."""
    return session.workspace.catalogue(session.aim.app).context_tree.name(context).lower()


def choose_context(
    session: Session, word: Word, target: Target, now: str, scheme: Scheme, taken: Callable[[str], object]
) -> None:
    """Open the list of the contexts in which a target can run. `taken` gets the one that is chosen."""
    aim = session.aim
    contexts = session.workspace.catalogue(aim.app).context_tree
    runs = target_runs(session.workspace, aim.layer, aim.app, target)
    rows = [(context.id, context.name) for context in contexts if runs.bound_in(context.id)]
    choose_from(word, rows, now, scheme, taken)
