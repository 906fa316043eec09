"""What a workbook is shown in: the line of the cell, the cells, the names of the sheets.

Typing comes out as the signal `typed`, gestures of the mouse as `wants`; only moving among cells and inside a
field is left to the toolkit.
"""

from __future__ import annotations

from collections.abc import Iterator
from itertools import islice
from typing import Any

from PyQt6.QtCore import QItemSelection, QItemSelectionModel, QRect, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QInputMethodEvent, QResizeEvent
from PyQt6.QtWidgets import QAbstractItemView, QHBoxLayout, QLabel, QToolButton, QVBoxLayout, QWidget

from rimecrest.core.words import tr
from rimecrest.shell.theme import bold, font
from rimecrest.shell.there import there
from rimecrest_standins.grid.book import cell_name, letters_of
from rimecrest_standins.grid.cell_fields import CellField, NoteField
from rimecrest_standins.grid.cells import COLUMN_WIDTH, ROW_HEIGHT, Cells
from rimecrest_standins.grid.sheet_model import PIXELS, SheetModel, Shown
from rimecrest_standins.grid.sheet_row import SheetRow
from rimecrest_standins.grid.words import total_words

RESTS = 40
"""Milliseconds without another place chosen after which its numbers are added up."""
AT_ONCE = 1000
"""Cells that are added up before the window answers again."""
LEAST_SHARE, MOST_SHARE = 60, 300
"""Per cent that a sheet is shown at, at least and at most."""


