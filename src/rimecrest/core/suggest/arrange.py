"""Choosing the keys of many targets at once.

The minimum total of use × cost over all targets, pinned ones kept, is a linear assignment of targets to free
chords (`scipy.optimize.linear_sum_assignment`, after Jonker and Volgenant, Computing 38, 1987). What chosen
keys do to one another, a slip from a much used one onto a dangerous one, is not linear: it is mended by moves
and swaps, as long as one helps. The same input always gives the same answer.
"""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray
from scipy.optimize import linear_sum_assignment

from rimecrest.core.check.run import Checked
from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.chords import parse_sequence
from rimecrest.core.layout.layout import KeyBinding
from rimecrest.core.suggest import never
from rimecrest.core.suggest.free_keys import Choice
from rimecrest.core.words import counted, tr
from rimecrest.core.workspace.edits import Edit, Rebind
from rimecrest.core.workspace.workspace import Workspace

Numbers = NDArray[np.float64]
Whole = NDArray[np.intp]
WITHOUT_COUNT = 10
"""Uses in thirty days that a target counts with where nothing is known: one every third day. Ours."""
ROUNDS = 50
"""Sweeps of moves and swaps at most; two or three are usual."""


class Move(Struct, frozen=True):
    """One target of an arrangement: its key before (empty when it had none) and after, and its uses."""

    identity: str
    name: str
    run: str
    before: str
    after: str
    uses: int
    pinned: bool = False

    @property
    def moves(self) -> bool:
        return self.before != self.after


class Arrangement(Struct, frozen=True):
    """A choice of keys for all of a layer's targets; costs are in seconds a month, of all colleagues."""

    moves: tuple[Move, ...]
    cost_now: float
    cost: float
    cost_in_order: float
    """What it would cost had each target in turn taken the best key that was left."""

    @property
    def gain(self) -> float:
        return self.cost_now - self.cost

    def edit(self, layer: str, app: str) -> Edit:
        """The edit that takes it over."""
        return Rebind(layer, app, tuple((move.identity, move.after) for move in self.moves if move.moves))


def arrange(
    workspace: Workspace,
    app: str,
    layer: str,
    pinned: Iterable[str] = (),
    checked: Checked | None = None,
) -> Arrangement:
    """The best keys for all that a layer binds in an application.

    Args:
        pinned: identities of the keys that stay where they are. Keys that take something away, and those with
            variants, always stay.

    Raises:
        RimecrestError: the layer has no keys to arrange.
    """
    layout = workspace.layout(layer, app)
    stay = set(pinned)
    arrangeable = [key for key in layout.keys if key.run is not None and not key.on]
    movable = [key for key in arrangeable if key.identity not in stay]
    choice = Choice(workspace, app, layer, checked)
    if not movable and arrangeable:
        return Arrangement(_moves(choice, layout.keys, {}), 0.0, 0.0, 0.0)
    if not movable:
        raise RimecrestError(
            tr("There are no keys here to arrange."),
            tr("Give keys to some commands first, or take a pin out."),
        )
    texts, base = _matrix_columns(choice, layout.keys, movable)
    uses = np.array([_uses(workspace, app, key.run) for key in movable], dtype=float)
    memory = np.stack([_memory(choice, texts, key) for key in movable])
    cost = uses[:, None] * (base[None, :] - memory) + _too_easy(choice, texts, movable)
    dangers = np.array([_danger(choice, key.run) for key in movable])
    slips = _slip_pairs(choice, texts)
    chosen, _ = assign(cost, uses, dangers, slips)
    now = np.array([texts.index(key.keys) for key in movable])
    in_order = _in_order(cost, np.argsort(-uses, kind="stable"))
    if _total(cost, now, uses, dangers, slips) <= _total(cost, chosen, uses, dangers, slips) + 1e-9:
        chosen = now
    after = {key.identity: texts[column] for key, column in zip(movable, chosen, strict=True)}
    return Arrangement(
        _moves(choice, layout.keys, after),
        _total(cost, now, uses, dangers, slips),
        _total(cost, chosen, uses, dangers, slips),
        _total(cost, in_order, uses, dangers, slips),
    )


def _moves(choice: Choice, keys: Iterable[KeyBinding], after: dict[str, str]) -> tuple[Move, ...]:
    """Every key with where it goes; what has no place in `after` stays."""
    return tuple(
        Move(
            key.identity,
            choice.table.name(key.run),
            key.run,
            key.keys,
            after.get(key.identity, key.keys),
            _uses(choice.workspace, choice.table.app, key.run),
            key.identity not in after,
        )
        for key in keys
        if key.run is not None
    )


NEVER = 1e9
"""Seconds a month that nothing else can make up for."""


def _too_easy(choice: Choice, texts: list[str], movable: list[KeyBinding]) -> Numbers:
    """What keeps a perilous target off a key pressed before one has thought; where it is, it may stay.

    Rows × columns, in seconds a month.
    """
    easy = np.array([never.easy(parse_sequence(text)) for text in texts])
    found = np.zeros((len(movable), len(texts)))
    for row, key in enumerate(movable):
        if never.perilous(choice.table, key.run):
            found[row] = np.where(easy, NEVER, 0.0)
            found[row, texts.index(key.keys)] = 0.0
    return found


