"""Hotkeys: one event filter on the application's window resolves every key press with one trie.

No QShortcut anywhere: two of one sequence fire neither, a text editor swallows what it likes, and sequences
lose to their beginnings.
"""

from __future__ import annotations

from collections.abc import Callable

from msgspec.structs import replace
from PyQt6.QtCore import QEvent, QObject, QTimer, pyqtSignal
from PyQt6.QtGui import QInputMethodEvent, QKeyEvent
from PyQt6.QtWidgets import QApplication

from rimecrest.core.keys.bindings import Binding, standing
from rimecrest.core.keys.chords import Chord, Sequence, format_chord, format_sequence
from rimecrest.core.keys.contexts import FIELD
from rimecrest.core.keys.trie import PATIENCE, KeyTrie, Step
from rimecrest.core.layout.faces import Targets
from rimecrest.core.words import tr
from rimecrest.kit.dispatcher import Dispatcher
from rimecrest.kit.macros.asking_dialog import DialogAsker
from rimecrest.kit.panels.fields import field_with_the_keys
from rimecrest.kit.panels.host import PanelHost
from rimecrest.shell.key_codes import chord_of, keyboard_edition, top_row_digit
from rimecrest.surfaces.frame import Frame

_GOES = ("Left", "Right", "Up", "Down", "Home", "End", "Page_Up", "Page_Down")
"""Keys with which a document goes to and fro by itself."""
ENDS = (Chord((), "Return"), Chord((), "KP_Enter"))
"""What ends a key that is asked for, where longer ones begin with it."""


