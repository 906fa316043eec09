"""The published formats: schemas in step with the models, and every file of the demo fits its schema."""

from __future__ import annotations

import importlib.util
import json
import sys
import zipfile
from pathlib import Path
from types import ModuleType
from typing import Any

import jsonschema
import pytest

from rimecrest.core.layout.widths import text_width
from tests.samples import CATALOGUE

ROOT = Path(__file__).parents[2]


def tool(name: str) -> ModuleType:
    spec = importlib.util.spec_from_file_location(name, ROOT / "tools" / f"{name}.py")
    assert spec is not None
    assert spec.loader is not None
    module = importlib.util.module_from_spec(spec)
    sys.modules[name] = module
    spec.loader.exec_module(module)
    return module


schemas = tool("schemas")


@pytest.mark.parametrize("kind", list(schemas.KINDS))
def test_each_published_schema_is_that_of_the_model(kind: str) -> None:
    path = ROOT / "docs" / "formats" / f"{kind}.schema.json"
    assert path.read_text("utf-8") == schemas.text_of(kind), "run `make schemas`"
    jsonschema.Draft202012Validator.check_schema(json.loads(path.read_text("utf-8")))


def validate(kind: str, data: Any) -> None:
    jsonschema.validate(data, schemas.schema_of(kind), jsonschema.Draft202012Validator)


def test_every_file_of_the_demo_fits_its_schema(demo_folder: Path) -> None:
    workspace = demo_folder / "vessry"
    validate("workspace", json.loads((workspace / "workspace.json").read_text()))
    for kind, pattern in (("catalogue", "catalogues/*.json"), ("layout", "layouts/*/*.json")):
        paths = list(workspace.glob(pattern))
        assert paths
        for path in paths:
            validate(kind, json.loads(path.read_text()))
    channel = demo_folder / "channel"
    validate("audience", json.loads((channel / "audience.json").read_text()))
    for path in channel.glob("receipts/*/*.json"):
        validate("receipt", json.loads(path.read_text()))
    with zipfile.ZipFile(channel / "releases" / "7.crestpack") as package:
        validate("release", json.loads(package.read("release.json")))


def test_a_file_of_another_kind_does_not_fit(demo_folder: Path) -> None:
    data = json.loads((demo_folder / "vessry" / "workspace.json").read_text())
    with pytest.raises(jsonschema.ValidationError):
        validate("layout", data)


def test_every_file_of_the_demo_ends_with_one_newline_and_has_its_format_first(demo_folder: Path) -> None:
    for path in (demo_folder / "vessry").rglob("*.json"):
        text = path.read_text("utf-8")
        assert text.endswith("}\n")
        assert text.startswith('{\n  "format": "rimecrest.')


def test_the_demo_is_the_same_every_time(demo_folder: Path, tmp_path: Path) -> None:
    from rimecrest.demo.office import make_demo

    make_demo(tmp_path)
    for path in sorted(demo_folder.rglob("*")):
        if path.is_file() and ".rimecrest" not in path.parts and path.suffix != ".png":
            assert (tmp_path / path.relative_to(demo_folder)).read_bytes() == path.read_bytes(), path


def test_the_demo_has_its_forty_seats(demo: Any) -> None:
    boards = [seat.keyboard for seat in demo.people]
    assert {name: boards.count(name) for name in set(boards)} == {
        "gb": 31,
        "ie": 2,
        "de": 2,
        "no": 4,
        "be": 1,
    }
    assert len({seat.name for seat in demo.people}) == 40
    assert sum(len(seat.departments) == 2 for seat in demo.people) == 1
    assert sum(seat.wave == "1" for seat in demo.people) == 2


@pytest.mark.parametrize("text", ["Next overweight", "Sailing notice", "Zeitzeichen", "Ærø, øl"])
def test_the_table_of_widths_is_that_of_the_typeface(text: str, qapp: object) -> None:
    from PyQt6.QtGui import QFont, QFontDatabase, QFontMetricsF

    if "Inter" not in QFontDatabase.families():
        pytest.skip("the typeface is not installed here")
    font = QFont("Inter")
    font.setPixelSize(100)
    measured = QFontMetricsF(font).horizontalAdvance(text)
    assert abs(text_width(text, 100) - measured) < 0.06 * measured


def test_a_copy_with_other_values_keeps_nothing_worked_out_of_the_old_ones() -> None:
    assert CATALOGUE.command("go-on-board") is None
    named = CATALOGUE.commands[0].model_copy(update={"id": "notes:go-on-board"})
    made = CATALOGUE.model_copy(update={"commands": (*CATALOGUE.commands, named)})
    assert made.command("go-on-board") == named
    assert CATALOGUE.command("go-on-board") is None
