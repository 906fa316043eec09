"""The command line: `rimecrest …`. Each command imports what it needs, so that all start quickly."""

from __future__ import annotations

import json
import os
import sys
from pathlib import Path
from typing import Annotated, NoReturn

import structlog
import typer

from rimecrest.core.errors import RimecrestError

app = typer.Typer(
    no_args_is_help=True,
    add_completion=False,
    pretty_exceptions_enable=False,
    help="Design toolbars, tabs and hotkeys, and roll them out.",
)
seat_app = typer.Typer(no_args_is_help=True, help="The agent on a colleague's computer.")
macro_app = typer.Typer(no_args_is_help=True, help="Macros as text.")
app.add_typer(seat_app, name="seat")
app.add_typer(macro_app, name="macro")

WorkspaceFolder = Annotated[Path, typer.Argument(help="The workspace's folder.")]
ProfileFolder = Annotated[Path, typer.Option("--profile", help="The seat's profile folder.")]
Channel = Annotated[str, typer.Option("--channel", help="The channel: a folder.")]


def main() -> NoReturn:
    """Run the command line; what a user can mend is told in a sentence, with exit status 2."""
    structlog.configure(
        processors=[
            structlog.processors.add_log_level,
            structlog.processors.TimeStamper(fmt="%H:%M:%S"),
            structlog.dev.ConsoleRenderer(
                colors=sys.stderr.isatty(), exception_formatter=structlog.dev.plain_traceback
            ),
        ],
        logger_factory=structlog.PrintLoggerFactory(sys.stderr),
    )
    try:
        app()
    except RimecrestError as error:
        print(error, file=sys.stderr)
        sys.exit(2)
    sys.exit(0)


@app.command()
def studio(workspace: Annotated[Path | None, typer.Argument(help="The workspace's folder.")] = None) -> None:
    """Open the studio."""
    from rimecrest.studio.program import run_studio

    sys.exit(run_studio(workspace))


@app.command("app", context_settings={"allow_extra_args": True, "ignore_unknown_options": True})
def start_app(context: typer.Context, name: Annotated[str, typer.Argument(help="letters")]) -> None:
    """Start an application: rimecrest app letters [--profile DIR] [FILE]."""
    from importlib.metadata import entry_points

    known = {point.name: point for point in entry_points(group="rimecrest.applications")}
    if name not in known:
        raise RimecrestError(f"There is no application “{name}”.", f"There is: {', '.join(sorted(known))}.")
    sys.exit(known[name].load()(context.args))


@app.command()
def demo(
    offscreen: Annotated[bool, typer.Option(help="Tell the story on a virtual screen.")] = False,
    out: Annotated[Path, typer.Option(help="Where the story leaves its pictures.")] = Path("demo-out"),
    make: Annotated[Path | None, typer.Option(help="Only write the demo there.")] = None,
    screenshots: Annotated[Path | None, typer.Option(help="Only make the pictures of the manual.")] = None,
) -> None:
    """Open the studio on the demo, or tell its story where there is no display."""
    from rimecrest.demo.vessry import make_demo

    if make is not None:
        print(f"The demo is in {make_demo(make)}.")
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


@app.command()
def check(
    workspace: WorkspaceFolder,
    as_json: Annotated[bool, typer.Option("--json", help="Print JSON, with the fixes.")] = False,
) -> None:
    """Print every finding, one a line; exit status 1 when one blocks."""
    from rimecrest.core.check import Weight
    from rimecrest.core.check import check as run_check
    from rimecrest.core.mend.fixes import fixes
    from rimecrest.core.workspace import read_workspace

    opened = read_workspace(workspace)
    found = run_check(opened).findings
    if as_json:
        rows = [finding.to_data(fix.label for fix in fixes(finding, opened)) for finding in found]
        print(json.dumps({"findings": rows}, ensure_ascii=False, indent=2))
    else:
        for finding in found:
            where = f"{opened.layer_title(finding.layer)}, {finding.app}" if finding.layer else "workspace"
            print(f"{finding.weight.value:7} {finding.kind:11} {where}: {finding.sentence}")
        if not found:
            print("Nothing to say: no finding.")
    if any(finding.weight is Weight.BLOCKS for finding in found):
        raise typer.Exit(1)


@app.command()
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
    from dataclasses import replace

    from rimecrest.core.explain import seat_standpoint
    from rimecrest.core.explain import why as chain
    from rimecrest.core.workspace import read_workspace

    opened = read_workspace(workspace)
    found = opened.seat(seat)
    at = seat_standpoint(opened, found, application)
    if here:
        from rimecrest.core.keys.obstacles import Obstacles
        from rimecrest.seat.desktop import desktop_here, reserved_here

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


