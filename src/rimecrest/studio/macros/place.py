"""The Macros place: shelves, steps and text, the trial, recording; joined to the session."""

from __future__ import annotations

import contextlib
from collections.abc import Callable
from dataclasses import replace

from PyQt6.QtCore import QRect, Qt, QTimer
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QApplication, QHBoxLayout, QSizePolicy, QVBoxLayout, QWidget

from rimecrest.core.catalogue import Catalogue
from rimecrest.core.errors import RimecrestError
from rimecrest.core.macro import (
    Comment,
    Do,
    Fault,
    Header,
    Macro,
    Statement,
    check_macro,
    effects,
    format_macro,
    parse_macro,
)
from rimecrest.core.macro.complete import completions, names_set
from rimecrest.core.macro.field_edits import field_text, with_field
from rimecrest.core.macro.format import quote
from rimecrest.core.macro.step_edits import (
    ask_for,
    carry,
    change_step,
    double,
    gather,
    move,
    mute,
    put_in,
    steps_of,
    take_all_out,
)
from rimecrest.core.macro.step_tree import Path, step_at, walk
from rimecrest.core.words import counted
from rimecrest.core.workspace import (
    MINE,
    MacroFile,
    PutMacro,
    fresh_macro,
    uses,
)
from rimecrest.studio.macros.bundles import Bundles
from rimecrest.studio.macros.caret import StepCaret, step_entries
from rimecrest.studio.macros.editor import MacroText
from rimecrest.studio.macros.fields import Wanted, edit_word
from rimecrest.studio.macros.finish import FinishSentence
from rimecrest.studio.macros.open_field import FieldTarget, OpenField
from rimecrest.studio.macros.recording import Recordings, running_windows
from rimecrest.studio.macros.shelf_moves import ShelfMoves
from rimecrest.studio.macros.shelves import Key, Shelves
from rimecrest.studio.macros.step_trial import TrialPanel
from rimecrest.studio.macros.steps import ROW, StepList
from rimecrest.studio.macros.trial_session import TrialRun
from rimecrest.studio.shared.candidates import Candidates
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.edit_target import EditTarget, seat_for
from rimecrest.studio.shared.place import Place, Surroundings, Thing, action
from rimecrest.studio.shared.search import Match
from rimecrest.studio.shared.sentence_widgets import Elided, InlineField, Plain, Push, Word

NEW = 'macro {name}\nabout ""\nfor {app}\n\n'


