"""A virtual screen with a window manager; real processes, real keys and clicks."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest

from rimecrest.demo.desk import Desk


@pytest.fixture
def desk(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[Desk]:
    monkeypatch.delenv("QT_QPA_PLATFORM", raising=False)
    with Desk(runtime=tmp_path / "run") as made:
        yield made
