"""The start screen: look at the demo, open a workspace, begin for an office."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QEventLoop, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import (
    QApplication,
    QCheckBox,
    QHBoxLayout,
    QPlainTextEdit,
    QVBoxLayout,
    QWidget,
)

from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import Folder
from rimecrest.core.identities import LayerId
from rimecrest.core.model import dump_record
from rimecrest.core.words import tr
from rimecrest.core.workspace.people import Seat, format_people, parse_pasted_people, perhaps_one
from rimecrest.core.workspace.settings import LayerTitle, Settings
from rimecrest.link.addresses import listening
from rimecrest.link.applications import demo_is_installed, installed_applications
from rimecrest.link.launch import describe_application
from rimecrest.rollout.desktop import desktop_here
from rimecrest.shell.file_dialogs import ask_folder
from rimecrest.shell.keyboard_here import keyboard_here
from rimecrest.shell.theme import Scheme, bold, font
from rimecrest.studio.shared.marks import hexagon
from rimecrest.studio.shared.own_name import own_name
from rimecrest.studio.shared.sentence_widgets import Field, Plain, Push, Word

WIDTH = 880
"""Pixels of what stands in the middle."""


def begin_workspace(folder: Path, name: str, applications: list[str], people: tuple[Seat, ...]) -> Path:
    """Make a new workspace; each application writes its own catalogue into it.

    Raises:
        RimecrestError: the folder holds a workspace already, or cannot be written, or an application fails.
    """
    if (folder / "workspace.json").exists():
        raise RimecrestError(
            tr("{folder} holds a workspace already.", folder=folder), tr("Open it, or choose another name.")
        )
    departments = dict.fromkeys(name for seat in people for name in seat.departments)
    layers = [LayerTitle(id="organisation", title="Everyone")]
    for department in departments:
        title = department.replace("-", " ").capitalize()
        layers.append(LayerTitle(id=LayerId(f"department.{department}"), title=title))
    for app in applications:
        describe_application(app, folder / "catalogues")
    Folder(folder).write("people.csv", format_people(people).encode())
    settings = Settings(name=name, applications=tuple(applications), layers=tuple(layers))
    Folder(folder).write("workspace.json", dump_record(settings, "workspace").encode())
    return folder


class StartScreen(QWidget):
    """Emits `opened` with the folder of a workspace, `demo_wanted` for the demo, `told` with a sentence."""

    opened = pyqtSignal(Path)
    begun = pyqtSignal(Path)
    demo_wanted = pyqtSignal()

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme
        self._boxes: dict[str, QCheckBox] = {}
        self.setObjectName("start")
        outer = QVBoxLayout(self)
        outer.setContentsMargins(24, 16, 24, 16)
        column = QWidget()
        column.setMaximumWidth(WIDTH)
        rows = QVBoxLayout(column)
        rows.setContentsMargins(0, 0, 0, 0)
        rows.setSpacing(14)
        centred = QHBoxLayout()
        centred.addStretch(1)
        centred.addWidget(column, 100)
        centred.addStretch(1)
        outer.addStretch(2)
        outer.addLayout(centred)
        outer.addStretch(3)
        title = Plain(tr("Rimecrest"), scheme)
        title.setFont(bold(40))
        rows.addWidget(title)
        lead = Plain(tr("Toolbars, tabs, keys and macros for a whole office."), scheme, "ink2", 15)
        rows.addWidget(lead)
        rows.addSpacing(10)
        self._demo = Word(tr("Look at the demo"), scheme, 19)
        self._demo.setObjectName("start-demo")
        self._demo.clicked.connect(self._want_demo)
        if demo_is_installed():
            self._add_way(self._demo, tr("A ferry office with forty colleagues."), rows)
        open_ = Word(tr("Open a workspace"), scheme, 19)
        open_.setObjectName("start-open")
        open_.clicked.connect(self._open)
        self._add_way(open_, tr("The folder that holds workspace.json."), rows)
        rows.addLayout(self._first_line())
        self._sheet = Sheet(scheme)
        self._fill_sheet()
        rows.addWidget(self._sheet)
        self._go = Push(tr("Put the first button somewhere"), scheme, first=True)
        self._go.setObjectName("begin")
        self._go.clicked.connect(self._begin)
        rows.addWidget(self._go)
        self._trouble = Plain("", scheme, "blocks", 13)
        self._trouble.setWordWrap(True)
        self._trouble.setObjectName("start-trouble")
        rows.addWidget(self._trouble)

    def _add_way(self, word: Word, about: str, rows: QVBoxLayout) -> None:
        """A line that begins something: what it does, and what one gets."""
        line = QHBoxLayout()
        line.setSpacing(16)
        line.addWidget(word)
        line.addWidget(Plain(about, self._scheme, "ink2", 13), 1)
        rows.addLayout(line)

    def _first_line(self) -> QHBoxLayout:
        line = QHBoxLayout()
        line.setSpacing(16)
        words = Plain(tr("Begin for"), self._scheme)
        words.setFont(font(19))
        line.addWidget(words)
        self.name = Field(self._scheme)
        self.name.setObjectName("start-name")
        self.name.setAccessibleName(tr("Begin for: the name of your office"))
        self.name.setPlaceholderText(tr("my office"))
        self.name.setFont(font(19))
        self.name.setFixedWidth(230)
        self.name.returnPressed.connect(self._begin)
        line.addWidget(self.name)
        line.addStretch(1)
        return line

    def _want_demo(self) -> None:
        self.wait(tr("The demo is being made; it opens in a moment …"))
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
        rows.addWidget(self._head(tr("Which applications do colleagues use?")))
        can = tr("toolbars, tabs, right-click menus, keys, macros")
        for application in installed_applications():
            line = QHBoxLayout()
            box = QCheckBox(application.name.capitalize())
            box.setFont(bold(13))
            box.setChecked(True)
            box.setFixedWidth(150)
            self._boxes[application.name] = box
            line.addWidget(box)
            state = tr("runs now") if listening(application.name) else "installed"
            line.addWidget(Plain(f"{state} · {can}", self._scheme, "ink2", 13), 1)
            rows.addLayout(line)
        rows.addSpacing(8)
        who = QHBoxLayout()
        who.addWidget(self._head(tr("Who are they?")))
        who.addSpacing(6)
        self._me = Plain(tr("Only me for now, or"), self._scheme, "ink2", 13)
        who.addWidget(self._me)
        paste = Word(tr("paste a list"), self._scheme, 13)
        paste.setObjectName("start-list")
        paste.clicked.connect(self._show_list)
        who.addWidget(paste)
        who.addStretch(1)
        rows.addLayout(who)
        self._list = QPlainTextEdit()
        self._list.setObjectName("start-people")
        self._list.setPlaceholderText(
            tr("seat,name,departments\nDesk 1,Ailis Sundby,front\nDesk 2,Bram Holm,front")
        )
        self._list.setFont(font(12))
        self._list.setFixedHeight(110)
        self._list.hide()
        self._asked_about = ""
        """The list whose departments were asked about."""
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
        folder = ask_folder(self, tr("The folder that holds workspace.json"))
        if folder:
            self.opened.emit(Path(folder))

    def _begin(self) -> None:
        name = self.name.text().strip() or tr("My office")
        chosen = [app for app, box in self._boxes.items() if box.isChecked()]
        if not chosen:
            self.say(tr("Choose at least one application."))
            return
        base = Path.home() / "Rimecrest"
        folder = base / "".join(c if c.isalnum() else "-" for c in name.lower()).strip("-")
        try:
            text = self._list.toPlainText().strip()
            people = parse_pasted_people(text, tr("The list")) if text else (_this_seat(),)
            if (pair := perhaps_one(people)) and self._asked_about != text:
                self._asked_about = text
                self.say(
                    tr(
                        "“{pair}” was read as two departments. If it is one, write {joined}; if they are "
                        "two, begin once more.",
                        pair=pair,
                        joined=pair.replace(" ", "-"),
                    )
                )
                return
            self.wait(tr("Your office is being set up: each application writes down what it can do …"))
            self.begun.emit(begin_workspace(folder, name, chosen, people))
        except RimecrestError as error:
            self.say(str(error))

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), self._scheme.color("paper"))
        # Rime: crystals that grow from the lower edge, thinning out upwards.
        across, down = 56.0, 48.5
        for row in range(5):
            for place in range(int(self.width() / across) + 2):
                if (place * 7 + row * 5) % (row + 2):
                    continue
                x = place * across - (across / 2 if row % 2 else 0)
                box = QRectF(x, self.height() - (row + 0.6) * down, across - 6, 58)
                painter.setPen(QPen(self._scheme.color("line"), 1.5))
                painter.setBrush(self._scheme.color("spine") if (place + row) % 3 else Qt.BrushStyle.NoBrush)
                painter.drawPolygon(hexagon(box))


def _this_seat() -> Seat:
    """The specialist's own, with the keyboard and desktop of this computer."""
    return Seat(seat="Desk 1", name=own_name(), keyboard=keyboard_here(), desktop=desktop_here())


class Sheet(QWidget):
    """A white sheet with a line round it."""

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(self._scheme.color("line"))
        painter.setBrush(self._scheme.color("sheet"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6)
