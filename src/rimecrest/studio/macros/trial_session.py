"""A trial of a macro: run on a scratch copy in the real application, a picture kept after each step.

What is kept: for every step in its order its picture, whether it failed and why. After a change the pictures
of steps from the first changed one on are of *before your change*.
"""

from __future__ import annotations

from pathlib import Path
from typing import Any

from msgspec import Struct, field
from msgspec.structs import replace
from PyQt6.QtCore import QObject, QRect, pyqtSignal
from PyQt6.QtGui import QPixmap

from rimecrest.core.files import read_plain
from rimecrest.core.macro.steps import Do, Macro, Run, Statement, WriteText
from rimecrest.core.release.stack import ShelvedMacro
from rimecrest.core.words import tr
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.studio.shared.live_preview import draft_of, pixmap_of
from rimecrest.studio.shared.scratch_process import ScratchApp
from rimecrest.studio.shared.session import Session

UNBOUND = -1


class Shot(Struct, frozen=True):
    """What is known of one step: the document after it, and why it failed."""

    picture: QPixmap | None = None
    spot: QRect = field(default_factory=QRect)
    """Where the cursor is in the picture, in its pixels."""
    failed: str = ""
    stale: bool = False


class Question(Struct, frozen=True):
    """What the trial asks: a form's title, and (prompt, choices, default) of each question."""

    title: str
    questions: tuple[tuple[str, tuple[str, ...], str], ...]


def tried_steps(macro: Macro) -> list[Statement]:
    """The steps that do something to the document, in the order of their lines."""
    return [step for step in macro.live_steps() if isinstance(step, Do | WriteText | Run)]


