"""Commands that start a program: the studio, an application, the demo."""

from __future__ import annotations

import os
import sys
from pathlib import Path
from typing import Annotated

import typer

from rimecrest.cli.windows import open_application, open_studio
from rimecrest.core.words import tr


def studio(workspace: Annotated[Path | None, typer.Argument(help="The workspace's folder.")] = None) -> None:
    """Open the studio."""
    sys.exit(open_studio(workspace))


def start_app(
    context: typer.Context, name: Annotated[str, typer.Argument(help="letters, grid, post …")]
) -> None:
    """Start an application: rimecrest app letters [--profile DIR] [FILE]."""
    sys.exit(open_application(name, context.args))


def demo(
    offscreen: Annotated[bool, typer.Option(help="Tell the story on a virtual screen.")] = False,
    out: Annotated[Path, typer.Option(help="Where the story leaves its pictures.")] = Path("demo-out"),
    make: Annotated[Path | None, typer.Option(help="Only write the demo there.")] = None,
    screenshots: Annotated[Path | None, typer.Option(help="Only make the pictures of the manual.")] = None,
) -> None:
    """Open the studio on the demo, or tell its story where there is no display."""
    from rimecrest.link.applications import require_demo

    require_demo()
    from rimecrest.demo.office import make_demo

    if make is not None:
        print(tr("The demo is in {make_demo}.", make_demo=make_demo(make)))
        return
    if screenshots is not None:
        from rimecrest.demo.screenshots import take_screenshots

        take_screenshots(screenshots)
        return
    if offscreen or not (os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY")):
        from rimecrest.demo.story import tell_story

        tell_story(out)
        return
    from rimecrest.demo.place import demo_workspace
    from rimecrest.studio.program import run_studio

    sys.exit(run_studio(demo_workspace()))
