"""On a real screen: keys as the keyboard sends them, the whole story, and what a kill leaves."""

from __future__ import annotations

import json
import os
import shutil
import signal
import subprocess
import sys
from datetime import date
from pathlib import Path

import pytest
from Xlib import Xatom
from Xlib.display import Display

from rimecrest.core.catalogue.items import Button
from rimecrest.core.errors import RimecrestError
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.demo.desk import Desk, wait_for
from rimecrest.demo.office import make_demo
from rimecrest.demo.story import Story
from rimecrest.kit.remote.studio_door import StudioDoor
from rimecrest.link.line import Line
from rimecrest.studio.shared.edit_target import EditTarget

pytestmark = [pytest.mark.long, pytest.mark.screen, pytest.mark.xdist_group("screen")]
BAR = "department.freight:freight"


def text(line: Line) -> str:
    return str(line.ask("read", name="letter.text"))


def test_the_story_runs_from_end_to_end(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.delenv("QT_QPA_PLATFORM", raising=False)
    told: list[str] = []
    Story(tmp_path / "out", told.append).run()
    assert len(told) == 20
    assert told[-1].startswith("That is the whole line")
    pictures = sorted(path.name for path in (tmp_path / "out").iterdir())
    assert len(pictures) == 14
    assert not any("trouble" in name for name in pictures)


@pytest.fixture
def letter(desk: Desk) -> Line:
    process = desk.start("app", "letters")
    line = desk.line_to("letters", process)
    desk.activate(process)
    return line


def typed(desk: Desk, line: Line, wanted: str) -> None:
    wait_for(repr(wanted), lambda: text(line) == wanted)


def test_real_keys_reach_letters_by_key_code(desk: Desk, letter: Line) -> None:
    desk.type("One two")
    typed(desk, letter, "One two")
    desk.press("ctrl+a", "ctrl+b")
    wait_for("bold", lambda: letter.ask("read", name="chosen.bold") == "yes")
    desk.press("End", "ctrl+j", "d")
    wait_for("the date", lambda: str(date.today().year) in text(letter))
    desk.press("ctrl+z")
    typed(desk, letter, "One two")
    desk.press("shift+Left", "BackSpace")
    typed(desk, letter, "One tw")
    desk.press("ctrl+shift+z")
    desk.press("ctrl+z")
    typed(desk, letter, "One two")


def test_shifted_symbols_and_digits_count_by_their_key(desk: Desk, letter: Line) -> None:
    """Ctrl+Shift and a symbol's key is that key with Shift, not the symbol above it."""
    layout = {
        "app": "letters",
        "layer": "organisation",
        "keys": [
            {"keys": "Ctrl+Shift+/", "in": "writing", "run": "letters:insert-date"},
            {"keys": "Ctrl+Shift+1", "in": "writing", "run": "letters:insert-rule"},
            {"keys": "Ctrl+J, Shift+;", "in": "writing", "run": "letters:insert-tab"},
        ],
    }
    letter.ask("draft.show", state={"app": "letters", "layouts": [layout]})
    desk.press("ctrl+shift+slash")
    wait_for("the date", lambda: "20" in text(letter))
    desk.press("ctrl+z", "ctrl+j", "shift+semicolon")
    typed(desk, letter, "\t")
    desk.press("ctrl+z", "ctrl+shift+1")
    typed(desk, letter, "\n")


def test_a_keyboard_that_is_changed_meanwhile_is_noticed(desk: Desk, letter: Line) -> None:
    """Key code 52 is Z on a British keyboard, 29 on a German one."""
    subprocess.run(["setxkbmap", "gb"], env=desk.environment, check=True)
    desk.type("One")
    typed(desk, letter, "One")
    desk.press("ctrl+52")
    typed(desk, letter, "")
    subprocess.run(["setxkbmap", "de"], env=desk.environment, check=True)
    desk.type("Two")
    typed(desk, letter, "Two")
    desk.press("ctrl+29")
    typed(desk, letter, "")
    subprocess.run(["setxkbmap", "gb"], env=desk.environment, check=True)


@pytest.mark.parametrize(
    ("layout", "physical", "named"), [("gb", "52", "Z"), ("de", "52", "Y"), ("de", "29", "Z")]
)
def test_letters_follow_the_national_keyboard(desk: Desk, layout: str, physical: str, named: str) -> None:
    """Key code 52 is the key left of X: Z on a British keyboard, Y on a German one."""
    subprocess.run(["setxkbmap", layout], env=desk.environment, check=True)
    process = desk.start("app", "letters")
    line = desk.line_to("letters", process)
    keys = [
        {"keys": "Ctrl+J, Z", "in": "writing", "run": "letters:insert-table", "args": {"rows": "3"}},
        {"keys": "Ctrl+J, Y", "in": "writing", "run": "letters:insert-date"},
    ]
    state = {"app": "letters", "layouts": [{"app": "letters", "layer": "organisation", "keys": keys}]}
    line.ask("draft.show", state=state)
    desk.activate(process)
    desk.press("ctrl+j", physical)
    if named == "Z":
        wait_for("the table", lambda: text(line).count("\n") >= 3)
    else:
        wait_for("the date", lambda: "20" in text(line))


def test_altgr_types_its_character_and_forms_no_chord(desk: Desk) -> None:
    subprocess.run(["setxkbmap", "de"], env=desk.environment, check=True)
    process = desk.start("app", "letters")
    line = desk.line_to("letters", process)
    keys = [{"keys": "Ctrl+Alt+Q", "in": "writing", "run": "letters:insert-table", "args": {"rows": "3"}}]
    state = {"app": "letters", "layouts": [{"app": "letters", "layer": "organisation", "keys": keys}]}
    line.ask("draft.show", state=state)
    desk.activate(process)
    desk.press("ISO_Level3_Shift+q")
    typed(desk, line, "@")


def test_an_accent_begins_to_write_in_a_cell(desk: Desk) -> None:
    subprocess.run(["setxkbmap", "de"], env=desk.environment, check=True)
    process = desk.start("app", "grid")
    line = desk.line_to("grid", process)
    desk.activate(process)
    desk.press("dead_acute", "e", "Return", "Up")
    wait_for("the letter", lambda: line.ask("read", name="here.written") == "é")


def test_bars_and_panels_in_windows_of_their_own_leave_the_keys_to_the_letter(
    desk: Desk, letter: Line
) -> None:
    button = {"id": "date", "run": "letters:insert-date"}
    panel = {
        "id": "lanes",
        "title": "Lanes",
        "edge": "window",
        "at": [40, 60],
        "items": [{"id": "vessel", "field": "Vessel"}],
    }
    bar = {"id": "own", "title": "Own", "edge": "window", "at": [420, 60], "items": [button]}
    layout = {"app": "letters", "layer": "organisation", "panels": [panel], "toolbars": [bar]}
    letter.ask("draft.show", state={"app": "letters", "layouts": [layout]})

    def apart() -> tuple[int, int]:
        (x, y, *_), (bar_x, bar_y, *_) = (
            desk.find(letter, f"window organisation:{name}") for name in ("lanes", "own")
        )
        return bar_x - x, bar_y - y

    # The window manager has the last word on where a new window stands, and it may come late.
    wait_for("both windows where they belong", lambda: apart() == (380, 0))
    x, y, *_ = desk.find(letter, "window organisation:lanes")
    desk.type("Dear ")
    desk.click_on(letter, "organisation:date")
    wait_for("the date", lambda: "20" in text(letter))
    with_date = text(letter)
    desk.type("A")
    typed(desk, letter, with_date + "A")
    desk.click_on(letter, "organisation:vessel")
    wait_for("the field", lambda: desk.find(letter, "focus")[0] < x + 300)
    desk.type("Selma")
    desk.press("Return", "Escape")
    desk.type("B")
    typed(desk, letter, with_date + "AB")
    assert letter.ask("read", name="panel.lanes.vessel") == "Selma"
    desk.drag((x + 60, y + 10), (x + 160, y + 250))
    wait_for(
        "the panel where it was let go",
        lambda: list(desk.find(letter, "window organisation:lanes"))[:2] == [x + 100, y + 240],
    )


@pytest.fixture(scope="module")
def made(tmp_path_factory: pytest.TempPathFactory) -> Path:
    folder = tmp_path_factory.mktemp("made")
    make_demo(folder)
    return folder


def placed(studio: Line) -> int:
    return sum(item["run"] == "macro:sailing-notice" for item in studio.ask("read", name="items"))


def test_what_was_placed_survives_a_kill_at_once(desk: Desk, made: Path, tmp_path: Path) -> None:
    shutil.copytree(made, tmp_path / "demo")
    workspace = tmp_path / "demo" / "vessry"
    process = desk.start("studio", str(workspace))
    studio = desk.line_to("studio", process)
    desk.activate(process)
    desk.click_on(studio, f"slot {BAR} after department.freight:numbered")
    for count in range(1, 4):
        desk.type("sai")
        wait_for("candidates", lambda: studio.ask("read", name="candidates")[:1] == ["Sailing notice"])
        desk.press("Return")
        wait_for("the item", lambda count=count: placed(studio) == count)
    os.kill(process.pid, signal.SIGKILL)
    process.wait()
    layout = read_workspace(workspace).layout("department.freight", "letters")
    assert (
        sum(isinstance(item, Button) and item.run == "macro:sailing-notice" for item in layout.all_items())
        == 3
    )
    again = desk.start("studio", str(workspace))
    line = desk.line_to("studio", again)
    wait_for("the workspace", lambda: line.ask("read", name="items"))
    wait_for("what was kept", lambda: "Everything is kept: 3 changes" in line.ask("read", name="said"))


def test_a_drag_with_the_real_mouse_moves_an_item(desk: Desk, made: Path, tmp_path: Path) -> None:
    shutil.copytree(made, tmp_path / "demo")
    process = desk.start("studio", str(tmp_path / "demo" / "vessry"))
    studio = desk.line_to("studio", process)
    desk.activate(process)
    x, y, width, height = desk.find(studio, "department.freight:hazard-note")
    end = desk.find(studio, f"slot {BAR} after department.freight:numbered")
    desk.drag((x + width // 2, y + height // 2), (end[0] + 1, end[1] + end[3] // 2))

    def order() -> list[str]:
        return [item["id"] for item in studio.ask("read", name="items") if item["surface"] == BAR]

    wait_for("the item at the end", lambda: order()[-1] == "department.freight:hazard-note")


# The command line, as processes


def rimecrest(*arguments: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "-m", "rimecrest", *arguments], capture_output=True, text=True, check=False
    )


def test_check_prints_a_line_a_finding_and_its_status_says_whether_one_blocks(made: Path) -> None:
    done = rimecrest("check", str(made / "vessry"))
    assert done.returncode == 1
    assert len(done.stdout.splitlines()) == 15
    assert done.stdout.startswith("error    unreachable Everyone, grid: Ctrl+J, [ for Week's weights cannot")
    assert "error    gone        Quay offices, letters: “Timetable” runs" in done.stdout
    data = json.loads(rimecrest("check", str(made / "vessry"), "--json").stdout)
    gone = next(finding for finding in data["findings"] if finding["kind"] == "gone")
    assert gone["fixes"] == ["Remove it"]


@pytest.mark.parametrize(
    ("seat", "keys", "status", "says"),
    [
        ("Freight 5", "ctrl+j, o", 0, "Ctrl+J, O runs Hazard note (Freight desk)."),
        ("Berth 1", "Ctrl+J, O", 0, "runs Berth line (Berth desk)."),
        ("Care 1", "F8", 1, "Nothing has F8 here."),
        ("Nobody", "F8", 2, "There is no seat “Nobody”."),
        ("Care 1", "Ctrl+Nix", 2, "is no key"),
    ],
)
def test_why_tells_the_chain(made: Path, seat: str, keys: str, status: int, says: str) -> None:
    done = rimecrest("why", str(made / "vessry"), "--seat", seat, "--keys", keys)
    assert done.returncode == status
    assert says in done.stdout + done.stderr
    assert "Traceback" not in done.stderr


def test_release_is_shut_while_something_blocks(made: Path) -> None:
    done = rimecrest("release", str(made / "vessry"))
    assert done.returncode == 2
    assert "3 findings block the release: Ctrl+J, [" in done.stderr


def test_release_and_a_seat_by_the_command_line(made: Path, tmp_path: Path) -> None:
    shutil.copytree(made, tmp_path / "demo")
    workspace, channel = tmp_path / "demo" / "vessry", str(tmp_path / "demo" / "channel")
    (workspace / "macros/department.quay").mkdir(parents=True, exist_ok=True)
    (workspace / "macros/department.quay/weekly-timetable.steps").write_text(
        'macro "Weekly timetable"\nabout "Writes it."\nfor letters\nwrite "Timetable"\n'
    )
    for path, keys in (("organisation/grid", "Ctrl+J, ["), ("department.quay/letters", "Ctrl+Alt+C")):
        file = workspace / "layouts" / f"{path}.json"
        data = json.loads(file.read_text())
        data["keys"] = [key for key in data["keys"] if key["keys"] != keys]
        file.write_text(json.dumps(data))
    done = rimecrest("release", str(workspace), "--news", "A timetable at last.")
    assert done.stdout == f"Release 8 is in {channel}, for 40 seats.\n"
    profile = str(tmp_path / "profile")
    for arguments, says in (
        (("enrol", "--channel", channel, "--seat", "Quay 1", "--profile", profile), "Quay 1 of Vessry"),
        (("status", "--profile", profile), "Nothing is installed yet."),
        (("pull", "--profile", profile), "Release 8 is installed."),
        (("pull", "--profile", profile), "Release 8 is here already."),
        (("status", "--profile", profile), "Release 8, layers: organisation, department.quay."),
    ):
        assert says in rimecrest("seat", *arguments).stdout


def test_macros_are_checked_formatted_and_their_effects_told(made: Path, tmp_path: Path) -> None:
    catalogue = str(made / "vessry" / "catalogues" / "letters.json")
    path = tmp_path / "m.steps"
    path.write_text('macro   "M"\nfor letters\ndo  delete-table\n')
    assert rimecrest("macro", "check", str(path), "--catalogue", catalogue).stdout == "“M” can run.\n"
    assert rimecrest("macro", "check", str(path)).stdout == "“M” can run.\n"
    assert rimecrest("macro", "effects", str(path), "--catalogue", catalogue).stdout == "edits, deletes\n"
    rimecrest("macro", "format", str(path))
    assert path.read_text() == 'macro "M"\nfor letters\ndo delete-table\n'
    path.write_text('macro "M"\nfor letters\ndo bald\nwrte "x"\n')
    done = rimecrest("macro", "check", str(path), "--catalogue", catalogue)
    assert done.returncode == 1
    assert done.stdout.count("\n") == 2
    assert rimecrest("macro", "format", str(path)).returncode == 2
    assert "bald" in path.read_text()


def test_what_cannot_be_opened_is_one_sentence(tmp_path: Path) -> None:
    for arguments in (
        ("check", str(tmp_path)),
        ("seat", "pull", "--profile", str(tmp_path)),
        ("app", "sums"),
    ):
        done = rimecrest(*arguments)
        assert done.returncode == 2
        assert len(done.stderr.strip().splitlines()) == 1, done.stderr


SPOILT = {
    "people.csv": 'seat,name\nDesk 1,"' + "x" * 140_000,
    "use.csv": "application,target,uses,basis\nletters,letters:save,²,counted\n",
    "layouts/department.quay/letters.json": '{"format": "rimecrest.layout/²"}',
    "layouts/department.care/letters.json": '{"format": "rimecrest.layout/1", "keys": ' + "9" * 5000 + "}",
    "catalogues/grid.json": "[" * 100_000,
    "macros/department.care/deep.steps": "if yes\n" * 1200,
    "pictures/x.svg": "<svg><use/></svg>",
}


def test_a_workspace_with_files_of_every_wrong_kind_opens_and_each_is_named(
    desk: Desk, made: Path, tmp_path: Path
) -> None:
    folder = tmp_path / "vessry"
    shutil.copytree(made / "vessry", folder)
    for name, content in SPOILT.items():
        (folder / name).parent.mkdir(exist_ok=True)
        (folder / name).write_text(content)
    os.mkfifo(folder / "companions" / "pipe")
    (folder / "companions" / "link").symlink_to("/etc/passwd")
    studio = desk.line_to("studio", desk.start("studio", str(folder)))
    assert studio.ask("hello")["workspace"] == str(folder)
    assert studio.ask("read", name="items")
    done = rimecrest("check", str(folder))
    assert done.returncode == 1
    assert "Traceback" not in done.stderr
    for name in (*SPOILT, "companions/pipe", "companions/link"):
        what = "deep" if name.endswith("deep.steps") else name
        assert what in done.stdout, name


def test_macros_are_handed_over_and_taken_in_by_the_command_line(made: Path, tmp_path: Path) -> None:
    bundle, key = tmp_path / "note.crestpack", tmp_path / "maker.pem"
    words = ("--out", str(bundle), "--key", str(key), "--maker", "Ailis Sundby")
    done = rimecrest("macro", "export", str(made / "vessry"), "department.freight/hazard-note", *words)
    assert done.stdout.startswith(f"{bundle} is written, signed by Ailis Sundby. Your fingerprint: ")
    gone = rimecrest("macro", "export", str(made / "vessry"), "department.freight/none", *words)
    assert "There is no macro department.freight/none." in gone.stderr
    other = tmp_path / "other"
    shutil.copytree(made / "vessry", other)
    taken = rimecrest("macro", "import", str(other), str(bundle), "--layer", "department.care")
    assert "Hazard note: for letters, may: edits." in taken.stdout
    assert (
        (other / "macros/department.care/hazard-note-2.steps")
        .read_text()
        .startswith('signed "Ailis Sundby" ')
    )
    assert "makers" not in json.loads((other / "workspace.json").read_text())
    for outside in ("../../../o", "department.nowhere"):
        refused = rimecrest("macro", "import", str(other), str(bundle), "--layer", outside)
        assert f"There is no layer “{outside}”. There are: organisation, " in refused.stderr
    assert rimecrest("macro", "import", str(other), str(bundle), "--layer", "passenger care").returncode == 0
    assert (other / "macros/department.care/hazard-note-3.steps").is_file()
    again = rimecrest("macro", "import", str(other), str(bundle), "--existing", "perhaps")
    assert "“perhaps” is no answer." in again.stderr
    told = rimecrest("macro", "import", str(other), str(bundle), "--existing", "skip").stdout
    assert "Compare their fingerprint" in told
    digits = told.strip().rpartition(": ")[2]
    wrong = rimecrest("macro", "import", str(other), str(bundle), "--vouch", "0000 0000")
    assert "Its fingerprint is another one" in wrong.stderr
    assert "makers" not in json.loads((other / "workspace.json").read_text())
    assert rimecrest("macro", "import", str(other), str(bundle), "--vouch", digits).returncode == 0
    assert list(json.loads((other / "workspace.json").read_text())["makers"].values()) == ["Ailis Sundby"]
    assert rimecrest("macro", "makers", str(other)).stdout == f"Ailis Sundby: {digits}\n"
    unknown = rimecrest("macro", "makers", str(other), "--no-longer", "0000")
    assert "Nobody whom you vouch for has the fingerprint 0000." in unknown.stderr
    assert rimecrest("macro", "makers", str(other), "--no-longer", digits).returncode == 0
    assert rimecrest("macro", "makers", str(other)).stdout == ""


def test_a_key_is_given_moved_and_mended_by_the_keyboard_alone_on_a_real_screen(
    desk: Desk, made: Path, tmp_path: Path
) -> None:
    shutil.copytree(made, tmp_path / "demo")
    workspace = tmp_path / "demo" / "vessry"
    process = desk.start("studio", str(workspace))
    studio = desk.line_to("studio", process)
    desk.activate(process)

    def keys() -> dict[str, str]:
        found: dict[str, str] = studio.ask("read", name="keys")
        return found

    desk.press("ctrl+3")
    desk.find(studio, "key-AC07")
    # From A, where the bed begins, six caps to the right: J, which is free behind the opener.
    desk.press(*["Right"] * 6)
    desk.type("sailing not")
    desk.find(studio, "key-candidates")
    desk.press("Return")
    wait_for("the key", lambda: keys().get("Ctrl+J, J") == "macro:sailing-notice")
    # The bed has the focus again: the key is taken off and undone, and the findings are reached.
    desk.press("Delete")
    wait_for("no key", lambda: "Ctrl+J, J" not in keys())
    desk.press("ctrl+z")
    wait_for("the key again", lambda: keys().get("Ctrl+J, J") == "macro:sailing-notice")
    desk.press("F3")
    desk.type("ctrl+j, o")
    desk.find(studio, "found")
    desk.press("Return")
    desk.find(studio, "key-sheet")
    desk.press("F6", "Tab", "Tab")
    assert studio.ask("where", thing="focus")


def test_an_item_of_the_running_application_is_changed_in_the_studio_for_a_layer(
    desk: Desk, made: Path, tmp_path: Path
) -> None:
    shutil.copytree(made, tmp_path / "demo")
    letters_process = desk.start("app", "letters")
    letters = desk.line_to("letters", letters_process)
    door = StudioDoor("letters")
    assert door.layers() == []
    process = desk.start("studio", str(tmp_path / "demo" / "vessry"))
    studio = desk.line_to("studio", process)
    layers = wait_for("the layers", door.layers)
    assert ("department.freight", "Freight desk") in layers
    # It answers before its window is there, which takes the focus when it comes.
    desk.activate(process)
    wait_for("its findings", lambda: studio.ask("read", name="said"))
    desk.activate(letters_process)
    desk.click_on(letters, "app:bar-undo", button=3)
    desk.find(letters, "item-menu")
    desk.press("Up", "Right", "Down", "Return")

    def aim() -> dict[str, str]:
        found: dict[str, str] = studio.ask("read", name="aim")
        return found

    wait_for("the aim", lambda: (aim()["layer"], aim()["app"]) == (layers[1][0], "letters"))
    assert desk.find(studio, "app:bar-undo")
    door.take_over("edit", "macro", "macro:sailing-notice")
    desk.find(studio, "steps")
    with pytest.raises(RimecrestError, match="does not take that up"):
        door.take_over("edit", "macro", "macro:no-such")


def test_with_larger_text_the_application_has_room_for_what_the_aim_says(desk: Desk) -> None:
    server = Display(desk.environment["DISPLAY"])
    server.screen().root.change_property(Xatom.RESOURCE_MANAGER, Xatom.STRING, 8, b"Xft.dpi:\t120\n")
    server.sync()
    process = desk.start("app", "letters")
    letters = desk.line_to("letters", process)
    desk.activate(process)
    subprocess.run(
        ["xdotool", "getactivewindow", "windowsize", "--sync", "1280", "700"],
        env=desk.environment,
        check=True,
    )
    room = EditTarget("", "letters", "", 1280, 125).room
    wait_for("the page at that width", lambda: letters.ask("where", thing="Write")[2] == room)
    server.close()


def test_an_item_is_dragged_from_one_workspace_to_another(desk: Desk, made: Path, tmp_path: Path) -> None:
    lines = []
    for number in range(2):
        shutil.copytree(made, tmp_path / f"demo {number}")
        process = desk.start("studio", str(tmp_path / f"demo {number}" / "vessry"))
        lines.append(desk.line_to("studio", process))
        desk.activate(process)
        size = ["getactivewindow", "windowsize", "--sync", "1000", "500"]
        move = ["getactivewindow", "windowmove", "20", str(20 + 540 * number)]
        for arguments in (size, move):
            subprocess.run(["xdotool", *arguments], env=desk.environment, check=True)

    def count(line: Line) -> int:
        found = line.ask("read", name="items")
        return sum(item["surface"] == BAR and item["run"] == "macro:hazard-note" for item in found)

    before = [count(line) for line in lines]
    x, y, width, height = desk.find(lines[0], "department.freight:hazard-note")
    end = desk.find(lines[1], f"slot {BAR} after department.freight:numbered")
    desk.drag((x + width // 2, y + height // 2), (end[0] + 1, end[1] + end[3] // 2))
    wait_for("the item in the other workspace", lambda: count(lines[1]) == before[1] + 1)
    assert count(lines[0]) == before[0]
