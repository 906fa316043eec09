"""The start screen: look at the demo, open a workspace, begin for an office."""

from __future__ import annotations

import subprocess
import sys
from dataclasses import dataclass
from importlib.metadata import entry_points
from pathlib import Path

from PyQt6.QtCore import QEventLoop, QRectF, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QApplication,
    QCheckBox,
    QFileDialog,
    QHBoxLayout,
    QPlainTextEdit,
    QVBoxLayout,
    QWidget,
)

from rimecrest.core.errors import RimecrestError
from rimecrest.core.model import dump_record
from rimecrest.core.workspace import LayerTitle, Seat, Settings, format_people, parse_people
from rimecrest.core.workspace.atomic import write_atomically
from rimecrest.link import listening
from rimecrest.shell.theme import Scheme, bold, font
from rimecrest.studio.shared.sentence_widgets import Field, Plain, Push, Word


@dataclass(frozen=True)
class Installed:
    """An application that carries Rimecrest and is installed here."""

    app: str
    title: str
    can: str


def installed_applications() -> list[Installed]:
    """The applications here that carry Rimecrest: they say so as entry points of their packages."""
    found = entry_points(group="rimecrest.applications")
    can = "toolbars, tabs, right-click menus, keys, macros"
    return [
        Installed(point.name, point.name.capitalize(), can) for point in sorted(found, key=lambda p: p.name)
    ]


def begin_workspace(folder: Path, name: str, applications: list[str], people: tuple[Seat, ...]) -> Path:
    """Make a new workspace; each application writes its own catalogue into it.

    Raises:
        RimecrestError: the folder holds a workspace already, or cannot be written, or an application fails.
    """
    if (folder / "workspace.json").exists():
        raise RimecrestError(f"{folder} holds a workspace already.", "Open it, or choose another name.")
    departments = dict.fromkeys(name for seat in people for name in seat.departments)
    layers = [LayerTitle(id="organisation", title="Everyone")]
    layers += [LayerTitle(id=f"department.{name}", title=name.capitalize()) for name in departments]
    for app in applications:
        command = [sys.executable, "-m", "rimecrest", "app", app, "--describe", str(folder / "catalogues")]
        done = subprocess.run(command, capture_output=True, text=True, check=False)
        if done.returncode:
            raise RimecrestError(
                f"{app.capitalize()} could not tell what it can do: {done.stderr.strip()[-200:]}"
            )
    write_atomically(folder / "people.csv", format_people(people).encode())
    settings = Settings(name=name, applications=tuple(applications), layers=tuple(layers))
    write_atomically(folder / "workspace.json", dump_record(settings, "workspace").encode())
    return folder


