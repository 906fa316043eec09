"""A kill, a refusal and a full disk at each operation of a save: what is there is whole, old or new."""

from __future__ import annotations

import contextlib
import itertools
import shutil
from pathlib import Path

import pytest

from rimecrest.core.errors import RimecrestError
from rimecrest.core.macro.check import unreachable
from rimecrest.core.workspace.folder import open_workspace, read_workspace
from rimecrest.core.workspace.keeper import Keeper
from rimecrest.core.workspace.layer_ids import MINE
from rimecrest.core.workspace.workspace import Workspace
from tests.faulty_files import Failing, Fault, Killed, failing

PLAIN = 'macro "Plain"\nfor notes\nwrite "a"\n'
NASTY = 'macro "N"\nfor notes\nwrite "a\u2028b\u0085c\x0bd\x1ce\x7f"\n'
FEWEST = 10
"""Operations of the edit below at least: fewer would mean that the layer does not see them."""


def edited(opened: Workspace, text: str) -> Workspace:
    """An edit of every sort: files made, changed and taken away, in old folders and a new one."""
    return (
        opened.with_macro("organisation", "made", text)
        .with_macro("department.north", "also-made", text)
        .with_macro("organisation", "greeting", None)
        .with_companion("plan.bin", bytes(range(256)))
        .with_settings(opened.settings.model_copy(update={"name": text}))
        .without_layout(("department.north", "notes"))
    )


def parts(workspace: Workspace) -> tuple[object, ...]:
    return (
        dict(workspace.macros),
        dict(workspace.layouts),
        dict(workspace.companions),
        workspace.settings,
        workspace.people,
        dict(workspace.broken),
    )


def save(folder: Path, fault: Fault, at: int, text: str) -> tuple[Failing, str]:
    """Save the edit with a fault at an operation; how it ended: saved, told or killed."""
    keeper = Keeper(folder)
    opened = keeper.open()
    with failing(folder, fault, at) as layer:
        try:
            keeper.save("edit", opened, edited(opened, text))
            how = "saved"
        except Killed:
            how = "killed"
        except RimecrestError:
            how = "told"
    keeper.close()
    return layer, how


@pytest.mark.parametrize("text", [PLAIN, NASTY])
@pytest.mark.parametrize("fault", list(Fault))
def test_a_save_is_whole_whatever_fails_at_whichever_operation(
    folder: Path, tmp_path: Path, fault: Fault, text: str
) -> None:
    old = parts(read_workspace(folder))
    new = parts(edited(read_workspace(folder), text))
    assert old != new
    for at in itertools.count():
        here = tmp_path / str(at) / "sample"
        shutil.copytree(folder, here)
        layer, how = save(here, fault, at, text)
        seen = parts(read_workspace(here))
        opened = parts(open_workspace(here))
        trail = "\n".join(layer.trail)
        assert seen == opened, trail
        assert seen in (old, new), trail
        if how == "saved":
            assert seen == new, trail
        if how == "told" and fault is Fault.REFUSED:
            assert seen == old, trail
        assert save(here, fault, -1, text)[1] == "saved"
        assert parts(read_workspace(here)) == new
        if layer.done <= at:
            break
    assert at > FEWEST


@pytest.mark.parametrize("fault", [Fault.REFUSED, Fault.FULL])
def test_what_is_saved_after_a_save_that_failed_leaves_nothing_of_that_half_done(
    folder: Path, tmp_path: Path, fault: Fault
) -> None:
    """The disk has room again, and the same studio goes on with something else."""
    for at in itertools.count():
        here = tmp_path / str(at) / "sample"
        shutil.copytree(folder, here)
        keeper = Keeper(here)
        opened = keeper.open()
        after = edited(opened, PLAIN)
        with failing(here, fault, at) as layer, contextlib.suppress(RimecrestError):
            keeper.save("edit", opened, after)
            opened = after
        keeper.save("next", opened, opened.with_macro("organisation", "next", PLAIN))
        keeper.close()
        assert parts(read_workspace(here)) == parts(opened.with_macro("organisation", "next", PLAIN))
        assert parts(open_workspace(here)) == parts(read_workspace(here))
        if layer.done <= at:
            break
    assert at > FEWEST


@pytest.mark.parametrize("fault", list(Fault))
def test_a_macro_that_moves_between_the_shelves_is_in_both_or_one_but_never_in_none(
    folder: Path, tmp_path: Path, fault: Fault
) -> None:
    for at in itertools.count():
        house = tmp_path / str(at)
        here, mine = house / "sample", house / "mine"
        shutil.copytree(folder, here)
        mine.mkdir()
        (mine / "moved.steps").write_text(PLAIN)
        keeper = Keeper(here, mine=mine)
        opened = keeper.open()
        moved = opened.with_macro(MINE, "moved", None).with_macro("organisation", "moved", PLAIN)
        with failing(house, fault, at) as layer, contextlib.suppress(Killed, RimecrestError):
            keeper.save("move", opened, moved)
        keeper.close()
        again = Keeper(here, mine=mine)
        found = [key[0] for key in again.open().macros if key[1] == "moved"]
        again.close()
        assert found, layer.trail
        if layer.done <= at:
            assert found == ["organisation"]
            break
    assert at > 3


@pytest.mark.parametrize(
    ("path", "reach"),
    [
        ("/home/ann/plan.ods", False),
        ("'~/plan.ods' ", False),
        ("file:///tmp/plan.ods", False),
        ("/tmp/plan.ods", False),
        ("/run/media/ann/STICK/plan.ods", False),
        ("/run/user/1000/gvfs/plan.ods", False),
        ("/srv/berths/plan.ods", True),
        ("companions/plan.ods", True),
        ("/tmpfiles/plan.ods", True),
    ],
)
def test_where_no_colleague_can_reach(path: str, reach: bool) -> None:
    assert unreachable(path) is not reach