@app.command()
def card(
    workspace: WorkspaceFolder,
    out: Annotated[Path, typer.Option(help="The file to write: .pdf or .html.")],
    layer: Annotated[str, typer.Option(help="The layer, by its id or title.")] = "organisation",
    application: Annotated[str, typer.Option("--app", help="The application.")] = "letters",
    keyboard: Annotated[str, typer.Option(help="The keyboard to draw; else what most of them have.")] = "",
) -> None:
    """Write a page to hang up: the keys and buttons of a layer in an application."""
    from rimecrest.core.check import check as run_check
    from rimecrest.core.workspace import read_workspace
    from rimecrest.studio.card import card_of, write_html, write_pdf

    if out.suffix not in (".pdf", ".html"):
        raise RimecrestError(f"A card is a .pdf or an .html file, not “{out.name}”.", "Name it so.")
    opened = read_workspace(workspace)
    titles = {known.title.lower(): known.id for known in opened.settings.layers}
    chosen = titles.get(layer.lower(), layer)
    if chosen not in opened.layers:
        raise RimecrestError(f"There is no layer “{layer}”.", f"There are: {', '.join(opened.layers)}.")
    if keyboard:
        from rimecrest.core.keys.keyboards import keyboard as known_keyboard

        known_keyboard(keyboard)
    made = card_of(opened, run_check(opened), application, chosen, keyboard)
    if out.suffix == ".html":
        write_html(made, out)
        print(f"{out} is written.")
        return
    from rimecrest.embed.program import make_qt_application

    if not (os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY")):
        os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    make_qt_application("Rimecrest")
    pages = write_pdf(made, out)
    print(f"{out} is written, {pages} page{'s' if pages > 1 else ''}.")


@app.command()
def release(
    workspace: WorkspaceFolder,
    channel: Channel = "",
    news: Annotated[str, typer.Option(help="What is new, in a sentence, for everyone.")] = "",
) -> None:
    """Write the next numbered release into the channel. Shut while a finding blocks."""
    from rimecrest.channel.publish import publish_workspace
    from rimecrest.core.workspace import read_workspace

    opened = read_workspace(workspace)
    address = channel or opened.channel_address(workspace)
    number, seats = publish_workspace(opened, address, {"organisation": news} if news else {})
    print(f"Release {number} is in {address}, for {seats} seats.")


@seat_app.command()
def enrol(
    channel: Channel,
    seat: Annotated[str, typer.Option(help="The seat's name, as in people.csv.")],
    profile: ProfileFolder,
) -> None:
    """Tie a profile to a channel."""
    from rimecrest.core.release import Profile
    from rimecrest.seat import enrol as enrol_seat

    enrolment = enrol_seat(Profile(profile), channel, seat)
    print(f"{enrolment.name} of {enrolment.organisation} is enrolled.")


@seat_app.command()
def pull(profile: ProfileFolder) -> None:
    """Fetch what is new, install it, tell running applications, report back."""
    from rimecrest.core.release import Profile
    from rimecrest.seat import pull_now

    print(pull_now(Profile(profile)).sentence)


@seat_app.command()
def status(profile: ProfileFolder) -> None:
    """Say what this seat has."""
    from rimecrest.core.release import Profile
    from rimecrest.seat import status as seat_status

    print("\n".join(seat_status(Profile(profile))))


@seat_app.command()
def desktop(
    name: Annotated[str, typer.Argument(help="Its profile; else the desktop that runs.")] = "",
) -> None:
    """Print which keys the desktop of this machine takes, as workspace.json has them under “reserved”."""
    from rimecrest.core.model import dump_json
    from rimecrest.seat.desktop import desktop_here, reserved_here

    identity = name or desktop_here()
    if not identity:
        raise RimecrestError("This session names no desktop that is known.", "Name one, as in: gnome")
    found, really = reserved_here(identity)
    basis = "as they are set here" if really else "as they come with it: its settings cannot be read"
    typer.echo(f"{found.name}: {len(found.reserved)} keys, {basis}.", err=True)
    print(dump_json({identity: found.reserved}), end="")


@macro_app.command("check")
def macro_check(
    file: Annotated[Path, typer.Argument(help="A .steps file.")],
    catalogue: Annotated[Path, typer.Option(help="The catalogue of its application.")],
) -> None:
    """Print every fault with line and column; exit status 1 when there is one."""
    from rimecrest.core.catalogue import parse_catalogue
    from rimecrest.core.macro import check_macro, parse_macro

    macro, faults = parse_macro(_text(file))
    faults += check_macro(macro, parse_catalogue(_text(catalogue), str(catalogue)))
    for fault in faults:
        print(f"{file}: {fault}")
    if faults:
        raise typer.Exit(1)
    print(f"“{macro.name}” can run.")


@macro_app.command("format")
def macro_format(file: Annotated[Path, typer.Argument(help="A .steps file.")]) -> None:
    """Write the file in its canonical form."""
    from rimecrest.core.macro import format_macro, parse_macro
    from rimecrest.core.workspace.atomic import write_atomically

    macro, faults = parse_macro(_text(file))
    if faults:
        raise RimecrestError(f"{file}: {faults[0]}", "Mend it first; the file is as it was.")
    write_atomically(file, format_macro(macro).encode())


@macro_app.command("effects")
def macro_effects(
    file: Annotated[Path, typer.Argument(help="A .steps file.")],
    catalogue: Annotated[Path, typer.Option(help="The catalogue of its application.")],
) -> None:
    """Print what the macro may do, without running it."""
    from rimecrest.core.catalogue import parse_catalogue
    from rimecrest.core.macro import effects, parse_macro

    macro, _ = parse_macro(_text(file))
    found = effects(macro, parse_catalogue(_text(catalogue), str(catalogue)))
    print(", ".join(found) or "nothing beyond moving the cursor")


@macro_app.command("hand-over")
def macro_hand_over(
    workspace: WorkspaceFolder,
    macros: Annotated[list[str], typer.Argument(help="The macros, as LAYER/ID.")],
    out: Annotated[Path, typer.Option(help="The bundle to write.")],
    key: Annotated[Path, typer.Option(help="Your publishing key; made where there is none.")],
    maker: Annotated[str, typer.Option(help="Your name, as those who take it in shall read it.")],
) -> None:
    """Write macros, those they run and their companions into a signed bundle."""
    from rimecrest.core.handover import MakerKey, build_bundle
    from rimecrest.core.workspace import read_workspace
    from rimecrest.core.workspace.atomic import write_atomically

    opened = read_workspace(workspace)
    keys = []
    for name in macros:
        layer, _, identity = name.partition("/")
        if (layer, identity) not in opened.macros:
            raise RimecrestError(f"There is no macro {name}.", "Write it as LAYER/ID, as in macros/.")
        keys.append((layer, identity))
    write_atomically(out, build_bundle(opened, keys, MakerKey.of_profile(key, maker)))
    print(f"{out} is written, signed by {maker}.")


@macro_app.command("take-in")
def macro_take_in(
    workspace: WorkspaceFolder,
    bundle: Annotated[Path, typer.Argument(help="A bundle that somebody handed over.")],
    layer: Annotated[str, typer.Option(help="The layer on whose shelf they shall stand.")] = "organisation",
    existing: Annotated[
        str, typer.Option(help="What becomes of names that are taken: keep both, replace or skip.")
    ] = "keep both",
    vouch: Annotated[bool, typer.Option(help="Vouch for the maker: what they made runs.")] = False,
) -> None:
    """Take a bundle in, whole or not at all, and say what it lacks here."""
    from rimecrest.core.handover import Existing, arrivals, read_bundle, take_in
    from rimecrest.core.workspace import Keeper, Together, Vouch, apply

    if existing not in list(Existing):
        raise RimecrestError(f"“{existing}” is no answer.", f"Say one of: {', '.join(Existing)}.")
    try:
        content = bundle.read_bytes()
    except OSError as error:
        raise RimecrestError(f"{bundle} cannot be read ({error.strerror}).", "Check the path.") from None
    keeper = Keeper(workspace)
    opened, found = keeper.open(), read_bundle(content, bundle.name)
    try:
        for arrival in arrivals(found, opened, layer):
            may = ", ".join(arrival.may) or "nothing"
            print(f"{arrival.name}: for {arrival.application}, may: {may}.")
            for missing in arrival.missing:
                near = f" The nearest is “{missing.nearest}”." if missing.nearest else ""
                print(f"  “{missing.command}” does not exist here.{near}")
        edit = take_in(found, opened, layer, dict.fromkeys(found.macros, Existing(existing)))
        if vouch and found.signed:
            edit = Together(edit.label, (*edit.edits, Vouch(found.maker, found.key)))
        after, _ = apply(opened, edit)
        if after is not opened:
            keeper.save(edit.label, opened, after)
    finally:
        keeper.close()
    print(f"Done: {edit.label}.")


def _text(path: Path) -> str:
    try:
        return path.read_text("utf-8")
    except (OSError, UnicodeDecodeError) as error:
        raise RimecrestError(f"{path} cannot be read ({error}).", "Check the path.") from None
