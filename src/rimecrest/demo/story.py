"""The story of the demo, told through the real windows: the studio and two seats, each a process of its own.

Every click and key press is a real one on a virtual screen. The same story is the end-to-end test.
"""

from __future__ import annotations

import os
import subprocess
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

from rimecrest.demo.desk import Desk, wait_for
from rimecrest.demo.office import make_demo
from rimecrest.link.application import LinkedApplication
from rimecrest.link.launch import own_command
from rimecrest.link.line import Line

MACRO = "macro:sailing-notice"
BAR = "department.freight:freight"
LAST = "department.freight:numbered"
BEGUN = "Dear passengers of the north quay, "


class Story:
    """One telling. Each step says what it does, waits until it happened, and takes a picture.

    Args:
        out: where the pictures go.
        say: gets each line.
    """

    def __init__(self, out: Path, say: Callable[[str], None]) -> None:
        self.out = out
        self._say = say
        self._pictures = 0

    def tell(self, line: str) -> None:
        self._say(line)

    def picture(self, desk: Desk, name: str) -> None:
        self._pictures += 1
        desk.picture(self.out / f"{self._pictures:02d}-{name}.png")

    def run(self) -> None:
        """Tell it all. Raises RimecrestError where something that has to come does not come."""
        with tempfile.TemporaryDirectory(prefix="rimecrest-story-") as scratch:
            home = Path(scratch)
            workspace = make_demo(home)
            with Desk(runtime=home / "run") as desk:
                try:
                    self._at(desk, home, workspace)
                except Exception:
                    self.picture(desk, "trouble")
                    raise

    def _at(self, desk: Desk, home: Path, workspace: Path) -> None:
        channel = str(home / "channel")
        seats = {name: home / name.replace(" ", "-").lower() for name in ("Freight 3", "Freight 7")}
        for name, profile in seats.items():
            rimecrest("seat", "enrol", "--channel", channel, "--seat", name, "--profile", str(profile))
            rimecrest("seat", "pull", "--profile", str(profile))
        self.tell("Two seats of the Freight desk are enrolled and have release 7.")

        reader = desk.start("app", "letters", "--profile", str(seats["Freight 7"]))
        letter = desk.line_to("letters", reader)
        desk.activate(reader)
        desk.type(BEGUN)
        wait_for("the half-written letter", lambda: _text(letter).startswith(BEGUN.strip()))
        self.tell("Freight 7 has a letter open, half written.")

        process = desk.start("studio", str(workspace))
        studio = desk.line_to("studio", process)
        desk.activate(process)
        desk.find(studio, f"slot {BAR} after {LAST}")
        self.picture(desk, "workspace")
        self.tell("The workspace is open: the Freight desk's window, as Freight 1 sees it.")

        self._place_macro(desk, studio)
        self._give_key(desk, studio)
        self._try_it(desk, studio, process)
        desk.activate(process)
        self._release(desk, studio)
        self._pull(desk, seats, letter, reader)
        desk.activate(process)
        self._look_at_board(desk, studio)
        reader.terminate()
        reader.wait(10)
        self.tell("That is the whole line, from a chore to a colleague's hand.")

    def _place_macro(self, desk: Desk, studio: Line) -> None:
        desk.click_on(studio, f"slot {BAR} after {LAST}")
        desk.type("sai")
        wait_for(
            "“Sailing notice” as the first candidate",
            lambda: studio.ask("read", name="candidates")[:1] == ["Sailing notice"],
        )
        self.picture(desk, "typed")
        desk.press("Return")
        wait_for("the new item", lambda: self._item(studio))
        self.tell("Three letters typed at the caret of the Freight bar, Enter: “Sailing notice” is on it.")

        desk.press("space")
        desk.find(studio, "card")
        desk.click_on(studio, "card-label")
        desk.find(studio, "card-field")
        desk.press("ctrl+a")
        desk.type("Notice")
        desk.press("Return")
        wait_for("the new name", lambda: self._where_is(studio, "Notice"))
        desk.click_on(studio, "card-picture")
        desk.find(studio, "picture-search")
        desk.press("ctrl+a")
        desk.type("ferry")
        self.picture(desk, "pictures")
        desk.press("Return")
        # The chooser stays, for whoever wants to compare; Escape keeps the picture and gives the card back.
        wait_for("the ferry", lambda: "ferry" in str((self._item(studio) or {}).get("picture")))
        desk.press("Escape")
        wait_for("the chooser to go", lambda: self._where_is(studio, "picture-search") is None)
        desk.click_on(studio, "card-face")
        desk.find(studio, "choices")
        desk.press("Home", "Return")
        desk.click_on(studio, "card-width")
        desk.find(studio, "choices")
        desk.press("Down", "Return")
        wait_for("double width", lambda: (self._item(studio) or {}).get("width") == 2)
        self.picture(desk, "card")
        self.tell("Its card: called “Notice”, with a ferry as picture, in double width.")

    def _item(self, studio: Line) -> dict[str, Any] | None:
        items: list[dict[str, Any]] = studio.ask("read", name="items")
        return next((item for item in items if item["run"] == MACRO and item["surface"] == BAR), None)

    def _where_is(self, line: Line, name: str) -> Any:
        return line.ask("where", thing=name)

    def _give_key(self, desk: Desk, studio: Line) -> None:
        desk.click_on(studio, "card-key")
        desk.find(studio, "key-field")
        desk.press("ctrl+j", "n")
        said = wait_for("who has the key", lambda: studio.ask("read", name="taken"))
        self.picture(desk, "taken")
        self.tell(f"The key Ctrl+J, N pressed, and it is taken: {said.removesuffix(' Free are:')}")
        desk.click_on(studio, "free-key-1")
        self.keys = wait_for("the key", lambda: self._key(studio))
        self.tell(f"The first free one taken: {self.keys}.")
        desk.press("Escape")

    def _key(self, studio: Line) -> str:
        keys: dict[str, str] = studio.ask("read", name="keys")
        return next((sequence for sequence, run in keys.items() if run == MACRO), "")

    def _try_it(self, desk: Desk, studio: Line, process: subprocess.Popen[bytes]) -> None:
        desk.click_on(studio, "try-it")
        trial = _child_of(process)
        line = wait_for("Letters with the draft", lambda: _trying(desk, trial()))
        item = wait_for("the draft's button", lambda: self._item(studio))["id"]
        wait_for("the button in Letters", lambda: line.ask("where", thing=item))
        pid = trial()
        desk.activate_pid(pid)
        desk.type("Before. ")
        wait_for("the typing", lambda: "Before." in _text(line))
        desk.click_on(line, item)
        desk.find(line, "question")
        self.picture(desk, "question")
        desk.press("Down", "Return")
        wait_for("the notice", lambda: "Notice to passengers of Ovessa" in _text(line))
        self.picture(desk, "tried")
        self.tell("Try it: the button clicked, the question answered, the notice is in the letter.")
        wait_for("the end of the run", lambda: line.ask("where", thing="letter"))
        desk.press("ctrl+z")
        wait_for("the undo", lambda: _text(line).strip() == "Before.")
        self.tell("One undo took back exactly the macro; what was written before is there.")
        for chord in self._chords():
            desk.press(chord)
        desk.find(line, "question")
        desk.press("Escape")
        wait_for("the cancel", lambda: not line.ask("where", thing="question"))
        assert _text(line).strip() == "Before."
        self.tell("By its key as well; cancelled, and nothing was changed.")
        line.__exit__()

    def _chords(self) -> list[str]:
        return [chord.lower().replace("shift+", "shift+") for chord in self.keys.split(", ")]

    def _blocking(self, studio: Line) -> int:
        findings = studio.ask("read", name="findings")
        return len([finding for finding in findings if finding["weight"] == "blocks"])

    def _mend_bracket(self, desk: Desk, studio: Line) -> None:
        desk.press("F3")
        desk.type("Everyone's layer")
        desk.press("Return")
        desk.click_on(studio, "aim-app")
        desk.find(studio, "choices")
        desk.press("Down", "Return")
        wait_for("Grid", lambda: "Ctrl+J, [" in str(studio.ask("read", name="said")))
        desk.click_on(studio, "finding-subject")
        desk.find(studio, "key-AD11")
        self.picture(desk, "keys")
        self.tell("On the key bed: Ctrl+J, [ has no key on seven seats, and why.")
        desk.click_on(studio, "key-fix-1")
        wait_for("nothing that blocks", lambda: not self._blocking(studio))
        self.tell("Its first fix: those seven get a key that they have.")

    def _release(self, desk: Desk, studio: Line) -> None:
        desk.press("ctrl+4")
        desk.find(studio, "release")
        self.picture(desk, "shut")
        findings = studio.ask("read", name="findings")
        blocking = [finding for finding in findings if finding["weight"] == "blocks"]
        self.tell(f"Release 8 cannot go out: {blocking[0]['sentence']}")
        desk.press("ctrl+2")
        desk.press("F3")
        desk.type("Quay offices' layer")
        desk.press("Return")
        wait_for("the Quay offices", lambda: "Timetable" in str(studio.ask("read", name="said")))
        desk.click_on(studio, "finding-subject")
        desk.find(studio, "department.quay:weekly-timetable")
        self.picture(desk, "finding")
        desk.click_on(studio, "fix-1")
        desk.press("F6", "Right")
        wait_for("the next finding", lambda: "Ctrl+Alt+C" in str(studio.ask("read", name="said")))
        self.tell("Its fix clicked in the strip: the button without a macro is off.")
        desk.click_on(studio, "fix-1")
        wait_for("the variant", lambda: self._blocking(studio) == 1)
        self.tell("A key that types ¢ over a remote session: those seats get another one.")
        self._mend_bracket(desk, studio)
        desk.press("ctrl+4")
        desk.find(studio, "news-field")
        desk.click_on(studio, "news-field")
        desk.press("ctrl+a")
        desk.type("Freight desk: the sailing notice is one click now.")
        desk.click_on(studio, "release")
        desk.find(studio, "confirm-go")
        self.picture(desk, "confirm")
        desk.click_on(studio, "confirm-go")
        wait_for("release 8", lambda: "Release 8 is out" in str(studio.ask("read", name="said")))
        self.tell("Release 8 is out.")

    def _pull(
        self, desk: Desk, seats: dict[str, Path], letter: Line, reader: subprocess.Popen[bytes]
    ) -> None:
        for profile in seats.values():
            rimecrest("seat", "pull", "--profile", str(profile))
        wait_for("release 8 in the open letter", lambda: letter.ask("hello")["release"] == 8)
        desk.activate(reader)
        assert _text(letter) == BEGUN, "the half-written letter changed"
        desk.type("we are sorry. ")
        wait_for("the writing to go on", lambda: _text(letter) == BEGUN + "we are sorry. ")
        self.picture(desk, "taken-over")
        self.tell("Both seats pulled; the open letter kept its text and its cursor, and says what is new.")
        item = "department.freight:sailing-notice"
        desk.click_on(letter, item)
        desk.find(letter, "question")
        desk.press("Return")
        wait_for("the notice by button", lambda: "of Brinholt" in _text(letter))
        desk.find(letter, "letter")
        desk.press("ctrl+z")
        wait_for("the undo", lambda: _text(letter) == BEGUN + "we are sorry. ")
        for chord in self._chords():
            desk.press(chord)
        desk.find(letter, "question")
        desk.press("Return")
        wait_for("the notice by key", lambda: "of Brinholt" in _text(letter))
        self.picture(desk, "colleague")
        self.tell("There the button works, and the key.")

    def _look_at_board(self, desk: Desk, studio: Line) -> None:
        def both() -> bool:
            board = studio.ask("read", name="board")
            return bool(board["Freight 3"] == ["has it", 8] == board["Freight 7"])

        wait_for("both receipts on the board", both)
        desk.click_on(studio, "seat Freight 7")
        self.picture(desk, "seat-map")
        self.tell("The seat map shows both seats with release 8.")


