"""The demo's channel: two releases, and the receipts of the seats that have them."""

from __future__ import annotations

import random
from pathlib import Path

from rimecrest.core.release.audience import audience_of, seat_id
from rimecrest.core.release.made import Made
from rimecrest.core.release.package import build_package
from rimecrest.core.release.pictures import frozen_pictures
from rimecrest.core.release.receipt import Receipt
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.rollout.folder import FolderRepository

SEED = 48
RELEASES = (6, 7)


def make_channel(workspace: Workspace, folder: Path) -> None:
    """Publish releases 6 and 7 there, and the receipts of the seats that have them."""
    channel = FolderRepository(folder)
    pictures = frozen_pictures(workspace)
    chance = random.Random(SEED)
    for number, day in zip(RELEASES, (9, 16), strict=True):
        news = {"organisation": "“Settle text” is on the tab Notices."}
        made = Made(release=number, by="Ailis Sundby", at=f"2026-11-{day:02d}T08:00:00+00:00")
        package = build_package(workspace, number, news, pictures)
        channel.publish(number, package, audience_of(workspace, number), made)
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
