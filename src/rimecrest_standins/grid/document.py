"""A workbook in a window: which sheet, which cells are chosen, what is being written."""

from __future__ import annotations

import time
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from itertools import chain
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtCore import QRect, QTimer
from PyQt6.QtGui import QTextDocument
from PyQt6.QtWidgets import QMessageBox

from rimecrest.core.errors import RimecrestError
from rimecrest.core.progress import Tell
from rimecrest.core.template_fields import filled
from rimecrest.core.words import listed, tr
from rimecrest.kit.documents.document import Documents, Move
from rimecrest.kit.documents.file_document import FileDocument, text_of
from rimecrest.kit.documents.undo import PatchUndo
from rimecrest.shell.plain_text import plain_text
from rimecrest.shell.there import there
from rimecrest_standins.formatted_text.html_bounds import check_page
from rimecrest_standins.grid.book import Book, Cell, Rearrange, Row, Sheet, Splice, cells_of
from rimecrest_standins.grid.files import Opened, csv_text, read_csv, read_spreadsheet, run_elsewhere
from rimecrest_standins.grid.formulas import Value, shown
from rimecrest_standins.grid.place import Place, way_on_sheet
from rimecrest_standins.grid.reckoner import Reckoner
from rimecrest_standins.grid.sheet_model import SheetModel
from rimecrest_standins.grid.spreadsheet_writing import spreadsheet_bytes
from rimecrest_standins.grid.view import GridView
from rimecrest_standins.grid.words import filter_words

SPREADSHEET = ".ods"
TEXT = (".csv", ".tsv", ".txt")
LARGE = 24 * 1024
"""Bytes of a spreadsheet, which is packed, from which opening it shows its progress: a second's work."""
MANY = 8_000
"""Filled cells of a workbook from which saving it does."""


SLICE = 0.03
"""Seconds of working out after which the window answers in between."""


