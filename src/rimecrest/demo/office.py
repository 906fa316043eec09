"""Vessry Isles Ferries, made anew: its workspace, and its channel with two releases and their receipts.

What a specialist would have designed is data, the folder `vessry/` beside this module: settings, layouts,
macros, use counts. Added here is what comes from elsewhere: the catalogues, which the applications write, and
what is dealt out from a seed (people, the berth plan, receipts). Dates are fixed, so that pictures are the
same every time. Everything is invented. `vessry.md` names the troubles that the checks must find.
"""

from __future__ import annotations

import shutil
from pathlib import Path

from rimecrest.core.files import write_atomically
from rimecrest.core.workspace.folder import open_workspace
from rimecrest.core.workspace.parts import SETTINGS
from rimecrest.core.workspace.people import format_people
from rimecrest.core.workspace.people_edits import NoteRelease
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.demo.berth_plan import berth_plan
from rimecrest.demo.mail import bring_mail
from rimecrest.demo.people import people
from rimecrest.demo.releases import RELEASES, make_channel
from rimecrest.link.launch import describe_application

OFFICE = Path(__file__).parent / "vessry"


def make_workspace(folder: Path) -> Workspace:
    """Write the demo's workspace into a folder that must be empty or not there yet."""
    shutil.copytree(OFFICE, folder, dirs_exist_ok=True)
    write_atomically(folder / "people.csv", format_people(people()).encode())
    write_atomically(folder / "companions" / "berth-plan.ods", berth_plan())
    for app in ("letters", "grid", "post"):
        describe_application(app, folder / "catalogues")
    return open_workspace(folder)


OFFICE_ID = "5e55e1a7d0c4b392"
"""The demo office's id, the same every time."""


def _released(workspace: Workspace, folder: Path) -> Workspace:
    """The workspace, which names the newest release of its channel."""
    noted = NoteRelease(RELEASES[-1], OFFICE_ID, "../channel").on(workspace)
    write_atomically(folder / "workspace.json", SETTINGS.write(noted.settings))
    return noted


def make_demo(folder: Path) -> Path:
    """Make the whole demo in a folder: `vessry/`, `channel/`, and `mail/` for new mailboxes.

    Returns:
        The workspace's folder.
    """
    for name in ("vessry", "channel", "mail"):
        shutil.rmtree(folder / name, ignore_errors=True)
    bring_mail(folder / "mail")
    workspace = make_workspace(folder / "vessry")
    workspace = _released(workspace, folder / "vessry")
    make_channel(workspace, folder / "channel")
    return folder / "vessry"
