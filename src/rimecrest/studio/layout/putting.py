"""Putting something at the caret: a target, something that was found, what another application has copied."""

from __future__ import annotations

from collections.abc import Callable

from rimecrest.core.layout.seen import SeenButton
from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme
from rimecrest.shell.there import there
from rimecrest.studio.layout.clipboard import Copied
from rimecrest.studio.layout.gestures import Args
from rimecrest.studio.layout.offering import Offering
from rimecrest.studio.layout.overlay import Overlay
from rimecrest.studio.layout.paste_mapping import PasteMapping
from rimecrest.studio.pictures.presenter import PicturePresenter, subject_of
from rimecrest.studio.shared.place import Thing
from rimecrest.studio.shared.session import Session


class Putting:
    """Puts things on the stage, and says why where it cannot."""

    def __init__(
        self,
        session: Session,
        scheme: Scheme,
        overlay: Overlay,
        offering: Offering,
        begin: Callable[[], None],
        wanted: Callable[[], None],
    ) -> None:
        """
        Args:
            begin: put the caret where the next button is seen.
            wanted: have the stage come to the fore.
        """
        self._session = session
        self._scheme = scheme
        self._overlay = overlay
        self._offering = offering
        self._begin = begin
        self._wanted = wanted

    def put_target(self, run: str, args: Args = (), label: str = "") -> None:
        """Put an item that runs a target with these settings at the caret."""
        slot = self._overlay.caret.slot()
        if slot is None:
            self._begin()
            slot = self._overlay.caret.slot()
        if slot is None:
            self._session.say(tr("There is no bar and no tab to put it on; make one with the finder."))
            return
        self._overlay.writing.typed = ""
        self._offering.take_over()
        row = self._overlay.presenter.put(run, args, label)
        if row is None:
            self._offering.end_preview()
        self._overlay.redrawn()
        self._overlay.setFocus()
        if row is not None and slot.new_group:
            self._overlay.rename(row)

    def put_thing(self, thing: Thing) -> bool:
        """Put something that was found where the caret is; whether this is a place where that can be."""
        if thing.kind == "picture":
            return self._give_picture(thing.name)
        layer, _, target = thing.name.rpartition("/")
        workspace, aim = self._session.workspace, self._session.aim
        if layer:
            file = workspace.macros[layer, target.removeprefix("macro:")]
            if file.macro.application != aim.app:
                title = workspace.catalogues[file.macro.application].title
                self._session.say(
                    tr(
                        "“{name}” is for {title}; choose {title} above to put it there.",
                        name=file.name,
                        title=title,
                    )
                )
                return True
            if layer not in aim.stack(workspace):
                whose = workspace.layer_title(layer)
                self._session.say(
                    tr(
                        "{whose} has “{name}”, and who is aimed at has not: copy it first.",
                        whose=whose,
                        name=file.name,
                    )
                )
                return True
        self._wanted()
        self.put_target(target)
        return True

    def _give_picture(self, name: str) -> bool:
        """Give the button that is chosen a picture."""
        seen, aim = self._session.outcome(), self._session.aim
        chosen = [seen.item(one) for one in self._overlay.caret.selected]
        buttons = [item for item in chosen if isinstance(item, SeenButton)]
        if len(buttons) != 1:
            self._overlay.setFocus()
            self._session.say(tr("Choose the button that shall have the picture first."))
            return True
        self._wanted()
        PicturePresenter(self._session, subject_of(aim.layer, aim.app, buttons[0])).take(name)
        return True

    def paste_foreign(self, copied: Copied) -> None:
        """Ask what becomes of each command of another application, and paste that."""
        workspace, aim = self._session.workspace, self._session.aim
        dialog = PasteMapping(
            self._overlay.presenter.counterparts(copied),
            workspace.catalogue(copied.app),
            workspace.catalogue(aim.app),
            self._scheme,
            there(self._overlay.window()),
        )

        def paste() -> None:
            runs = dialog.runs()
            here = self._overlay.presenter.carried_over(copied, runs)
            source = (copied.layer, copied.app)
            done = (
                self._overlay.presenter.paste_with_keys(here, runs, source)
                if dialog.keys.isChecked()
                else self._overlay.presenter.paste(here)
            )
            if not done and not here.items:
                self._session.say(tr("Nothing of it has its like here: nothing was pasted."))
            self._overlay.redrawn()
            self._overlay.setFocus()

        dialog.accepted.connect(paste)
        dialog.rejected.connect(self._overlay.setFocus)
        dialog.open()
