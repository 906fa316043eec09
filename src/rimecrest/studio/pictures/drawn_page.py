"""Drawing a picture: the grid, its tools, its colours, its own undo."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QColorDialog, QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from rimecrest.core.pictures.drawing import GRIDS, Drawing, Mirror
from rimecrest.core.pictures.paints import INK, PAINTS
from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme, font
from rimecrest.studio.pictures.canvas import Canvas, Tool, colour_of
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.sentence_widgets import Plain, Pressable, Push, Word

WHITE = "#FFFFFF"
NAMES = {
    INK: tr("the scheme’s text colour"),
    "crest": tr("the scheme’s blue"),
    "asks": tr("the scheme’s orange"),
    "blocks": tr("the scheme’s red"),
    "good": tr("the scheme’s green"),
    "slate": tr("the scheme’s grey"),
    WHITE: tr("white"),
}


class ToolButton(Pressable):
    """One tool; the chosen one is tinted and has a bar along its edge."""

    def __init__(self, tool: Tool, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(tool.title, scheme, parent)
        self.setCheckable(True)
        self.setObjectName(f"tool-{tool.name.lower()}")
        self.setToolTip(f"{tool.purpose} ({tool.key})")

    def sizeHint(self) -> QSize:
        return QSize(104, 25)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme, on = self._scheme, self.isChecked()
        painter.setPen(
            QPen(scheme.color("crest" if on or self.hasFocus() else "line"), 2 if self.hasFocus() else 1)
        )
        painter.setBrush(scheme.color("hover" if on or self.underMouse() else "sheet"))
        painter.drawRoundedRect(self.rect().toRectF().adjusted(1, 1, -1, -1), 5, 5)
        if on:
            painter.fillRect(1, 6, 3, self.height() - 12, scheme.color("crest"))
        painter.setPen(scheme.color("ink"))
        painter.setFont(font(12))
        painter.drawText(self.rect().adjusted(14, 0, -4, 0), Qt.AlignmentFlag.AlignVCenter, self.text())


class Swatch(Pressable):
    """One colour; the chosen one has a ring, the own one a plus."""

    def __init__(self, colour: str, words: str, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(words, scheme, parent)
        self.colour = colour
        self.setCheckable(True)
        self.setToolTip(words)

    def sizeHint(self) -> QSize:
        return QSize(24, 24)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = self.rect().toRectF()
        painter.setPen(QPen(self._scheme.color("faint"), 1))
        painter.setBrush(colour_of(self.colour, self._scheme) if self.colour else self._scheme.color("sheet"))
        painter.drawRoundedRect(box.adjusted(4, 4, -4, -4), 4, 4)
        if not self.colour:
            painter.setPen(self._scheme.color("ink"))
            painter.setFont(font(13))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, "+")
        if self.isChecked() or self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(self._scheme.color("crest"), 2))
            painter.drawRoundedRect(box.adjusted(1, 1, -1, -1), 6, 6)


class DrawnPage(QWidget):
    """The grid with all that belongs to it. `drawn` carries the drawing after each stroke and undo."""

    drawn = pyqtSignal(Drawing)

    def __init__(self, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent)
        self._scheme = scheme
        self.canvas = Canvas(scheme, self)
        self._done: list[Drawing] = []
        self._undone: list[Drawing] = []
        self._tools = {tool: ToolButton(tool, scheme, self) for tool in Tool}
        self._swatches: list[Swatch] = []
        self.undo_push = Push(tr("Undo"), scheme, parent=self)
        self.undo_push.setObjectName("drawing-undo")
        self.undo_push.setToolTip(tr("Take the last stroke back (Ctrl+Z)"))
        self.mirror = Word("", scheme, 12, self)
        self.mirror.setObjectName("drawing-mirror")
        self.grid = Word("", scheme, 12, self)
        self.grid.setObjectName("drawing-grid")
        self._build()
        self.canvas.drawn.connect(self._stroke)
        self.canvas.tool_wanted.connect(self.choose_tool)
        self.undo_push.clicked.connect(lambda _=False: self.undo())
        self.mirror.clicked.connect(lambda _=False: self._choose_mirror())
        self.grid.clicked.connect(lambda _=False: self._choose_grid())
        self.choose_tool(Tool.PENCIL)
        self.choose_colour(INK)
        self._say()

    def _build(self) -> None:
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(14)
        row.addWidget(self.canvas, 0, Qt.AlignmentFlag.AlignTop)
        side = QVBoxLayout()
        side.setSpacing(4)
        for tool, button in self._tools.items():
            button.clicked.connect(partial(self._pick_tool, tool))
            side.addWidget(button)
        side.addWidget(self.undo_push)
        side.addSpacing(4)
        for words, word in ((tr("Mirror"), self.mirror), (tr("Grid"), self.grid)):
            line = QHBoxLayout()
            line.setSpacing(6)
            line.addWidget(Plain(words, self._scheme, "ink2", 12))
            line.addWidget(word)
            line.addStretch(1)
            side.addLayout(line)
        colours = QGridLayout()
        colours.setSpacing(2)
        for at, colour in enumerate((*(INK, *PAINTS), WHITE, "")):
            swatch = Swatch(colour, NAMES.get(colour, tr("another colour …")), self._scheme, self)
            swatch.setObjectName(f"colour-{colour.removeprefix('#') or 'own'}")
            swatch.clicked.connect(partial(self._pick_colour, swatch))
            self._swatches.append(swatch)
            colours.addWidget(swatch, at // 4, at % 4)
        colours.setColumnStretch(4, 1)
        side.addLayout(colours)
        side.addStretch(1)
        row.addLayout(side)

    # What is chosen

    def _pick_tool(self, tool: Tool, _checked: bool = False) -> None:
        self.choose_tool(tool)
        self.canvas.setFocus()

    def choose_tool(self, tool: Tool) -> None:
        """Draw with that tool from now on."""
        self.canvas.tool = tool
        for one, button in self._tools.items():
            button.setChecked(one is tool)

    def _pick_colour(self, swatch: Swatch, _checked: bool = False) -> None:
        colour = swatch.colour
        if swatch is self._swatches[-1]:
            chosen = QColorDialog.getColor(QColor(colour or WHITE), self, tr("A colour of your own"))
            if chosen.isValid():
                swatch.colour = colour = chosen.name().upper()
        self.choose_colour(colour or self.canvas.colour)
        self.canvas.setFocus()

    def choose_colour(self, colour: str) -> None:
        """Draw in that colour from now on: a token, or a value."""
        self.canvas.colour = colour
        if self.canvas.tool is Tool.ERASE:
            self.choose_tool(Tool.PENCIL)
        for swatch in self._swatches:
            swatch.setChecked(swatch.colour == colour)

    def _choose_mirror(self) -> None:
        rows = [(mirror.value, mirror.value) for mirror in Mirror]
        choose_from(self.mirror, rows, self.canvas.mirror.value, self._scheme, self._set_mirror)

    def _set_mirror(self, value: str) -> None:
        self.canvas.mirror = Mirror(value)
        self._say()

    def _choose_grid(self) -> None:
        rows = [(str(size), f"{size} × {size}") for size in GRIDS]
        now = str(self.canvas.drawing.size)
        choose_from(self.grid, rows, now, self._scheme, self._set_grid)

    def _set_grid(self, value: str) -> None:
        before = self.canvas.drawing
        if int(value) != before.size:
            self._show(before.resized(int(value)))
            self._remember(before)
            self.drawn.emit(self.canvas.drawing)

    def _say(self) -> None:
        size = self.canvas.drawing.size
        for word, text in ((self.mirror, self.canvas.mirror.value), (self.grid, f"{size} × {size}")):
            word.setText(text)
            word.setAccessibleName(text)
            word.updateGeometry()
        self.canvas.update()
        self.undo_push.setEnabled(bool(self._done))

    # Strokes

    def begin(self, drawing: Drawing) -> None:
        """Begin with another drawing; nothing of before is undone."""
        self._done.clear()
        self._undone.clear()
        self._before = drawing
        self._show(drawing)

    def _show(self, drawing: Drawing) -> None:
        self._before = drawing
        self.canvas.show_drawing(drawing)
        self._say()

    def _remember(self, before: Drawing) -> None:
        self._done.append(before)
        self._undone.clear()
        self._say()

    def _stroke(self, drawing: Drawing) -> None:
        self._remember(self._before)
        self._before = drawing
        self.drawn.emit(drawing)

    def undo(self) -> None:
        """Take the last stroke back."""
        self._swap(self._done, self._undone)

    def redo(self) -> None:
        """Make the stroke again that was taken back."""
        self._swap(self._undone, self._done)

    def _swap(self, source: list[Drawing], target: list[Drawing]) -> None:
        if source:
            target.append(self.canvas.drawing)
            self._show(source.pop())
            self.drawn.emit(self.canvas.drawing)
