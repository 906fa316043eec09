"""*As it was*: the points of what was, each shown on the stage, and brought back whole or thing by thing."""

from __future__ import annotations

from functools import partial

from msgspec import Struct
from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QHBoxLayout, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from rimecrest.core.layout.compare import Difference
from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme, bold, font
from rimecrest.studio.history.times import when
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.history import KEPT, REDO, UNDO, Point
from rimecrest.studio.shared.sentence_widgets import Elided, InlineField, Plain, Push, Word, end_fields
from rimecrest.studio.shared.session import Session
from rimecrest.studio.shared.slim_bar import slim

WIDTH = 330
ROW = 28
SHOWN = 6
"""Differences that are listed."""


class Scope(Struct, frozen=True):
    """Of what one looks for what was: its words, the file, the thing within that file, its name.

    Without a file it is the whole workspace, without a thing all of the file.
    """

    words: str
    path: str = ""
    thing: str = ""
    title: str = ""


def _called(point: Point) -> str:
    """What a save is called, with what was undone told from what was done."""
    if point.kind == UNDO:
        return tr("undone: {label}", label=point.label)
    return tr("done again: {label}", label=point.label) if point.kind == REDO else point.label


class HistorySheet(QWidget):
    """A list of points at the side of the stage.

    Signals:
        looked(point, words): show how it was at a point; when that was, in words.
        back(point, words, scope): bring that back.
        thing_back(identity, words): bring one thing of what shows back.
        closed: it went away.
    """

    looked = pyqtSignal(int, str)
    back = pyqtSignal(int, str, Scope)
    thing_back = pyqtSignal(str, str)
    closed = pyqtSignal()

    def __init__(self, session: Session, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent)
        self._session = session
        self._scheme = scheme
        self.scopes: list[Scope] = []
        self.scope = Scope("")
        self.setObjectName("history")
        self._title = Plain(tr("As it was"), scheme, "ink", 16)
        self._title.setFont(bold(16))
        self._of = Word("", scheme, 13, self)
        self._of.setObjectName("history-of")
        self.list = QListWidget(self)
        self.list.setObjectName("history-points")
        self.list.setAccessibleName(tr("Points of what was"))
        self.list.setFont(font(13))
        self.list.setFrameShape(QListWidget.Shape.NoFrame)
        slim(self.list, scheme)
        self._told = Plain("", scheme, "ink2", 12)
        self._told.setObjectName("history-told")
        self._told.setWordWrap(True)
        self._differences = QVBoxLayout()
        self.put_back = Push(tr("Bring it back"), scheme, first=True, parent=self)
        self.put_back.setObjectName("history-back")
        self.name = Word(tr("name this moment …"), scheme, 12, self)
        self.name.setObjectName("history-name")
        self._build()
        self.list.currentRowChanged.connect(lambda _: self._look())
        self.put_back.clicked.connect(lambda _=False: self._bring_back())
        self._of.clicked.connect(lambda _=False: self._choose_scope())
        self.name.clicked.connect(lambda _=False: self._name_now())
        self.hide()

    def _build(self) -> None:
        rows = QVBoxLayout(self)
        rows.setContentsMargins(16, 14, 16, 12)
        rows.setSpacing(8)
        head = QHBoxLayout()
        head.addWidget(self._title)
        head.addStretch(1)
        close = Word(tr("close"), self._scheme, 12, self)
        close.setObjectName("history-close")
        close.clicked.connect(lambda _=False: self.shut())
        head.addWidget(close)
        rows.addLayout(head)
        of = QHBoxLayout()
        of.addWidget(Plain(tr("of"), self._scheme, "ink2", 13))
        of.addWidget(self._of)
        of.addStretch(1)
        rows.addLayout(of)
        rows.addWidget(self.list, 1)
        rows.addWidget(self._told)
        rows.addLayout(self._differences)
        foot = QHBoxLayout()
        foot.addWidget(self.put_back)
        foot.addStretch(1)
        foot.addWidget(self.name)
        rows.addLayout(foot)

    # Opening

    def open(self, scopes: list[Scope]) -> None:
        """Show the points of the first of these; the others can be chosen."""
        self.scopes, self.scope = scopes, scopes[0]
        self._fill()
        self.show()
        self.raise_()
        self.list.setFocus()

    def shut(self) -> None:
        """Close it; the draft shows again."""
        if self.isVisible():
            end_fields(self)
            self.hide()
            self.closed.emit()

    def _choose_scope(self) -> None:
        rows = [(str(number), scope.words) for number, scope in enumerate(self.scopes)]
        now = str(self.scopes.index(self.scope))
        choose_from(self._of, rows, now, self._scheme, lambda value: self._take_scope(int(value)))

    def _take_scope(self, number: int) -> None:
        self.scope = self.scopes[number]
        self._fill()

    def _fill(self) -> None:
        history = self._session.history
        now = history.clock()
        paths = [self.scope.path] if self.scope.path else []
        points = history.points(paths)
        self._of.setText(self.scope.words)
        self._of.updateGeometry()
        self.list.blockSignals(True)
        self.list.clear()
        for point in points:
            if history.changed_since(point.id):  # else it is as it is now
                self._add(point.id, when(point.at, now), _called(point), point.kind in KEPT)
        if points:
            self._add(points[-1].id - 1, tr("before the oldest change kept"), "")
        self.list.blockSignals(False)
        self.list.setCurrentRow(0)
        self.put_back.setEnabled(self.list.count() > 0)
        if not self.list.count():
            self._told.setText(history.trouble or tr("Nothing was changed here yet."))
        self._look()

    def _add(self, point: int, said: str, label: str, kept: bool = False) -> None:
        row = QListWidgetItem(f"{said}   {label}".strip(), self.list)
        row.setData(Qt.ItemDataRole.UserRole, (point, said))
        row.setSizeHint(QSize(100, ROW))
        row.setFont(bold(13) if kept else font(13))
        row.setToolTip(label)

    def look_again(self) -> None:
        """Something was brought back: show what is left to be."""
        self._look()

    # What is chosen

    def chosen(self) -> tuple[int, str] | None:
        """The chosen point, and when it was, in words; None: there is none."""
        row = self.list.currentItem()
        return row.data(Qt.ItemDataRole.UserRole) if row is not None else None

    def _look(self) -> None:
        chosen = self.chosen()
        if chosen is not None:
            self.looked.emit(*chosen)

    def _bring_back(self) -> None:
        chosen = self.chosen()
        if chosen is not None:
            self.back.emit(*chosen, self.scope)

    def tell(self, told: str, differences: list[Difference], *, differs: bool) -> None:
        """Say how what shows differs from today; each thing can be brought back by itself.

        Args:
            differs: what one looks for was different then; else there is nothing of it to bring back.
        """
        self.put_back.setEnabled(differs)
        while (item := self._differences.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.hide()
                widget.deleteLater()
        self._told.setText(told)
        for number, difference in enumerate(differences[:SHOWN]):
            line = QWidget(self)
            row = QHBoxLayout(line)
            row.setContentsMargins(0, 0, 0, 0)
            words = Elided(difference.sentence, self._scheme, "ink", 12)
            words.setToolTip(difference.sentence)
            row.addWidget(words, 1)
            if difference.kind != "key":
                back = Word(tr("put back"), self._scheme, 12, line)
                back.setObjectName(f"history-thing-{number}")
                back.clicked.connect(partial(self._thing, difference))
                row.addWidget(back)
            self._differences.addWidget(line)

    def _thing(self, difference: Difference, _checked: bool = False) -> None:
        self.thing_back.emit(difference.of, difference.sentence)

    def _name_now(self) -> None:
        field = InlineField("", tr("a name for how it is now"), self, back=self.list)
        field.setObjectName("history-name-field")
        field.setGeometry(16, self.name.y() - 2, self.width() - 32, self.name.height() + 6)
        field.entered.connect(partial(self._named, field))
        field.given_up.connect(field.deleteLater)
        field.show()
        field.setFocus()

    def _named(self, field: InlineField, name: str) -> None:
        field.hide()
        field.deleteLater()
        if name:
            self._session.history.point(name)
            self._session.say(tr("How it is now is called “{name}”.", name=name))
            self._fill()

    # Keys, drawing

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() == Qt.Key.Key_Escape:
            self.shut()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.put_back.click()  # which a button does that can be pressed

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self._scheme.color("crest"), 1))
        painter.setBrush(self._scheme.color("sheet"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8)
