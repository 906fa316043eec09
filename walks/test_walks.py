"""The jobs of whoever arranges an application's surfaces, each by mouse and by keys alone."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPoint, Qt
from tests.studio.conftest import ALT, BAR, CTRL, SHIFT

from rimecrest.core.layout.seen import SeenButton, SeenControl, SeenPanel, SeenToolbar
from rimecrest.studio.layout.paste_mapping import PasteMapping
from rimecrest.studio.layout.surface_tools import edge_pluses, handles
from walks.hands import ENTER, Hands

AtMost = Callable[[int], None]
DOWN, UP, LEFT, RIGHT = Qt.Key.Key_Down, Qt.Key.Key_Up, Qt.Key.Key_Left, Qt.Key.Key_Right
MACROS = ("sailing", "hazard", "weather")


def _between(hands: Hands, tab: str) -> QPoint:
    """The place before a tab's name where a new one can begin."""
    box = dict(hands.studio.place.stage.frame.tab_rects())[tab]
    return QPoint(box.left() + 1, box.center().y())


def _shows_three_macros(hands: Hands, tab: str, group: str) -> None:
    assert hands.seen.tabs[0].id == tab
    row = hands.seen.row(group)
    assert row is not None
    assert [(item.run or "")[:6] for item in row.buttons()] == ["macro:"] * 3
    assert [item.label for item in row.buttons()] == ["Notice", "Hazard", "Weather"]


# An own tab between two built-in ones, a group, three macros with short labels; then to the front


def test_own_tab_by_mouse(hands: Hands, at_most: AtMost) -> None:
    at_most(20)
    hands.click(_between(hands, "app:tab-shape"))
    hands.write_over("Notes desk")
    tab = hands.titled("Notes desk")
    assert [known.id for known in hands.seen.tabs].index(tab) == 1
    # The caret stands on its page: what is typed begins a group.
    hands.type("sailing notice")
    hands.write_over("Ours")
    group = hands.titled("Ours")
    for words in ("hazard note", "weather box"):
        hands.type(words)
    frame = hands.studio.place.stage.frame
    for item, label in zip(hands.row(group), ("Notice", "Hazard", "Weather"), strict=True):
        hands.click_item(item)
        hands.press(Qt.Key.Key_F2)
        hands.write_over(label)
    boxes = dict(frame.tab_rects())
    first = boxes["app:tab-write"]
    hands.drag(boxes[tab].center(), QPoint(first.left() + 2, first.center().y()))
    _shows_three_macros(hands, tab, group)


def test_own_tab_by_keys(hands: Hands, at_most: AtMost) -> None:
    at_most(20)
    hands.press(Qt.Key.Key_PageDown)
    hands.press(Qt.Key.Key_PageUp)
    hands.press(UP, CTRL)
    hands.press(UP, CTRL)
    assert hands.studio.place.overlay.caret.held == "app:tab-write"
    hands.press(Qt.Key.Key_Insert)
    hands.write_over("Notes desk")
    tab = hands.titled("Notes desk")
    hands.type("sailing notice")
    hands.write_over("Ours")
    group = hands.titled("Ours")
    for label, words in (("Notice", "hazard note"), ("Hazard", "weather box"), ("Weather", "")):
        hands.press(Qt.Key.Key_F2)
        hands.write_over(label)
        if words:
            hands.type(words)
    hands.press(UP, CTRL)
    hands.press(UP, CTRL)
    hands.press(LEFT, ALT)
    _shows_three_macros(hands, tab, group)


# A macro into an own group inside a built-in tab beside a given group


def _has_weather_beside(hands: Hands, group: str) -> None:
    tab = hands.seen.tab("app:tab-write")
    assert tab is not None
    order = [known.id for known in tab.groups]
    mine = order[order.index(group) + 1]
    row = hands.seen.row(mine)
    assert row is not None
    assert [item.run for item in row.buttons()] == ["macro:weather-box"]


def test_own_group_by_mouse(hands: Hands, at_most: AtMost) -> None:
    at_most(6)
    hands.click_name("app:tab-write")
    slots = hands.studio.place.stage.frame.insertion_points()
    slot = next(s for s in slots if s.new_group and s.after == "app:group-letter")
    hands.click(slot.caret.center())
    hands.type("weather box")
    hands.write_over("Ours")
    _has_weather_beside(hands, "app:group-letter")


