"""Jobs through the accessibility tree on a real screen: everything has a role, a name and its states."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtWidgets import QApplication

from rimecrest.demo.desk import Desk, wait_for
from rimecrest.demo.office import make_demo
from rimecrest.link.line import Line
from tests.screen.accessibility import Bus, Node

pytestmark = [pytest.mark.screen, pytest.mark.xdist_group("screen")]


@pytest.fixture
def bus(desk: Desk, qapp: QApplication) -> Iterator[Bus]:
    with Bus() as made:
        desk.environment["DBUS_SESSION_BUS_ADDRESS"] = made.address
        desk.environment["XDG_CACHE_HOME"] = str(desk.runtime)
        yield made


def program(bus: Bus, name: str) -> Node:
    return wait_for(f"{name} on the bus", lambda: next((p for p in bus.programs() if p.name == name), None))


def unnamed(top: Node) -> list[tuple[str, str]]:
    """(role, name) of what can be pressed, read or written to, shows, and has no name."""
    roles = {"push button", "radio button", "check box", "text", "combo box", "list"}
    shown = (node for node in top.walk() if "showing" in node.states)
    return [(node.role, node.name) for node in shown if node.role in roles and not node.name]


def press_in_a_group(top: Node, tab: str, group: str, item: str) -> None:
    """Find a tab, its group, an item in it, and press it."""
    name = top.seen(f"Tab {tab}", "radio button")
    name.press()
    wait_for("the tab", lambda: "checked" in name.states)
    found = top.seen(group, "panel").seen(item, "push button")
    assert "enabled" in found.states
    found.press()


def test_a_tab_its_group_and_its_item_are_found_and_pressed_in_the_application(desk: Desk, bus: Bus) -> None:
    process = desk.start("app", "letters")
    letters = desk.line_to("letters", process)
    top = program(bus, "Letters")
    assert unnamed(top) == []
    press_in_a_group(top, "Insert", "Lines", "Today's date")
    wait_for("the date in the letter", lambda: letters.ask("read", name="letter.text"))


def test_the_same_is_found_on_the_stage_where_pressing_it_opens_its_card(
    desk: Desk, bus: Bus, tmp_path: Path
) -> None:
    workspace = make_demo(tmp_path)
    process = desk.start("studio", str(workspace))
    studio: Line = desk.line_to("studio", process)
    top = program(bus, "Rimecrest")
    assert unnamed(top) == []
    press_in_a_group(top, "Insert", "Lines", "Today's date")
    desk.find(studio, "card")


def test_seats_are_read_out_by_department_and_state(desk: Desk, bus: Bus, tmp_path: Path) -> None:
    process = desk.start("studio", str(make_demo(tmp_path)))
    studio: Line = desk.line_to("studio", process)
    desk.activate(process)
    desk.press("ctrl+4")
    desk.find(studio, "seat Care 9")
    seats = program(bus, "Rimecrest").seen("Seats by department", "list")
    names = wait_for("the seats", lambda: [node.name for node in seats.walk() if node.role == "list item"])
    assert "Care 9, Maren Lund: failed, has release 6" in names
    assert any(name.startswith("Freight desk: 12 seats:") for name in names)
    assert len(names) == 44
