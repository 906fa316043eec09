"""The history of a workspace: every save with what it changed, in `.rimecrest/history.db` (SQLite).

A content is kept once, compressed, however often it comes back. What is older than a day is thinned to one
save an hour, what is older than thirty days to one a day; releases and named points stay. So the file is
smaller than twice what was changed, and in practice much smaller (a test measures it).

It is a help and never in the way: a file that cannot be read is set aside with its reason, and one begins
anew.
"""

from __future__ import annotations

import hashlib
import os
import sqlite3
import time
import zlib
from collections.abc import Callable, Iterable, Iterator, Mapping
from contextlib import contextmanager, suppress
from itertools import groupby
from pathlib import Path
from typing import Any

from msgspec import Struct

from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import Folder
from rimecrest.core.log import log
from rimecrest.core.words import counted, tr
from rimecrest.core.workspace.parts import is_known

EDIT, JOINED, UNDO, REDO, OUTSIDE = "edit", "joined", "undo", "redo", "outside"
RELEASE, NAMED = "release", "named"
KEPT = (RELEASE, NAMED)
"""Kinds of points that thinning leaves."""
HOURLY_AFTER = 24 * 3600.0
DAILY_AFTER = 30 * 24 * 3600.0
"""Seconds after which saves are joined to one an hour, and to one a day."""
LARGEST = 64 * 1024 * 1024
"""Bytes that one content may unpack to; a larger one is no file of a workspace."""
LONGEST = 10.0
"""Seconds that a statement may take; the largest history takes a hundredth of that."""
MOST_SAVES, MOST_UNPACKED = 1_000, 256 * 1024 * 1024
"""Unfinished saves that are offered for undo, and bytes of their contents: the newest."""
_STRANGE = (
    "SELECT 1 FROM contents WHERE typeof(digest) <> 'text' OR typeof(packed) <> 'blob' LIMIT 1",
    "SELECT 1 FROM saves WHERE typeof(at) NOT IN ('real', 'integer') OR at NOT BETWEEN 0 AND 1e11 "
    "OR typeof(label) <> 'text' OR length(label) > 10000 OR typeof(kind) <> 'text' LIMIT 1",
    "SELECT 1 FROM changes WHERE typeof(save) <> 'integer' OR typeof(path) <> 'text' OR length(path) > 1000 "
    "OR typeof(before) NOT IN ('text', 'null') OR typeof(after) NOT IN ('text', 'null') LIMIT 1",
    "SELECT 1 FROM notes WHERE typeof(name) <> 'text' OR typeof(value) <> 'integer' LIMIT 1",
)
"""Rows that no history has; SQLite keeps any kind of value in any column."""
Change = tuple[bytes | None, bytes | None]
"""A file before and after; None: there is none."""
_TABLES = """
CREATE TABLE IF NOT EXISTS contents (digest TEXT PRIMARY KEY, packed BLOB NOT NULL) WITHOUT ROWID;
CREATE TABLE IF NOT EXISTS saves (
    id INTEGER PRIMARY KEY, at REAL NOT NULL, label TEXT NOT NULL, kind TEXT NOT NULL
);
CREATE TABLE IF NOT EXISTS changes (
    save INTEGER NOT NULL, path TEXT NOT NULL, before TEXT, after TEXT, PRIMARY KEY (save, path)
) WITHOUT ROWID;
CREATE TABLE IF NOT EXISTS notes (name TEXT PRIMARY KEY, value INTEGER NOT NULL) WITHOUT ROWID;
"""


def _fresh() -> sqlite3.Connection:
    """A history with nothing in it, in memory."""
    made = sqlite3.connect(":memory:")
    made.executescript(_TABLES)
    return made


def _schema(base: sqlite3.Connection) -> list[tuple[object, ...]]:
    """What a file consists of, and how each of it was made."""
    return base.execute("SELECT type, name, tbl_name, sql FROM sqlite_schema").fetchall()


class Point(Struct, frozen=True):
    """A save, or a release or name that was given to how everything was. `paths` are the files it changed."""

    id: int
    at: float
    label: str
    kind: str
    paths: tuple[str, ...] = ()


class Save(Struct, frozen=True):
    """A save with what each file was before it."""

    label: str
    kind: str
    before: Mapping[str, bytes | None]


