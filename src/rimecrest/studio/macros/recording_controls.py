"""Recording from the place: where to record, how far it is, what came of it, and where that shall go."""

from __future__ import annotations

import contextlib
from functools import partial

from msgspec.structs import replace
from PyQt6.QtCore import QObject, pyqtSignal

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import counted, tr
from rimecrest.core.workspace.layer_ids import MINE
from rimecrest.link.addresses import listening
from rimecrest.link.line import LinkRefused
from rimecrest.shell.theme import Scheme
from rimecrest.studio.macros.finish import FinishSentence
from rimecrest.studio.macros.macro_sheet import MacroSheet
from rimecrest.studio.macros.presenter import MacrosPresenter
from rimecrest.studio.macros.recording import Recordings, Window, running_windows
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.edit_target import seat_for
from rimecrest.studio.shared.live_preview import LivePreview
from rimecrest.studio.shared.sentence_widgets import Push, end_fields
from rimecrest.studio.shared.session import Session

STEM = tr("New recording")
"""What a recording is called until it has a name."""


class RecordingControls(QObject):
    """The button that records, and the sentence that asks where a recording shall go.

    Signals:
        kept(key): a recording stands on its shelf now.
        try_wanted: the macro that is open shall run.
    """

    kept = pyqtSignal(tuple)
    try_wanted = pyqtSignal()

    def __init__(
        self,
        session: Session,
        preview: LivePreview,
        presenter: MacrosPresenter,
        sheet: MacroSheet,
        scheme: Scheme,
    ) -> None:
        super().__init__(sheet)
        self._session = session
        self._preview = preview
        self._presenter = presenter
        self._sheet = sheet
        self._scheme = scheme
        self._recordings = Recordings(preview, self)
        self._recordings.told.connect(session.told)
        self._recordings.changed.connect(self._show_progress)
        self._recordings.recorded.connect(self.take_recorded)
        self.finish: FinishSentence | None = None
        self._renaming = False
        self.button = Push(tr("● Record"), scheme)
        self.button.setObjectName("macro-record")
        self.button.setToolTip(tr("Record by doing: in a scratch window, or in one that runs"))
        self.button.clicked.connect(self._choose_window)
        self._on = False

    def aim_at(self, layer: str, app: str) -> None:
        """Aim at a layer and application: what is tried and recorded is the aimed draft."""
        aim = self._session.aim
        if (layer, app) != (aim.layer, aim.app):
            self._session.aim_at(
                replace(aim, layer=layer, app=app, seat=seat_for(self._session.workspace, layer))
            )

    def record(self) -> None:
        """Record in a scratch window of the aimed application."""
        self._recordings.in_scratch(self._presenter.fresh_name(STEM))

    def _choose_window(self) -> None:
        """Where to record: a scratch window first, then those that run."""
        if self._on:
            self._recordings.stop()
            return
        aim, catalogues = self._session.aim, self._session.workspace.catalogues
        windows = {str(window.path): window for window in running_windows(tuple(catalogues))}
        pairs = [
            (f"scratch {app}", tr("A scratch window of {title}", title=known.title))
            for app, known in catalogues.items()
        ]
        pairs.sort(key=lambda pair: pair[0] != f"scratch {aim.app}")
        pairs += [(path, window.words) for path, window in windows.items()]

        def take(value: str) -> None:
            window = windows.get(value)
            self.aim_at(aim.layer, window.app if window else value.removeprefix("scratch "))
            if window is None:
                self.record()
            else:
                self._recordings.in_window(window, self._presenter.fresh_name(STEM))

        choose_from(self.button, pairs, "", self._scheme, take)

    def _show_progress(self, name: str, steps: list[str]) -> None:
        """Show in the studio as well that something is being recorded, and what came last."""
        self._on = bool(name)
        self.button.setText(tr("■ Stop ({number})", number=len(steps)) if name else tr("● Record"))
        words = tr("Stop recording, {steps}", steps=counted(len(steps), "step"))
        self.button.setAccessibleName(words if name else tr("Record"))
        self.button.updateGeometry()
        if name and steps:
            self._session.say(tr("Recording: {steps}", steps=steps[-1]))

    def take_begun_there(self, name: str, text: str, window: Window) -> bool:
        """Put what was recorded on an application's own initiative on the specialist's own shelf."""
        self._recordings.window = window
        return self.take_recorded(name, text, window.app, MINE)

    def take_recorded(self, name: str, text: str, app: str, layer: str = "") -> bool:
        """Put what was recorded on a shelf, the aimed layer's where none is named.

        Returns:
            Whether it is kept; an empty text was thrown away.
        """
        self._show_progress("", [])
        if not text:
            self._session.say(tr("Nothing is kept of the recording."))
            return False
        self.aim_at(self._session.aim.layer, app)
        key = self._presenter.keep_recording(name, text, layer or self._session.aim.layer)
        if key is not None:
            if not self._sheet.isVisible():
                self._session.say(
                    tr(
                        "“{name}” is recorded; it lies on its shelf.",
                        name=self._session.workspace.macros[key].name,
                    )
                )
            self.kept.emit(key)
            self._ask_where()
        return key is not None

    # Where it shall go

    def _ask_where(self) -> None:
        file = self._presenter.file()
        self.end_finish()
        if file is None:
            return
        with contextlib.suppress(RimecrestError):
            self.finish = FinishSentence(
                self._session, self._scheme, file, self._document(file.macro.application), self._keep_there
            )
        if self.finish is not None:
            self.finish.done.connect(partial(self._put, self.finish))
            self.finish.later.connect(self.end_finish)
            self.finish.renamed.connect(self._rename)
            self.finish.try_wanted.connect(lambda _: self.try_wanted.emit())
            self._sheet.put_above_fault(self.finish)
            if self._sheet.isVisible():
                self.finish.begin()

    def _put(self, finish: FinishSentence, identity: str) -> None:
        """It is where it shall go: on another shelf, perhaps, where it is shown from now on.

        The edit itself may have shown another macro before and taken the sentence away with it.
        """
        self.end_finish()
        if (finish.kept, identity) in self._session.workspace.macros:
            self.kept.emit((finish.kept, identity))

    def _document(self, app: str) -> str:
        """The document that was recorded in, while it is open."""
        window = self._recordings.window
        if window is not None:
            return window.document if window.path in listening(app) else ""
        trying = self._preview.running and self._preview.app == app
        return tr("the document being tried") if trying else ""

    def _keep_there(self, identity: str, text: str) -> str:
        """Keep a macro in the document that was recorded in; the sentence that says so, or nothing."""
        window = self._recordings.window
        if window is None:
            self._preview.keep(identity, text)
            return tr("It is kept in the document being tried.")
        try:
            window.keep(identity, text)
        except LinkRefused as refusal:
            self._session.say(str(refusal))
            return ""
        return tr("It is kept in {words}.", words=window.words)

    def _rename(self, name: str) -> None:
        """Give the recorded macro another name, whichever macro is open by now."""
        finish = self.finish
        if finish is not None:
            self._renaming = True
            file = self._presenter.rename((finish.file.layer, finish.file.id), name)
            self._renaming = False
            if file is not None and finish is self.finish:
                finish.take_over(file)
            self.follow()

    def follow(self) -> None:
        """Another macro may be open: the sentence belongs to the recorded one alone."""
        file = self._presenter.file()
        if self._renaming:
            return  # the recorded macro is getting another id with its name
        if self.finish is not None and (file is None or self.finish.file.id != file.id):
            self.end_finish()

    def end_finish(self) -> None:
        """Take the sentence away."""
        if self.finish is not None:
            end_fields(self.finish)
        finish, self.finish = self.finish, None
        if finish is not None:
            finish.hide()
            finish.deleteLater()
