"""Marks of brands are never offered and never frozen, whatever their name."""

from __future__ import annotations

from rimecrest.core.release.pictures import _characters, _denied, freeze, picture_names
from rimecrest.core.search import Match, Search

CODES = """
F021B F021C F0227 F0228 F022C F022D F102C F102D F1034 F1035 F103D F103E F024E F07D0 F03F3 F118F
""".split()  # noqa: SIM905


def test_no_denied_code_is_offered_under_any_name() -> None:
    codes = {int(code, 16) for code in CODES}
    assert codes <= _denied()
    offered = picture_names()
    assert len(offered) > 3000
    assert [name for name in offered if _characters()[name] in codes] == []


def test_a_denied_picture_is_neither_offered_nor_frozen_under_its_name() -> None:
    denied = [name for name, code in _characters().items() if code in _denied()]
    assert len(denied) >= len(_denied()) == 20
    assert not set(denied) & set(picture_names())
    assert [name for name in denied if freeze(name) is not None] == []


def test_plain_things_stay() -> None:
    assert {"file-outline", "ferry", "format-pilcrow", "phone", "cog"} <= set(picture_names())


def test_ferry_finds_ferries_and_no_cogs() -> None:
    search = Search(Match("picture", name, name.replace("-", " ")) for name in picture_names())
    found = [match.id for match in search.find("ferry", 20)]
    assert found[0] == "ferry"
    assert not [name for name in found if "cog" in name]


MARKED = tuple(
    f"{family}.file-{begin}" for family in ("solid", "open") for begin in ("exc", "pow", "pdf", "wo")
)
"""How the names of files begin that bear the mark of a program's format."""


def test_of_the_further_sets_no_mark_is_offered() -> None:
    marks = [name for name in _characters() if name.startswith(MARKED)]
    assert len(marks) == len(MARKED)
    assert not set(marks) & set(picture_names())
    assert [name for name in marks if freeze(name) is not None] == []
    assert "solid.file-circle-exclamation" in picture_names()
