"""Everything that the finder can find, as entries: where each sits now, its key, how often it is used."""

from __future__ import annotations

from collections.abc import Callable

from msgspec.structs import replace

from rimecrest.core.check.findings import Finding
from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.seen import Outcome, SeenPanel, SeenTab, SeenToolbar
from rimecrest.core.pictures.index import PictureIndex
from rimecrest.core.release.pictures import picture_names
from rimecrest.core.search import Match
from rimecrest.core.words import counted, owned, tr
from rimecrest.core.workspace.own_pictures import OWN
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.studio.layout.targets import command_entries, macro_entries
from rimecrest.studio.pictures.wall import spoken
from rimecrest.studio.shared.session import Session

PICTURES = 3
"""Pictures that a word finds among the rest; the chooser finds more."""


def findable(session: Session, show: Callable[[Finding], object]) -> list[Match]:
    """Commands, macros, items, surfaces, own pictures and findings of the workspace as it is now.

    Args:
        show: goes to a finding, whatever is aimed at.
    """
    workspace, app = session.workspace, session.aim.app
    found = [with_use(workspace, app, entry) for entry in macro_entries(workspace)]
    try:
        outcome = session.outcome()
    except RimecrestError:
        pass  # without a catalogue there are still macros, findings and actions
    else:
        found += [with_use(workspace, app, entry) for entry in command_entries(workspace, app, outcome)]
        found += _items(outcome)
        found += _surfaces(outcome, workspace.catalogue(app).title)
    found += [Match("picture", f"{OWN}{file}", spoken(f"{OWN}{file}"), tr("picture of your own"))
              for file in sorted(workspace.pictures)]  # fmt: skip
    found += [_finding(workspace, finding, show) for finding in session.checked.findings]
    return found


def with_use(workspace: Workspace, app: str, entry: Match) -> Match:
    """The entry with how often it is used, where that is counted."""
    target = entry.id.rpartition("/")[2]
    uses = workspace.habits.uses(app, target)
    if not uses:
        return entry
    used = counted(uses, tr("use"))
    return replace(entry, hint=tr("{hint} · {used} in 30 days", hint=entry.hint, used=used))


def _items(outcome: Outcome) -> list[Match]:
    return [
        Match("item", item.id, item.label, tr("item on {title}", title=row.title), item.tip)
        for row, item in outcome.buttons()
        if item.label
    ]


def _surfaces(outcome: Outcome, title: str) -> list[Match]:
    kinds = ((SeenTab, tr("tab")), (SeenToolbar, tr("toolbar")), (SeenPanel, tr("panel")))
    things = [*outcome.tabs, *outcome.rows()]
    return [
        Match("surface", thing.id, thing.title, f"{words} · {title}", words)
        for thing in things
        for kind, words in kinds
        if isinstance(thing, kind) and thing.title
    ]


def _finding(workspace: Workspace, finding: Finding, show: Callable[[Finding], object]) -> Match:
    catalogue = workspace.catalogues.get(finding.app)
    where = ""
    if finding.layer and catalogue is not None:
        where = f"{owned(workspace.layer_title(finding.layer))} {catalogue.title}"
    hint = " · ".join(part for part in (finding.weight.word, where) if part)
    return Match("finding", finding.where, finding.sentence, hint, action=lambda: show(finding))


class Pictures:
    """The pictures of the free sets, found by a word."""

    def __init__(self) -> None:
        self._index: PictureIndex | None = None

    def find(self, typed: str) -> list[Match]:
        """The first few; their index is made when it is asked for first."""
        if self._index is None:
            self._index = PictureIndex(picture_names())
        return [
            Match("picture", f"set:{name}", spoken(f"set:{name}"), tr("picture"))
            for name in self._index.find(typed, PICTURES, alike=False)
        ]
