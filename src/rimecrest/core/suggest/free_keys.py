"""Free keys for a target, cheapest first, with the reasons in words.

cost = reach + modifiers + slips − memory, in seconds, as the mean over the audience's keyboards weighted by
seats (docs/conflicts.md, "Suggesting keys"; the constants and their sources are in `effort.constants`). A
sequence is free when nothing that some seat has together with this layer binds it, begins it or goes on from
it where both can be live, and when it is clear on every seat: no desktop takes it, every keyboard can type
it, it types no text.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from collections.abc import Sequence as Row
from functools import cached_property

from msgspec import Struct

from rimecrest.core.check.findings import Owner
from rimecrest.core.check.index import beginnings
from rimecrest.core.check.run import Checked, check
from rimecrest.core.check.table import KeyTable
from rimecrest.core.effort.constants import usable
from rimecrest.core.keys.chords import format_sequence, key_name, parse_sequence
from rimecrest.core.suggest import never
from rimecrest.core.suggest.bank import bank, group_of
from rimecrest.core.words import counted, listed, tr
from rimecrest.core.workspace.workspace import Workspace


class Suggestion(Struct, frozen=True):
    """A free sequence with its cost in seconds, the parts of it, and the reasons in words."""

    keys: str
    seconds: float
    reach: float
    modifiers: float
    slips: float
    memory: float
    reasons: tuple[str, ...]


class Choice:
    """What can be offered in one layer of one application, and what it costs.

    Args:
        checked: the check of this workspace, where it is at hand; else it is made.
        contexts: where the target is to be live; None for anywhere.
    """

    def __init__(
        self,
        workspace: Workspace,
        app: str,
        layer: str,
        checked: Checked | None = None,
        context: str | None = None,
    ) -> None:
        kept = checked.cache if checked is not None else None
        if kept is None or kept.workspace is not workspace:
            kept = check(workspace).cache
        assert kept is not None
        self.workspace = workspace
        self.layer = layer
        self.tables = kept.tables
        self.table: KeyTable = kept.tables[app]
        self.constants = usable(workspace.settings.constants)
        audience = kept.estate.audience
        boards = {c: n for c, n in audience.keyboards_of(layer).items() if c in kept.estate.boards} or {
            "gb": 1
        }
        seats = sum(boards.values()) or 1
        self.boards = tuple((code, number / seats) for code, number in boards.items())
        opener = self.table.catalogue.opener
        self.bank = bank((opener,) if opener else (), self.boards, self.constants)
        self.context = context
        self.level = self.table.levels.index(layer)

    def free(self, taken: Iterable[str] = (), run: str | None = None) -> list[int]:
        """Indexes into the bank of the sequences that are free and clear on every seat.

        Args:
            taken: sequences that count as bound.
            run: what it is for, where that is known.
        """
        table = self.table
        careful = never.perilous(table, run)
        bound = {text for text in table.index.buckets if self._in_the_way(text)}
        bound |= set(table.own_keys) | {format_sequence(parse_sequence(text)) for text in taken}
        begun = {shorter for text in bound for shorter in beginnings(text)}
        letters = self._access_keys()
        found = []
        for index, text in enumerate(self.bank.texts):
            if text in bound or text in begun or any(shorter in bound for shorter in beginnings(text)):
                continue
            if text in letters or any(same in bound for same in table.estate.aliases(text)):
                continue
            sequence = self.bank.sequences[index]
            if text in self._never or (careful and never.easy(sequence)):
                continue
            if not self._hindered(text) and not never.types_with_altgr(sequence, table.estate.boards):
                found.append(index)
        return found

    @cached_property
    def _never(self) -> frozenset[str]:
        """Sequences that are free and yet offered for nothing."""
        openers = never.openers(self.workspace.catalogues.values(), self.tables.values())
        return openers | never.near_perilous(self.table, self.table.meets[self.level])

    def danger_beside(self, text: str, run: str | None) -> float:
        """Expected loss, in seconds a press, by slips between a sequence and its neighbours that is grave.

        From it onto one that deletes or sends; and onto it, where what it runs does.
        """
        costs = {"deletes": self.constants.slip_deletes, "sends": self.constants.slip_sends}
        own = costs.get(self.table.danger(run), 0.0)
        return sum(
            chance * (costs.get(self.table.danger(other), 0.0) + own)
            for _, chance, other in self.neighbours(text)
            if other != run
        )

    def _in_the_way(self, text: str) -> bool:
        met = self.table.meets[self.level]
        return any(
            claim.level in met and (self.context is None or self.table.relation(claim.context, self.context))
            for claim in self.table.index.claims(text)
        )

    def _hindered(self, text: str) -> bool:
        obstacles = self.table.obstacles(text, True)
        if not obstacles:
            return False
        seats = self.table.audience.seats(frozenset((self.layer,)), frozenset(t for t, _ in obstacles))
        return seats is not None

    def _access_keys(self) -> set[str]:
        surfaces = self.workspace.surfaces(self.workspace.stack_up_to(self.layer), self.table.app)
        return {f"Alt+{item.access.upper()}" for _, item in surfaces.buttons() if item.access}

    def slips(self, free: Row[int], danger: str = "") -> list[float]:
        """Expected loss by slips, in seconds a press, of each free sequence.

        From pressing it onto a neighbour, and, where the target is itself dangerous, from the neighbours
        onto it.
        """
        costs = {"": self.constants.slip_plain, "deletes": self.constants.slip_deletes}
        costs["sends"] = self.constants.slip_sends
        found = [0.0] * len(free)
        for at, index in enumerate(free):
            for _, chance, run in self.neighbours(self.bank.texts[index]):
                found[at] += chance * costs[self.table.danger(run)]
                if danger:
                    found[at] += chance * costs[danger]
        return found

    def neighbours(self, text: str) -> Iterator[tuple[str, float, str | None]]:
        """(sequence, probability of hitting it instead, what it runs) of the bound keys beside a sequence."""
        table, met = self.table, self.table.meets[self.level]
        for beside, chance in table.estate.beside(text).items():
            runs = [claim.run for claim in table.index.claims(beside, met)]
            if runs:
                # Of several, in different contexts, the one that costs most counts.
                yield beside, chance, next((run for run in runs if table.danger(run)), runs[0])

    def memory(self, free: Row[int], label: str, run: str | None = None) -> list[float]:
        """What each free sequence saves of remembering, in seconds."""
        worth = self.letter_worth(label)
        found = [worth.get(self.bank.letters[index], 0.0) for index in free]
        same = self.elsewhere(run)
        family = self.family(label)
        for at, index in enumerate(free):
            if self.bank.texts[index] in same:
                found[at] += self.constants.elsewhere
            elif self.bank.groups[index] in family:
                found[at] += self.constants.family
        return found

    def letter_worth(self, label: str) -> dict[str, float]:
        """Key → what it is worth as an initial of a label's words."""
        initials = [key_name(word[0]) for word in remembered(label)]
        found = dict.fromkeys(initials[1:], self.constants.other_letter)
        return found | dict.fromkeys(initials[:1], self.constants.first_letter)

    def elsewhere(self, run: str | None) -> set[str]:
        """The keys that the same macro, or a command of the same verb, has in other applications."""
        if not run:
            return set()
        said = self.table.meaning(run, {})
        return {
            text
            for table in self.tables.values()
            if table is not self.table
            for text, bucket in table.index.buckets.items()
            for key in bucket.keys
            if key.run and table.meaning(key.run, {}) == said
        }

    def family(self, label: str) -> set[str]:
        """The openers and modifiers behind which this layer has things that share a word with the label."""
        words = {word for word in label.casefold().split() if len(word) > 3}
        found = set()
        for key in self.workspace.layout(self.layer, self.table.app).keys:
            if words & set(self.table.name(key.run).casefold().split()):
                found.add(group_of(parse_sequence(key.keys)))
        return found


