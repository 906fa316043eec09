"""Whatever history.db is, the workspace opens: what is no history is set aside, and one begins anew."""

from __future__ import annotations

import random
import sqlite3
import zlib
from collections.abc import Callable
from contextlib import closing
from pathlib import Path

import pytest

from rimecrest.studio.shared.history import MOST_SAVES, History
from tests.hostile.seeds import SEED

PATH = "macros/organisation/greeting.steps"
ENDLESS = "WITH RECURSIVE c(x) AS (SELECT 1 UNION ALL SELECT x + 1 FROM c) SELECT COUNT(*) FROM c"
TABLES = ("contents", "saves", "changes", "notes")
VALUES = (
    "'abc'", "x'00ff'", "9e999", "-9e999", "9223372036854775807", "-1", "1.5", "NULL", "''", "x''",
    "CAST(x'ff' AS TEXT)", "hex(zeroblob(20000))", "'1'",
)  # fmt: skip
COLUMNS = (
    ("contents", "digest"), ("contents", "packed"), ("saves", "at"), ("saves", "label"), ("saves", "kind"),
    ("changes", "save"), ("changes", "path"), ("changes", "before"), ("changes", "after"), ("notes", "name"),
    ("notes", "value"),
)  # fmt: skip


def trigger(dice: random.Random, base: sqlite3.Connection) -> str:
    event, table = dice.choice(("INSERT", "UPDATE", "DELETE")), dice.choice(TABLES)
    body = dice.choice((ENDLESS, "DELETE FROM contents", "SELECT RAISE(ABORT, 'no')", "DELETE FROM saves"))
    base.execute(f"CREATE TRIGGER t AFTER {event} ON {table} BEGIN {body}; END")
    return "tables"


def view(dice: random.Random, base: sqlite3.Connection) -> str:
    table = dice.choice(TABLES)
    base.execute(f"ALTER TABLE {table} RENAME TO other")
    columns = ", ".join(row[1] for row in base.execute("PRAGMA table_info(other)"))
    body = dice.choice((f"SELECT {columns} FROM other", ENDLESS, f"SELECT * FROM {table}"))
    base.execute(f"CREATE VIEW {table} AS {body}")
    return "tables"


def more(dice: random.Random, base: sqlite3.Connection) -> str:
    base.execute(
        dice.choice(
            (
                "CREATE TABLE more (x)",
                "CREATE INDEX i ON saves (abs(at))",
                "ALTER TABLE saves ADD COLUMN more TEXT",
                "ALTER TABLE saves ADD COLUMN more AS (hex(zeroblob(1000000)))",
                "CREATE VIRTUAL TABLE more USING fts5(x)",
                "DROP TABLE notes",
                "ALTER TABLE changes RENAME COLUMN after TO afterwards",
            )
        )
    )
    return "tables?"


def value(dice: random.Random, base: sqlite3.Connection) -> str:
    table, column = dice.choice(COLUMNS)
    base.execute("PRAGMA ignore_check_constraints=ON")
    base.execute(f"UPDATE OR IGNORE {table} SET {column} = {dice.choice(VALUES)}")
    return ""


def unfinished(dice: random.Random, base: sqlite3.Connection) -> str:
    """A studio that was cut off with very many saves, or with contents that unpack to very much."""
    base.execute("INSERT OR REPLACE INTO notes VALUES ('open', 0)")
    if dice.random() < 0.5:
        rows = "WITH RECURSIVE c(x) AS (SELECT 1 UNION ALL SELECT x + 1 FROM c LIMIT 5000)"
        base.execute(f"INSERT INTO saves (at, label, kind) {rows} SELECT 1.0, 'x', 'edit' FROM c")
        return ""
    base.execute(
        "INSERT INTO contents VALUES ('big', ?)", (zlib.compress(bytes(dice.choice((70, 60)) << 20), 9),)
    )
    for _ in range(12):
        save = base.execute("INSERT INTO saves (at, label, kind) VALUES (1.0, 'x', 'edit')").lastrowid
        base.execute("INSERT INTO changes VALUES (?, ?, 'big', NULL)", (save, PATH))
    return ""


KINDS: tuple[Callable[[random.Random, sqlite3.Connection], str], ...] = (
    trigger,
    view,
    more,
    value,
    unfinished,
)


def damaged(dice: random.Random, path: Path) -> None:
    """Bytes of the file, or of what lies beside it, are others."""
    content = bytearray(path.read_bytes())
    # The first page says which tables there are.
    end = min(len(content), dice.choice((len(content), 4096)))
    for _ in range(dice.choice((1, 20, 2_000))):
        content[dice.randrange(end)] = dice.randrange(256)
    path.write_bytes(content[: dice.choice((len(content), len(content) // 2, 99))])
    for beside in ("-wal", "-shm", "-journal"):
        if dice.random() < 0.5:
            path.with_name(path.name + beside).write_bytes(dice.randbytes(dice.choice((0, 32, 40_000))))


@pytest.mark.parametrize("number", range(150))
def test_whatever_it_is_the_history_opens_and_goes_on(tmp_path: Path, number: int) -> None:
    dice = random.Random(SEED * 1000 + number)
    before = History(tmp_path)
    before.open()
    for count in range(3):
        before.record(f"save {count}", {PATH: (b"%d" % count, b"%d" % (count + 1))})
    before.close()
    path = tmp_path / ".rimecrest" / "history.db"
    expected = ""
    if number % 6 == 5:
        damaged(dice, path)
    else:
        with closing(sqlite3.connect(path, isolation_level=None)) as base:
            base.execute("PRAGMA journal_mode=DELETE")
            expected = KINDS[number % 6](dice, base)
    history = History(tmp_path)
    history.open()
    if expected == "tables":
        assert "other tables than a history" in history.trouble
        assert (path.parent / "history-unreadable-1.db").is_file()
    left = history.unfinished()
    assert len(left) <= MOST_SAVES
    for save in left:
        assert all(content is None or len(content) <= 64 << 20 for content in save.before.values())
    assert all(isinstance(point.label, str) and 0 <= point.at < 1e12 for point in history.points())
    history.changed_since(0)
    history.record("mine", {PATH: (b"mine before", b"mine after")})
    points = history.points()
    if number % 6 != 5 or "anew" in history.trouble:
        assert points[0].label == "mine"
        assert history.changed_since(points[0].id - 1) == {PATH: b"mine before"}
    history.forget(PATH)
    history.close()
    again = History(tmp_path)
    again.open()
    again.close()
