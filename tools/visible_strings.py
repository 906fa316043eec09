"""Print every string that a user may see, for reading aloud: file, line, text.

usage: visible_strings.py [FOLDER …]        (without one: the whole program)

What has a blank in it and is no docstring counts as one; so does each part of a sentence with values in it.
"""

from __future__ import annotations

import ast
import re
import sys
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).parents[1] / "src"
WORDS = re.compile(r"[A-Za-z]{2,}[^=<>{}]* [^=<>{}]*[A-Za-z]{1,}")


def strings(path: Path) -> Iterator[tuple[int, str]]:
    """The visible strings of a module with their lines; values in a sentence stand as …."""
    tree = ast.parse(path.read_text("utf-8"))
    docs = {
        id(node.body[0].value)
        for node in ast.walk(tree)
        if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef) and node.body
        if isinstance(node.body[0], ast.Expr)
    }
    bare = {id(node.value) for node in ast.walk(tree) if isinstance(node, ast.Expr)}
    inside = {id(part) for node in ast.walk(tree) if isinstance(node, ast.JoinedStr) for part in node.values}
    for node in ast.walk(tree):
        if isinstance(node, ast.JoinedStr):
            parts = (str(p.value) if isinstance(p, ast.Constant) else "…" for p in node.values)
            text = "".join(parts)
        elif isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in inside:
            if id(node) in docs or id(node) in bare:
                continue
            text = node.value
        else:
            continue
        if WORDS.search(text) and "\n\n" not in text:
            yield node.lineno, text


def main() -> None:
    for folder in map(Path, sys.argv[1:] or [str(ROOT)]):
        for path in sorted(folder.rglob("*.py")):
            for line, text in sorted(strings(path)):
                print(f"{path}:{line}: {text}")


if __name__ == "__main__":
    main()
