"""The bars and tabs that the applications come with: every word of them can be read."""

from __future__ import annotations

import pytest

from rimecrest.core.catalogue.items import Button
from rimecrest.core.layout.widths import fits
from rimecrest.kit.declare import Declarations
from rimecrest_standins.grid.grid import declarations as grid
from rimecrest_standins.letters.letters import declarations as letters
from rimecrest_standins.post.post import declarations as post


@pytest.mark.parametrize("declarations", [letters, grid, post], ids=lambda declared: declared.app)
def test_the_words_of_every_item_in_a_group_fit_into_its_width(declarations: Declarations) -> None:
    told = []
    doubles = 0
    for tab in declarations.tabs:
        for group in tab.groups:
            for item in group.items:
                assert isinstance(item, Button)
                command = declarations.commands[item.run].command
                doubles += item.width == 2
                if not fits(command.name, item.width, bool(command.picture)):
                    told.append(f"{tab.title} · {group.title} · {command.name}")
                elif item.width == 2:
                    assert not fits(command.name, 1, bool(command.picture)), "it needs no second column"
    assert not told
    assert doubles
