"""Each module stays small enough to be read at a sitting."""

from __future__ import annotations

from pathlib import Path

import rimecrest

MOST = 420
"""Lines of a module."""


def test_no_module_is_longer_than_can_be_read_at_a_sitting() -> None:
    root = Path(rimecrest.__file__).parent
    lengths = {
        path.relative_to(root): len(path.read_text("utf-8").splitlines()) for path in root.rglob("*.py")
    }
    assert len(lengths) > 300
    assert {path: lines for path, lines in lengths.items() if lines > MOST} == {}
