"""The mailbox on disk: a maildir, with other folders in it as hidden maildirs of their own (Maildir++).

Messages are delivered by the standard library's `mailbox`. Flags and moves are renames of one file, as the
format has them: `<unique name>:2,<flags>` in `cur`, and what nobody has seen yet in `new`.
"""

from __future__ import annotations

import contextlib
import mailbox
import os
import re
import secrets
import shutil
from collections.abc import Callable
from email.message import EmailMessage
from pathlib import Path

from msgspec import Struct

from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import move_without_replacing, read_plain
from rimecrest.core.log import log
from rimecrest.core.words import tr
from rimecrest.kit.documents.file_document import LARGEST
from rimecrest_standins.post.first_mail import begin_mailbox
from rimecrest_standins.post.message_parts import addresses_in
from rimecrest_standins.post.received import HEADS, Received, day, head_of, heads_in, received

INBOX, DRAFTS, OUTBOX, BIN = "Inbox", "Drafts", "Outbox", "Bin"
STANDING = (INBOX, DRAFTS, OUTBOX, BIN)
"""Folders that are always there, in this order."""
SEEN, FLAGGED, ANSWERED, DRAFT = "S", "F", "R", "D"
"""Flags, as the format writes them."""
_NAME = re.compile(r"[^/.\x00-\x1f][^/.\x00-\x1f]{0,59}")


class Heads(Struct, frozen=True):
    """What a list shows of a message. `size` is in bytes, `date` as `2026-11-09 08:15`, or empty."""

    sender: str
    to: str
    copy: str
    subject: str
    date: str
    size: int


class _Entry(Struct):
    path: Path
    received: float


