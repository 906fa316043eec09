"""Commands about a whole workspace: check it, ask why, make a wall chart, release it."""

from __future__ import annotations

import getpass
import json
import os
from pathlib import Path
from typing import Annotated

import typer

from rimecrest.cli.common import Channel, WorkspaceFolder
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import counted, tr


def check(
    workspace: WorkspaceFolder,
    as_json: Annotated[bool, typer.Option("--json", help="Print JSON, with the fixes.")] = False,
) -> None:
    """Print every finding, one a line; exit status 1 when one blocks."""
    from rimecrest.core.check.kinds import Weight
    from rimecrest.core.check.run import check as run_check
    from rimecrest.core.mend.make_fixes import fixes
    from rimecrest.core.workspace.folder import read_workspace

    opened = read_workspace(workspace)
    found = run_check(opened).findings
    if as_json:
        rows = [finding.to_data(fix.label for fix in fixes(finding, opened)) for finding in found]
        print(json.dumps({"findings": rows}, ensure_ascii=False, indent=2))
    else:
        for finding in found:
            where = f"{opened.layer_title(finding.layer)}, {finding.app}" if finding.layer else "workspace"
            print(f"{finding.weight.word:8} {finding.kind:11} {where}: {finding.sentence}")
        if not found:
            print(tr("Nothing to say: no finding."))
    if any(finding.weight is Weight.BLOCKS for finding in found):
        raise typer.Exit(1)


def why(
    workspace: WorkspaceFolder,
    seat: Annotated[str, typer.Option(help="The seat, or the colleague's name.")],
    keys: Annotated[str, typer.Option(help="The keys, as in “Ctrl+J, O”.")],
    application: Annotated[str, typer.Option("--app", help="The application.")] = "letters",
    context: Annotated[
        str, typer.Option("--in", help="The context; else the narrowest that has the key.")
    ] = "",
    here: Annotated[
        bool, typer.Option("--here", help="With the keys that this machine's desktop takes.")
    ] = False,
) -> None:
    """Say what a key does for one seat, and who decided it; exit status 1 when it does nothing."""
    from msgspec.structs import replace

    from rimecrest.core.explain.standpoint import seat_standpoint
    from rimecrest.core.explain.why import why as chain
    from rimecrest.core.workspace.folder import read_workspace

    opened = read_workspace(workspace)
    found = opened.seat(seat)
    at = seat_standpoint(opened, found, application)
    if here:
        from rimecrest.core.keys.obstacles import Obstacles
        from rimecrest.rollout.desktop import desktop_here, reserved_here

        identity = desktop_here() or found.desktop
        here_too = {identity: reserved_here(identity)[0].reserved} if identity else {}
        reserved = {**opened.settings.reserved, **here_too}
        at = replace(at, traits=found.traits._replace(desktop=identity), obstacles=Obstacles(reserved))
    links = chain(at, keys, context)
    for link in links:
        print(f"{'yes' if link.ok else 'NO ':3}  {link.name:9} {link.sentence}")
        if not link.ok and link.way_out:
            print(f"     → {link.way_out}")
    if not links[-1].ok:
        raise typer.Exit(1)


def chart(
    workspace: WorkspaceFolder,
    out: Annotated[Path, typer.Option(help="The file to write: .pdf or .html.")],
    layer: Annotated[str, typer.Option(help="The layer, by its id or title.")] = "organisation",
    application: Annotated[str, typer.Option("--app", help="The application.")] = "letters",
    keyboard: Annotated[str, typer.Option(help="The keyboard to draw; else what most of them have.")] = "",
) -> None:
    """Write a wall chart: the keys and buttons of a layer in an application."""
    from rimecrest.core.check.run import check as run_check
    from rimecrest.core.workspace.folder import read_workspace
    from rimecrest.studio.wall_chart.content import chart_of
    from rimecrest.studio.wall_chart.html import write_html
    from rimecrest.studio.wall_chart.pdf import write_pdf

    if out.suffix not in (".pdf", ".html"):
        raise RimecrestError(
            tr("A wall chart is a .pdf or an .html file, not “{name}”.", name=out.name), tr("Name it so.")
        )
    opened = read_workspace(workspace)
    chosen = opened.layer_named(layer)
    if keyboard:
        from rimecrest.core.keys.keyboards.national import keyboard as known_keyboard

        known_keyboard(keyboard)
    made = chart_of(opened, run_check(opened), application, chosen, keyboard)
    if out.suffix == ".html":
        write_html(made, out)
        print(tr("{out} is written.", out=out))
        return
    from rimecrest.shell.start import make_qt_application

    if not (os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY")):
        os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    make_qt_application("Rimecrest")
    pages = write_pdf(made, out)
    print(tr("{out} is written, {pages}.", out=out, pages=counted(pages, "page")))


def release(
    workspace: WorkspaceFolder,
    channel: Channel = "",
    news: Annotated[str, typer.Option(help="What is new, in a sentence, for everyone.")] = "",
    over: Annotated[
        int, typer.Option(help="Release on top of this one, although this workspace was not made from it.")
    ] = 0,
) -> None:
    """Write the next numbered release into the channel. Not while there is an error."""
    from rimecrest.core.workspace.folder import read_workspace
    from rimecrest.rollout.folder import lasting_address
    from rimecrest.rollout.publish import publish_workspace

    opened = read_workspace(workspace)
    address = lasting_address(channel) if channel else opened.channel_address(workspace)
    told = {"organisation": news} if news else {}
    number, seats = publish_workspace(opened, address, told, over=over, by=getpass.getuser().capitalize())
    print(
        tr(
            "Release {number} is in {address}, for {seats} seats.",
            number=number,
            address=address,
            seats=seats,
        )
    )
    _remember(workspace, address, number)


def _remember(folder: Path, address: str, number: int) -> None:
    """Write into the workspace what was released; a studio that has it open is told of instead."""
    from rimecrest.core.workspace.keeper import Keeper
    from rimecrest.core.workspace.people_edits import NoteRelease
    from rimecrest.rollout.folder import open_repository

    keeper = Keeper(folder)
    before = keeper.open()
    edit = NoteRelease(number, open_repository(address).audience().office, address)
    try:
        keeper.save(edit.label, before, edit.on(before))
        if not before.settings.channel:
            print(tr("The workspace releases there from now on."))
    except RimecrestError as error:
        typer.echo(tr("The release was not noted in workspace.json: {error}", error=error), err=True)
    finally:
        keeper.close()
