"""A list as a document: rows that are found by a key, some of them chosen, one of them the current one.

An application brings a model of its columns and says what a row is called; what is chosen, undo, the recorder
and the commands that move in the list are here.
"""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Callable, Sequence
from contextlib import AbstractContextManager
from typing import Annotated, Any

from msgspec import Struct
from PyQt6.QtCore import QAbstractTableModel, QItemSelection, QItemSelectionModel, QModelIndex, QRect, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QAbstractItemView, QFrame, QHeaderView, QTableView

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.kit.declare import Among, Between, Declarations
from rimecrest.kit.documents.document import Documents, Move
from rimecrest.kit.documents.typed_keys import MOVE_KEYS, moves_with
from rimecrest.kit.documents.undo import PatchUndo
from rimecrest.kit.documents.widget_document import CursorlessDocument

ROW_HEIGHT = 25
"""Pixels."""


class ListModel(QAbstractTableModel):
    """Rows by key. An application says in `titles` and `data` what stands in their columns."""

    @property
    def titles(self) -> tuple[str, ...]:
        """What stands over each column."""
        return ()

    def __init__(self) -> None:
        super().__init__()
        self.keys: list[str] = []
        self.rows: dict[str, int] = {}
        """Key → row."""

    def show(self, keys: Sequence[str]) -> None:
        """Show other rows."""
        self.beginResetModel()
        self.keys = list(keys)
        self.rows = {key: row for row, key in enumerate(self.keys)}
        self.endResetModel()

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:
        return 0 if parent.isValid() else len(self.keys)

    def columnCount(self, parent: QModelIndex = QModelIndex()) -> int:
        return 0 if parent.isValid() else len(self.titles)

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = 0) -> Any:
        if orientation != Qt.Orientation.Horizontal or role != Qt.ItemDataRole.DisplayRole:
            return None
        return self.titles[section]


class ListTable(QTableView):
    """Shows a `ListModel`. Its keys move in it; all others are hotkeys or nothing."""

    def __init__(self, model: ListModel, widths: dict[int, int], wide: int) -> None:
        """`widths`: column → pixels; the column `wide` has the rest."""
        super().__init__()
        self.setModel(model)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.setShowGrid(False)
        self.setWordWrap(False)
        self.setTabKeyNavigation(False)
        rows, columns = self.verticalHeader(), self.horizontalHeader()
        assert rows is not None
        assert columns is not None
        rows.hide()
        rows.setDefaultSectionSize(ROW_HEIGHT)
        # All rows are of one height: ten thousand of them need not be measured.
        rows.setSectionResizeMode(QHeaderView.ResizeMode.Fixed)
        columns.setHighlightSections(False)
        columns.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        columns.setSectionResizeMode(wide, QHeaderView.ResizeMode.Stretch)
        for column, width in widths.items():
            self.setColumnWidth(column, width)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if not moves_with(event, MOVE_KEYS):
            event.ignore()
        elif event.key() in (Qt.Key.Key_Home, Qt.Key.Key_End):
            extends = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self._go_to_end(event.key() == Qt.Key.Key_End, extends)
        else:
            super().keyPressEvent(event)

    def _go_to_end(self, last: bool, extends: bool) -> None:
        """To the first row or the last one: among the columns of a row there is nothing to go to."""
        model, selection = self.model(), self.selectionModel()
        if model is None or selection is None or not model.rowCount():
            return
        to, wide = model.rowCount() - 1 if last else 0, model.columnCount() - 1
        start = max(self.currentIndex().row(), 0) if extends else to
        rows = QItemSelection(model.index(min(start, to), 0), model.index(max(start, to), wide))
        selection.setCurrentIndex(model.index(to, 0), QItemSelectionModel.SelectionFlag.NoUpdate)
        selection.select(rows, QItemSelectionModel.SelectionFlag.ClearAndSelect)


class Chosen(Struct, frozen=True):
    """The current row and all that are chosen, from above."""

    key: str
    keys: tuple[str, ...]


