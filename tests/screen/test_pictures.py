"""A picture copied in another program onto a button, and a button's picture into another program."""

from __future__ import annotations

import io
import subprocess
from pathlib import Path

import pytest
from PIL import Image, ImageDraw

from rimecrest.core.workspace.folder import read_workspace
from rimecrest.core.workspace.own_pictures import content_of
from rimecrest.demo.desk import Desk, wait_for
from rimecrest.demo.office import make_demo

pytestmark = [pytest.mark.long, pytest.mark.screen, pytest.mark.xdist_group("screen")]
ITEM = "department.freight:table"


def copied_elsewhere(desk: Desk, path: Path, kind: str) -> subprocess.Popen[bytes]:
    """Another program that holds the clipboard with a picture, until something else is copied."""
    command = ["xclip", "-quiet", "-selection", "clipboard", "-t", kind, "-i", str(path)]
    return subprocess.Popen(
        command, env=desk.environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
    )


def pasted_elsewhere(desk: Desk, kind: str) -> bytes:
    """What another program gets of the clipboard."""
    command = ["xclip", "-selection", "clipboard", "-t", kind, "-o"]
    return subprocess.run(command, env=desk.environment, capture_output=True, check=False).stdout


def test_a_picture_goes_over_the_clipboard_both_ways(desk: Desk, tmp_path: Path) -> None:
    workspace = make_demo(tmp_path / "demo")
    image = Image.new("RGBA", (120, 120))
    ImageDraw.Draw(image).ellipse((10, 10, 109, 109), fill="#A8480A")
    ImageDraw.Draw(image).rectangle((40, 40, 79, 79), fill="#14657A")
    image.save(tmp_path / "copied.png")
    process = desk.start("studio", str(workspace))
    studio = desk.line_to("studio", process)
    desk.activate(process)
    desk.find(studio, ITEM)
    other = copied_elsewhere(desk, tmp_path / "copied.png", "image/png")
    desk.click_on(studio, ITEM)
    desk.press("ctrl+v")

    def pasted() -> bytes | None:
        return content_of(read_workspace(workspace), "own:table")

    content = wait_for("the picture on the button", pasted)
    stored = Image.open(io.BytesIO(content)).convert("RGBA")
    assert stored.getpixel((stored.width // 2, stored.height // 2)) == (0x14, 0x65, 0x7A, 255)
    # And out again: the item is copied, with its picture for others.
    desk.press("ctrl+c")
    wait_for("the other program to lose the clipboard", lambda: other.poll() is not None)
    back = Image.open(io.BytesIO(pasted_elsewhere(desk, "image/png"))).convert("RGBA")
    assert back.size == (48, 48)
    assert back.getpixel((24, 24)) == (0x14, 0x65, 0x7A, 255)
    # An SVG of another program, and the SVG of a picture of the free sets.
    svg = tmp_path / "copied.svg"
    svg.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><circle cx="4" cy="4" r="3"/></svg>'
    )
    copied_elsewhere(desk, svg, "image/svg+xml")
    desk.press("ctrl+v")
    drawn = wait_for("the SVG", lambda: content_of(read_workspace(workspace), "own:table-2"))
    assert b"currentColor" in drawn
    desk.press("ctrl+z", "ctrl+z")
    wait_for("nothing of it", lambda: not read_workspace(workspace).pictures)
    desk.press("ctrl+c")
    wait_for("the SVG of the set", lambda: b"<path" in pasted_elsewhere(desk, "image/svg+xml"))
