"""What people and files bring that fits nowhere: it is shown whole or with "…", told, and loses nothing."""

from __future__ import annotations

import resource
import signal
from collections.abc import Iterator
from contextlib import contextmanager
from itertools import combinations
from typing import Any

import pytest
from PyQt6.QtCore import QMimeData, QPoint, QRect, Qt
from PyQt6.QtWidgets import QApplication, QLabel, QWidget

from rimecrest.core.catalogue.items import Button
from rimecrest.core.catalogue.surfaces import Panel, Tab, Toolbar
from rimecrest.core.workspace.edits import PutItems, PutPanel, PutTab, PutToolbar
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.surfaces.button import ItemButton
from rimecrest.surfaces.panel_controls import ControlView
from tests.studio.conftest import BAR, CTRL, LAST, Studio

NASTY = {
    "empty": "",
    "long": "A label that goes on and on, far beyond what any cell has room for " * 3,
    "one word": "Unbreakablewordwithoutanyplacetobreakitanywhereatall" * 2,
    "right to left": "מעבורת שלום עולם ארוך מאוד",
    "combining": "Z̴̡̢a̷l̵g̶o̸ n̵o̶t̷e̸" * 3,
    "emoji": "🚢⛴️ vessel 👩🏽‍✈️ on deck",
    "markup": "<b>bold</b> & <img src=x>",
}
STANDS = {"left": 600, "right": 600, "top": 600, "bottom": 600}


def panel(name: str, **fields: Any) -> Panel:
    controls = [
        {"id": f"{name}-why", "text": "Type the vessel, then choose."},
        {"id": f"{name}-vessel", "field": "Vessel"},
        {"id": f"{name}-go", "run": "letters:save", "label": "Save"},
    ]
    return Panel.model_validate({"id": name, "title": f"Panel {name}", "items": controls, **fields})


def put(studio: Studio, *edits: Any) -> None:
    for edit in edits:
        assert studio.session.do(edit), studio.said
    QApplication.processEvents()


def here(studio: Studio) -> tuple[str, str]:
    return studio.session.aim.layer, studio.session.aim.app


def boxes(studio: Studio, widgets: list[QWidget]) -> list[QRect]:
    frame = studio.place.stage.frame
    return [QRect(w.mapTo(frame, QPoint(0, 0)), w.size()) for w in widgets if w.isVisibleTo(frame)]


def test_panels_at_all_four_edges_that_are_larger_than_the_window_leave_the_document_its_place(
    studio: Studio,
) -> None:
    for edge, width in STANDS.items():
        put(studio, PutPanel(*here(studio), panel(edge, edge=edge, width=width)))
    frame = studio.place.stage.frame
    assert frame.width() <= studio.session.aim.width
    views = [frame.panels.view(f"{here(studio)[0]}:{edge}") for edge in STANDS]
    shown = boxes(studio, [view for view in views if view is not None])
    assert len(shown) == 4
    inside = frame.rect()
    assert all(inside.contains(box) for box in shown)
    assert not any(one.intersects(other) for one, other in combinations(shown, 2))
    middle = frame.centre_rect()
    assert middle.width() >= 60
    assert middle.height() >= 40


def test_five_hundred_items_on_a_bar_are_behind_its_end_and_are_one_finding(studio: Studio) -> None:
    items = tuple(Button(id=f"many-{n}", run="letters:save", label=f"Item {n}") for n in range(500))
    put(studio, PutItems(*here(studio), BAR, None, items))
    frame = studio.place.stage.frame
    assert next(rest for rest in frame.rests() if rest.holder == BAR)
    told = [f for f in studio.session.findings() if f.kind == "no-room" and f.where == BAR]
    assert len(told) == 1
    studio.place.show_item(f"{here(studio)[0]}:many-499")
    assert frame.button(f"{here(studio)[0]}:many-499") is not None


