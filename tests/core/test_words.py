"""Sentences: in another language, counted, listed, with their owner."""

from __future__ import annotations

import gettext
from collections.abc import Iterator
from pathlib import Path

import pytest

from rimecrest.core import words
from rimecrest.core.words import counted, listed, owned, tr, use_language

CATALOGUE = """
{name} is done. = Klaar: {name}.
{number:,} seat = {number} stoel
{number:,} seats = {number} stoelen
{names} and {last} = {names} en {last}
{names} and {number} more = {names} en nog {number}
"""


class Written(gettext.NullTranslations):
    """A language that is a list of lines."""

    def __init__(self, lines: str) -> None:
        super().__init__()
        self._known = dict(line.split(" = ") for line in lines.strip().splitlines())

    def gettext(self, message: str) -> str:
        return self._known.get(message, message)

    def ngettext(self, msgid1: str, msgid2: str, n: int) -> str:
        return self.gettext(msgid1 if n == 1 else msgid2)


@pytest.fixture
def dutch() -> Iterator[None]:
    use_language(Written(CATALOGUE))
    yield
    use_language(gettext.NullTranslations())


def test_english_needs_no_catalogue() -> None:
    assert tr("{name} is done.", name="Sailing notice") == "Sailing notice is done."
    assert tr("A {brace} without values stays.") == "A {brace} without values stays."
    assert (counted(1, "seat"), counted(1200, "seat")) == ("1 seat", "1,200 seats")
    assert counted(2, "finding blocks", "findings block") == "2 findings block"
    assert listed(["a", "b", "a"]) == "a and b"
    assert listed("abcde") == "a, b, c and 2 more"
    assert listed([]) == ""
    assert (owned("Freight desk"), owned("Quay offices")) == ("Freight desk’s", "Quay offices’")


@pytest.mark.usefixtures("dutch")
def test_another_language_is_spoken_from_then_on() -> None:
    assert tr("{name} is done.", name="Bericht") == "Klaar: Bericht."
    assert (counted(1, "seat"), counted(3, "seat")) == ("1 stoel", "3 stoelen")
    assert listed(["a", "b"]) == "a en b"
    assert listed("abcd", 2) == "a, b en nog 2"
    assert tr("Nothing was changed.") == "Nothing was changed."


def test_a_compiled_catalogue_beside_the_package_is_found(
    tmp_path: Path,
) -> None:
    import struct

    known = {"": "Content-Type: text/plain; charset=UTF-8\n", "Stay here": "Blijf hier"}
    # The format of .mo files: https://www.gnu.org/software/gettext/manual/html_node/MO-Files.html
    ids, texts = list(known), list(known.values())
    offset = 28 + 16 * len(known)
    tables, body = [], b""
    for row in (ids, texts):
        for text in row:
            raw = text.encode()
            tables.append(struct.pack("<II", len(raw), offset + len(body)))
            body += raw + b"\0"
    head = struct.pack("<7I", 0x950412DE, 0, len(known), 28, 28 + 8 * len(known), 0, 0)
    folder = tmp_path / "nl" / "LC_MESSAGES"
    folder.mkdir(parents=True)
    (folder / f"{words.DOMAIN}.mo").write_bytes(head + b"".join(tables) + body)
    assert words.spoken(tmp_path, ["de"]).gettext("Stay here") == "Stay here"
    use_language(words.spoken(tmp_path, ["de", "nl"]))
    try:
        assert tr("Stay here") == "Blijf hier"
    finally:
        use_language(gettext.NullTranslations())
