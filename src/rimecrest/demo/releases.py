"""The demo's channel: two releases, and the receipts of the seats that have them."""

from __future__ import annotations

import random
from pathlib import Path

from rimecrest.channel import FolderRepository
from rimecrest.core.release import Receipt, audience_of, build_package, frozen_pictures, seat_id
from rimecrest.core.workspace import Workspace

SEED = 48


def make_channel(workspace: Workspace, folder: Path) -> None:
    """Publish releases 6 and 7 there, and the receipts of the seats that have them."""
    channel = FolderRepository(folder)
    pictures = frozen_pictures(workspace)
    chance = random.Random(SEED)
    for number, day in ((6, 9), (7, 16)):
        news = {"organisation": "“Settle text” is on the tab Notices."}
        channel.publish(
            number, build_package(workspace, number, news, pictures), audience_of(workspace, number)
        )
        for index, seat in enumerate(workspace.people):
            identity = seat_id(workspace.settings.name, seat.seat)
            at = f"2026-11-{day:02d}T{8 + index % 8:02d}:{chance.randrange(60):02d}:00.000+00:00"
            if number == 7 and seat.seat in ("Quay 5", "Berth 6"):
                continue  # silent since the release before
            failed = number == 7 and seat.seat == "Care 9"
            channel.put_receipt(
                Receipt(
                    seat=identity,
                    release=number,
                    state="failed" if failed else "applied",
                    at=at,
                    reason="The disk of this computer is full." if failed else "",
                )
            )
