"""The reserved keys of this machine: read through the real gsettings program, from schemas made for the
test."""

from __future__ import annotations

import shutil
import subprocess
from pathlib import Path

import pytest

from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.desktops.profiles import profile
from rimecrest.rollout.desktop import chord_of_accelerator, desktop_here, reserved_here

SCHEMA = """<?xml version="1.0" encoding="UTF-8"?>
<schemalist>
  <schema id="org.freedesktop.ibus.general.hotkey" path="/desktop/ibus/general/hotkey/">
    <key name="triggers" type="as"><default>['&lt;Control&gt;&lt;Alt&gt;k',
    '&lt;Nonsense&gt;x']</default></key> <key name="enable-unconditional"
    type="as"><default>[]</default></key> <key name="one"
    type="s"><default>'&lt;Super&gt;Above_Tab'</default></key> <key name="count"
    type="i"><default>3</default></key>
  </schema>
</schemalist>
"""
needs_gsettings = pytest.mark.skipif(
    not (shutil.which("gsettings") and shutil.which("glib-compile-schemas")), reason="there is no gsettings"
)


@pytest.fixture
def schemas(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A folder of schemas that holds one, compiled by the real compiler; settings live in memory."""
    (tmp_path / "x.gschema.xml").write_text(SCHEMA)
    subprocess.run(["glib-compile-schemas", str(tmp_path)], check=True, capture_output=True)
    monkeypatch.setenv("GSETTINGS_SCHEMA_DIR", str(tmp_path))
    monkeypatch.setenv("GSETTINGS_BACKEND", "memory")
    return tmp_path


@needs_gsettings
def test_the_keys_that_are_really_set_go_before_the_profile(schemas: Path) -> None:
    found, really = reserved_here("ibus")
    assert really
    assert found.reserved["Ctrl+Alt+K"] == "does “triggers”"
    assert found.reserved["Super+`"] == "does “one”"
    assert found.reserved["Ctrl+Shift+U"] == profile("ibus").reserved["Ctrl+Shift+U"]


@needs_gsettings
def test_where_no_setting_can_be_read_the_profile_stands(monkeypatch: pytest.MonkeyPatch) -> None:
    found, really = reserved_here("xfce")
    assert not really
    assert found == profile("xfce")
    monkeypatch.setenv("PATH", "")
    assert reserved_here("gnome") == (profile("gnome"), False)


def test_an_unknown_desktop_is_refused() -> None:
    with pytest.raises(RimecrestError, match="no profile"):
        reserved_here("nothing")


@pytest.mark.parametrize(
    ("accelerator", "keys"),
    [
        ("<Primary><Alt>d", "Ctrl+Alt+D"),
        ("<Super>Page_Down", "Super+Page_Down"),
        ("<Shift><Control>F10", "Ctrl+Shift+F10"),
        ("<Alt>Above_Tab", "Alt+`"),
        ("Print", "Print"),
        ("XF86AudioMute", ""),
        ("<Hyper>x", ""),
        ("", ""),
    ],
)
def test_accelerators_are_read_as_chords(accelerator: str, keys: str) -> None:
    assert chord_of_accelerator(accelerator) == keys


@pytest.mark.parametrize(
    ("said", "meant"), [("ubuntu:GNOME", "gnome"), ("KDE", "plasma"), ("XFCE", "xfce"), ("Own", ""), ("", "")]
)
def test_the_running_desktop_is_known_by_its_standard_name(
    said: str, meant: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("XDG_CURRENT_DESKTOP", said)
    assert desktop_here() == meant
