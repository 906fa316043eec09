"""The rules about pictures of one's own.

1. no-picture: something shows a picture that the workspace does not have. Asks.
2. unseen-picture: one that cannot be made out on one of the two colour schemes. Asks.
3. unused-picture: one that nothing shows; it would go along in every release. Tells.
4. twin, of pictures: two neighbours that show the picture only, and are taken for one another. Tells.

(docs/conflicts.md, "Findings".)
"""

from __future__ import annotations

import hashlib
import re
from collections.abc import Iterator
from itertools import pairwise

from msgspec.structs import replace

from rimecrest.core.check.findings import Finding, Owner
from rimecrest.core.check.item_rules import LayerView
from rimecrest.core.check.table import EstateView
from rimecrest.core.layout.seen import SeenButton
from rimecrest.core.pictures.looks import alike, unseen_on
from rimecrest.core.release.pictures import freeze, is_picture
from rimecrest.core.words import listed, tr
from rimecrest.core.workspace.own_pictures import OWN, content_of, named_in, stored_as, unused
from rimecrest.core.workspace.workspace import Workspace


def _owner(view: LayerView, identity: str) -> tuple[Owner, str]:
    item = view.seen.item(identity)
    row = next((row for row in view.seen.rows() if row.id == identity), None)
    label = item.label if isinstance(item, SeenButton) else row.title if row is not None else ""
    return Owner(identity, view.layer, None, label), label or identity.rpartition(":")[2]


def no_picture(view: LayerView) -> Iterator[Finding]:
    for identity, name in named_in(view.layout):
        if not _exists(view.workspace, name):
            owner, words = _owner(view, identity)
            plain = name.removeprefix(OWN).removeprefix("set:")
            rest = tr("shows the picture {name}, which does not exist.", name=plain)
            yield view.finding("no-picture", identity, f"“{words}”", rest, owner)


def _exists(workspace: Workspace, name: str) -> bool:
    if name.startswith(OWN):
        return stored_as(workspace.pictures, name) is not None
    return name.startswith("app:") or is_picture(name.removeprefix("set:"))


def unseen_picture(view: LayerView) -> Iterator[Finding]:
    for identity, name in named_in(view.layout):
        content = content_of(view.workspace, name)
        schemes = unseen_on(content) if content is not None else []
        if schemes:
            owner, words = _owner(view, identity)
            # What was accepted lapses when the picture is another one.
            shown = (("picture", hashlib.sha256(content or b"").hexdigest()[:16]),)
            owner = replace(owner, args=shown)
            rest = tr("has a picture that cannot be seen on the {schemes} scheme.", schemes=listed(schemes))
            yield view.finding("unseen-picture", identity, f"“{words}”", rest, owner)


def unused_picture(workspace: Workspace, _estate: EstateView) -> Iterator[Finding]:
    for file in unused(workspace) if workspace.pictures else ():
        yield Finding(
            kind="unused-picture",
            app="",
            layer="",
            where=f"picture:{file}",
            subject=f"“{file}”",
            rest=tr("(pictures) is shown by nothing."),
            owners=(Owner(f"picture:{file}", "", None, file),),
        )


def like_its_neighbour(view: LayerView) -> Iterator[Finding]:
    """twin, of two that show the picture only and have pictures people confuse, whatever these are called."""
    mine = view.mine_by_id
    for row in view.seen.rows():
        for one, item in pairwise(row.buttons()):
            if not one.face == item.face == "picture" or not (one.id in mine or item.id in mine):
                continue
            if one.picture != item.picture and _confused(view.workspace, one.picture, item.picture):
                rest = tr("stands beside “{label}” with a picture just like its own.", label=one.label)
                owners = (view.owner(item), view.owner(one))
                yield view.finding("twin", item.id, f"“{item.label}”", rest, *owners)


def _confused(workspace: Workspace, one: str, other: str) -> bool:
    """Whether two pictures are alike. Two of a set are compared only where a word is in both names."""
    if not any(name.startswith(OWN) for name in (one, other)):
        words = [set(re.split(r"[-.:]", name)) - {"set", "outline"} for name in (one, other)]
        if not words[0] & words[1]:
            return False
    contents = [
        content_of(workspace, name) if name.startswith(OWN) else freeze(name.removeprefix("set:"))
        for name in (one, other)
    ]
    return contents[0] is not None and contents[1] is not None and alike(contents[0], contents[1])
