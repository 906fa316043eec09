"""Paths as people write, drop and paste them."""

from __future__ import annotations

from pathlib import Path
from urllib.parse import unquote


def clean_path(path: Path | str) -> Path:
    """A path as it was meant: without quotes round it, stray blanks or `file://`."""
    text = str(path).strip().strip("\"'").strip()
    # A Path has already folded the two slashes of file:// into one.
    if text.startswith("file:/"):
        text = "/" + unquote(text.removeprefix("file:").lstrip("/"))
    return Path(text).expanduser()
