"""What there is no room for at a width: on bars, in groups, and as one finding however many items it is."""

from __future__ import annotations

from typing import Any

from rimecrest.core.catalogue.surfaces import Tab, Toolbar
from rimecrest.core.check.run import check
from rimecrest.core.layout.room import unseen_at
from rimecrest.core.workspace.edits import PutTab, PutToolbar
from rimecrest.core.workspace.workspace import Workspace

NORTH = "department.north"
HERE = (NORTH, "notes")


def bar(count: int, **fields: Any) -> Toolbar:
    items = [
        {"id": f"n{n}", "run": "notes:bold", "label": f"Number {n}", "face": "words"} for n in range(count)
    ]
    return Toolbar.model_validate({"id": "long", "title": "Long", "edge": "top", "items": items, **fields})


def lost(workspace: Workspace, width: int) -> dict[str, int]:
    return {row.title: len(items) for row, items in unseen_at(workspace.outcome((NORTH,), "notes"), width)}


def test_what_is_beyond_the_end_of_a_lying_bar_is_lost_and_the_last_goes_first(workspace: Workspace) -> None:
    after = PutToolbar(*HERE, bar(40)).on(workspace)
    narrow, wide = lost(after, 800)["Long"], lost(after, 1600)["Long"]
    assert 0 < wide < narrow < 40
    seen = after.outcome((NORTH,), "notes")
    (gone,) = (items for row, items in unseen_at(seen, 1600) if row.title == "Long")
    assert [item.id for item in gone] == [f"{NORTH}:n{n}" for n in range(40 - wide, 40)]
    assert "Long" not in lost(PutToolbar(*HERE, bar(4)).on(workspace), 800)
    assert "Long" not in lost(PutToolbar(*HERE, bar(40, edge="left")).on(workspace), 800)


def test_bars_of_one_line_share_its_width(workspace: Workspace) -> None:
    one = PutToolbar(*HERE, bar(8, row=1)).on(workspace)
    items = [{"id": f"m{n}", "run": "notes:save", "label": f"More {n}", "face": "words"} for n in range(8)]
    more = {"id": "more", "title": "More", "edge": "top", "row": 1, "after": "long", "items": items}
    both = PutToolbar(*HERE, Toolbar.model_validate(more)).on(one)
    assert lost(one, 800) == {}
    assert set(lost(both, 800)) == {"More"}


def test_words_go_before_a_group_folds(workspace: Workspace) -> None:
    def tab(face: str) -> Workspace:
        shown = {"run": "notes:bold", "label": "Words that take room", "face": face, "picture": "set:pencil"}
        groups = [
            {"id": f"g{g}", "title": f"G{g}", "items": [{"id": f"i{g}{n}", **shown} for n in range(6)]}
            for g in range(4)
        ]
        return PutTab(*HERE, Tab.model_validate({"id": "t", "title": "T", "groups": groups})).on(workspace)

    assert lost(tab("both"), 800) == {}
    assert set(lost(tab("words"), 800)) >= {"G3"}
    assert lost(tab("words"), 4000) == {}


def test_thirty_four_items_that_do_not_fit_are_one_finding(workspace: Workspace) -> None:
    after = PutToolbar(*HERE, bar(44)).on(workspace)
    found = [finding for finding in check(after).findings if finding.kind == "no-room"]
    assert [finding.where for finding in found] == [f"{NORTH}:long"]
    assert "has no room for" in found[0].sentence
    assert "items at 1,024 px" in found[0].sentence
    assert found[0].sentence.endswith(" more.")
    fits = PutToolbar(*HERE, bar(4)).on(workspace)
    assert not [finding for finding in check(fits).findings if finding.kind == "no-room"]