def _matrix_columns(
    choice: Choice, keys: Iterable[KeyBinding], movable: list[KeyBinding]
) -> tuple[list[str], Numbers]:
    """The sequences that can be chosen, free ones and those that the movable keys give up, and their cost."""
    free = choice.free()
    staying = {key.keys for key in keys} - {key.keys for key in movable}
    texts = [choice.bank.texts[index] for index in free]
    bank = choice.bank
    costs = [
        bank.reach[index] + bank.modifiers[index] + slip
        for index, slip in zip(free, choice.slips(free), strict=True)
    ]
    known = {text: index for index, text in enumerate(choice.bank.texts)}
    for key in movable:
        if key.keys in texts or key.keys in staying:
            continue
        texts.append(key.keys)
        at = known.get(key.keys)
        if at is None:
            # A sequence that would never be suggested is as dear as the dearest.
            costs.append(max(costs, default=1.0))
        else:
            costs.append(bank.reach[at] + bank.modifiers[at] + choice.slips([at])[0])
    return texts, np.array(costs)


def _uses(workspace: Workspace, app: str, run: str | None) -> int:
    known = workspace.habits.uses(app, run)
    return WITHOUT_COUNT if known is None else max(1, known)


def _memory(choice: Choice, texts: list[str], key: KeyBinding) -> Numbers:
    worth = choice.letter_worth(choice.table.name(key.run))
    same = choice.elsewhere(key.run)
    return np.array(
        [
            worth.get(parse_sequence(text)[-1].key, 0.0)
            + (choice.constants.elsewhere if text in same else 0.0)
            for text in texts
        ]
    )


def _danger(choice: Choice, run: str | None) -> float:
    constants = choice.constants
    kind = choice.table.danger(run)
    return {"deletes": constants.slip_deletes, "sends": constants.slip_sends}.get(kind, 0.0)


class Beside(Struct, frozen=True):
    """Which columns lie beside which: entry by entry a column, one beside it, and the probability of hitting
    that one instead. All three have the same length."""

    columns: Whole
    others: Whole
    chances: Numbers


def _slip_pairs(choice: Choice, texts: list[str]) -> Beside:
    at = {text: column for column, text in enumerate(texts)}
    entries = [
        (column, at[other], chance)
        for column, text in enumerate(texts)
        for other, chance in choice.table.estate.beside(text).items()
        if other in at
    ]
    columns, others, chances = zip(*entries, strict=True) if entries else ((), (), ())
    return Beside(np.array(columns, np.intp), np.array(others, np.intp), np.array(chances, float))


def assign(cost: Numbers, uses: Numbers, dangers: Numbers, beside: Beside) -> tuple[Whole, float]:
    """The best column for each row.

    Args:
        cost: rows × columns, at least as many columns as rows; seconds a month.
        uses: of each row, a month.
        dangers: what hitting each row's key by mistake costs, in seconds; 0 for a plain one.
        beside: which columns lie beside which.

    Returns:
        The column of each row, and the total in seconds a month.

    Raises:
        RimecrestError: there are fewer columns than rows.
    """
    if cost.shape[0] > cost.shape[1]:
        raise RimecrestError(
            tr(
                "{keys} cannot serve {things}.",
                keys=counted(cost.shape[1], "free key"),
                things=counted(cost.shape[0], "thing"),
            ),
            tr("Take some keys away, or pin some."),
        )
    _, columns = linear_sum_assignment(cost)
    chosen = np.array(columns)
    total = _total(cost, chosen, uses, dangers, beside)
    risky = np.flatnonzero(dangers).tolist()
    for _ in range(ROUNDS if risky else 0):
        before = total
        exposed = _exposed(cost.shape[1], chosen, uses, beside)
        for row in risky:
            better = _better(row, chosen, exposed, cost, uses, dangers, beside)
            if better is None or (least := _total(cost, better, uses, dangers, beside)) >= total - 1e-9:
                continue
            chosen, total = better, least
            exposed = _exposed(cost.shape[1], chosen, uses, beside)
        if total == before:
            break
    return chosen, total


def _exposed(columns: int, chosen: Whole, uses: Numbers, beside: Beside) -> Numbers:
    """How often a month each column is hit by mistake for one beside it."""
    used = np.zeros(columns)
    used[chosen] = uses
    hits = np.bincount(beside.columns, beside.chances * used[beside.others], columns)
    return hits.astype(float, copy=False)


def _better(
    row: int,
    chosen: Whole,
    exposed: Numbers,
    cost: Numbers,
    uses: Numbers,
    dangers: Numbers,
    beside: Beside,
) -> Whole | None:
    """The columns with one dangerous row moved or swapped to where it seems to cost least; None: it stays."""
    here = int(chosen[row])
    # What slips onto this row would cost, wherever it stood: its own uses do not hit itself.
    own = np.flatnonzero(beside.others == here)
    hits = exposed.copy()
    hits[beside.columns[own]] -= beside.chances[own] * uses[row]
    onto = dangers[row] * hits
    change = cost[row] - cost[row, here] + onto - onto[here]
    # Where another row stands, the two would swap.
    swapping = cost[:, here] - cost[np.arange(len(chosen)), chosen]
    swapping[row] = 0.0
    change[chosen] += swapping
    best = int(np.argmin(change))
    if change[best] >= -1e-9 or best == here:
        return None
    found = chosen.copy()
    found[found == best] = here
    found[row] = best
    return found


def _total(cost: Numbers, chosen: Whole, uses: Numbers, dangers: Numbers, beside: Beside) -> float:
    used, danger = np.zeros(cost.shape[1]), np.zeros(cost.shape[1])
    used[chosen] = uses
    danger[chosen] = dangers
    slipping = float((danger[beside.columns] * used[beside.others] * beside.chances).sum())
    return float(cost[np.arange(len(chosen)), chosen].sum()) + slipping


def _in_order(cost: Numbers, order: Whole) -> Whole:
    """What comes out when each in turn takes the best that is left."""
    left = np.ones(cost.shape[1], dtype=bool)
    chosen = np.zeros(len(order), dtype=np.intp)
    for row in order:
        column = int(np.argmin(np.where(left, cost[row], np.inf)))
        chosen[row] = column
        left[column] = False
    return chosen
