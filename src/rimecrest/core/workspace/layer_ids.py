"""The ids of the layers that are always there."""

from __future__ import annotations

ORGANISATION = "organisation"
MINE = "mine"
"""The specialist's own shelf: it lies in their profile, never in the workspace."""
