"""Recording in a window: begun there or by the studio, shown in its frame, and what becomes of it.

What the studio began, or what is done in a window that tries its draft, the studio takes over. What was
begun here goes into the studio where it is open; else it lies on the colleague's own shelf.
"""

from __future__ import annotations

import uuid
from collections.abc import Callable, Mapping
from typing import Any

from platformdirs import user_data_path
from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QMessageBox

from rimecrest.core.errors import RimecrestError
from rimecrest.core.identities import MacroId
from rimecrest.core.keys.bindings import Binding, winners_on
from rimecrest.core.keys.chords import Sequence, format_sequence, parse_sequence
from rimecrest.core.layout.faces import Targets
from rimecrest.core.macro.format import format_macro
from rimecrest.core.macro.sentences import sentence
from rimecrest.core.words import counted, listed, tr
from rimecrest.core.workspace.left_recordings import LeftRecording, leave
from rimecrest.core.workspace.macro_file import macro_file
from rimecrest.kit.dispatcher import Dispatcher
from rimecrest.kit.documents.open_documents import OpenDocuments
from rimecrest.kit.key_filter import KeyFilter
from rimecrest.kit.personal.shown_stack import ShownStack
from rimecrest.kit.recording.record_bar import RecordBar
from rimecrest.kit.recording.recorded_line import RecordedLine
from rimecrest.kit.recording.recorder import Recorder
from rimecrest.kit.remote.link_methods import come_to_the_front
from rimecrest.kit.remote.studio_door import StudioDoor
from rimecrest.surfaces.frame import Frame

NEW = tr("New recording")
"""What a recording is called until it has a name."""


