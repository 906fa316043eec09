"""What a colleague arranges in their own window: a layout of the layer *personal*, kept in their profile.

It lies above all layers of the stack, and is a layout like any other: the same outcome, the same rules.
Nothing of the toolkit's own state is kept.
"""

from __future__ import annotations

import contextlib
from itertools import chain, count
from pathlib import Path

from rimecrest.core.catalogue.surfaces import Edge
from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import Folder
from rimecrest.core.identities import AppId, LayerId
from rimecrest.core.keys.bindings import PERSONAL
from rimecrest.core.keys.chords import parse_sequence, touches
from rimecrest.core.keys.contexts import ANYWHERE
from rimecrest.core.layout.layout import KeyBinding, Layout, parse_layout
from rimecrest.core.layout.placing import bind, set_fields, show_again, unbind
from rimecrest.core.log import log
from rimecrest.core.model import dump_record
from rimecrest.core.release.stack import StackState
from rimecrest.core.words import tr


class PersonalLayout:
    """The layout of one colleague for one application. Without a profile it lasts as long as the window."""

    def __init__(self, app: str, profile: Path | None) -> None:
        self._files = Folder(profile) if profile is not None else None
        self._name = f"personal/{app}.json"
        self.layout = Layout(app=AppId(app), layer=LayerId(PERSONAL))
        if self._files is not None and self._files.is_there(self._name):
            try:
                self.layout = parse_layout(self._files.text(self._name), self._name)
            except RimecrestError as error:
                # It is moved aside, not lost: whoever helps can look at it.
                log.warning("own arrangement left out", reason=str(error))
                with contextlib.suppress(RimecrestError):
                    self._files.rename(self._name, _aside(self._files.path / self._name).name)

    def over(self, state: StackState) -> StackState:
        """A stack with what the colleague arranged on top."""
        layouts = tuple(layout for layout in state.layouts if layout.layer != PERSONAL)
        return state.model_copy(update={"layouts": (*layouts, self.layout)})

    def dock(self, state: StackState, bar: str, edge: Edge, at: tuple[int, int] | None = None) -> None:
        """Put a bar at an edge, or let it float at a place of the document.

        Raises:
            RimecrestError: the colleague's layouts are fixed, or it cannot be kept.
        """
        for layout in state.layouts:
            changed = {layout.full(change.of) for change in layout.change}
            changed |= {layout.full(move.of) for move in layout.move}
            holds = bar.rpartition(":")[0] == layout.layer or bar in changed
            if layout.policy == "fixed" and layout.layer != PERSONAL and holds:
                raise RimecrestError(
                    tr(
                        "This toolbar is fixed by {layer}.",
                        layer=state.titles.get(layout.layer, layout.layer),
                    ),
                    tr("Ask whoever shares your layouts."),
                )
        fields = {"edge": edge, "at": list(at) if at is not None else None, "row": None}
        self._keep(set_fields(self.layout, bar, fields))

    def bind(self, state: StackState, keys: str, run: str, context: str = ANYWHERE) -> None:
        """Give something a key of one's own, in place of any it had from here.

        Args:
            context: where it is live: where it can run.

        Raises:
            RimecrestError: a fixed layout has these keys, or it cannot be kept.
        """
        sequence = parse_sequence(keys)
        for layout in state.layouts:
            held = [
                key
                for key in layout.keys
                if touches(parse_sequence(key.keys), sequence) and key.run is not None
            ]
            if layout.policy == "fixed" and layout.layer != PERSONAL and held:
                raise RimecrestError(
                    tr(
                        "{keys} is fixed by {layer}.",
                        keys=held[0].keys,
                        layer=state.titles.get(layout.layer, layout.layer),
                    ),
                    tr("Choose another key."),
                )
        left = self._without(run)
        for identity in [key.identity for key in left.keys if key.keys == keys]:
            left = unbind(left, identity)
        self._keep(bind(left, KeyBinding(keys=keys, in_context=context, run=run)))

    def unbind_all(self, run: str) -> None:
        """Take the keys of something away. Raises RimecrestError when that cannot be kept."""
        left = self._without(run)
        if left != self.layout:
            self._keep(left)

    def _without(self, run: str) -> Layout:
        keys = tuple(key for key in self.layout.keys if key.run != run)
        return self.layout.model_copy(update={"keys": keys})

    def reset(self, bar: str) -> None:
        """Have a bar where the layers beneath put it. Raises RimecrestError when it cannot be kept."""
        self._keep(show_again(self.layout, bar))

    def touches(self, bar: str) -> bool:
        """Whether the colleague has put it somewhere else."""
        return any(change.of == bar for change in self.layout.change)

    def _keep(self, layout: Layout) -> None:
        if self._files is not None:
            self._files.write(self._name, dump_record(layout, "layout").encode())
        self.layout = layout


def _aside(path: Path) -> Path:
    """A name for a broken file under which nothing lies yet."""
    first = path.with_suffix(".json.broken")
    more = (path.with_suffix(f".json.broken-{number}") for number in count(2))
    return next(aside for aside in chain([first], more) if not aside.exists())
