"""Windows of the stand-in applications."""

from __future__ import annotations

from tests.programs import grid, letters, post  # noqa: F401  (fixtures)
