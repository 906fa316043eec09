"""The trial beside the steps: what can be done, what is asked, and a strip of pictures after each step."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent, QPen, QPixmap
from PyQt6.QtWidgets import (
    QComboBox,
    QFrame,
    QHBoxLayout,
    QLineEdit,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from rimecrest.core.words import tr
from rimecrest.shell.file_dialogs import ask_open
from rimecrest.shell.theme import Scheme, bold, font
from rimecrest.shell.there import there
from rimecrest.studio.macros.trial_session import Question, Shot, TrialRun
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.sentence_widgets import Flow, Plain, Pressable, Push, Word
from rimecrest.studio.shared.slim_bar import slim
from rimecrest.surfaces.removal import show_page

WIDTH = 276
PICTURE = QSize(WIDTH - 62, 112)


class Frame(Pressable):
    """One picture of the strip: the number of its step, the document after it, what is to say about it."""

    def __init__(self, number: str, shot: Shot, scheme: Scheme, held: bool, chosen: bool) -> None:
        words = f"Step {number}" if number else tr("Before the first step")
        words += f": {shot.failed}" if shot.failed else tr(", before your change") if shot.stale else ""
        super().__init__(words, scheme)
        self._number = number
        self._shot = shot
        self._held = held
        self._chosen = chosen
        self.setToolTip(shot.failed or words)

    def sizeHint(self) -> QSize:
        return QSize(WIDTH - 26, PICTURE.height() + 12)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        scheme, shot = self._scheme, self._shot
        painter.setFont(font(11))
        painter.setPen(scheme.color("ink2"))
        painter.drawText(QRectF(0, 6, 26, 20), Qt.AlignmentFlag.AlignHCenter, self._number)
        box = QRectF(30.5, 4.5, PICTURE.width(), PICTURE.height())
        painter.setBrush(scheme.color("sheet"))
        pen = QPen(scheme.color("line"), 1)
        if shot.failed:
            pen = QPen(scheme.color("asks"), 2)
        elif shot.stale or shot.picture is None:
            pen = QPen(scheme.color("ink2"), 1, Qt.PenStyle.DashLine)
        if self.hasFocus() or self._chosen:
            pen = QPen(scheme.color("crest"), 2)
        painter.setPen(pen)
        painter.drawRoundedRect(box, 5, 5)
        if shot.picture is not None:
            inner = box.adjusted(4, 4, -4, -4)
            painter.setOpacity(0.55 if shot.stale else 1.0)
            painter.drawPixmap(inner, shot.picture, cut_to(shot.picture, inner.size().toSize(), shot.spot))
            painter.setOpacity(1.0)
        if shot.failed:
            self._label(painter, box, tr("stopped here"), "asks")
        elif shot.stale:
            self._label(painter, box, tr("before your change"), "ink2")
        elif self._held:
            self._label(painter, box, "next", "crest")

    def _label(self, painter: QPainter, box: QRectF, words: str, token: str) -> None:
        painter.setFont(font(11))
        wide = painter.fontMetrics().horizontalAdvance(words) + 14
        tag = QRectF(box.right() - wide - 5, box.bottom() - 23, wide, 18)
        painter.setPen(self._scheme.color("line"))
        painter.setBrush(self._scheme.color("paper"))
        painter.drawRoundedRect(tag, 4, 4)
        painter.setPen(self._scheme.color(token))
        painter.drawText(tag, Qt.AlignmentFlag.AlignCenter, words)


CUT = 440
"""Pixels of the document's width that a frame shows: more would be too small to read."""


def cut_to(picture: QPixmap, size: QSize, spot: QRect) -> QRectF:
    """The part of a picture that has the shape of a frame and in which the spot is seen.

    It stays at the top left, where letters and sheets begin, as long as the spot is there; else the spot is
    in the middle.
    """
    wide = min(picture.width(), CUT)
    cut = QRectF(0, 0, wide, min(wide * size.height() / size.width(), picture.height()))
    if cut.contains(QRectF(spot)):
        return cut
    cut.moveCenter(QRectF(spot).center())
    cut.moveLeft(max(0.0, min(cut.left(), picture.width() - cut.width())))
    cut.moveTop(max(0.0, min(cut.top(), picture.height() - cut.height())))
    return cut


