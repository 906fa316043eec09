"""The benchmarks of the checks, of one edit, of memory, and of arranging: rows of `make bench`."""

from __future__ import annotations

import gc
import statistics
import time
import tracemalloc
from collections.abc import Callable

import numpy as np
from scipy.optimize import linear_sum_assignment

from estate import estate
from rimecrest.core.check.run import check
from rimecrest.core.layout.layout import KeyBinding
from rimecrest.core.suggest.arrange import Beside, assign
from rimecrest.core.workspace.edits import Bind, apply
from rimecrest.core.workspace.workspace import Workspace

BINDINGS = 100_000
TARGETS, CHORDS = 300, 2_000
ROUNDS = 9
Row = tuple[str, str, str, str]


def _pairs(action: Callable[[], object], base: Callable[[], object]) -> tuple[float, float, float]:
    """Medians of both, in seconds, and of the ratio of each pair measured in turn."""
    action(), base()
    found = []
    for _ in range(ROUNDS):
        start = time.perf_counter()
        base()
        middle = time.perf_counter()
        action()
        found.append((time.perf_counter() - middle, middle - start))
    return (
        statistics.median(pair[0] for pair in found),
        statistics.median(pair[1] for pair in found),
        statistics.median(one / other for one, other in found),
    )


def _row(what: str, against: str, action: Callable[[], object], base: Callable[[], object]) -> Row:
    took, other, ratio = _pairs(action, base)
    shown = f"{ratio:.2f} ×" if ratio >= 0.1 else f"{ratio:.4f} ×"
    return what, f"{took * 1000:,.1f} ms", shown, f"{against} ({other * 1000:,.1f} ms)"


def grouping(made: Workspace) -> Callable[[], object]:
    """The same bindings in a dict by application, context and sequence: the least that any check has to
    do."""

    def group() -> object:
        groups: dict[tuple[str, str, str], list[object]] = {}
        for (_, app), layout in made.layouts.items():
            for key in layout.keys:
                groups.setdefault((app, key.in_context, key.keys), []).append(key)
        for app, catalogue in made.catalogues.items():
            for own in catalogue.keys:
                groups.setdefault((app, own.context, own.keys), []).append(own)
        return groups

    return group


def rows() -> list[Row]:
    """The rows of the table."""
    made = estate(BINDINGS)
    count = sum(len(layout.keys) for layout in made.layouts.values())
    count += sum(len(catalogue.keys) for catalogue in made.catalogues.values())
    before = check(made)
    edited, _ = apply(made, Bind("department.d3", "app1", KeyBinding(keys="F9", run="app1:c1")))
    # The models stay for long: that garbage is searched for among them is measured on neither side.
    gc.collect()
    gc.freeze()
    found = [
        _row(
            f"check {count:,} bindings ({len(before.findings):,} findings)",
            "grouping them in a dict",
            lambda: check(made),
            grouping(made),
        ),
        _row(
            "check again after one edit", "checking all", lambda: check(edited, before), lambda: check(made)
        ),
        _memory(),
        *_arranging(),
    ]
    gc.unfreeze()
    return found


def _memory() -> Row:
    tracemalloc.start()
    begin = tracemalloc.get_traced_memory()[0]
    made = estate(BINDINGS)
    models = tracemalloc.get_traced_memory()[0] - begin
    checked = check(made)
    gc.collect()
    kept = tracemalloc.get_traced_memory()[0] - begin - models
    tracemalloc.stop()
    assert checked.cache is not None
    return (
        "memory of that check",
        f"{kept / 1e6:,.1f} MB",
        f"{kept / models:.2f} ×",
        f"its models ({models / 1e6:,.1f} MB)",
    )


def _arranging() -> list[Row]:
    chance = np.random.default_rng(20)
    cost = chance.gamma(2.0, 100.0, (TARGETS, CHORDS))
    uses = chance.gamma(1.5, 200.0, TARGETS)
    dangers = np.where(chance.random(TARGETS) < 0.05, 30.0, 0.0)
    column = np.arange(CHORDS - 1)
    pairs = np.concatenate([column, column + 1]), np.concatenate([column + 1, column])
    beside = Beside(*pairs, np.full(2 * len(column), 0.004))
    return [
        _row(
            f"arrange {TARGETS} × {CHORDS:,}",
            "the bare assignment",
            lambda: assign(cost, uses, dangers, beside),
            lambda: linear_sum_assignment(cost),
        )
    ]


if __name__ == "__main__":
    for row in rows():
        print("  ".join(row))
