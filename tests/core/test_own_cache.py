"""What is kept from one start to the next, and only where nobody else can have put it."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import pytest

from rimecrest.core.own_cache import kept_as, own_cache

READ = """
from rimecrest.core.macro.parse import parse_macro
lines = 'macro "One"', "for letters", "do embolden on=yes", "if 1 + 2 = 3", 'say "Three"', "end"
print(*parse_macro("\\n".join(lines)))
"""


@pytest.fixture
def home(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    monkeypatch.setenv("XDG_CACHE_HOME", str(tmp_path / "cache"))
    return tmp_path / "cache" / "rimecrest"


def read() -> str:
    return subprocess.run([sys.executable, "-c", READ], capture_output=True, text=True, check=True).stdout


def test_it_is_ours_alone(home: Path) -> None:
    assert own_cache() == home
    assert home.stat().st_mode & 0o777 == 0o700


@pytest.mark.parametrize("mode", [0o770, 0o701, 0o755])
def test_one_that_others_reach_is_none(home: Path, mode: int) -> None:
    home.mkdir(parents=True)
    home.chmod(mode)
    assert own_cache() is None


def test_one_that_leads_elsewhere_is_none(home: Path, tmp_path: Path) -> None:
    home.parent.mkdir(parents=True)
    (tmp_path / "elsewhere").mkdir(mode=0o700)
    home.symlink_to(tmp_path / "elsewhere")
    assert own_cache() is None


def test_where_none_can_be_made_there_is_none(home: Path) -> None:
    home.parent.parent.mkdir(parents=True, exist_ok=True)
    home.parent.write_text("a file")
    assert own_cache() is None


def test_the_tables_of_the_macro_grammar_are_worked_out_once(home: Path) -> None:
    first = read()
    assert "Three" in first
    (kept,) = home.iterdir()
    os.utime(kept, (1, 1))
    assert read() == first
    assert kept.stat().st_mtime == 1, "they were worked out again"


def test_tables_that_are_broken_or_of_another_grammar_are_worked_out_again(home: Path) -> None:
    first = read()
    (kept,) = home.iterdir()
    whole = kept.read_bytes()
    for content in (b"", whole[: len(whole) // 2], b"0" * 64 + whole[64:]):
        kept.write_bytes(content)
        assert read() == first
        again = kept.read_bytes()
        # The digest of the grammar, and all of what follows; sets in it come in any order.
        assert again[:64] == whole[:64]
        assert again.endswith(whole[-1:])
        assert len(again) == pytest.approx(len(whole), rel=0.01)


def test_without_a_folder_of_ones_own_macros_are_read_all_the_same(home: Path) -> None:
    home.mkdir(parents=True)
    home.chmod(0o755)
    assert "Three" in read()
    assert not list(home.iterdir())


FREEZE = """
import sys
from rimecrest.core.release.pictures import freeze
print(freeze({name!r}), "fontTools" in sys.modules)
"""


def frozen(name: str) -> str:
    program = FREEZE.format(name=name)
    return subprocess.run([sys.executable, "-c", program], capture_output=True, text=True, check=True).stdout


def test_a_picture_of_a_set_is_drawn_once(home: Path) -> None:
    first = frozen("alert-outline")
    assert first.startswith("b'<svg")
    assert first.endswith("True\n")
    (kept,) = home.glob("pictures-*/*")
    assert kept.name == "alert-outline.svg"
    assert frozen("alert-outline") == first.replace("True", "False")


def test_no_name_leads_out_of_the_folder_of_pictures(home: Path) -> None:
    frozen("alert-outline")
    (kept,) = home.glob("pictures-*")
    (home / "planted.svg").write_text("<svg/>")
    (kept / ".hidden.svg").write_text("<svg/>")
    for name in ("../planted", "./../planted", ".hidden", str(home / "planted"), ""):
        assert frozen(name).startswith("None"), name


def test_what_is_kept_and_cannot_be_read_or_written_is_worked_out_each_time(home: Path) -> None:
    drawn, tables = frozen("alert-outline"), read()
    for kept in [*home.glob("pictures-*/*"), *home.glob("steps-*")]:
        kept.unlink()
        kept.mkdir()
        (kept / "in-the-way").touch()
    assert frozen("alert-outline") == drawn
    assert read() == tables


def test_of_what_other_versions_kept_the_last_stays_and_the_others_go(home: Path) -> None:
    old, last, other = (home / name for name in ("pictures-1", "pictures-2", "tables-1"))
    for at, folder in enumerate((other, old, last)):
        folder.mkdir(parents=True, mode=0o700)
        (folder / "one").write_text("kept")
        os.utime(folder, (at, at))
    home.chmod(0o700)
    elsewhere = home.parent / "elsewhere"
    elsewhere.mkdir()
    (home / "pictures-0").symlink_to(elsewhere)
    os.utime(home / "pictures-0", (0, 0), follow_symlinks=False)
    assert kept_as("pictures", "2") == last
    assert old.exists(), "nothing goes while this version has its own"
    assert kept_as("pictures", "3") == home / "pictures-3"
    assert not old.exists()
    assert not (home / "pictures-0").is_symlink()
    assert elsewhere.is_dir()
    assert (last / "one").read_text() == "kept"
    assert (other / "one").read_text() == "kept"


@pytest.mark.parametrize(
    ("mode", "kept"), [(0o700, True), (0o755, True), (0o1777, True), (0o777, False), (0o770, False)]
)
@pytest.mark.parametrize("above", [1, 2])
def test_one_that_others_could_put_another_in_place_of_is_none(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, mode: int, kept: bool, above: int
) -> None:
    home = tmp_path / "above" / "cache" / "rimecrest"
    home.mkdir(parents=True, mode=0o700)
    home.parents[above - 1].chmod(mode)
    monkeypatch.setenv("XDG_CACHE_HOME", str(home.parent))
    assert own_cache() == (home if kept else None)