@pytest.mark.parametrize("label", NASTY.values(), ids=NASTY)
def test_no_words_overlap_or_are_cut_without_a_sign_and_the_tip_has_them_whole(
    studio: Studio, label: str
) -> None:
    layer, app = here(studio)
    words = {"run": "letters:save", "label": label, "face": "words"}
    bar = {
        "id": "nasty",
        "title": label or "x",
        "edge": "top",
        "items": [{"id": "n1", **words}, {"id": "n2", **words}],
    }
    group = {"id": "ng", "title": label or "x", "items": [{"id": "n3", **words}, {"id": "n4", **words}]}
    controls = [
        {"id": "c1", "text": label},
        {"id": "c2", "field": label},
        {"id": "c3", "tick": label},
        {"id": "c4", "list": label, "choices": [label or "x"]},
        {"id": "c5", **words},
    ]
    put(
        studio,
        PutToolbar(layer, app, Toolbar.model_validate(bar)),
        PutTab(layer, app, Tab.model_validate({"id": "nt", "title": label or "x", "groups": [group]})),
        PutPanel(layer, app, Panel.model_validate({"id": "np", "title": label or "x", "items": controls})),
    )
    frame = studio.place.stage.frame
    frame.choose_tab(f"{layer}:nt")
    QApplication.processEvents()
    assert frame.width() <= studio.session.aim.width
    for surface in (f"{layer}:nasty", f"{layer}:ng", f"{layer}:np"):
        row = studio.session.outcome().row(surface)
        assert row is not None
        widgets = [w for item in row.items if (w := frame.button(item.id)) is not None]
        shown = boxes(studio, widgets)
        assert not any(one.intersects(other) for one, other in combinations(shown, 2)), surface
        assert all(box.left() >= 0 and box.right() <= frame.width() for box in shown), surface
        for widget in widgets:
            if isinstance(widget, ItemButton) and label:
                assert widget.toolTip().startswith(label.strip())
    view = frame.panels.view(f"{layer}:np")
    assert view is not None
    for control in view.findChildren(ControlView):
        assert control.width() <= view.width()
        for inner in control.findChildren(QWidget):
            assert inner.geometry().right() <= control.width(), inner
        for words_of in control.findChildren(QLabel):
            assert words_of.textFormat() is Qt.TextFormat.PlainText
    strip = [box for _, box in frame.tab_rects()]
    assert all(box.right() <= frame.width() for box in strip)
    assert all(box.right() <= frame.width() for _, box in frame.group_rects())


def test_a_control_whose_macro_was_deleted_is_told_and_stays(studio: Studio) -> None:
    box = {"id": "lost", "field": "Vessel", "on": {"change": {"run": "macro:no-such-macro"}}}
    held = Panel.model_validate({"id": "lanes", "title": "Lanes", "items": [box]})
    put(studio, PutPanel(*here(studio), held))
    found = [f for f in studio.session.findings() if f.where == f"{here(studio)[0]}:lost"]
    assert [f.kind for f in found] == ["gone"]
    assert "does not exist" in found[0].sentence


@pytest.mark.parametrize(
    "nonsense", [b"", b"\xff\x00\xfe", b"{}", b'{"items": 3}', b'[{"items": [{"run": []}]}]']
)
def test_a_paste_of_nonsense_changes_nothing_and_says_so(studio: Studio, nonsense: bytes) -> None:
    data = QMimeData()
    data.setData("application/x-rimecrest-items+json", nonsense)
    data.setText("no items at all")
    clipboard = QApplication.clipboard()
    assert clipboard is not None
    clipboard.setMimeData(data)
    before = studio.session.workspace
    studio.place.overlay.caret.select(BAR, LAST)
    studio.press(Qt.Key.Key_V, CTRL)
    assert studio.session.workspace is before
    assert studio.said


@contextmanager
def disk_full_at(size: int) -> Iterator[None]:
    """Files end at a size: what is written beyond fails, as on a full disk."""
    handled = signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
    limits = resource.getrlimit(resource.RLIMIT_FSIZE)
    resource.setrlimit(resource.RLIMIT_FSIZE, (size, limits[1]))
    try:
        yield
    finally:
        resource.setrlimit(resource.RLIMIT_FSIZE, limits)
        signal.signal(signal.SIGXFSZ, handled)


@pytest.mark.parametrize("size", [0, 100, 700])
def test_a_disk_that_is_full_in_the_middle_of_a_save_leaves_the_old_state_and_says_so(
    studio: Studio, size: int
) -> None:
    before = studio.session.workspace
    kept = read_workspace(studio.folder).layouts
    button = Button(id="new-one", run="letters:save", label="New one")
    with disk_full_at(size):
        assert not studio.session.do(PutItems(*here(studio), BAR, None, (button,)))
    assert studio.session.workspace is before
    assert "new-one" not in {item.id for item in studio.layout.all_items()}
    assert read_workspace(studio.folder).layouts == kept
    assert studio.said
    assert studio.session.do(PutItems(*here(studio), BAR, None, (button,))), studio.said


def test_a_bar_that_floats_off_every_screen_is_drawn_inside_the_window(studio: Studio) -> None:
    bar = {"id": "far", "title": "Far", "edge": "float", "at": [9000, -4000]}
    bar["items"] = [{"id": "f1", "run": "letters:save"}]
    put(studio, PutToolbar(*here(studio), Toolbar.model_validate(bar)))
    frame = studio.place.stage.frame
    place = dict(frame.floating_heads())[f"{here(studio)[0]}:far"]
    assert frame.centre_rect().contains(place.topLeft())
    assert frame.rect().contains(place)
