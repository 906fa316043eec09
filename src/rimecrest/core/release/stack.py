"""What one application on one seat loads: layouts of its stack, the macros they see, their pictures."""

import base64
from collections.abc import Mapping

from pydantic import Field

from rimecrest.core.catalogue.applies import DocumentKind
from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.keys.traits import NOWHERE, Traits
from rimecrest.core.layout.faces import Targets
from rimecrest.core.layout.layout import Layout
from rimecrest.core.layout.outcome import outcome
from rimecrest.core.layout.renames import followed
from rimecrest.core.layout.seen import Outcome
from rimecrest.core.model import Record
from rimecrest.core.workspace.macro_file import MacroFile, macro_file


class ShelvedMacro(Record):
    """A macro and the layer whose shelf it is on."""

    layer: str
    text: str
    refused: str = ""
    """Why it does not run here: nobody vouches for its maker."""


class StackState(Record):
    """One stack in one application, complete."""

    app: str
    release: int = 0
    """0: the draft, or nothing installed."""
    news: str = ""
    traits: Traits = NOWHERE
    titles: dict[str, str] = Field(default_factory=dict)
    """Layer → what people call it."""
    reserved: dict[str, dict[str, str]] = Field(default_factory=dict)
    """Chords that the house keeps for itself: profile → chord → what it does (workspace.json)."""
    layouts: tuple[Layout, ...] = ()
    macros: dict[str, ShelvedMacro] = Field(default_factory=dict)
    pictures: dict[str, str] = Field(default_factory=dict)
    """Name as items have it, `set:…` or `own:…` → base64 of the SVG or PNG."""
    companions: dict[str, str] = Field(default_factory=dict)
    """File name → base64 of what the macros bring along: templates, forms."""
    makers: tuple[str, ...] = ()
    """The public keys that the organisation vouches for: private steps of any other do not run."""

    def macro_files(self) -> dict[str, MacroFile]:
        return {name: macro_file(shelved.layer, name, shelved.text) for name, shelved in self.macros.items()}

    def followed(self, catalogue: Catalogue) -> "StackState":
        """The same with what the application has renamed since under the ids of today."""
        layouts = tuple(followed(layout, catalogue) for layout in self.layouts)
        return self if layouts == self.layouts else self.model_copy(update={"layouts": layouts})

    def outcome(self, catalogue: Catalogue, document: DocumentKind | None = None) -> Outcome:
        """What the colleague sees in a document; None: what there is in any."""
        macros = {name: file.face for name, file in self.macro_files().items()}
        return outcome(catalogue, self.layouts, Targets(catalogue, macros), self.traits, document=document)


def encoded(contents: Mapping[str, bytes]) -> dict[str, str]:
    """Contents as a draft carries them over the link: in base64."""
    return {name: base64.b64encode(content).decode() for name, content in contents.items()}
