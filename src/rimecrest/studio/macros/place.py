"""The Macros place: shelves, steps and text, the trial, recording; joined to the session."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QRect, Qt
from PyQt6.QtGui import QKeyEvent, QKeySequence, QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout

from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.step_tree import Path
from rimecrest.core.macro.steps import Fault
from rimecrest.core.search import Match
from rimecrest.core.words import tr
from rimecrest.core.workspace.file_edits import PutMacro
from rimecrest.core.workspace.layer_ids import MINE
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.core.workspace.parts import MACROS
from rimecrest.link.addresses import socket_path
from rimecrest.shell.there import there
from rimecrest.studio.history.versions import choose_version
from rimecrest.studio.macros.bundles import Bundles
from rimecrest.studio.macros.caret import StepCaret
from rimecrest.studio.macros.editor import MacroText
from rimecrest.studio.macros.macro_key import MacroKeyWord
from rimecrest.studio.macros.macro_sheet import MacroSheet
from rimecrest.studio.macros.maker_word import MakerWord
from rimecrest.studio.macros.presenter import MacroKey, MacrosPresenter
from rimecrest.studio.macros.recording import Window
from rimecrest.studio.macros.recording_controls import RecordingControls
from rimecrest.studio.macros.shelf_moves import ShelfMoves
from rimecrest.studio.macros.shelves import Shelves
from rimecrest.studio.macros.step_hands import StepHands
from rimecrest.studio.macros.step_trial import TrialPanel
from rimecrest.studio.macros.trial_session import TrialRun
from rimecrest.studio.macros.word_editing import WordEditing
from rimecrest.studio.shared.candidates import Candidates
from rimecrest.studio.shared.place import Place, Recorded, Surroundings, Task, Thing, action
from rimecrest.studio.shared.sentence_widgets import Plain, Push, Word


class MacrosPlace(Place):
    """Reads, mends, makes, records, tries, runs and deletes macros."""

    def __init__(self, surroundings: Surroundings) -> None:
        super().__init__()
        self.session = session = surroundings.session
        self._scheme = scheme = surroundings.scheme
        self._preview = preview = surroundings.preview
        self.presenter = presenter = MacrosPresenter(session)
        self.shelves = Shelves(session, scheme)
        self.sheet = MacroSheet(scheme)
        self.steps = self.sheet.steps
        self.text = MacroText(scheme)
        self.caret = StepCaret(scheme, there(self.steps.viewport()), self)
        self.hands = StepHands(presenter, self.steps, self.text, self.caret)
        self.trial = TrialRun(session, self)
        self.panel = TrialPanel(self.trial, scheme)
        self.words = WordEditing(session, presenter, self.sheet, scheme)
        self.recording = RecordingControls(session, preview, presenter, self.sheet, scheme)
        self.key_word = MacroKeyWord(session, self.sheet, scheme)
        self.maker_word = MakerWord(session, self.sheet, scheme)
        self.bundles = Bundles(session, scheme, self, self.open)
        self.moves = ShelfMoves(session, preview, scheme, self.open)
        self._new = Push(tr("New macro"), scheme)
        self._new.setObjectName("macro-new")
        self._empty = Plain(tr("Here stand the macros. Enter makes the first one."), scheme, "ink2", 15)
        self._build()
        self._connect()

    def _build(self) -> None:
        whole = QHBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(0)
        whole.addLayout(self._shelf_column())
        whole.addWidget(self.sheet, 1)
        self._empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self._empty.hide()
        whole.addWidget(self._empty, 1)
        self.text.setMinimumWidth(280)
        self.text.hide()
        whole.addWidget(self.text)
        whole.addWidget(self.panel)

    def _shelf_column(self) -> QVBoxLayout:
        buttons, words = QHBoxLayout(), QHBoxLayout()
        buttons.setContentsMargins(14, 0, 0, 0)
        buttons.setSpacing(6)
        buttons.addWidget(self._new)
        buttons.addWidget(self.recording.button)
        buttons.addStretch(1)
        words.setContentsMargins(16, 4, 0, 0)
        words.setSpacing(14)
        for text, name, tip, do in (
            (tr("export"), "macro-export", tr("Write macros and all they need into a file"), self.export),
            (
                tr("import"),
                "macro-import",
                tr("Import macros that somebody exported"),
                self.bundles.ask_and_import,
            ),
        ):
            word = Word(text, self._scheme, 12)
            word.setObjectName(name)
            word.setToolTip(tip)
            word.clicked.connect(lambda _=False, do=do: do())
            words.addWidget(word)
        words.addStretch(1)
        column = QVBoxLayout()
        column.setContentsMargins(0, 0, 0, 10)
        column.addWidget(self.shelves, 1)
        column.addLayout(buttons)
        column.addLayout(words)
        return column

    def _connect(self) -> None:
        sheet, steps = self.sheet, self.steps
        self.shelves.chosen.connect(self.open)
        self.shelves.kept_chosen.connect(self.moves.choose_for_kept)
        self._preview.kept_changed.connect(self._changed)
        steps.key_wanted.connect(self._choose_macro_key)
        steps.edit_wanted.connect(self._edit_word)
        steps.went_to.connect(self.text.go_to)
        steps.went_to.connect(self.panel.mark)
        self.panel.chosen.connect(steps.choose_line)
        self.panel.number = steps.number_of
        self.text.rested.connect(self.presenter.write)
        self.text.complete = lambda line: self.presenter.completions(line, self.text.written())
        self.text.offered = Candidates(self._scheme, self, 260)
        self.text.offered.taken.connect(self.text.take_word)
        self.trial.told.connect(self.session.told)
        self.recording.kept.connect(self._open_kept)
        self.recording.try_wanted.connect(self.run)
        self.session.changed.connect(self._changed)
        self.session.aimed.connect(self._changed)
        joined: tuple[tuple[Push | Word, Callable[[], object]], ...] = (
            (self._new, self.make),
            (sheet.run, self.run),
            (sheet.show_text, self.turn_text),
            (sheet.name, lambda: self.words.edit_head("macro")),
            (sheet.about, lambda: self.words.edit_head("about")),
            (sheet.key, self._choose_macro_key),
            (sheet.key_context, self._choose_key_context),
            (sheet.delete, self._delete_now),
            (sheet.earlier, self._choose_earlier),
            (sheet.move_word, lambda: self._choose_shelf(sheet.move_word, copy=False)),
            (sheet.copy, lambda: self._choose_shelf(sheet.copy, copy=True)),
        )
        for button, do in joined:
            button.clicked.connect(lambda _=False, do=do: do())

    def _changed(self) -> None:
        if self.isVisible():
            self.refresh()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setPen(self._scheme.color("line"))
        for widget in (self.sheet, self.text if self.text.isVisible() else self.panel):
            if widget.isVisible():
                painter.drawLine(widget.x() - 1, 0, widget.x() - 1, self.height())

    # What the window asks

    def begin(self) -> None:
        """The place is shown: open the first macro of the aim, and take the keys."""
        self.presenter.open_first()
        self.refresh()
        self.take_focus()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.matches(QKeySequence.StandardKey.New):
            self.make()
        else:
            super().keyPressEvent(event)

    def leave(self) -> None:
        """Another place is shown: save what was typed last."""
        self.words.end()
        self.text.flush()

    def close_down(self) -> None:
        self.trial.close()

    def take_focus(self) -> None:
        (self.steps if self.presenter.file() else self._new).setFocus()

    def actions_here(self) -> list[Match]:
        return [
            action(tr("New macro"), self._make_here, more="make"),
            action(tr("Record a macro"), self._record_here, more=tr("recording do chore")),
            action(tr("Export macros …"), self._export_here, more=tr("hand over bundle file")),
            action(tr("Import macros …"), self._import_here, more=tr("take in bundle file")),
            *(
                action(
                    tr("“{name}” in the document: to a shelf …", name=parse_macro(text)[0].name or identity),
                    partial(self._shelve_kept, identity),
                )
                for identity, text in self._preview.kept.items()
            ),
        ]

    def _shelve_kept(self, identity: str) -> None:
        self.wanted.emit()
        self.moves.choose_for_kept(self.shelves, identity)

    def _make_here(self, name: str = tr("New macro")) -> None:
        self.wanted.emit()
        self.make(name)

    def _record_here(self) -> None:
        self.wanted.emit()
        self.recording.record()

    def _export_here(self) -> None:
        self.wanted.emit()
        self.export()

    def _import_here(self) -> None:
        self.wanted.emit()
        self.bundles.ask_and_import()

    def offers(self, word: str) -> list[Match]:
        return [action(tr("Make a macro called “{word}”", word=word), lambda: self._make_here(word))]

    def _key_of(self, thing: Thing) -> MacroKey | None:
        """The macro that a thing is: of the layer it names, else the highest that the aim sees, else any."""
        layer, _, target = thing.name.rpartition("/")
        if thing.kind != "macro" or not target.startswith("macro:"):
            return None
        name = target.removeprefix("macro:")
        at = layer or self.presenter.layer_of(name)
        return (at, name) if at is not None and (at, name) in self.session.workspace.macros else None

    def shows(self, thing: Thing) -> bool:
        return self._key_of(thing) is not None

    def take_up(self, what: Task, thing: Thing) -> bool:
        if what not in ("edit", "delete") or self._key_of(thing) is None:
            return False
        self.wanted.emit()
        self.show_thing(thing)
        if what == "delete":
            self._delete_now()
        return True

    def take_recorded(self, recorded: Recorded) -> bool:
        catalogue = self.session.workspace.catalogues[recorded.app]
        path = socket_path(recorded.app, recorded.pid)
        window = Window(path, recorded.app, catalogue.title, recorded.document)
        self.wanted.emit()
        return self.recording.take_begun_there(recorded.name, recorded.text, window)

    def show_thing(self, thing: Thing) -> None:
        if (key := self._key_of(thing)) is not None:
            self.open(key)
            self.steps.setFocus()

    # Showing

    @property
    def now(self) -> MacroKey | None:
        """The macro that is open."""
        return self.presenter.now

    def open(self, key: MacroKey) -> None:
        """Show a macro; what is being typed is kept first."""
        self.words.end()
        self.text.flush()
        self.presenter.now = key
        self.refresh()
        self.shelves.mark(key)

    def turn_text(self) -> None:
        """Show the text beside the steps in place of the trial, or the trial again."""
        shown = self.text.isHidden()
        self.text.flush()
        # Never both at once: the window would make room for both, and keep it.
        gone, come = (self.panel, self.text) if shown else (self.text, self.panel)
        gone.hide()
        come.show()
        self.sheet.show_text.setText(tr("Show the trial") if shown else tr("Show as text"))
        self.sheet.show_text.updateGeometry()
        (self.text if shown else self.steps).setFocus()
        self.refresh()
        self.update()

    def refresh(self) -> None:
        """Draw the macro that is open as it is now."""
        presenter = self.presenter
        self.words.drop_lost()
        file = presenter.file()
        self.shelves.kept = self._preview.kept
        self.shelves.fill(presenter.now)
        self.sheet.setVisible(file is not None)
        self._empty.setVisible(file is None)
        self.panel.setVisible(file is not None and self.text.isHidden())
        self.trial.open(file)
        self.recording.follow()
        if file is None:
            return
        faults = presenter.faults(file)
        self.sheet.show_macro(
            file,
            presenter.catalogue(),
            faults,
            presenter.facts(file),
            presenter.used_by(file),
            self._fault_words,
        )
        self.maker_word.follow(file)
        self.key_word.show(file)
        self.text.show_text(file.text)
        self.text.show_faults(faults)
        self.panel.refresh()

    def _fault_words(self, fault: Fault) -> str:
        """A fault with its place as it is seen: the number of the step, or the line of the text beside it."""
        number = "" if self.text.isVisible() else self.steps.number_of(fault.line)
        return f"Step {number}: {fault.reason}. {fault.way_out}".strip() if number else str(fault)

    # Changing a word

    def _edit_word(self, path: Path, field: str, box: QRect) -> None:
        self.text.flush()
        self.words.edit_step_word(path, field, box)

    def change_word(self, path: Path, field: str, text: str) -> None:
        """Give a word of a step of the open macro another value; says why when it cannot have it."""
        self.text.flush()
        if (target := self.presenter.target(path)) is not None:
            self.presenter.change_word(target, field, text)

    # The macro as a whole

    def make(self, called: str = tr("New macro")) -> None:
        """A new macro on the aimed layer's shelf, its name ready to be written over."""
        self.text.flush()
        if (key := self.presenter.make(called)) is not None:
            self.open(key)
            self.words.edit_head("macro")

    def _delete_now(self) -> None:
        if (sentence := self.presenter.delete()) is not None:
            self.begin()
            self.session.say(sentence)

    def _choose_macro_key(self) -> None:
        if (file := self.presenter.file()) is not None:
            self._aim_where_it_runs(file)
            self.key_word.choose(file)

    def _choose_key_context(self) -> None:
        if (file := self.presenter.file()) is not None:
            self.key_word.choose_context(file)

    def _choose_earlier(self) -> None:
        """Bring an earlier version of the open macro back."""
        file = self.presenter.file()
        if file is None:
            return

        def take(content: bytes, when: str) -> None:
            if self.session.do(PutMacro(file.layer, file.id, content.decode())):
                self.session.say(tr("“{name}” is as it was before {when}.", name=file.name, when=when))

        path = MACROS.path((file.layer, file.id))
        choose_version(self.session, path, self.sheet.earlier, self._scheme, take)

    def _choose_shelf(self, word: Word, copy: bool) -> None:
        if (file := self.presenter.file()) is not None:
            self.moves.choose_shelf(word, file, copy)

    def export(self) -> None:
        """Write macros, with all they need, into a bundle; the open one is ticked."""
        self.text.flush()
        self.bundles.ask_and_export(self.presenter.file())

    def run(self) -> None:
        """Run the macro that is open in the application that is being tried; one with faults is not run."""
        self.text.flush()
        file = self.presenter.file()
        if file is None:
            return
        if faults := self.presenter.faults(file):
            self.session.say(tr("“{name}” cannot run: {faults}", name=file.name, faults=faults[0]))
            return
        self._aim_where_it_runs(file)
        self._preview.run_macro(file.id)

    def _aim_where_it_runs(self, file: MacroFile) -> None:
        """Aim so that the draft that is tried has this very macro."""
        aim, workspace = self.session.aim, self.session.workspace
        seen = file.layer == MINE or workspace.macros_of(aim.stack(workspace)).get(file.id) is file
        self.recording.aim_at(aim.layer if seen else file.layer, file.macro.application)

    def _open_kept(self, key: MacroKey) -> None:
        """Show a recording that has just been kept, and bring the studio before the window it was made in."""
        self.open(key)
        there(self.window()).activateWindow()
