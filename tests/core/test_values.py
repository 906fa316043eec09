"""Values that are compared by some of their fields."""

from __future__ import annotations

import operator

from msgspec.structs import replace

from rimecrest.core.macro.steps import Do, Say
from rimecrest.core.search import Match


def test_two_that_differ_in_what_is_left_out_are_equal() -> None:
    one, other = Do("embolden", line=3, column=1), Do("embolden", line=9, column=5)
    assert one == other
    assert operator.ne(one, other) is False
    assert hash(one) == hash(other)
    assert (other.line, other.column) == (9, 5)
    assert len({one, other, Do("slant")}) == 2


def test_two_that_differ_in_any_other_field_or_in_kind_are_not() -> None:
    one = Do("embolden")
    assert one != replace(one, muted=True)
    assert operator.eq(one, replace(one, comment="why")) is False
    assert one != Do("slant")
    assert Say("embolden") != one
    assert one != "embolden"


def test_what_a_row_does_when_it_is_taken_is_not_compared() -> None:
    row = Match("command", "embolden", "Bold")
    assert replace(row, action=print) == row
    assert replace(row, stays=True) != row