JOINING = {"the", "a", "an", "of", "for", "to", "and", "or", "in", "on", "at", "with", "by", "from"}
"""Words whose initials nobody remembers a key by."""


def remembered(label: str) -> list[str]:
    """The words of a label that a key can be remembered by, in order."""
    words = [word for word in label.split() if word[0].isalnum()]
    return [word for word in words if word.casefold() not in JOINING] or words


def suggest(
    workspace: Workspace,
    app: str,
    layer: str,
    label: str,
    run: str | None = None,
    count: int = 10,
    taken: Iterable[str] = (),
    checked: Checked | None = None,
) -> list[Suggestion]:
    """The `count` best free sequences for a target called `label` in a layer.

    Those with a reason to remember come first, of these and of the others the cheapest.

    Args:
        run: the target, where it is known: its uses, its danger and its keys elsewhere count.
        taken: sequences not to offer, beside those that are bound.
        checked: the check of this workspace, where it is at hand.
    """
    return _suggest(Choice(workspace, app, layer, checked), label, run, count, taken)


def _suggest(
    choice: Choice, label: str, run: str | None, count: int, taken: Iterable[str] = ()
) -> list[Suggestion]:
    free = choice.free(taken, run)
    if not free:
        return []
    slips = choice.slips(free, choice.table.danger(run))
    memory = choice.memory(free, label, run)
    reach = [choice.bank.reach[index] for index in free]
    modifiers = [choice.bank.modifiers[index] for index in free]
    parts = zip(reach, modifiers, slips, memory, strict=True)
    cost = [far + held + slip - saved for far, held, slip, saved in parts]
    # The text settles what is equal, so that the same workspace always gives the same list.
    order = sorted(range(len(free)), key=lambda i: (round(cost[i], 9), choice.bank.texts[free[i]]))
    # Of the best, those that one can remember are shown first.
    shown = sorted(order[:count], key=lambda i: memory[i] <= 0)
    return [
        Suggestion(
            choice.bank.texts[free[i]],
            cost[i],
            reach[i],
            modifiers[i],
            slips[i],
            memory[i],
            _reasons(choice, free[i], label, run),
        )
        for i in shown
    ]