class ListDocument(CursorlessDocument):
    """A document whose `table` shows its `model`. Changes are recorded as patches."""

    row_noun = "row"
    """What a row is, in names of commands: `message`."""

    def __init__(self, documents: Documents, model: ListModel, table: ListTable) -> None:
        super().__init__(documents)
        self.model = model
        self.table = table
        self.undo: PatchUndo = PatchUndo(self, self.place, self.go)

    @abstractmethod
    def title_of(self, key: str) -> str:
        """What a row is called; several may have one name."""

    @property
    def _selection(self) -> QItemSelectionModel:
        selection = self.table.selectionModel()
        assert selection is not None
        return selection

    @property
    def current_row(self) -> int:
        """The current row, from 0; below 0: there is none."""
        return self._selection.currentIndex().row()

    @property
    def key(self) -> str:
        """The current row's key; empty: there is none."""
        row = self.current_row
        return self.model.keys[row] if 0 <= row < len(self.model.keys) else ""

    @property
    def chosen(self) -> list[str]:
        """The keys of the chosen rows, from above."""
        rows = sorted(index.row() for index in self._selection.selectedRows())
        return [self.model.keys[row] for row in rows]

    def one(self) -> str:
        """The current row's key. Raises RimecrestError when there is none."""
        return self.key or self.some()[0]

    def some(self) -> list[str]:
        """The keys of the chosen rows. Raises RimecrestError when there are none."""
        if not self.chosen:
            raise RimecrestError(
                tr("No {noun} is chosen.", noun=self.row_noun), tr("Choose one in the list first.")
            )
        return self.chosen

    def choose(self, keys: Sequence[str], current: str = "") -> None:
        """Choose rows that are shown; the current one is `current`, else the first of them."""
        rows = [row for key in keys if (row := self.model.rows.get(key)) is not None]
        if not rows:
            self._selection.clear()
            return
        picked = QItemSelection()
        for row in rows:
            picked.select(self.model.index(row, 0), self.model.index(row, len(self.model.titles) - 1))
        index = self.model.index(self.model.rows.get(current, rows[0]), 0)
        self._selection.setCurrentIndex(index, QItemSelectionModel.SelectionFlag.NoUpdate)
        self._selection.select(picked, QItemSelectionModel.SelectionFlag.ClearAndSelect)
        self.table.scrollTo(index)

    def show_keys(self, keys: Sequence[str]) -> None:
        """Show other rows. What is chosen stays so; where it is gone, what is in its place is chosen."""
        chosen, current = self.chosen, self.key
        row = self.model.rows[chosen[0]] if chosen else 0
        self.model.show(keys)
        left = [key for key in chosen if key in self.model.rows]
        self.choose(left or keys[max(min(row, len(keys) - 1), 0) :][:1], current)

    # What every document says

    def change(self, label: str, fold: str = "") -> AbstractContextManager[None]:
        return self.undo.change(label, fold)

    def place(self) -> Any:
        return Chosen(self.key, tuple(self.chosen))

    def go(self, place: Any) -> None:
        self.choose(place.keys, place.key)

    def moves(self, before: Any, after: Any) -> Sequence[Move] | None:
        return [] if before == after else self.way_to(after.keys)

    def way_to(self, chosen: Sequence[str]) -> list[Move] | None:
        """The commands that choose rows by meaning; None where there are none that do."""
        rows = [self.model.rows[key] for key in chosen if key in self.model.rows]
        if not rows or rows != list(range(rows[0], rows[-1] + 1)):
            return None
        if len(rows) == len(self.model.keys) and len(rows) > 1:
            return [(f"select-all-{self.row_noun}s", {})]
        title = self.title_of(chosen[0])
        first: Move = (f"choose-{self.row_noun}", {"name": title})
        if rows[0] == 0:
            first = (f"first-{self.row_noun}", {})
        elif not title or title in map(self.title_of, self.model.keys[: rows[0]]):
            return None
        return [first, *([("select-on", {"by": str(len(rows) - 1)})] if len(rows) > 1 else [])]

    def spot(self) -> QRect:
        viewport = self.table.viewport()
        assert viewport is not None
        box = self.table.visualRect(self._selection.currentIndex())
        return box.translated(viewport.mapTo(self.widget, viewport.rect().topLeft()))


def declare_list(declarations: Declarations, noun: str, context: str, changes: Sequence[str] = ()) -> None:  # noqa: C901  one command after the other
    """Declare moving in a list of `noun`s and choosing them.

    Args:
        changes: the readings that another choice changes.
    """
    command = declarations.command

    def to_row(doc: ListDocument, row: int) -> None:
        if not 0 <= row < len(doc.model.keys):
            raise RimecrestError(tr("There is no {noun} there.", noun=noun))
        doc.choose([doc.model.keys[row]])

    def declare(word: str, about: str, keys: str, row: Callable[[ListDocument], int]) -> None:
        @command(f"{word}-{noun}", f"{word.capitalize()} {noun}", about=about, keys=keys, context=context,
                 changes=changes, picture=f"page-{word}", repeats=True)  # fmt: skip
        def go(doc: ListDocument) -> None:
            to_row(doc, row(doc))

    declare("next", f"Go to the {noun} below", "Ctrl+Down", lambda doc: doc.current_row + 1)
    declare("previous", f"Go to the {noun} above", "Ctrl+Up", lambda doc: doc.current_row - 1)
    declare("first", f"Go to the first {noun}", "Ctrl+Home", lambda doc: 0)
    declare("last", f"Go to the last {noun}", "Ctrl+End", lambda doc: len(doc.model.keys) - 1)

    def choose(doc: ListDocument, name: str) -> None:
        wanted = name.strip().casefold()
        for key in doc.model.keys:
            if doc.title_of(key).casefold() == wanted:
                doc.choose([key])
                return
        raise RimecrestError(tr("There is no {noun} “{name}” here.", noun=noun, name=name))

    # The reading is called after the noun, so it cannot stand in the signature.
    choose.__annotations__["name"] = Annotated[str, Among(f"{noun}s")]
    command(f"choose-{noun}", f"Choose a {noun}", about=f"Go to the {noun} with this name",
            context=context, changes=changes, picture="format-list-text")(choose)  # fmt: skip

    @command(f"select-all-{noun}s", f"Select all {noun}s", about=f"Choose all {noun}s shown",
             keys="Ctrl+A", context=context, changes=changes, picture="select-all",
             everyday=True)  # fmt: skip
    def select_all(doc: ListDocument) -> None:
        doc.choose(doc.model.keys, doc.key)

    @command("select-on", "Select so many more", about=f"Choose so many {noun}s below as well",
             context=context, changes=changes, picture="format-list-text")  # fmt: skip
    def select_on(doc: ListDocument, by: Annotated[int, Between(1, 100_000)] = 1) -> None:
        row = doc.model.rows[doc.one()]
        doc.choose(doc.model.keys[row : row + by + 1])

    @declarations.reading(f"{noun}s", f"The names of the {noun}s that are shown", type="list")
    def names(doc: Any) -> list[str]:
        return [doc.title_of(key) for key in doc.model.keys] if isinstance(doc, ListDocument) else []

    @declarations.reading(f"chosen.{noun}s", f"The names of the chosen {noun}s", type="list")
    def chosen(doc: Any) -> list[str]:
        return [doc.title_of(key) for key in doc.chosen] if isinstance(doc, ListDocument) else []
