"""Where a layout or panel applies: which documents it fits, and what is left out in the others."""

from __future__ import annotations

import pytest

from rimecrest.core.catalogue.applies import EVERYWHERE, Applies, DocumentKind
from rimecrest.core.catalogue.surfaces import Panel
from rimecrest.core.layout.layout import Layout, parse_layout
from rimecrest.core.layout.outcome import outcome
from rimecrest.core.model import dump_record
from rimecrest.core.workspace.edits import PutPanel, SetApplies, apply
from rimecrest.core.workspace.workspace import Workspace

NORTH = "department.north"
SHEET = DocumentKind("/srv/freight/monday/plan.ods", "sailing-sheet")
OTHER = DocumentKind("/srv/berth/plan.ods", "")
NEW = DocumentKind()


@pytest.mark.parametrize(
    ("applies", "fits"),
    [
        ({}, (True, True, True)),
        ({"templates": ["sailing-sheet"]}, (True, False, False)),
        ({"templates": [""]}, (False, False, False)),
        ({"folders": ["/srv/freight"]}, (True, False, False)),
        ({"folders": ["/srv/fre"]}, (False, False, False)),
        ({"folders": ["/srv"]}, (True, True, False)),
        ({"documents": ["plan.ods"]}, (True, True, False)),
        ({"documents": ["/srv/berth/plan.ods"]}, (False, True, False)),
        ({"documents": ["lan.ods"]}, (False, False, False)),
        ({"templates": ["berth"], "documents": ["/srv/berth/plan.ods"]}, (False, True, False)),
    ],
)
def test_a_document_is_told_by_its_template_its_folder_or_its_path(
    applies: dict[str, list[str]], fits: tuple[bool, ...]
) -> None:
    limit = Applies.model_validate(applies)
    assert tuple(limit.fits(document) for document in (SHEET, OTHER, NEW)) == fits


def seen(workspace: Workspace, document: DocumentKind | None) -> tuple[bool, bool]:
    """Whether the layer's bar and its key are there."""
    stack = ("organisation", NORTH)
    layouts, targets = workspace.layouts_of(stack, "notes"), workspace.targets(stack, "notes")
    found = outcome(workspace.catalogue("notes"), layouts, targets, document=document)
    return any(row.layer == NORTH for row in found.rows()), any(b.layer == NORTH for b in found.bindings)


def test_surfaces_and_keys_of_a_layer_come_with_its_documents_only(workspace: Workspace) -> None:
    laid = workspace.with_layout(
        Layout.model_validate(
            {
                "app": "notes",
                "layer": NORTH,
                "toolbars": [{"id": "bar", "title": "Bar", "items": [{"id": "b", "run": "notes:bold"}]}],
                "keys": [{"keys": "Ctrl+J", "run": "notes:bold"}],
            }
        )
    )
    limited = SetApplies(NORTH, "notes", Applies(templates=("sailing-sheet",))).on(laid)
    assert seen(laid, OTHER) == (True, True)
    assert seen(limited, SHEET) == (True, True)
    assert seen(limited, OTHER) == (False, False)
    assert seen(limited, None) == (True, True)
    text = dump_record(limited.layout(NORTH, "notes"), "layout")
    assert '"templates": [' in text
    assert parse_layout(text, "it") == limited.layout(NORTH, "notes")
    after, inverse = apply(limited, SetApplies(NORTH, "notes", EVERYWHERE))
    assert "applies" not in dump_record(after.layout(NORTH, "notes"), "layout")
    assert inverse.on(after) == limited


def test_a_panel_is_there_with_its_documents_only(workspace: Workspace) -> None:
    held = {"id": "lanes", "title": "Lanes", "applies": {"folders": ["/srv/freight"]}}
    after = PutPanel(NORTH, "notes", Panel.model_validate(held)).on(workspace)
    stack = ("organisation", NORTH)
    layouts, targets = after.layouts_of(stack, "notes"), after.targets(stack, "notes")
    for document, there in ((SHEET, 1), (OTHER, 0), (NEW, 0), (None, 1)):
        found = outcome(after.catalogue("notes"), layouts, targets, document=document)
        assert len(found.panels) == there, document
