"""The Keys place: the key bed in the middle, contexts above, the map below, the sheet that says why beside
it."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QHBoxLayout, QStackedWidget, QVBoxLayout

from rimecrest.core.explain.bed_state import HELD_KEYS, BedView, CapState
from rimecrest.core.keys.chords import Sequence, parse_sequence
from rimecrest.core.search import Match
from rimecrest.core.words import tr
from rimecrest.studio.keys.aim_sentence import AimSentence
from rimecrest.studio.keys.arranger import Arranger
from rimecrest.studio.keys.bed_view import KeyBed
from rimecrest.studio.keys.contexts import ContextBands
from rimecrest.studio.keys.key_details import KeySheet
from rimecrest.studio.keys.legend import BedLegend
from rimecrest.studio.keys.listen import ListenField
from rimecrest.studio.keys.map import KeyMap
from rimecrest.studio.keys.moves_overlay import MovesOverlay
from rimecrest.studio.keys.presenter import KeysPresenter
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.place import Place, Surroundings, Task, Thing
from rimecrest.studio.shared.sentence_widgets import Plain, Push, Word
from rimecrest.studio.wall_chart.ask import ask_for_chart


class KeysPlace(Place):
    """Shows what is at the fore, and hands what is done there to the presenter."""

    def __init__(self, surroundings: Surroundings) -> None:
        super().__init__()
        self.session = session = surroundings.session
        self._scheme = scheme = surroundings.scheme
        self.presenter = KeysPresenter(session)
        self._view: BedView | None = None
        self.bed = KeyBed(scheme)
        self.bands = ContextBands(scheme)
        self.map = KeyMap(scheme)
        self.sheet = KeySheet(scheme, surroundings.window)
        self.arranger = Arranger(session, scheme)
        self.listen = ListenField(scheme, session.begins_sequence)
        self.sentence = AimSentence(self.presenter, scheme)
        self.moves = MovesOverlay(self.bed, scheme)
        self._side = QStackedWidget()
        self._chart = Push(tr("Wall chart …"), scheme)
        self._arrange = Push(tr("Arrange …"), scheme)
        self._build()
        self._connect()

    def _build(self) -> None:
        self._chart.setObjectName("make-chart")
        self._chart.setToolTip(tr("A page to hang up: the keys and buttons of this layer"))
        self._arrange.setObjectName("arrange")
        head = QHBoxLayout()
        head.addWidget(self.sentence, 1)
        for widget in (self.listen, self._arrange, self._chart):
            head.addWidget(widget)
        head.setSpacing(8)
        left = QVBoxLayout()
        left.setSpacing(7)
        left.addLayout(head)
        left.addWidget(self.bands)
        left.addWidget(self.bed, 1)
        left.addWidget(BedLegend(self._scheme))
        left.addWidget(Plain(tr("Free keys at a glance"), self._scheme, "ink", 13))
        left.addWidget(self.map)
        self._side.addWidget(self.sheet)
        self._side.addWidget(self.arranger.sheet)
        self._side.setFixedWidth(self.sheet.width())
        columns = QHBoxLayout(self)
        columns.setContentsMargins(18, 12, 14, 10)
        columns.setSpacing(16)
        columns.addLayout(left, 1)
        columns.addWidget(self._side)

    def _connect(self) -> None:
        self.session.changed.connect(self._changed)
        self.session.aimed.connect(self._aimed)
        self.sentence.turned.connect(self.refresh)
        self.bed.chosen.connect(self._chosen)
        self.bed.held.connect(lambda _: self.refresh())
        self.bed.wanted.connect(self._wanted)
        self.bed.typed.connect(self._typed)
        self.bed.dropped.connect(self._dropped)
        self.bed.removed.connect(lambda _: self.take_off())
        self.bed.back.connect(lambda: self.go_behind(self.presenter.opener[:-1]))
        self.bands.chosen.connect(self._go_into)
        self.map.chosen.connect(self._from_map)
        self.sheet.give_wanted.connect(lambda entry: self.give(self.presenter.key, entry.id))
        self.sheet.suggest_wanted.connect(self.suggest_for)
        self.sheet.key_wanted.connect(self._take_suggestion)
        self.sheet.takes_off.connect(self.take_off)
        self.sheet.variants_wanted.connect(self._choose_variant)
        self.sheet.left.connect(lambda: self.bed.setFocus())
        self.sheet.fix_wanted.connect(self.fix_wanted)
        self.listen.heard.connect(self.show_keys)
        self.listen.told.connect(self.session.told)
        self.listen.ended.connect(lambda: self.bed.setFocus())
        self._arrange.clicked.connect(self.begin_arranging)
        self._chart.clicked.connect(lambda: ask_for_chart(self, self.session, self.presenter.board))
        self.arranger.changed.connect(self.refresh)
        self.arranger.ended.connect(self._arranged)

    # What the window asks

    def begin(self) -> None:
        """The place has come to the fore."""
        self._fit()
        self.refresh()
        self.bed.setFocus()

    def leave(self) -> None:
        self.bed.let_go()

    def take_focus(self) -> None:
        self.bed.setFocus()

    def take_up(self, what: Task, thing: Thing) -> bool:
        if what != "key":
            return False
        self.wanted.emit()
        stack = self.session.aim.stack(self.session.workspace)
        face = self.session.workspace.targets(stack, self.session.aim.app).face(thing.name)
        self.suggest_for(Match(thing.kind, thing.name, face.name))
        return True

    def shows(self, thing: Thing) -> bool:
        return self.presenter.keys_of(*thing) is not None

    def show_thing(self, thing: Thing) -> None:
        if (keys := self.presenter.keys_of(*thing)) is not None:
            self.show_keys(keys)

    def event(self, event: QEvent | None) -> bool:
        assert event is not None
        if event.type() == QEvent.Type.WindowDeactivate:
            # Whoever lets go of a key in another window does not tell us.
            self.bed.let_go()
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        presenter = self.presenter
        if event.key() == Qt.Key.Key_F7 and presenter.seat:
            presenter.as_installed = not presenter.as_installed
            self.refresh()
        elif event.key() == Qt.Key.Key_Escape and (presenter.suggesting or self.arranger.on):
            presenter.suggesting = None
            self.arranger.end()
            self.refresh()
        else:
            super().keyPressEvent(event)

    # Showing

    def _aimed(self) -> None:
        self._fit()
        if self.isVisible():
            self.refresh()

    def _changed(self) -> None:
        self.arranger.end()
        if self.isVisible():
            self.refresh()

    def _fit(self) -> None:
        if self.presenter.fit():
            # Another layer is worked on: an arrangement of the one before is none of it.
            self.arranger.forget()
            self._side.setCurrentWidget(self.sheet)

    def view(self) -> BedView:
        """The bed of what is at the fore."""
        return self.presenter.view(self.arranger.workspace())

    def refresh(self) -> None:
        """Draw everything anew."""
        presenter = self.presenter
        if presenter.catalogue() is None:
            return
        self._fit()
        view = self._view = self.view()
        layer = self.session.aim.layer
        suggested = presenter.suggestions if presenter.suggesting else []
        ranks = {one.keys: rank for rank, one in enumerate(suggested, 1)}
        states = view.caps(self.bed.modifiers, presenter.opener)
        self.bed.show_keyboard(view.geometry, states, lambda cap: cap.layer == layer, ranks)
        self.bands.show_contexts(view.contexts, view.catalogue.title, presenter.context)
        self.map.show_view(view)
        self.sentence.show_view(view)
        self._show_sheet(view, states.get(self.bed.current))
        self.moves.show_moves(self.arranger.arrows(view, self.bed.modifiers, presenter.opener))

    def _show_sheet(self, view: BedView, state: CapState | None) -> None:
        if self.arranger.on:
            return
        sheet, presenter = self.sheet, self.presenter
        sheet.clear()
        sheet.offer(presenter.targets(view))
        keys = (state.keys if state else "") or presenter.key
        if keys:
            presenter.key = keys
            sheet.show_key(presenter.facts(view, keys, state))
        else:
            sheet.say(tr("Click a key, or look one up above, to see who has it and why."))
        if presenter.suggesting is not None:
            sheet.show_suggestions(presenter.suggesting.title, presenter.suggestions)
        else:
            sheet.show_keyless(presenter.keyless(view))
            sheet.show_suggestions("", ())
        sheet.close_up()

    def aim_at_seat(self, seat: str) -> None:
        """Show one seat, or with an empty name all of them."""
        self.presenter.aim_at_seat(seat)
        self.refresh()

    def go_behind(self, opener: Sequence) -> None:
        """Show what follows these chords."""
        if self.presenter.go_behind(opener):
            self.refresh()

    def _go_into(self, context: str) -> None:
        self.presenter.context = context
        self.refresh()

    # Keys

    def _cap(self, key: str) -> CapState | None:
        cap = self.bed.caps.get(key)
        return cap.state if cap else None

    def _chosen(self, key: str) -> None:
        state = self._cap(key)
        self.presenter.key = state.keys if state else ""
        if self._view is not None:
            self._show_sheet(self._view, state)

    def show_keys(self, keys: str) -> None:
        """Go to a sequence: its opener, its modifiers, its key."""
        sequence = parse_sequence(keys)
        self.presenter.opener = sequence[:-1]
        self.refresh()
        self.bed.hold(frozenset(sequence[-1].mods))
        view = self._view or self.view()
        key = view.key_of(keys)
        self.presenter.key = keys
        self.bed.current = key
        if key and not self.listen.hasFocus():
            self.bed.caps[key].setFocus()
        self._show_sheet(view, self._cap(key) if key else None)
        if key:
            self.bed.caps[key].update()

    def _from_map(self, opener: Sequence, mods: tuple[str, ...], key: str) -> None:
        self.presenter.opener = opener
        self.bed.hold(frozenset(mods))
        self.bed.choose(key)

    def _wanted(self, key: str) -> None:
        state = self._cap(key)
        if key in HELD_KEYS:
            self.bed.hold(self.bed.modifiers ^ {HELD_KEYS[key]})
        elif state is not None and state.opens and not state.words:
            self.bed.hold(frozenset())
            self.go_behind(parse_sequence(state.keys))
        elif state is not None and state.keys:
            self.sheet.give.setFocus()

    def _typed(self, text: str) -> None:
        if self.presenter.key:  # a modifier alone can be given to nothing, and its sheet has no field
            self.sheet.give.begin(text)

    def _dropped(self, key: str, what: str) -> None:
        target, _, origin = what.partition("\t")
        state = self._cap(key)
        if state is not None and state.keys and state.keys != origin:
            self.give(state.keys, target, origin)

    def give(self, keys: str, target: str, origin: str = "") -> None:
        """Give a key to a command or macro; `origin` is the sequence that it is moved from."""
        given = self.presenter.give(keys, target, origin)
        self.refresh()
        if given:
            self.bed.setFocus()

    def take_off(self) -> None:
        """Take the key at the fore away."""
        state = self._cap(self.bed.current)
        if state is not None and state.words:
            self.presenter.take_off(state)
            self.refresh()

    def _choose_variant(self, word: Word) -> None:
        choices = self.presenter.variants()
        if choices:
            rows = [(words, words) for words in choices]
            choose_from(word, rows, "", self._scheme, lambda words: self.presenter.bind(choices[words]))

    # Suggesting and arranging

    def suggest_for(self, entry: Match) -> None:
        """Paint the best free keys for a command or macro."""
        presenter = self.presenter
        if not presenter.suggest_for(entry):
            return
        self.arranger.end()
        found = presenter.suggestions
        if found:
            first = parse_sequence(found[0].keys)
            presenter.opener, presenter.key = first[:-1], found[0].keys
            self.bed.hold(frozenset(first[-1].mods))
        self.refresh()
        if found:
            self.bed.choose(self.view().key_of(found[0].keys))

    def _take_suggestion(self, keys: str) -> None:
        if (entry := self.presenter.suggesting) is not None:
            self.give(keys, entry.id)
            self.show_keys(keys)

    def begin_arranging(self) -> None:
        """Show the best keys for all that the layer binds."""
        self.presenter.suggesting = None
        if self.arranger.begin():
            self._side.setCurrentWidget(self.arranger.sheet)

    def _arranged(self) -> None:
        self._side.setCurrentWidget(self.sheet)
        self.refresh()