class History:
    """The history of one workspace. One that cannot be kept keeps nothing, and says so in `trouble`."""

    def __init__(self, folder: Path, now: Callable[[], float] = time.time) -> None:
        """`folder` is the workspace's; nothing is written before something is recorded."""
        self._path = folder / ".rimecrest" / "history.db"
        self.clock = now
        """Tells seconds since 1970."""
        self.was_cut_off = False
        """Whether the studio that had it open last did not end in good order."""
        self._base: sqlite3.Connection | None = None
        self._since = 0.0
        """When the statement that runs began."""
        self.trouble = ""

    # Opening

    def open(self) -> None:
        """Begin, and find out whether the last time ended in the middle."""
        try:
            self._base = self._opened()
        except (sqlite3.Error, OSError) as error:
            self._set_aside(error)
        self.was_cut_off = self._note("open") is not None
        if not self.was_cut_off:
            self._set_note("open", self._newest())

    def _opened(self) -> sqlite3.Connection:
        if reason := Folder(self._path.parent.parent).why_not_plain(".rimecrest/history.db"):
            raise OSError(reason)
        self._path.parent.mkdir(exist_ok=True)
        base = sqlite3.connect(self._path, isolation_level=None)
        try:
            base.text_factory = lambda text: text.decode("utf-8", "replace")
            base.set_progress_handler(self._too_long, 10_000)
            for setting in ("trusted_schema=OFF", "cell_size_check=ON", "mmap_size=0"):
                base.execute(f"PRAGMA {setting}")
            self._begin_statement()
            # Whatever lies there is only data: no statement is run that could start one of its own.
            if not set(_schema(base)) <= set(_schema(_fresh())):
                raise sqlite3.DatabaseError(tr("it has other tables than a history"))
            for setting in ("journal_mode=WAL", "synchronous=NORMAL", "secure_delete=ON"):
                base.execute(f"PRAGMA {setting}")
            base.executescript(_TABLES)
            if any(base.execute(query).fetchone() for query in _STRANGE):
                raise sqlite3.DatabaseError(tr("it has rows of another kind than a history"))
        except UnicodeDecodeError:  # SQLite's own message quotes a name of the file that is no text
            base.close()
            raise sqlite3.DatabaseError(tr("it is damaged")) from None
        except BaseException:
            base.close()
            raise
        return base

    def _begin_statement(self) -> None:
        self._since = time.monotonic()

    def _too_long(self) -> bool:
        """Whether the statement that runs is to be ended."""
        return time.monotonic() - self._since > LONGEST

    def _set_aside(self, error: Exception) -> None:
        """What cannot be read is moved away and kept; nothing of the workspace depends on it."""
        log.warning("history set aside", reason=str(error))
        self.trouble = tr("What was before cannot be read ({reason}); it begins anew.", reason=error)
        folder = Folder(self._path.parent.parent)
        for number in range(1, 100):
            aside = f"history-unreadable-{number}.db"
            if not os.path.lexists(self._path.with_name(aside)):
                # With what SQLite would otherwise take for the new one's own.
                for beside in ("", "-wal", "-shm", "-journal"):
                    with suppress(RimecrestError):
                        folder.rename(f".rimecrest/history.db{beside}", f"{aside}{beside}")
                break
        with suppress(sqlite3.Error, OSError):
            self._base = self._opened()

    def close(self) -> None:
        """End in good order: the next time begins with nothing to undo."""
        if self._base is not None:
            with suppress(sqlite3.Error):
                self._base.execute("DELETE FROM notes WHERE name = 'open'")
                self.thin()
            self._base.close()
            self._base = None

    # Writing

    @contextmanager
    def _writing(self) -> Iterator[sqlite3.Connection | None]:
        """A change of the history, whole or not at all; trouble with it is never the workspace's."""
        base = self._base
        if base is None:
            yield None
            return
        try:
            self._begin_statement()
            base.execute("BEGIN IMMEDIATE")
            yield base
            base.execute("COMMIT")
        except sqlite3.Error as error:
            with suppress(sqlite3.Error):
                base.execute("ROLLBACK")
            log.warning("history not written", reason=str(error))
            self.trouble = tr("What was before cannot be kept ({reason}).", reason=error)

    def record(self, label: str, changes: Mapping[str, Change], kind: str = EDIT) -> None:
        """Note a save; one that is `JOINED` belongs to the one before it."""
        with self._writing() as base:
            if base is None:
                return
            if kind == JOINED:
                self._add_to_last(base, changes)
                return
            row = base.execute(
                "INSERT INTO saves (at, label, kind) VALUES (?, ?, ?)", (self.clock(), label, kind)
            )
            for path, (before, after) in changes.items():
                digests = (self._keep(base, before), self._keep(base, after))
                base.execute("INSERT INTO changes VALUES (?, ?, ?, ?)", (row.lastrowid, path, *digests))

    def _add_to_last(self, base: sqlite3.Connection, changes: Mapping[str, Change]) -> None:
        last = base.execute("SELECT MAX(id) FROM saves").fetchone()[0]
        for path, (before, after) in changes.items():
            base.execute(
                "INSERT INTO changes VALUES (?, ?, ?, ?) "
                "ON CONFLICT (save, path) DO UPDATE SET after = excluded.after",
                (last, path, self._keep(base, before), self._keep(base, after)),
            )

    def point(self, name: str, kind: str = NAMED) -> None:
        """Give a name to how everything is now."""
        self.record(name, {}, kind)

    @staticmethod
    def _keep(base: sqlite3.Connection, content: bytes | None) -> str | None:
        if content is None:
            return None
        digest = hashlib.sha256(content).hexdigest()
        # What was before is nearly always kept already: as what the save before it wrote.
        if base.execute("SELECT 1 FROM contents WHERE digest = ?", (digest,)).fetchone() is None:
            base.execute("INSERT INTO contents VALUES (?, ?)", (digest, zlib.compress(content, 6)))
        return digest

    # Reading

    def points(self, paths: Iterable[str] = ()) -> list[Point]:
        """Every point, newest first; of `paths` only those that changed one of them, and named ones."""
        wanted = set(paths)
        rows = self._rows("SELECT id, at, label, kind FROM saves ORDER BY id DESC")
        touched: dict[int, list[str]] = {}
        for save, path in self._rows("SELECT save, path FROM changes"):
            touched.setdefault(save, []).append(path)
        found = [Point(row[0], row[1], row[2], row[3], tuple(touched.get(row[0], ()))) for row in rows]
        return [one for one in found if not wanted or one.kind in KEPT or wanted & set(one.paths)]

    def changed_since(self, point: int) -> dict[str, bytes | None]:
        """What every file that was changed after a point was at that point. Unknown places are left out."""
        # Of the rows of a path SQLite takes the others from the one with the least save.
        query = "SELECT path, before, MIN(save) FROM changes WHERE save > ? GROUP BY path"
        rows = self._rows(query, (point,))
        return {path: self._content(digest) for path, digest, _ in rows if is_known(path)}

    def unfinished(self) -> list[Save]:
        """The saves since the studio that was cut off was opened, oldest first; of very many the newest."""
        since = self._note("open")
        if since is None or not self.was_cut_off:
            return []
        found: list[Save] = []
        room = MOST_UNPACKED
        query = "SELECT id, label, kind FROM saves WHERE id > ? ORDER BY id DESC LIMIT ?"
        for save, label, kind in self._rows(query, (since, MOST_SAVES)):
            rows = self._rows("SELECT path, before FROM changes WHERE save = ?", (save,))
            before = {path: self._content(digest) for path, digest in rows if is_known(path)}
            room -= sum(len(content) for content in before.values() if content is not None)
            if room < 0:
                break
            found.append(Save(label, kind, before))
        return found[::-1]

    def _rows(self, query: str, values: tuple[object, ...] = ()) -> list[Any]:
        if self._base is None:
            return []
        try:
            self._begin_statement()
            return self._base.execute(query, values).fetchall()
        except sqlite3.Error as error:
            log.warning("history not read", reason=str(error))
            self.trouble = tr("What was before cannot be read ({reason}).", reason=error)
            return []

    def _content(self, digest: str | None) -> bytes | None:
        for (packed,) in self._rows("SELECT packed FROM contents WHERE digest = ?", (digest,)):
            try:
                return zlib.decompressobj().decompress(packed, LARGEST)
            except zlib.error as error:
                log.warning("history not read", reason=str(error))
        return None

    def _newest(self) -> int:
        rows = self._rows("SELECT COALESCE(MAX(id), 0) FROM saves")
        return int(rows[0][0]) if rows else 0

    def _note(self, name: str) -> int | None:
        rows = self._rows("SELECT value FROM notes WHERE name = ?", (name,))
        return int(rows[0][0]) if rows else None

    def _set_note(self, name: str, value: int) -> None:
        with self._writing() as base:
            if base is not None:
                base.execute("INSERT OR REPLACE INTO notes VALUES (?, ?)", (name, value))

    # Making it less

    def thin(self) -> None:
        """Join what is old: the saves of an hour after a day, the saves of a day after thirty."""
        now = self.clock()

        def bucket(point: Point) -> tuple[str, int]:
            age = now - point.at
            if point.kind in KEPT or age < HOURLY_AFTER:
                return "alone", point.id
            return ("day", int(point.at // 86400)) if age > DAILY_AFTER else ("hour", int(point.at // 3600))

        with self._writing() as base:
            if base is None:
                return
            for _, group in groupby(reversed(self.points()), bucket):
                joined = list(group)
                if len(joined) > 1:
                    self._join(base, joined)
            self._drop_unused(base)

    @staticmethod
    def _join(base: sqlite3.Connection, points: list[Point]) -> None:
        """Make one save of several that follow one another: what was before the first, and after the last."""
        last, others = points[-1], [point.id for point in points[:-1]]
        span = (points[0].id, last.id)
        first: dict[str, tuple[str | None, str | None]] = {}
        for path, before, after in base.execute(
            "SELECT path, before, after FROM changes WHERE save BETWEEN ? AND ? ORDER BY save", span
        ).fetchall():
            first[path] = (first[path][0] if path in first else before, after)
        base.execute("DELETE FROM changes WHERE save BETWEEN ? AND ?", span)
        base.executemany("DELETE FROM saves WHERE id = ?", [(one,) for one in others])
        label = tr(
            "{changes}, the last: {label}", changes=counted(len(points), tr("change")), label=last.label
        )
        base.execute("UPDATE saves SET label = ?, kind = ? WHERE id = ?", (label, EDIT, last.id))
        for path, (before, after) in first.items():
            if before != after:
                base.execute("INSERT INTO changes VALUES (?, ?, ?, ?)", (last.id, path, before, after))

    @staticmethod
    def _drop_unused(base: sqlite3.Connection) -> None:
        base.execute(
            "DELETE FROM contents WHERE digest NOT IN "
            "(SELECT before FROM changes WHERE before IS NOT NULL UNION "
            "SELECT after FROM changes WHERE after IS NOT NULL)"
        )

    def forget(self, path: str, without: Callable[[bytes], bytes] | None = None, name: str = "") -> None:
        """Forget a file for good, in all that was before; or only what `without` takes out of its contents.

        What the saves are called no longer says `name`.

        The freed places of the file are written over (SQLite's secure_delete), and it is made smaller.
        """
        with self._writing() as base:
            if base is None:
                return
            if without is None:
                base.execute("DELETE FROM changes WHERE path = ?", (path,))
            else:
                self._rewrite(base, path, without)
            self._drop_unused(base)
            if name:
                base.execute("UPDATE saves SET label = REPLACE(label, ?, '…')", (name,))
        if self._base is not None:
            with suppress(sqlite3.Error):
                self._base.execute("PRAGMA wal_checkpoint(TRUNCATE)")
                self._base.execute("VACUUM")
                self._base.execute("PRAGMA wal_checkpoint(TRUNCATE)")

    def _rewrite(self, base: sqlite3.Connection, path: str, without: Callable[[bytes], bytes]) -> None:
        rows = base.execute("SELECT save, before, after FROM changes WHERE path = ?", (path,)).fetchall()
        for save, *digests in rows:
            made = []
            for digest in digests:
                content = self._content(digest) if digest is not None else None
                made.append(self._keep(base, without(content)) if content is not None else None)
            base.execute(
                "UPDATE changes SET before = ?, after = ? WHERE save = ? AND path = ?", (*made, save, path)
            )
