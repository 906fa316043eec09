"""The steps as sentences: chosen, changed where they stand, muted, dragged, cut and put in."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QMimeData, QPoint, QRect, Qt, pyqtSignal
from PyQt6.QtGui import (
    QContextMenuEvent,
    QDragEnterEvent,
    QDragLeaveEvent,
    QDragMoveEvent,
    QDropEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
)
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QApplication,
    QListWidget,
    QListWidgetItem,
)

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.macro.sentences import Piece, mark_words, pieces, sentence
from rimecrest.core.macro.step_tree import END, FIRST, Path, step_numbers, written
from rimecrest.core.macro.steps import Block, Comment, Fault, Macro, Statement
from rimecrest.core.words import tr
from rimecrest.shell.plain_text import is_writable
from rimecrest.shell.theme import Scheme, font
from rimecrest.shell.there import there
from rimecrest.studio.macros.step_painting import (
    BLOCK,
    DEPTH,
    FAULT,
    LEFT,
    MARK,
    MUTED,
    NUMBER,
    PATH,
    PIECES,
    STEP,
    Box,
    StepPainter,
    boxes,
)
from rimecrest.studio.shared.choice_list import ChoiceList

REWORKS = (
    ("mute", tr("Turn off, or on again"), "Space"),
    ("up", tr("Move up"), "Alt+Up"),
    ("down", tr("Move down"), "Alt+Down"),
    ("double", "Duplicate", "Ctrl+D"),
    ("gather", "Group", "Ctrl+G"),
    ("ask", tr("Ask for its text"), "Ctrl+K"),
    ("cut", "Cut", "Ctrl+X"),
    ("copy", "Copy", "Ctrl+C"),
    ("paste", tr("Paste behind it"), "Ctrl+V"),
    ("take-out", tr("Take out"), "Delete"),
)
"""What can be done with the chosen steps: name, words, key."""


def _dropped_file(data: QMimeData | None) -> str:
    """The first file on this computer that is dragged; empty for anything else."""
    urls = data.urls() if data is not None else []
    return next((url.toLocalFile() for url in urls if url.isLocalFile()), "")


class StepList(QListWidget):
    """The steps of one macro.

    Signals:
        reworked(name, paths): one of `REWORKS` was asked for.
        edit_wanted(path, field, rect): a word is to be changed, in the viewport's pixels.
        search_wanted(text): something was typed: a step is to be put in behind the chosen one.
        carried(paths, behind): steps were dragged behind another one.
        went_to(line): a step was chosen; its line in the text, from 1.
        file_dropped(path, name, behind): a file was dropped on a step (empty: beside all), behind that one.
        key_wanted: the macro is to have a key.
    """

    reworked = pyqtSignal(str, list)
    edit_wanted = pyqtSignal(tuple, str, QRect)
    search_wanted = pyqtSignal(str)
    carried = pyqtSignal(list, tuple)
    went_to = pyqtSignal(int)
    file_dropped = pyqtSignal(tuple, str, tuple)
    key_wanted = pyqtSignal()

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme
        self.setObjectName("steps")
        self.setAccessibleName(tr("Steps"))
        self.setFrameShape(QListWidget.Shape.NoFrame)
        self.setItemDelegate(StepPainter(scheme, lambda: self.word, self))
        self.setFont(font(14))
        self.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        self.setMouseTracking(True)
        self.setAcceptDrops(True)
        self.currentRowChanged.connect(self._moved)
        self.word: int | None = None
        """Which word of the chosen step Enter changes, where the arrows went to one."""
        self._lines: list[int] = []
        self._pressed: QPoint | None = None
        self._pressed_field: tuple[Path, Box] | None = None
        self._drop: int | None = None
        """The row that dragged steps would stand before."""

    def show_macro(self, macro: Macro, catalogue: Catalogue | None, faults: list[Fault]) -> None:
        """Show the steps; the chosen ones stay chosen where they can."""
        now, chosen = self.path(), set(self.paths())
        bad: dict[int, str] = {}
        for fault in faults:
            bad.setdefault(fault.line, str(fault))
        self.blockSignals(True)
        self.clear()
        self._lines = []
        numbers = step_numbers(macro)
        for path, step in written(macro):
            if path[-1] < 0:
                self._add_mark(path, step)
            elif isinstance(step, Comment) and not step.comment:
                continue
            else:
                number = "" if isinstance(step, Comment) else str(numbers[step.line])
                self._add_step(path, step, number, bad.get(step.line, ""), catalogue)
            row = self.item(self.count() - 1)
            there(row).setSelected(path in chosen)
            if path == now:
                self.setCurrentItem(row)
        self.blockSignals(False)

    def _add_step(
        self, path: Path, step: Statement, number: str, fault: str, catalogue: Catalogue | None
    ) -> None:
        values = {
            DEPTH: len(path) - 1,
            MUTED: step.muted,
            BLOCK: isinstance(step, Block),
            FAULT: fault,
            NUMBER: number,
            STEP: step,
            PIECES: pieces(step, catalogue),
        }
        self._add(sentence(step, catalogue), path, values, step.line)
        there(self.item(self.count() - 1)).setToolTip(fault)

    def _add_mark(self, path: Path, block: Statement) -> None:
        """The line of an `else`, or the one that ends a block."""
        ends = path[-1] == END
        words = mark_words(block, path[-1])
        values = {
            DEPTH: len(path) - 2,
            MUTED: block.muted,
            BLOCK: not ends,
            FAULT: "",
            NUMBER: "",
            PIECES: (Piece("  "), Piece(words)),
            MARK: path[-1],
        }
        self._add(words, path, values, 0)

    def _add(self, words: str, path: Path, values: dict[int, object], line: int) -> None:
        row = QListWidgetItem(words)
        for role, value in {PATH: path, **values}.items():
            row.setData(role, value)
        self.addItem(row)
        self._lines.append(line)

    # What is chosen

    def path(self) -> Path | None:
        """The step that the keys go to."""
        row = self.currentItem()
        return tuple(row.data(PATH)) if row is not None else None

    def paths(self) -> list[Path]:
        """All chosen steps; an `OTHERWISE` may be among them, the end of a block is none."""
        return [tuple(row.data(PATH)) for row in self.selectedItems() if row.data(MARK) != END]

    def step(self) -> Statement | None:
        row = self.currentItem()
        return row.data(STEP) if row is not None else None

    def row_of(self, path: Path) -> int:
        for index in range(self.count()):
            if tuple(there(self.item(index)).data(PATH)) == path:
                return index
        return -1

    def choose(self, path: Path) -> None:
        if (row := self.row_of(path)) >= 0:
            self.clearSelection()
            self.setCurrentRow(row)
            there(self.item(row)).setSelected(True)

    def _row_of_line(self, line: int) -> int:
        return self._lines.index(line) if line and line in self._lines else -1

    def number_of(self, line: int) -> str:
        """The number of the step that begins in a line of the text; empty where none does."""
        row = self._row_of_line(line)
        return str(there(self.item(row)).data(NUMBER)) if row >= 0 else ""

    def choose_line(self, line: int) -> None:
        """Choose the step that begins in a line of the text."""
        if (row := self._row_of_line(line)) >= 0:
            self.choose(tuple(there(self.item(row)).data(PATH)))

    def line(self) -> int:
        """The line of the chosen step in the text, from 1; 0 without one."""
        return self._lines[self.currentRow()] if 0 <= self.currentRow() < len(self._lines) else 0

    def behind(self) -> Path:
        """Where a new step goes: behind the chosen one, or first into the block that is chosen."""
        row = self.currentItem()
        return _inside(row) if row is not None else ()

    def _moved(self, row: int) -> None:
        self.word = None
        if 0 <= row < len(self._lines) and self._lines[row]:
            self.went_to.emit(self._lines[row])

    # Words that can be changed

    def fields(self, row: int) -> list[Box]:
        """The words of a row that can be changed, with their boxes in the viewport."""
        item = self.item(row)
        if item is None:
            return []
        box = self.visualItemRect(item)
        found = boxes(box, item.data(DEPTH), item.data(BLOCK), item.data(PIECES), item.isSelected())
        return [each for each in found if each.piece.field]

    def _go_along(self, by: int) -> None:
        """Go to another word of the chosen step: the first is the one that Enter changes by itself."""
        count = len(self.fields(self.currentRow()))
        if count:
            self.word = min(max((self.word or 0) + by, 0), count - 1)
            there(self.viewport()).update()

    def edit_field(self, number: int = 0) -> None:
        """Have a word of the chosen step changed: the first, or the one after so many others."""
        fields = self.fields(self.currentRow())
        path = self.path()
        if fields and path is not None and 0 <= number < len(fields):
            box = fields[number]
            self.edit_wanted.emit(path, box.piece.field, box.rect.toRect())

    def _field_at(self, point: QPoint) -> tuple[Path, Box] | None:
        item = self.itemAt(point)
        if item is None:
            return None
        for box in self.fields(self.row(item)):
            if box.rect.contains(point.toPointF()):
                return tuple(item.data(PATH)), box
        return None

    # The mouse

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self._pressed = event.position().toPoint()
        self._pressed_field = self._field_at(self._pressed)
        item = self.itemAt(self._pressed)
        if item is not None and item.isSelected() and not event.modifiers():
            # A press on what is chosen may begin a drag of all of it.
            self.setCurrentItem(item, there(self.selectionModel()).SelectionFlag.NoUpdate)
            event.accept()
            return
        super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        point = event.position().toPoint()
        if event.buttons() & Qt.MouseButton.LeftButton and self._pressed is not None:
            far = (point - self._pressed).manhattanLength() >= QApplication.startDragDistance()
            if self._drop is not None or far:
                self._drop = self._row_before(point)
                there(self.viewport()).update()
            return
        inside = self._field_at(point) is not None
        there(self.viewport()).setCursor(Qt.CursorShape.IBeamCursor if inside else Qt.CursorShape.ArrowCursor)
        super().mouseMoveEvent(event)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        drop, self._drop = self._drop, None
        field, self._pressed_field = self._pressed_field, None
        self._pressed = None
        there(self.viewport()).update()
        if drop is not None:
            self.carried.emit(self.paths(), self._behind_row(drop))
            return
        super().mouseReleaseEvent(event)
        if field is not None and event.button() == Qt.MouseButton.LeftButton and not event.modifiers():
            path, box = field
            self.choose(path)
            self.edit_wanted.emit(path, box.piece.field, box.rect.toRect())

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        assert event is not None
        if _dropped_file(event.mimeData()):
            event.acceptProposedAction()

    def dragMoveEvent(self, event: QDragMoveEvent | None) -> None:
        assert event is not None
        if _dropped_file(event.mimeData()):
            self._drop = self._row_before(event.position().toPoint())
            there(self.viewport()).update()
            event.acceptProposedAction()

    def dragLeaveEvent(self, _event: QDragLeaveEvent | None) -> None:
        self._drop = None
        there(self.viewport()).update()

    def dropEvent(self, event: QDropEvent | None) -> None:
        assert event is not None
        self._drop = None
        there(self.viewport()).update()
        point = event.position().toPoint()
        item = self.itemAt(point)
        path = tuple(item.data(PATH)) if item is not None and not item.data(MARK) else ()
        if name := _dropped_file(event.mimeData()):
            event.acceptProposedAction()
            self.file_dropped.emit(path, name, self._behind_row(self._row_before(point)))

    def _row_before(self, point: QPoint) -> int:
        item = self.itemAt(point)
        if item is None:
            return self.count() if point.y() > 0 else 0
        middle = self.visualItemRect(item).center().y()
        return self.row(item) + (point.y() > middle)

    def _behind_row(self, row: int) -> Path:
        """The place before a row: behind the row above it, or first in the block that it is."""
        if row <= 0 or not self.count():
            return ()
        return _inside(there(self.item(row - 1)))

    def _rework(self, name: str) -> None:
        self.reworked.emit(name, self.paths())

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        assert event is not None
        if self.path() is None:
            return
        menu = ChoiceList(self._scheme, self)
        menu.setObjectName("step-menu")
        for name, words, keys in REWORKS:
            menu.add(words, partial(self._rework, name), keys=keys)
        menu.show_at(event.globalPos())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        if self._drop is None:
            return
        painter = QPainter(self.viewport())
        item = self.item(self._drop)
        last = self.item(self.count() - 1)
        y = self.visualItemRect(item).top() if item else self.visualItemRect(last).bottom() if last else 0
        painter.fillRect(
            LEFT - 8, y - 1, there(self.viewport()).width() - LEFT, 3, self._scheme.color("crest")
        )

    # The keyboard

    _KEYS = {
        (Qt.Key.Key_Space, Qt.KeyboardModifier.NoModifier): "mute",
        (Qt.Key.Key_Up, Qt.KeyboardModifier.AltModifier): "up",
        (Qt.Key.Key_Down, Qt.KeyboardModifier.AltModifier): "down",
        (Qt.Key.Key_D, Qt.KeyboardModifier.ControlModifier): "double",
        (Qt.Key.Key_G, Qt.KeyboardModifier.ControlModifier): "gather",
        (Qt.Key.Key_K, Qt.KeyboardModifier.ControlModifier): "ask",
        (Qt.Key.Key_X, Qt.KeyboardModifier.ControlModifier): "cut",
        (Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier): "copy",
        (Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier): "paste",
        (Qt.Key.Key_Delete, Qt.KeyboardModifier.NoModifier): "take-out",
        (Qt.Key.Key_Backspace, Qt.KeyboardModifier.NoModifier): "take-out",
    }

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        held = event.modifiers() & ~Qt.KeyboardModifier.KeypadModifier
        name = self._KEYS.get((Qt.Key(event.key()), held), "")
        text = event.text()
        if name == "paste" or (name and self.path() is not None):
            self.reworked.emit(name, self.paths())
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_F2):
            self.edit_field(self.word or 0)
        elif event.key() == Qt.Key.Key_K and held == _CTRL_SHIFT:
            self.key_wanted.emit()
        elif event.key() in (Qt.Key.Key_Left, Qt.Key.Key_Right) and not held:
            self._go_along(1 if event.key() == Qt.Key.Key_Right else -1)
        elif is_writable(text) and held in _TYPING:
            self.search_wanted.emit(text)
        else:
            super().keyPressEvent(event)


def _inside(row: QListWidgetItem) -> Path:
    """The place under a row: first in the block that it begins, else behind its step or block."""
    path = tuple(row.data(PATH))
    return (*path, FIRST) if isinstance(row.data(STEP), Block) else path


_CTRL_SHIFT = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
_TYPING = (Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.ShiftModifier)
