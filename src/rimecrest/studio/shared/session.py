"""The studio's one state: the workspace, undo, saving, the findings, the aim.

A view emits an edit to `do`; the session applies it, saves it at once, checks again and tells all views.
"""

from __future__ import annotations

import contextlib
from collections.abc import Callable, Mapping
from pathlib import Path, PurePosixPath
from typing import TYPE_CHECKING

from platformdirs import user_data_dir
from PyQt6.QtCore import QFileSystemWatcher, QObject, QTimer, pyqtSignal

from rimecrest.core.check.findings import Finding
from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.chords import Sequence, extends, format_sequence
from rimecrest.core.keys.traits import NOWHERE
from rimecrest.core.layout.seen import Outcome
from rimecrest.core.log import log
from rimecrest.core.words import tr
from rimecrest.core.workspace.edits import Edit, Restore, apply, taking_back
from rimecrest.core.workspace.keeper import ChangedMeanwhile, Keeper
from rimecrest.core.workspace.parts import PARTS, changed_files
from rimecrest.core.workspace.past import Files, content_at, is_of_the_folder, restoring
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.studio.shared.crash import taken_up
from rimecrest.studio.shared.edit_target import EditTarget, TargetHistory, first_target
from rimecrest.studio.shared.history import EDIT, JOINED, OUTSIDE, REDO, UNDO, History

if TYPE_CHECKING:
    from rimecrest.core.check.run import Checked

Forgetting = Callable[[bytes], bytes] | None
"""What is left of a content when something in it is forgotten; None: nothing."""
MANY = 5
"""Files that an edit changes from which how everything was gets a name first."""


def own_folder() -> Path:
    """Where the specialist's own things lie: their macros, their publishing key."""
    return Path(user_data_dir("rimecrest"))


def _check(workspace: Workspace, before: Checked | None) -> Checked:
    from rimecrest.core.check.run import check  # noqa: PLC0415  a tenth of what the studio loads: after the first paint

    return check(workspace, before)