def test_own_group_by_keys(hands: Hands, at_most: AtMost) -> None:
    at_most(6)
    hands.studio.place.stage.frame.choose_tab("app:tab-shape")
    hands.press(Qt.Key.Key_PageUp)
    hands.press(UP, CTRL)
    hands.press(Qt.Key.Key_Insert)
    hands.write_over("Ours")
    hands.type("weather box")
    _has_weather_beside(hands, "app:group-letter")


# A panel with text, buttons, docked right; hidden and shown


def _is_the_panel(hands: Hands) -> SeenPanel:
    row = hands.seen.row(hands.titled("Lanes"))
    assert isinstance(row, SeenPanel)
    assert row.edge == "right"
    assert [c.caption for c in row.controls()] == ["Type the vessel, then choose."]
    notice, box, tides, plan = row.buttons()
    assert [item.label for item in (notice, box)] == ["Notice", "Box"]
    assert (tides.run, dict(tides.args)) == ("letters:open-address", {"to": ADDRESS})
    assert (plan.run, dict(plan.args)) == ("letters:open-outside", {"path": PLAN})
    assert [(item.face, item.label, item.tip) for item in (tides, plan)] == [
        ("picture", "tides.vessry.example", ADDRESS),
        ("picture", "berth-plan", PLAN),
    ]
    return row


FREIGHT = "department.freight:freight"
ADDRESS, PLAN = "https://tides.vessry.example/today", "companions/berth-plan.ods"


def _openers(hands: Hands) -> None:
    """A button for the address, one that opens the document with its own program."""
    hands.type(ADDRESS)
    hands.type("companions/berth-plan")


def test_panel_by_mouse(hands: Hands, at_most: AtMost) -> None:
    at_most(22)
    plus = next(p for p in edge_pluses(hands.studio.place.stage.frame) if p.edge == "right")
    hands.click(plus.box.center())
    hands.choose("New panel here")
    hands.write_over("Lanes")
    hands.push("kind-text")
    hands.type("Type the vessel, then choose.")
    for words, label in (("sailing notice", "Notice"), ("weather box", "Box")):
        hands.type(words)
        hands.press(Qt.Key.Key_F2)
        hands.write_over(label)
    _openers(hands)
    *_, tides, plan = hands.row(hands.titled("Lanes"))
    hands.click_item(tides)
    hands.click_item(plan, CTRL)
    hands.right_click(hands.centre(plan))
    hands.choose("Picture only")
    panel = _is_the_panel(hands)
    hands.push(f"switch {panel.id}")
    assert panel.id not in dict(hands.studio.place.stage.frame.panel_heads())
    hands.push(f"switch {panel.id}")
    assert panel.id in dict(hands.studio.place.stage.frame.panel_heads())


def test_panel_by_keys(hands: Hands, at_most: AtMost) -> None:
    at_most(22)
    hands.press(Qt.Key.Key_F3)
    hands.type("new panel")
    hands.write_over("Lanes")
    hands.type('"', enter=False)
    hands.type("Type the vessel, then choose.")
    for words, label in (("sailing notice", "Notice"), ("weather box", "Box")):
        hands.type(words)
        hands.press(Qt.Key.Key_F2)
        hands.write_over(label)
    _openers(hands)
    hands.press(LEFT, SHIFT)
    hands.press(LEFT, SHIFT)
    hands.press(Qt.Key.Key_Menu)
    hands.choose("Picture only")
    panel = _is_the_panel(hands)
    hands.press(UP, CTRL)
    hands.press(Qt.Key.Key_Delete)
    assert hands.seen.row(panel.id) is None
    hands.press(Qt.Key.Key_Z, CTRL)
    _is_the_panel(hands)


# A field whose change runs private steps; the control copied to another panel with them


def _two_panels(hands: Hands) -> tuple[str, str]:
    """Two panels that are there before; the caret stands in the first."""
    for name in ("One", "Two"):
        made = hands.studio.place.overlay.surfaces.new_panel()
        assert made is not None
        hands.studio.place.overlay.presenter.rename(made, "title", "New panel", name)
    one, two = hands.titled("One"), hands.titled("Two")
    hands.studio.place.overlay.enter(one)
    hands.studio.place.overlay.setFocus()
    return one, two


