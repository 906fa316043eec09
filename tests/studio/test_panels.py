"""Panels on the stage: made at the caret like a line of text, docked, their controls' cards."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QRect, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from rimecrest.core.catalogue.surfaces import Panel
from rimecrest.core.layout.panel_grid import Cells, places
from rimecrest.core.layout.seen import SeenButton, SeenControl, SeenPanel
from rimecrest.core.workspace.edits import PutPanel
from rimecrest.core.workspace.file_edits import PutMacro
from rimecrest.studio.layout.doing_words import StepsField
from rimecrest.studio.layout.surface_tools import edge_pluses
from rimecrest.studio.shared.sentence_widgets import Word
from tests.studio.conftest import ALT, CTRL, SHIFT, Studio
from tests.studio.test_surfaces import ENTER, MINE, choose, hold


@pytest.fixture
def lanes(studio: Studio) -> str:
    """A panel called Lanes, begun at the right edge; the caret stands in it."""
    plus = next(plus for plus in edge_pluses(studio.place.stage.frame) if plus.edge == "right")
    studio.click(plus.box.center())
    choose(studio, "New panel here")
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Lanes")
    studio.press(ENTER)
    return studio.session.outcome().panels[-1].id


def panel(studio: Studio, identity: str) -> SeenPanel:
    row = studio.session.outcome().row(identity)
    assert isinstance(row, SeenPanel)
    return row


def begin(studio: Studio, character: str, words: str) -> str:
    """Begin a control with its character, and write its words."""
    studio.type(character)
    field = QApplication.focusWidget()
    assert field is not None
    assert field.objectName() == "rename"
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type(words)
    studio.press(ENTER)
    return studio.session.outcome().panels[-1].items[-1].id


def control(studio: Studio, identity: str) -> SeenControl:
    item = studio.session.outcome().item(identity)
    assert isinstance(item, SeenControl)
    return item


def steps(item: SeenControl) -> str:
    """The private steps of a control, at whatever event."""
    return next(doing.steps for doing in item.doings if doing.steps)


def test_a_plus_at_the_edge_begins_a_panel_there(studio: Studio, lanes: str) -> None:
    found = panel(studio, lanes)
    assert (found.title, found.edge, found.layer) == ("Lanes", "right", MINE)
    slot = studio.place.overlay.caret.slot()
    assert slot is not None
    assert slot.surface == lanes


def test_each_kind_begins_with_a_character_and_a_command_with_its_name(studio: Studio, lanes: str) -> None:
    begin(studio, '"', "Type the vessel.")
    begin(studio, "?", "Vessel")
    begin(studio, "/", "Lane")
    begin(studio, "*", "Berths")
    begin(studio, "#", "Late")
    studio.type("|")
    studio.type("weather")
    studio.press(ENTER)
    items = panel(studio, lanes).items
    kinds = [item.kind if isinstance(item, SeenControl) else type(item).__name__ for item in items]
    assert kinds == ["text", "field", "choice", "list", "tick", "SeenSeparator", "SeenButton"]
    assert [item.caption for item in items if isinstance(item, SeenControl)] == [
        "Type the vessel.",
        "Vessel",
        "Lane",
        "Berths",
        "Late",
    ]
    assert isinstance(items[-1], SeenButton)
    assert items[-1].run == "macro:weather-box"
    studio.press(Qt.Key.Key_Backspace)
    assert len(panel(studio, lanes).items) == 6


def test_the_strip_of_kinds_stands_at_the_caret_until_something_is_typed(studio: Studio, lanes: str) -> None:
    assert studio.find("kind-strip").isVisible()
    studio.push("kind-field")
    studio.press(ENTER)
    assert [c.kind for c in panel(studio, lanes).controls()] == ["field"]
    studio.type("we")
    assert studio.place.overlay.kinds.isHidden()
    studio.press(Qt.Key.Key_Escape)
    studio.click_slot()
    assert studio.place.overlay.kinds.isHidden()


@pytest.mark.parametrize("edge", ["left", "right"])
def test_the_strip_of_kinds_covers_nothing_of_its_panel(studio: Studio, lanes: str, edge: str) -> None:
    begin(studio, '"', "Type the vessel.")
    begin(studio, "?", "Vessel")
    studio.place.overlay.surfaces.dock(lanes, edge)
    studio.place.overlay.redrawn()
    studio.place.overlay.enter(lanes)
    studio.press(Qt.Key.Key_Home)
    strip, box = studio.place.overlay.kinds, studio.place.stage.frame.rect_of(lanes)
    assert strip.isVisible()
    assert box is not None
    assert not strip.geometry().intersects(box)
    assert studio.place.overlay.rect().contains(strip.geometry())


def test_off_a_panel_the_characters_are_typed(studio: Studio) -> None:
    studio.click_slot()
    before = studio.session.edits
    studio.type("?")
    assert studio.session.edits == before


def test_a_controls_card_changes_its_words_entries_and_what_a_change_runs(studio: Studio, lanes: str) -> None:
    lane = begin(studio, "/", "Lane")
    studio.place.open_card(lane)
    studio.push("control-entries")
    choose(studio, "these, with commas")
    field = QApplication.focusWidget()
    assert field is not None
    studio.type("North, South,, ")
    studio.press(ENTER)
    assert control(studio, lane).choices == ("North", "South")
    studio.push("control-entries")
    choose(studio, "headings:")
    assert (control(studio, lane).reading, control(studio, lane).choices) == ("headings", ())
    studio.push("control-run")
    choose(studio, "a command or macro")
    studio.type("weather box")
    studio.press(ENTER)
    does = control(studio, lane).doing("change")
    assert does is not None
    assert does.run == "macro:weather-box"
    studio.push("control-caption")
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Which lane?")
    studio.press(ENTER)
    assert control(studio, lane).caption == "Which lane?"


def test_the_card_of_a_control_leaves_its_panel_in_sight(studio: Studio, lanes: str) -> None:
    vessel = begin(studio, "?", "Vessel")
    studio.place.open_card(vessel)
    card, frame = studio.place.control_card, studio.place.stage.frame
    box = frame.rect_of(lanes)
    assert card.isVisible()
    assert box is not None
    corner = card.parentWidget().mapFromGlobal(frame.mapToGlobal(box.topLeft()))
    assert not card.geometry().intersects(QRect(corner, box.size()))


def test_private_steps_are_written_at_the_control_and_go_with_a_copy(studio: Studio, lanes: str) -> None:
    vessel = begin(studio, "?", "Vessel")
    studio.place.open_card(vessel)
    studio.push("control-run")
    choose(studio, "its own steps")
    field = studio.window.findChildren(StepsField)[-1]
    field.setPlainText('write "{panel.vessel}"')
    studio.push("control-caption")
    studio.press(Qt.Key.Key_Escape)
    assert steps(control(studio, vessel)).endswith('write "{panel.vessel}"\n')
    assert not [f for f in studio.session.findings() if f.where == vessel]
    QTest.keyClick(studio.place.control_card, Qt.Key.Key_Escape)
    studio.place.overlay.caret.select(lanes, vessel)
    studio.press(Qt.Key.Key_C, CTRL)
    studio.press(Qt.Key.Key_V, CTRL)
    copies = [c for c in panel(studio, lanes).controls() if c.id != vessel]
    assert [steps(c) for c in copies] == [steps(control(studio, vessel))]


def test_a_panel_is_docked_and_floats_by_keys_and_dragged(studio: Studio, lanes: str) -> None:
    hold(studio, lanes)
    studio.press(Qt.Key.Key_Left, CTRL)
    assert panel(studio, lanes).edge == "left"
    studio.press(Qt.Key.Key_Down, CTRL)
    assert panel(studio, lanes).edge == "bottom"
    frame = studio.place.stage.frame
    head = dict(frame.panel_heads())[lanes].center()
    ground = frame.centre_rect()
    studio.drag(head, ground.center())
    assert panel(studio, lanes).edge == "float"
    view = frame.panels.view(lanes)
    assert view is not None
    assert frame.centre_rect().contains(view.geometry())
    head = dict(frame.panel_heads())[lanes].center()
    studio.drag(head, QPoint(frame.centre_rect().right() - 4, frame.centre_rect().center().y()))
    assert panel(studio, lanes).edge == "right"
    hold(studio, lanes)
    studio.press(Qt.Key.Key_Home, CTRL)
    assert panel(studio, lanes).edge == "float"
    assert panel(studio, lanes).at == (60, 40)


def test_a_panels_card_says_where_how_wide_and_when_it_shows(studio: Studio, lanes: str) -> None:
    hold(studio, lanes)
    studio.press(Qt.Key.Key_Space)
    for word, row, field, value in (
        ("surface-width", "300 px", "width", 300),
        ("surface-ground", "pale", "background", "paper"),
        ("surface-shown", "by its button", "shown", False),
    ):
        studio.push(word)
        choose(studio, row)
        assert getattr(panel(studio, lanes), field) == value


def test_a_macro_that_reads_a_field_no_panel_has_is_an_error_with_the_nearest_name(
    studio: Studio, lanes: str
) -> None:
    begin(studio, "?", "Vessel")
    stem = lanes.rpartition(":")[2]
    field = panel(studio, lanes).items[0].id.rpartition(":")[2]
    text = f'macro "Reads"\nfor letters\n\nwrite "{{panel.{stem}.{field}s}}"\n'
    studio.session.do(PutMacro(MINE, "reads", text))
    presenter = studio.desk.places["Macros"].presenter
    faults = presenter.faults(studio.session.workspace.macros[MINE, "reads"])
    assert f"panel.{stem}.{field}" in str(faults[0])


def test_ctrl_enter_goes_into_the_steps_of_a_control_and_a_text_has_none(studio: Studio, lanes: str) -> None:
    begin(studio, '"', "Type the vessel.")
    studio.press(ENTER, CTRL)
    assert studio.place.overlay.hasFocus()
    vessel = begin(studio, "?", "Vessel")
    studio.press(ENTER, CTRL)
    field = QApplication.focusWidget()
    assert isinstance(field, StepsField)
    assert field.isVisible()
    studio.type("stop")
    studio.press(Qt.Key.Key_Escape)
    assert steps(control(studio, vessel)).endswith("\n\nstop\n")


def test_an_address_at_the_caret_becomes_a_button_that_opens_it(studio: Studio, lanes: str) -> None:
    studio.type("mailto:quay@vessry.example")
    studio.press(ENTER)
    item = panel(studio, lanes).items[-1]
    assert isinstance(item, SeenButton)
    assert (item.run, item.args) == ("letters:open-address", (("to", "mailto:quay@vessry.example"),))
    assert (item.label, item.tip) == ("quay@vessry.example", "mailto:quay@vessry.example")


def test_a_companion_at_the_caret_becomes_a_button_that_opens_it(studio: Studio, lanes: str) -> None:
    studio.type("companions/")
    titles = {(entry.title, entry.hint) for entry in studio.place.candidates.entries}
    assert ("Open with its own program", "companions/berth-plan.ods") in titles
    assert ("Open", "companions/berth-plan.ods") in titles
    studio.type("nothing-like-it")
    assert not any(entry.args for entry in studio.place.candidates.entries)


def test_a_control_does_things_at_other_events_which_its_card_names(studio: Studio, lanes: str) -> None:
    vessel = begin(studio, "?", "Vessel")
    studio.place.open_card(vessel)
    studio.push("control-also")
    choose(studio, "entered")
    studio.push("control-run-enter")
    choose(studio, "a command or macro")
    studio.type("weather box")
    studio.press(ENTER)
    enters = control(studio, vessel).doing("enter")
    assert enters is not None
    assert enters.run == "macro:weather-box"
    assert control(studio, vessel).doing("change") is None
    studio.push("control-event-enter")
    choose(studio, "left")
    assert [(d.event, d.run) for d in control(studio, vessel).doings] == [("leave", "macro:weather-box")]
    studio.push("control-run-leave")
    choose(studio, "nothing")
    assert control(studio, vessel).doings == ()


def test_a_buttons_card_names_what_it_does_at_other_events_on_a_panel(studio: Studio, lanes: str) -> None:
    studio.type("weather")
    studio.press(ENTER)
    go = studio.session.outcome().panels[-1].items[-1].id

    def doings() -> list[tuple[str, str | None]]:
        button = studio.session.outcome().button(go)
        assert button is not None
        return [(doing.event, doing.run or doing.steps) for doing in button.doings]

    studio.place.open_card(go)
    studio.push("control-also")
    choose(studio, "clicked twice")
    studio.push("control-run-double")
    choose(studio, "a command or macro")
    studio.type("sail ready")
    studio.press(Qt.Key.Key_Escape)
    assert doings() == []
    studio.push("control-run-double")
    choose(studio, "a command or macro")
    studio.type("weather box")
    studio.press(ENTER)
    assert doings() == [("double", "macro:weather-box")]
    studio.push("control-event-double")
    choose(studio, "entered")
    assert doings() == [("enter", "macro:weather-box")]
    studio.push("control-run-enter")
    choose(studio, "its own steps")
    studio.window.findChildren(StepsField)[-1].setPlainText('say "Vessel {panel.vessel}"')
    studio.push("card-label")
    (event, written) = doings()[0]
    assert event == "enter"
    assert 'say "Vessel {panel.vessel}"' in (written or "")
    studio.push("control-run-enter")
    choose(studio, "its own steps")
    field = QApplication.focusWidget()
    assert isinstance(field, StepsField)
    field.setPlainText('say "Of this vessel"')
    studio.press(Qt.Key.Key_Escape)
    assert 'say "Of this vessel"' in (doings()[0][1] or "")
    studio.session.undo()
    assert 'say "Vessel {panel.vessel}"' in (doings()[0][1] or "")
    assert studio.session.outcome().button(go).run == "macro:weather-box"  # type: ignore[union-attr]
    studio.push("control-run-enter")
    choose(studio, "nothing")
    assert doings() == []


def test_off_panels_a_buttons_card_has_no_events(studio: Studio) -> None:
    seen = studio.session.outcome()
    studio.place.open_card(next(item.id for bar in seen.toolbars for item in bar.buttons()))
    names = {word.objectName() for word in studio.window.findChildren(Word) if word.isVisible()}
    assert "card-collapse" in names
    assert "control-also" not in names


def test_private_steps_become_a_macro_of_the_layer_and_private_again(studio: Studio, lanes: str) -> None:
    vessel = begin(studio, "?", "Vessel")
    studio.place.open_card(vessel)
    studio.push("control-run")
    choose(studio, "its own steps")
    studio.window.findChildren(StepsField)[-1].setPlainText('write "panel.vessel: {panel.vessel}"')
    studio.push("control-caption")
    studio.press(Qt.Key.Key_Escape)
    before = set(studio.session.workspace.macros)
    studio.push("control-run")
    choose(studio, "a macro of these steps")
    made = set(studio.session.workspace.macros) - before
    (key,) = made
    file = studio.session.workspace.macros[key]
    long = ".".join(("panel", lanes.rpartition(":")[2], vessel.rpartition(":")[2]))
    assert f'write "panel.vessel: {{{long}}}"' in file.text
    does = control(studio, vessel).doing("change")
    assert does is not None
    assert does.run == f"macro:{key[1]}"
    assert not [f for f in studio.session.findings() if f.where == vessel]
    studio.push("control-run")
    choose(studio, "that macro")
    assert 'write "panel.vessel: {panel.vessel}"' in steps(control(studio, vessel))
    assert set(studio.session.workspace.macros) == before
    studio.session.undo()
    assert set(studio.session.workspace.macros) == before | made


def test_a_panels_card_says_what_runs_when_it_is_opened(studio: Studio, lanes: str) -> None:
    hold(studio, lanes)
    studio.press(Qt.Key.Key_Space)
    studio.push("control-run")
    choose(studio, "a command or macro")
    studio.type("weather box")
    studio.press(ENTER)
    assert [(d.event, d.run) for d in panel(studio, lanes).doings] == [("open", "macro:weather-box")]
    studio.session.undo()
    assert panel(studio, lanes).doings == ()


def test_a_panel_is_for_some_documents_which_its_card_names(studio: Studio, lanes: str) -> None:
    hold(studio, lanes)
    studio.press(Qt.Key.Key_Space)
    studio.push("surface-applies")
    choose(studio, "in the documents of a folder")
    studio.type("/srv/freight, /srv/berth")
    studio.press(ENTER)
    assert panel(studio, lanes).applies.folders == ("/srv/freight", "/srv/berth")
    studio.push("surface-applies")
    choose(studio, "everywhere")
    assert panel(studio, lanes).applies.everywhere


# Rows of several, and the free grid


def rows_of(studio: Studio, lanes: str) -> list[list[str]]:
    """The words of what stands on the panel, row by row."""
    rows: list[list[str]] = []
    for item in panel(studio, lanes).items:
        words = getattr(item, "caption", "") or getattr(item, "label", "")
        if item.beside and rows:
            rows[-1].append(words)
        else:
            rows.append([words])
    return rows


def box(studio: Studio, identity: str) -> QRect:
    found = studio.place.stage.frame.rect_of(identity)
    assert found is not None
    return found


def test_what_is_begun_at_the_end_of_a_row_stands_beside(studio: Studio, lanes: str) -> None:
    one = begin(studio, "?", "Vessel")
    studio.press(Qt.Key.Key_Left)
    slot = studio.place.overlay.caret.slot()
    assert slot is not None
    assert slot.beside
    two = begin(studio, "?", "Lane")
    begin(studio, "#", "Late")
    assert rows_of(studio, lanes) == [["Vessel", "Lane"], ["Late"]]
    assert abs(box(studio, one).bottom() - box(studio, two).bottom()) <= 1
    assert box(studio, one).right() < box(studio, two).left()
    studio.press(Qt.Key.Key_Up)
    slot = studio.place.overlay.caret.slot()
    assert slot is not None
    assert (slot.after, slot.beside) == (two, False)


def test_a_row_that_loses_its_first_begins_with_the_next(studio: Studio, lanes: str) -> None:
    begin(studio, "?", "Vessel")
    one = begin(studio, "?", "Lane")
    studio.press(Qt.Key.Key_Left)
    begin(studio, "?", "Deck")
    studio.place.overlay.caret.select(lanes, one)
    studio.press(Qt.Key.Key_Backspace)
    assert rows_of(studio, lanes) == [["Vessel"], ["Deck"]]
    studio.session.undo()
    assert rows_of(studio, lanes) == [["Vessel"], ["Lane", "Deck"]]


def test_dragged_to_the_end_of_a_row_it_stands_there_and_back_in_one_of_its_own(
    studio: Studio, lanes: str
) -> None:
    one = begin(studio, "?", "Vessel")
    two = begin(studio, "?", "Lane")
    studio.drag(
        box(studio, two).center(), QPoint(box(studio, one).right() - 1, box(studio, one).center().y())
    )
    assert rows_of(studio, lanes) == [["Vessel", "Lane"]]
    studio.drag(
        box(studio, two).center(), QPoint(box(studio, one).center().x(), box(studio, one).bottom() + 60)
    )
    assert rows_of(studio, lanes) == [["Vessel"], ["Lane"]]


@pytest.fixture
def on_grid(studio: Studio, lanes: str) -> tuple[str, str, str]:
    """Three fields on a free grid."""
    made = (begin(studio, "?", "Vessel"), begin(studio, "?", "Lane"), begin(studio, "#", "Late"))
    hold(studio, lanes)
    studio.press(Qt.Key.Key_Space)
    studio.push("surface-flow")
    choose(studio, "on a free grid")
    QTest.keyClick(studio.place.surface_card, Qt.Key.Key_Escape)
    assert panel(studio, lanes).flow == "grid"
    return made


def at(studio: Studio, identity: str) -> Cells:
    row = studio.session.outcome().row_of(identity)
    assert isinstance(row, SeenPanel)
    return places(row)[identity]


def test_on_the_grid_keys_move_and_size_by_a_cell(
    studio: Studio, lanes: str, on_grid: tuple[str, str, str]
) -> None:
    one, two, _ = on_grid
    before, other = at(studio, one), at(studio, two)
    studio.place.overlay.caret.select(lanes, one)
    studio.press(Qt.Key.Key_Left, ALT | SHIFT)
    studio.press(Qt.Key.Key_Left, ALT | SHIFT)
    studio.press(Qt.Key.Key_Right, ALT)
    studio.press(Qt.Key.Key_Down, ALT)
    assert at(studio, one) == Cells(1, before.row + 1, before.columns - 2, before.rows)
    assert at(studio, two) == other
    assert box(studio, one).width() == 8 * (before.columns - 2)
    studio.press(Qt.Key.Key_PageDown, ALT)
    assert [item.id for item in panel(studio, lanes).items][:2] == [two, one]
    assert at(studio, one).column == 1


def test_on_the_grid_what_is_dragged_snaps_to_the_lines_of_others(
    studio: Studio, lanes: str, on_grid: tuple[str, str, str]
) -> None:
    one, two, _ = on_grid
    studio.place.overlay.caret.select(lanes, two)
    for _ in range(12):
        studio.press(Qt.Key.Key_Left, ALT | SHIFT)
    start = box(studio, two).center()
    studio.drag(start, start + QPoint(60, 40))
    moved = at(studio, two)
    assert moved.column in (7, 8)
    start = box(studio, two).center()
    # Nearly under the other's left edge: it takes its line.
    studio.drag(start, QPoint(start.x() - 8 * moved.column + 9, start.y()))
    assert at(studio, two).column == at(studio, one).column == 0
    studio.session.undo()
    assert at(studio, two) == moved


def test_on_the_grid_several_line_up_and_have_equal_gaps(
    studio: Studio, lanes: str, on_grid: tuple[str, str, str]
) -> None:
    for by, name in enumerate(on_grid):
        studio.place.overlay.caret.select(lanes, name)
        studio.press(Qt.Key.Key_Left, ALT | SHIFT)
        for _ in range(by):
            studio.press(Qt.Key.Key_Down, ALT)
    studio.place.overlay.caret.select(lanes, on_grid[1])
    studio.press(Qt.Key.Key_Right, ALT)
    studio.place.overlay.caret.select_all(list(on_grid))
    studio.press(Qt.Key.Key_Menu)
    choose(studio, "Line up at the right")
    assert len({at(studio, name).right for name in on_grid}) == 1
    studio.place.overlay.caret.select_all(list(on_grid))
    studio.press(Qt.Key.Key_Menu)
    choose(studio, "Spread down")
    one, two, three = (at(studio, name) for name in on_grid)
    assert abs((two.row - one.bottom) - (three.row - two.bottom)) <= 1


def test_on_the_grid_the_edge_of_a_field_is_pulled(
    studio: Studio, lanes: str, on_grid: tuple[str, str, str]
) -> None:
    one = on_grid[0]
    before = at(studio, one)
    edge = QPoint(box(studio, one).right() - 1, box(studio, one).center().y())
    studio.drag(edge, edge - QPoint(40, 0))
    assert at(studio, one) == Cells(before.column, before.row, before.columns - 5, before.rows)


def test_an_empty_panels_identity_is_made_of_its_first_name(studio: Studio, lanes: str) -> None:
    assert lanes.endswith(":lanes")
    vessel = begin(studio, "?", "Vessel")
    hold(studio, lanes)
    studio.press(Qt.Key.Key_F2)
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Decks")
    studio.press(ENTER)
    assert panel(studio, lanes).title == "Decks"
    assert control(studio, vessel).caption == "Vessel"


def test_an_installed_application_typed_at_the_caret_becomes_a_button_that_starts_it(
    studio: Studio, lanes: str, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    (tmp_path / "applications").mkdir()
    text = "[Desktop Entry]\nType=Application\nName=Tide table\nExec=tides\n"
    (tmp_path / "applications" / "isle.tides.desktop").write_text(text, "utf-8")
    studio.type("tide tab")
    studio.press(ENTER)
    item = panel(studio, lanes).items[-1]
    assert isinstance(item, SeenButton)
    assert (item.label, item.run) == ("Tide table", "letters:start-application")
    assert dict(item.args) == {"application": "isle.tides"}


def test_a_changed_control_of_another_layer_goes_back_to_what_the_layer_beneath_has(
    studio: Studio, lanes: str
) -> None:
    box = {"id": "lane", "field": "Lane"}
    held = Panel.model_validate({"id": "all", "title": "All", "items": [box]})
    assert studio.session.do(PutPanel("organisation", studio.session.aim.app, held))
    lane = "organisation:lane"
    studio.place.open_card(lane)
    studio.push("control-caption")
    studio.press(Qt.Key.Key_A, CTRL)
    studio.type("Which lane?")
    studio.press(ENTER)
    assert control(studio, lane).caption == "Which lane?"
    studio.push("control-as-beneath")
    assert control(studio, lane).caption == "Lane"
