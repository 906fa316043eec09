"""*Free keys at a glance*: every modifier set and opener against every key, as a small dense table."""

from __future__ import annotations

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QBrush, QKeyEvent, QPainter, QPen, QResizeEvent
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QHeaderView,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTableView,
)

from rimecrest.core.check.kinds import Weight
from rimecrest.core.explain.bed_state import BedView, CapState
from rimecrest.core.keys.chords import Sequence, format_sequence
from rimecrest.core.layout.seen import BUILT_IN
from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme, bold, font, palette
from rimecrest.shell.there import there
from rimecrest.studio.shared.marks import SIGNS, draw_owner

ORDER = (
    "TLDE", *(f"AE{n:02}" for n in range(1, 13)), *(f"AD{n:02}" for n in range(1, 13)),
    *(f"AC{n:02}" for n in range(1, 12)), "BKSL", "LSGT", *(f"AB{n:02}" for n in range(1, 11)),
)  # fmt: skip
CELL = 17


class RoomModel(QAbstractTableModel):
    """Rows are modifier sets and openers, columns the keys; a cell's data is its `CapState`."""

    def __init__(self) -> None:
        super().__init__()
        self.rows: list[tuple[Sequence, tuple[str, ...]]] = []
        self.keys: list[str] = []
        self._cells: list[list[CapState]] = []
        self._legends: list[str] = []
        self.layer = ""

    def show_view(self, view: BedView) -> None:
        self.beginResetModel()
        self.layer = view.layer
        self.rows = view.sets()
        self.keys = [key for key in ORDER if key in view.board.geometry.caps and view.board.identity(key)]
        self._legends = [view.board.legend(key)[:1] for key in self.keys]
        self._cells = [[view.cap(key, mods, opener) for key in self.keys] for opener, mods in self.rows]
        self.endResetModel()

    def rowCount(self, _parent: QModelIndex = QModelIndex()) -> int:
        return len(self.rows)

    def columnCount(self, _parent: QModelIndex = QModelIndex()) -> int:
        return len(self.keys)

    def cell(self, index: QModelIndex) -> CapState:
        return self._cells[index.row()][index.column()]

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        state = self.cell(index)
        if role in (Qt.ItemDataRole.ToolTipRole, Qt.ItemDataRole.AccessibleTextRole):
            said = state.words or (tr("opens {opens} sequences", opens=state.opens) if state.opens else "")
            said = said or (tr("taken by {taken}", taken=state.taken) if state.taken else "")
            said = said or (
                tr("not on {missing}", missing=", ".join(state.missing)) if state.missing else "free"
            )
            mark = f" ({state.weight.word})" if state.weight else ""
            return f"{state.keys}: {said}{mark}"
        return None

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = 0) -> object:
        if role == Qt.ItemDataRole.DisplayRole:
            if orientation == Qt.Orientation.Horizontal:
                return self._legends[section]
            opener, mods = self.rows[section]
            begin = f"{format_sequence(opener)}, " if opener else ""
            return begin + (" ".join(mods) or "…")
        if role == Qt.ItemDataRole.TextAlignmentRole and orientation == Qt.Orientation.Vertical:
            return Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        return None


class CellPainter(QStyledItemDelegate):
    """A cell: whose it is by shape, what is wrong by sign."""

    def __init__(self, scheme: Scheme, model: RoomModel, parent: QTableView) -> None:
        super().__init__(parent)
        self._scheme = scheme
        self._model = model

    def sizeHint(self, _option: QStyleOptionViewItem, _index: QModelIndex) -> QSize:
        return QSize(CELL, CELL)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        assert painter is not None
        scheme, state = self._scheme, self._model.cell(index)
        box = QRectF(option.rect).adjusted(1.5, 1.5, -1.5, -1.5)
        painter.save()
        pen = QPen(scheme.color("line" if state.free else "faint"), 1)
        if state.missing:
            pen.setStyle(Qt.PenStyle.DotLine)
        painter.setPen(pen)
        painter.setBrush(scheme.color("sheet"))
        weight = state.weight
        if weight in (Weight.BLOCKS, Weight.ASKS):
            painter.setBrush(scheme.color(weight.value))
            painter.drawRect(box)
            painter.setPen(scheme.color("on_crest"))
            painter.setFont(bold(11))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, SIGNS[weight])
        elif state.words and state.layer == BUILT_IN:
            painter.setBrush(scheme.color("line"))
            painter.drawRect(box)
        elif state.words:
            painter.drawRect(box)
            draw_owner(painter, scheme, box.adjusted(-1, -4, 0, 4), state.layer == self._model.layer)
        elif state.opens:
            painter.drawRect(box)
            painter.setPen(scheme.color("ink2"))
            painter.setFont(font(11))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, "…")
        else:
            painter.drawRect(box)
            if state.taken:
                painter.fillRect(box, QBrush(scheme.color("faint"), Qt.BrushStyle.BDiagPattern))
        view = self.parent()
        if isinstance(view, QAbstractItemView) and index == view.currentIndex():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(scheme.color("crest"), 2))
            painter.drawRect(box)
        painter.restore()


class KeyMap(QTableView):
    """The map. `chosen(opener, mods, key)` when a cell comes to the fore."""

    chosen = pyqtSignal(tuple, tuple, str)

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self.setObjectName("key-map")
        self.setAccessibleName(tr("Free keys at a glance"))
        self._room = RoomModel()
        self.setModel(self._room)
        self.setItemDelegate(CellPainter(scheme, self._room, self))
        colours = palette(scheme)
        for role in (colours.ColorRole.Base, colours.ColorRole.Button, colours.ColorRole.Window):
            colours.setColor(role, scheme.color("paper"))
        colours.setColor(colours.ColorRole.ButtonText, scheme.color("ink2"))
        self.setPalette(colours)
        self.setShowGrid(False)
        self.setStyleSheet("QTableCornerButton::section { border: 0; background: transparent; }")
        self.setFrameShape(QTableView.Shape.NoFrame)
        self.setSelectionMode(QAbstractItemView.SelectionMode.NoSelection)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setCornerButtonEnabled(False)
        for header, size in ((self.horizontalHeader(), CELL), (self.verticalHeader(), CELL)):
            there(header).setSectionResizeMode(QHeaderView.ResizeMode.Fixed)
            there(header).setMinimumSectionSize(8)
            there(header).setDefaultSectionSize(size)
            there(header).setFont(font(11))
            there(header).setPalette(colours)
            ink = scheme.color("ink2").name()
            there(header).setStyleSheet(
                f"QHeaderView::section {{ border: 0; background: transparent; color: {ink}; }}"
            )
            there(header).setHighlightSections(False)
        there(self.horizontalHeader()).setFixedHeight(18)
        there(self.verticalHeader()).setFixedWidth(96)
        self.clicked.connect(self._chosen)

    def show_view(self, view: BedView) -> None:
        """Draw another view; the cell at the fore stays."""
        self._room.show_view(view)
        self.setFixedHeight(18 + CELL * self._room.rowCount() + 2)
        self._fit()

    def _fit(self) -> None:
        """All columns are seen, in a narrow window as well."""
        wide = (self.width() - 98) // max(1, self._room.columnCount())
        there(self.horizontalHeader()).setDefaultSectionSize(max(8, min(wide, CELL + 3)))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit()

    def _chosen(self, index: QModelIndex) -> None:
        opener, mods = self._room.rows[index.row()]
        self.chosen.emit(opener, mods, self._room.keys[index.column()])

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        super().keyPressEvent(event)
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.currentIndex().isValid():
            self._chosen(self.currentIndex())
