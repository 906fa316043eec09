"""A command that answers later, as one of another program does: by hand and in a macro."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from msgspec.structs import replace

from rimecrest.core.errors import RimecrestError
from rimecrest.core.identities import CommandId
from rimecrest.kit.declare import Declared
from rimecrest.shell.later import Later
from tests.programs import Letters

RULE, SAVE = CommandId("letters:insert-rule"), CommandId("letters:save")
Late = Callable[[str], Later]


@pytest.fixture
def late(letters: Letters, monkeypatch: pytest.MonkeyPatch) -> Late:
    """Have a command answer later than it is performed."""

    def make(command: str) -> Later:
        answer = Later()
        commands = letters.window.executor.declarations.commands

        def function(document: object) -> Later:
            if command == RULE:
                letters.document.write("[rule]")
            return answer

        changed: Declared = replace(commands[command], function=function, reaches=None)
        monkeypatch.setitem(commands, command, changed)
        return answer

    return make


def test_by_hand_it_is_done_when_it_has_answered(letters: Letters, late: Late) -> None:
    answer, done = late(RULE), []
    letters.window.dispatcher.did.connect(lambda command, *_: done.append(command.id))
    assert letters.do("insert-rule")
    assert done == []
    answer.answered.emit(None)
    assert done == [RULE]


def test_by_hand_its_refusal_is_said(letters: Letters, late: Late) -> None:
    answer, done = late(RULE), []
    letters.window.dispatcher.did.connect(lambda command, *_: done.append(command.id))
    letters.do("insert-rule")
    answer.answered.emit(RimecrestError("The other program has ended.", "Start it again."))
    assert letters.said == "The other program has ended. Start it again."
    assert done == []


def test_a_macro_waits_for_it(letters: Letters, late: Late) -> None:
    answer = late(RULE)
    letters.run('write "a"\ndo insert-rule\nwrite "b"', wait=False)
    assert letters.text == "a[rule]"
    assert letters.window.dispatcher.run is not None
    answer.answered.emit(None)
    assert letters.text == "a[rule]b"
    assert letters.window.dispatcher.run is None


def test_a_macro_takes_everything_back_when_it_is_refused(letters: Letters, late: Late) -> None:
    answer = late(RULE)
    letters.run('write "a"\ndo insert-rule\nwrite "b"', wait=False)
    answer.answered.emit(RimecrestError("The other program has ended."))
    assert letters.text == ""
    assert "The other program has ended." in letters.said


def test_a_macro_that_is_stopped_meanwhile_does_not_go_on(letters: Letters, late: Late) -> None:
    answer = late(RULE)
    letters.run('write "a"\ndo insert-rule\nwrite "b"', wait=False)
    letters.window.dispatcher.stop_run()
    assert letters.text == ""
    assert "nothing was changed" in letters.said
    answer.answered.emit(None)
    assert letters.text == ""


@pytest.mark.parametrize("then", ["answered", "refused", "stopped"])
def test_a_macro_that_waits_after_its_last_step_keeps_what_was_written(
    letters: Letters, late: Late, then: str
) -> None:
    answer = late(SAVE)
    letters.run('write "a"\ndo save', wait=False)
    assert letters.window.dispatcher.run is not None
    if then == "stopped":
        letters.window.dispatcher.stop_run()
    answer.answered.emit(RimecrestError("There is no room.") if then == "refused" else None)
    assert letters.text == "a"
    assert letters.window.dispatcher.run is None
    assert ("What was written stays" in letters.said) is (then != "answered")
