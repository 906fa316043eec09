"""References as they are written in formulas: kept right when cells move, and as files hold them.

A file's formulas are OpenFormula (OASIS OpenDocument 1.3, part 4).
"""

from __future__ import annotations

import re
from collections.abc import Callable

from rimecrest_standins.grid.book import column_of, letters_of

REFERENCE = re.compile(
    r"(?P<sheet>(?:'(?:[^']|'')++'|[A-Za-z_][A-Za-z0-9_]*)\.)?"
    r"(?P<fixed_column>\$?)(?P<column>[A-Za-z]{1,3})(?P<fixed_row>\$?)(?P<row>[1-9][0-9]{0,6})"
    r"(?![A-Za-z0-9_(.])"
)
_PIECES = re.compile(rf'"(?:[^"]|"")*+"|{REFERENCE.pattern}|[A-Za-z_][A-Za-z0-9_]*|.', re.DOTALL)


def sheet_name(prefix: str | None) -> str:
    """The sheet of what stands before a cell's name, `'Week 3'.` for one; empty for none."""
    name = (prefix or "").removesuffix(".")
    return name[1:-1].replace("''", "'") if name.startswith("'") else name


def _rewritten(formula: str, change: Callable[[re.Match[str]], str]) -> str:
    return _PIECES.sub(lambda piece: change(piece) if piece["row"] else piece[0], formula)


def copied(formula: str, down: int, right: int) -> str:
    """A formula as it reads when its cell is copied so far: references go along, but for those with a $."""

    def moved(found: re.Match[str]) -> str:
        row, column = int(found["row"]) - 1, column_of(found["column"])
        row += 0 if found["fixed_row"] else down
        column += 0 if found["fixed_column"] else right
        if row < 0 or column < 0:
            return "#REF!"
        sheet = found["sheet"] or ""
        return f"{sheet}{found['fixed_column']}{letters_of(column)}{found['fixed_row']}{row + 1}"

    return _rewritten(formula, moved)


def spliced(
    formula: str, own: str, sheet: str, at: int, removed: int, added: int, columns: bool = False
) -> str:
    """A formula as it reads after rows (or columns) were taken out of a sheet at a place, or put in.

    Args:
        own: name of the formula's own sheet; `sheet`: of the one that was changed.
        at: the first row or column concerned, from 0.
    """

    def moved(found: re.Match[str]) -> str:
        if (sheet_name(found["sheet"]) or own).lower() != sheet.lower():
            return found[0]
        row, column = int(found["row"]) - 1, column_of(found["column"])
        index = column if columns else row
        if at <= index < at + removed:
            return "#REF!"
        if index >= at:
            index += added - removed
        row, column = (row, index) if columns else (index, column)
        prefix = found["sheet"] or ""
        return f"{prefix}{found['fixed_column']}{letters_of(column)}{found['fixed_row']}{row + 1}"

    return _rewritten(formula, moved)


def renamed(formula: str, old: str, new: str) -> str:
    """A formula as it reads after a sheet got another name."""

    def moved(found: re.Match[str]) -> str:
        if not found["sheet"] or sheet_name(found["sheet"]).lower() != old.lower():
            return found[0]
        return quoted_sheet(new) + found[0][len(found["sheet"]) :]

    return _rewritten(formula, moved)


def quoted_sheet(name: str) -> str:
    """A sheet's name as it stands before a cell's: `Week.` or `'Week 3'.`"""
    if re.fullmatch(r"[A-Za-z_][A-Za-z0-9_]*", name):
        return f"{name}."
    return "'" + name.replace("'", "''") + "'."


def split_reference(text: str) -> tuple[str, str]:
    """The sheet that a reference names, empty for none, and the cell or block on it."""
    found = re.fullmatch(r"([A-Za-z_][A-Za-z0-9_]*|'(?:[^']|'')*+')\.(.*)", text.strip())
    if found is None:
        return "", text.strip()
    return found[1].strip("'").replace("''", "'"), found[2]


_FOR_FILES = re.compile(
    rf'"(?:[^"]|"")*+"|(?P<first>{REFERENCE.pattern})(?:\s*:\s*(?P<last>\$?[A-Za-z]{{1,3}}\$?[0-9]+))?|.',
    re.DOTALL,
)


def to_open_formula(formula: str) -> str:
    """As a file holds it: `of:=SUM([.A1:.B2])` (section 5 of the standard)."""

    def bracketed(found: re.Match[str]) -> str:
        if not found["first"]:
            return ";" if found[0] == "," else found[0]
        one = found["first"] if found["sheet"] else f".{found['first']}"
        return f"[{one}:.{found['last']}]" if found["last"] else f"[{one}]"

    return "of:" + _FOR_FILES.sub(bracketed, formula)


_IN_FILES = re.compile(r""""(?:[^"]|"")*+"|\[((?:'(?:[^']|'')*+'|[^\]'])*+)\]""")


_NAMESPACE = re.compile(r"[A-Za-z_][\w.-]*:(?==)")
"""What says by which grammar a formula is written (OpenDocument 1.3, part 4): `of:` is ours, all are read."""


def from_open_formula(text: str) -> str:
    """A formula out of a file, as people write it."""
    body = _NAMESPACE.sub("", text)
    return _IN_FILES.sub(lambda found: found[0] if found[1] is None else _unbracketed(found[1]), body)


def _unbracketed(inner: str) -> str:
    first, *rest = inner.split(":")
    if first.startswith("."):
        first = first[1:]
    elif "." in first:
        first = first.removeprefix("$")  # a sheet that is fixed: by name they all are
    return ":".join([first, *(part.rpartition(".")[2] for part in rest)])
