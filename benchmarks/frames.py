"""What has to be there within one frame of the screen: a typed letter, a page or many rows scrolled."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable

FRAME = 1 / 60
"""Seconds that a screen shows one picture."""
TRIES = 60
PAGES, LINES = 300, 34
ROWS, COLUMNS = 100_000, 30
Row = tuple[str, str, str, str]


def within_a_frame(what: str, action: Callable[[], object]) -> Row:
    """A row of the table: the median of many tries, and how much of a frame that is."""
    took = []
    for _ in range(TRIES):
        start = time.perf_counter()
        action()
        took.append(time.perf_counter() - start)
    middle, worst = statistics.median(took), max(took)
    against = f"a frame ({FRAME * 1000:.1f} ms); the longest {worst * 1000:.1f} ms"
    return what, f"{middle * 1000:,.1f} ms", f"{middle / FRAME:.2f} ×", against


def rows() -> list[Row]:
    """All rows of this kind."""
    return [*_letter(), _sheet()]


def _letter() -> list[Row]:
    from PyQt6.QtTest import QTest

    from rimecrest.kit.window import AppWindow
    from rimecrest.shell.start import make_qt_application
    from rimecrest.shell.there import there
    from rimecrest_standins.letters.document import LetterDocument
    from rimecrest_standins.letters.letters import declarations

    qt = make_qt_application("Letters")
    window = AppWindow(declarations, LetterDocument, None)
    window.resize(1280, 800)
    window.show()
    document = window.document
    assert isinstance(document, LetterDocument)
    document.widget.setFocus()
    qt.processEvents()
    handle = window.windowHandle()

    def press() -> None:
        QTest.keyClick(handle, "a")
        qt.processEvents()  # this draws the letter

    found = [within_a_frame("a key pressed in Letters is on the screen", press)]
    paragraph = "<p>Brinholt berths at North from Monday on; mind the tide and the boards.</p>"
    document.page.setHtml(paragraph * PAGES * LINES)
    bar = there(document.page.verticalScrollBar())
    qt.processEvents()

    def scroll() -> None:
        bar.setValue((bar.value() + 700) % bar.maximum())
        qt.processEvents()

    found.append(within_a_frame(f"a letter of {PAGES} pages scrolled on by one", scroll))
    document.saved()
    window.close()
    return found


def _sheet() -> Row:
    from rimecrest.kit.documents.open_documents import OpenDocuments
    from rimecrest.shell.start import make_qt_application
    from rimecrest.shell.there import there
    from rimecrest_standins.grid.book import Cell, row_of
    from rimecrest_standins.grid.document import GridDocument

    qt = make_qt_application("Grid")
    documents = OpenDocuments(GridDocument)
    document = documents.current
    assert isinstance(document, GridDocument)
    filled = row_of({column: Cell(str(column * 37)) for column in range(COLUMNS)})
    document.sheet.rows = [filled] * ROWS
    documents.widget.resize(1280, 800)
    documents.widget.show()
    document.refresh()
    qt.processEvents()
    bar = there(document.widget.cells.verticalScrollBar())

    def scroll() -> None:
        bar.setValue((bar.value() + 31) % max(bar.maximum(), 1))
        qt.processEvents()

    row = within_a_frame(f"{ROWS:,} × {COLUMNS} cells scrolled on by a page", scroll)
    documents.widget.close()
    return row
