"""What all tests share: a small workspace, an offscreen Qt, a runtime folder of their own."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.layout.layout import Layout
from rimecrest.core.model import dump_record
from rimecrest.core.workspace import parts
from rimecrest.core.workspace.folder import open_workspace
from rimecrest.core.workspace.macro_file import macro_file
from rimecrest.core.workspace.people import Seat, format_people
from rimecrest.core.workspace.settings import Settings
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.demo.mail import bring_mail
from tests.samples import CATALOGUE, LAYOUTS, MACROS, PEOPLE, SETTINGS


@pytest.fixture(autouse=True)
def own_runtime_folder(tmp_path_factory: pytest.TempPathFactory, monkeypatch: pytest.MonkeyPatch) -> Path:
    """Sockets of a test never meet those of another one, or of a person at this computer."""
    folder = tmp_path_factory.mktemp("run", numbered=True)
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(folder))
    monkeypatch.setenv("XDG_DATA_HOME", str(folder / "data"))
    monkeypatch.setenv("XDG_CACHE_HOME", str(folder / "cache"))
    return folder


@pytest.fixture(autouse=True, scope="session")
def first_mail(tmp_path_factory: pytest.TempPathFactory) -> None:
    """New mailboxes begin with the demo's messages."""
    bring_mail(tmp_path_factory.mktemp("mail"))


@pytest.fixture
def catalogue() -> Catalogue:
    return CATALOGUE


@pytest.fixture
def workspace() -> Workspace:
    """The sample organisation, in memory."""
    return make_workspace()


def make_workspace(
    layouts: list[Layout] | None = None,
    macros: dict[tuple[str, str], str] | None = None,
    people: tuple[Seat, ...] = PEOPLE,
    settings: Settings = SETTINGS,
) -> Workspace:
    given = LAYOUTS if layouts is None else layouts
    texts = MACROS if macros is None else macros
    return Workspace(
        settings,
        {"notes": CATALOGUE},
        {(layout.layer, layout.app): layout for layout in given},
        {key: macro_file(*key, text) for key, text in texts.items()},
        people,
    )


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    """The sample organisation, on disk."""
    return write_workspace(tmp_path / "sample")


def write_workspace(path: Path) -> Path:
    path.mkdir()
    (path / "workspace.json").write_text(dump_record(SETTINGS, "workspace"))
    (path / "people.csv").write_text(format_people(PEOPLE))
    (path / "catalogues").mkdir()
    (path / "catalogues" / "notes.json").write_text(dump_record(CATALOGUE, "catalogue"))
    for layout in LAYOUTS:
        target = path / "layouts" / layout.layer / f"{layout.app}.json"
        target.parent.mkdir(parents=True, exist_ok=True)
        target.write_bytes(parts.LAYOUTS.write(layout))
    for (layer, name), text in MACROS.items():
        target = path / "macros" / layer / f"{name}.steps"
        target.parent.mkdir(parents=True, exist_ok=True)
        target.write_text(text)
    return path


@pytest.fixture(scope="session")
def demo_folder(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Path]:
    """The whole demo, made once; tests that change it copy it first."""
    from rimecrest.demo.office import make_demo

    folder = tmp_path_factory.mktemp("demo")
    make_demo(folder)
    yield folder
    assert not (folder / "vessry" / ".rimecrest").exists(), (
        "a test worked in the demo of all: it copies it first"
    )


@pytest.fixture
def demo(demo_folder: Path) -> Workspace:
    return open_workspace(demo_folder / "vessry")