class StartScreen(QWidget):
    """Emits `opened` with the folder of a workspace, `demo_wanted` for the demo, `told` with a sentence."""

    opened = pyqtSignal(object)
    begun = pyqtSignal(object)
    demo_wanted = pyqtSignal()

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme
        self._boxes: dict[str, QCheckBox] = {}
        self._only_me = True
        self.setObjectName("start")
        rows = QVBoxLayout(self)
        rows.setContentsMargins(200, 110, 200, 60)
        rows.setSpacing(18)
        title = Plain("Rimecrest", scheme)
        title.setFont(bold(30))
        rows.addWidget(title)
        rows.addLayout(self._first_line())
        self._sheet = Sheet(scheme)
        self._fill_sheet()
        rows.addWidget(self._sheet)
        self._go = Push("Put the first button somewhere", scheme, first=True)
        self._go.setObjectName("begin")
        self._go.clicked.connect(self._begin)
        rows.addWidget(self._go)
        self._trouble = Plain("", scheme, "blocks", 13)
        self._trouble.setWordWrap(True)
        self._trouble.setObjectName("start-trouble")
        rows.addWidget(self._trouble)
        rows.addStretch(1)

    def _first_line(self) -> QHBoxLayout:
        line = QHBoxLayout()
        line.setSpacing(16)
        self._demo = Word("Look at the demo", self._scheme, 19)
        self._demo.setObjectName("start-demo")
        self._demo.clicked.connect(self._want_demo)
        line.addWidget(self._demo)
        open_ = Word("Open a workspace", self._scheme, 19)
        open_.setObjectName("start-open")
        open_.clicked.connect(self._open)
        line.addWidget(open_)
        words = Plain("Begin for", self._scheme)
        words.setFont(font(19))
        line.addWidget(words)
        self.name = Field(self._scheme)
        self.name.setObjectName("start-name")
        self.name.setAccessibleName("Begin for: the name of your office")
        self.name.setPlaceholderText("my office")
        self.name.setFont(font(19))
        self.name.setFixedWidth(230)
        self.name.returnPressed.connect(self._begin)
        line.addWidget(self.name)
        line.addStretch(1)
        return line

    def _want_demo(self) -> None:
        self.wait("The demo is being made; it opens in a moment …")
        self.demo_wanted.emit()

    def wait(self, sentence: str) -> None:
        """Show that something is under way, and take nothing else meanwhile."""
        self._trouble.setText(sentence)
        self._demo.setEnabled(False)
        self._go.setEnabled(False)
        self._go.update()
        # It is seen before what it tells of begins.
        QApplication.processEvents(QEventLoop.ProcessEventsFlag.ExcludeUserInputEvents)

    def _fill_sheet(self) -> None:
        rows = QVBoxLayout(self._sheet)
        rows.setContentsMargins(26, 22, 26, 22)
        rows.setSpacing(10)
        rows.addWidget(self._head("Which applications do colleagues use?"))
        for installed in installed_applications():
            line = QHBoxLayout()
            box = QCheckBox(installed.title)
            box.setFont(bold(13))
            box.setChecked(True)
            box.setFixedWidth(150)
            self._boxes[installed.app] = box
            line.addWidget(box)
            state = "runs now" if listening(installed.app) else "installed"
            line.addWidget(Plain(f"{state} · {installed.can}", self._scheme, "ink2", 13), 1)
            rows.addLayout(line)
        rows.addSpacing(8)
        who = QHBoxLayout()
        who.addWidget(self._head("Who are they?"))
        who.addSpacing(6)
        self._me = Plain("Only me for now, or", self._scheme, "ink2", 13)
        who.addWidget(self._me)
        paste = Word("paste a list", self._scheme, 13)
        paste.setObjectName("start-list")
        paste.clicked.connect(self._show_list)
        who.addWidget(paste)
        who.addStretch(1)
        rows.addLayout(who)
        self._list = QPlainTextEdit()
        self._list.setObjectName("start-people")
        self._list.setPlaceholderText(
            "seat,name,departments\nDesk 1,Ailis Sundby,front\nDesk 2,Bram Holm,front"
        )
        self._list.setFont(font(12))
        self._list.setFixedHeight(110)
        self._list.hide()
        rows.addWidget(self._list)

    def _head(self, text: str) -> Plain:
        words = Plain(text, self._scheme)
        words.setFont(bold(13))
        return words

    def _show_list(self) -> None:
        self._list.show()
        self._list.setFocus()

    def say(self, sentence: str) -> None:
        """Show what went wrong; everything can be tried again."""
        self._trouble.setText(sentence)
        self._demo.setEnabled(True)
        self._go.setEnabled(True)
        self._go.update()

    def _open(self) -> None:
        folder = QFileDialog.getExistingDirectory(self, "The folder that holds workspace.json")
        if folder:
            self.opened.emit(Path(folder))

    def _begin(self) -> None:
        name = self.name.text().strip() or "My office"
        chosen = [app for app, box in self._boxes.items() if box.isChecked()]
        if not chosen:
            self.say("Choose at least one application.")
            return
        base = Path.home() / "Rimecrest"
        folder = base / "".join(c if c.isalnum() else "-" for c in name.lower()).strip("-")
        try:
            text = self._list.toPlainText().strip()
            people = parse_people(text, "The list") if text else (Seat(seat="Desk 1", name=_own_name()),)
            self.wait("Your office is being set up: each application writes down what it can do …")
            self.begun.emit(begin_workspace(folder, name, chosen, people))
        except RimecrestError as error:
            self.say(str(error))

    def paintEvent(self, _event: QPaintEvent) -> None:
        QPainter(self).fillRect(self.rect(), self._scheme.color("paper"))


def _own_name() -> str:
    import getpass

    return getpass.getuser().capitalize()


class Sheet(QWidget):
    """A white sheet with a line round it."""

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(self._scheme.color("line"))
        painter.setBrush(self._scheme.color("sheet"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6)