class KeyFilter(QObject):
    """Resolves key presses of one window.

    Signals:
        resolved(binding): a sequence is complete.
        waiting(text): a sequence has begun, with what can follow; empty when it ended.
        nothing(text): a begun sequence led nowhere.
    """

    resolved = pyqtSignal(Binding)
    waiting = pyqtSignal(str)
    nothing = pyqtSignal(str)

    def __init__(self, dispatcher: Dispatcher, asker: DialogAsker, panels: PanelHost, frame: Frame) -> None:
        super().__init__()
        self._dispatcher = dispatcher
        self._asker = asker
        self._panels = panels
        self._frame = frame
        self._contexts = dispatcher.executor.contexts
        self.first: Callable[[str], bool] = lambda _keys: False
        """Does what the window itself has on a key now, before all layouts; whether it has anything."""
        self._bindings: tuple[Binding, ...] = ()
        self._tries: dict[frozenset[str], KeyTrie] = {}
        self._edition = keyboard_edition()
        self._typed: Sequence = ()
        self._composing = False
        self._asked: Callable[[Sequence], None] | None = None
        self._patience = QTimer(self)
        self._patience.setSingleShot(True)
        self._patience.timeout.connect(self.give_up)

    def use(self, bindings: tuple[Binding, ...]) -> None:
        """Take over the keys of another outcome."""
        self._bindings = bindings
        self._tries.clear()
        self.give_up()

    @property
    def bindings(self) -> tuple[Binding, ...]:
        """Its keys, with the strokes that they have on the keyboard of this screen."""
        return tuple(replace(binding, spelled=_here(binding.sequence)) for binding in self._bindings)

    def live(self) -> frozenset[str]:
        """The contexts in which keys count now: those of a panel's field, or those of the document."""
        if field_with_the_keys() is not None:
            return self._contexts.live((FIELD,))
        return self._dispatcher.executor.live()

    def ask(self, answer: Callable[[Sequence], None]) -> None:
        """Give the next key, whole, to `answer` instead of doing it. Enter ends one that begins others."""
        self._asked = answer
        self.give_up()

    def _taken(self, typed: Sequence, step: Step) -> bool:
        """Whether the chords so far are the answer to a question about a key."""
        if self._asked is None:
            return False
        if step is Step.BEGINS:
            self._typed = typed
            return True
        answer, self._asked, self._typed = self._asked, None, ()
        ended = len(typed) > 1 and typed[-1] in ENDS
        answer(typed[:-1] if ended else typed)
        return True

    @property
    def waits(self) -> bool:
        """Whether it has patience left for the next chord of a begun sequence."""
        return self._patience.isActive()

    def give_up(self) -> None:
        """Forget a begun sequence."""
        self._patience.stop()
        if self._typed:
            self._typed = ()
            self.waiting.emit("")

    def _trie(self) -> KeyTrie:
        if (edition := keyboard_edition()) != self._edition:
            self._edition = edition
            self._tries.clear()
        live = self.live()
        if live not in self._tries:
            self._tries[live] = KeyTrie(standing(self.bindings, live, self._contexts))
        return self._tries[live]

    def note_composing(self, event: QInputMethodEvent) -> None:
        """While an input method composes, keys are its own."""
        self._composing = bool(event.preeditString())

    def eventFilter(self, _watched: QObject | None, event: QEvent | None) -> bool:
        if event is None:
            return False
        kind = event.type()
        if kind == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent):
            chord = chord_of(event)
            wanted = chord is not None and self._wants(chord)
            if wanted:
                event.accept()
            return wanted
        if kind == QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            return self._pressed(event)
        return False

    def _wants(self, chord: Chord) -> bool:
        """Whether a chord is for a layout's keys, before anything else in the window takes it."""
        if self._asked is not None:
            return True
        if not self._typed and self._panels.passes(chord):
            return False
        return self._trie().step((*self._typed, chord))[0] is not Step.NOTHING

    def _pressed(self, event: QKeyEvent) -> bool:
        if self._composing or QApplication.activePopupWidget() or QApplication.activeModalWidget():
            return False
        chord = chord_of(event)
        if self._asker.pointing is not None:
            return chord is not None and self._point(chord, event.isAutoRepeat())
        if self._dispatcher.run is not None:
            if chord is not None and chord.key == "Escape":
                self._dispatcher.stop_run()
            return True
        return chord is not None and self.press(chord, event.isAutoRepeat())

    def _point(self, chord: Chord, repeated: bool) -> bool:
        """Take a chord while something is pointed at. Returns whether it is used up."""
        if chord.key == "Escape" and not self._typed:
            self._dispatcher.stop_run()
        elif chord.key in ("Return", "KP_Enter") and not chord.mods and not self._typed:
            if self._asker.pointing is not None:
                self._asker.pointing.accept()
        else:
            return self.press(chord, repeated) or chord.key not in _GOES
        return True

    def press(self, chord: Chord, repeated: bool = False) -> bool:
        """Take one chord. Returns whether it is used up."""
        if not self._typed and self._asked is None:
            if self.first(format_chord(chord)):
                return True
            if self._panels.passes(chord):
                return False
        typed = (*self._typed, chord)
        step, binding = self._trie().step(typed)
        if self._taken(typed, step):
            return True
        if step is Step.RUNS and binding is not None:
            return self._resolve(binding, repeated)
        if step is Step.BEGINS:
            if not repeated:
                self._wait_behind(typed)
            return True
        if self._typed:
            self._begin_anew()
            if chord.key != "Escape":
                self.nothing.emit(tr("{keys} is not for anything here.", keys=format_sequence(typed)))
            return True
        return chord.mods == ("Alt",) and len(chord.key) == 1 and self._frame.press_access(chord.key)

    def _resolve(self, binding: Binding, repeated: bool) -> bool:
        self._begin_anew()
        if binding.run is None:
            return False
        command = self._dispatcher.executor.catalogue.by_id.get(binding.run)
        if not repeated or (command is not None and command.repeats):
            self.resolved.emit(binding)
        return True

    def _wait_behind(self, typed: Sequence) -> None:
        """A sequence is begun: say what can follow, and wait for it."""
        self._typed = typed
        self._patience.start(PATIENCE)
        self.waiting.emit(self._hint(typed))

    def _begin_anew(self) -> None:
        """No sequence is begun any more."""
        self._typed = ()
        self._patience.stop()
        self.waiting.emit("")

    def _hint(self, typed: Sequence) -> str:
        parts = []
        targets = Targets(self._dispatcher.executor.catalogue, self._dispatcher.library.faces())
        following = self._trie().following(typed)
        # What the office added comes first: the application's own keys are known, or in its help.
        following.sort(key=lambda pair: -pair[1].level if pair[1] is not None else 0)
        for chord, binding in following:
            parts.append(f"{format_chord(chord)} {targets.face(binding.run).name if binding else '…'}")
        shown = " · ".join(parts[:8]) + (" · …" if len(parts) > 8 else "")
        return f"{format_sequence(typed)}, then: {shown}"


def _here(sequence: Sequence) -> Sequence:
    """A key of the top row is known by its digit, however a layout spells it."""
    return tuple(Chord(chord.mods, top_row_digit(chord.key) or chord.key) for chord in sequence)
