"""What is at the fore in the Keys place, what is known of it, and what is done to it. No widgets in here."""

from __future__ import annotations

from msgspec import Struct
from msgspec.structs import replace

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.errors import RimecrestError
from rimecrest.core.explain.bed_state import BedView, CapState, Line
from rimecrest.core.explain.standpoint import seat_standpoint
from rimecrest.core.explain.why import Verdict, why
from rimecrest.core.keys.bindings import working
from rimecrest.core.keys.chords import LONGEST, Sequence, format_sequence, parse_sequence
from rimecrest.core.keys.contexts import ANYWHERE
from rimecrest.core.keys.keyboards.national import known_keyboards
from rimecrest.core.keys.traits import Traits
from rimecrest.core.layout.layout import KeyBinding
from rimecrest.core.layout.seen import Outcome
from rimecrest.core.mend.fix import Fix
from rimecrest.core.mend.make_fixes import fixes
from rimecrest.core.search import Match
from rimecrest.core.suggest.free_keys import Suggestion, free_keys, suggest
from rimecrest.core.words import counted, tr
from rimecrest.core.workspace.edits import Bind, Unbind
from rimecrest.core.workspace.give_key import give_key
from rimecrest.core.workspace.people import Seat
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.studio.keys.installed import installed
from rimecrest.studio.keys.variants import said_of_variants, variant_choices, with_variant
from rimecrest.studio.layout.targets import target_entries
from rimecrest.studio.shared.session import Session

SUGGESTED = 10
KEYLESS = 8
FIXES = 5


class KeyFacts(Struct, frozen=True):
    """What is known of a sequence, for the sheet beside the bed."""

    keys: str
    where: str
    """The context and for whom, in words."""
    lines: list[Line]
    fixes: list[Fix]
    links: list[Verdict]
    """Why it runs what it runs, when one seat is at the fore."""
    taken: bool
    variants: str | None
    """What is said of its variants; None when this layer does not bind it."""


