"""What every key of a keyboard does in one place of an application, held with some modifiers or behind an
opener.

The key bed and the map are drawn from here, and the card to hang up; who wins is
`rimecrest.core.keys.standing`.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from msgspec import Struct

from rimecrest.core.check.findings import Finding
from rimecrest.core.check.kinds import Weight
from rimecrest.core.check.run import Checked
from rimecrest.core.keys.bindings import Binding, standing
from rimecrest.core.keys.chords import MODIFIERS, Chord, Sequence, format_sequence, parse_sequence
from rimecrest.core.keys.keyboards.geometry import Geometry, geometry
from rimecrest.core.keys.keyboards.national import (
    Keyboard,
    keyboard,
    keyboard_name,
    known_keyboards,
    on_keyboard,
    spelled_on,
)
from rimecrest.core.keys.obstacles import Obstacle, Obstacles
from rimecrest.core.keys.traits import Traits
from rimecrest.core.layout.layout import KeyBinding
from rimecrest.core.layout.seen import Outcome
from rimecrest.core.words import counted, listed, tr
from rimecrest.core.workspace.workspace import Workspace

HELD_KEYS = {
    "LCTL": "Ctrl", "RCTL": "Ctrl", "LFSH": "Shift", "RTSH": "Shift", "LALT": "Alt", "LWIN": "Super",
    "RWIN": "Super",
}  # fmt: skip
"""The physical keys that hold a modifier."""


PRINTED = {
    "ESC": "Esc", "BKSP": "⌫", "TAB": "Tab", "CAPS": "Caps", "RTRN": "⏎", "LFSH": "Shift", "RTSH": "Shift",
    "LCTL": "Ctrl", "RCTL": "Ctrl", "LALT": "Alt", "RALT": "AltGr", "LWIN": "Super", "RWIN": "Super",
    "MENU": "Menu", "SPCE": "", "PRSC": "Prt", "SCLK": "Scr", "PAUS": "Pau", "INS": "Ins", "DELE": "Del",
    "HOME": "Home", "END": "End", "PGUP": "PgUp", "PGDN": "PgDn", "UP": "↑", "DOWN": "↓", "LEFT": "←",
    "RGHT": "→",
}  # fmt: skip
"""What is printed on the caps that carry no letter."""


class CapState(Struct, frozen=True):
    """One key as the bed shows it.

    `keys` is the whole sequence; `words` what it does, empty where it is free; `layer` who says so; `taken`
    who takes it before the application; `missing` the keyboards of the audience that cannot type it; `opens`
    how many sequences go on from it.
    """

    key: str
    legend: str
    keys: str = ""
    words: str = ""
    layer: str = ""
    run: str | None = None
    identity: str = ""
    taken: str = ""
    missing: tuple[str, ...] = ()
    opens: int = 0
    finding: Finding | None = None

    @property
    def free(self) -> bool:
        return bool(self.keys) and not (self.words or self.taken or self.missing or self.opens)

    @property
    def weight(self) -> Weight | None:
        return self.finding.weight if self.finding else None


class Line(Struct, frozen=True):
    """One line about a key: good (None), or as grave as a finding."""

    weight: Weight | None
    sentence: str
    finding: Finding | None = None


class BedView:
    """The keys of one layer, or of one seat, in one context of an application.

    Args:
        outcome: what is laid out: the draft, or what a seat has installed.
        layer: the layer that is being edited; its findings are marked.
        audience: the traits of the seats concerned.
        board: the keyboard that is shown.
    """

    def __init__(
        self,
        workspace: Workspace,
        checked: Checked,
        app: str,
        layer: str,
        outcome: Outcome,
        context: str,
        audience: Iterable[Traits],
        board: str,
    ) -> None:
        self.workspace = workspace
        self.app = app
        self.layer = layer
        self.context = context
        self.board: Keyboard = keyboard(board if board in known_keyboards() else "gb")
        self.catalogue = workspace.catalogue(app)
        self.contexts = self.catalogue.context_tree
        self.outcome = outcome
        self.audience = tuple(sorted(set(audience)))
        live = self.contexts.live([context])
        bindings = on_keyboard(outcome.bindings, self.board.code)
        self._table = standing(bindings, live, self.contexts)
        self._begins: dict[Sequence, int] = {}
        for sequence, binding in self._table.items():
            if binding.run is not None:
                for length in range(1, len(sequence)):
                    begin = sequence[:length]
                    self._begins[begin] = self._begins.get(begin, 0) + 1
        self._targets = workspace.targets(workspace.layers, app)
        self._obstacles = Obstacles(workspace.settings.reserved, self.audience)
        self._typing = bool(self.contexts.types_in(context))
        self._findings: dict[str, Finding] = {}
        for finding in checked.findings:
            if finding.app == app and finding.layer == layer:
                known = {finding.where, *(part for owner in finding.owners for part in _keys_of(owner.id))}
                for where in known:
                    self._findings.setdefault(where, finding)

    @property
    def geometry(self) -> Geometry:
        """The keys to draw: with the keypad where a layer has bound something on it."""
        bound = [sequence for sequence, binding in self._table.items() if binding.level]
        pad = any(chord.key.startswith("KP_") for sequence in bound for chord in sequence)
        return geometry(self.board.shape, pad)

    @property
    def boards(self) -> tuple[str, ...]:
        """The keyboards of the audience that are known."""
        return tuple(sorted({t.keyboard for t in self.audience if t.keyboard in known_keyboards()}))

    def openers(self) -> list[Sequence]:
        """The chords behind which there are sequences here, the application's own opener first."""
        own = self.catalogue.opener
        found = sorted(self._begins, key=lambda begin: (len(begin), -self._begins[begin], begin))
        first = [parse_sequence(own)] if own else []
        return first + [begin for begin in found if begin not in first]

    def sets(self) -> list[tuple[Sequence, tuple[str, ...]]]:
        """(opener, modifiers) of every row of the map."""
        rows: list[tuple[Sequence, tuple[str, ...]]] = [
            ((), ("Ctrl",)),
            ((), ("Ctrl", "Shift")),
            ((), ("Ctrl", "Alt")),
            ((), ("Alt", "Shift")),
            ((), ("Alt",)),
        ]
        for opener in self.openers()[:2]:
            rows += [(opener, ()), (opener, ("Shift",))]
        return rows

    def caps(self, held: Iterable[str] = (), opener: Sequence = ()) -> dict[str, CapState]:
        """Physical key → how the bed shows it with these modifiers held, behind this opener."""
        mods = tuple(name for name in MODIFIERS if name in set(held))
        return {key: self.cap(key, mods, opener) for key in self.geometry.caps}

    def cap(self, key: str, mods: tuple[str, ...], opener: Sequence = ()) -> CapState:
        name, legend = self.board.identity(key), self.board.legend(key)
        if key in HELD_KEYS or not name:
            return CapState(key, legend or HELD_KEYS.get(key, ""))
        sequence = (*opener, Chord(mods, name))
        keys = format_sequence(sequence)
        bound = self._bound(sequence)
        obstacles = self.in_the_way(sequence)
        taken = [o.by for o in obstacles if o.kind == "reserved"]
        missing = [o.by for o in obstacles if o.kind == "unreachable"]
        return CapState(
            key,
            legend,
            keys,
            self._words(bound),
            bound.layer if bound else "",
            bound.run if bound else None,
            bound.id if bound else "",
            listed(taken),
            tuple(dict.fromkeys(missing)),
            self._begins.get(self._strokes(sequence), 0),
            self._findings.get(keys) if bound else None,
        )

    def _bound(self, sequence: Sequence) -> Binding | None:
        return self._table.get(self._strokes(sequence))

    def _strokes(self, sequence: Sequence) -> Sequence:
        return spelled_on(self.board.code, sequence)

    def _words(self, bound: Binding | None) -> str:
        if bound is None:
            return ""
        return self._targets.face(bound.run).name or bound.run or "" if bound.run else tr("taken away")

    def in_the_way(self, sequence: Sequence) -> list[Obstacle]:
        """What stands in the way of a sequence, on any seat of the audience; each but once."""
        found = self._obstacles.among(sequence, self._typing)
        stored = self._stored(sequence) if found else None
        if stored is not None:
            # Seats with a variant, or that go without on purpose, do not press this one.
            keys = format_sequence(sequence)
            found = [(traits, obstacle) for traits, obstacle in found if stored.on_seat(traits) == keys]
        return list(dict.fromkeys(obstacle for _, obstacle in found))

    def _stored(self, sequence: Sequence) -> KeyBinding | None:
        """The binding of a layer that has a sequence, where it has variants."""
        bound = self._bound(sequence)
        layout = self.workspace.layouts.get((bound.layer, self.app)) if bound else None
        if bound is None or layout is None:
            return None
        identity = bound.id.removeprefix(f"{bound.layer}:")
        return next((key for key in layout.keys if key.identity == identity and key.on), None)

    def key_of(self, keys: str) -> str:
        """The physical key of a sequence's last chord on the board that is shown; empty when it has none."""
        return self.board.key_for(parse_sequence(keys)[-1].key) or ""

    # In words

    def lines(self, keys: str) -> list[Line]:
        """What there is to say about a key, from the desktop to its use."""
        sequence = parse_sequence(keys)
        return [*self._reaching(sequence), *self._owning(sequence, keys), *self._using(sequence)]

    def _reaching(self, sequence: Sequence) -> Iterator[Line]:
        obstacles = self.in_the_way(sequence)
        told = {kind: self._findings.get(format_sequence(sequence)) for kind in ("reserved", "unreachable")}
        taken = [
            tr("{by} takes it first: it {does}", by=o.by, does=o.does)
            for o in obstacles
            if o.kind == "reserved"
        ]
        if taken:
            yield Line(Weight.BLOCKS, f"{listed(taken)}.", told["reserved"])
        else:
            yield Line(None, tr("No desktop here takes it."))
        missing = [o.by for o in obstacles if o.kind == "unreachable"]
        many = len(self.boards)
        if missing:
            yield Line(
                Weight.BLOCKS,
                tr("It cannot be typed on: {missing}.", missing=listed(missing)),
                told["unreachable"],
            )
        elif many > 1:
            yield Line(None, self._typable(sequence, many))
        elif many:
            yield Line(
                None,
                tr("The {board} keyboard can type it.", board=keyboard_name(self.boards[0])),
            )
        types = next((o for o in obstacles if o.kind == "types-text"), None)
        if types and types.by:
            yield Line(Weight.BLOCKS, tr("Over a remote session it types {does}.", does=types.does))
        elif types:
            yield Line(Weight.BLOCKS, tr("Alone it types text where one writes."))

    def _typable(self, sequence: Sequence, many: int) -> str:
        stored = self._stored(sequence)
        if stored is not None:
            return tr("Every keyboard has it, has another key instead, or goes without on purpose.")
        return tr("All {many} keyboards can type it.", many=many)

    def _owning(self, sequence: Sequence, keys: str) -> Iterator[Line]:
        bound = self._bound(sequence)
        finding = self._findings.get(keys)
        if finding is not None and finding.kind not in ("reserved", "unreachable", "types-text"):
            yield Line(finding.weight, finding.sentence, finding)
        elif bound is not None:
            title = self.workspace.layer_title(bound.layer)
            where = self.contexts.name(bound.context).lower()
            yield Line(
                None,
                tr("{words} has it ({title}, {where}).", words=self._words(bound), title=title, where=where),
            )
        elif count := self._begins.get(self._strokes(sequence), 0):
            yield Line(None, tr("It opens {number}.", number=counted(count, "sequence")))
        else:
            begun = next((sequence[:n] for n in range(1, len(sequence)) if self._bound(sequence[:n])), None)
            if begun:
                yield Line(
                    Weight.ASKS,
                    tr(
                        "{keys} is {words} already.",
                        keys=format_sequence(begun),
                        words=self._words(self._bound(begun)),
                    ),
                )
            else:
                yield Line(None, tr("It is free here."))
        elsewhere = [
            f"{self._targets.face(b.run).name or 'nothing'} {self.contexts.name(b.context).lower()}"
            for b in self.outcome.bindings
            if self._strokes(b.sequence) == self._strokes(sequence)
            and (bound is None or b.id != bound.id)
            and b.run
        ]
        if elsewhere and finding is None:
            yield Line(None, tr("Elsewhere it is {elsewhere}.", elsewhere=listed(elsewhere)))
        own = [k for k in self.workspace.habits.own_keys if (k.app, k.keys) == (self.app, keys)]
        if not own:
            yield Line(None, tr("No colleague has their own key here."))

    def _using(self, sequence: Sequence) -> Iterator[Line]:
        bound = self._bound(sequence)
        known = self.workspace.habits.counts.get((self.app, (bound.run or "") if bound else ""))
        if known is not None:
            basis = "" if known.counted else tr(", by your estimate")
            yield Line(
                None, tr("Used {number} in 30 days{basis}.", number=counted(known.uses, "time"), basis=basis)
            )


def _keys_of(identity: str) -> Iterator[str]:
    """The sequence in an identity such as `department.freight:key:cell:Ctrl+J, X`."""
    _, mark, rest = identity.partition(":key:")
    if mark:
        yield rest.partition(":")[2]
