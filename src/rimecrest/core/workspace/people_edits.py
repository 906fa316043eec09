"""Edits of the house: a department added, colleagues who are of another, the channel of its releases."""

from __future__ import annotations

from msgspec.structs import replace

from rimecrest.core.errors import RimecrestError
from rimecrest.core.identities import LayerId
from rimecrest.core.words import tr
from rimecrest.core.workspace.edits import Edit
from rimecrest.core.workspace.habits import format_own_keys, parse_own_keys
from rimecrest.core.workspace.people import format_people, parse_people
from rimecrest.core.workspace.settings import LastRelease, LayerTitle
from rimecrest.core.workspace.workspace import Workspace


class MoveDepartment(Edit, frozen=True):
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


class CorrectPeople(Edit, frozen=True):
    """Another value in a column of people.csv for every seat that has the old one."""

    column: str
    old: str
    new: str

    @property
    def label(self) -> str:
        return tr("{column} {old} is {new}", column=self.column, old=self.old, new=self.new)

    def on(self, workspace: Workspace) -> Workspace:
        people = tuple(
            replace(seat, **{self.column: self.new}) if getattr(seat, self.column) == self.old else seat
            for seat in workspace.people
        )
        return replace(workspace, people=people)


class NoteRelease(Edit, frozen=True):
    """Note that a release was made from the workspace as it is now.

    `office` is the id that the channel knows the office by; `address` is where releases go.
    """

    number: int
    office: str
    address: str

    @property
    def label(self) -> str:
        return tr("release {number}", number=self.number)

    def on(self, workspace: Workspace) -> Workspace:
        macros = tuple(sorted("/".join(key) for key in workspace.macros if key[0] in workspace.layers))
        settings = workspace.settings.model_copy(
            update={
                "id": self.office,
                "channel": workspace.settings.channel or self.address,
                "last_release": LastRelease(number=self.number, channel=self.office, macros=macros),
            }
        )
        return workspace.with_settings(settings)


class AddDepartment(Edit, frozen=True):
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


class ForgetPerson(Edit, frozen=True):
    """Take a colleague out of the house: every seat of that name, and the keys that were made there."""

    name: str

    @property
    def label(self) -> str:
        return tr("forget a colleague")

    def on(self, workspace: Workspace) -> Workspace:
        seats = {seat.seat for seat in workspace.people if seat.name == self.name}
        people = tuple(seat for seat in workspace.people if seat.name != self.name)
        keys = tuple(key for key in workspace.habits.own_keys if key.seat not in seats)
        habits = replace(workspace.habits, own_keys=keys)
        return replace(workspace, people=people, habits=habits)


def people_without(content: bytes, name: str) -> bytes:
    """The text of a people.csv without a colleague; one that cannot be read is emptied, it may name them."""
    try:
        kept = [seat for seat in parse_people(content.decode()) if seat.name != name]
    except (RimecrestError, UnicodeDecodeError):
        return b""
    return format_people(kept).encode()


def own_keys_without(content: bytes, seats: frozenset[str]) -> bytes:
    """The text of an own-keys.csv without the keys of some seats; one that cannot be read is emptied."""
    try:
        kept = [key for key in parse_own_keys(content.decode()) if key.seat not in seats]
    except (RimecrestError, UnicodeDecodeError):
        return b""
    return format_own_keys(kept).encode()
