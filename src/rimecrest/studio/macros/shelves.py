"""The shelves: macros by the layer they are kept in, with effects, keys and how many things run them."""

from __future__ import annotations

from PyQt6.QtCore import QRect, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QFrame, QScrollArea, QVBoxLayout, QWidget

from rimecrest.core.macro.check import check_macro, effect_words, effects
from rimecrest.core.words import counted, tr
from rimecrest.core.workspace.layer_ids import MINE
from rimecrest.core.workspace.macro_file import MacroFile, macro_file
from rimecrest.core.workspace.settings import LayerTitle
from rimecrest.core.workspace.where_used import uses
from rimecrest.shell.theme import Scheme, bold, font
from rimecrest.shell.there import there
from rimecrest.studio.macros.presenter import MacroKey
from rimecrest.studio.shared.sentence_widgets import Plain, Pressable
from rimecrest.studio.shared.session import Session
from rimecrest.studio.shared.slim_bar import slim
from rimecrest.surfaces.removal import show_page

WIDTH = 224
DOCUMENT = "document"


def summary(session: Session, file: MacroFile) -> str:
    """What a row says under the name: effects, what runs it, whether it is finished."""
    workspace = session.workspace
    catalogue = workspace.told(workspace.stack_up_to(file.layer), file.macro.application)
    others = {name: f.macro for name, f in workspace.macros_of(workspace.stack_up_to(file.layer)).items()}
    words = [effect.value for effect in effects(file.macro, catalogue, others)] if catalogue else []
    app = file.macro.application
    title = workspace.catalogues[app].title if app in workspace.catalogues else app
    # That of the aim stands in the line of aim.
    parts = [] if app == session.aim.app else [title]
    parts.append(effect_words(file.macro, words))
    found = uses(workspace, file.layer, file.id)
    items = sum(use.kind == "item" for use in found)
    parts += [counted(items, "button")] if items else [tr("on no bar or key yet")] if not found else []
    parts += [use.words.split("key ")[-1] for use in found if use.kind == "key"][:1]
    if workspace.refused((file.layer, file.id)):
        parts.insert(0, tr("does not run"))
    if file.macro.unfinished:
        parts.append("unfinished")
    if file.faults or check_macro(file.macro, catalogue, workspace.companion_paths, others):
        parts.append(tr("has faults"))
    return " · ".join(parts)


class Shelved(Pressable):
    """One macro on its shelf."""

    def __init__(self, name: str, words: str, scheme: Scheme) -> None:
        super().__init__(name, scheme)
        self._words = words
        self.setAccessibleName(f"{name}: {words}")
        self.setToolTip(f"{name}\n{words}")
        self.setCheckable(True)

    def sizeHint(self) -> QSize:
        return QSize(WIDTH - 28, 46)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme = self._scheme
        if self.isChecked() or self.hasFocus() or self.underMouse():
            painter.setPen(scheme.color("crest" if self.hasFocus() else "line"))
            painter.setBrush(scheme.color("sheet" if self.isChecked() else "hover"))
            painter.drawRoundedRect(self.rect().toRectF().adjusted(0.5, 0.5, -0.5, -0.5), 6, 6)
        painter.setPen(scheme.color("ink"))
        painter.setFont(bold(13) if self.isChecked() else font(13))
        painter.drawText(QRect(12, 5, self.width() - 20, 20), Qt.AlignmentFlag.AlignVCenter, self.text())
        painter.setPen(scheme.color("ink2"))
        painter.setFont(font(11))
        words = painter.fontMetrics().elidedText(self._words, Qt.TextElideMode.ElideRight, self.width() - 20)
        painter.drawText(QRect(12, 24, self.width() - 20, 17), Qt.AlignmentFlag.AlignVCenter, words)


class Shelves(QScrollArea):
    """All shelves. `chosen` carries (layer, id)."""

    chosen = pyqtSignal(tuple)
    kept_chosen = pyqtSignal(QWidget, str)
    """(row, id) of a macro that is kept in the document being tried."""

    def __init__(self, session: Session, scheme: Scheme) -> None:
        super().__init__()
        self._session = session
        self._scheme = scheme
        self._rows: dict[MacroKey, Shelved] = {}
        self.kept: dict[str, str] = {}
        self._shown: object = None
        self._marked: MacroKey | None = None
        self.setFixedWidth(WIDTH)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setWidgetResizable(True)
        slim(self, scheme)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)

    def fill(self, now: MacroKey | None) -> None:
        """Show every macro of the workspace; mark the one that is open."""
        session = self._session
        workspace, aim = session.workspace, session.aim
        shown = (
            workspace.macros,
            workspace.settings.layers,
            workspace.layouts,
            self.kept,
            aim.layer,
            aim.app,
        )
        if shown == self._shown:
            self.mark(now)
            return
        self._shown = (*shown[:3], dict(self.kept), *shown[4:])
        scrolled = there(self.verticalScrollBar()).value()
        inner = QWidget()
        column = QVBoxLayout(inner)
        column.setContentsMargins(14, 12, 12, 12)
        column.setSpacing(3)
        self._rows = {}
        mine = LayerTitle(id=MINE, title=session.workspace.layer_title(MINE))
        for layer in (*session.workspace.settings.layers, mine):
            files = [file for (owner, _), file in session.workspace.macros.items() if owner == layer.id]
            if not files and layer.id not in (session.aim.layer, MINE):
                continue
            title = Plain(layer.title, self._scheme, "ink2", 12)
            title.setFont(bold(12))
            title.setContentsMargins(0, 8, 0, 2)
            column.addWidget(title)
            for file in sorted(files, key=lambda file: file.name.lower()):
                row = Shelved(file.name, summary(session, file), self._scheme)
                row.setObjectName(f"macro {file.layer}/{file.id}")
                row.setChecked((file.layer, file.id) == now)
                row.clicked.connect(lambda _=False, key=(file.layer, file.id): self.chosen.emit(key))
                column.addWidget(row)
                self._rows[file.layer, file.id] = row
            if not files:
                column.addWidget(Plain(tr("none yet"), self._scheme, "ink2", 12))
        if self.kept:
            title = Plain(tr("In the document being tried"), self._scheme, "ink2", 12)
            title.setFont(bold(12))
            title.setContentsMargins(0, 8, 0, 2)
            column.addWidget(title)
        for name, text in self.kept.items():
            file = macro_file(DOCUMENT, name, text)
            row = Shelved(file.name, tr("move or copy it to a shelf"), self._scheme)
            row.setObjectName(f"macro {DOCUMENT}/{name}")
            row.clicked.connect(lambda _=False, row=row, name=name: self.kept_chosen.emit(row, name))
            column.addWidget(row)
            self._rows[DOCUMENT, name] = row
        column.addStretch(1)
        show_page(self, inner)
        # Where one has scrolled to is where one goes on.
        inner.adjustSize()
        there(self.verticalScrollBar()).setValue(scrolled)
        self.mark(now)

    def mark(self, now: MacroKey | None) -> None:
        """Mark the macro that is open; when it becomes another one, all of its row is brought into sight."""
        for key, row in self._rows.items():
            row.setChecked(key == now)
        if now != self._marked and now in self._rows:
            self.ensureWidgetVisible(self._rows[now], 0, 12)
        self._marked = now

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        step = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()))
        rows = list(self._rows.values())
        at = next((index for index, row in enumerate(rows) if row.hasFocus()), None)
        if step is None or at is None:
            super().keyPressEvent(event)
        else:
            rows[(at + step) % len(rows)].setFocus(Qt.FocusReason.TabFocusReason)
