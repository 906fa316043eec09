"""The Macros place: shelves, steps and text, joined to the session."""

from __future__ import annotations

import re
from dataclasses import replace

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from rimecrest.core.macro import Fault, Header, Macro, check_macro, effects, format_macro
from rimecrest.core.macro.rework import Path, double, move, mute, take_out
from rimecrest.core.workspace import MacroFile, PutMacro, uses
from rimecrest.embed.look import Scheme
from rimecrest.studio.aim import Aim, seat_for
from rimecrest.studio.macros.editor import MacroText
from rimecrest.studio.macros.shelves import Key, Shelves
from rimecrest.studio.macros.steps import StepList
from rimecrest.studio.session import Session
from rimecrest.studio.words import Elided, Entry, Plain, Push, Word

NEW = 'macro "{name}"\nabout ""\nfor {app}\n\n'


class MacrosPlace(QWidget):
    """Reads, mends, makes, runs and deletes macros. `run_wanted` carries the id of one to run."""

    run_wanted = pyqtSignal(str)

    def __init__(self, session: Session, scheme: Scheme) -> None:
        super().__init__()
        self.session = session
        self._scheme = scheme
        self.now: Key | None = None
        self.shelves = Shelves(session, scheme)
        self.steps = StepList(scheme)
        self.text = MacroText(scheme)
        self._title = Word("", scheme, 20)
        self._title.setObjectName("macro-title")
        self._about = Word("", scheme, 13)
        self._about.setObjectName("macro-about")
        self._facts = Elided("", scheme, "ink2", 12)
        self._fault = Elided("", scheme, "blocks", 13)
        self._fault.setObjectName("macro-fault")
        self._new = Push("New macro", scheme)
        self._new.setObjectName("macro-new")
        self._run = Push("Run it", scheme)
        self._run.setObjectName("macro-run")
        self._run.setToolTip("Run it in the real application, on a scratch profile")
        self._delete = Word("delete", scheme, 12)
        self._delete.setObjectName("macro-delete")
        self._used = Elided("", scheme, "ink2", 12)
        self._used.setObjectName("macro-used")
        self._build()
        self.shelves.chosen.connect(self.open)
        self.steps.reworked.connect(self._rework)
        self.steps.went_to.connect(self.text.go_to)
        self.text.rested.connect(self._write)
        self._title.clicked.connect(lambda: self._edit(self._title, "macro"))
        self._about.clicked.connect(lambda: self._edit(self._about, "about"))
        self._new.clicked.connect(self.make)
        self._delete.clicked.connect(self._delete_now)
        self._run.clicked.connect(self.run)
        session.changed.connect(self._changed)

    def _changed(self) -> None:
        if self.isVisible():
            self.refresh()

    def _build(self) -> None:
        left = QVBoxLayout()
        left.setContentsMargins(0, 0, 0, 10)
        left.addWidget(self.shelves, 1)
        row = QHBoxLayout()
        row.setContentsMargins(14, 0, 0, 0)
        row.addWidget(self._new)
        row.addStretch(1)
        left.addLayout(row)
        self._sheet = QWidget()
        centre = QVBoxLayout(self._sheet)
        centre.setContentsMargins(18, 14, 18, 10)
        centre.setSpacing(6)
        head = QHBoxLayout()
        head.addWidget(self._title)
        head.addStretch(1)
        head.addWidget(self._run)
        centre.addLayout(head)
        centre.addWidget(self._about)
        centre.addWidget(self._facts)
        columns = QHBoxLayout()
        columns.setSpacing(16)
        columns.addWidget(self.steps, 5)
        columns.addWidget(self.text, 5)
        centre.addLayout(columns, 1)
        centre.addWidget(self._fault)
        foot = QHBoxLayout()
        foot.addWidget(self._used)
        foot.addStretch(1)
        foot.addWidget(self._delete)
        centre.addLayout(foot)
        self._empty = Plain("Here stand the macros. Enter makes the first one.", self._scheme, "ink2", 15)
        self._empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        whole = QHBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(0)
        whole.addLayout(left)
        whole.addWidget(self._sheet, 1)
        whole.addWidget(self._empty, 1)

    # Showing

    def begin(self) -> None:
        """The place is shown: open the first macro of the aim, and take the keys."""
        if self.file() is None:
            keys = sorted(
                self.session.workspace.macros, key=lambda key: (key[0] != self.session.aim.layer, key)
            )
            self.now = keys[0] if keys else None
        self.refresh()
        (self.steps if self.now else self._new).setFocus()

    def leave(self) -> None:
        """Another place is shown: save what was typed last."""
        self.text.flush()

    def file(self) -> MacroFile | None:
        return self.session.workspace.macros.get(self.now) if self.now else None

    def open(self, key: Key) -> None:
        self.text.flush()
        self.now = key
        self.refresh()
        self.shelves.mark(key)

    def faults(self, file: MacroFile) -> list[Fault]:
        """Everything wrong with a macro, in the order of its lines."""
        workspace = self.session.workspace
        others = {name: f.macro for name, f in workspace.macros_of(workspace.stack_up_to(file.layer)).items()}
        companions = {f"companions/{name}" for name in workspace.companions}
        catalogue = workspace.catalogues.get(file.macro.application)
        found = [*file.faults, *check_macro(file.macro, catalogue, companions, others)]
        return sorted(found, key=lambda fault: (fault.line, fault.column))

    def refresh(self) -> None:
        """Draw the macro that is open as it is now."""
        file = self.file()
        self.shelves.fill(self.now)
        self._sheet.setVisible(file is not None)
        self._empty.setVisible(file is None)
        if file is None:
            return
        workspace = self.session.workspace
        catalogue = workspace.catalogues.get(file.macro.application)
        faults = self.faults(file)
        self._title.setText(file.name)
        self._title.updateGeometry()
        self._about.setText(file.macro.about or "What is it for?")
        self._about.updateGeometry()
        count = sum(1 for _ in file.macro.live_steps())
        may = ", ".join(effect.value for effect in effects(file.macro, catalogue)) if catalogue else ""
        needs = [need.say or need.context or need.reading for need in file.macro.needs]
        words = [f"{count} steps", f"may: {may}" if may else "changes nothing"]
        words += [f"says “{needs[0]}” where it cannot run"] if needs else []
        self._facts.setText(" · ".join(words))
        self._facts.setToolTip(self._facts.text())
        self.steps.show_macro(file.macro, catalogue, faults)
        self.text.show_text(file.text)
        self.text.show_faults(faults)
        self._fault.setText(str(faults[0]) if faults else "")
        self._fault.setToolTip(self._fault.text())
        found = uses(workspace, file.layer, file.id)
        shown = ", ".join(use.words for use in found[:4]) + (
            f" and {len(found) - 4} more" if len(found) > 4 else ""
        )
        self._used.setText(f"Run by {shown}" if found else "Nothing runs it yet")
        self._used.setToolTip(self._used.text())

    # Doing

    def _put(self, text: str) -> None:
        if self.now is not None:
            self.session.do(PutMacro(*self.now, text))

    def _write(self, text: str) -> None:
        self._put(text if text.endswith("\n") else text + "\n")

    def _rework(self, name: str, path: Path) -> None:
        self.text.flush()
        file = self.file()
        if file is None:
            return
        if file.faults:
            self.session.told.emit(f"Mend the text first: {file.faults[0]}")
            return
        macro = file.macro
        made = {
            "mute": lambda: mute(macro, path),
            "take out": lambda: take_out(macro, path),
            "double": lambda: double(macro, path),
            "up": lambda: move(macro, path, -1),
            "down": lambda: move(macro, path, 1),
        }[name]()
        if made == macro:
            return
        self._put(format_macro(made))
        by = {"up": -1, "down": 1}.get(name, 0)
        self.steps.choose((*path[:-1], path[-1] + by))

    def _edit(self, word: Word, what: str) -> None:
        """Edit the name or the purpose in place. The identity stays, so that what runs it still does."""
        file = self.file()
        if file is None:
            return
        field = Entry(file.name if what == "macro" else file.macro.about, "", self._sheet)
        field.setObjectName("macro-field")
        field.setGeometry(word.x(), word.y() - 2, max(word.width() + 80, 320), word.height() + 6)

        def done(text: str) -> None:
            field.hide()
            field.deleteLater()
            if text and (what == "about" or self._free_name(text, file)):
                self._put(format_macro(_with_head(file.macro, what, text)))
            self.steps.setFocus()

        field.entered.connect(done)
        field.given_up.connect(lambda: done(""))
        field.show()
        field.setFocus()

    def _free_name(self, name: str, file: MacroFile | None) -> bool:
        """Whether no other macro that colleagues see beside it is called so; else a suggestion is told."""
        names = {f.name.lower() for f in self.session.workspace.macros.values() if f is not file}
        if name.lower() not in names:
            return True
        number = next(n for n in range(2, 1000) if f"{name} {n}".lower() not in names)
        self.session.told.emit(f"There is a macro “{name}” already; “{name} {number}” is free.")
        return False

    def make(self) -> None:
        """A new macro on the aimed layer's shelf, its name ready to be written over."""
        self.text.flush()
        workspace, aim = self.session.workspace, self.session.aim
        names = {file.name.lower() for file in workspace.macros.values()}
        ids = {name for _, name in workspace.macros}
        number = 1
        while (name := "New macro" if number == 1 else f"New macro {number}").lower() in names or _id(
            name
        ) in ids:
            number += 1
        key = (aim.layer, _id(name))
        if self.session.do(PutMacro(*key, NEW.format(name=name, app=aim.app))):
            self.open(key)
            self._edit(self._title, "macro")

    def run(self) -> None:
        """Run the macro that is open in the application that is being tried; one with faults is not run."""
        self.text.flush()
        file = self.file()
        if file is None:
            return
        if faults := self.faults(file):
            self.session.told.emit(f"“{file.name}” cannot run: {faults[0]}")
            return
        seen = self.session.workspace.macros_of(self.session.aim.stack(self.session.workspace)).get(file.id)
        if seen is not file:
            self._aim_at_shelf(file)
        self.run_wanted.emit(file.id)

    def _aim_at_shelf(self, file: MacroFile) -> None:
        """Aim at the macro's own layer: the draft that is tried is the aimed one."""
        aim = self.session.aim
        seat = seat_for(self.session.workspace, file.layer)
        self.session.aim_at(Aim(file.layer, aim.app, seat, aim.width))

    def _delete_now(self) -> None:
        file = self.file()
        if file is None:
            return
        found = uses(self.session.workspace, file.layer, file.id)
        if self.session.do(PutMacro(file.layer, file.id, None)):
            ran = f" It was run by {', '.join(use.words for use in found[:3])}." if found else ""
            self.now = None
            self.begin()
            self.session.told.emit(f"“{file.name}” is deleted.{ran} Undo brings it back.")


def _id(name: str) -> str:
    return re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-") or "macro"


def _with_head(macro: Macro, word: str, value: str) -> Macro:
    """The macro with another name or purpose in its head."""
    for index, line in enumerate(macro.head):
        if isinstance(line, Header) and line.word == word:
            head = (*macro.head[:index], replace(line, value=value), *macro.head[index + 1 :])
            return replace(macro, head=head)
    at = 0 if word == "macro" else 1
    return replace(macro, head=(*macro.head[:at], Header(word, value), *macro.head[at:]))
