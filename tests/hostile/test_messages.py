"""One bad message never stops the list, a folder or the start, and moving one never replaces another.

The heads are made up by a seed: what senders, dates and subjects look like, and what no program would write.
"""

from __future__ import annotations

import random
import re
import unicodedata
from pathlib import Path
from urllib.parse import quote

import pytest

from rimecrest_standins.post.maildir import BIN, INBOX, SEEN, Maildir
from rimecrest_standins.post.message_parts import (
    LONGEST_ADDRESS,
    addresses_in,
    checked_addresses,
    file_name,
    pairs_in,
)
from rimecrest_standins.post.received import HEADS, MOST_PARTS, day, received
from tests.hostile.seeds import SEED

MESSAGES = 300
DATES = (
    "Mon, 01 Jun 2026 10:00:00 +0000", "Mon, 01 Jun 2026 10:00:00 +999999999999999999999", "+²²",
    "Mon, 01 Jun 99999999999 10:00:00 +0000", f"Mon, {10**20} Jun 2026 10:00:00 +0000",
    "Mon, 0 Jun 0 0:0:0", "Mon, 01 Jun 2026 99:99:99 -9999", "١٢ Jun 2026 10:00", "", "\x00",
    "Mon, 01 Jun 2026 10:00:00 +-0", "T" * 500,
)  # fmt: skip
PIECES = (
    "Nora Sundby", "nora@vessry.example", "<", ">", '"', "(", ")", "=?utf-8?q?=C3?=", "=?utf-8?b?????=",
    "=?x?q?a?=", "\x00", "\udce9".encode("utf-8", "surrogateescape").decode("latin-1"), ",", ";", ":", "@",
    "\\", " ", "é", "\u202e",
)  # fmt: skip
NAMES = ("From", "To", "Cc", "Subject", "Date", "Content-Type", "Message-ID", "References", "X" * 90)


def message(dice: random.Random) -> bytes:
    """A message as somebody might send it who means harm."""
    lines = []
    for head in dice.sample(NAMES, dice.randint(1, len(NAMES))):
        value = dice.choice(DATES) if head == "Date" else "".join(dice.choices(PIECES, k=dice.randint(0, 30)))
        lines.append(f"{head}: {value}".encode())
    return dice.choice((b"\n", b"\r\n")).join(lines) + b"\n\nwords\n"


@pytest.fixture
def maildir(tmp_path: Path) -> Maildir:
    return Maildir(tmp_path / "post")


def put(maildir: Maildir, folder: str, name: str, content: bytes) -> None:
    place = maildir._place(folder) / "cur"
    place.mkdir(parents=True, exist_ok=True)
    (place / name).write_bytes(content)


def test_whatever_the_heads_are_the_list_shows(maildir: Maildir) -> None:
    dice = random.Random(SEED)
    for number in range(MESSAGES):
        put(maildir, INBOX, f"{number}:2,", message(dice))
    maildir.look(INBOX)
    keys = maildir.keys(INBOX)
    assert {str(number) for number in range(MESSAGES)} <= set(keys)
    for key in keys:
        heads = maildir.heads(INBOX, key)
        assert isinstance(heads.subject, str)
    print(f"seed {SEED}: {MESSAGES} messages")


@pytest.mark.parametrize("written", DATES)
def test_a_date_that_is_none_is_left_empty(written: str) -> None:
    found = day(written)
    assert found == "" or len(found) == len("2026-06-01 10:00")


@pytest.mark.parametrize("flags", ["", "S", "FS"])
@pytest.mark.parametrize("there", ["", "S", "RS"])
def test_moving_never_replaces_a_message_with_the_same_key(maildir: Maildir, flags: str, there: str) -> None:
    put(maildir, INBOX, f"K:2,{flags}", b"Subject: mine\n\n")
    put(maildir, BIN, f"K:2,{there}", b"Subject: there before\n\n")
    maildir.look(INBOX)
    maildir.look(BIN)
    before = len(maildir.keys(BIN))
    named = maildir.file("K", INBOX, BIN, flags)
    maildir.look(BIN)
    assert len(maildir.keys(BIN)) == before + 1
    assert maildir.heads(BIN, named).subject == "mine"
    assert maildir.heads(BIN, "K").subject == "there before"
    assert maildir.file(named, BIN, INBOX, flags + SEEN, "K") == "K"
    assert maildir.heads(INBOX, "K").subject == "mine"


@pytest.mark.parametrize("missing", ["new", "cur", "tmp"])
def test_a_folder_that_another_program_made_by_halves_is_read(maildir: Maildir, missing: str) -> None:
    for part in ("cur", "new", "tmp"):
        if part != missing:
            (maildir._place("Half") / part).mkdir(parents=True)
    put(maildir, INBOX, "one:2,", b"Subject: one\n\n")
    maildir.look(INBOX)
    assert "Half" in maildir.folders() or missing == "cur"
    assert maildir.unread(INBOX) >= 1
    if "Half" in maildir.folders():
        assert maildir.keys("Half") == []
        maildir.file("one", INBOX, "Half", "")
        assert maildir.keys("Half") == ["one"]


