"""One bad message never stops the list, a folder or the start, and moving one never replaces another.

The heads are made up by a seed: what senders, dates and subjects look like, and what no program would write.
"""

from __future__ import annotations

import random
from pathlib import Path

import pytest

from rimecrest.apps.post.maildir import BIN, INBOX, SEEN, Maildir, day

SEED, MESSAGES = 28, 300
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
HEADS = ("From", "To", "Cc", "Subject", "Date", "Content-Type", "Message-ID", "References", "X" * 90)


def message(dice: random.Random) -> bytes:
    """A message as somebody might send it who means harm."""
    lines = []
    for head in dice.sample(HEADS, dice.randint(1, len(HEADS))):
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
