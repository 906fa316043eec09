"""Windows of the stand-in applications, in which the kit is tried."""

from __future__ import annotations

from tests.programs import grid, letters, post  # noqa: F401  (fixtures)
