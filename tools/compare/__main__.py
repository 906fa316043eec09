"""Compare what this version of the program answers with what it answered at an earlier commit.

usage: python tools/compare [--keep FOLDER]

Builds the wheels of both, draws workspaces by fixed seeds, asks both versions the same questions in a process
each, and prints every answer that differs. Outcomes, findings, *why*, news and packages are compared byte for
byte, the pictures of the stage pixel for pixel. Ends with 1 where anything differs.
"""

from __future__ import annotations

import argparse
import difflib
import os
import subprocess
import sys
import tempfile
from collections import Counter
from collections.abc import Iterator
from itertools import islice
from pathlib import Path

BASE = "43204cc76f21f3b21551e00c4cc8fd8495b6a7d1"
"""The commit to compare with. It has the workspaces and the adapter that go with it."""
COUNT = 50
"""Workspaces."""
ROOT = Path(__file__).resolve().parents[2]
SHOWN = 12
"""Lines of one difference that are printed."""


def source_of_base(folder: Path) -> Path:
    """The source as it was at the commit.

    Raises:
        CalledProcessError: the clone does not have the commit and cannot fetch it.
    """
    if subprocess.run(["git", "cat-file", "-e", BASE], cwd=ROOT, check=False).returncode:
        subprocess.run(["git", "fetch", "--quiet", "--unshallow"], cwd=ROOT, check=True)
    archive = subprocess.run(["git", "archive", BASE], cwd=ROOT, check=True, capture_output=True).stdout
    folder.mkdir(parents=True)
    subprocess.run(["tar", "-x"], cwd=folder, input=archive, check=True)
    return folder


def installed(source: Path, folder: Path) -> Path:
    """A folder with the program of a source installed in it, from its wheel."""
    pip = [sys.executable, "-m", "pip", "--quiet", "--disable-pip-version-check"]
    wheels = folder / "wheels"
    build = [*pip, "wheel", "--no-deps", "--no-build-isolation", "--wheel-dir", str(wheels), str(source)]
    subprocess.run(build, check=True)
    wheel = next(wheels.glob("*.whl"))
    subprocess.run([*pip, "install", "--no-deps", "--target", str(folder / "site"), str(wheel)], check=True)
    return folder / "site"


def started(site: Path, script: Path, *arguments: object) -> subprocess.Popen[bytes]:
    """A script under one of the two programs."""
    environment = {**os.environ, "PYTHONPATH": str(site), "QT_QPA_PLATFORM": "offscreen"}
    command = [sys.executable, str(script), *map(str, arguments)]
    return subprocess.Popen(command, env=environment, cwd=site, stderr=subprocess.PIPE)


def finished(process: subprocess.Popen[bytes]) -> None:
    """Wait for a script. Ends the comparison with what it said where it failed."""
    _, said = process.communicate()
    if process.returncode:
        sys.exit(said.decode(errors="replace")[-4_000:])


def differences(before: Path, now: Path) -> Iterator[str]:
    """Every answer that differs, with the first lines of how."""
    names = {path.relative_to(side) for side in (before, now) for path in side.rglob("*") if path.is_file()}
    for name in sorted(names):
        one, other = before / name, now / name
        if not (one.is_file() and other.is_file()):
            yield f"{name}: only {'before' if one.is_file() else 'now'}"
        elif one.read_bytes() != other.read_bytes():
            lines = (
                difflib.unified_diff(one.read_text().splitlines(), other.read_text().splitlines(), n=1)
                if name.suffix == ".json"
                else iter(())
            )
            yield "\n  ".join([f"{name} differs", *islice(lines, 2, 2 + SHOWN)])


def main(folder: Path) -> int:
    base = source_of_base(folder / "source")
    before, now = installed(base, folder / "before"), installed(ROOT, folder / "now")
    workspaces = folder / "workspaces"
    finished(started(before, base / "tools/compare/workspaces.py", workspaces, COUNT))
    asked = [
        started(site, source / "tools/compare/adapter.py", workspaces, folder / "answers" / site.parent.name)
        for source, site in ((base, before), (ROOT, now))
    ]
    for process in asked:
        finished(process)
    found = list(differences(folder / "answers" / "before", folder / "answers" / "now"))
    kinds = Counter(path.suffix for path in (folder / "answers" / "now").rglob("*.*"))
    print(*found, f"{COUNT} workspaces, {kinds['.png']} pictures: {len(found)} differences.", sep="\n")
    return bool(found)


if __name__ == "__main__":
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawTextHelpFormatter)
    parser.add_argument("--keep", type=Path, help="an empty folder in which everything stays")
    kept = parser.parse_args().keep
    if kept:
        sys.exit(main(kept.resolve()))
    with tempfile.TemporaryDirectory() as temporary:
        sys.exit(main(Path(temporary)))
