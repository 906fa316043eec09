"""The documents that are open in one window: which one is worked in, and runs that touch several.

A run of a macro is one undo across all of them: taken back on failure in each; undone later in each, or not
at all when one of them has been edited since.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QObject, Qt, pyqtSignal
from PyQt6.QtGui import QInputMethodEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from rimecrest.core.errors import RimecrestError
from rimecrest.embed.document import Paper
from rimecrest.embed.look import Scheme, bold, font
from rimecrest.embed.undo import Group


class Papers(QObject):
    """The open documents of one window.

    Signals:
        shown: another document is worked in.
        changed: something about the current document changed: its title, its undo.
        typed(text), composing(event), wants(verb, settings): what the current document tells.
    """

    shown = pyqtSignal()
    changed = pyqtSignal()
    typed = pyqtSignal(str)
    composing = pyqtSignal(QInputMethodEvent)
    wants = pyqtSignal(str, dict)

    def __init__(self, make: Callable[[], Paper]) -> None:
        super().__init__()
        self._make = make
        self.all: list[Paper] = []
        self.widget = QStackedWidget()
        self.lent: Path | None = None
        """Folder of the files that macros brought along: opened as copies that lie nowhere yet."""
        self._run = ""
        self._begun: list[Paper] = []
        """Documents that the present run opened."""
        self._before: Paper | None = None
        self.current = self._add()

    def _add(self) -> Paper:
        paper = self._make()
        paper.papers = self
        paper.typed.connect(self.typed)
        paper.composing.connect(self.composing)
        paper.wants.connect(self.wants)
        paper.undo.changed.connect(self.changed)
        self.all.append(paper)
        self.widget.addWidget(paper.widget)
        if self._run:
            paper.undo.begin_run(self._run)
            self._begun.append(paper)
        return paper

    def show(self, paper: Paper) -> None:
        """Work in that document."""
        if paper is self.current:
            return
        self.current.settle()
        self.current = paper
        self.widget.setCurrentWidget(paper.widget)
        paper.widget.setFocus()
        self.shown.emit()
        self.changed.emit()

    def begin(self) -> Paper:
        """A new, empty document; an untouched one is taken as it is."""
        if not self._run and self.current.pristine:
            return self.current
        paper = self._add()
        self.show(paper)
        return paper

    def open(self, path: Path) -> Paper:
        """Open a file, or go to it where it is open. Raises RimecrestError; all stays as it was."""
        for paper in self.all:
            if paper.path is not None and paper.path.absolute() == path.absolute():
                self.show(paper)
                return paper
        fits = not self._run and self.current.pristine
        paper = self.current if fits else self._add()
        try:
            paper.open_path(path)
        except RimecrestError:
            if not fits:
                self._remove(paper)
            raise
        if self.lent is not None and path.is_relative_to(self.lent):
            paper.path = None  # saving must not write over what all colleagues begin from
        self.show(paper)
        self.changed.emit()
        return paper

    def close(self, paper: Paper) -> bool:
        """Close a document, after asking about unsaved changes. The last one leaves an empty one."""
        if not paper.may_close():
            return False
        if len(self.all) == 1:
            self._add()
        self._remove(paper)
        return True

    def fresh(self) -> Paper:
        """Drop every document, unsaved or not, and begin with an empty one: a scratch copy is to be used."""
        old = list(self.all)
        paper = self._add()
        self.show(paper)
        for each in old:
            self._remove(each)
        return paper

    def _remove(self, paper: Paper) -> None:
        self.all.remove(paper)
        if paper in self._begun:
            self._begun.remove(paper)
        if paper is self.current:
            self.show(self.all[-1])
        self.widget.removeWidget(paper.widget)
        paper.widget.deleteLater()
        self.changed.emit()

    def may_close(self) -> bool:
        """Ask about the unsaved changes of each. False: one is to stay."""
        for paper in list(self.all):
            if paper.modified():
                self.show(paper)
            if not paper.may_close():
                return False
        return True

    def step(self, by: int) -> None:
        """The next document of the row, round and round."""
        self.show(self.all[(self.all.index(self.current) + by) % len(self.all)])

    # Runs

    @property
    def running(self) -> bool:
        return bool(self._run)

    def begin_run(self, label: str) -> None:
        """From here on everything is the run's. What was half entered before is kept, and is not."""
        self._run, self._begun, self._before = label, [], self.current
        for paper in self.all:
            paper.settle()
            paper.undo.begin_run(label)

    def end_run(self) -> None:
        """Keep what the run did, as one entry in every document that it changed."""
        group: Group = []
        for paper in self.all:
            paper.settle()
        self._run, self._begun = "", []
        for paper in self.all:
            paper.undo.end_run(group)
        self.changed.emit()

    def take_back_run(self) -> None:
        """Everything as it was before the run: texts, documents, and which one was worked in."""
        if not self._run:
            return
        self._run = ""
        for paper in self.all:
            paper.abandon()
        for paper in list(self._begun):
            self._remove(paper)
        if self._before is not None and self._before in self.all:
            self.show(self._before)
        for paper in self.all:
            paper.undo.take_back_run()
        self.changed.emit()

    # Undo

    def undo(self) -> None:
        """Undo in the current document, and with a macro in every one that it changed.

        Raises:
            RimecrestError: there is nothing to undo, or another document of the macro was edited since.
        """
        self._turn("undo", self.current.undo.last)

    def redo(self) -> None:
        self._turn("redo", self.current.undo.next)

    def _turn(self, word: str, entry: object) -> None:
        stack = self.current.undo
        group = getattr(entry, "group", None)
        if entry is None or stack.running:
            raise RimecrestError(f"There is nothing to {word}.")
        open_now = {paper.undo: paper for paper in self.all}
        others = [other for other in group or () if other is not stack and other in open_now]
        for other in others:
            other_entry = other.last if word == "undo" else other.next
            if other_entry is None or other_entry.group is not group:
                name = open_now[other].title().removesuffix(" *")
                raise RimecrestError(
                    f"“{getattr(entry, 'label', '')}” also changed “{name}”, which has been edited since.",
                    f"{word.capitalize()} what was done there first.",
                )
        for each in (stack, *others):
            each.undo() if word == "undo" else each.redo()