class Maildir:
    """The mailbox in a folder. A message is named by its folder and its key, which never changes."""

    def __init__(self, folder: Path) -> None:
        """Opens the mailbox that lies there, or makes one. Raises RimecrestError where that cannot be."""
        self.folder = folder
        self._known: dict[str, dict[str, _Entry]] = {}
        self._heads: dict[tuple[str, str], Heads] = {}
        self.heard: Callable[[], None] = lambda: None
        """Called when a message came or went that was not moved or marked in the list."""
        try:
            if not folder.exists():
                begin_mailbox(folder)
            for name in STANDING:
                self.make_folder(name)
        except OSError as error:
            raise _cannot(folder, error) from None

    # Folders

    def folders(self) -> list[str]:
        """The standing ones, then the colleague's own by name."""
        own = (path.name[1:] for path in self.folder.glob(".*") if (path / "cur").is_dir())
        return [*STANDING, *sorted(name for name in own if name not in STANDING)]

    def _place(self, folder: str) -> Path:
        return self.folder if folder == INBOX else self.folder / f".{folder}"

    def find_folder(self, name: str) -> str:
        """A folder in large or small letters. Raises RimecrestError with those there are."""
        for each in self.folders():
            if each.casefold() == name.strip().casefold():
                return each
        raise RimecrestError(
            tr("There is no folder “{name}”.", name=name),
            tr("There are: {there}.", there=", ".join(self.folders())),
        )

    def new_name(self, name: str) -> str:
        """A name that a folder can have, and none has. Raises RimecrestError."""
        name = name.strip()
        if not _NAME.fullmatch(name):
            raise RimecrestError(
                tr("A folder cannot be called “{name}”.", name=name), tr("Use letters, digits and blanks.")
            )
        if name.casefold() in (each.casefold() for each in self.folders()):
            raise RimecrestError(tr("There is a folder “{name}” already.", name=name))
        return name

    def make_folder(self, name: str) -> None:
        for part in ("tmp", "new", "cur"):
            (self._place(name) / part).mkdir(mode=0o700, parents=True, exist_ok=True)

    def rename_folder(self, name: str, to: str) -> None:
        self._move_file(self._place(name), self._place(to))
        self._known.pop(name, None)

    def remove_folder(self, name: str) -> None:
        """Remove an empty folder."""
        shutil.rmtree(self._place(name))
        self._known.pop(name, None)

    # Messages

    def look(self, folder: str) -> None:
        """Look again which messages lie in a folder: other programs deliver here too."""
        known = {}
        for part in ("cur", "new"):
            # Another program may have made only one of them.
            with contextlib.suppress(FileNotFoundError), os.scandir(self._place(folder) / part) as entries:
                for entry in entries:
                    if not entry.name.startswith(".") and entry.is_file():
                        key = entry.name.partition(":")[0]
                        known[key] = _Entry(Path(entry.path), entry.stat().st_mtime)
        self._known[folder] = known

    def _in(self, folder: str) -> dict[str, _Entry]:
        if folder not in self._known:
            self.look(folder)
        return self._known[folder]

    def keys(self, folder: str) -> list[str]:
        """The messages of a folder, the newest first."""
        entries = self._in(folder)
        return sorted(entries, key=lambda key: (entries[key].received, key), reverse=True)

    def path(self, folder: str, key: str) -> Path:
        """The file of a message. Raises RimecrestError when it is there no more."""
        entry = self._in(folder).get(key)
        if entry is None or not entry.path.exists():
            self.look(folder)
            entry = self._known[folder].get(key)
        if entry is None:
            raise RimecrestError(
                tr("This message is not in “{folder}” any more.", folder=folder),
                tr("Another program may have moved it; look for new messages."),
            )
        return entry.path

    def has(self, folder: str, key: str) -> bool:
        """Whether a message is in a folder."""
        try:
            return bool(self.path(folder, key))
        except RimecrestError:
            return False

    def flags(self, folder: str, key: str) -> str:
        entry = self._in(folder).get(key)
        return entry.path.name.partition(":2,")[2] if entry is not None else ""

    def unread(self, folder: str) -> int:
        """How many nobody has read."""
        return sum(SEEN not in entry.path.name.partition(":2,")[2] for entry in self._in(folder).values())

    def file(self, key: str, folder: str, to: str, flags: str, wanted: str = "") -> str:
        """Have a message of a folder lie in another one, or the same, with these flags and no others.

        Args:
            wanted: its key there; the one that it has, where none is said.

        Returns:
            Its key there: another one where a message with that key is there already.
        """
        path = self.path(folder, key)
        self.look(to)
        others = self._known[to].keys() - ({key} if to == folder else set())
        named = wanted or key
        while named in others:
            named = f"{key}.{secrets.token_hex(4)}"
        place = self._place(to) / "cur" / f"{named}:2,{''.join(sorted(set(flags)))}"
        self._move_file(path, place)
        received = self._known[folder].pop(key).received
        self._known[to][named] = _Entry(place, received)
        self._heads.pop((folder, key), None)
        return named

    def _move_file(self, path: Path, to: Path) -> None:
        if path == to:
            return
        try:
            to.parent.mkdir(mode=0o700, exist_ok=True)
            move_without_replacing(path, to)
        except OSError as error:
            raise _cannot(to, error) from None

    def content(self, folder: str, key: str) -> bytes:
        """A message as it lies there. Raises RimecrestError where it is gone, or too large."""
        path = self.path(folder, key)
        try:
            if path.stat().st_size > LARGEST:
                raise RimecrestError(
                    tr("This message has more than {size} MiB, so it is not shown.", size=LARGEST >> 20),
                    tr("Save it to a file, and open that with another program."),
                )
            return read_plain(path, LARGEST)
        except OSError as error:
            raise _cannot(path, error) from None

    def message(self, folder: str, key: str) -> Received:
        """A message, whole. Raises RimecrestError."""
        return received(self.content(folder, key))

    def plain(self, folder: str, key: str) -> str:
        """The text of a message; nothing of one that cannot be read."""
        try:
            message = self.message(folder, key)
            return f"{message.plain} {message.page}"
        except RimecrestError:
            return ""

    def heads(self, folder: str, key: str) -> Heads:
        """What the list shows of a message; nothing of one that cannot be read."""
        found = self._heads.get((folder, key))
        if found is None:
            found = self._heads[folder, key] = self._read_heads(folder, key)
        return found

    def _read_heads(self, folder: str, key: str) -> Heads:
        try:
            with self.path(folder, key).open("rb") as file:
                heads = heads_in(file.read(HEADS))
                size = os.fstat(file.fileno()).st_size
            sender, to, copy, subject = (head_of(heads, name) for name in ("From", "To", "Cc", "Subject"))
            return Heads(sender, to, copy, subject, day(head_of(heads, "Date")), size)
        except Exception as error:
            # The library's parser fails in many ways; one bad message must not keep the others from showing.
            log.warning("message left out", key=key, reason=type(error).__name__)
            return Heads("", "", "", tr("(This message cannot be read.)") if key else "", "", 0)

    def deliver(self, folder: str, message: EmailMessage, flags: str) -> str:
        """Put a message into a folder, whole or not at all. Returns its key. Raises RimecrestError."""
        content = message.as_bytes(policy=message.policy.clone(linesep="\n"))
        try:
            key = str(mailbox.Maildir(self._place(folder), create=False).add(content))
        except OSError as error:
            raise _cannot(self.folder, error) from None
        self.look(folder)
        if flags:
            self.file(key, folder, folder, flags)
        self.heard()
        return key

    def remove(self, folder: str, key: str) -> None:
        """Delete a message for good."""
        self.path(folder, key).unlink(missing_ok=True)
        self._in(folder).pop(key, None)
        self.heard()

    def people(self, folder: str) -> set[str]:
        """The addresses of who wrote the messages of a folder, and to whom."""
        heads = [self.heads(folder, key) for key in self.keys(folder)]
        return {address for each in heads for address in addresses_in(f"{each.sender}, {each.to}")}


def _cannot(path: Path, error: OSError) -> RimecrestError:
    return RimecrestError(
        tr("{path} cannot be used: {reason}.", path=path, reason=error.strerror),
        tr("Ask whoever looks after this computer."),
    )
