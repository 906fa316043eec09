"""The Keys place: the key bed in the middle, contexts above, the map below, the sheet that says why beside
it."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QHBoxLayout, QStackedWidget, QVBoxLayout

from rimecrest.core.errors import RimecrestError
from rimecrest.core.explain import Verdict, seat_standpoint, why
from rimecrest.core.explain.bed_state import HELD_KEYS, BedView, CapState
from rimecrest.core.keys import ANYWHERE, Sequence, Traits, format_sequence, parse_sequence
from rimecrest.core.keys.chords import LONGEST
from rimecrest.core.keys.keyboards import keyboard_name, known_keyboards
from rimecrest.core.layout import KeyBinding, Outcome
from rimecrest.core.mend.fixes import fixes
from rimecrest.core.suggest.free_keys import Suggestion, free_keys, suggest
from rimecrest.core.workspace import Bind, Seat, Unbind
from rimecrest.core.workspace.give_key import give_key
from rimecrest.studio.keys.arranger import Arranger
from rimecrest.studio.keys.bed_view import KeyBed, MovesOverlay
from rimecrest.studio.keys.contexts import ContextBands
from rimecrest.studio.keys.installed import installed
from rimecrest.studio.keys.key_details import KeySheet
from rimecrest.studio.keys.legend import BedLegend
from rimecrest.studio.keys.listen import ListenField
from rimecrest.studio.keys.map import KeyMap
from rimecrest.studio.keys.variants import said_of_variants, variant_choices, with_variant
from rimecrest.studio.layout.targets import target_entries
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.place import Place, Surroundings, Thing
from rimecrest.studio.shared.search import Match
from rimecrest.studio.shared.sentence_widgets import Elided, Plain, Push, Word
from rimecrest.studio.wall_chart.ask import ask_for_chart

SUGGESTED = 10
KEYLESS = 8


class KeysPlace(Place):
    """What is at the fore: context, keyboard, opener, held modifiers, a key; for a layer or one seat."""

    def __init__(self, surroundings: Surroundings) -> None:
        super().__init__()
        self.session = session = surroundings.session
        self._scheme = scheme = surroundings.scheme
        self.context = ""
        self.board = ""
        self.opener: Sequence = ()
        self.seat = ""
        self.as_installed = False
        self.key = ""
        self.suggesting: Match | None = None
        self.suggestions: list[Suggestion] = []
        self._view: BedView | None = None
        self._installed: tuple[tuple[str, str], int, Outcome | None] | None = None
        self._fitting: tuple[str, str] = ("", "")
        self.bed = KeyBed(scheme)
        self.bands = ContextBands(scheme)
        self.map = KeyMap(scheme)
        self.sheet = KeySheet(scheme, surroundings.window)
        self.arranger = Arranger(session, scheme)
        self.listen = ListenField(scheme)
        self._moves = MovesOverlay(self.bed, scheme)
        self._line = QHBoxLayout()
        self._build()
        self._connect()

    def _build(self) -> None:
        self._line.setContentsMargins(0, 0, 0, 0)
        self._line.setSpacing(0)
        self._card = Push("Wall chart …", self._scheme)
        self._card.setObjectName("make-chart")
        self._card.setToolTip("A page to hang up: the keys and buttons of this layer")
        self._arrange = Push("Arrange …", self._scheme)
        self._arrange.setObjectName("arrange")
        head = QHBoxLayout()
        head.addLayout(self._line, 1)
        for widget in (self.listen, self._arrange, self._card):
            head.addWidget(widget)
        head.setSpacing(8)
        left = QVBoxLayout()
        left.setSpacing(7)
        left.addLayout(head)
        left.addWidget(self.bands)
        left.addWidget(self.bed, 1)
        left.addWidget(BedLegend(self._scheme))
        left.addWidget(Plain("Free keys at a glance", self._scheme, "ink", 13))
        left.addWidget(self.map)
        self._side = QStackedWidget()
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
        self.bed.chosen.connect(self._chosen)
        self.bed.held.connect(lambda _: self.refresh())
        self.bed.wanted.connect(self._wanted)
        self.bed.typed.connect(self.sheet.give.begin)
        self.bed.dropped.connect(self._dropped)
        self.bed.removed.connect(lambda _: self.take_off())
        self.bed.back.connect(lambda: self.go_behind(self.opener[:-1]))
        self.bands.chosen.connect(self._go_into)
        self.map.chosen.connect(self._from_map)
        self.sheet.give_wanted.connect(lambda entry: self.give(self.key, entry.id))
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
        self._card.clicked.connect(self._make_chart)
        self.arranger.changed.connect(self.refresh)
        self.arranger.ended.connect(self._arranged)

    # What the window asks

    def begin(self) -> None:
        """The place has come to the fore."""
        self._fit()
        self.refresh()
        self.bed.setFocus()

    def _make_chart(self) -> None:
        ask_for_chart(self, self.session, self.board)

    def leave(self) -> None:
        self.bed.let_go()

    def take_focus(self) -> None:
        self.bed.setFocus()

    def shows(self, thing: Thing) -> bool:
        return self._keys_of(thing) is not None

    def show_thing(self, thing: Thing) -> None:
        if (keys := self._keys_of(thing)) is not None:
            self.show_keys(keys)

    def _keys_of(self, thing: Thing) -> str | None:
        """The sequence that a thing is, or lies on, in the aimed application."""
        if thing.kind == "key":
            return thing.name
        if thing.kind in ("command", "macro"):
            try:
                bound = self.session.outcome().bindings
            except RimecrestError:
                return None
            return next((format_sequence(b.sequence) for b in bound if b.target[0] == thing.name), None)
        keys = thing.name.partition(":key:")[2].partition(":")[2] or thing.name
        kept = self.session.checked.cache
        table = kept.tables.get(self.session.aim.app) if kept else None
        return keys if table is not None and keys in table.index.buckets else None

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.WindowDeactivate:
            # Whoever lets go of a key in another window does not tell us.
            self.bed.let_go()
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_F7 and self.seat:
            self.as_installed = not self.as_installed
            self.refresh()
        elif event.key() == Qt.Key.Key_Escape and (self.suggesting or self.arranger.on):
            self.suggesting = None
            self.arranger.end()
            self.refresh()
        else:
            super().keyPressEvent(event)

    # State

    def _aimed(self) -> None:
        self._fit()
        if self.isVisible():
            self.refresh()

    def _changed(self) -> None:
        self.arranger.end()
        if self.isVisible():
            self.refresh()

    def _fit(self) -> None:
        """Choose a context, a keyboard and an opener that fit the aim, where those at the fore do not."""
        aim, workspace = self.session.aim, self.session.workspace
        catalogue = workspace.catalogues.get(aim.app)
        if catalogue is None:
            return
        if self._fitting != (aim.layer, aim.app):
            self._fitting = (aim.layer, aim.app)
            self.suggesting, self.key = None, ""
            self.arranger.forget()
            contexts = catalogue.context_tree
            bound = [key.in_context for key in workspace.layout(aim.layer, aim.app).keys]
            self.context = max(bound, key=bound.count) if bound else ""
            self.opener = parse_sequence(catalogue.opener) if catalogue.opener else ()
            if self.context not in contexts:
                self.context = next((c.id for c in contexts if c.id != ANYWHERE), ANYWHERE)
            self._side.setCurrentWidget(self.sheet)
        if self.seat and self.seat not in [seat.seat for seat in self._seats()]:
            self.seat = ""
        boards = self.boards()
        if self.board not in boards:
            self.board = next(iter(boards), "gb")

    def _seats(self) -> list[Seat]:
        workspace, layer = self.session.workspace, self.session.aim.layer
        return [seat for seat in workspace.people if layer in workspace.stack_of(seat)]

    def boards(self) -> dict[str, int]:
        """The keyboards of the aim with their seats, most first."""
        found: dict[str, int] = {}
        for seat in self._seats():
            if (not self.seat or seat.seat == self.seat) and seat.keyboard in known_keyboards():
                found[seat.keyboard] = found.get(seat.keyboard, 0) + 1
        return dict(sorted(found.items(), key=lambda pair: (-pair[1], pair[0]))) or {"gb": 0}

    def _one(self) -> Seat | None:
        return next((seat for seat in self._seats() if seat.seat == self.seat), None)

    def view(self) -> BedView:
        """The bed of what is at the fore."""
        session, aim = self.session, self.session.aim
        workspace, one = self.arranger.workspace(), self._one()
        if one is not None:
            outcome = workspace.outcome(workspace.stack_of(one), aim.app, one.traits)
            if self.as_installed:
                outcome = self._what_is_installed(one) or Outcome(aim.app)
            audience = [one.traits]
        else:
            traits = Traits(keyboard=self.board)
            outcome = workspace.outcome(workspace.stack_up_to(aim.layer), aim.app, traits)
            audience = [seat.traits for seat in self._seats()]
        return BedView(
            workspace, session.checked, aim.app, aim.layer, outcome, self.context, audience, self.board
        )

    def _what_is_installed(self, seat: Seat) -> Outcome | None:
        at = (seat.seat, self.session.aim.app)
        if self._installed is None or self._installed[0] != at:
            number, outcome = installed(self.session, seat, self.session.aim.app)
            self._installed = (at, number, outcome)
        return self._installed[2]

    def refresh(self) -> None:
        """Draw everything anew."""
        if self.session.aim.app not in self.session.workspace.catalogues:
            return
        self._fit()
        view = self._view = self.view()
        layer = self.session.aim.layer
        ranks = {one.keys: rank for rank, one in enumerate(self.suggestions, 1)} if self.suggesting else {}
        states = view.caps(self.bed.modifiers, self.opener)
        self.bed.show_keyboard(view.geometry, states, lambda cap: cap.layer == layer, ranks)
        self.bands.show_contexts(view.contexts, view.catalogue.title, self.context)
        self.map.show_view(view)
        self._show_line(view)
        self._show_sheet(view, states.get(self.bed.current))
        self._moves.show_moves(self.arranger.arrows(view))

    def _show_line(self, view: BedView) -> None:
        while (item := self._line.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.hide()
                widget.deleteLater()
        boards = self.boards()
        self._say("On ")
        self._word(keyboard_name(view.board.code), self._choose_board, "keys-board")
        self._say(", after ")
        self._word(format_sequence(self.opener) or "nothing", self._choose_opener, "keys-opener")
        self._say(", for ")
        seats = len(self._seats())
        self._word(self.seat or f"all {seats} seats", self._choose_seat, "keys-seat")
        if self.seat:
            self._say(", ")
            number = self._installed[1] if self.as_installed and self._installed else 0
            installed_ = f"release {number}" if number else "nothing installed"
            self._word(installed_ if self.as_installed else "the draft", self._turn_side, "keys-side")
        others = [f"{code.upper()} {count}" for code, count in boards.items() if code != view.board.code]
        if not self.seat and boards.get(view.board.code):
            also = f"; also {', '.join(others)}" if others else ""
            words = Elided(f"   {boards[view.board.code]} of {seats}{also}", self._scheme, "ink2", 12)
            words.setMinimumWidth(10)
            self._line.addWidget(words)
        self._line.addStretch(1)

    def _say(self, text: str) -> None:
        self._line.addWidget(Plain(text, self._scheme, "ink", 13))

    def _word(self, text: str, action: object, name: str) -> None:
        word = Word(text, self._scheme, 13)
        word.setObjectName(name)
        word.clicked.connect(lambda: action(word))  # type: ignore[operator]
        self._line.addWidget(word)

    # Choosers

    def _choose_board(self, word: Word) -> None:
        boards = self.boards()
        rows = [(code, f"{keyboard_name(code)} · {count} seats") for code, count in boards.items()]
        choose_from(word, rows, self.board, self._scheme, self._use_board)

    def _use_board(self, code: str) -> None:
        self.board = code
        self.refresh()

    def _choose_opener(self, word: Word) -> None:
        rows = [("", "nothing")] + [(format_sequence(o),) * 2 for o in (self._view or self.view()).openers()]
        choose_from(
            word,
            rows,
            format_sequence(self.opener),
            self._scheme,
            lambda text: self.go_behind(parse_sequence(text) if text else ()),
        )

    def _choose_seat(self, word: Word) -> None:
        rows = [("", f"all {len(self._seats())} seats")]
        rows += [
            (seat.seat, f"{seat.seat} · {seat.name} · {seat.keyboard.upper()}") for seat in self._seats()
        ]
        choose_from(word, rows, self.seat, self._scheme, self.aim_at_seat)

    def aim_at_seat(self, seat: str) -> None:
        """Show one seat, or with an empty name all of them."""
        self.seat, self.as_installed, self._installed = seat, False, None
        self.refresh()

    def _turn_side(self, _word: Word) -> None:
        self.as_installed = not self.as_installed
        self.refresh()

    def go_behind(self, opener: Sequence) -> None:
        """Show what follows these chords."""
        if opener != self.opener and len(opener) < LONGEST:
            self.opener = opener
            self.refresh()

    def _go_into(self, context: str) -> None:
        self.context = context
        self.refresh()

    # Keys

    def _cap(self, key: str) -> CapState | None:
        cap = self.bed.caps.get(key)
        return cap.state if cap else None

    def _chosen(self, key: str) -> None:
        state = self._cap(key)
        self.key = state.keys if state else ""
        if self._view is not None:
            self._show_sheet(self._view, state)

    def show_keys(self, keys: str) -> None:
        """Go to a sequence: its opener, its modifiers, its key."""
        sequence = parse_sequence(keys)
        self.opener = sequence[:-1]
        self.refresh()
        self.bed.hold(frozenset(sequence[-1].mods))
        key = (self._view or self.view()).key_of(keys)
        self.key = keys
        if key:
            self.bed.current = key
            listening = self.listen.hasFocus()
            if not listening:
                self.bed.caps[key].setFocus()
            self._show_sheet(self._view or self.view(), self._cap(key))
            self.bed.caps[key].update()
        else:
            self.bed.current = ""
            self._show_sheet(self._view or self.view(), None)

    def _from_map(self, opener: Sequence, mods: tuple[str, ...], key: str) -> None:
        self.opener = opener
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

    def _dropped(self, key: str, what: str) -> None:
        target, _, origin = what.partition("\t")
        state = self._cap(key)
        if state is not None and state.keys and state.keys != origin:
            self.give(state.keys, target, origin)

    def give(self, keys: str, target: str, origin: str = "") -> None:
        """Give a key to a command or macro in this layer, where the context at the fore is.

        Args:
            origin: the sequence that it is moved from; its other keys stay.
        """
        session, aim = self.session, self.session.aim
        layout = session.workspace.layout(aim.layer, aim.app)
        moved = (
            next((k for k in layout.keys if (k.keys, k.run) == (origin, target)), None) if origin else None
        )
        command = session.workspace.catalogue(aim.app).by_id.get(target)
        if command is not None and command.argument_faults({}):
            session.say(f"{command.name} needs settings; put it into a macro, and give that the key.")
            return
        edit = give_key(session.workspace, aim.layer, aim.app, (target, ()), keys, self.context, moved)
        done = session.do(edit)
        if done:
            name = session.workspace.targets(session.workspace.layers, aim.app).face(target).name
            session.say(f"{keys} runs {name}.")
        self.suggesting = None
        self.refresh()
        self.bed.setFocus()

    def take_off(self) -> None:
        """Take the key at the fore away: this layer's own is removed, one from beneath is taken away."""
        session, aim = self.session, self.session.aim
        state = self._cap(self.bed.current)
        if state is None or not state.words:
            return
        if state.layer == aim.layer:
            session.do(Unbind(aim.layer, aim.app, state.identity))
        else:
            key = KeyBinding.model_validate({"keys": state.keys, "in": self.context, "run": None})
            session.do(Bind(aim.layer, aim.app, key))
        self.refresh()

    # The sheet

    def _show_sheet(self, view: BedView, state: CapState | None) -> None:
        if self.arranger.on:
            return
        sheet = self.sheet
        sheet.clear()
        aim, workspace = self.session.aim, self.session.workspace
        sheet.offer(target_entries(workspace, workspace.stack_up_to(aim.layer), aim.app, view.outcome))
        keys = (state.keys if state else "") or self.key
        if keys:
            self.key = keys
            self._show_key(view, keys, state)
        else:
            sheet.say("Click a key, or look one up above, to see who has it and why.")
        if self.suggesting is not None:
            sheet.show_suggestions(self.suggesting.title, self.suggestions)
        else:
            sheet.show_keyless(self._keyless(view))
            sheet.show_suggestions("", ())
        sheet.close_up()

    def _show_key(self, view: BedView, keys: str, state: CapState | None) -> None:
        session, aim, one = self.session, self.session.aim, self._one()
        title = session.workspace.layer_title(aim.layer)
        where = view.contexts.name(self.context).lower()
        links: list[Verdict] = []
        if one is not None:
            at = seat_standpoint(
                session.workspace,
                one,
                aim.app,
                view.outcome if self.as_installed else None,
                self._release_words(),
            )
            links = why(at, keys, self.context)
        lines = view.lines(keys) if one is None else []
        finding = next((line.finding for line in lines if line.finding), None) or (
            state.finding if state else None
        )
        offered = fixes(finding, session.workspace, session.checked)[:5] if finding else []
        key = self._own_key(keys)
        self.sheet.show_key(
            keys,
            f"{where}, for {one.seat if one else title}",
            lines,
            offered,
            links,
            state is not None and bool(state.words),
            None if key is None else said_of_variants(key),
        )

    def _own_key(self, keys: str) -> KeyBinding | None:
        """The binding that this layer itself has on a sequence, in the context at the fore or around it."""
        aim = self.session.aim
        contexts = self.session.workspace.catalogue(aim.app).context_tree
        found = [
            key
            for key in self.session.workspace.layout(aim.layer, aim.app).keys
            if keys in (key.keys, *key.on.values()) and contexts.contains(key.in_context, self.context)
        ]
        return max(found, key=lambda key: contexts.narrowness(key.in_context), default=None)

    def _choose_variant(self, word: Word) -> None:
        """Another key, or none, for the seats with one keyboard, desktop or session."""
        session, aim, key = self.session, self.session.aim, self._own_key(self.key)
        if key is None:
            return
        name = session.workspace.targets(session.workspace.layers, aim.app).face(key.run).name
        free = free_keys(session.workspace, aim.app, aim.layer, name, 2, checked=session.checked)
        choices = variant_choices(key, self._seats(), free)

        def take(words: str) -> None:
            session.do(Bind(aim.layer, aim.app, with_variant(key, *choices[words])))

        choose_from(word, [(words, words) for words in choices], "", self._scheme, take)

    def _release_words(self) -> str:
        if self.as_installed and self._installed:
            number = self._installed[1]
            return f"Release {number} is installed." if number else "Nothing has been installed yet."
        return ""

    def _keyless(self, view: BedView) -> list[Match]:
        workspace, aim = self.session.workspace, self.session.aim
        bound = {binding.run for binding in view.outcome.bindings}
        counts = workspace.habits.counts
        found = []
        for entry in target_entries(workspace, workspace.stack_up_to(aim.layer), aim.app, view.outcome):
            count = counts.get((aim.app, entry.id))
            if entry.id not in bound and (entry.kind == "macro" or count is not None):
                used = f"{count.uses:,} × a month" if count else "macro"
                found.append((-(count.uses if count else 0), replace(entry, hint=used)))
        return [entry for _, entry in sorted(found, key=lambda pair: (pair[0], pair[1].title))[:KEYLESS]]

    # Suggesting

    def suggest_for(self, entry: Match) -> None:
        """Paint the best free keys for a command or macro."""
        session, aim = self.session, self.session.aim
        try:
            found = suggest(
                session.workspace, aim.app, aim.layer, entry.title, entry.id, SUGGESTED, (), session.checked
            )
        except RimecrestError as error:
            session.say(str(error))
            return
        self.arranger.end()
        self.suggesting, self.suggestions = entry, found
        if found:
            first = parse_sequence(found[0].keys)
            self.opener, self.key = first[:-1], found[0].keys
            self.bed.hold(frozenset(first[-1].mods))
        self.refresh()
        if found:
            self.bed.choose(self.view().key_of(found[0].keys))

    def _take_suggestion(self, keys: str) -> None:
        if self.suggesting is not None:
            entry = self.suggesting
            self.give(keys, entry.id)
            self.show_keys(keys)

    # Arranging

    def begin_arranging(self) -> None:
        """Show the best keys for all that the layer binds."""
        self.suggesting = None
        if self.arranger.begin():
            self._side.setCurrentWidget(self.arranger.sheet)

    def _arranged(self) -> None:
        self._side.setCurrentWidget(self.sheet)
        self.refresh()
