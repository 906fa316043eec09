"""Edits of the house: a department added, colleagues who are of another, the channel of its releases."""

from __future__ import annotations

from dataclasses import dataclass, replace

from rimecrest.core.errors import RimecrestError
from rimecrest.core.identities import LayerId
from rimecrest.core.words import tr
from rimecrest.core.workspace.settings import LayerTitle
from rimecrest.core.workspace.workspace import Workspace


@dataclass(frozen=True)
class MoveDepartment:
    """Colleagues of whom people.csv names one department belong to another."""

    old: str
    new: str

    @property
    def label(self) -> str:
        return tr("{old} is {new}", old=self.old, new=self.new)

    def on(self, workspace: Workspace) -> Workspace:
        people = tuple(
            replace(
                seat,
                departments=tuple(
                    dict.fromkeys(self.new if name == self.old else name for name in seat.departments)
                ),
            )
            if self.old in seat.departments
            else seat
            for seat in workspace.people
        )
        return replace(workspace, people=people)


@dataclass(frozen=True)
class SetChannel:
    """Where the releases of this workspace go from now on: an address, or a path."""

    address: str

    @property
    def label(self) -> str:
        return tr("releases go to {address}", address=self.address)

    def on(self, workspace: Workspace) -> Workspace:
        return workspace.with_settings(workspace.settings.model_copy(update={"channel": self.address}))


@dataclass(frozen=True)
class AddDepartment:
    """A department of its own, above what everyone has."""

    name: str

    @property
    def label(self) -> str:
        return tr("department {name}", name=self.name)

    def on(self, workspace: Workspace) -> Workspace:
        layer = LayerId(f"department.{self.name}")
        settings = workspace.settings
        if any(known.id == layer for known in settings.layers):
            raise RimecrestError(
                tr("There is a department “{name}” already.", name=self.name), tr("Take another name.")
            )
        made = LayerTitle(id=layer, title=self.name.replace("-", " ").capitalize())
        return workspace.with_settings(settings.model_copy(update={"layers": (*settings.layers, made)}))
