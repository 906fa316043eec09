"""Each widget of the studio stands by itself, with made-up data, and draws something."""

from __future__ import annotations

import importlib
import inspect
import pkgutil
import shutil
from pathlib import Path

import pytest
from PyQt6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot

import rimecrest.studio
from rimecrest.demo import widgets
from rimecrest.demo.widgets import WIDGETS, show

PARTS = {
    # Whole places and windows, which their own tests start.
    *("Desk", "StudioWindow", "Place", "KeysPlace", "LayoutPlace", "MacrosPlace", "RolloutPlace"),
    # What others are made of, and what lies over another widget.
    *(
        "Band",
        "Nest",
        "MoveRow",
        "KeyCap",
        "Keyless",
        "SuggestionRow",
        "TargetField",
        "Panel",
        "MovesOverlay",
    ),
    *(
        "CardFoot",
        "CardSentence",
        "PictureWord",
        "DocumentPicture",
        "Overlay",
        "Finder",
        "HiddenWord",
        "StepsField",
    ),
    *("Margin", "Frame", "Shelved", "StepCaret", "WordField", "TakeIn", "SeatSign"),
    *("Canvas", "DrawnPage", "DropZone", "ImportedPage", "Leaf", "Preview", "Swatch", "ToolButton", "Wall"),
    *("PlaceButton", "SchemeButton", "Sheet", "SearchField", "ChoiceList", "SlimBar", "CardSheet"),
    *(
        "Pressable",
        "Word",
        "Chip",
        "Push",
        "KeyCaps",
        "Plain",
        "Elided",
        "Field",
        "InlineField",
        "OfferedField",
    ),
}


@pytest.fixture
def described(demo_copy: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """The demo that the tests share stands in for the one that would be made anew."""
    monkeypatch.setattr(widgets, "make_workspace", lambda folder: shutil.copytree(demo_copy, folder))


@pytest.mark.parametrize("name", WIDGETS)
@pytest.mark.usefixtures("described")
def test_it_stands_alone(qtbot: QtBot, tmp_path: Path, name: str) -> None:
    window, widget = show(name, tmp_path / "alone")
    qtbot.addWidget(window)
    QApplication.processEvents()
    assert widget.isVisible()
    assert widget.width() > 0 < widget.height()
    picture = widget.grab().toImage()
    colours = {
        picture.pixel(x, y) for x in range(0, picture.width(), 2) for y in range(0, picture.height(), 2)
    }
    assert len(colours) > 1


def test_every_widget_of_the_studio_is_there() -> None:
    named = set()
    for found in pkgutil.walk_packages(rimecrest.studio.__path__, "rimecrest.studio."):
        module = importlib.import_module(found.name)
        named |= {
            name
            for name, made in vars(module).items()
            if inspect.isclass(made) and issubclass(made, QWidget) and made.__module__ == found.name
        }
    source = inspect.getsource(widgets)
    alone = {name for name in named if f"{name}(made." in source or f"{name}(\n" in source}
    alone |= {name for name in named if f" {name}(" in source}
    assert named - alone - PARTS == set()
    assert set(PARTS) - named == set()