class TrialRun(QObject):
    """The trial of the macro that is open.

    Signals:
        changed: pictures, the state or the question are others.
        told(sentence): how it goes.
    """

    changed = pyqtSignal()
    told = pyqtSignal(str)

    def __init__(self, session: Session, parent: QObject) -> None:
        super().__init__(parent)
        self._session = session
        self._scratch = ScratchApp(self, hidden=True)
        self._scratch.ready.connect(self._begin)
        self._scratch.refused.connect(self._refused)
        self._scratch.failed.connect(self._refused)
        self._scratch.noticed.connect(self._noticed)
        self._scratch.gone.connect(self._gone)
        self.file: MacroFile | None = None
        self._documents: dict[str, str] = {}
        """Application → the file whose copy its macros run on."""
        self.shots: dict[int, Shot] = {}
        """Index among `tried_steps` → what is known of it."""
        self.first: QPixmap | None = None
        """The document before the first step."""
        self.question: Question | None = None
        self.running = False
        self.held = 0
        """The line that it waits before; 0 while it does not."""
        self.sentence = ""
        self._left = UNBOUND
        """How many steps it goes on by itself."""
        self._until = 0
        """The line after which it waits."""
        self._passing = False
        """Whether that line runs a macro that is under way."""
        self._answers: dict[str, str] = {}
        """What was answered before, by prompt: a trial asks once."""
        self._steps: list[Statement] = []

    # What is tried

    @property
    def document(self) -> str:
        """A file whose copy it runs on; empty: an empty document. Each application has its own."""
        return self._documents.get(self.file.macro.application, "") if self.file else ""

    @document.setter
    def document(self, path: str) -> None:
        if self.file is not None:
            self._documents[self.file.macro.application] = path

    def open(self, file: MacroFile | None) -> None:
        """Another macro is open, or this one has changed."""
        same = self.file is not None and file is not None and self.file.id == file.id
        if self.file is not None and file is not None and same and file.text == self.file.text:
            return
        if not same:
            self.stop()
            self.shots, self.first, self.sentence = {}, None, ""
        elif file is not None:
            self._mark_stale(tried_steps(file.macro))
        self.file = file
        self._steps = tried_steps(file.macro) if file is not None else []
        self.changed.emit()

    def _mark_stale(self, steps: list[Statement]) -> None:
        """Pictures from the first changed step on are no longer true; the steps before it stand."""
        before = self._steps
        same = 0
        while same < min(len(before), len(steps)) and before[same] == steps[same]:
            same += 1
        if same == len(before) == len(steps):
            return
        if self.running:
            self.stop()
        self.shots = {
            index: shot if index < same else replace(shot, stale=True)
            for index, shot in self.shots.items()
            if index < len(steps)
        }

    def lines(self) -> list[int]:
        return [step.line for step in self._steps]

    def _step_at(self, line: int) -> Statement | None:
        return next((step for step in self._steps if step.line == line), None)

    # Going on

    def run_all(self) -> None:
        """From the start to the end."""
        self._start(UNBOUND)

    def one_step(self) -> None:
        """The next step; the first one when it does not run."""
        if self.running and self.held:
            self._left, self._until = 0, 0
            self._step()
        elif not self.running:
            self._start(1)

    def from_the_start(self) -> None:
        """Begin again, and wait before the first step."""
        self.shots = {}
        self._start(0)

    def run_to(self, line: int) -> None:
        """From the start to the step of a line, that one included."""
        done = [known for known in self.lines() if known <= line]
        self._start(UNBOUND if done else 0, done[-1] if done else 0)

    def _start(self, left: int, until: int = 0) -> None:
        if self.file is None:
            return
        self.stop()
        self._left, self._until, self._passing = left, until, False
        self.running, self.sentence = True, ""
        app = self.file.macro.application
        self.told.emit(tr("Trying “{name}” on a scratch copy …", name=self.file.name))
        self.changed.emit()
        if self._scratch.listens and self._scratch.app == app:
            self._begin()
        else:
            self._scratch.start(app)

    def _begin(self) -> None:
        if self.file is None or not self.running:
            return
        state = draft_of(self._session, self._scratch.app)
        # The macro as it is on its shelf, whatever the aim sees.
        refused = self._session.workspace.refused((self.file.layer, self.file.id))
        shelved = ShelvedMacro(layer=self.file.layer, text=self.file.text, refused=refused)
        state.setdefault("macros", {})[self.file.id] = shelved.to_data()
        self._scratch.ask("draft.show", {"state": state})
        params = {"macro": self.file.id, "file": self._copy()}
        self._scratch.ask("trial.begin", params, self._begun)

    def _copy(self) -> str:
        """A copy of the document to try on, so that the file itself is never touched."""
        if not self.document or not Path(self.document).is_file():
            return ""
        copy = self._scratch.folder / Path(self.document).name
        copy.write_bytes(read_plain(Path(self.document)))
        return str(copy)

    def _begun(self, picture: str) -> None:
        self.first = pixmap_of(picture)
        self.changed.emit()

    def stop(self) -> None:
        """Stop the trial; the pictures stay."""
        if self.running:
            self._scratch.ask("trial.end", {})
        self.running, self.held, self.question = False, 0, None

    def answer(self, answers: list[str] | None) -> None:
        """Answer what is asked; None cancels."""
        question, self.question = self.question, None
        if question is None:
            return  # Enter was pressed twice
        if answers is not None:
            prompts = [prompt for prompt, _, _ in question.questions]
            self._answers |= dict(zip(prompts, answers, strict=True))
        self._scratch.ask("trial.answer", {"answers": answers})
        self.changed.emit()

    def _step(self) -> None:
        self.held = 0
        self._scratch.ask("trial.go", {})

    # What it tells

    def _noticed(self, method: str, params: dict[str, Any]) -> None:
        if not self.running:
            return
        if method == "trial.held":
            self.held = int(params["line"])
            if self._passing and self.held != self._until:
                self._passing, self._left = False, 0
            if self._left:
                self._left = max(self._left - 1, UNBOUND) if self._left > 0 else UNBOUND
                self._step()
            self.changed.emit()
        elif method == "trial.did":
            spot = QRect(*map(int, params["spot"]))
            self._keep(int(params["line"]), Shot(pixmap_of(params["picture"]), spot))
            if self._until == int(params["line"]):
                # A macro that is run is many steps of one line: it is done when another line comes.
                self._passing = isinstance(self._step_at(self._until), Run)
                self._left = self._left if self._passing else 0
        elif method == "trial.asks":
            self._asked(params)
        elif method == "trial.ended":
            self._ended(params)

    def _keep(self, line: int, shot: Shot) -> None:
        lines = self.lines()
        if line in lines:
            self.shots[lines.index(line)] = shot
        self.changed.emit()

    def _asked(self, params: dict[str, Any]) -> None:
        questions = tuple((q["prompt"], tuple(q["choices"]), q["default"]) for q in params["questions"])
        self.question = Question(params["title"], questions)
        if all(prompt in self._answers for prompt, _, _ in questions):
            self.answer([self._answers[prompt] for prompt, _, _ in questions])
        self.changed.emit()

    def _ended(self, params: dict[str, Any]) -> None:
        self.running, self.held, self.question = False, 0, None
        self.sentence = str(params["sentence"])
        line, lines = int(params["line"]), self.lines()
        if not params["well"] and line in lines:
            index = lines.index(line)
            known = self.shots.get(index, Shot())
            self.shots[index] = replace(known, failed=self.sentence, stale=False)
        self.told.emit(f"“{self.file.name if self.file else ''}”: {self.sentence or 'done.'}")
        self.changed.emit()

    def _refused(self, sentence: str) -> None:
        if self.running:
            self.running, self.held, self.question = False, 0, None
            self.sentence = sentence
            self.told.emit(sentence)
            self.changed.emit()

    def _gone(self) -> None:
        if self.running:
            self._refused(tr("The application that it was tried in was closed. Try it again."))

    def close(self) -> None:
        """With the studio."""
        self._scratch.close()