def _reasons(choice: Choice, index: int, label: str, run: str | None) -> tuple[str, ...]:
    """Why a key is where it is in the list, in the order of what weighs most."""
    bank = choice.bank
    text, letter = bank.texts[index], bank.letters[index]
    said = []
    initials = {key_name(word[0]): word for word in reversed(remembered(label))}
    if letter in initials:
        said.append(tr("first letter of {initials}", initials=initials[letter]))
    if text in choice.elsewhere(run):
        titles = [
            t.catalogue.title
            for t in choice.tables.values()
            if t is not choice.table and any(c.run for c in t.index.claims(text))
        ]
        said.append(tr("the same key in {titles}", titles=listed(titles)))
    elif bank.groups[index] in choice.family(label):
        said.append(tr("with its family"))
    far = bank.distance[index]
    hand = tr("the {hands} hand", hands=bank.hands[index]) if bank.hands[index] else tr("either hand")
    if far < 0.5:
        said.append(f"under {hand}")
    else:
        said.append(
            tr(
                "{distance} from where {hand} rests",
                distance="a key" if far < 1.5 else f"{far:.0f} keys",
                hand=hand,
            )
        )
    if len(choice.boards) > 1 and bank.same_place[index]:
        said.append(tr("same place on all keyboards"))
    if len(bank.sequences[index]) == 1 and len(bank.sequences[index][0].mods) > 2:
        said.append(tr("three keys held"))
    said += _slip_words(choice, text, run)
    if not choice.memory([index], label, run)[0]:
        said.append(tr("no word to remember it by"))
    return tuple(said)


def _slip_words(choice: Choice, text: str, run: str | None) -> Iterator[str]:
    habits, app = choice.workspace.habits, choice.table.app
    uses = habits.uses(app, run) or 0
    for beside, chance, other in sorted(choice.neighbours(text), key=lambda part: (-part[1], part[0])):
        danger = choice.table.danger(other)
        slips = uses * chance
        if danger:
            yield tr(
                "beside {name} ({beside}), which {danger}",
                name=choice.table.name(other),
                beside=beside,
                danger=danger,
            )
            return
        if slips >= 0.5:
            yield tr(
                "beside {name}: about {number} a month",
                name=choice.table.name(other),
                number=counted(max(1, round(slips)), "slip"),
            )
            return


def free_keys(
    workspace: Workspace,
    app: str,
    layer: str,
    label: str,
    count: int = 3,
    taken: tuple[str, ...] = (),
    checked: Checked | None = None,
) -> list[str]:
    """The keys of the `count` best suggestions for something called `label` in a layer."""
    return [one.keys for one in suggest(workspace, app, layer, label, None, count, taken, checked)]


def safe_keys(
    workspace: Workspace, app: str, layer: str, owner: Owner, now: str, count: int, checked: Checked
) -> list[str]:
    """The same for a target that has a key already: those beside which nothing graver lies.

    Args:
        owner: the target.
        now: its sequence today; empty when it has none.
    """
    choice = Choice(workspace, app, layer, checked)
    bearable = choice.danger_beside(now, owner.run) if now else 0.0
    found = (one.keys for one in _suggest(choice, owner.name, owner.run, count * 3))
    return [keys for keys in found if choice.danger_beside(keys, owner.run) <= bearable][:count]