def _text(line: Line) -> str:
    return str(LinkedApplication(line).read("letter.text"))


def _child_of(process: subprocess.Popen[bytes]) -> Callable[[], int]:
    """The process that another one started."""

    def child() -> int:
        path = Path(f"/proc/{process.pid}/task/{process.pid}/children")
        numbers = path.read_text().split() if path.exists() else []
        return int(numbers[-1]) if numbers else 0

    return child


def _trying(desk: Desk, pid: int) -> Line | None:
    return desk.line_to_pid("letters", pid) if pid else None


def rimecrest(*arguments: str) -> str:
    """Run `rimecrest …` to its end and return what it printed. Raises RimecrestError when it fails."""
    from rimecrest.core.errors import RimecrestError

    done = subprocess.run(
        own_command(*arguments),
        capture_output=True,
        text=True,
        check=False,
        env=dict(os.environ),
    )
    if done.returncode:
        raise RimecrestError(f"rimecrest {' '.join(arguments)}: {done.stderr.strip() or done.stdout.strip()}")
    return done.stdout


def tell_story(out: Path) -> None:
    """Tell the story on a virtual screen and leave its pictures in `out`."""
    story = Story(out, lambda line: print(f"· {line}", flush=True))
    story.run()
    print(f"The pictures are in {out}/.")