class Session(QObject):
    """One open workspace.

    Signals:
        changed: the workspace is another one.
        aimed: the aim is another one.
        found: the workspace has been checked for the first time.
        told(sentence): something to say to the user.
    """

    changed = pyqtSignal()
    aimed = pyqtSignal()
    found = pyqtSignal()
    told = pyqtSignal(str)

    def __init__(self, folder: Path, complete: bool | None = None) -> None:
        super().__init__()
        self.keeper = Keeper(folder, own_folder() / "macros")
        self.workspace: Workspace = self.keeper.open(complete)
        self.history = History(folder)
        if self.keeper.read_only:
            self.history.trouble = tr("Whoever has this workspace open keeps what was.")
        else:
            self.history.open()
        self._checked: Checked | None = None
        self.aims = TargetHistory()
        self.aims.visit(first_target(self.workspace))
        self._undo: list[Restore] = []
        self._redo: list[Restore] = []
        self._joined: tuple[str, Workspace] | None = None
        """What joins the last edits into one step of undo, and the workspace before the first of them."""
        self._written: dict[str, bytes | None] = {}
        """What each file holds that was written here: what the next save of it finds."""
        self.edits = 0
        """Edits since the workspace was opened, undone ones not counted."""
        self._take_up_what_was_cut_off()
        self._watcher = QFileSystemWatcher(self)
        self._settle = QTimer(self)
        self._settle.setSingleShot(True)
        self._settle.setInterval(150)
        self._settle.timeout.connect(self.look_again)
        self._watcher.directoryChanged.connect(lambda _: self._settle.start())
        self._watcher.fileChanged.connect(lambda _: self._settle.start())
        # New files are seen by the folder's own watch meanwhile.
        self._rewatch = QTimer(self)
        self._rewatch.setSingleShot(True)
        self._rewatch.setInterval(100)
        self._rewatch.timeout.connect(self._watch)
        self._watch()

    @property
    def folder(self) -> Path:
        return self.keeper.folder

    @property
    def is_checked(self) -> bool:
        """Whether there are findings yet: a window is painted before anybody asks for them."""
        return self._checked is not None

    @property
    def checked(self) -> Checked:
        """The check of the workspace as it is now."""
        if self._checked is None:
            self._checked = _check(self.workspace, None)
            self.found.emit()
        return self._checked

    @property
    def aim(self) -> EditTarget:
        return self.aims.now

    def close(self) -> None:
        self.history.close()
        self.keeper.close()

    def _take_up_what_was_cut_off(self) -> None:
        """After a crash, undo takes back what it could take back before."""
        for save in self.history.unfinished():
            with contextlib.suppress(RimecrestError):
                self._undo, self._redo = taken_up(save, self._undo, self._redo)
        self.recovered = len(self._undo)
        """Changes of a studio that was cut off, which can be undone."""

    def say(self, sentence: str) -> None:
        """Tell the user something: the strip at the foot shows it."""
        self.told.emit(sentence)

    # Edits

    def do(self, edit: Edit, joined: str = "") -> bool:
        """Apply and save an edit. Says why when it cannot be done, and returns whether it was.

        Args:
            joined: edits that follow one another with the same word here are taken back by one undo.
        """
        before = self.workspace
        try:
            after, inverse = apply(before, edit)
            if after is before:
                return True
            written = self.keeper.save(edit.label, before, after)
            follows = bool(joined and self._joined is not None and self._joined[0] == joined)
            self._remember(edit.label, before, written, JOINED if follows else EDIT)
            if joined and self._joined is not None and self._joined[0] == joined:
                inverse = taking_back(self._joined[1], after, edit.label)
                self._undo.pop()
                before = self._joined[1]
        except RimecrestError as error:
            self._refuse(error)
            return False
        self._joined = (joined, before) if joined else None
        self._undo.append(inverse)
        self._redo.clear()
        self.edits += 1
        self._become(after)
        return True

    def _refuse(self, error: RimecrestError) -> None:
        if isinstance(error, ChangedMeanwhile):
            self.look_again()
        self.say(str(error))

    def preview(self, edit: Edit) -> Workspace | None:
        """The workspace as an edit would make it; None when it cannot be done."""
        with contextlib.suppress(RimecrestError):
            return edit.on(self.workspace)
        return None

    def undo(self) -> None:
        self._swap(self._undo, self._redo, -1, tr("There is nothing to undo."))

    def redo(self) -> None:
        self._swap(self._redo, self._undo, 1, tr("There is nothing to redo."))

    @property
    def undo_label(self) -> str:
        return self._undo[-1].label if self._undo else ""

    @property
    def redo_label(self) -> str:
        return self._redo[-1].label if self._redo else ""

    def _swap(self, source: list[Restore], target: list[Restore], count: int, empty: str) -> None:
        if not source:
            self.say(empty)
            return
        edit = source[-1]
        try:
            after, inverse = apply(self.workspace, edit)
            written = self.keeper.save(edit.label, self.workspace, after)
        except RimecrestError as error:
            self._refuse(error)
            return
        self._remember(edit.label, self.workspace, written, UNDO if count < 0 else REDO)
        source.pop()
        self._joined = None
        target.append(inverse)
        self.edits += count
        self._become(after)

    def _remember(self, label: str, before: Workspace, written: Files, kind: str) -> None:
        """Note a save in the history; many files at once are preceded by a point with a name.

        Args:
            before: the workspace before it.
            written: what it wrote.
        """
        changes = {}
        for path, now in written.items():
            # What was written last is what was there: only the first time it has to be made.
            was = self._written[path] if path in self._written else content_at(before, path)
            changes[path] = (was, now)
        self._written.update(written)
        if len(changes) >= MANY and kind == EDIT:
            self.history.point(tr("before “{label}”", label=label))
        if changes:
            self.history.record(label, changes, kind)

    # What was

    def as_it_was(self, point: int) -> Workspace:
        """The workspace as it was at a point of its history. Raises RimecrestError when it cannot be read."""
        return restoring(self.history.changed_since(point), "").on(self.workspace)

    def bring_everything_back(self, point: int, when: str) -> bool:
        """Make the whole workspace as it was at a point; undo takes that back like any edit."""
        self.history.point(tr("before going back to {when}", when=when))
        try:
            edit = restoring(self.history.changed_since(point), tr("everything as it was {when}", when=when))
        except RimecrestError as error:
            self._refuse(error)
            return False
        return self.do(edit)

    def forget(self, edit: Edit, files: Mapping[str, Forgetting], name: str = "") -> bool:
        """Delete something, and all that was kept of it, for good: neither undo nor history brings it back.

        Args:
            files: what is forgotten in which file; None: all of the file.
            name: what it is called; the history no longer says that either.
        """
        if not self.do(edit):
            return False
        for path, without in files.items():
            part = next(part for part in PARTS if part.holds(path))
            # Of a file of which only something is forgotten, no earlier state is put back either.
            key = part.key(path) if without is None else None
            self._undo = [left for one in self._undo if (left := one.without(part.name, key)).values]
            self._redo = [left for one in self._redo if (left := one.without(part.name, key)).values]
            self.history.forget(path, without, name)
        self.keeper.forget_journal()
        self.changed.emit()
        return True

    def _become(self, workspace: Workspace) -> None:
        self.workspace = workspace
        self._checked = _check(workspace, self._checked)
        self._rewatch.start()
        self.changed.emit()

    # What is seen

    def outcome(self, workspace: Workspace | None = None) -> Outcome:
        """What the aimed seat sees. Raises RimecrestError when the application has no catalogue."""
        workspace = workspace or self.workspace
        seat = self.aim.find_seat(workspace)
        return workspace.outcome(self.aim.stack(workspace), self.aim.app, seat.traits if seat else NOWHERE)

    def begins_sequence(self, typed: Sequence) -> bool:
        """Whether a sequence that the aimed seat can type goes on from these chords, or may be given one."""
        bound = (binding.sequence for binding in self.outcome().bindings)
        opener = self.workspace.catalogue(self.aim.app).opener
        return format_sequence(typed) == opener or any(
            len(known) > len(typed) and extends(known, typed) for known in bound
        )

    def findings(self) -> list[Finding]:
        """The findings of the aim, worst first."""
        return self.checked.of(self.aim.layer, self.aim.app)

    def elsewhere(self) -> list[Finding]:
        here = {id(finding) for finding in self.findings()}
        return [finding for finding in self.checked.findings if id(finding) not in here]

    # The aim

    def aim_at(self, aim: EditTarget) -> None:
        if aim != self.aim:
            self.aims.visit(aim)
            self.aimed.emit()

    def step_aim(self, by: int) -> None:
        if self.aims.step(by):
            self.aimed.emit()

    # Other programs

    def _watch(self) -> None:
        wanted = {str(self.folder)}
        for part in PARTS:
            # Each folder on the way as well: what another program adds changes no file that is there yet.
            places = [str(place) for place in PurePosixPath(part.place).parents if place.name]
            wanted |= {str(path) for place in places for path in self.folder.glob(place) if path.is_dir()}
            wanted |= {str(path) for path in part.files(self.folder)}
        watched = {*self._watcher.files(), *self._watcher.directories()}
        if missing := wanted - watched:
            self._watcher.addPaths(sorted(missing))

    def look_again(self) -> None:
        """Read what another program changed, and tell the difference."""
        names = self.keeper.foreign_changes()
        self._watch()
        if not names:
            return
        try:
            fresh = self.keeper.read()
        except RimecrestError as error:
            self.say(tr("{sentence} What was open stays open.", sentence=error.sentence))
            return
        log.info("workspace changed by another program", files=names)
        self._written.clear()
        written = {
            path: now for path, now in changed_files(self.workspace, fresh).items() if is_of_the_folder(path)
        }
        self._remember(tr("another program"), self.workspace, written, OUTSIDE)
        # An undo would put whole files back over what the other program wrote.
        self._undo.clear()
        self._redo.clear()
        self._joined = None
        broken = [f"{name} ({fresh.broken[name]})" for name in names if name in fresh.broken]
        self._become(fresh)
        shown = ", ".join(names[:3]) + (
            tr(" and {number} more", number=len(names) - 3) if len(names) > 3 else ""
        )
        self.say(
            tr("Another program broke {broken}; the rest is open.", broken=broken[0])
            if broken
            else tr("Another program changed {shown}.", shown=shown)
        )
