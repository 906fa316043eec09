"""Items of one application put into another."""

from __future__ import annotations

from rimecrest.core.catalogue.catalogue import Catalogue, Command
from rimecrest.core.catalogue.items import Button, Separator, StepsButton, TextField
from rimecrest.core.keys.contexts import Context
from rimecrest.core.layout.layout import KeyBinding, Layout
from rimecrest.core.workspace.carry_over import carried_over, counterparts, keys_along
from tests.samples import CATALOGUE

THERE = CATALOGUE
HERE = Catalogue(
    app="cards",
    title="Cards",
    version="1.0",
    contexts=(Context(id="anywhere", name="Anywhere", within=None), Context(id="cell", name="In a cell")),
    commands=(
        Command(id="cards:save", name="Keep"),
        Command(id="cards:heavy", name="Bold", context="cell"),
        Command(id="cards:aligned", name="Aligning"),
    ),
)
SAVE, BOLD, ALIGN = (
    Button(id="a", run="notes:save"),
    Button(id="b", run="notes:bold"),
    Button(id="c", run="notes:align"),
)
MACRO = Button(id="m", run="macro:greeting")
LINE, LAST = Separator(id="l", separator=True), Separator(id="z", separator=True)


def test_the_same_verb_or_name_is_its_like_and_the_nearest_is_named() -> None:
    found = {one.of: one for one in counterparts([SAVE, BOLD, BOLD, ALIGN, MACRO, LINE], THERE, HERE)}
    assert found["notes:save"].run == "cards:save"
    assert found["notes:bold"].run == "cards:heavy"
    assert (found["notes:align"].run, found["notes:align"].nearest) == ("", "cards:aligned")
    assert (found["macro:greeting"].run, found["macro:greeting"].nearest) == ("", "")
    assert len(found) == 4


def test_what_has_none_is_left_out_with_the_lines_that_part_nothing() -> None:
    runs = {"notes:save": "cards:save", "notes:bold": "", "notes:align": "cards:aligned"}
    steps = StepsButton(id="s", steps='macro "S"\nfor notes\n')
    made = carried_over([LINE, SAVE, LINE, BOLD, steps, LAST, ALIGN, LINE, MACRO], runs, HERE)
    assert [item.id for item in made] == ["a", "l", "c"]
    assert [item.run for item in made if isinstance(item, Button)] == ["cards:save", "cards:aligned"]


def test_settings_that_the_like_does_not_take_are_dropped() -> None:
    given = Button(id="b", run="notes:bold", args={"on": "yes"}, label="Strong", width=2)
    made = carried_over([given], {"notes:bold": "cards:heavy"}, HERE)[0]
    assert isinstance(made, Button)
    assert (made.args, made.label, made.width) == ({}, "Strong", 2)


def test_keys_come_along_into_a_context_that_is_there() -> None:
    keys = (
        KeyBinding.model_validate({"keys": "F9", "in": "writing", "run": "notes:bold"}),
        KeyBinding.model_validate({"keys": "F8", "in": "cell", "run": "notes:save"}),
        KeyBinding.model_validate({"keys": "F7", "run": "notes:print"}),
    )
    layout = Layout(app="notes", layer="department.north", keys=keys)
    along = keys_along(layout, {"notes:bold": "cards:heavy", "notes:save": "cards:save"}, HERE)
    assert [(key.keys, key.run, key.in_context) for key in along] == [
        ("F9", "cards:heavy", "cell"),
        ("F8", "cards:save", "cell"),
    ]


def test_what_happens_at_events_comes_along_as_far_as_it_has_its_like() -> None:
    on = {
        "double": {"run": "notes:bold", "args": {"on": "yes"}},
        "point": {"run": "notes:gone"},
        "enter": {"steps": 'macro "S"\nfor notes\n'},
    }
    button = Button.model_validate({"id": "b", "run": "notes:save", "on": on})
    field = TextField.model_validate({"id": "f", "field": "Vessel", "on": {"change": {"run": "notes:save"}}})
    assert {one.of for one in counterparts([button, field], THERE, HERE)} == {
        "notes:save",
        "notes:bold",
        "notes:gone",
    }
    runs = {"notes:save": "cards:save", "notes:bold": "cards:heavy", "notes:gone": ""}
    made, box = carried_over([button, field], runs, HERE)
    assert made.to_data()["on"] == {"double": {"run": "cards:heavy"}}
    assert box.to_data()["on"] == {"change": {"run": "cards:save"}}
