"""What is done to the picture of one thing, as edits; without widgets.

Everything that one chooser does is one step of undo: the picture is changed while it is drawn, stroke by
stroke.
"""

from __future__ import annotations

import itertools
from typing import Any

from msgspec import Struct

from rimecrest.core.layout.seen import SeenButton
from rimecrest.core.release.pictures import freeze
from rimecrest.core.words import tr
from rimecrest.core.workspace.edits import Edit, SetFields, Together
from rimecrest.core.workspace.file_edits import PutPicture
from rimecrest.core.workspace.own_pictures import OWN, content_of, fresh_picture, shown_by, stored_as
from rimecrest.core.workspace.parts import PICTURES
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.studio.shared.session import Session

SET = "set:"
_CHOOSERS = itertools.count()
"""Each chooser's changes are a step of undo of their own."""


class Subject(Struct, frozen=True):
    """The thing that has the picture: `words` is what it is called, `fields` what it had when one began.

    `picture` is the picture that it shows, its own or its command's.
    """

    layer: str
    app: str
    id: str
    words: str
    picture: str
    fields: tuple[tuple[str, Any], ...]


def subject_of(layer: str, app: str, item: SeenButton) -> Subject:
    """The subject that a button is."""
    stored = item.stored.to_data()
    before = tuple((name, stored.get(name)) for name in ("picture", "face"))
    return Subject(layer, app, item.id, item.label, item.picture, before)


def content_named(workspace: Workspace, name: str) -> bytes | None:
    """What is stored of a picture as items name it; None: none, or one of its application's."""
    if name.startswith(OWN):
        return content_of(workspace, name)
    return freeze(name.removeprefix(SET)) if name.startswith(SET) else None


class PicturePresenter:
    """Changes the picture of one thing, and puts it back as it was."""

    def __init__(self, session: Session, subject: Subject) -> None:
        self._session = session
        self.subject = subject
        self._before = session.workspace
        self._joint = f"picture {subject.id} {next(_CHOOSERS)}"
        self.now = subject.picture
        """The picture that it shows."""
        self._made = ""
        """The file that this chooser made."""

    # What it is

    def content(self, name: str = "") -> bytes | None:
        """What is stored of a picture, or of the one it shows now; None: nothing, or the application's."""
        return content_named(self._session.workspace, name or self.now)

    def path(self) -> str:
        """The file of the picture of one's own that it shows, within the workspace; empty: it shows none."""
        file = stored_as(self._session.workspace.pictures, self.now)
        return PICTURES.path(file) if file is not None else ""

    def also_shown(self) -> int:
        """How many other things show the same picture of one's own: they change with it."""
        workspace = self._session.workspace
        file = stored_as(workspace.pictures, self.now)
        users = shown_by(workspace, file) if file else []
        mine = ((self.subject.layer, self.subject.app), self.subject.id)
        return sum(user != mine for user in users)

    def used_here(self) -> list[str]:
        """The pictures that this application's layouts show, and all of one's own, by name."""
        workspace, found = self._session.workspace, dict[str, None]()
        for _, item in workspace.surfaces(workspace.layers, self.subject.app).buttons():
            if item.picture:
                found[item.picture] = None
        found.update((f"{OWN}{file}", None) for file in sorted(workspace.pictures))
        return list(found)

    def follow(self) -> None:
        """See what it shows now: an undo may have changed it."""
        workspace, one = self._session.workspace, self.subject
        seen = workspace.surfaces(workspace.stack_up_to(one.layer), one.app)
        things = (seen.item(one.id), *seen.rows(), *seen.tabs)
        thing = next((thing for thing in things if thing is not None and thing.id == one.id), None)
        self.now = str(getattr(thing, "picture", "") or "")

    # What is done

    def take(self, name: str) -> bool:
        """Show a picture that is there already."""
        return self._show(name, ())

    def put(self, content: bytes, of: str = "") -> bool:
        """Show a picture of one's own: in the file that is shown already, else in a new one.

        Args:
            of: what a new file is called after; the thing itself, where it is empty.
        """
        workspace = self._session.workspace
        ending = ".svg" if content.lstrip().startswith(b"<") else ".png"
        file = stored_as(workspace.pictures, self.now)
        if of or file is None or not file.endswith(ending):
            file = fresh_picture(workspace, of or self.subject.words, ending)
            replaced = self._made if self._made in workspace.pictures else ""
            gone = (PutPicture(replaced, None),) if replaced and not self.also_shown() else ()
            self._made = file
            return self._show(f"{OWN}{file}", (PutPicture(file, content), *gone))
        return self._show(f"{OWN}{file}", (PutPicture(file, content),))

    def none(self) -> bool:
        """Show no picture: the words alone; what has no words of its own loses only its own picture."""
        fields: dict[str, Any] = {"picture": None}
        if any(name == "face" for name, _ in self.subject.fields):
            fields["face"] = "words"
        self.now = ""
        return self._set(fields, ())

    def back(self) -> bool:
        """As it was when the chooser opened, files with it."""
        self.now = self.subject.picture
        workspace = self._session.workspace
        files = {**self._before.pictures, **workspace.pictures}
        changed = [
            PutPicture(file, self._before.pictures.get(file))
            for file in files
            if self._before.pictures.get(file) != workspace.pictures.get(file)
            and file in (self._made, stored_as(self._before.pictures, self.subject.picture))
        ]
        self._made = ""
        return self._set(dict(self.subject.fields), tuple(changed))

    def _show(self, name: str, files: tuple[Edit, ...]) -> bool:
        fields: dict[str, Any] = {"picture": name}
        if any(field == "face" and value == "words" for field, value in self.subject.fields):
            fields["face"] = "both"  # who gives a picture wants it seen
        self.now = name
        return self._set(fields, files)

    def _set(self, fields: dict[str, Any], files: tuple[Edit, ...]) -> bool:
        one = self.subject
        words = tr("picture of {name}", name=one.words)
        edit = SetFields(one.layer, one.app, one.id, fields, words)
        return self._session.do(Together(words, (*files, edit)), joined=self._joint)
