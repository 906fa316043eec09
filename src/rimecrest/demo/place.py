"""Where the demo lies on this computer."""

from __future__ import annotations

from pathlib import Path

from platformdirs import user_data_path

from rimecrest.demo.mail import bring_mail
from rimecrest.demo.office import make_demo


def demo_workspace() -> Path:
    """The demo's workspace; made when it is not there yet, so that one's own changes to it stay."""
    folder = user_data_path("rimecrest") / "demo"
    bring_mail(folder / "mail")
    if (folder / "vessry" / "workspace.json").is_file():
        return folder / "vessry"
    return make_demo(folder)