class Questions(QWidget):
    """What the trial asks, to be answered here."""

    def __init__(self, asked: Question, scheme: Scheme, answer: Callable[[list[str] | None], None]) -> None:
        super().__init__()
        self.setObjectName("trial-questions")
        rows = QVBoxLayout(self)
        rows.setContentsMargins(12, 4, 12, 8)
        if asked.title:
            rows.addWidget(Plain(asked.title, scheme, "ink", 14))
        self.fields: list[QComboBox | QLineEdit] = []
        for prompt, choices, default in asked.questions:
            words = Plain(prompt, scheme)
            words.setFont(bold(13))
            rows.addWidget(words)
            field: QComboBox | QLineEdit
            if choices:
                field = QComboBox()
                field.addItems(list(choices))
                field.setCurrentText(default if default in choices else choices[0])
            else:
                field = QLineEdit(default)
            field.setAccessibleName(prompt)
            self.fields.append(field)
            rows.addWidget(field)
        row = QHBoxLayout()
        go_on, cancel = Push(tr("Go on"), scheme, first=True), Push(tr("Cancel"), scheme)
        go_on.setObjectName("trial-answer")
        cancel.setObjectName("trial-cancel")
        go_on.clicked.connect(lambda: answer(self.answers()))
        cancel.clicked.connect(lambda: answer(None))
        row.addWidget(go_on)
        row.addWidget(cancel)
        row.addStretch(1)
        rows.addLayout(row)

        self._answer = answer

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        # Fields and lists leave Enter to whatever they stand in; the buttons take it themselves.
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._answer(self.answers())
        elif event.key() == Qt.Key.Key_Escape:
            self._answer(None)
        else:
            super().keyPressEvent(event)

    def answers(self) -> list[str]:
        return [
            field.currentText() if isinstance(field, QComboBox) else field.text() for field in self.fields
        ]


