"""How long a window does not answer, at the longest, while a macro combines eleven sheets in it."""

from __future__ import annotations

import statistics
import time

SHEETS, ROWS = 11, 1750
RUNS = 5
COMBINE = """macro "All in one"
for grid

set weeks = sheets
do add-sheet name="All"
for each week in weeks
  do go-to-sheet name="{week}"
  do go-to-cell name="A1"
  set more = sheet.rows - 1
  do select-block down="{more}" right=3
  do copy
  do go-to-sheet name="All"
  do go-below
  do paste
end
"""


def row() -> tuple[str, str, str, str]:
    """A row of the table: the longest gap between two looks at the window's events, against one drawing."""
    from rimecrest.core.release.stack import ShelvedMacro, StackState
    from rimecrest.kit.window import AppWindow
    from rimecrest.shell.start import make_qt_application
    from rimecrest_standins.grid.document import GridDocument
    from rimecrest_standins.grid.grid import declarations

    qt = make_qt_application("Grid")
    window = AppWindow(declarations, GridDocument, None)
    window.resize(1280, 800)
    window.show()
    window.stack.use(StackState(app="grid", macros={"all": ShelvedMacro(layer="organisation", text=COMBINE)}))

    def do(verb: str, **args: str) -> None:
        window.dispatcher.perform_or_raise(f"grid:{verb}", args)

    rows = "\n".join(f"Ovessa\t{number}\t{number * 3}\tNorth" for number in range(ROWS))
    for week in range(1, SHEETS + 1):
        if week == 1:
            do("name-sheet", name="Week 1")
        else:
            do("add-sheet", name=f"Week {week}")
        do("go-to-cell", name="A1")
        do("insert-values", text=rows)
    ended: list[str] = []
    window.dispatcher.run_ended.connect(lambda _name, said: ended.append(said))
    longest, drawn = [], []
    for _ in range(RUNS):
        ended.clear()
        window.dispatcher.perform("macro:all")
        gap, last = 0.0, time.perf_counter()
        while not ended:
            qt.processEvents()
            now = time.perf_counter()
            gap, last = max(gap, now - last), now
        longest.append(gap)
        assert window.document.book.sheets[-1].height >= SHEETS * ROWS, ended
        do("undo")
        qt.processEvents()
        start = time.perf_counter()
        window.grab()
        drawn.append(time.perf_counter() - start)
    window.document.saved()
    window.close()
    gap, one = max(longest), statistics.median(drawn)
    return (
        f"{SHEETS} sheets combined by a macro: the longest without an answer",
        f"{gap * 1000:,.1f} ms",
        f"{gap / one:.2f} ×",
        f"drawing that window again ({one * 1000:,.1f} ms)",
    )
