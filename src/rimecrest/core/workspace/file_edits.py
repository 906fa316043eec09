"""Edits of macros and of the files beside them: companions, pictures; and of who made what."""

from __future__ import annotations

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.core.workspace.edits import Edit
from rimecrest.core.workspace.fresh import fresh_macro
from rimecrest.core.workspace.origin import bare, marked
from rimecrest.core.workspace.parts import PICTURES
from rimecrest.core.workspace.workspace import Workspace


class PutMacro(Edit, frozen=True):
    """Put, change or (text None) delete a macro."""

    layer: str
    id: str
    text: str | None

    @property
    def label(self) -> str:
        return f"delete {self.id}" if self.text is None else f"macro {self.id}"

    def on(self, workspace: Workspace) -> Workspace:
        return workspace.with_macro(self.layer, self.id, self.text)


class NameMacro(Edit, frozen=True):
    """Give a macro that nothing runs yet the identity that its new name asks for."""

    layer: str
    id: str
    to: str
    text: str

    @property
    def label(self) -> str:
        return f"macro {self.to}"

    @property
    def retires(self) -> bool:
        return False  # nobody has seen the old identity

    def on(self, workspace: Workspace) -> Workspace:
        if (self.layer, self.to) in workspace.macros:
            raise RimecrestError(tr("There is a macro “{name}” already.", name=self.to))
        text = _with_noted_maker(workspace, self.layer, self.id, self.text)
        return workspace.with_macro(self.layer, self.id, None).with_macro(self.layer, self.to, text)


class PutCompanion(Edit, frozen=True):
    """Put, change or (content None) delete a file that macros bring along."""

    name: str
    content: bytes | None

    @property
    def label(self) -> str:
        return f"companion {self.name}"

    def on(self, workspace: Workspace) -> Workspace:
        return workspace.with_companion(self.name, self.content)


class PutPicture(Edit, frozen=True):
    """Put, change or (content None) delete one of the workspace's own pictures."""

    name: str
    content: bytes | None

    @property
    def label(self) -> str:
        return tr("picture {name}", name=self.name)

    def on(self, workspace: Workspace) -> Workspace:
        return PICTURES.put(workspace, self.name, self.content)


def _with_noted_maker(workspace: Workspace, layer: str, identity: str, text: str) -> str:
    """The text of a macro that gets another place, with the maker that an earlier version noted beside it."""
    noted = workspace.settings.made_by.get(f"{layer}/{identity}")
    if noted is None or workspace.macros[layer, identity].macro.from_outside:
        return text
    return marked(text, noted.name, noted.key)


class OwnMacro(Edit, frozen=True):
    """Make a macro of somebody outside one's own: it runs, whoever made it, and says no longer who did."""

    layer: str
    id: str

    @property
    def label(self) -> str:
        return tr("make {id} my own", id=self.id)

    def on(self, workspace: Workspace) -> Workspace:
        text = bare(workspace.macros[self.layer, self.id].text)
        key = f"{self.layer}/{self.id}"
        made_by = {name: maker for name, maker in workspace.settings.made_by.items() if name != key}
        settings = workspace.settings.model_copy(update={"made_by": made_by})
        return workspace.with_settings(settings).with_macro(self.layer, self.id, text)


class Vouch(Edit, frozen=True):
    """Vouch for a maker: what they made runs from now on."""

    name: str
    key: str

    @property
    def label(self) -> str:
        return tr("vouch for {name}", name=self.name)

    def on(self, workspace: Workspace) -> Workspace:
        makers = {**workspace.settings.makers, self.key: self.name}
        return workspace.with_settings(workspace.settings.model_copy(update={"makers": makers}))


class NoLongerVouch(Edit, frozen=True):
    """Vouch for a maker no longer: nothing that they made runs from now on, wherever it is kept."""

    key: str
    name: str = ""

    @property
    def label(self) -> str:
        return tr("no longer vouch for {name}", name=self.name or self.key[:8])

    def on(self, workspace: Workspace) -> Workspace:
        makers = {key: name for key, name in workspace.settings.makers.items() if key != self.key}
        return workspace.with_settings(workspace.settings.model_copy(update={"makers": makers}))


class CarryMacro(Edit, frozen=True):
    """Move a macro to another shelf, or put a copy there, which has an identity of its own."""

    layer: str
    id: str
    to: str
    copy: bool = False

    @property
    def label(self) -> str:
        return f"{'copy' if self.copy else 'move'} {self.id}"

    def on(self, workspace: Workspace) -> Workspace:
        file = workspace.macros[self.layer, self.id]
        if not self.copy and (self.to, self.id) in workspace.macros:
            raise RimecrestError(
                tr("The shelf has a macro “{name}” already.", name=workspace.macros[self.to, self.id].name),
                tr("Give one another name first, or delete it there."),
            )
        identity = fresh_macro(workspace, self.id) if self.copy else self.id
        text = _with_noted_maker(workspace, self.layer, self.id, file.text)
        made = workspace.with_macro(self.to, identity, text)
        return made if self.copy else made.with_macro(self.layer, self.id, None)
