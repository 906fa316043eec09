"""Hotkeys: one event filter on the application's window resolves every key press with one trie.

No QShortcut anywhere: two of one sequence fire neither, a text editor swallows what it likes, and sequences
lose to their beginnings.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

from msgspec.structs import replace
from PyQt6.QtCore import QEvent, QObject, QTimer, pyqtSignal
from PyQt6.QtGui import QInputMethodEvent, QKeyEvent
from PyQt6.QtWidgets import QApplication

from rimecrest.core.keys.bindings import Binding, standing
from rimecrest.core.keys.chords import Chord, Sequence, format_chord, format_sequence
from rimecrest.core.keys.contexts import Contexts
from rimecrest.core.keys.trie import PATIENCE, KeyTrie, Step
from rimecrest.core.words import tr
from rimecrest.shell.key_codes import chord_of, keyboard_edition, top_row_digit

_GOES = ("Left", "Right", "Up", "Down", "Home", "End", "Page_Up", "Page_Down")
"""Keys with which a document goes to and fro by itself."""
ENDS = (Chord((), "Return"), Chord((), "KP_Enter"))
"""What ends a key that is asked for, where longer ones begin with it."""


class KeyOwner(Protocol):
    """The window whose keys are resolved."""

    def live(self) -> frozenset[str]:
        """The contexts that are live now."""
        ...

    def key_name(self, binding: Binding) -> str:
        """What a key does, in words."""
        ...

    def own(self, chord: Chord) -> bool:
        """Do what the window itself has on a key now, before all layouts. Returns whether it has anything."""
        ...

    def passes(self, chord: Chord) -> bool:
        """Whether a key is for a field of the window itself, and no layout's."""
        ...

    def repeats(self, binding: Binding) -> bool:
        """Whether holding the key down repeats it."""
        ...

    def access(self, letter: str) -> bool:
        """Press what Alt reaches by a letter. Returns whether there is such a thing."""
        ...

    def running(self) -> bool:
        """Whether a macro runs: every key is taken then."""
        ...

    def stop_run(self) -> None:
        """Escape was pressed while a macro runs."""
        ...

    def pointing(self) -> bool:
        """Whether a macro waits for something to be pointed at: keys that only move are left then."""
        ...

    def pointed(self) -> None:
        """Enter was pressed while a macro waits for something to be pointed at."""
        ...


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

    def __init__(self, owner: KeyOwner, contexts: Contexts) -> None:
        super().__init__()
        self._owner = owner
        self._contexts = contexts
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
        """The contexts in which keys count now."""
        return self._owner.live()

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
        live = self._owner.live()
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
        if not self._typed and self._owner.passes(chord):
            return False
        return self._trie().step((*self._typed, chord))[0] is not Step.NOTHING

    def _pressed(self, event: QKeyEvent) -> bool:
        if self._composing or QApplication.activePopupWidget() or QApplication.activeModalWidget():
            return False
        chord = chord_of(event)
        if self._owner.pointing():
            return chord is not None and self._point(chord, event.isAutoRepeat())
        if self._owner.running():
            if chord is not None and chord.key == "Escape":
                self._owner.stop_run()
            return True
        return chord is not None and self.press(chord, event.isAutoRepeat())

    def _point(self, chord: Chord, repeated: bool) -> bool:
        """Take a chord while something is pointed at. Returns whether it is used up."""
        if chord.key == "Escape" and not self._typed:
            self._owner.stop_run()
        elif chord.key in ("Return", "KP_Enter") and not chord.mods and not self._typed:
            self._owner.pointed()
        else:
            return self.press(chord, repeated) or chord.key not in _GOES
        return True

    def press(self, chord: Chord, repeated: bool = False) -> bool:
        """Take one chord. Returns whether it is used up."""
        if not self._typed and self._asked is None:
            if self._owner.own(chord):
                return True
            if self._owner.passes(chord):
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
        return chord.mods == ("Alt",) and len(chord.key) == 1 and self._owner.access(chord.key)

    def _resolve(self, binding: Binding, repeated: bool) -> bool:
        self._begin_anew()
        if binding.run is None:
            return False
        if not repeated or self._owner.repeats(binding):
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
        following = self._trie().following(typed)
        # What the office added comes first: the application's own keys are known, or in its help.
        following.sort(key=lambda pair: -pair[1].level if pair[1] is not None else 0)
        for chord, binding in following:
            parts.append(f"{format_chord(chord)} {self._owner.key_name(binding) if binding else '…'}")
        shown = " · ".join(parts[:8]) + (" · …" if len(parts) > 8 else "")
        return f"{format_sequence(typed)}, then: {shown}"


def _here(sequence: Sequence) -> Sequence:
    """A key of the top row is known by its digit, however a layout spells it."""
    return tuple(Chord(chord.mods, top_row_digit(chord.key) or chord.key) for chord in sequence)