def _has_the_steps(hands: Hands, one: str, two: str) -> None:
    for panel in (one, two):
        item = hands.seen.item(hands.row(panel)[0])
        assert isinstance(item, SeenControl)
        assert item.caption == "Vessel"
        changed = item.doing("change")
        assert changed is not None
        assert changed.steps.endswith('write "{panel.vessel}"\n')


def test_private_steps_by_mouse(hands: Hands, at_most: AtMost) -> None:
    at_most(10)
    one, two = _two_panels(hands)
    hands.push("kind-field")
    hands.type("Vessel")
    field = hands.row(one)[0]
    hands.right_click(hands.centre(field))
    hands.choose("Steps of its own")
    hands.type('write "{panel.vessel}"', enter=False)
    hands.click_item(field)
    hands.press(Qt.Key.Key_C, CTRL)
    frame = hands.studio.place.stage.frame
    slot = next(s for s in frame.insertion_points() if s.surface == two)
    hands.click(slot.caret.center())
    hands.press(Qt.Key.Key_V, CTRL)
    _has_the_steps(hands, one, two)


def test_private_steps_by_keys(hands: Hands, at_most: AtMost) -> None:
    at_most(10)
    one, two = _two_panels(hands)
    hands.type("?Vessel")
    hands.press(ENTER, CTRL)
    hands.type('write "{panel.vessel}"', enter=False)
    hands.press(Qt.Key.Key_Escape)
    hands.press(Qt.Key.Key_Escape)
    hands.press(LEFT, SHIFT)
    hands.press(Qt.Key.Key_C, CTRL)
    hands.press(Qt.Key.Key_Tab)
    hands.press(Qt.Key.Key_V, CTRL)
    _has_the_steps(hands, one, two)


# A bar floated, docked left, hidden, shown


def test_bar_by_mouse(hands: Hands, at_most: AtMost) -> None:
    at_most(6)
    frame = hands.studio.place.stage.frame
    hands.drag(dict(handles(frame))[BAR].center(), frame.centre_rect().center())
    ground = frame.centre_rect()
    hands.drag(dict(frame.floating_heads())[BAR].center(), QPoint(ground.left() + 3, ground.center().y()))
    row = hands.seen.row(BAR)
    assert isinstance(row, SeenToolbar)
    assert row.edge == "left"
    hands.press(Qt.Key.Key_Delete)
    assert hands.seen.row(BAR) is None
    hands.press(Qt.Key.Key_Z, CTRL)
    assert hands.seen.row(BAR) is not None


def test_bar_by_keys(hands: Hands, at_most: AtMost) -> None:
    at_most(6)
    hands.studio.place.overlay.enter(BAR)
    hands.press(UP, CTRL)
    hands.press(Qt.Key.Key_Home, CTRL)
    hands.press(LEFT, CTRL)
    row = hands.seen.row(BAR)
    assert isinstance(row, SeenToolbar)
    assert row.edge == "left"
    hands.press(Qt.Key.Key_Delete)
    assert hands.seen.row(BAR) is None
    hands.press(Qt.Key.Key_Z, CTRL)
    assert hands.seen.row(BAR) is not None


# A built-in tab hidden; brought back from the list


def test_hidden_tab_by_mouse(hands: Hands, at_most: AtMost) -> None:
    at_most(4)
    hands.click_name("app:tab-look-over")
    hands.press(Qt.Key.Key_Delete)
    assert hands.seen.tab("app:tab-look-over") is None
    hands.push("hidden-things")
    hands.choose("Show again: Find and print")
    assert hands.seen.tab("app:tab-look-over") is not None


def test_hidden_tab_by_keys(hands: Hands, at_most: AtMost) -> None:
    at_most(4)
    hands.studio.place.overlay.caret.hold("app:tab-look-over")
    hands.press(Qt.Key.Key_Delete)
    assert hands.seen.tab("app:tab-look-over") is None
    hands.press(Qt.Key.Key_H, CTRL)
    hands.press(ENTER)
    assert hands.seen.tab("app:tab-look-over") is not None


