"""What is handed to the desktop: addresses and files, caught by the desktop services' own handler."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import QObject, QUrl, pyqtSlot
from PyQt6.QtGui import QDesktopServices

from rimecrest.shell.installed_programs import installed_programs
from tests.programs import Letters


class Desktop(QObject):
    """Takes what the desktop would open."""

    def __init__(self) -> None:
        super().__init__()
        self.opened: list[str] = []

    @pyqtSlot(QUrl)
    def take(self, url: QUrl) -> None:
        self.opened.append(url.toString())


@pytest.fixture
def desktop() -> Iterator[Desktop]:
    made = Desktop()
    schemes = ("https", "mailto", "file")
    for scheme in schemes:
        QDesktopServices.setUrlHandler(scheme, made, "take")
    yield made
    for scheme in schemes:
        QDesktopServices.unsetUrlHandler(scheme)


@pytest.mark.parametrize("address", ["https://tides.vessry.example/today", "mailto:quay@vessry.example"])
def test_an_address_is_handed_to_the_desktop(letters: Letters, desktop: Desktop, address: str) -> None:
    assert letters.do("open-address", to=address), letters.said
    assert desktop.opened == [address]


@pytest.mark.parametrize("address", ["tides", "file:///etc/hosts", "javascript:alert(1)", ""])
def test_what_is_no_address_is_never_handed_over(letters: Letters, desktop: Desktop, address: str) -> None:
    assert not letters.do("open-address", to=address)
    assert "begins with https:, http: or mailto:" in letters.said
    assert desktop.opened == []


def test_a_file_goes_to_the_program_that_the_desktop_has_for_it(
    letters: Letters, desktop: Desktop, tmp_path: Path
) -> None:
    file = tmp_path / "berth plan.ods"
    file.write_bytes(b"x")
    assert letters.do("open-outside", path=str(file)), letters.said
    assert desktop.opened == [QUrl.fromLocalFile(str(file)).toString()]
    assert not letters.do("open-outside", path=str(tmp_path / "none.ods"))
    assert "There is no file" in letters.said
    assert len(desktop.opened) == 1


def test_where_nothing_opens_it_a_sentence_says_so(letters: Letters) -> None:
    assert not letters.do("open-address", to="https://tides.vessry.example")
    assert letters.said.startswith("Nothing on this computer opens https://tides.vessry.example.")


def entry(folder: Path, identity: str, **fields: str) -> None:
    """A desktop entry where the user's own lie."""
    place = folder / "applications" / f"{identity}.desktop"
    place.parent.mkdir(parents=True, exist_ok=True)
    lines = {"Type": "Application", "Name": "Tide table", **fields}
    place.write_text(
        "[Desktop Entry]\n" + "".join(f"{key}={value}\n" for key, value in lines.items()), "utf-8"
    )


@pytest.fixture
def programs(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> Path:
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    monkeypatch.setenv("XDG_DATA_DIRS", str(tmp_path / "shared"))
    return tmp_path


def test_an_installed_application_is_started_as_the_desktop_would(letters: Letters, programs: Path) -> None:
    trace = programs / "started 100%"
    entry(programs, "isle.tides", Exec=f"touch '{str(trace).replace('%', '%%')}' %f")
    assert letters.do("start-application", application="isle.tides"), letters.said
    letters.qtbot.waitUntil(trace.exists, timeout=10_000)


def test_what_is_not_installed_is_told_and_nothing_is_started(letters: Letters, programs: Path) -> None:
    assert not letters.do("start-application", application="isle.tides")
    assert "“isle.tides” is not installed here" in letters.said


def test_hidden_and_broken_entries_are_no_applications(programs: Path) -> None:
    entry(programs, "isle.tides", Exec="tides")
    entry(programs, "isle.hidden", Exec="x", NoDisplay="true")
    entry(programs, "isle.link", Type="Link", Exec="x")
    entry(programs / "shared", "isle.tides", Exec="other", Name="Everybody’s")
    entry(programs / "shared", "isle.hidden", Exec="x")
    (programs / "applications" / "broken.desktop").write_bytes(b"\xff\xfe no entry")
    (programs / "applications" / "empty.desktop").write_text("", "utf-8")
    found = installed_programs()
    assert {name: program.name for name, program in found.items()} == {"isle.tides": "Tide table"}
