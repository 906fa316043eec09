"""The kinds of things that panels have and bars have not: how each is begun, and what is said of it."""

from __future__ import annotations

from typing import Any

from msgspec import Struct

from rimecrest.core.catalogue.items import Item, item_of
from rimecrest.core.layout.seen import ControlKind
from rimecrest.core.words import tr
from rimecrest.core.workspace.fresh import fresh_thing
from rimecrest.studio.shared.session import Session


class Kind(Struct, frozen=True):
    """One kind: the character that begins it at the caret, its word, and the words it has at first."""

    kind: ControlKind
    begins: str
    word: str
    first: str


KINDS = (
    Kind("text", '"', tr("Text"), tr("Text that explains")),
    Kind("field", "?", tr("Field"), tr("Field")),
    Kind("choice", "/", tr("Choice"), tr("Choice")),
    Kind("list", "*", tr("List"), tr("List")),
    Kind("tick", "#", tr("Tick box"), tr("Tick box")),
)
BY_CHARACTER = {kind.begins: kind for kind in KINDS}
BY_NAME = {kind.kind: kind for kind in KINDS}


def control(session: Session, kind: Kind, words: str) -> Item:
    """A new control of the aimed layer. Its identity, by which macros read it, is made of its words."""
    aim = session.aim
    data: dict[str, Any] = {"id": fresh_thing(session.workspace, aim.layer, aim.app, words or kind.word)}
    data[kind.kind] = words or kind.first
    return item_of(data, kind.word)
