"""What mutmut made and found in this folder: `names SAMPLE` prints a sample, `tell` what survived.

usage: mutants.py names SAMPLE | tell | apart FILE

`apart` tries the mutants that a file names, each in a process of its own: mutmut tries them in forks of one
process, in which tests that open windows do not work.
"""

from __future__ import annotations

import json
import os
import random
import subprocess
import sys
from collections import Counter
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

SEED = 15
SURVIVED, UNREACHED = 0, (5, 33)
"""Exit codes: all tests passed; no test reaches it."""
AT_ONCE = 2
LONGEST = 300.0
"""Seconds: a mutant whose tests take longer than that goes round for ever, which is noticed."""
NOTICED = 1
WINDOW_TESTS = (
    "undo",
    "demo_macros",
    "observed_effects",
    "embedded_macros",
    "pointing",
    "outside",
    "example",
)
MORE_WINDOW_TESTS = ("run_and_undo", "leaving", "panels", "window")
"""Of `tests/kit`, those of what runs and undoes macros: the quick ones first."""


def exits() -> dict[str, int | None]:
    """Mutant → how its tests ended; None: not tried."""
    found: dict[str, int | None] = {}
    for path in sorted(Path("mutants").rglob("*.meta")):
        found |= json.loads(path.read_text("utf-8"))["exit_code_by_key"]
    return found


def tried_apart(mutant: str, shown: bool = False) -> int:
    """How the tests of windows end with a mutant in place of what it was made of."""
    tests = [f"tests/kit/test_{name}.py" for name in (*WINDOW_TESTS, *MORE_WINDOW_TESTS)]
    environment = {**os.environ, "MUTANT_UNDER_TEST": mutant, "PYTHONPATH": "src"}
    command = [sys.executable, "-m", "pytest", "-x", "-q", "-p", "no:cacheprovider", *tests]
    try:
        return subprocess.run(
            command, cwd="mutants", env=environment, capture_output=not shown, timeout=LONGEST, check=False
        ).returncode
    except subprocess.TimeoutExpired:
        return NOTICED


def tell(tried: dict[str, int]) -> None:
    """Print which survived, and the figures."""
    for name, code in tried.items():
        if code == SURVIVED or code in UNREACHED:
            print(name)
    totals: dict[str, Counter[bool]] = {}
    for name, code in tried.items():
        package = ".".join(name.split(".")[:3])
        totals.setdefault(package, Counter())[code != SURVIVED and code not in UNREACHED] += 1
    for package, counts in totals.items():
        print(f"{package}: {counts[True]} of {counts.total()} killed, {counts[True] / counts.total():.0%}")


def main(arguments: list[str]) -> None:
    """Print the names, or the figures."""
    match arguments:
        case ["names", sample]:
            names = sorted(exits())
            print("\n".join(random.Random(SEED).sample(names, min(int(sample), len(names)))))
        case ["apart", file]:
            names = Path(file).read_text("utf-8").split()
            # Nothing is shown by what dies while the code is as it was.
            if tried_apart("none", shown=True) != SURVIVED:
                sys.exit("The tests do not pass with the code as it is.")
            with ThreadPoolExecutor(AT_ONCE) as pool:
                tell(dict(zip(names, pool.map(tried_apart, names), strict=True)))
        case _:
            tell({name: code for name, code in exits().items() if code is not None})


if __name__ == "__main__":
    main(sys.argv[1:])