class KeysPresenter:
    """Context, keyboard, opener, a key; for a layer or one seat; and the edits of the keys of that layer."""

    def __init__(self, session: Session) -> None:
        self._session = session
        self.context = ""
        self.board = ""
        self.opener: Sequence = ()
        self.seat = ""
        self.as_installed = False
        self.key = ""
        self.suggesting: Match | None = None
        self.suggestions: list[Suggestion] = []
        self._installed: tuple[tuple[str, str], int, Outcome | None] | None = None
        self._fitting: tuple[str, str] = ("", "")

    @property
    def _workspace(self) -> Workspace:
        return self._session.workspace

    def catalogue(self) -> Catalogue | None:
        """Of the aimed application; None when the workspace has none."""
        return self._workspace.catalogues.get(self._session.aim.app)

    # What is at the fore

    def fit(self) -> bool:
        """Choose a context, a keyboard and an opener that fit the aim, where those at the fore do not.

        Returns:
            Whether another layer or application is aimed at than before.
        """
        aim, catalogue = self._session.aim, self.catalogue()
        if catalogue is None:
            return False
        turned = self._fitting != (aim.layer, aim.app)
        if turned:
            self._fitting = (aim.layer, aim.app)
            self.suggesting, self.key = None, ""
            contexts = catalogue.context_tree
            bound = [key.in_context for key in self._workspace.layout(aim.layer, aim.app).keys]
            self.context = max(bound, key=bound.count) if bound else ""
            self.opener = parse_sequence(catalogue.opener) if catalogue.opener else ()
            if self.context not in contexts:
                self.context = next((c.id for c in contexts if c.id != ANYWHERE), ANYWHERE)
        if self.seat and self.one() is None:
            self.seat = ""
        boards = self.boards()
        if self.board not in boards:
            self.board = next(iter(boards), "gb")
        return turned

    def seats(self) -> list[Seat]:
        """The seats that the aimed layer reaches."""
        workspace, layer = self._workspace, self._session.aim.layer
        return [seat for seat in workspace.people if layer in workspace.stack_of(seat)]

    def boards(self) -> dict[str, int]:
        """The keyboards of the aim with their seats, most first."""
        found: dict[str, int] = {}
        for seat in self.seats():
            if (not self.seat or seat.seat == self.seat) and seat.keyboard in known_keyboards():
                found[seat.keyboard] = found.get(seat.keyboard, 0) + 1
        return dict(sorted(found.items(), key=lambda pair: (-pair[1], pair[0]))) or {"gb": 0}

    def one(self) -> Seat | None:
        """The seat at the fore; None for all of them."""
        return next((seat for seat in self.seats() if seat.seat == self.seat), None)

    def aim_at_seat(self, seat: str) -> None:
        """Show one seat, or with an empty name all of them."""
        self.seat, self.as_installed, self._installed = seat, False, None

    def go_behind(self, opener: Sequence) -> bool:
        """Show what follows these chords; whether that is something else than before."""
        if opener == self.opener or len(opener) >= LONGEST:
            return False
        self.opener = opener
        return True

    def view(self, workspace: Workspace) -> BedView:
        """The bed of what is at the fore, with the layouts of a workspace: the real one or a tried one."""
        session, aim, one = self._session, self._session.aim, self.one()
        if one is not None:
            outcome = workspace.outcome(workspace.stack_of(one), aim.app, one.traits)
            if self.as_installed:
                outcome = self._what_is_installed(one) or Outcome(aim.app)
            audience = [one.traits]
        else:
            traits = Traits(keyboard=self.board)
            outcome = workspace.outcome(workspace.stack_up_to(aim.layer), aim.app, traits)
            audience = [seat.traits for seat in self.seats()]
        return BedView(
            workspace, session.checked, aim.app, aim.layer, outcome, self.context, audience, self.board
        )

    def _what_is_installed(self, seat: Seat) -> Outcome | None:
        at = (seat.seat, self._session.aim.app)
        if self._installed is None or self._installed[0] != at:
            number, outcome = installed(self._session, seat, self._session.aim.app)
            self._installed = (at, number, outcome)
        return self._installed[2]

    @property
    def installed_release(self) -> int:
        """The release that the seat at the fore has, as far as it was looked up; else 0."""
        return self._installed[1] if self.as_installed and self._installed else 0

    def keys_of(self, kind: str, name: str) -> str | None:
        """The sequence that a thing is, or lies on, in the aimed application."""
        if kind == "key":
            return name
        if kind in ("command", "macro"):
            try:
                bound = self._session.outcome().bindings
            except RimecrestError:
                return None
            return next((format_sequence(b.sequence) for b in bound if b.target[0] == name), None)
        keys = name.partition(":key:")[2].partition(":")[2] or name
        kept = self._session.checked.cache
        table = kept.tables.get(self._session.aim.app) if kept else None
        return keys if table is not None and keys in table.index.buckets else None

    # What is known of a key

    def facts(self, view: BedView, keys: str, state: CapState | None) -> KeyFacts:
        """Everything that is known of a sequence in the context at the fore."""
        session, one = self._session, self.one()
        where = view.contexts.name(self.context).lower()
        whom = one.seat if one else session.workspace.layer_title(session.aim.layer)
        lines = view.lines(keys) if one is None else []
        finding = next((line.finding for line in lines if line.finding), None)
        finding = finding or (state.finding if state else None)
        key = self._own_key(keys)
        return KeyFacts(
            keys,
            tr("{where}, for {whom}", where=where, whom=whom),
            lines,
            fixes(finding, session.workspace, session.checked)[:FIXES] if finding else [],
            [] if one is None else self._why(view, one, keys),
            state is not None and bool(state.words),
            None if key is None else said_of_variants(key),
        )

    def _why(self, view: BedView, seat: Seat, keys: str) -> list[Verdict]:
        words = ""
        if self.as_installed and self._installed:
            number = self._installed[1]
            words = (
                tr("Release {number} is installed.", number=number)
                if number
                else tr("Nothing has been installed yet.")
            )
        outcome = view.outcome if self.as_installed else None
        at = seat_standpoint(self._workspace, seat, self._session.aim.app, outcome, words)
        return why(at, keys, self.context)

    def targets(self, view: BedView) -> list[Match]:
        """What can be given a key."""
        aim, workspace = self._session.aim, self._workspace
        return target_entries(workspace, workspace.stack_up_to(aim.layer), aim.app, view.outcome)

    def keyless(self, view: BedView) -> list[Match]:
        """What is used most, or recorded, and has no key."""
        contexts = self._workspace.catalogue(self._session.aim.app).context_tree
        bound = {binding.run for binding in working(view.outcome.bindings, contexts)}
        counts = self._workspace.habits.counts
        found = []
        for entry in self.targets(view):
            count = counts.get((self._session.aim.app, entry.id))
            if entry.id not in bound and (entry.kind == "macro" or count is not None):
                used = tr("{uses:,} × a month", uses=count.uses) if count else tr("macro")
                found.append((-(count.uses if count else 0), replace(entry, hint=used)))
        return [entry for _, entry in sorted(found, key=lambda pair: (pair[0], pair[1].title))[:KEYLESS]]

    def seats_line(self) -> str:
        """How many of the seats have the keyboard at the fore, and which others there are."""
        boards = self.boards()
        others = [f"{code.upper()} {count}" for code, count in boards.items() if code != self.board]
        if self.seat or not boards.get(self.board):
            return ""
        return tr("{here} of {all}", here=boards[self.board], all=len(self.seats())) + (
            f"; also {', '.join(others)}" if others else ""
        )

    def all_seats(self) -> str:
        """“all 12 seats”."""
        return f"all {counted(len(self.seats()), 'seat')}"

    # Edits

    def _name(self, target: str) -> str:
        workspace = self._workspace
        return workspace.targets(workspace.layers, self._session.aim.app).face(target).name

    def give(self, keys: str, target: str, origin: str = "") -> bool:
        """Give a key to a command or macro in this layer, where the context at the fore is.

        Args:
            origin: the sequence that it is moved from; its other keys stay.
        """
        session, aim = self._session, self._session.aim
        bound = session.workspace.layout(aim.layer, aim.app).keys
        moved = next((k for k in bound if (k.keys, k.run) == (origin, target)), None) if origin else None
        command = session.workspace.catalogue(aim.app).by_id.get(target)
        if command is not None and command.argument_faults({}, by_hand=True):
            session.say(
                tr("{name} needs settings; put it into a macro, and give that the key.", name=command.name)
            )
            return False
        edit = give_key(session.workspace, aim.layer, aim.app, (target, ()), keys, self.context, moved)
        done = session.do(edit)
        if done:
            session.say(tr("{keys} runs {name}.", keys=keys, name=self._name(target)))
        self.suggesting = None
        return done

    def take_off(self, state: CapState) -> bool:
        """Take a key away: this layer's own is removed, one from beneath is taken away."""
        session, aim = self._session, self._session.aim
        if not state.words:
            return False
        if state.layer == aim.layer:
            return session.do(Unbind(aim.layer, aim.app, state.identity))
        key = KeyBinding.model_validate({"keys": state.keys, "in": self.context, "run": None})
        return session.do(Bind(aim.layer, aim.app, key))

    def _own_key(self, keys: str) -> KeyBinding | None:
        """The binding that this layer itself has on a sequence, in the context at the fore or around it."""
        aim = self._session.aim
        contexts = self._workspace.catalogue(aim.app).context_tree
        found = [
            key
            for key in self._workspace.layout(aim.layer, aim.app).keys
            if keys in (key.keys, *key.on.values()) and contexts.contains(key.in_context, self.context)
        ]
        return max(found, key=lambda key: contexts.narrowness(key.in_context), default=None)

    def variants(self) -> dict[str, KeyBinding]:
        """What the key at the fore can be for the seats with one keyboard, desktop or session, in words."""
        key = self._own_key(self.key)
        if key is None:
            return {}
        session, aim = self._session, self._session.aim
        free = free_keys(
            session.workspace, aim.app, aim.layer, self._name(key.run or ""), 2, checked=session.checked
        )
        choices = variant_choices(key, self.seats(), free)
        return {words: with_variant(key, *choice) for words, choice in choices.items()}

    def bind(self, key: KeyBinding) -> bool:
        """Bind a key as it stands, in the aimed layer."""
        return self._session.do(Bind(self._session.aim.layer, self._session.aim.app, key))

    # Suggesting

    def suggest_for(self, entry: Match) -> bool:
        """Look for the best free keys for a command or macro; says why when there are none to be had."""
        session, aim = self._session, self._session.aim
        try:
            found = suggest(
                session.workspace, aim.app, aim.layer, entry.title, entry.id, SUGGESTED, (), session.checked
            )
        except RimecrestError as error:
            session.say(str(error))
            return False
        self.suggesting, self.suggestions = entry, found
        return True