class GridDocument(FileDocument):
    """The document of Grid."""

    noun = "workbook"
    kinds = tr("Workbooks (*.ods);;Values (*.csv *.tsv);;All files (*)")
    ending = SPREADSHEET

    def __init__(self, documents: Documents) -> None:
        super().__init__(documents)
        self.undo: PatchUndo = PatchUndo(self, self.place, self.go)
        self.book = Book(self._record, self._touched)
        self.reckoner = Reckoner(self.book)
        self._slice = QTimer()
        self._slice.setSingleShot(True)
        self._slice.timeout.connect(self._next_slice)
        self._slice_ends = 0.0
        self._as_text: bool | None = None
        """Whether text that other programs would run as a formula is written as text; None: not asked yet."""
        self._wanted = False
        """Whether cells were drawn whose values are not known yet."""
        self.sheet: Sheet = self.book.sheets[0]
        """What could not be kept of the file that was opened."""
        self.replaced = 0
        """How many cells the last replacing has changed."""
        self._stale = False
        """Whether the book changed since it was shown."""
        self._goes_on: Place | None = None
        """The cell in which a macro goes on with what was being written when it began."""
        self._left: dict[str, Place] = {}
        """Where the cursor was on the sheets that are not shown."""
        self._model = SheetModel(self)
        self.widget: GridView = GridView(self, self._model)
        self.widget.typed.connect(self.typed)
        self.widget.composing.connect(self.composing)
        self.widget.wants.connect(self.wants)
        self._renew()
        self.go(Place.on(self.sheet.name, 0, 0))

    def _record(self, patch: Splice | Rearrange) -> None:
        self.undo.record(patch)

    def _touched(self, patch: Splice | Rearrange, old: tuple[Row, ...], new: tuple[Row, ...]) -> None:
        self.reckoner.take(patch, old, new)
        if self.sheet not in self.book.sheets:
            self.sheet = self.book.sheets[0]
        self._stale = True

    # The cursor

    def place(self) -> Place:
        top, left, bottom, right, row, column = self.widget.chosen()
        return Place(self.sheet.name, row, column, top, left, bottom, right, *self.widget.field_cursor())

    def offset(self) -> int:
        return max(self.place().at, 0)

    def replaces(self) -> bool:
        # Even nothing, written, opens the cell: what is done next is done in it.
        return bool(self.place().reach) if self.entering else True

    def spot(self) -> QRect:
        cells = self.widget.cells
        cells.scrollTo(cells.currentIndex())
        box = cells.visualRect(cells.currentIndex())
        return box.translated(there(cells.viewport()).mapTo(self.widget, box.topLeft()) - box.topLeft())

    def go(self, place: Place) -> None:
        sheet = self.book.sheet(place.sheet)
        if sheet is not None and sheet is not self.sheet:
            self._left[self.sheet.name] = self.place()
            self.sheet = sheet
            self._stale = True
        self.refresh()
        if place.bottom >= self._model.rows or place.right >= self._model.columns:
            self._make_room(place)
        self.widget.choose(place.top, place.left, place.bottom, place.right, place.row, place.column)
        self.widget.tell()

    def go_to(self, row: int, column: int) -> None:
        """Put the cursor on one cell of this sheet. Raises RimecrestError outside of it."""
        if row < 0 or column < 0:
            raise RimecrestError(tr("The sheet ends here."))
        self.go(Place.on(self.sheet.name, row, column))

    def go_to_found(self, row: int, column: int) -> None:
        """The same for something that was looked for: it stands in the middle of what is seen."""
        self.go_to(row, column)
        self.widget.centre()

    def _make_room(self, place: Place) -> None:
        if self._model.visible is None:
            self._model.beginResetModel()
            self._model.rows = max(self._model.rows, place.bottom + 200)
            self._model.columns = max(self._model.columns, place.right + 6)
            self._model.endResetModel()
            self.widget.show_widths(self.sheet.widths)

    def show_sheet(self, sheet: Sheet) -> None:
        """Show another sheet, with the cursor where it was left."""
        self.settle()
        self.go(self._left.get(sheet.name, Place.on(sheet.name, 0, 0)))

    @property
    def here(self) -> Cell:
        place = self.place()
        return self.sheet.cell(place.row, place.column)

    def soon(self, row: int, column: int) -> Value | None:
        """The value of a cell of this sheet, for drawing; None: not yet, and it is drawn again when it is.

        All cells of one drawing together are waited for so long that the window answers in between.
        """
        if not self._slice.isActive():
            self._slice_ends = time.monotonic() + SLICE
            self._slice.start(0)
        value = self.reckoner.value_until(self.sheet, row, column, self._slice_ends)
        self._wanted |= value is None
        return value

    def _next_slice(self) -> None:
        if self._wanted:
            self._wanted = False
            there(self.widget.cells.viewport()).update()

    def shown(self, row: int, column: int) -> str:
        """What a cell of this sheet shows."""
        cell = self.sheet.cell(row, column)
        return shown(self.reckoner.value(self.sheet, row, column), cell.look.form)

    def chosen_cells(self) -> Iterator[tuple[int, int, Cell]]:
        """The filled cells of what is chosen; rows that are narrowed away are left out."""
        place, rows = self.place(), self.seen_rows()
        seen = None if rows is None else set(rows)
        for row, column, cell in cells_of(self.sheet, place.top, place.left, place.bottom, place.right):
            if seen is None or row in seen:
                yield row, column, cell

    def chosen_numbers(self) -> list[float]:
        values = (self.reckoner.value(self.sheet, row, column) for row, column, _ in self.chosen_cells())
        return [value for value in values if isinstance(value, float)]

    def numbers_to_add(self) -> Iterator[float | None]:
        """The number in each filled cell of what is chosen, None for words; nothing for a single cell."""
        for row, column, _ in self.chosen_cells() if self.place().is_block else ():
            value = self.reckoner.value(self.sheet, row, column)
            yield value if isinstance(value, float) else None

    def filter_words(self) -> str:
        """Which rows are seen, and how many are not; empty where all are."""
        narrow, rows = self.sheet.narrowed, self.seen_rows()
        if narrow is None or rows is None:
            return ""
        heading = self.shown(narrow.heading, narrow.column)
        return filter_words(heading, narrow.column, narrow.text, max(self.sheet.height - len(rows), 0))

    def seen_rows(self) -> list[int] | None:
        """The rows that are seen where the sheet is narrowed; None: all."""
        narrow = self.sheet.narrowed
        if narrow is None:
            return None
        seen = [
            row
            for row in range(len(self.sheet.rows))
            if row <= narrow.heading or self.shown(row, narrow.column) == narrow.text
        ]
        return seen or [0]

    def innermost(self) -> tuple[str, ...]:
        if self.widget.note.isVisible():
            return ("note",)
        if self.widget.field.isVisible():
            return ("sum",) if self.widget.field.text().startswith("=") else ("writing",)
        return ("cell",)

    def has_selection(self, place: Place) -> bool:
        return place.reach != 0

    def moves(self, before: Place, after: Place) -> Sequence[Move]:
        """The way from one place to another: by sheet, then relative to where it began."""
        if before == after:
            return []
        found: list[Move] = []
        if after.at >= 0:
            # The cursor went along in what is being written.
            if (by := after.at - max(before.at, 0)) or not after.reach:
                found.append(("go-characters", {"by": str(by)}))
            if after.reach:
                found.append(("select-characters", {"by": str(after.reach)}))
            return found
        if before.at >= 0:
            # A command that was refused in the end had the writing kept before. What was written may have
            # filtered its own row away: then the cursor stands where keeping it puts it.
            found.append(("confirm", {}))
            before = replace(before, row=self._landing(before))
        if before.sheet != after.sheet:
            found.append(("go-to-sheet", {"name": after.sheet}))
            before = self._left.get(after.sheet, Place.on(after.sheet, 0, 0))
        steps_down = self._rows_between(before, after)
        return [*found, *way_on_sheet(before, after, steps_down, (self.last_row(), self.last_column()))]

    def _landing(self, place: Place) -> int:
        """The row that the cursor comes to stand in when it is put to a place: the next one that is seen."""
        if place.sheet != self.sheet.name:
            return place.row
        return self._model.sheet_row(self._model.shown_row(place.row))

    def _rows_between(self, before: Place, after: Place) -> int:
        """Steps down from one row to the other, as `move-by` counts them: among the rows that are seen."""
        rows = self.seen_rows()
        if rows is None or before.row not in rows or after.row not in rows:
            return after.row - before.row
        return rows.index(after.row) - rows.index(before.row)

    # Writing

    @property
    def writing(self) -> bool:
        return self.widget.field.isVisible()

    @property
    def entering(self) -> bool:
        """Whether something is being written, in a cell or in a note."""
        return self.writing or self.widget.note.isVisible()

    def last_row(self) -> int:
        """The last row that is shown: a choice that reaches it is one of whole columns."""
        return self._model.sheet_row(self._model.rows - 1)

    def last_column(self) -> int:
        return self._model.columns - 1

    def start_writing(self, text: str) -> None:
        """Begin to write in the cell here."""
        self.settle()
        field = self.widget.field
        field.setText(text)
        field.show()
        self.widget.place_fields()
        field.raise_()
        field.setFocus()
        self.widget.tell()

    def start_note(self) -> None:
        self.settle()
        note = self.widget.note
        note.setPlainText(self.here.note)
        note.moveCursor(note.textCursor().MoveOperation.End)
        note.show()
        self.widget.place_fields()
        note.raise_()
        note.setFocus()

    def write(self, text: str) -> None:
        """Write at the cursor: in the field that is open, else in the cell here, in place of what it had.

        In a cell a tab goes on to the right, a line break to the row beneath.
        """
        if self.widget.note.isVisible():
            self.widget.note.insertPlainText(text)
            return
        column = self.place().column
        for number, line in enumerate(text.split("\n")):
            if number:
                self.keep_writing()
                self.go_to(self.place().row + 1, column)
            for index, part in enumerate(line.split("\t")):
                if index:
                    self.keep_writing()
                    self.go_to(self.place().row, self.place().column + 1)
                if not self.writing:
                    goes_on, self._goes_on = self._goes_on, None
                    self.start_writing(self.here.written if goes_on == self.place() else "")
                    self.widget.field.end(False)
                self.widget.field.insert(part)
        self.widget.place_fields()
        self.widget.tell()

    def run_begins(self) -> None:
        writing = self.writing
        self.settle()
        self._goes_on = self.place() if writing else None

    def keep_writing(self) -> None:
        """Keep what was written in the cell, or in the note."""
        field, note, place = self.widget.field, self.widget.note, self.place()
        cell = self.here
        if field.isVisible():
            made = replace(cell, written=field.text())
            self._shut(field)
        elif note.isVisible():
            made = replace(cell, note=plain_text(there(note.document())).strip(" \n"))
            self._shut(note)
        else:
            return
        if made != cell:
            with self.change("note" if made.written == cell.written else "writing"):
                self.book.put(self.sheet, place.row, place.column, made)
            self.go(place)

    def drop_writing(self) -> None:
        """Leave the cell as it was."""
        self._shut(self.widget.field)
        self._shut(self.widget.note)

    def _shut(self, field: object) -> None:
        if field in (self.widget.field, self.widget.note):
            window = self.widget.window()
            # Also while the window is in the background. Before it goes: the toolkit would give the keys to
            # whatever stands next, as a panel's field.
            if window is not None and window.focusWidget() is field:
                self.widget.cells.setFocus()
            field.hide()
        self.widget.tell()

    def make_live(self, context: str) -> None:
        if context in ("cell", "anywhere"):
            self.settle()

    def settle(self) -> None:
        self.keep_writing()

    def abandon(self) -> None:
        self.drop_writing()

    # Changing

    @contextmanager
    def change(self, label: str, fold: str = "") -> Iterator[None]:
        try:
            with self.undo.change(label, fold):
                yield
        finally:
            # Shown when it is over, whether it went well or not.
            self.refresh()

    def refresh(self) -> None:
        """Show the book as it is now, once after each change."""
        if self._stale:
            self._stale = False
            self._renew()

    def _renew(self) -> None:
        self._stale = False
        model, view = self._model, self.widget
        names = [sheet.name for sheet in self.book.sheets]
        view.show_sheets(names, self.book.sheets.index(self.sheet))
        if model.fits() and model.sheet_now is self.sheet:
            there(view.cells.viewport()).update()
        else:
            place = view.chosen()
            model.take_over()
            view.choose(*place)
        view.show_widths(self.sheet.widths)
        view.show_filter(self.filter_words())
        view.tell()

    # Templates

    def field_text(self) -> str:
        return "\n".join(
            text
            for sheet in self.book.sheets
            for row in sheet.rows
            for cell in row.values()
            for text in (cell.written, cell.note)
            if "[[" in text
        )

    def fill_fields(self, answers: Mapping[str, str]) -> None:
        for sheet in self.book.sheets:
            for number, row in enumerate(list(sheet.rows)):
                for column, cell in list(row.items()):
                    if "[[" in cell.written or "[[" in cell.note:
                        written, note = filled(cell.written, answers), filled(cell.note, answers)
                        self.book.put(sheet, number, column, replace(cell, written=written, note=note))

    def put_block(self, path: Path) -> None:
        page = QTextDocument()
        page.setHtml(check_page(text_of(path)))
        place, written = self.place(), plain_text(page).strip()
        self.book.put(self.sheet, place.row, place.column, replace(self.here, written=written))

    # Files

    def modified(self) -> bool:
        return self.undo.modified or self.entering or self.macros_changed

    def saved(self) -> None:
        self.undo.saved_at = self.undo.last

    def keeps_all(self, path: Path) -> bool:
        return path.suffix.lower() == SPREADSHEET

    def read_from(self, path: Path) -> None:
        if path.suffix.lower() in TEXT:
            opened = self.read_long(path, lambda tell: Opened(read_csv(text_of(path), tell)))
        else:
            opened = self.read_long(path, lambda tell: read_spreadsheet(path, tell), LARGE)
        sheets, self.unkept = opened.sheets, opened.lost
        self.macros, self.template = dict(opened.macros), opened.template
        self.drop_writing()
        self.book.sheets = sheets
        self.sheet = sheets[0]
        self._left.clear()
        self._as_text = None
        self.undo.forget()
        self.reckoner.forget()
        self._model.sheet_now = None
        self._renew()
        self.go(Place.on(self.sheet.name, 0, 0))

    def _asked_as_text(self, path: Path, sheet: Sheet, large: bool) -> bool:
        """Whether what other programs would run as formulas is written as text: asked once a workbook.

        Raises:
            RimecrestError: it is not to be written.
        """
        words, said = tr("Looking through the cells …"), tr("“{name}” was not saved.", name=path.name)
        cells = self._long(large, words, said, lambda tell: run_elsewhere(sheet, tell))
        if not cells or self._as_text is not None:
            return bool(cells and self._as_text)
        box = QMessageBox(self.widget)
        box.setObjectName("run-elsewhere")
        box.setIcon(QMessageBox.Icon.Warning)
        box.setText(tr("Other programs may run {cells} as formulas.", cells=listed(cells, 4)))
        box.setInformativeText(tr("As text, they begin with an apostrophe there."))
        as_text = box.addButton(tr("Write them as text"), QMessageBox.ButtonRole.AcceptRole)
        as_it_is = box.addButton(tr("Write them as they are"), QMessageBox.ButtonRole.DestructiveRole)
        box.addButton(tr("Do not save"), QMessageBox.ButtonRole.RejectRole)
        box.setDefaultButton(as_text)
        box.exec()
        if box.clickedButton() not in (as_text, as_it_is):
            raise RimecrestError(said, tr("Everything is as it was."))
        self._as_text = box.clickedButton() is as_text
        return self._as_text

    def write_to(self, path: Path, macros: bool = True) -> None:
        kept, template = (self.macros, self.template) if macros else ({}, "")
        sheet, large = self.sheet, sum(map(len, chain(*(sheet.rows for sheet in self.book.sheets)))) >= MANY

        as_text = path.suffix.lower() in TEXT and self._asked_as_text(path, sheet, large)

        def content(tell: Tell) -> bytes:
            # With values of its own where it goes on in a thread: those of the screen are worked out there.
            reckoner = Reckoner(self.book) if large else self.reckoner
            if path.suffix.lower() in TEXT:
                return csv_text(sheet, reckoner, tell, as_text).encode()
            return spreadsheet_bytes(self.book.sheets, reckoner, kept, template, tell)

        self.write_long(path, large, content)