# Four items of a bar to a group of a tab, all made words only


def _moved(hands: Hands, items: list[str], group: str) -> None:
    row = hands.seen.row(group)
    assert row is not None
    there = [item for item in row.items if item.id in items]
    assert len(there) == len(items)
    assert {item.face for item in there if isinstance(item, SeenButton)} == {"words"}


def test_four_items_by_mouse(hands: Hands, at_most: AtMost) -> None:
    at_most(8)
    frame = hands.studio.place.stage.frame
    hands.click_name("app:tab-write")
    items = [name for name in hands.row(BAR) if hands.seen.button(name) is not None][:4]
    hands.click_item(items[0])
    for name in items[1:]:
        hands.click_item(name, CTRL)
    box = frame.rect_of(items[0])
    assert box is not None
    slot = next(s for s in frame.insertion_points() if s.surface == "app:group-letter" and s.after is None)
    hands.drag(box.center(), slot.caret.center())
    there = frame.rect_of(items[0])
    assert there is not None
    hands.right_click(there.center())
    hands.choose("Words only")
    _moved(hands, items, "app:group-letter")


def test_four_items_by_keys(hands: Hands, at_most: AtMost) -> None:
    at_most(8)
    overlay = hands.studio.place.overlay
    hands.click_name("app:tab-write")
    hands.gestures = 0
    overlay.enter(FREIGHT)
    items = [name for name in hands.row(FREIGHT) if hands.seen.button(name) is not None]
    assert len(items) == 4
    hands.press(Qt.Key.Key_Home, SHIFT)
    assert overlay.caret.selected
    hands.press(Qt.Key.Key_X, CTRL)
    hands.press(Qt.Key.Key_Backtab, SHIFT)
    hands.press(Qt.Key.Key_Backtab, SHIFT)
    hands.press(Qt.Key.Key_V, CTRL)
    hands.press(Qt.Key.Key_Menu)
    hands.choose("Words only")
    _moved(hands, items, "app:group-again")


# A macro into the letters' right-click menu, behind a separator


def test_menu_by_mouse(hands: Hands, at_most: AtMost) -> None:
    at_most(5)
    hands.right_click(hands.studio.place.stage.frame.centre_rect().center())
    hands.choose("Right-click in text")
    hands.type("|", enter=False)
    hands.type("weather box")
    assert hands.seen.button(hands.row("app:menu-text")[-1]).run == "macro:weather-box"


def test_menu_by_keys(hands: Hands, at_most: AtMost) -> None:
    at_most(5)
    hands.studio.place.overlay.caret.leave()
    hands.press(Qt.Key.Key_F10, SHIFT)
    hands.choose("Right-click in text")
    hands.type("|", enter=False)
    hands.type("weather box")
    assert hands.seen.button(hands.row("app:menu-text")[-1]).run == "macro:weather-box"


# A bar copied from Letters to Grid with the mapping taken


def _taken(hands: Hands, before: set[str]) -> None:
    """The mapping is taken with Enter, and the bar is there."""
    dialog = hands.studio.window.findChildren(PasteMapping)[-1]
    assert dialog.isVisible()
    hands.press(ENTER)
    assert not dialog.isVisible()
    assert len({bar.id for bar in hands.seen.toolbars} - before) == 1


def test_bar_to_grid_by_mouse(hands: Hands, at_most: AtMost) -> None:
    at_most(6)
    hands.click_name("app:main")
    hands.press(Qt.Key.Key_C, CTRL)
    hands.push("aim-app")
    hands.choose("Grid")
    before = {bar.id for bar in hands.seen.toolbars}
    hands.press(Qt.Key.Key_V, CTRL)
    _taken(hands, before)


def test_bar_to_grid_by_keys(hands: Hands, at_most: AtMost) -> None:
    at_most(6)
    hands.studio.place.overlay.caret.hold("app:main")
    hands.press(Qt.Key.Key_C, CTRL)
    hands.press(Qt.Key.Key_F3)
    hands.type("grid")
    before = {bar.id for bar in hands.seen.toolbars}
    hands.press(Qt.Key.Key_V, CTRL)
    _taken(hands, before)
