"""Addresses and companions that items open: what one is, and what the checks say of those that are none."""

from __future__ import annotations

import pytest
from msgspec.structs import replace

from rimecrest.core.catalogue.arguments import Argument, ArgumentType, address_words, argument_fault
from rimecrest.core.catalogue.catalogue import Catalogue, Command, Effect
from rimecrest.core.catalogue.items import Button
from rimecrest.core.check.run import check
from rimecrest.core.workspace.edits import PutItems
from rimecrest.core.workspace.workspace import Workspace
from tests.samples import CATALOGUE

NORTH = "department.north"


@pytest.mark.parametrize(
    ("address", "words"),
    [
        ("https://tides.vessry.example/today?at=3", "tides.vessry.example"),
        ("HTTP://tides.vessry.example:8080", "tides.vessry.example"),
        ("mailto:quay@vessry.example", "quay@vessry.example"),
        ("https://", ""),
        ("https:tides", ""),
        ("mailto:", ""),
        ("mailto:quay", ""),
        ("tides.vessry.example", ""),
        ("javascript:alert(1)", ""),
        ("file:///etc/hosts", ""),
        ("https://two words.example", ""),
        ("https://[::1", ""),
        ("", ""),
    ],
)
def test_only_the_web_and_mail_have_addresses(address: str, words: str) -> None:
    assert address_words(address) == words
    fault = argument_fault(Argument(name="to", type=ArgumentType.ADDRESS), address)
    assert bool(fault) == (not words)
    assert not fault or fault.endswith(f"not “{address}”")


def opening(workspace: Workspace) -> Workspace:
    """With an application that opens files and addresses."""
    file, address = (
        Argument(name="path", type=ArgumentType.PATH),
        Argument(name="to", type=ArgumentType.ADDRESS),
    )
    more = (
        Command(
            id="notes:open", name="Open", about="Open it", arguments=(file,), effects=(Effect.OPENS_FILES,)
        ),
        Command(
            id="notes:visit",
            name="Visit",
            about="Visit it",
            arguments=(address,),
            effects=(Effect.OPENS_LINKS,),
        ),
    )
    data = CATALOGUE.to_data()
    # Not a copy of the model: it would keep what was looked up in it before.
    catalogue = Catalogue.model_validate(
        {**data, "commands": [*data["commands"], *(command.to_data() for command in more)]}
    )
    return replace(workspace, catalogues={**workspace.catalogues, "notes": catalogue})


def laid(workspace: Workspace, run: str, **args: str) -> Workspace:
    return PutItems(NORTH, "notes", "app:main", None, (Button(id="b", run=run, args=args),)).on(workspace)


def said(workspace: Workspace) -> list[tuple[str, str]]:
    return [(f.kind, f.rest) for f in check(workspace).findings if f.where == f"{NORTH}:b"]


def test_a_button_for_what_is_no_address_blocks(workspace: Workspace) -> None:
    ground = opening(workspace)
    assert said(laid(ground, "notes:visit", to="https://tides.vessry.example")) == []
    [(kind, words)] = said(laid(ground, "notes:visit", to="ftp://tides.vessry.example"))
    assert kind == "gone"
    assert "begins with https:, http: or mailto:" in words


def test_a_button_for_a_file_that_nobody_can_reach_is_told(workspace: Workspace) -> None:
    ground = opening(workspace)
    assert said(laid(ground, "notes:open", path="/srv/shared/plan.ods")) == []
    [(kind, words)] = said(laid(ground, "notes:open", path="/home/ada/plan.ods"))
    assert (kind, "no colleague can reach" in words) == ("out-of-reach", True)


def test_a_companion_that_comes_or_goes_is_noticed_by_the_next_check(workspace: Workspace) -> None:
    without = laid(opening(workspace), "notes:open", path="companions/plan.ods")
    before = check(without)
    assert [(k, "does not have" in rest) for k, rest in said(without)] == [("gone", True)]
    there = without.with_companion("plan.ods", b"x")
    after = check(there, before)
    assert not any(f.where == f"{NORTH}:b" for f in after.findings)
    assert any(f.where == f"{NORTH}:b" for f in check(there.with_companion("plan.ods", None), after).findings)