class PaperRow(QWidget):
    """The open documents by name, shown while there is more than one. A click works in that one."""

    def __init__(self, papers: Papers, scheme: Callable[[], Scheme]) -> None:
        super().__init__()
        self._papers = papers
        self._scheme = scheme
        self.setObjectName("papers")
        self.setAccessibleName("Open documents")
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(10, 3, 10, 3)
        self._row.setSpacing(4)
        self._row.addStretch(1)
        self._buttons: list[QPushButton] = []
        papers.changed.connect(self._fill)
        self._fill()

    def _fill(self) -> None:
        papers = self._papers
        self.setVisible(len(papers.all) > 1)
        while len(self._buttons) > len(papers.all):
            button = self._buttons.pop()
            self._row.removeWidget(button)
            button.hide()
            button.deleteLater()
        while len(self._buttons) < len(papers.all):
            button = QPushButton(self)
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.setFlat(True)
            number = len(self._buttons)
            button.clicked.connect(lambda _=False, number=number: self._choose(number))
            self._row.insertWidget(number, button)
            self._buttons.append(button)
        for button, paper in zip(self._buttons, papers.all, strict=True):
            now = paper is papers.current
            title = paper.title()
            button.setText(("▸ " if now else "") + title.replace("&", "&&"))
            button.setAccessibleName(title + (", worked in" if now else ""))
            button.setFont(bold(12) if now else font(12))

    def _choose(self, number: int) -> None:
        if number < len(self._papers.all):
            name = self._papers.all[number].title().removesuffix(" *")
            self._papers.wants.emit("go-to-document", {"name": name})

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._scheme().color("paper"))
        painter.setPen(self._scheme().color("line"))
        painter.drawLine(0, self.height() - 1, self.width(), self.height() - 1)


class Centre(QWidget):
    """The middle of a window: the row of open documents over the one that is worked in."""

    def __init__(self, papers: Papers, scheme: Callable[[], Scheme]) -> None:
        super().__init__()
        rows = QVBoxLayout(self)
        rows.setContentsMargins(0, 0, 0, 0)
        rows.setSpacing(0)
        rows.addWidget(PaperRow(papers, scheme))
        rows.addWidget(papers.widget, 1)
