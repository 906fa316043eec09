"""The commands of the agent on a colleague's computer."""

from __future__ import annotations

from typing import Annotated

import typer

from rimecrest.cli.common import Channel, ProfileFolder, seat_profile
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr

seat_app = typer.Typer(no_args_is_help=True, help="The agent on a colleague's computer.")


@seat_app.command()
def enrol(
    channel: Channel,
    seat: Annotated[str, typer.Option(help="The seat's name, as in people.csv.")],
    profile: ProfileFolder = None,
) -> None:
    """Tie a profile to a channel."""
    from rimecrest.rollout.agent import enrol as enrol_seat

    enrolment = enrol_seat(seat_profile(profile), channel, seat)
    print(
        tr("{name} of {organisation} is enrolled.", name=enrolment.name, organisation=enrolment.organisation)
    )


@seat_app.command()
def pull(profile: ProfileFolder = None) -> None:
    """Fetch what is new, install it, tell running applications, report back."""
    from rimecrest.rollout.agent import pull_now

    print(pull_now(seat_profile(profile)).sentence)


@seat_app.command()
def status(profile: ProfileFolder = None) -> None:
    """Say what this seat has."""
    from rimecrest.rollout.agent import status as seat_status

    print("\n".join(seat_status(seat_profile(profile))))


@seat_app.command()
def desktop(
    name: Annotated[str, typer.Argument(help="Its profile; else the desktop that runs.")] = "",
) -> None:
    """Print which keys the desktop of this machine takes, as workspace.json has them under “reserved”."""
    from rimecrest.core.model import dump_json
    from rimecrest.rollout.desktop import desktop_here, reserved_here

    identity = name or desktop_here()
    if not identity:
        raise RimecrestError(tr("This session names no desktop that is known."), tr("Name one, as in: gnome"))
    found, really = reserved_here(identity)
    basis = tr("as they are set here") if really else tr("as they come with it: its settings cannot be read")
    typer.echo(f"{found.name}: {len(found.reserved)} keys, {basis}.", err=True)
    print(dump_json({identity: found.reserved}), end="")
