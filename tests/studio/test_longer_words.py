"""In a language that takes 40 % more room nothing of the studio is cut off."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import pytest

from tests.studio.longer_words import GROWTH, longer

ROOT = Path(__file__).parents[2]


def test_sentences_grow_and_keep_what_is_put_into_them() -> None:
    for sentence in ("Run it", "“{name}” is deleted. Undo brings it back.", "{number:,} seats"):
        grown = longer(sentence)
        assert len(grown) >= (len(sentence) - sentence.count("{") * 8) * GROWTH
        assert grown.count("{") == sentence.count("{")
    assert "{number:,}" in longer("{number:,} seats")


@pytest.mark.long
def test_nothing_is_cut_off_in_longer_words(demo_copy: Path) -> None:
    walked = subprocess.run(
        [sys.executable, "-m", "tests.studio.longer_words", str(demo_copy)],
        cwd=ROOT,
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
        capture_output=True,
        text=True,
        check=False,
    )
    assert walked.returncode == 0, walked.stderr
    assert walked.stdout == ""
