"""What the rules about keys look at: the index of one application, its audience, and names for people."""

from __future__ import annotations

from collections.abc import Iterable

from rimecrest.core.catalogue.catalogue import Catalogue, Effect, OwnKey
from rimecrest.core.check.audience import Audience
from rimecrest.core.check.findings import EVERYDAY, Finding, Owner
from rimecrest.core.check.index import Claim, KeyIndex
from rimecrest.core.check.macro_faults import MacroFaults
from rimecrest.core.effort.constants import usable
from rimecrest.core.effort.slips import SHIFT_SLIP, neighbours
from rimecrest.core.keys.bindings import Strength, strength_of
from rimecrest.core.keys.chords import MODIFIERS, Chord, format_chord, parse_sequence
from rimecrest.core.keys.keyboards.national import keyboard, known_keyboards
from rimecrest.core.keys.obstacles import Obstacle, Obstacles
from rimecrest.core.keys.traits import Traits
from rimecrest.core.layout.faces import Targets
from rimecrest.core.layout.seen import BUILT_IN
from rimecrest.core.macro.check import effects
from rimecrest.core.workspace.habits import OwnKey as OwnMadeKey
from rimecrest.core.workspace.workspace import Workspace

Meaning = str | tuple[str, tuple[tuple[str, str], ...]]
DANGEROUS = frozenset((Effect.DELETES, Effect.SENDS))


class EstateView:
    """What is the same for every application while people and settings stay the same."""

    def __init__(self, workspace: Workspace) -> None:
        self.audience = Audience(workspace)
        self.obstacles = Obstacles(workspace.settings.reserved, self.audience.profiles)
        self.boards = tuple(code for code in self.audience.keyboards if code in known_keyboards())
        unsure = any(map(self.unsure, self.audience.keyboards))
        self.possible = known_keyboards() if unsure else self.boards
        """The keyboards that a seat may have: all that are known, where one's is not."""
        seats = sum(self.audience.keyboards.get(code, 0) for code in self.boards)
        self.share = {code: self.audience.keyboards[code] / seats for code in self.boards}
        """Keyboard → its share of the seats whose keyboard is known."""
        self._sigma = usable(workspace.settings.constants).sigma
        self._aliases: dict[str, tuple[str, ...]] = {}
        self._obstacles: dict[tuple[str, bool], list[tuple[Traits, Obstacle]]] = {}
        self._beside: dict[str, dict[str, float]] = {}

    @staticmethod
    def unsure(keyboard: str) -> bool:
        """Whether a seat with this in its column may have any keyboard."""
        return bool(keyboard) and keyboard not in known_keyboards()

    def aliases(self, text: str) -> tuple[str, ...]:
        """The sequences that are the same keystrokes as this one on some keyboard of the audience."""
        found = self._aliases.get(text)
        if found is None:
            # Letters and names are one key everywhere; digits are by position; only symbols can meet them.
            if all(part[-1].isalnum() for part in text.split(", ")):
                texts: set[str] = set()
            else:
                sequence = parse_sequence(text)
                same = (keyboard(code).canonical_sequence(sequence) for code in self.possible)
                texts = {", ".join(map(format_chord, other)) for other in same if other} - {text}
            found = self._aliases[text] = tuple(sorted(texts))
        return found

    def obstacles_of(self, text: str, typing: bool) -> list[tuple[Traits, Obstacle]]:
        """What stands in the way of a sequence, on which kinds of seats of the audience."""
        known = self._obstacles.get((text, typing))
        if known is None:
            known = self._obstacles[text, typing] = self.obstacles.among(parse_sequence(text), typing)
        return known

    def slips(self, text: str) -> dict[str, float]:
        """Sequence pressed by mistake instead of this one -> its probability: a key beside it, or Shift."""
        *begin, last = parse_sequence(text)
        held = tuple(name for name in MODIFIERS if name in {*last.mods} ^ {"Shift"})
        shifted = ", ".join(map(format_chord, (*begin, Chord(held, last.key))))
        return {**self.beside(text), shifted: SHIFT_SLIP}

    def beside(self, text: str) -> dict[str, float]:
        """Sequence beside it with the same modifiers → probability of hitting that one instead.

        The mean over the keyboards of the audience, weighted by seats.
        """
        known = self._beside.get(text)
        if known is None:
            known = self._beside[text] = {}
            *begin, last = parse_sequence(text)
            for code in self.boards:
                board = keyboard(code)
                key = board.key_for(last.key)
                for other, chance in neighbours(board.shape, self._sigma).get(key or "", {}).items():
                    if name := board.identity(other):
                        there = ", ".join(map(format_chord, (*begin, Chord(last.mods, name))))
                        known[there] = known.get(there, 0.0) + chance * self.share[code]
        return known