class TrialPanel(QWidget):
    """The right of the Macros place. `chosen` carries the line of the step whose picture was clicked."""

    chosen = pyqtSignal(int)

    def __init__(self, run: TrialRun, scheme: Scheme) -> None:
        super().__init__()
        self._run = run
        self._scheme = scheme
        self.line = 0
        """The line of the step that is chosen in the list."""
        self.setFixedWidth(WIDTH)
        self.setObjectName("trial")
        self._build()
        run.changed.connect(self.refresh)

    def _build(self) -> None:
        rows = QVBoxLayout(self)
        rows.setContentsMargins(12, 12, 6, 8)
        rows.setSpacing(6)
        flow = Flow()
        for words, name, first, tip, do in (
            (tr("Run all"), "trial-all", True, tr("Run it from the start to the end"), self._run.run_all),
            (tr("To here"), "trial-here", False, tr("Run it up to the chosen step"), self._to_here),
            (tr("One step"), "trial-step", False, tr("Do the next step"), self._run.one_step),
            (tr("From the start"), "trial-start", False, tr("Begin again"), self._run.from_the_start),
        ):
            push = Push(words, self._scheme, first)
            push.setObjectName(name)
            push.setToolTip(tip)
            push.clicked.connect(lambda _=False, do=do: do())
            flow.addWidget(push)
        holder = QWidget()
        holder.setLayout(flow)
        rows.addWidget(holder)
        on = QHBoxLayout()
        on.addWidget(Plain(tr("On a copy of"), self._scheme, "ink2", 12))
        self._document = Word(tr("an empty document"), self._scheme, 12)
        self._document.setObjectName("trial-document")
        self._document.clicked.connect(self._choose_document)
        on.addWidget(self._document)
        on.addStretch(1)
        rows.addLayout(on)
        self._said = Plain("", self._scheme, "asks", 12)
        self._said.setWordWrap(True)
        self._said.setObjectName("trial-said")
        rows.addWidget(self._said)
        self._asked = QVBoxLayout()
        rows.addLayout(self._asked)
        self._scroll = QScrollArea()
        self._scroll.setFrameShape(QFrame.Shape.NoFrame)
        self._scroll.setWidgetResizable(True)
        slim(self._scroll, self._scheme)
        self._scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        rows.addWidget(self._scroll, 1)
        self._question: Question | None = None
        self.frames: list[Frame] = []

    def _to_here(self) -> None:
        self._run.run_to(self.line) if self.line else self._run.run_all()

    def _choose_document(self) -> None:
        choices = [("", tr("an empty document")), ("?", "a file …")]
        if self._run.document:
            choices.insert(1, (self._run.document, Path(self._run.document).name))
        choose_from(self._document, choices, self._run.document, self._scheme, self._take_document)

    def _take_document(self, path: str) -> None:
        if path == "?":
            path = ask_open(self, tr("Try it on a copy of"), self._run.document)
            if not path:
                return
        self._run.document = path
        self.refresh()

    def mark(self, line: int) -> None:
        """The step of that line is chosen in the list."""
        if line != self.line:
            self.line = line
            self.refresh()

    def refresh(self) -> None:
        """Draw what the trial knows."""
        run = self._run
        self._document.setText(Path(run.document).name if run.document else tr("an empty document"))
        self._document.updateGeometry()
        there(self.layout()).activate()
        failed = next((shot.failed for shot in run.shots.values() if shot.failed and not shot.stale), "")
        self._said.setText(failed or run.sentence)
        self._said.setToolTip(self._said.text())
        self._said.setVisible(bool(self._said.text()))
        if run.question is not self._question:
            self._ask_anew()
        inner = QWidget()
        column = QVBoxLayout(inner)
        column.setContentsMargins(0, 4, 0, 4)
        column.setSpacing(4)
        self.frames = []
        if run.first is not None:
            column.addWidget(Frame("", Shot(run.first), self._scheme, False, False))
        if not run.shots and run.first is None:
            hint = Plain(
                tr("Here the document shows after each step. Run all begins."), self._scheme, "ink2", 12
            )
            hint.setWordWrap(True)
            column.addWidget(hint)
        at = self._draw_shots(column)
        column.addStretch(1)
        scrolled = there(self._scroll.verticalScrollBar()).value()
        show_page(self._scroll, inner)
        if at >= 0:
            self._scroll.ensureWidgetVisible(self.frames[at])
        else:
            there(self._scroll.verticalScrollBar()).setValue(scrolled)

    def _ask_anew(self) -> None:
        """Show what the run asks now, in place of what it asked before."""
        run = self._run
        self._question = run.question
        while (item := self._asked.takeAt(0)) is not None:
            if (old := item.widget()) is not None:
                old.hide()
                old.deleteLater()
        if run.question is not None:
            asked = Questions(run.question, self._scheme, run.answer)
            self._asked.addWidget(asked)
            asked.show()
            asked.fields[0].setFocus()

    def _draw_shots(self, column: QVBoxLayout) -> int:
        """A frame for each step that was done; which of them is held or failed, -1 for none."""
        run, at = self._run, -1
        lines = run.lines()
        for index, line in enumerate(lines):
            held = run.running and run.held == line
            if index not in run.shots and not held:
                continue
            shot = run.shots.get(index, Shot())
            frame = Frame(self.number(line), shot, self._scheme, held, line == self.line)
            frame.setObjectName(f"shot-{index + 1}")
            frame.clicked.connect(lambda _=False, line=line: self.chosen.emit(line))
            column.addWidget(frame)
            self.frames.append(frame)
            if held or shot.failed:
                at = len(self.frames) - 1
        return at

    number: Callable[[int], str] = staticmethod(lambda line: str(line))
    """The number of the step of a line, as the list of steps shows it."""
