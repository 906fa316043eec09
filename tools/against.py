"""Run the tests that are new since a commit against the source of that commit.

usage: tools/against.py COMMIT [TEST_FILE...]

A test of a repair must fail there by an assertion. The new tests are listed under three headings: "asserts"
(it fails by an assertion), "stops" (it fails in another way, such as a missing name) and "passes" (a near
miss, or a rule that held already). A test function counts once, by the first of these that its cases come to.
"""

from __future__ import annotations

import ast
import os
import shutil
import subprocess
import sys
import tempfile
from collections import defaultdict
from pathlib import Path
from xml.etree import ElementTree

ROOT = Path(__file__).resolve().parent.parent
WAITED = "rimecrest.core.errors.rimecresterror: waited "
"""How a wait of the tests on a real screen ends in vain."""
ASSERTS = ("assert", "failed: did not raise", "pytestqt.exceptions.timeouterror", "failed: timeout", WAITED)
HEADINGS = ("asserts", "stops", "passes")


def functions(text: str) -> set[str]:
    """The names of the test functions of a file."""
    return {
        node.name
        for node in ast.walk(ast.parse(text))
        if isinstance(node, ast.FunctionDef) and node.name.startswith("test_")
    }


def new_tests(commit: str, files: list[str]) -> dict[str, set[str]]:
    """File → the test functions that it has now and had not at the commit."""
    found = {}
    for path in files or sorted(str(p.relative_to(ROOT)) for p in (ROOT / "tests").rglob("test_*.py")):
        shown = subprocess.run(
            ["git", "show", f"{commit}:{path}"], cwd=ROOT, capture_output=True, text=True, check=False
        )
        before = functions(shown.stdout) if shown.returncode == 0 else set()
        if new := functions((ROOT / path).read_text(encoding="utf-8")) - before:
            found[path] = new
    return found


def came_to(case: ElementTree.Element) -> str:
    """The heading of one case of the report."""
    faults = [fault for fault in case if fault.tag in ("failure", "error")]
    if not faults:
        return "passes"
    message = (faults[0].get("message") or "").lower()
    return "asserts" if message.startswith(ASSERTS) else "stops"


def run(source: Path, path: str, names: set[str]) -> dict[str, str]:
    """Test function → its heading, for one file."""
    report = source / "report.xml"
    report.unlink(missing_ok=True)
    environment = {**os.environ, "PYTHONPATH": f"{source / 'src'}{os.pathsep}{source}"}
    nodes = [f"{path}::{name}" for name in sorted(names)]
    command = [
        sys.executable,
        "-m",
        "pytest",
        "-n",
        "2",
        "-m",
        "",
        "--timeout",
        "60",
        "--junitxml",
        str(report),
        *nodes,
    ]
    subprocess.run(command, cwd=source, env=environment, capture_output=True, check=False)
    found: dict[str, set[str]] = defaultdict(set)
    if report.is_file():
        for case in ElementTree.parse(report).getroot().iter("testcase"):
            found[(case.get("name") or "").partition("[")[0]].add(came_to(case))
    return {name: next((h for h in HEADINGS if h in found.get(name, ())), "stops") for name in names}


def main(commit: str, files: list[str]) -> None:
    with tempfile.TemporaryDirectory() as folder:
        source = Path(folder) / "source"
        subprocess.run(
            ["git", "worktree", "add", "--quiet", "--detach", str(source), commit], cwd=ROOT, check=True
        )
        try:
            shutil.rmtree(source / "tests")
            shutil.copytree(ROOT / "tests", source / "tests")
            told: dict[str, list[str]] = {heading: [] for heading in HEADINGS}
            for path, names in new_tests(commit, files).items():
                for name, heading in sorted(run(source, path, names).items()):
                    told[heading].append(f"{path}::{name}")
        finally:
            subprocess.run(["git", "worktree", "remove", "--force", str(source)], cwd=ROOT, check=True)
    for heading, tests in told.items():
        print(f"{heading}: {len(tests)}", *tests, sep="\n  ")


if __name__ == "__main__":
    main(sys.argv[1], sys.argv[2:])