class KeyTable:
    """Everything that the rules about one application's keys may look at. No rule changes it."""

    def __init__(
        self, workspace: Workspace, app: str, estate: EstateView, index: KeyIndex, faults: MacroFaults
    ) -> None:
        self.workspace = workspace
        self.app = app
        self.estate = estate
        self.audience = estate.audience
        self.index = index
        self.macro_faults = faults
        self.catalogue: Catalogue = workspace.catalogue(app)
        self.contexts = self.catalogue.context_tree
        self.levels = (BUILT_IN, *workspace.layers)
        number = {layer: level for level, layer in enumerate(self.levels)}
        self.meets = [
            frozenset(number[name] for name in self.audience.meets(layer) if name in number)
            for layer in self.levels
        ]
        self.beneath = [
            frozenset(other for other in near if other < level) for level, near in enumerate(self.meets)
        ]
        """Level → the lower ones that some seat has together with it."""
        self._hubs = frozenset(
            level for level, near in enumerate(self.meets) if 2 * len(near) > len(self.levels)
        )
        self._joined = frozenset(
            level for level, near in enumerate(self.meets) if near - self._hubs - {level}
        )
        faces = {name: file.face for name, file in workspace.macros_of(workspace.layers).items()}
        self.targets = Targets(self.catalogue, faces)
        self.verbs = self.catalogue.verbs
        # The same few contexts, layers and targets meet again and again.
        self._relations: dict[tuple[str, str], str] = {}
        self._together: dict[
            tuple[int, int, frozenset[Traits] | None, frozenset[Traits] | None], tuple[str, ...] | None
        ] = {}
        self._apart: dict[tuple[int, int], bool] = {}
        self._narrow: dict[str, tuple[int, int]] = {}
        self._names: dict[str | None, str] = {}
        self._typing: dict[str, str] = {}
        self._dangers: dict[str, str] = {}
        self.own_keys: dict[str, list[OwnMadeKey]] = {}
        for own in workspace.habits.own_keys:
            if own.app == app:
                self.own_keys.setdefault(own.keys, []).append(own)

    def can_meet(self, levels: set[int]) -> set[int]:
        """Those of some levels that may meet another of them: all that do, and perhaps more.

        Most layers are a department's, and departments have few seats in common. So two of them that are
        neither met by nearly all others (the application, the organisation) nor joined with one that is not
        are not held against one another.
        """
        return levels if not levels.isdisjoint(self._hubs) else levels & self._joined

    def with_index(self, index: KeyIndex, workspace: Workspace) -> KeyTable:
        """The same on a changed index: layouts have changed, and nothing else."""
        made = KeyTable.__new__(KeyTable)
        made.__dict__.update(self.__dict__)  # an edit asks this of every application, and `copy` is slow
        made.__dict__.update(index=index, workspace=workspace, _apart={})
        return made

    def apart(self, one: Claim, other: Claim) -> bool:
        """Whether the layouts of two claims are for different documents, so that they never meet."""
        pair = (one.level, other.level)
        known = self._apart.get(pair)
        if known is None:
            layouts = self.workspace.layouts
            here, there = (layouts.get((self.levels[level], self.app)) for level in pair)
            known = here is not None and there is not None and here.applies.excludes(there.applies)
            self._apart[pair] = known
        return known

    def strength(self, claim: Claim) -> Strength:
        """Rules 1 to 4 of who wins, for a claim of a shared layer."""
        narrow = self._narrow.get(claim.context)
        if narrow is None:
            narrow = self._narrow[claim.context] = self.contexts.narrowness(claim.context)
        return strength_of(claim.fixed, False, narrow, claim.level)

    def relation(self, one: str, other: str) -> str:
        """How two contexts meet: "same", "nested", "ranked", or "" when they are never live together."""
        known = self._relations.get((one, other))
        if known is None:
            known = self._relations[one, other] = self.contexts.relation(one, other)
        return known

    def typing(self, context: str) -> str:
        """The context, this one or one within it, where plain keys write; empty when there is none."""
        known = self._typing.get(context)
        if known is None:
            known = self._typing[context] = self.contexts.types_in(context)
        return known

    def seats(self, one: Claim, other: Claim) -> tuple[str, ...] | None:
        """The seats on which two claims meet; None when there is no such seat."""
        if one.level and other.level and self.apart(one, other):
            return None
        key = (one.level, other.level, one.traits, other.traits)
        if key not in self._together:
            layers = frozenset((self.levels[one.level], self.levels[other.level]))
            if one.traits is None or other.traits is None:
                traits = one.traits or other.traits
            else:
                traits = one.traits & other.traits
            empty = traits is not None and not traits
            self._together[key] = None if empty else self.audience.seats(layers, traits)
        return self._together[key]

    def seats_of(self, claim: Claim, traits: Iterable[Traits] | None = None) -> tuple[str, ...] | None:
        """The seats that have a claim and one of these traits (None = any); None when no seat has."""
        having = claim.traits
        if traits is not None:
            wanted = frozenset(traits)
            having = wanted if having is None else having & wanted
        if having is not None and not having:
            return None
        return self.audience.seats(frozenset((self.levels[claim.level],)), having)

    def obstacles(self, text: str, typing: bool) -> list[tuple[Traits, Obstacle]]:
        """What stands in the way of a sequence, on which kinds of seats of the audience."""
        return self.estate.obstacles_of(text, typing)

    def faults(self, layer: str, run: str) -> str:
        """Why a key of a layer runs a macro that cannot run; empty when it can."""
        return self.macro_faults.sentence(layer, self.app, run)

    def name(self, run: str | None) -> str:
        known = self._names.get(run)
        if known is None:
            known = self._names[run] = (self.targets.face(run).name or run or "") if run else "nothing"
        return known

    def owner(self, claim: Claim) -> Owner:
        layer = self.levels[claim.level]
        key = claim.key
        identity = f"app:{key.id}" if isinstance(key, OwnKey) else f"{layer}:{key.identity}"
        return Owner(identity, layer, claim.run, self.name(claim.run), claim.args)

    def finding(self, kind: str, text: str, claim: Claim, rest: str) -> Finding:
        """What there is to say of one claim to a sequence, wherever a seat has it."""
        return Finding(
            kind=kind,
            app=self.app,
            layer=self.levels[claim.level],
            where=text,
            subject=text,
            rest=rest,
            owners=(self.owner(claim),),
            context=claim.context,
            seats=self.seats_of(claim) or (),
        )

    def layer_title(self, level: int) -> str:
        return self.workspace.layer_title(self.levels[level])

    def meaning(self, run: str | None, given: dict[str, str]) -> Meaning:
        """What a target does, wherever: the verb of a command, or the macro, with its settings."""
        said = run or ""
        verb = self.verbs.get(said) or (said if said.startswith("macro:") else said[len(self.app) + 1 :])
        return (verb, tuple(sorted(given.items()))) if given else verb

    def gravity(self, run: str | None) -> int:
        """How grave it is to displace a target: its uses a month, or EVERYDAY."""
        command = self.catalogue.by_id.get(run or "")
        if command is not None and command.everyday:
            return EVERYDAY
        return self.workspace.habits.uses(self.app, run) or 0

    def danger(self, run: str | None) -> str:
        """What makes a slip onto a target costly: `sends`, `deletes`, or nothing."""
        if run is None:
            return ""
        known = self._dangers.get(run)
        if known is None:
            known = self._dangers[run] = self._find_danger(run)
        return known

    def _find_danger(self, run: str) -> str:
        if run.startswith("macro:"):
            file = next((f for (_, name), f in self.workspace.macros.items() if f"macro:{name}" == run), None)
            if file is None:
                return ""
            others = {name: other.macro for (_, name), other in self.workspace.macros.items()}
            found = DANGEROUS & set(effects(file.macro, self.catalogue, others))
        else:
            command = self.catalogue.by_id.get(run)
            found = DANGEROUS & set(command.effects) if command else frozenset()
        return min((effect.value for effect in found), default="", key=lambda name: name != "sends")