class OwnRecording(QObject):
    """The recorder of a window with all that shows and finishes it.

    Args:
        tell: tells whoever listens on the link.
        listening: whether anybody does.

    Signals: changed, when the title of the window is to be written anew.
    """

    changed = pyqtSignal()

    def __init__(
        self,
        dispatcher: Dispatcher,
        documents: OpenDocuments,
        keys: KeyFilter,
        frame: Frame,
        stack: ShownStack,
        studio: StudioDoor,
        tell: Callable[[str, Mapping[str, Any]], None],
        listening: Callable[[], bool],
    ) -> None:
        super().__init__(frame)
        self._dispatcher = dispatcher
        self._catalogue = dispatcher.executor.catalogue
        self._documents = documents
        self._keys = keys
        self._frame = frame
        self._stack = stack
        self.studio = studio
        self._tell = tell
        self._listening = listening
        self._begun_here = False
        self._id = ""
        """The identity of the recording: whoever takes it over takes it once."""
        self._text = ""
        scheme = frame.painting.scheme
        self.recorder = Recorder(dispatcher, documents, self)
        self.bar = RecordBar(self.recorder, self._catalogue, scheme, frame.say)
        self.line = RecordedLine(scheme, keys.ask, self._holder)
        self.recorder.changed.connect(self._progressed)
        self.recorder.ended.connect(self._ended)
        self.line.kept.connect(self._keep)
        self.line.thrown_away.connect(self._thrown_away)

    # Beginning and ending

    def methods(self) -> dict[str, Callable[..., Any]]:
        """What the link calls."""

        def start(name: str) -> bool:
            self.recorder.start(name)
            return come_to_the_front(self._frame)

        return {"record.start": start, "record.stop": self.recorder.stop}

    def turn(self) -> None:
        """Begin a recording here, or end the one that runs; what cannot be done is said."""
        try:
            if self.recorder.on:
                self.recorder.stop()
            else:
                if self.line.isVisible():
                    self._frame.say(tr("Keep the last recording first, or delete it."))
                    self.line.name.setFocus()
                    return
                self.recorder.start(NEW)
                self._begun_here = True
        except RimecrestError as error:
            self._frame.say(str(error))

    def title(self) -> str:
        """What the title of the window says of it; empty while nothing is recorded."""
        recorder = self.recorder
        return f" · {'paused' if recorder.paused else 'recording'} {recorder.name}" if recorder.on else ""

    def _progressed(self) -> None:
        recorder = self.recorder
        if recorder.on and not recorder.steps:
            self._id = uuid.uuid4().hex
        self.changed.emit()
        steps = [sentence(step, self._catalogue) for step in recorder.steps]
        told = {"name": recorder.name, "on": recorder.on, "paused": recorder.paused, "steps": steps}
        self._tell("record.changed", told)

    def _ended(self, name: str, text: str) -> None:
        here, self._begun_here = self._begun_here and not self._stack.draft, False
        app = self._catalogue.app
        if not text:
            self._frame.say(tr("Nothing is kept of “{name}”.", name=name))
        elif here and self.studio.take_recorded(self._id, name, text, self._documents.current.name()):
            self._frame.say(tr("“{name}” is recorded; the studio has it now.", name=name))
        elif here:
            self._text = text
            self._frame.say(tr("Recorded. Give it a name; a key, if you like."))
            self.line.ask(self._fresh_name(name))
        elif self._listening():
            self._frame.say(tr("“{name}” is recorded.", name=name))
        else:
            self._leave(name, text)
        if not here:
            self._tell("record.ended", {"name": name, "text": text, "app": app})

    def _leave(self, name: str, text: str) -> None:
        """Keep what was recorded for the studio, which began it and is gone."""

        left = LeftRecording(id=self._id, app=self._catalogue.app, name=name, text=text)
        if self.studio.take_recorded(self._id, name, text, ""):
            self._frame.say(tr("“{name}” is recorded; the studio has it now.", name=name))
            return
        try:
            leave(user_data_path("rimecrest") / "recordings", left)
        except (RimecrestError, OSError) as error:
            self._frame.say(tr("“{name}” cannot be kept: {reason}", name=name, reason=error))
            return
        self._frame.say(tr("“{name}” is recorded. The studio has it when it opens next.", name=name))

    def may_end(self) -> bool:
        """Ask what becomes of a recording that runs, or waits for its name. False: the window stays."""
        waits = self.line.isVisible()
        if not self.recorder.on and not waits:
            return True
        box = QMessageBox(self._frame.window())
        box.setObjectName("still-recording")
        box.setIcon(QMessageBox.Icon.Question)
        if waits:
            box.setText(tr("“{name}” is recorded, and not kept yet.", name=self.line.name.text()))
            box.setInformativeText(tr("Keep it?"))
        else:
            box.setText(tr("“{name}” is still being recorded.", name=self.recorder.name))
            box.setInformativeText(tr("Keep what was recorded so far?"))
        keep = box.addButton(tr("Keep it"), QMessageBox.ButtonRole.AcceptRole)
        drop = box.addButton(tr("Throw it away"), QMessageBox.ButtonRole.DestructiveRole)
        box.addButton(tr("Stay here"), QMessageBox.ButtonRole.RejectRole)
        box.setDefaultButton(keep)
        box.exec()
        if box.clickedButton() is keep:
            if self.recorder.on:
                self.recorder.stop()
            if self.line.isVisible():
                self.line.keep.click()
        elif box.clickedButton() is drop:
            if self.recorder.on:
                self.recorder.throw_away()
            self._text = ""
            self.line.hide()
        return not self.recorder.on and not self.line.isVisible()

    # The colleague's own shelf

    def _fresh_name(self, name: str) -> str:
        """The name, with a number where the colleague has a macro of that name."""
        known = self._stack.own_macros.texts.values()
        names = {macro_file("", "", text).name for text in known}
        numbered = [name, *(f"{name} {number}" for number in range(2, len(names) + 3))]
        return next(each for each in numbered if each not in names)

    def _holder(self, keys: str) -> str:
        """Name what a key runs now in some place, and what begins with it."""
        runs = dict.fromkeys(binding.run for binding in self._held(parse_sequence(keys)))
        return listed(self._targets().face(run).name for run in runs if run is not None)

    def _held(self, typed: Sequence) -> list[Binding]:
        """The bindings that run by a sequence, begin with it or begin it, wherever one is in the window."""
        contexts, bindings = self._catalogue.context_tree, self._keys.bindings
        found = {
            binding.id: binding
            for place in contexts.places
            for binding in winners_on(bindings, typed, place, contexts)
        }
        return list(found.values())

    def _may_begin(self, typed: Sequence) -> bool:
        """Ask whether a key of one's own may take the place of the longer ones that begin with it."""
        longer = {b.strokes for b in self._held(typed) if len(b.strokes) > len(typed) and b.run is not None}
        if not longer:
            return True
        box = QMessageBox(self._frame.window())
        box.setObjectName("begins-others")
        box.setIcon(QMessageBox.Icon.Question)
        box.setText(
            tr(
                "{number} with {keys}.",
                number=counted(len(longer), "hotkey begins", "hotkeys begin"),
                keys=format_sequence(typed),
            )
        )
        box.setInformativeText(tr("They no longer work if you use it."))
        use = box.addButton(tr("Use it anyway"), QMessageBox.ButtonRole.AcceptRole)
        box.addButton(tr("Choose another key"), QMessageBox.ButtonRole.RejectRole)
        box.exec()
        return box.clickedButton() is use

    def _keep(self, name: str, keys: str) -> None:
        stack, text = self._stack, self._text
        self._text = ""
        if self.studio.has_recorded(self._id):
            self._frame.say(tr("“{name}” is recorded; the studio has it now.", name=name))
            self._documents.current.widget.setFocus()
            return
        from rimecrest.core.macro.field_edits import with_head  # noqa: PLC0415  the grammar comes with it

        macro = macro_file("", "", text).macro
        named = format_macro(with_head(macro, "macro", name))
        try:
            identity = stack.own_macros.add(name, named, stack.state)
        except (RimecrestError, OSError) as error:
            self._frame.say(tr("“{name}” cannot be kept: {reason}", name=name, reason=error))
            self._text = text
            self.line.ask(name)
            return
        said = tr("“{name}” lies on your own shelf: Macros … has it.", name=name)
        if keys:
            said = self._give_key(identity, parse_sequence(keys)) or tr(
                "“{name}” lies on your own shelf; {keys} runs it.", name=name, keys=keys
            )
        stack.again()
        self._frame.say(said)
        self._documents.current.widget.setFocus()
        self.changed.emit()

    def _give_key(self, identity: MacroId, keys: Sequence) -> str:
        """Give a macro of one's own a key. Returns why not, if not."""
        text, run = format_sequence(keys), f"macro:{identity}"
        if not self._may_begin(keys):
            return tr("Choose another key: {keys} begins others.", keys=text)
        from rimecrest.core.macro.where_runs import where_runs  # noqa: PLC0415  the steps come with it

        macro = macro_file("", identity, self._stack.own_macros.texts[identity]).macro
        context = where_runs(self._catalogue, run, macro).widest
        try:
            self._stack.personal.bind(self._stack.state, text, run, context)
        except (RimecrestError, OSError) as error:
            return str(error)
        return ""

    def _thrown_away(self) -> None:
        self._text = ""
        self._frame.say(tr("Nothing is kept of the recording."))
        self._documents.current.widget.setFocus()

    def _targets(self) -> Targets:
        """Names of what can be run here."""
        return Targets(self._catalogue, self._dispatcher.library.faces())

    # Changing what is on it

    def ask_key(self, identity: str) -> None:
        """Take the next key for a macro of one's own."""
        self._frame.say(tr("Press the key that shall run it; Escape leaves it."))

        def pressed(typed: Sequence) -> None:
            if [chord.key for chord in typed] == ["Escape"]:
                self._frame.say("")
                return
            keys = format_sequence(typed)
            held = self._holder(keys)
            why = self._give_key(MacroId(identity), typed)
            self._stack.again()
            instead = tr(" instead of {held}", held=held) if held else ""
            self._frame.say(why or tr("{keys} runs it{instead}.", keys=keys, instead=instead))

        self._keys.ask(pressed)

    def delete(self, identity: str) -> None:
        """Delete a macro of one's own, with its keys."""
        name = self._targets().face(f"macro:{identity}").name
        try:
            self._stack.personal.unbind_all(f"macro:{identity}")
            self._stack.own_macros.delete(identity)
        except (RimecrestError, OSError) as error:
            self._frame.say(str(error))
            return
        self._stack.again()
        self._frame.say(tr("“{name}” is deleted.", name=name))
