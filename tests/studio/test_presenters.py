"""What is done in the Macros and Keys places, without any widget."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from pytestqt.qtbot import QtBot

from rimecrest.core.keys.chords import parse_sequence
from rimecrest.core.macro.step_tree import step_at
from rimecrest.core.workspace.file_edits import PutMacro
from rimecrest.studio.keys.presenter import KeysPresenter
from rimecrest.studio.macros.presenter import FieldTarget, MacrosPresenter
from rimecrest.studio.shared.edit_target import EditTarget
from rimecrest.studio.shared.session import Session

OPEN = ("department.freight", "hazard-note")


@pytest.fixture
def session(qtbot: QtBot, demo_copy: Path) -> Iterator[Session]:
    made = Session(demo_copy)
    made.aim_at(EditTarget("department.freight", "letters", "", 1280))
    yield made
    made.close()


@pytest.fixture
def said(session: Session) -> list[str]:
    sentences: list[str] = []
    session.told.connect(sentences.append)
    return sentences


@pytest.fixture
def macros(session: Session) -> MacrosPresenter:
    made = MacrosPresenter(session)
    made.now = OPEN
    return made


@pytest.fixture
def keys(session: Session) -> KeysPresenter:
    made = KeysPresenter(session)
    made.fit()
    return made


def lines(macros: MacrosPresenter) -> list[str]:
    file = macros.file()
    assert file is not None
    return file.text.splitlines()


def test_the_aimed_layers_macros_come_first(session: Session) -> None:
    presenter = MacrosPresenter(session)
    presenter.open_first()
    assert presenter.now is not None
    assert presenter.now[0] == "department.freight"
    assert presenter.file().macro.application == session.aim.app


def test_a_step_is_muted_and_said_to_be_off(macros: MacrosPresenter) -> None:
    before = macros.facts(macros.file())
    assert macros.rework("mute", [(0,)], (0,)) == (0,)
    assert "1 turned off" in macros.facts(macros.file())
    assert macros.rework("mute", [(0,)], (0,)) == (0,)
    assert macros.facts(macros.file()) == before


def test_moving_the_first_step_up_changes_nothing(macros: MacrosPresenter) -> None:
    before = lines(macros)
    assert macros.rework("up", [(0,)], (0,)) == (0,)
    assert lines(macros) == before
    assert macros.rework("down", [(0,)], (0,)) == (1,)
    assert lines(macros) != before


def test_a_rework_that_is_none_is_a_fault_of_the_program(macros: MacrosPresenter) -> None:
    with pytest.raises(ValueError, match="no rework"):
        macros.rework("polish", [(0,)], (0,))


def test_steps_are_put_in_where_they_are_wanted(macros: MacrosPresenter) -> None:
    assert macros.put_in('say "Mind the step"\n', (0,)) == (1,)
    assert 'say "Mind the step"' in lines(macros)
    assert macros.carry([(1,)], ()) == (0,)
    assert macros.steps_text([(0,)]).strip() == 'say "Mind the step"'


def test_what_is_no_step_is_told_and_not_put_in(macros: MacrosPresenter, said: list[str]) -> None:
    before = lines(macros)
    assert macros.put_in("Dear all,", (0,)) is None
    assert "is no step" in said[-1]
    assert lines(macros) == before


def test_a_word_belongs_to_the_step_it_was_opened_over(macros: MacrosPresenter, said: list[str]) -> None:
    macros.put_in('say "One"\nsay "Two"\n', ())
    target = macros.target((0,))
    assert target is not None
    macros.rework("down", [(0,)], (0,))
    assert macros.change_word(target, "text", "Late") is None
    assert "“Late” was not written" in said[-1]
    assert 'say "One"' in lines(macros)


def test_a_value_that_does_not_fit_is_told(macros: MacrosPresenter, said: list[str]) -> None:
    macros.put_in("while no limit 100\nend\n", ())
    target = macros.target((0,))
    assert target is not None
    assert macros.change_word(target, "limit", "often") is None
    assert "is no whole number" in said[-1]
    assert macros.change_word(target, "limit", "7") == (0,)


def test_a_taken_name_is_not_given_and_a_free_one_is_told(
    macros: MacrosPresenter, session: Session, said: list[str]
) -> None:
    other = session.workspace.macros[("organisation", "sailing-notice")].name
    macros.change_head(FieldTarget(OPEN), "macro", other)
    assert said[-1] == f"There is a macro “{other}” already; “{other} 2” is free."
    assert macros.rename(OPEN, "Hazard label").name == "Hazard label"
    assert macros.now == OPEN


def test_a_macro_whose_text_cannot_be_read_is_not_reworked(
    macros: MacrosPresenter, session: Session, said: list[str]
) -> None:
    session.do(PutMacro(*OPEN, 'macro "Hazard note"\nfor letters\n\nif\n'))
    assert macros.rework("mute", [(0,)], (0,)) is None
    assert said[-1].startswith("Mend the text first: ")


def test_deleting_tells_what_ran_it(macros: MacrosPresenter) -> None:
    assert macros.used_by(macros.file()).startswith("Run by ")
    sentence = macros.delete()
    assert sentence is not None
    assert "It was run by " in sentence
    assert macros.file() is None


def test_a_recording_gets_a_name_and_an_id_of_its_own(macros: MacrosPresenter, session: Session) -> None:
    text = 'macro "x"\nfor letters\n\ndo undo\n'
    first, second = (macros.keep_recording("Notice", text, OPEN[0]) for _ in range(2))
    assert first is not None
    assert second is not None
    assert first != second
    assert [session.workspace.macros[key].name for key in (first, second)] == ["Notice", "Notice 2"]


def test_the_fit_is_new_only_when_the_aim_is(keys: KeysPresenter, session: Session) -> None:
    keys.key = "Ctrl+K"
    assert not keys.fit()
    assert keys.key == "Ctrl+K"
    session.aim_at(EditTarget("organisation", "grid", "", 1280))
    assert keys.fit()
    assert keys.key == ""


def test_a_key_is_given_and_taken_off_again(keys: KeysPresenter, session: Session, said: list[str]) -> None:
    command = next(c for c in session.workspace.catalogue("letters").commands if not c.arguments)
    assert keys.give("Ctrl+Alt+Shift+F9", command.id)
    assert said[-1] == f"Ctrl+Alt+Shift+F9 runs {command.name}."
    view = keys.view(session.workspace)
    state = view.caps(frozenset({"Ctrl", "Alt", "Shift"}), ())[view.key_of("Ctrl+Alt+Shift+F9")]
    assert keys.facts(view, "Ctrl+Alt+Shift+F9", state).taken
    assert keys.take_off(state)
    assert keys.keys_of("command", command.id) != "Ctrl+Alt+Shift+F9"


def test_what_needs_settings_gets_no_key(keys: KeysPresenter, session: Session, said: list[str]) -> None:
    session.aim_at(EditTarget("department.freight", "grid", "", 1280))
    keys.fit()
    needs = next(c for c in session.workspace.catalogue("grid").commands if c.argument_faults({}))
    assert not keys.give("Ctrl+Alt+Shift+F9", needs.id)
    assert said[-1].startswith(f"{needs.name} needs settings")


def test_one_goes_behind_an_opener_once(keys: KeysPresenter) -> None:
    keys.go_behind(())
    assert keys.go_behind(parse_sequence("Ctrl+J"))
    assert not keys.go_behind(parse_sequence("Ctrl+J"))
    assert not keys.go_behind(parse_sequence("Ctrl+J, A, B"))
    assert keys.opener == parse_sequence("Ctrl+J")


def test_the_sentence_counts_seats(keys: KeysPresenter) -> None:
    everyone = len(keys.seats())
    assert keys.all_seats() == f"all {everyone} seats"
    assert keys.seats_line().startswith(f"{keys.boards()[keys.board]} of {everyone}")
    keys.aim_at_seat(keys.seats()[0].seat)
    assert keys.seats_line() == ""
    assert sum(keys.boards().values()) == 1


def test_step_at_finds_what_the_target_holds(macros: MacrosPresenter) -> None:
    target = macros.target((0,))
    assert target is not None
    assert step_at(macros.file().macro, (0,)) == target.step