class GridView(QWidget):
    """The whole document area.

    Signals:
        typed(text), composing(event): what is written.
        wants(verb, settings): a gesture of the mouse that is a command.
    """

    typed = pyqtSignal(str)
    composing = pyqtSignal(QInputMethodEvent)
    wants = pyqtSignal(str, dict)

    def __init__(self, doc: Shown, model: SheetModel) -> None:
        super().__init__()
        self._doc = doc
        self.setObjectName("workbook")
        self.setAutoFillBackground(True)
        self.model = model
        self._adding_up = QTimer(self)
        self._adding_up.setSingleShot(True)
        self._numbers: Iterator[float | None] = iter(())
        self._added: list[float] = []
        self._adding_up.timeout.connect(self._add_up)
        self.cells = Cells(model, self)
        self.field = CellField(there(self.cells.viewport()))
        self.note = NoteField(there(self.cells.viewport()))
        self._where = QLabel(self)
        self._where.setFont(bold(13))
        self._where.setMinimumWidth(70)
        self._content = QLabel(self)
        self._content.setFont(font(13))
        self._content.setTextFormat(Qt.TextFormat.PlainText)
        self._total = QLabel(self)
        self._total.setFont(font(12))
        self.share = 100
        """Per cent of their size that the cells are shown at."""
        self._filter = QLabel(self)
        self._filter.setObjectName("filter-words")
        self._filter.setFont(bold(12))
        self._filter.setTextFormat(Qt.TextFormat.PlainText)
        self._unfilter = QToolButton(self)
        self._unfilter.setObjectName("show-all-rows")
        self._unfilter.setText(tr("Show all rows"))
        self._unfilter.setFont(font(12))
        self._unfilter.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._unfilter.clicked.connect(self._unfiltered)
        self.sheets = SheetRow(self)
        self.sheets.wants.connect(self.wants)
        line = QHBoxLayout()
        line.setContentsMargins(12, 5, 12, 5)
        line.addWidget(self._where)
        line.addWidget(self._content, 1)
        line.setSpacing(10)
        line.addWidget(self._filter)
        line.addWidget(self._unfilter)
        line.addWidget(self._total)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(0, 0, 0, 0)
        rows.setSpacing(0)
        rows.addLayout(line)
        rows.addWidget(self.cells, 1)
        rows.addWidget(self.sheets)
        self.setFocusProxy(self.cells)
        for source in (self.cells, self.field, self.note):
            source.typed.connect(self.typed)
            source.composing.connect(self.composing)
        self.cells.moved.connect(self.tell)
        self.cells.pressed_in.connect(self._keep_before)
        self.cells.doubleClicked.connect(self._double_clicked)
        self._dragged: tuple[int, int] | None = None
        header = there(self.cells.horizontalHeader())
        header.sectionResized.connect(self._resized)
        self._header_view = there(header.viewport())
        self._header_view.installEventFilter(self)
        there(self.cells.verticalScrollBar()).valueChanged.connect(self._scrolled)
        there(self.cells.horizontalScrollBar()).valueChanged.connect(self._scrolled)

    # Methods, not lambdas: a connection to a method ends with the view, whoever still sends.

    def _double_clicked(self, _index: object) -> None:
        self.wants.emit("start-writing", {})

    def _scrolled(self, _to: int) -> None:
        self.place_fields()

    # Showing

    def centre(self) -> None:
        """Have the cell with the cursor stand in the middle of what is seen."""
        self.cells.scrollTo(self.cells.currentIndex(), QAbstractItemView.ScrollHint.PositionAtCenter)

    def show_at(self, share: int) -> None:
        """Show the cells at so many per cent of their size."""
        if share == self.share:
            return
        self.share = share
        size = round(PIXELS * share / 100)
        self.model.pixels = size
        self.cells.setFont(font(max(size, 11)))
        there(self.cells.verticalHeader()).setDefaultSectionSize(round(ROW_HEIGHT * share / 100))
        there(self.cells.horizontalHeader()).setDefaultSectionSize(round(COLUMN_WIDTH * share / 100))
        self.show_widths(self._doc.sheet.widths)
        self.place_fields()
        self.cells.scrollTo(self.cells.currentIndex())

    def show_filter(self, words: str) -> None:
        """Say which rows are seen; nothing where all are."""
        self._filter.setText(words)
        for part in (self._filter, self._unfilter):
            part.setVisible(bool(words))

    def show_sheets(self, names: list[str], now: int) -> None:
        self.sheets.show_names(names, now)

    def show_widths(self, widths: dict[int, int]) -> None:
        header = self.cells.horizontalHeader()
        there(header).blockSignals(True)
        for column in range(self.model.columns):
            wanted = round(widths.get(column, COLUMN_WIDTH) * self.share / 100)
            if there(header).sectionSize(column) != wanted:
                there(header).resizeSection(column, wanted)
        there(header).blockSignals(False)

    def tell(self) -> None:
        """The line above the cells: which cell, what was written there, the total of what is chosen."""
        place = self._doc.place()
        name = cell_name(place.row, place.column)
        if (place.top, place.left) != (place.bottom, place.right):
            first, last = cell_name(place.top, place.left), cell_name(place.bottom, place.right)
            name = f"{first}:{last}"
        self._where.setText(name)
        written = self.field.text() if self.field.isVisible() else self._doc.here.written
        self._content.setText(written.replace("\n", " ↵ "))
        # Adding up what is chosen takes longer than going on: it waits until that rests.
        self._total.setText("")
        self._numbers = self._doc.numbers_to_add()
        self._added = []
        self._adding_up.start(RESTS)

    def _add_up(self) -> None:
        """Add some of the numbers up, and go on when what waits has had its turn."""
        some = list(islice(self._numbers, AT_ONCE))
        self._added += [value for value in some if value is not None]
        if len(some) == AT_ONCE:
            self._adding_up.start(0)
        else:
            self._total.setText(total_words(self._added))

    def choose(self, top: int, left: int, bottom: int, right: int, row: int, column: int) -> None:
        """Choose a block of the sheet, with the cursor on one of its cells."""
        model = self.model
        rows = sorted((model.shown_row(top), model.shown_row(bottom)))
        columns = model.columns - 1
        selection = QItemSelection(
            model.index(rows[0], min(left, columns)), model.index(rows[1], min(right, columns))
        )
        current = model.index(model.shown_row(row), min(column, columns))
        self.cells.begin_at(current)
        chosen = self.cells.selectionModel()
        there(chosen).setCurrentIndex(current, QItemSelectionModel.SelectionFlag.NoUpdate)
        there(chosen).select(selection, QItemSelectionModel.SelectionFlag.ClearAndSelect)
        self.cells.scrollTo(current)

    def chosen(self) -> tuple[int, int, int, int, int, int]:
        """Top, left, bottom, right, row and column of what is chosen, in rows of the sheet."""
        model, chosen = self.model, self.cells.selectionModel()
        now = there(chosen).currentIndex()
        row, column = (model.sheet_row(max(now.row(), 0)), max(now.column(), 0)) if model.rows else (0, 0)
        ranges = there(chosen).selection()
        if not ranges:
            return row, column, row, column, row, column
        block = ranges[0]
        return (
            model.sheet_row(block.top()),
            block.left(),
            model.sheet_row(block.bottom()),
            block.right(),
            row,
            column,
        )

    # Fields

    def field_cursor(self) -> tuple[int, int]:
        """Where the cursor is in what is being written, and how far the choice reaches; (-1, 0) else."""
        if self.note.isVisible():
            cursor = self.note.textCursor()
            return cursor.anchor(), cursor.position() - cursor.anchor()
        if not self.field.isVisible():
            return -1, 0
        at, length = self.field.cursorPosition(), self.field.selectionLength()
        if not length:
            return at, 0
        start = self.field.selectionStart()
        return (start, length) if at > start else (start + length, -length)

    def set_field_cursor(self, at: int, reach: int) -> None:
        """Put the cursor in what is being written, and choose so many characters from there."""
        if self.note.isVisible():
            cursor = self.note.textCursor()
            last = there(self.note.document()).characterCount() - 1
            cursor.setPosition(min(at, last))
            cursor.setPosition(max(0, min(at + reach, last)), cursor.MoveMode.KeepAnchor)
            self.note.setTextCursor(cursor)
        elif reach:
            self.field.setSelection(at, reach)
        else:
            self.field.setCursorPosition(at)

    def place_fields(self) -> None:
        """Put the field and the note where their cell is."""
        index = self.cells.currentIndex()
        box = self.cells.visualRect(index)
        if self.field.isVisible():
            wide = max(box.width(), self.field.fontMetrics().horizontalAdvance(self.field.text()) + 24)
            self.field.setGeometry(QRect(box.left(), box.top(), wide, box.height()))
        if self.note.isVisible():
            self.note.setGeometry(QRect(box.right() + 6, box.top(), 220, 96))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.place_fields()

    # The mouse

    def _keep_before(self) -> None:
        if self.field.isVisible() or self.note.isVisible():
            self.wants.emit("confirm", {})

    def _unfiltered(self, _checked: bool = False) -> None:
        self.wants.emit("show-all-rows", {})

    def _resized(self, column: int, _before: int, now: int) -> None:
        self._dragged = (column, now)

    def eventFilter(self, watched: Any, event: Any) -> bool:
        released = event.type() == event.Type.MouseButtonRelease
        if released and self._dragged is not None and watched is self._header_view:
            column, width = self._dragged
            self._dragged = None
            whole = round(width * 100 / self.share)
            self.wants.emit("set-width", {"to": str(whole), "column": letters_of(column)})
        return bool(super().eventFilter(watched, event))
