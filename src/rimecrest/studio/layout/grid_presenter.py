"""What is done to things on a panel's free grid: from an intent to an edit. No widgets in here."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from msgspec.structs import replace

from rimecrest.core.layout.panel_grid import Axis, Cells, Side, columns_of, inside, lined_up, places, spread
from rimecrest.core.layout.seen import SeenPanel
from rimecrest.core.words import tr
from rimecrest.core.workspace.edits import SetFields, Together
from rimecrest.studio.shared.session import Session


class GridPresenter:
    """Moves, sizes and lines up what stands on a free grid. Each intent answers whether it was done."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def panel_of(self, things: Sequence[str]) -> SeenPanel | None:
        """The panel with a free grid that all of these stand on."""
        seen = self._session.outcome()
        rows = {row.id: row for thing in things if (row := seen.row_of(thing)) is not None}
        panel = next(iter(rows.values()), None)
        fits = len(rows) == 1 and isinstance(panel, SeenPanel) and panel.flow == "grid"
        return panel if fits and isinstance(panel, SeenPanel) else None

    def put(self, panel: SeenPanel, moved: Mapping[str, Cells], words: str) -> bool:
        """Put things at places of a panel; what nobody has placed yet stays where it stands now."""
        now = places(panel)
        wanted = {name: inside(cells, columns_of(panel)) for name, cells in moved.items()}
        stored = {item.id: item.at for item in panel.items}
        fixed = {**now, **wanted}
        aim = self._session.aim
        edits = tuple(
            SetFields(aim.layer, aim.app, name, {"at": cells.as_stored()}, words)
            for name, cells in fixed.items()
            if stored[name] != tuple(cells.as_stored())
        )
        if all(now[name] == cells for name, cells in wanted.items()):
            return False
        return self._session.do(Together(words, edits))

    def nudge(self, things: Sequence[str], right: int, down: int) -> bool:
        """Move things by some cells."""
        panel = self.panel_of(things)
        if panel is None:
            return False
        now = places(panel)
        moved = {
            name: replace(now[name], column=now[name].column + right, row=now[name].row + down)
            for name in things
        }
        return self.put(panel, moved, tr("move"))

    def resize(self, things: Sequence[str], right: int, down: int) -> bool:
        """Make things larger by some cells, or smaller."""
        panel = self.panel_of(things)
        if panel is None:
            return False
        now = places(panel)
        most = columns_of(panel)
        sized = {
            name: replace(
                now[name],
                columns=max(1, min(now[name].columns + right, most - now[name].column)),
                rows=max(1, now[name].rows + down),
            )
            for name in things
        }
        return self.put(panel, sized, tr("size"))

    def line_up(self, things: Sequence[str], side: Side) -> bool:
        """Put one edge of several things on one line."""
        panel = self.panel_of(things)
        if panel is None:
            return False
        now = places(panel)
        return self.put(panel, lined_up({name: now[name] for name in things}, side), tr("line up"))

    def spread(self, things: Sequence[str], axis: Axis) -> bool:
        """Give several things equal gaps."""
        panel = self.panel_of(things)
        if panel is None:
            return False
        now = places(panel)
        return self.put(panel, spread({name: now[name] for name in things}, axis), tr("equal gaps"))
