"""Commands about macros as text, and about bundles of them."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from rimecrest.cli.common import WorkspaceFolder, read_text
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr

if TYPE_CHECKING:
    from rimecrest.core.bundle.bundle import Bundle

CatalogueFile = Annotated[
    Path | None, typer.Option(help="The catalogue of its application; else the installed application's.")
]
macro_app = typer.Typer(no_args_is_help=True, help="Macros as text.")


@macro_app.command("check")
def macro_check(
    file: Annotated[Path, typer.Argument(help="A .steps file.")],
    catalogue: CatalogueFile = None,
) -> None:
    """Print every fault with line and column; exit status 1 when there is one."""
    from rimecrest.cli.catalogues import catalogue_for
    from rimecrest.core.macro.check import check_macro
    from rimecrest.core.macro.parse import parse_macro

    macro, faults = parse_macro(read_text(file))
    faults += check_macro(macro, catalogue_for(macro.application, catalogue))
    for fault in faults:
        print(f"{file}: {fault}")
    if faults:
        raise typer.Exit(1)
    print(tr("“{name}” can run.", name=macro.name))


@macro_app.command("format")
def macro_format(file: Annotated[Path, typer.Argument(help="A .steps file.")]) -> None:
    """Write the file in its canonical form."""
    from rimecrest.core.files import write_atomically
    from rimecrest.core.macro.format import format_macro
    from rimecrest.core.macro.parse import parse_macro

    macro, faults = parse_macro(read_text(file))
    if faults:
        raise RimecrestError(f"{file}: {faults[0]}", tr("Mend it first; the file is as it was."))
    write_atomically(file, format_macro(macro).encode())


@macro_app.command("effects")
def macro_effects(
    file: Annotated[Path, typer.Argument(help="A .steps file.")],
    catalogue: CatalogueFile = None,
) -> None:
    """Print what the macro may do, without running it."""
    from rimecrest.cli.catalogues import catalogue_for
    from rimecrest.core.macro.check import effects
    from rimecrest.core.macro.parse import parse_macro
    from rimecrest.core.macro.steps import Run

    macro, _ = parse_macro(read_text(file))
    # The macros that it runs lie beside it, or on another shelf of the same workspace.
    near = [*file.parent.parent.glob("*/*.steps"), *file.parent.glob("*.steps")]
    others = {path.stem: parse_macro(read_text(path))[0] for path in near}
    found = effects(macro, catalogue_for(macro.application, catalogue), others)
    for step in macro.live_steps():
        if isinstance(step, Run) and step.macro not in others:
            typer.echo(tr("It runs “{macro}”, which is not beside it.", macro=step.macro), err=True)
    print(", ".join(found) or tr("nothing beyond moving the cursor"))


@macro_app.command("run")
def macro_run(file: Annotated[Path, typer.Argument(help="A .steps file.")]) -> None:
    """Run the macro in the application it is for, which has to run; exit status 1 when it fails.

    What the macro asks is asked there. One undo there takes all of it back.
    """
    from rimecrest.core.macro.check import check_macro
    from rimecrest.core.macro.parse import parse_macro
    from rimecrest.link.application import LinkedApplication

    text = read_text(file)
    macro, faults = parse_macro(text)
    with LinkedApplication.running(macro.application) as application:
        faults += check_macro(macro, application.catalogue)
        if faults:
            raise RimecrestError(f"{file}: {faults[0]}", tr("Mend it first; nothing was done."))
        well, sentence = application.run_text(text)
    print(sentence or tr("“{name}” is done.", name=macro.name))
    if not well:
        raise typer.Exit(1)


@macro_app.command("export")
def macro_export(
    workspace: WorkspaceFolder,
    macros: Annotated[list[str], typer.Argument(help="The macros, as LAYER/ID.")],
    out: Annotated[Path, typer.Option(help="The bundle to write.")],
    key: Annotated[Path, typer.Option(help="Your publishing key; made where there is none.")],
    maker: Annotated[str, typer.Option(help="Your name, as those who import it shall read it.")],
) -> None:
    """Write macros, those they run and their companions into a signed bundle."""
    from rimecrest.core.bundle.bundle import build_bundle
    from rimecrest.core.files import write_atomically
    from rimecrest.core.signing import MakerKey, fingerprint
    from rimecrest.core.workspace.folder import read_workspace

    opened = read_workspace(workspace)
    keys = []
    for name in macros:
        layer, _, identity = name.partition("/")
        if (layer, identity) not in opened.macros:
            raise RimecrestError(
                tr("There is no macro {name}.", name=name), tr("Write it as LAYER/ID, as in macros/.")
            )
        keys.append((layer, identity))
    signed = MakerKey.of_profile(key, maker)
    write_atomically(out, build_bundle(opened, keys, signed))
    print(
        tr(
            "{out} is written, signed by {maker}. Your fingerprint: {digits}",
            out=out,
            maker=maker,
            digits=fingerprint(signed.public),
        )
    )


@macro_app.command("import")
def macro_import(
    workspace: WorkspaceFolder,
    bundle: Annotated[Path, typer.Argument(help="A bundle that somebody exported.")],
    layer: Annotated[
        str, typer.Option(help="The layer on whose shelf they shall stand, by its id or title.")
    ] = "organisation",
    existing: Annotated[
        str, typer.Option(help="What becomes of names that are taken: keep both, replace or skip.")
    ] = tr("keep both"),
    vouch: Annotated[
        str, typer.Option(help="The maker's fingerprint, as they told it: what they made runs from now on.")
    ] = "",
) -> None:
    """Import a bundle, whole or not at all, and say what it lacks here."""
    from rimecrest.core.bundle.arriving import arrivals, take_in
    from rimecrest.core.bundle.bundle import read_bundle
    from rimecrest.core.bundle.existing import Existing
    from rimecrest.core.files import read_plain
    from rimecrest.core.signing import fingerprint
    from rimecrest.core.workspace.edits import Together, apply
    from rimecrest.core.workspace.file_edits import Vouch
    from rimecrest.core.workspace.keeper import Keeper

    if existing not in list(Existing):
        raise RimecrestError(
            tr("“{existing}” is no answer.", existing=existing),
            tr("Say one of: {Existing}.", Existing=", ".join(Existing)),
        )
    try:
        content = read_plain(bundle)
    except OSError as error:
        raise RimecrestError(
            tr("{bundle} cannot be read ({reason}).", bundle=bundle, reason=error.strerror),
            tr("Check the path."),
        ) from None
    keeper = Keeper(workspace)
    opened, found = keeper.open(), read_bundle(content, bundle.name)
    try:
        layer = opened.layer_named(layer)
        for arrival in arrivals(found, opened, layer):
            may = ", ".join(arrival.may) or "nothing"
            print(
                tr(
                    "{name}: for {application}, may: {may}.",
                    name=arrival.name,
                    application=arrival.application,
                    may=may,
                )
            )
            for missing in arrival.missing:
                near = tr(" The nearest is “{nearest}”.", nearest=missing.nearest) if missing.nearest else ""
                print(tr("  “{command}” does not exist here.{near}", command=missing.command, near=near))
        edit = take_in(found, opened, layer, dict.fromkeys(found.macros, Existing(existing)))
        if vouch:
            _compare(vouch, found)
            edit = Together(edit.label, (*edit.edits, Vouch(found.maker, found.key)))
        after, _ = apply(opened, edit)
        if after is not opened:
            keeper.save(edit.label, opened, after)
    finally:
        keeper.close()
    print(f"Done: {edit.label}.")
    if found.signed and found.key not in after.settings.makers:
        print(
            tr(
                "What {maker} made does not run yet. Compare their fingerprint, then use --vouch: {digits}",
                maker=found.maker,
                digits=fingerprint(found.key),
            )
        )


@macro_app.command("makers")
def macro_makers(
    workspace: WorkspaceFolder,
    no_longer: Annotated[
        str, typer.Option(help="The fingerprint of a maker: what they made runs no longer.")
    ] = "",
) -> None:
    """Print the makers outside whom the organisation vouches for, with their fingerprints."""
    from rimecrest.core.signing import fingerprint, same_fingerprint
    from rimecrest.core.workspace.edits import apply
    from rimecrest.core.workspace.file_edits import NoLongerVouch
    from rimecrest.core.workspace.folder import read_workspace
    from rimecrest.core.workspace.keeper import Keeper

    if not no_longer:
        for public, name in sorted(read_workspace(workspace).settings.makers.items()):
            print(f"{name}: {fingerprint(public)}")
        return
    keeper = Keeper(workspace)
    opened = keeper.open()
    try:
        makers = opened.settings.makers
        keys = [public for public in makers if same_fingerprint(no_longer, fingerprint(public))]
        if not keys:
            raise RimecrestError(
                tr("Nobody whom you vouch for has the fingerprint {digits}.", digits=no_longer),
                tr("rimecrest macro makers lists them."),
            )
        edit = NoLongerVouch(keys[0], makers[keys[0]])
        keeper.save(edit.label, opened, apply(opened, edit)[0])
    finally:
        keeper.close()
    print(tr("Done: what {name} made runs no longer, from the next release on.", name=edit.name))


def _compare(told: str, bundle: Bundle) -> None:
    """Raises RimecrestError unless a bundle is signed with the key of that fingerprint."""
    from rimecrest.core.signing import fingerprint, same_fingerprint

    if not bundle.signed:
        raise RimecrestError(
            tr("Nothing shows that this is from {maker}.", maker=bundle.maker or tr("anybody known")),
            tr("Import it without vouching, or ask for a signed one."),
        )
    if not same_fingerprint(told, fingerprint(bundle.key)):
        raise RimecrestError(
            tr("Its fingerprint is another one: {digits}.", digits=fingerprint(bundle.key)),
            tr("Ask {maker} for theirs; nothing was imported.", maker=bundle.maker),
        )