MARKS = (
    '"',
    ",",
    ".",
    "\\",
    "(",
    "<",
    "=?",
    "=?utf-8?q?",
    ";",
    "@",
    "a,",
    'a "',
    '\\"',
    "[",
    "'",
    "=?a?b?=?",
    "\t",
    "é",
)
ADDRESSED = ("From", "To", "Cc", "Reply-To", "Sender")
STRUCTURAL = (
    "Content-Type",
    "Content-Disposition",
    "Content-Transfer-Encoding",
    "Date",
    "Message-ID",
    "Subject",
)
WORDS = "The words of the message."


def repeated(dice: random.Random) -> bytes:
    """A message with a head of one mark, thousands of times: where a pattern goes back it takes for ever."""
    mark = dice.choice(MARKS) * dice.choice((5_000, 60_000 // 3, 60_000))
    name = dice.choice((*ADDRESSED, *STRUCTURAL))
    before = "multipart/mixed; boundary=" if name == "Content-Type" and dice.random() < 0.3 else ""
    return f"{name}: {before}{mark[:60_000]}\n\n{WORDS}\n".encode()


def nested(dice: random.Random) -> bytes:
    """A message of parts in parts, as deep as no library can follow, with words in front of them."""
    depth, kind = (
        dice.choice((3, 9, 11, 300, 3_000)),
        dice.choice(("mixed", "alternative", "related", "rfc822")),
    )
    lines = ["Content-Type: multipart/mixed; boundary=top", "", "--top", "", WORDS]
    for number in range(depth):
        inner = "message/rfc822" if kind == "rfc822" else f"multipart/{kind}; boundary=b{number}"
        lines += ["--top" if not number else f"--b{number - 1}", f"Content-Type: {inner}", ""]
        if kind == "rfc822":
            lines[-3:-2] = ["--top"] if not number else []
    return "\n".join([*lines, "inside", ""]).encode()


def many(dice: random.Random) -> bytes:
    """A message of very many parts."""
    number, head = (
        dice.choice((499, 500, 501, 3_000)),
        dice.choice(("", "Content-Type: text/html\n", "X: y\n")),
    )
    return (
        "Content-Type: multipart/mixed; boundary=b\n\n--b\n\n" + WORDS + f"\n--b\n{head}\npart" * number
    ).encode()


@pytest.mark.parametrize("number", range(120))
def test_whatever_a_message_holds_its_words_are_read(number: int) -> None:
    dice = random.Random(SEED * 3000 + number)
    content = (repeated, nested, many)[number % 3](dice)
    message = received(content)
    structural = re.match(rb"Content-(Type|Transfer|Disp)", content) and number % 3 == 0
    held = " ".join((message.plain, message.page, *(str(file.content) for file in message.files)))
    assert WORDS in (held if structural else message.plain)
    assert len(message.files) <= MOST_PARTS
    if number % 3 == 2:
        assert message.more == (content.count(b"\n--b\n") > MOST_PARTS)
    for name in (*ADDRESSED, *STRUCTURAL):
        assert len(message.head(name)) <= 2 * HEADS
        for _, address in pairs_in(message.head(name)):
            assert len(address) <= LONGEST_ADDRESS
    assert not message.day or name != "Date"


@pytest.mark.parametrize("mark", sorted({*MARKS, "nora@vessry.example", "Nora <nora@vessry.example>"}))
def test_of_very_many_addresses_none_is_lost(mark: str) -> None:
    field = ", ".join([mark.replace('"', "")] * 500 + ["Last <last@vessry.example>"])
    assert addresses_in(field)[-1] == "Last <last@vessry.example>"
    if "nora" in mark:
        assert len(checked_addresses(field)) == 501


RANGES = ((0, 32), (127, 160), (0x200B, 0x2010), (0x2028, 0x202F), (0x2060, 0x2065), (0x2066, 0x2070))
HIDING = ["\u00ad", "\ufeff", *(chr(code) for begin, end in RANGES for code in range(begin, end))]


@pytest.mark.parametrize("mark", HIDING, ids=lambda mark: f"{ord(mark):04X}")
def test_the_name_of_a_file_shows_what_it_hides(mark: str) -> None:
    for name in (f"invoice{mark}gpj.exe", f"{mark}invoice.exe", f"invoice.exe{mark}"):
        shown = file_name(name)
        assert mark not in shown
        assert shown.isprintable()
        assert shown.strip("._") not in ("", "invoice.exe") or unicodedata.category(mark) == "Cc"
    content = f"Content-Type: text/csv; name*=utf-8''x{quote(mark)}y\n\nwords".encode()
    (file,) = received(content).files
    assert mark not in file.name