class MacrosPlace(Place):
    """Reads, mends, makes, records, tries, runs and deletes macros."""

    def __init__(self, surroundings: Surroundings) -> None:
        super().__init__()
        self.session = session = surroundings.session
        self._scheme = scheme = surroundings.scheme
        preview = surroundings.preview
        self.now: Key | None = None
        self.shelves = Shelves(session, scheme)
        self.steps = StepList(scheme)
        self.text = MacroText(scheme)
        self.caret = StepCaret(scheme, self.steps.viewport(), self)
        self.trial = TrialRun(session, self)
        self.panel = TrialPanel(self.trial, scheme)
        self.recordings = Recordings(preview, self)
        self._preview = preview
        self.bundles = Bundles(session, scheme, self, self.open)
        self.moves = ShelfMoves(session, preview, scheme, self.open)
        self.finish: FinishSentence | None = None
        self._field: OpenField | None = None
        self._title = Word("", scheme, 20)
        self._title.setObjectName("macro-title")
        self._about = Word("", scheme, 13)
        self._about.setObjectName("macro-about")
        for word in (self._title, self._about):
            # However long they are, they make no window wider.
            word.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Fixed)
            word.setMinimumWidth(60)
        self._facts = Elided("", scheme, "ink2", 12)
        self._fault = Plain("", scheme, "blocks", 13)
        self._fault.setWordWrap(True)
        self._fault.setObjectName("macro-fault")
        self._new = self._push("New macro", "macro-new", self.make)
        self._record = self._push("● Record", "macro-record", self._choose_window)
        self._record.setToolTip("Record by doing: in a scratch window, or in one that runs")
        self._run = self._push("Run it", "macro-run", self.run)
        self._run.setToolTip("Run it in the real application, on a scratch profile")
        self._show_text = self._push("Show as text", "show-text", self.turn_text)
        self._delete = Word("delete", scheme, 12)
        self._delete.setObjectName("macro-delete")
        self._move = Word("move", scheme, 12)
        self._move.setObjectName("macro-move")
        self._move.setToolTip("Move it to another shelf")
        self._copy = Word("copy", scheme, 12)
        self._copy.setObjectName("macro-copy")
        self._copy.setToolTip("Put a copy on another shelf")
        self._used = Elided("", scheme, "ink2", 12)
        self._used.setObjectName("macro-used")
        self._build()
        self._connect()

    def _push(self, words: str, name: str, do: Callable[[], object]) -> Push:
        push = Push(words, self._scheme)
        push.setObjectName(name)
        push.clicked.connect(lambda _=False: do())
        return push

    def _connect(self) -> None:
        self.shelves.chosen.connect(self.open)
        self.shelves.kept_chosen.connect(self.moves.choose_for_kept)
        self._preview.kept_changed.connect(self._changed)
        self.steps.reworked.connect(self._rework)
        self.steps.edit_wanted.connect(self._edit_word)
        self.steps.search_wanted.connect(self._open_caret)
        self.steps.carried.connect(self._carry)
        self.steps.went_to.connect(self.text.go_to)
        self.steps.went_to.connect(self.panel.mark)
        self.caret.taken.connect(self._put_text_in)
        self.caret.left.connect(self.steps.setFocus)
        self.panel.chosen.connect(self.steps.choose_line)
        self.panel.number = self.steps.number_of
        self.text.rested.connect(self._write)
        self.text.complete = self._complete
        self.text.offered = Candidates(self._scheme, self, 260)
        self.text.offered.taken.connect(self.text.take_word)
        self.trial.told.connect(self.session.told)
        self.recordings.told.connect(self.session.told)
        self.recordings.changed.connect(self._recording)
        self.recordings.recorded.connect(self.take_recorded)
        self._title.clicked.connect(lambda: self._edit(self._title, "macro"))
        self._about.clicked.connect(lambda: self._edit(self._about, "about"))
        self._delete.clicked.connect(self._delete_now)
        self._move.clicked.connect(lambda: self._choose_shelf(self._move, copy=False))
        self._copy.clicked.connect(lambda: self._choose_shelf(self._copy, copy=True))
        self.session.changed.connect(self._changed)

    def _changed(self) -> None:
        if self.isVisible():
            self.refresh()

    def _build(self) -> None:
        left = QVBoxLayout()
        left.setContentsMargins(0, 0, 0, 10)
        left.addWidget(self.shelves, 1)
        row = QHBoxLayout()
        row.setContentsMargins(14, 0, 0, 0)
        row.setSpacing(6)
        row.addWidget(self._new)
        row.addWidget(self._record)
        row.addStretch(1)
        left.addLayout(row)
        second = QHBoxLayout()
        second.setContentsMargins(16, 4, 0, 0)
        second.setSpacing(14)
        for words, name, tip, do in (
            ("export", "macro-export", "Write this macro and all it needs into a file", self.export),
            ("import", "macro-import", "Import macros that somebody exported", self.bundles.ask_and_import),
        ):
            word = Word(words, self._scheme, 12)
            word.setObjectName(name)
            word.setToolTip(tip)
            word.clicked.connect(lambda _=False, do=do: do())
            second.addWidget(word)
        second.addStretch(1)
        left.addLayout(second)
        self._sheet = QWidget()
        self._centre = QVBoxLayout(self._sheet)
        self._centre.setContentsMargins(18, 14, 18, 10)
        self._centre.setSpacing(6)
        head = QHBoxLayout()
        head.addWidget(self._title)
        head.addStretch(1)
        head.addWidget(self._show_text)
        head.addWidget(self._run)
        self._centre.addLayout(head)
        self._centre.addWidget(self._about)
        self._centre.addWidget(self._facts)
        self._hint = Plain(
            "Type a command, a macro or a word like ask: it is put in here.", self._scheme, "ink2"
        )
        self._centre.addWidget(self._hint)
        self._centre.addWidget(self.steps, 1)
        self._centre.addWidget(self._fault)
        foot = QHBoxLayout()
        foot.addWidget(self._used)
        foot.addStretch(1)
        foot.addWidget(self._move)
        foot.addWidget(self._copy)
        foot.addWidget(self._delete)
        self._centre.addLayout(foot)
        self._empty = Plain("Here stand the macros. Enter makes the first one.", self._scheme, "ink2", 15)
        self._empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self._empty.hide()
        whole = QHBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(0)
        whole.addLayout(left)
        whole.addWidget(self._sheet, 1)
        whole.addWidget(self._empty, 1)
        self.text.setMinimumWidth(280)
        self.text.hide()
        whole.addWidget(self.text)
        whole.addWidget(self.panel)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setPen(self._scheme.color("line"))
        for widget in (self._sheet, self.text if self.text.isVisible() else self.panel):
            if widget.isVisible():
                painter.drawLine(widget.x() - 1, 0, widget.x() - 1, self.height())

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
        self._end_field()
        self.text.flush()

    def close_down(self) -> None:
        self.trial.close()

    def take_focus(self) -> None:
        (self.steps if self.now else self._new).setFocus()

    def actions(self) -> list[Match]:
        return [
            action("New macro", self._make_here, more="make"),
            action("Record a macro", self._record_here, more="recording do chore"),
        ]

    def _make_here(self, name: str = "New macro") -> None:
        self.wanted.emit()
        self.make(name)

    def _record_here(self) -> None:
        self.wanted.emit()
        self.record()

    def offers(self, word: str) -> list[Match]:
        return [action(f"Make a macro called “{word}”", lambda: self._make_here(word))]

    def _key_of(self, thing: Thing) -> Key | None:
        """The macro that a thing is: of the layer it names, else the highest that the aim sees, else any."""
        layer, _, target = thing.name.rpartition("/")
        if thing.kind != "macro" or not target.startswith("macro:"):
            return None
        workspace, name = self.session.workspace, target.removeprefix("macro:")
        seen = reversed(self.session.aim.stack(workspace))
        layers = [layer] if layer else [*seen, *(known for known, _ in workspace.macros)]
        return next(((at, name) for at in layers if (at, name) in workspace.macros), None)

    def shows(self, thing: Thing) -> bool:
        return self._key_of(thing) is not None

    def show_thing(self, thing: Thing) -> None:
        if (key := self._key_of(thing)) is not None:
            self.open(key)
            self.steps.setFocus()

    def turn_text(self) -> None:
        """Show the text beside the steps in place of the trial, or the trial again."""
        shown = self.text.isHidden()
        self.text.flush()
        # Never both at once: the window would make room for both, and keep it.
        gone, come = (self.panel, self.text) if shown else (self.text, self.panel)
        gone.hide()
        come.show()
        self._show_text.setText("Show the trial" if shown else "Show as text")
        self._show_text.updateGeometry()
        (self.text if shown else self.steps).setFocus()
        self.refresh()
        self.update()

    def file(self) -> MacroFile | None:
        return self.session.workspace.macros.get(self.now) if self.now else None

    def open(self, key: Key) -> None:
        self._end_field()
        self.text.flush()
        self.now = key
        self.refresh()
        self.shelves.mark(key)

    def catalogue(self) -> Catalogue | None:
        file = self.file()
        return self.session.workspace.catalogues.get(file.macro.application) if file else None

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
        self._drop_lost_field()
        file = self.file()
        self.shelves.kept = self._preview.kept
        self.shelves.fill(self.now)
        self._sheet.setVisible(file is not None)
        self._empty.setVisible(file is None)
        self.panel.setVisible(file is not None and self.text.isHidden())
        self.trial.open(file)
        if self.finish is not None and (file is None or self.finish.file.id != file.id):
            self._end_finish()
        if file is None:
            return
        workspace, catalogue, faults = self.session.workspace, self.catalogue(), self.faults(file)
        self._title.setText(file.name)
        self._title.updateGeometry()
        self._about.setText(file.macro.about or "What is it for?")
        self._about.updateGeometry()
        every = [step for _, step in walk(file.macro) if not isinstance(step, Comment)]
        live = sum(1 for _ in file.macro.live_steps())
        steps = counted(len(every), "step")
        if off := len(every) - live:
            steps += f", {off} turned off"
        may = ", ".join(effect.value for effect in effects(file.macro, catalogue)) if catalogue else ""
        needs = [need.say or need.context or need.reading for need in file.macro.needs]
        words = [steps, f"may: {may}" if may else "changes nothing"]
        words += [f"says “{needs[0]}” where it cannot run"] if needs else []
        self._facts.setText(" · ".join(words))
        self._facts.setToolTip(self._facts.text())
        self._hint.setVisible(not file.macro.steps)
        self.steps.show_macro(file.macro, catalogue, faults)
        self.text.show_text(file.text)
        self.text.show_faults(faults)
        self._fault.setText(self._fault_words(faults[0]) if faults else "")
        found = uses(workspace, file.layer, file.id)
        shown = ", ".join(use.words for use in found[:4]) + (
            f" and {len(found) - 4} more" if len(found) > 4 else ""
        )
        self._used.setText(f"Run by {shown}" if found else "Nothing runs it yet")
        self._used.setToolTip(self._used.text())
        self.panel.refresh()

    def _fault_words(self, fault: Fault) -> str:
        """A fault with its place as it is seen: the number of the step, or the line of the text beside it."""
        number = "" if self.text.isVisible() else self.steps.number_of(fault.line)
        return f"Step {number}: {fault.reason}. {fault.way_out}".strip() if number else str(fault)

    # Changing the macro

    def _put(self, text: str) -> bool:
        return self.now is not None and self.session.do(PutMacro(*self.now, text))

    def _write(self, text: str) -> None:
        self._put(text if text.endswith("\n") else text + "\n")

    def _mendable(self) -> MacroFile | None:
        """The open macro when its steps can be changed; says why when its text cannot be read."""
        self.text.flush()
        file = self.file()
        if file is not None and file.faults:
            self.session.say(f"Mend the text first: {file.faults[0]}")
            return None
        return file

    def _become(self, file: MacroFile, made: Macro, choose: Path | None = None) -> None:
        if made != file.macro:
            self._put(format_macro(made))
        if choose is not None:
            self.steps.choose(choose)

    def _rework(self, name: str, paths: list[Path]) -> None:
        file = self._mendable()
        if file is None:
            return
        macro, path = file.macro, self.steps.path() or ()
        by = {"up": -1, "down": 1}.get(name, 0)
        match name:
            case "mute":
                for each in paths or [path]:
                    macro = mute(macro, each)
                self._become(file, macro, path)
            case "up" | "down":
                made = move(macro, path, by)
                self._become(file, made, (*path[:-1], path[-1] + by) if made != macro else path)
            case "double":
                self._become(file, double(macro, path), path)
            case "gather":
                self._become(file, gather(macro, paths, "Part"), min(paths))
                self._edit_first()
            case "ask":
                self._become(file, ask_for(macro, path), path)
            case "take out":
                self._become(file, take_all_out(macro, paths), path)
            case "cut" | "copy":
                steps = Macro(steps=steps_of(macro, paths))
                QApplication.clipboard().setText(format_macro(steps))
                if name == "cut":
                    self._become(file, take_all_out(macro, paths), path)
            case "paste":
                self._put_text_in(QApplication.clipboard().text(), edit=False)

    def _carry(self, paths: list[Path], behind: Path) -> None:
        if (file := self._mendable()) is not None:
            steps = steps_of(file.macro, paths)
            made = carry(file.macro, paths, behind)
            self._become(file, made)
            if steps:
                where = next((path for path, step in walk(made) if step is steps[0]), None)
                self.steps.choose(where) if where else None

    def _put_text_in(self, text: str, edit: bool = True) -> None:
        """Put steps in behind the chosen one, from their text."""
        file = self._mendable()
        if file is None:
            return
        read, faults = parse_macro(text)
        if faults or not read.steps:
            why = f": {faults[0]}" if faults else "."
            self.session.say(f"What was copied is no step{why}")
            return
        behind = self.steps.behind()
        self._become(file, put_in(file.macro, behind, read.steps))
        first = (*behind[:-1], behind[-1] + 1) if behind else (0,)
        self.steps.choose(first)
        self.steps.setFocus()
        if edit:
            self._edit_first()

    def _edit_first(self) -> None:
        """Have the first word of the chosen step changed that says nothing yet."""
        step = self.steps.step()
        fields = [box.piece.field for box in self.steps.fields(self.steps.currentRow())]
        empty = [n for n, field in enumerate(fields) if step and field_text(step, field) in ("", "Which?")]
        if step is not None and fields and (empty or not isinstance(step, Do)):
            self.steps.edit_field(empty[0] if empty else 0)

    def _open_caret(self, text: str) -> None:
        catalogue = self.catalogue()
        if self._mendable() is None or catalogue is None:
            return
        row = self.steps.currentItem()
        box = self.steps.visualItemRect(row) if row is not None else QRect(0, -ROW, 0, ROW)
        top = min(box.bottom() + 1, self.steps.viewport().height() - ROW)
        indent = 34 + 26 * (len(self.steps.behind()) - 1 if self.steps.behind() else 0)
        file = self.file()
        stack = self.session.workspace.stack_up_to(file.layer)
        macros = {
            name: other
            for name, other in self.session.workspace.macros_of(stack).items()
            if other.macro.application == catalogue.app and other is not file
        }
        width = self.steps.viewport().width() - indent - 8
        self.caret.open(text, step_entries(catalogue, macros), indent, max(top, 0), width, ROW - 2)

    # Changing a word of a step

    def _edit_word(self, path: Path, field: str, box: QRect) -> None:
        file = self._mendable()
        step = step_at(file.macro, path) if file else None
        if file is None or step is None or self.now is None:
            return
        target = FieldTarget(self.now, path, step)
        self._end_field()
        widget = edit_word(
            self.steps.viewport(),
            box,
            self._wanted(step, field, file.macro),
            self._scheme,
            lambda text: self._commit_word(target, field, text),
            self.steps.setFocus,
            self.session.told.emit,
            lambda other: self._open_field(other, target),
        )
        self._open_field(widget, target)

    def _open_field(self, widget: QWidget, target: FieldTarget) -> None:
        self._field = OpenField(widget, target)

    def _end_field(self) -> None:
        """End the open field, if there is one, and keep what was typed where it belongs."""
        field, self._field = self._field, None
        if field is None:
            return
        before = self.session.workspace.macros.get(field.target.macro)
        field.keep()
        file = self.session.workspace.macros.get(field.target.macro)
        if file is not None and file is not before:
            self.session.say(f"What was typed last is kept in “{file.name}”.")

    def _drop_lost_field(self) -> None:
        """Give the open field up when what it belongs to has gone or become something else."""
        field = self._field
        if field is None or not field.open:
            return
        if field.target.find(self.session.workspace) is None:
            typed = field.text
            self._field = None
            field.give_up()
            sentence = f"That step is another one meanwhile; “{typed}” was not written."
            # All views hear of the change first; the strip would write over a sentence said before that.
            QTimer.singleShot(0, lambda: self.session.say(sentence))

    def _wanted(self, step: Statement, field: str, macro: Macro) -> Wanted:
        catalogue = self.catalogue()
        kind, _, name = field.partition(" ")
        argument = None
        if isinstance(step, Do) and catalogue and (command := catalogue.command(step.command)):
            argument = command.argument(name)
        readings = [reading.id for reading in catalogue.readings] if catalogue else []
        choices: list[str] = []
        if kind == "reading" and catalogue:
            choices = [reading.id for reading in catalogue.readings if reading.type == "list"]
            choices += [known for known in names_set(macro) if known not in choices]
        if kind == "macro":
            choices = sorted({name for _, name in self.session.workspace.macros})
        names = [*names_set(macro), *readings]
        value = field_text(step, field)
        if argument is not None and not value and argument.default not in (None, "."):
            value = str(argument.default)
        return Wanted(value, argument, names, choices)

    def change_word(self, path: Path, field: str, text: str) -> None:
        """Give a word of a step of the open macro another value; says why when it cannot have it."""
        file = self._mendable()
        step = step_at(file.macro, path) if file is not None else None
        if step is not None and self.now is not None:
            self._commit_word(FieldTarget(self.now, path, step), field, text)

    def _commit_word(self, target: FieldTarget, field: str, text: str) -> None:
        file = target.find(self.session.workspace)
        path, step = target.path, target.step
        if file is None or path is None or step is None:
            self.session.say(f"That step is another one meanwhile; “{text}” was not written.")
            return
        catalogue = self.session.workspace.catalogues.get(file.macro.application)
        try:
            made = change_step(file.macro, path, lambda step: with_field(step, field, text, catalogue))
        except RimecrestError as error:
            self.session.say(str(error))
        else:
            if made != file.macro:
                self.session.do(PutMacro(*target.macro, format_macro(made)))
            if target.macro == self.now:
                self.steps.choose(path)
        if target.macro == self.now:
            self.steps.setFocus()

    def _complete(self, line: str) -> tuple[str, list[str]]:
        macro, _ = parse_macro(self.text.written())
        names = {name for _, name in self.session.workspace.macros}
        catalogue = self.session.workspace.catalogues.get(macro.application)
        return completions(line, catalogue, names_set(macro), names)

    # Name, purpose, new, delete

    def _edit(self, word: Word, what: str) -> None:
        """Edit the name or the purpose in place. The identity stays, so that what runs it still does."""
        file = self.file()
        if file is None:
            return
        self._end_field()
        target = FieldTarget((file.layer, file.id))
        now = file.name if what == "macro" else file.macro.about
        field = InlineField(now, "", self._sheet, back=self.steps)
        field.setObjectName("macro-field")
        field.setGeometry(word.x(), word.y() - 2, max(word.width() + 80, 320), word.height() + 6)

        def done(text: str) -> None:
            field.hide()
            field.deleteLater()
            now = target.find(self.session.workspace)
            if text and now is not None and (what == "about" or self._free_name(text, now)):
                self.session.do(PutMacro(*target.macro, format_macro(_with_head(now.macro, what, text))))
            if self.now == target.macro:
                self.steps.setFocus()

        field.entered.connect(done)
        field.given_up.connect(lambda: done(""))
        field.show()
        field.setFocus()
        self._open_field(field, target)

    def _free_name(self, name: str, file: MacroFile | None) -> bool:
        """Whether no other macro that colleagues see beside it is called so; else a suggestion is told."""
        names = {f.name.lower() for f in self.session.workspace.macros.values() if f is not file}
        if name.lower() not in names:
            return True
        number = next(n for n in range(2, 1000) if f"{name} {n}".lower() not in names)
        self.session.say(f"There is a macro “{name}” already; “{name} {number}” is free.")
        return False

    def _fresh(self, stem: str) -> tuple[str, str]:
        """A name that no macro has, and an identity that none has."""
        names = {file.name.lower() for file in self.session.workspace.macros.values()}
        number, name = 1, stem
        while name.lower() in names:
            number += 1
            name = f"{stem} {number}"
        return name, fresh_macro(self.session.workspace, name)

    def make(self, called: str = "New macro") -> None:
        """A new macro on the aimed layer's shelf, its name ready to be written over."""
        self.text.flush()
        aim = self.session.aim
        name, identity = self._fresh(called)
        if self.session.do(PutMacro(aim.layer, identity, NEW.format(name=quote(name), app=aim.app))):
            self.open((aim.layer, identity))
            self._edit(self._title, "macro")

    def _delete_now(self) -> None:
        file = self.file()
        if file is None:
            return
        found = uses(self.session.workspace, file.layer, file.id)
        if self.session.do(PutMacro(file.layer, file.id, None)):
            ran = f" It was run by {', '.join(use.words for use in found[:3])}." if found else ""
            self.now = None
            self.begin()
            self.session.say(f"“{file.name}” is deleted.{ran} Undo brings it back.")

    # Other shelves, other hands

    def _choose_shelf(self, word: Word, copy: bool) -> None:
        if (file := self.file()) is not None:
            self.moves.choose_shelf(word, file, copy)

    def export(self) -> None:
        """Write the open macro, with all it needs, into a bundle."""
        self.text.flush()
        if (file := self.file()) is not None:
            self.bundles.ask_and_export(file)

    # Running and recording

    def run(self) -> None:
        """Run the macro that is open in the application that is being tried; one with faults is not run."""
        self.text.flush()
        file = self.file()
        if file is None:
            return
        if faults := self.faults(file):
            self.session.say(f"“{file.name}” cannot run: {faults[0]}")
            return
        seen = self.session.workspace.macros_of(self.session.aim.stack(self.session.workspace)).get(file.id)
        if file.layer == MINE:
            if self.session.aim.app != file.macro.application:
                self._aim_at(self.session.aim.layer, file.macro.application)
        elif seen is not file or self.session.aim.app != file.macro.application:
            self._aim_at(file.layer, file.macro.application)
        self._preview.run_macro(file.id)

    def _aim_at(self, layer: str, app: str) -> None:
        """Aim at a layer and application: the draft that is tried is the aimed one."""
        aim = self.session.aim
        self.session.aim_at(EditTarget(layer, app, seat_for(self.session.workspace, layer), aim.width))

    def record(self) -> None:
        """Record in a scratch window of the aimed application."""
        self.recordings.in_scratch(self._fresh("New recording")[0])

    def _choose_window(self) -> None:
        """Where to record: a scratch window first, then those that run."""
        if self._record.text().startswith("■"):
            self.recordings.stop()
            return
        windows = running_windows(tuple(self.session.workspace.catalogues))
        titles = {app: known.title for app, known in self.session.workspace.catalogues.items()}
        pairs = [(f"scratch {app}", f"A scratch window of {title}") for app, title in titles.items()]
        pairs.sort(key=lambda pair: pair[0] != f"scratch {self.session.aim.app}")
        pairs += [(str(window.path), window.words) for window in windows]
        known = {str(window.path): window for window in windows}

        def take(value: str) -> None:
            name, _ = self._fresh("New recording")
            if value in known:
                self._aim_at(self.session.aim.layer, known[value].app)
                self.recordings.in_window(known[value], name)
            else:
                app = value.removeprefix("scratch ")
                if app != self.session.aim.app:
                    self._aim_at(self.session.aim.layer, app)
                self.recordings.in_scratch(name)

        choose_from(self._record, pairs, "", self._scheme, take)

    def _recording(self, name: str, steps: list[str]) -> None:
        """Show in the studio as well that something is being recorded, and what came last."""
        self._record.setText(f"■ Stop recording ({len(steps)})" if name else "● Record")
        self._record.setAccessibleName(self._record.text())
        self._record.updateGeometry()
        if name and steps:
            self.session.say(f"Recording: {steps[-1]}")

    def take_recorded(self, name: str, text: str, app: str) -> None:
        """Put what was recorded on the aimed layer's shelf; an empty text was thrown away."""
        self._recording("", [])
        if not text:
            self.session.say("The recording was thrown away.")
            return
        layer = self.session.aim.layer
        if app != self.session.aim.app:
            self._aim_at(layer, app)
        name, identity = self._fresh(name)
        macro, _ = parse_macro(text)
        if self.session.do(PutMacro(layer, identity, format_macro(_with_head(macro, "macro", name)))):
            window = self.window()
            if not self.isVisible():
                self.session.say(f"“{name}” is recorded; it lies on its shelf.")
            self.open((layer, identity))
            self._ask_where()
            window.activateWindow()

    def _ask_where(self) -> None:
        file = self.file()
        if file is None:
            return
        self._end_finish()
        with contextlib.suppress(RimecrestError):
            self.finish = FinishSentence(self.session, self._scheme, file)
        if self.finish is None:
            return
        self.finish.done.connect(lambda _: self._end_finish())
        self.finish.later.connect(self._end_finish)
        self.finish.renamed.connect(self._rename_finished)
        self.finish.try_wanted.connect(lambda _: self.run())
        self._centre.insertWidget(self._centre.indexOf(self._fault), self.finish)
        self.finish.show()

    def _rename_finished(self, name: str) -> None:
        file = self.file()
        if file is not None and self._free_name(name, file):
            self._put(format_macro(_with_head(file.macro, "macro", name)))
            fresh = self.file()
            if self.finish is not None and fresh is not None:
                self.finish.take_over(fresh)

    def _end_finish(self) -> None:
        if self.finish is not None:
            self.finish.hide()
            self.finish.deleteLater()
            self.finish = None


def _with_head(macro: Macro, word: str, value: str) -> Macro:
    """The macro with another name or purpose in its head."""
    for index, line in enumerate(macro.head):
        if isinstance(line, Header) and line.word == word:
            head = (*macro.head[:index], replace(line, value=value), *macro.head[index + 1 :])
            return replace(macro, head=head)
    at = 0 if word == "macro" else 1
    return replace(macro, head=(*macro.head[:at], Header(word, value), *macro.head[at:]))
