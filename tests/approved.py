"""Long answers are approved as a whole: read once by a person, then held against what the program says."""

from __future__ import annotations

import json
import os
from pathlib import Path
from typing import Any

FOLDER = Path(__file__).parent / "approved"
APPROVE = "APPROVE"
"""With this in the surroundings the answers of now are written, to be read and committed."""


def approve(name: str, answer: Any) -> None:
    """Fails where the answer is another than the approved one; `git diff` shows in what, after APPROVE=1."""
    path = FOLDER / f"{name}.json"
    text = json.dumps(answer, ensure_ascii=False, indent=1, sort_keys=True, default=str) + "\n"
    if os.environ.get(APPROVE):
        path.parent.mkdir(exist_ok=True)
        path.write_text(text, "utf-8")
    approved = json.loads(path.read_text("utf-8"))
    assert json.loads(text) == approved
