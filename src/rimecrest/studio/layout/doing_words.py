"""The words on a card that say what happens when: an event and what it runs, each a chooser."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from typing import Any

from PyQt6.QtCore import QPoint, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent
from PyQt6.QtWidgets import QPlainTextEdit, QWidget

from rimecrest.core.catalogue.items import Event, Handler
from rimecrest.core.layout.seen import Doing
from rimecrest.core.search import Search
from rimecrest.core.words import tr
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.core.workspace.private_steps import Runner, shared, taken_in
from rimecrest.shell.theme import font
from rimecrest.shell.there import there
from rimecrest.studio.layout.card_sheet import CardSheet
from rimecrest.studio.layout.targets import target_entries
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.sentence_widgets import Flow, InlineField, Word

EVENTS: dict[Event, str] = {
    "change": tr("changed"),
    "click": tr("clicked"),
    "double": tr("clicked twice"),
    "enter": tr("entered"),
    "leave": tr("left"),
    "point": tr("pointed at"),
    "open": tr("opened"),
}
"""Each event as it stands behind "when"."""


class StepsField(QPlainTextEdit):
    """Private steps while they are written. `settled(text)`: the focus went, as with Escape or Ctrl+Enter."""

    settled = pyqtSignal(str)

    def __init__(self, text: str, parent: QWidget) -> None:
        super().__init__(text, parent)
        self.setObjectName("control-steps-field")
        self.setFont(font(13))
        self.setFixedHeight(110)
        self.setTabChangesFocus(True)
        self.setAccessibleName(tr("Steps of its own"))
        self.setPlaceholderText(tr('One step on each line, like: write "Fenders". Ctrl+Enter ends.'))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        enter = event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter)
        held = event.modifiers() & Qt.KeyboardModifier.ControlModifier
        if event.key() == Qt.Key.Key_Escape or (enter and held):
            there(self.parentWidget()).setFocus()
        else:
            super().keyPressEvent(event)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.settled.emit(self.toPlainText())


class DoingWords:
    """What one control or panel does at which event, on its card.

    A card asks for the words with `say`, for the field of private steps with `steps_field`; `again` has it
    say everything anew.
    """

    def __init__(self, card: CardSheet, again: Callable[[], None]) -> None:
        self._card = card
        self._again = again
        self._doings: tuple[Doing, ...] = ()
        self._on: dict[str, Any] = {}
        self._events: Sequence[Event] = ()
        self._usual: Event | None = None
        self._panel = ""
        self._caption = ""
        self._picked: Event | None = None
        """An event that was chosen and does nothing yet."""
        self.writing: Event | None = None
        """The event whose private steps stand open."""

    def about(
        self,
        caption: str,
        panel: str,
        events: Sequence[Event],
        on: dict[Event, Handler],
        doings: tuple[Doing, ...],
        fresh: bool,
        usual: Event | None,
    ) -> None:
        """Be about a thing with these words on that panel.

        Args:
            fresh: it was about another one before.
            usual: the event that is said even where nothing happens at it.
        """
        self._caption, self._panel, self._events, self._doings = caption, panel, events, doings
        self._usual = usual
        self._on = {event: handler.to_data() for event, handler in on.items()}
        if fresh:
            self._picked = None
            self.writing = next((doing.event for doing in doings if doing.steps), None)

    def _shown(self) -> list[Event]:
        """The events that are said: the usual one, those that do something, one that was just chosen."""
        said = {self._usual, self._picked, *(doing.event for doing in self._doings)}
        return [event for event in self._events if event in said]

    def _doing(self, event: Event) -> Doing | None:
        return next((doing for doing in self._doings if doing.event == event), None)

    def say(self, flow: Flow) -> None:
        """Say what happens when."""
        shown = self._shown()
        for event in shown:
            self._card.say(flow, tr("; when"))
            usual = event == self._usual
            name = "control-event" if usual else f"control-event-{event}"
            self._card.word(flow, EVENTS[event], name, partial(self._choose_event, event))
            self._card.say(flow, tr("runs"))
            name = "control-run" if usual else f"control-run-{event}"
            self._card.word(flow, self._does(event), name, partial(self._choose_run, event))
        left = [event for event in self._events if event not in shown]
        if left:
            self._card.say(flow, ";")
            self._card.word(flow, tr("also when …"), "control-also", self._choose_another, 12)

    def steps_field(self, parent: QWidget) -> StepsField | None:
        """The field of the private steps that are open; None: there are none."""
        if self.writing is None:
            return None
        doing = self._doing(self.writing)
        field = StepsField(doing.steps if doing is not None else "", parent)
        event = self.writing
        field.settled.connect(lambda text: self._take_steps(event, text))
        return field

    def _does(self, event: Event) -> str:
        doing = self._doing(event)
        if doing is None:
            return tr("nothing")
        if doing.steps:
            return tr("its own steps")
        session = self._card.session
        stack = session.aim.stack(session.workspace)
        return session.workspace.targets(stack, session.aim.app).face(doing.run).name or doing.run or ""

    # Changing

    def _set(self, event: Event, does: dict[str, Any] | None, words: str) -> None:
        on = {name: handler for name, handler in self._on.items() if name != event}
        self._card.set_fields({"on": {**on, event: does} if does else on}, words)

    def _choose_another(self, word: Word) -> None:
        left = [(event, EVENTS[event]) for event in self._events if event not in self._shown()]
        choose_from(word, left, "", self._card.scheme, self._pick)

    def _pick(self, name: str) -> None:
        self._picked = next(event for event in self._events if event == name)
        self._again()
        found = self._card.findChild(Word, f"control-run-{name}")
        if found is not None:
            found.setFocus()

    def _choose_event(self, event: Event, word: Word) -> None:
        """Have what runs at an event run at another one."""
        taken = set(self._shown()) - {event}
        rows = [(other, EVENTS[other]) for other in self._events if other not in taken]

        def take(name: str) -> None:
            does = self._on.get(event)
            if name == event:
                return
            if does is None:
                self._pick(name)
                return
            rest = {known: handler for known, handler in self._on.items() if known != event}
            self.writing = next((e for e in self._events if e == name and does.get("steps")), self.writing)
            words = next(words for other, words in rows if other == name)
            self._card.set_fields({"on": {**rest, name: does}}, tr("when {event}", event=words))

        choose_from(word, rows, event, self._card.scheme, take)

    def _file(self, event: Event) -> MacroFile | None:
        """The macro that runs at an event."""
        doing, session = self._doing(event), self._card.session
        kind, _, name = (doing.run or "" if doing is not None else "").partition(":")
        seen = session.workspace.macros_of(session.aim.stack(session.workspace))
        return seen.get(name) if kind == "macro" else None

    def _choose_run(self, event: Event, word: Word) -> None:
        doing = self._doing(event)
        steps = doing.steps if doing is not None else ""
        now = "steps" if steps else "target" if doing is not None else "nothing"
        rows = [
            ("nothing", tr("nothing")),
            ("target", tr("a command or macro …")),
            ("steps", tr("its own steps …")),
        ]
        if steps:
            rows.append(("share", tr("a macro of these steps")))
        elif self._file(event) is not None:
            rows.append(("take in", tr("that macro’s steps as its own")))
        choose_from(word, rows, now, self._card.scheme, lambda value: self._take_run(word, event, value))

    def _take_run(self, word: Word, event: Event, value: str) -> None:
        self.writing = event if value in ("steps", "take in") else None
        session, file, doing = self._card.session, self._file(event), self._doing(event)
        aim, maker = session.aim, doing.made_by if doing is not None else ""
        runner = Runner(aim.layer, aim.app, self._card.subject, self._panel, event, self._on, maker)
        if value == "nothing":
            self._picked = None
            self._set(event, None, tr("does nothing"))
        elif value == "steps":
            self.write(event)
        elif value == "share" and doing is not None:
            self._card.wants.emit(shared(session.workspace, runner, doing.steps, self._caption))
        elif value == "take in" and file is not None:
            self._card.wants.emit(taken_in(session.workspace, runner, file))
        else:
            self._field_over(word, event)

    def write(self, event: Event | None = None) -> None:
        """Show the field for private steps, of the usual event where none is named, and go into it."""
        self.writing = event or self._events[0]
        self._again()
        field = self._card.findChild(StepsField)
        if field is not None:
            field.show()
            field.setFocus()

    def _field_over(self, word: Word, event: Event) -> None:
        card = self._card
        field = InlineField("", "", card, back=card)
        field.setObjectName("control-field")
        corner = word.mapTo(card, QPoint(0, 0))
        left = max(10, min(corner.x(), card.width() - 252))
        field.setGeometry(left, corner.y() - 2, 240, word.height() + 4)

        def done(text: str) -> None:
            field.hide()
            field.deleteLater()
            if text:
                self._take_target(event, text)

        field.entered.connect(done)
        field.given_up.connect(lambda: done(""))
        field.show()
        field.setFocus()

    def _take_target(self, event: Event, text: str) -> None:
        session = self._card.session
        stack = session.aim.stack(session.workspace)
        search = Search(target_entries(session.workspace, stack, session.aim.app, session.outcome()))
        found = search.find(text, 1)
        if found:
            self._set(event, {"run": found[0].id}, tr("run {name}", name=found[0].title))
        else:
            session.say(tr("There is no command or macro “{text}”.", text=text))

    def _take_steps(self, event: Event, text: str) -> None:
        doing = self._doing(event)
        if not self._card.subject or not text.strip() or (doing is not None and text == doing.steps):
            return
        app = self._card.session.aim.app
        if not text.lstrip().startswith("macro"):
            text = f'macro "{self._caption.replace(chr(34), "")}"\nfor {app}\n\n{text}'
        self._set(event, {"steps": text if text.endswith("\n") else text + "\n"}, tr("own steps"))
