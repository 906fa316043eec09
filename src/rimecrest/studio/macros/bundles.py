"""Macros to and from other hands: a file with all they need, signed by whoever made them."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from PyQt6.QtWidgets import QWidget

from rimecrest.core.bundle.arriving import take_in
from rimecrest.core.bundle.bundle import Bundle, build_bundle, read_bundle
from rimecrest.core.bundle.needs import needed
from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import read_plain, write_atomically
from rimecrest.core.release.package_files import ENDING
from rimecrest.core.signing import MakerKey, fingerprint
from rimecrest.core.words import counted, tr
from rimecrest.core.workspace.edits import Together
from rimecrest.core.workspace.file_edits import Vouch
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.shell.file_dialogs import ask_open, ask_save
from rimecrest.shell.theme import Scheme
from rimecrest.studio.macros.export_dialog import ExportDialog
from rimecrest.studio.macros.import_dialog import TakeIn
from rimecrest.studio.macros.presenter import MacroKey
from rimecrest.studio.shared.own_name import keep_own_name, own_name
from rimecrest.studio.shared.session import Session, own_folder


class Bundles:
    """Exporting and importing, for the place that is the parent of the dialogs."""

    def __init__(
        self, session: Session, scheme: Scheme, parent: QWidget, opened: Callable[[MacroKey], None]
    ) -> None:
        """`opened` is called with the first macro that came."""
        self._session = session
        self._scheme = scheme
        self._parent = parent
        self._opened = opened

    def ask_and_export(self, file: MacroFile | None) -> None:
        """Ask which macros, by which name and into which file; that macro is ticked to begin with."""
        ticked = (file.layer, file.id) if file is not None else None
        workspace = self._session.workspace
        dialog = ExportDialog(workspace, ticked, own_name(), self._scheme, self._parent)
        dialog.accepted.connect(lambda: self._export(dialog.files(), dialog.name()))
        dialog.finished.connect(dialog.deleteLater)
        dialog.open()

    def _export(self, files: list[MacroFile], maker: str) -> None:
        """Ask for a file, and write the macros there."""
        try:
            keep_own_name(maker)
        except RimecrestError as error:
            self._session.say(str(error))
        stem = files[0].id if len(files) == 1 else "macros"
        begin, kinds = f"{stem}{ENDING}", f"Bundles (*{ENDING})"
        name = ask_save(self._parent, tr("Export as"), begin, kinds)
        if name:
            self.export_to(Path(name), files)

    def export_to(self, path: Path, files: Sequence[MacroFile]) -> None:
        """Write the bundle of macros and all they need there, signed with the specialist's own key."""
        workspace, keys = self._session.workspace, [(file.layer, file.id) for file in files]
        try:
            maker = MakerKey.of_profile(own_folder() / "maker.pem", own_name())
            write_atomically(path, build_bundle(workspace, keys, maker))
            needs = needed(workspace, keys)
        except RimecrestError as error:
            self._session.say(str(error))
            return
        others = len(needs.macros) - len(files)
        along = [counted(others, tr("other macro"))] if others > 0 else []
        along += [tr("the panel {title}", title=panel.title) for panel in needs.panels.values()]
        more = tr(" with {others}", others=", ".join(along)) if along else ""
        what = f"“{files[0].name}”" if len(files) == 1 else counted(len(files), "macro")
        is_in = tr("is in") if len(files) == 1 else tr("are in")
        self._session.say(
            tr(
                "{what}{more} {is_in} {path}, signed by {maker}. Your fingerprint, to tell them: {digits}",
                what=what,
                more=more,
                is_in=is_in,
                path=path,
                maker=maker.name,
                digits=fingerprint(maker.public),
            )
        )

    def ask_and_import(self) -> None:
        """Ask for a bundle that somebody exported, and import it."""
        kinds = tr("Bundles (*{ENDING});;All files (*)", ENDING=ENDING)
        name = ask_open(self._parent, tr("Import macros"), "", kinds)
        if name:
            self.import_from(Path(name))

    def import_from(self, path: Path) -> None:
        """Show what a bundle holds; what is decided then is one edit, whole or not at all."""
        session, layer = self._session, self._session.aim.layer
        try:
            bundle = read_bundle(read_plain(path), path.name)
        except OSError as error:
            session.say(
                tr(
                    "{path} cannot be read ({reason}). Choose another file.",
                    path=path,
                    reason=error.strerror,
                )
            )
            return
        except RimecrestError as error:
            session.say(str(error))
            return
        dialog = TakeIn(bundle, session.workspace, layer, self._scheme, self._parent)
        dialog.accepted.connect(lambda: self._take(bundle, layer, dialog))
        dialog.finished.connect(dialog.deleteLater)
        dialog.open()

    def _take(self, bundle: Bundle, layer: str, dialog: TakeIn) -> None:
        session = self._session
        edit = take_in(bundle, session.workspace, layer, dialog.decisions())
        if dialog.vouches:
            edit = Together(edit.label, (*edit.edits, Vouch(bundle.maker, bundle.key)))
        before = set(session.workspace.macros)
        if session.do(edit):
            fresh = sorted(set(session.workspace.macros) - before)
            if fresh:
                self._opened(fresh[0])
            session.say(tr("Done: {label}. One undo takes all of it back.", label=edit.label))
