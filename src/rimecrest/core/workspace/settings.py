"""workspace.json: what the organisation is called, its layers, what it has decided."""

from pydantic import Field

from rimecrest.core.identities import AppId, LayerId
from rimecrest.core.model import Record
from rimecrest.core.workspace.layer_ids import ORGANISATION


class LayerTitle(Record):
    """A shared layer and what people call it."""

    id: LayerId
    title: str


class Maker(Record):
    """Who made a macro that an earlier version took in; `key` is empty when nothing shows it."""

    name: str
    key: str = ""


class Retired(Record):
    """Identities of what was deleted: they are never given to anything else.

    What was bound to them stays a finding, and never quietly runs or moves something new.
    """

    macros: tuple[str, ...] = ()
    things: dict[str, tuple[str, ...]] = Field(default_factory=dict)
    """`<layer>/<application>` → items, groups, tabs and toolbars that its layout had."""


class LastRelease(Record):
    """The release that was last made from this workspace."""

    number: int
    channel: str = ""
    """The id of the channel it went to."""
    macros: tuple[str, ...] = ()
    """`<layer>/<macro id>` of the macros it holds: their identities are kept from then on."""


class Settings(Record):
    """workspace.json."""

    name: str
    applications: tuple[AppId, ...] = ()
    layers: tuple[LayerTitle, ...] = (LayerTitle(id=LayerId(ORGANISATION), title="Everyone"),)
    widths: tuple[int, ...] = (1024, 1280)
    """Window widths in use, in pixels."""
    channel: str = ""
    """Where releases go: an address, or a path from the workspace's folder."""
    reserved: dict[str, dict[str, str]] = Field(default_factory=dict)
    """Chords that a desktop, input method or screen reader takes in this house, beside those of its profile:
    its name as in people.csv → chord → what it does."""
    constants: dict[str, float] = Field(default_factory=dict)
    """Other values for the constants of the suggestions, by name."""
    makers: dict[str, str] = Field(default_factory=dict)
    """Public key → name of the makers outside whom the organisation vouches for."""
    made_by: dict[str, Maker] = Field(default_factory=dict)
    """`<layer>/<macro id>` → who made it, of macros that an earlier version took in. Today they say it
    themselves (`workspace.origin`)."""
    retired: Retired = Retired()
    last_release: LastRelease | None = None
    id: str = ""
    """The office's random id, made when it first releases: its channel refuses every other one."""

    def same_rules(self, other: "Settings") -> bool:
        """Whether everything that checks and outcomes depend on is the same."""
        same = {"retired": other.retired, "last_release": other.last_release, "id": other.id}
        return self is other or self.model_copy(update=same) == other
