"""Fields of templates: what is written between double brackets, and the answers in their place."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from rimecrest.core.template_fields import (
    MOST,
    TemplateField,
    filled,
    format_values,
    parse_values,
    places,
    template_fields,
)

LETTER = (
    "Dear all of [[Vessel: Ovessa, Brinholt]], on [[Day: date]] berth [[Berth = 2]]; "
    "[[Vessel]] [[Part: from headings]]"
)


def test_each_kind_of_field_is_read_and_each_asked_once() -> None:
    assert template_fields(LETTER) == [
        TemplateField("Vessel", choices=("Ovessa", "Brinholt")),
        TemplateField("Day", is_date=True),
        TemplateField("Berth", "2"),
        TemplateField("Part", reading="headings"),
    ]


def test_where_it_is_said_what_a_field_is_counts() -> None:
    assert template_fields("[[Vessel]] and [[Vessel: A, B]]") == [TemplateField("Vessel", choices=("A", "B"))]


def test_answers_stand_in_place_and_what_has_none_stays() -> None:
    made = filled(LETTER, {"Vessel": "Ovessa", "Berth": "[[Day]]"})
    assert made.startswith("Dear all of Ovessa, on [[Day: date]] berth [[Day]]; Ovessa [[Part")


def test_what_is_no_field_stays_as_it_is() -> None:
    for text in ("[[]]", "[[ ]]", "[x]", "[[a\nb]]", "[[: date]]", "[[" + "x" * 400 + "]]"):
        assert template_fields(text) == []
        assert filled(text, {"": "x", "a": "y"}) == text


def test_a_form_has_an_end() -> None:
    assert len(template_fields(" ".join(f"[[F{n}]]" for n in range(200)))) == MOST


def test_places_are_told_with_their_names() -> None:
    text = "a [[B]] c [[D = 1]]"
    assert [text[begin:end] for begin, end, _ in places(text)] == ["[[B]]", "[[D = 1]]"]
    assert [name for _, _, name in places(text)] == ["B", "D"]


WORDS = st.text(st.characters(blacklist_categories=["Cs", "Cc"]), max_size=12).map(str.strip)


@given(st.dictionaries(WORDS.filter(bool), WORDS, max_size=5))
def test_answers_written_for_a_command_are_read_back(answers: dict[str, str]) -> None:
    assert parse_values(format_values(answers)) == answers


def test_answers_as_people_write_them() -> None:
    assert parse_values("Vessel=Ovessa; Berth = 2") == {"Vessel": "Ovessa", "Berth": "2"}
    assert parse_values(r"Sum=a\=b; Note=x\; y") == {"Sum": "a=b", "Note": "x; y"}
    assert parse_values("") == {}
    assert parse_values("no answer; =x") == {}
