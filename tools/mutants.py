"""What mutmut made and found in this folder: `names SAMPLE` prints a sample, `tell` what survived.

usage: mutants.py names SAMPLE | tell
"""

from __future__ import annotations

import json
import random
import sys
from collections import Counter
from pathlib import Path

SEED = 15
SURVIVED, UNREACHED = 0, (5, 33)
"""Exit codes: all tests passed; no test reaches it."""


def exits() -> dict[str, int | None]:
    """Mutant → how its tests ended; None: not tried."""
    found: dict[str, int | None] = {}
    for path in sorted(Path("mutants").rglob("*.meta")):
        found |= json.loads(path.read_text("utf-8"))["exit_code_by_key"]
    return found


def main(arguments: list[str]) -> None:
    """Print the names, or the figures."""
    if arguments[0] == "names":
        names = sorted(exits())
        print("\n".join(random.Random(SEED).sample(names, min(int(arguments[1]), len(names)))))
        return
    tried = {name: code for name, code in exits().items() if code is not None}
    for name, code in tried.items():
        if code == SURVIVED or code in UNREACHED:
            print(name)
    totals: dict[str, Counter[bool]] = {}
    for name, code in tried.items():
        package = ".".join(name.split(".")[:3])
        totals.setdefault(package, Counter())[code != SURVIVED and code not in UNREACHED] += 1
    for package, counts in totals.items():
        print(f"{package}: {counts[True]} of {counts.total()} killed, {counts[True] / counts.total():.0%}")


if __name__ == "__main__":
    main(sys.argv[1:])
