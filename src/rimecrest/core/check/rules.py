"""Every rule: which kinds of findings it yields, what it looks at, and when it has nothing to say.

One row a rule. `run.check` goes through the rows by their scope; a new rule is a function and a row here,
and, where it finds something new, a row in `kinds.KINDS`.
"""

from __future__ import annotations

from collections.abc import Callable, Container, Iterable, Iterator, Mapping
from typing import Any

from msgspec import Struct

from rimecrest.core.check import (
    access_rules,
    item_rules,
    key_rules,
    name_rules,
    never_rules,
    picture_rules,
    seat_rules,
    use_rules,
)
from rimecrest.core.check.findings import Finding
from rimecrest.core.check.item_rules import LayerView
from rimecrest.core.check.table import EstateView, KeyTable
from rimecrest.core.workspace.workspace import Workspace

KeyTables = Mapping[str, KeyTable]


def _never(_table: KeyTable) -> bool:
    return False


def _every(table: KeyTable) -> Container[str]:
    return table.index.buckets


def _use_unknown(table: KeyTable) -> bool:
    """Nothing is known of what is used in the application."""
    return table.app not in table.workspace.habits.known_apps


class SequenceRule(Struct, frozen=True):
    """About one sequence of one application; `where` are the sequences that it has something to say of."""

    kinds: tuple[str, ...]
    find: Callable[[KeyTable, str], Iterable[Finding]]
    silent: Callable[[KeyTable], bool] = _never
    where: Callable[[KeyTable], Container[str]] = _every


class LayerRule(Struct, frozen=True):
    """About the items of one layer in one application."""

    kinds: tuple[str, ...]
    find: Callable[[LayerView], Iterator[Finding]]


class AcrossRule(Struct, frozen=True):
    """About one sequence, or one macro, in all applications; `of` says of which of the two."""

    kinds: tuple[str, ...]
    find: Callable[[KeyTables, str], Iterator[Finding]]
    of: str


class ApplicationRule(Struct, frozen=True):
    """About one application as a whole."""

    kinds: tuple[str, ...]
    find: Callable[[KeyTable], Iterator[Finding]]


class EstateRule(Struct, frozen=True):
    """About people, settings and files; `of_layouts`: an edit of a layout or picture may change it too."""

    kinds: tuple[str, ...]
    find: Callable[[Workspace, EstateView], Iterator[Finding]]
    of_layouts: bool = False


Rule = SequenceRule | LayerRule | AcrossRule | ApplicationRule | EstateRule

RULES: tuple[Rule, ...] = (
    SequenceRule(("double", "prefix", "takes-over", "shadows"), key_rules.met),
    SequenceRule(("same-stroke",), key_rules.same_stroke, where=lambda table: table.index.same_stroke),
    SequenceRule(("personal",), key_rules.personal, silent=lambda table: not table.own_keys),
    SequenceRule(("reserved", "unreachable", "types-text"), seat_rules.in_the_way),
    SequenceRule(("moves-caret", "takes-caret"), seat_rules.moves_caret),
    SequenceRule(
        ("gone", "faulty", "out-of-reach"), seat_rules.targets, where=lambda table: table.index.special
    ),
    SequenceRule(("never-runs",), never_rules.never_runs),
    SequenceRule(("slip",), use_rules.slip, silent=_use_unknown),
    SequenceRule(("never-used",), use_rules.never_used, silent=_use_unknown),
    LayerRule(("gone",), item_rules.gone),
    LayerRule(("faulty",), item_rules.faulty),
    LayerRule(("faulty",), item_rules.faulty_steps),
    LayerRule(("faulty",), item_rules.unread),
    LayerRule(("faulty",), item_rules.pointed_at),
    LayerRule(("out-of-reach",), item_rules.out_of_reach),
    LayerRule(("out-of-reach",), item_rules.out_of_reach_items),
    LayerRule(("never-runs",), never_rules.items_that_never_run),
    LayerRule(("gone", "out-of-reach"), item_rules.applies_to_nothing),
    LayerRule(("adrift",), item_rules.adrift),
    LayerRule(("adrift",), item_rules.out_of_sight),
    LayerRule(("overlap",), item_rules.overlap),
    LayerRule(("nameless",), item_rules.nameless),
    LayerRule(("same-id",), item_rules.same_id),
    LayerRule(("cut-off",), item_rules.cut_off),
    LayerRule(("no-room",), item_rules.no_room),
    LayerRule(("twin",), item_rules.twin),
    LayerRule(("twin",), picture_rules.like_its_neighbour),
    LayerRule(("no-picture",), picture_rules.no_picture),
    LayerRule(("unseen-picture",), picture_rules.unseen_picture),
    AcrossRule(("two-meanings",), use_rules.two_meanings, of="sequence"),
    AcrossRule(("two-meanings",), use_rules.keys_differ, of="macro"),
    ApplicationRule(("no-key",), use_rules.much_used),
    ApplicationRule(("faulty-unused",), use_rules.faulty_unused),
    ApplicationRule(("access-key",), access_rules.access_keys),
    EstateRule(("unknown",), seat_rules.unknown),
    EstateRule(("unknown-name",), name_rules.unknown_names, of_layouts=True),
    EstateRule(("personal",), name_rules.lost_own_keys, of_layouts=True),
    EstateRule(("same-id",), item_rules.same_macro_id, of_layouts=True),
    EstateRule(("unknown-department",), seat_rules.unknown_departments),
    EstateRule(("unreadable",), item_rules.unreadable),
    EstateRule(("unused-picture",), picture_rules.unused_picture, of_layouts=True),
)


def rules_of(scope: type[Any]) -> tuple[Any, ...]:
    """The rules of one scope, in the order of the table."""
    return tuple(rule for rule in RULES if isinstance(rule, scope))
