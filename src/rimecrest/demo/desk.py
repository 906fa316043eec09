"""A desk to work at: a virtual screen with a window manager, and hands that really press keys and buttons."""

from __future__ import annotations

import os
import shutil
import subprocess
import time
from collections.abc import Callable, Sequence
from pathlib import Path
from types import TracebackType
from typing import Any, TypeVar

from PIL import ImageGrab

from rimecrest.core.errors import RimecrestError
from rimecrest.link.addresses import listening
from rimecrest.link.launch import own_command
from rimecrest.link.line import Line, LinkRefused

PATIENCE = 30.0
"""Seconds to wait for something that has to come; it is there long before."""
Found = TypeVar("Found")


def wait_for(what: str, look: Callable[[], Found | None], patience: float = PATIENCE) -> Found:
    """Look again and again until there is something.

    Raises:
        RimecrestError: it did not come, with what was waited for.
    """
    end = time.monotonic() + patience
    while time.monotonic() < end:
        found = look()
        if found:
            return found
        time.sleep(0.02)
    raise RimecrestError(f"Waited {patience:.0f} seconds for {what}, and it did not come.")


class Desk:
    """A screen of its own. Use as a context; everything started at it ends with it."""

    def __init__(self, width: int = 1290, height: int = 836, runtime: Path | None = None) -> None:
        self._size = (width, height)
        self._processes: list[subprocess.Popen[bytes]] = []
        self.display = ""
        self.runtime = runtime

    def __enter__(self) -> Desk:
        for program in ("Xvfb", "openbox", "xdotool"):
            if shutil.which(program) is None:
                raise RimecrestError(f"{program} is not installed.", "Run tools/setup.sh, or install it.")
        self._start_screen()
        self.environment = {
            **os.environ,
            "DISPLAY": self.display,
            "QT_QPA_PLATFORM": "xcb",
            "LIBGL_ALWAYS_SOFTWARE": "1",
            "XDG_SESSION_TYPE": "x11",
        }
        self.environment.pop("WAYLAND_DISPLAY", None)
        if self.runtime is not None:
            self.runtime.mkdir(mode=0o700, parents=True, exist_ok=True)
            self.environment["XDG_RUNTIME_DIR"] = str(self.runtime)
            os.environ["XDG_RUNTIME_DIR"] = str(self.runtime)
        self._processes.append(
            subprocess.Popen(
                ["openbox"], env=self.environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
            )
        )
        wait_for("the window manager", self._managed)
        return self

    def _start_screen(self) -> None:
        # The server chooses a free display number itself and writes it to a pipe.
        reading, writing = os.pipe()
        size = f"{self._size[0]}x{self._size[1]}x24"
        command = [
            "Xvfb",
            "-displayfd",
            str(writing),
            "-screen",
            "0",
            size,
            "-nolisten",
            "tcp",
            "-dpi",
            "96",
            "-noreset",
        ]
        self._processes.append(
            subprocess.Popen(
                command, pass_fds=[writing], stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
            )
        )
        os.close(writing)
        with os.fdopen(reading) as pipe:
            number = pipe.readline().strip()
        if not number:
            raise RimecrestError(
                "The virtual screen did not start.", "Try Xvfb by hand and see what it says."
            )
        self.display = f":{number}"

    def _managed(self) -> bool:
        done = subprocess.run(
            ["xdotool", "get_num_desktops"], env=self.environment, capture_output=True, check=False
        )
        return done.returncode == 0 and done.stdout.strip().isdigit()

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        # One after the other, the last started first: the screen goes when nobody draws on it any more.
        for process in reversed(self._processes):
            process.terminate()
            try:
                process.wait(5)
            except subprocess.TimeoutExpired:
                process.kill()
                process.wait()

    # Programs

    def start(self, *arguments: str) -> subprocess.Popen[bytes]:
        """Start `rimecrest …` at this desk."""
        process = subprocess.Popen(own_command(*arguments), env=self.environment)
        self._processes.append(process)
        return process

    def line_to(self, app: str, process: subprocess.Popen[bytes] | None = None) -> Line:
        """A connection to a running application: to that process, or to the newest one of that name."""

        def look() -> Line | None:
            paths = listening(app)
            if process is not None:
                paths = [path for path in paths if path.stem.endswith(f"-{process.pid}")]
                if process.poll() is not None:
                    raise RimecrestError(f"{app} ended at once with status {process.returncode}.")
            for path in sorted(paths, key=lambda path: path.stat().st_mtime, reverse=True):
                try:
                    line = Line(path, timeout=PATIENCE)
                    line.ask("hello")
                    return line
                except LinkRefused:
                    continue
            return None

        return wait_for(f"{app} to listen", look)

    # Hands

    def _do(self, *arguments: str) -> str:
        done = subprocess.run(
            ["xdotool", *arguments], env=self.environment, capture_output=True, text=True, check=False
        )
        if done.returncode:
            raise RimecrestError(f"xdotool {' '.join(arguments)}: {done.stderr.strip()}")
        return done.stdout.strip()

    def press(self, *chords: str) -> None:
        """Press chords one after the other, as `ctrl+j`."""
        for chord in chords:
            self._do("key", "--clearmodifiers", chord)

    def type(self, text: str) -> None:
        self._do("type", "--delay", "12", text)

    def click(self, x: int, y: int, button: int = 1) -> None:
        self._do("mousemove", str(x), str(y), "click", str(button))

    def drag(self, start: tuple[int, int], end: tuple[int, int]) -> None:
        """Press the left button at one place, move in steps, let go at another."""
        self._do("mousemove", *map(str, start), "mousedown", "1")
        for step in range(1, 9):
            x = start[0] + (end[0] - start[0]) * step // 8
            y = start[1] + (end[1] - start[1]) * step // 8
            self._do("mousemove", str(x), str(y))
            time.sleep(0.02)
        self._do("mouseup", "1")

    def click_on(self, line: Line, thing: str, button: int = 1) -> None:
        """Click in the middle of something that the program can name."""
        x, y, width, height = self.find(line, thing)
        self.click(x + width // 2, y + height // 2, button)

    def find(self, line: Line, thing: str) -> Sequence[int]:
        """Where something is on the screen: x, y, width, height in pixels. Waits until it is there."""
        found: Any = wait_for(f"“{thing}” on the screen", lambda: line.ask("where", thing=thing))
        return [int(number) for number in found]

    def line_to_pid(self, app: str, pid: int) -> Line | None:
        """A connection to the application with that process number, when it listens already."""
        path = next((path for path in listening(app) if path.stem == f"{app}-{pid}"), None)
        if path is None:
            return None
        try:
            return Line(path, timeout=PATIENCE)
        except LinkRefused:
            return None

    def activate(self, process: subprocess.Popen[bytes]) -> None:
        """Bring a program's window to the front, and wait until it has the focus."""
        self.activate_pid(process.pid)

    def activate_pid(self, pid: int) -> None:
        def windows() -> list[str]:
            done = subprocess.run(
                ["xdotool", "search", "--onlyvisible", "--pid", str(pid)],
                env=self.environment,
                capture_output=True,
                text=True,
                check=False,
            )
            return done.stdout.split()

        window = wait_for("a window", windows)[-1]
        self._do("windowactivate", "--sync", window)

    def picture(self, path: Path) -> Path:
        """A picture of the whole screen."""
        path.parent.mkdir(parents=True, exist_ok=True)
        # A program answers before it has drawn; a picture of half a window would be of no use to anybody.
        time.sleep(0.15)
        ImageGrab.grab(xdisplay=self.display).save(path)
        return path
