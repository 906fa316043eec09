"""An SVG of another program made plain in a process of its own, which is ended when it takes too long."""

from __future__ import annotations

import re
import resource
import subprocess
import sys

from rimecrest.core.errors import BrokenFile
from rimecrest.core.pictures.checked import checked_picture
from rimecrest.core.pictures.plain_svg import LARGEST, REFUSED
from rimecrest.core.words import tr

LONGEST = 5.0
"""Seconds: a drawing of a thousand shapes takes about one."""
MOST_MEMORY = 1 << 30
"""Bytes of address space."""


def converted(content: bytes, where: str, longest: float = LONGEST) -> bytes:
    """The SVG as plain paths, in the form that every door takes.

    Raises:
        BrokenFile: it is refused, takes too long, or needs too much memory; the reason says which.
    """
    if len(content) > LARGEST:
        raise BrokenFile(where, tr("it is larger than {most} MiB", most=LARGEST >> 20))
    command = [sys.executable, "-m", "rimecrest.core.pictures.plain_svg"]
    try:
        done = subprocess.run(
            command, input=content, capture_output=True, timeout=longest, preexec_fn=_bounded, check=False
        )
    except subprocess.TimeoutExpired:
        raise BrokenFile(where, tr("making plain paths of it takes too long")) from None
    if done.returncode == REFUSED:
        raise BrokenFile(where, done.stdout.decode("utf-8", "replace"))
    if done.returncode:
        raise BrokenFile(where, tr("making plain paths of it takes more than this computer gives it"))
    return checked_picture(done.stdout, where)


def _bounded() -> None:
    resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY, MOST_MEMORY))


def in_one_colour(svg: bytes) -> bytes:
    """The plain SVG in the scheme's colour where it has one alone; with several it stays as it is."""
    fills = set(re.findall(rb'fill="([^"]+)"', svg)) - {b"none"}
    if len(fills) != 1:
        return svg
    return re.sub(rb'fill="(?!none")[^"]+"', b'fill="currentColor"', svg)
