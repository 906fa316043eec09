"""Files without trust: plain ones only, so many bytes at most, and whole or not at all.

`read_plain` reads and `write_atomically` writes the one file that somebody named. A `Folder` is one of our
own: a workspace, a profile, a shelf, a channel. It may be reached through a link, but nothing below it may be
one: each step down is taken from the open folder above it (openat(2), `O_NOFOLLOW`), so that nothing can be
put in its place between the look and the step.
"""

from __future__ import annotations

import contextlib
import ctypes
import errno
import os
import secrets
import stat
from collections.abc import Iterator
from pathlib import Path, PurePosixPath
from typing import BinaryIO

from rimecrest.core.errors import BrokenFile, RimecrestError
from rimecrest.core.words import tr

MOST = 64 * 1024 * 1024
"""Bytes that are read of a file where nothing else is said."""
BESIDE = ".being-written"
"""How the name of a file ends that is being written."""
LEFT_BEHIND = 60.0
"""Seconds after which such a file is a dead program's: writing one takes a moment, even over a network."""

_FOLDER = os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC
_READ = os.O_RDONLY | os.O_NONBLOCK | os.O_NOCTTY | os.O_CLOEXEC
_HERE, _NO_REPLACE = -100, 1
"""`AT_FDCWD` and `RENAME_NOREPLACE` of linux/fcntl.h and linux/fs.h."""
_LINKED = (errno.ELOOP, errno.EMLINK)


class NotPlain(OSError):
    """It is a link, a pipe, a device or a folder, or longer than what is read. `reason` says which."""

    def __init__(self, reason: str) -> None:
        super().__init__(errno.EINVAL, reason)
        self.reason = reason


def read_plain(path: Path, most: int = MOST) -> bytes:
    """The content of the file that somebody named; links to it are followed, for they are theirs.

    It never waits: not for a pipe that nobody writes into, nor for a device.

    Raises:
        NotPlain: it is no plain file, or has more bytes than `most`, whatever its size says.
        OSError: it cannot be read.
    """
    if not stat.S_ISREG(os.stat(path).st_mode):
        raise _no_plain_file()
    return _content(os.open(path, _READ), most)


def _content(opened: int, most: int) -> bytes:
    with os.fdopen(opened, "rb") as file:
        if not stat.S_ISREG(os.fstat(opened).st_mode):
            raise _no_plain_file()
        content = file.read(most + 1)
    if len(content) > most:
        raise NotPlain(tr("it has more than {most:,} bytes", most=most))
    return content


def _no_plain_file() -> NotPlain:
    return NotPlain(tr("it is no plain file"))


def _a_link() -> NotPlain:
    return NotPlain(tr("it is reached through a link, and links are not followed"))


def write_atomically(path: Path, content: bytes, mode: int = 0o644) -> None:
    """Replace or make the file that somebody named, or that their link leads to.

    It never has other rights than `mode`, or the owner's alone.

    Raises:
        RimecrestError: the folder cannot be written, with the system's reason.
    """
    place = Path(os.path.realpath(path))
    Folder(place.parent).write(place.name, content, mode)


def cannot_write(path: Path, error: OSError) -> RimecrestError:
    return RimecrestError(
        tr("{path} cannot be written: {reason}.", path=path, reason=error.strerror or error),
        tr("Check the folder’s rights and the room on the disk; what was there is still there."),
    )


class Folder:
    """A folder of our own. Names are relative, with slashes.

    Args:
        stays: a folder that is put in its place afterwards is refused.
    """

    def __init__(self, path: Path, stays: bool = False) -> None:
        self.path = path
        self._stays = stays
        self._identity: tuple[int, int] | None = None
        """Device and number of a folder that has to stay."""
        if stays:
            with contextlib.suppress(OSError):
                found = os.stat(path)
                self._identity = found.st_dev, found.st_ino

    @contextlib.contextmanager
    def _beneath(self, name: str, make: bool = False) -> Iterator[tuple[int, str]]:
        """The open folder in which a file lies, and the file's name in it."""
        *within, last = PurePosixPath(name).parts
        if ".." in (*within, last) or name.startswith("/"):
            raise _a_link()
        if make:
            self.path.mkdir(parents=True, exist_ok=True)
        opened = os.open(self.path, _FOLDER)
        try:
            self._stayed(opened)
            for part in within:
                if make:
                    with contextlib.suppress(FileExistsError):
                        os.mkdir(part, dir_fd=opened)
                inner = self._step(opened, part)
                os.close(opened)
                opened = inner
            yield opened, last
        finally:
            os.close(opened)

    def _stayed(self, opened: int) -> None:
        found = os.fstat(opened)
        identity = found.st_dev, found.st_ino
        if self._stays and (self._identity or identity) != identity:
            raise NotPlain(tr("another folder was put in its place"))

    @staticmethod
    def _step(opened: int, part: str) -> int:
        try:
            return os.open(part, _FOLDER | os.O_NOFOLLOW, dir_fd=opened)
        except OSError as error:
            if error.errno in _LINKED or _is_link(part, opened):
                raise _a_link() from None
            raise

    def read(self, name: str, most: int = MOST) -> bytes:
        """The content of a plain file.

        Raises:
            BrokenFile: it is none, is too long, or cannot be read.
        """
        try:
            with self._beneath(name) as (opened, last):
                return _content(self._open(last, opened, _READ), most)
        except NotPlain as error:
            raise BrokenFile(name, error.reason) from None
        except OSError as error:
            raise BrokenFile(name, tr("it cannot be read ({reason})", reason=error.strerror)) from None

    def text(self, name: str, most: int = MOST) -> str:
        """The same as text. Raises BrokenFile, also where it is no UTF-8."""
        try:
            return self.read(name, most).decode()
        except UnicodeDecodeError:
            raise BrokenFile(name, tr("it is not UTF-8 text")) from None

    def is_there(self, name: str) -> bool:
        """Whether there is anything of that name, plain or not."""
        try:
            with self._beneath(name) as (opened, last):
                os.stat(last, dir_fd=opened, follow_symlinks=False)
        except FileNotFoundError:
            return False
        except OSError:
            return True
        return True

    @staticmethod
    def _open(last: str, opened: int, how: int) -> int:
        try:
            found = os.stat(last, dir_fd=opened, follow_symlinks=False)
        except FileNotFoundError:
            found = None
        if found is not None and stat.S_ISLNK(found.st_mode):
            raise _a_link()
        if found is not None and not stat.S_ISREG(found.st_mode):
            raise _no_plain_file()  # to open some devices is to use them
        return os.open(last, how | os.O_NOFOLLOW, 0o644, dir_fd=opened)

    def why_not_plain(self, name: str) -> str:
        """Why a file is not used, as the rest of a sentence; empty for a plain one, or none."""
        try:
            with self._beneath(name) as (opened, last):
                os.close(self._open(last, opened, _READ))
        except NotPlain as error:
            return error.reason
        except OSError:
            return ""
        return ""

    def write(self, name: str, content: bytes, mode: int = 0o644) -> None:
        """Replace or make a file, whole or not at all; it never has other rights than `mode`, or the owner's.

        Raises:
            RimecrestError: it cannot be written, with the reason.
        """
        try:
            with self._beneath(name, make=True) as (opened, last):
                _replace(opened, last, content, mode)
        except OSError as error:
            raise cannot_write(self.path / name, error) from error

    @contextlib.contextmanager
    def appending(self, name: str) -> Iterator[BinaryIO]:
        """A file to append to, made where there is none. Raises RimecrestError as `write`."""
        try:
            with self._beneath(name, make=True) as (opened, last):
                how = os.O_RDWR | os.O_CREAT | os.O_APPEND | os.O_NONBLOCK | os.O_CLOEXEC
                with os.fdopen(self._open(last, opened, how), "a+b") as file:
                    yield file
        except OSError as error:
            raise cannot_write(self.path / name, error) from error

    def remove(self, name: str) -> None:
        """Take a file away; one that is not there is no fault. Raises RimecrestError as `write`."""
        try:
            with self._beneath(name) as (opened, last):
                os.unlink(last, dir_fd=opened)
        except FileNotFoundError:
            return
        except OSError as error:
            raise cannot_write(self.path / name, error) from error

    def rename(self, name: str, to: str) -> None:
        """Give a file another name in the folder where it lies. Raises RimecrestError as `write`."""
        try:
            with self._beneath(name) as (opened, last):
                os.rename(last, to, src_dir_fd=opened, dst_dir_fd=opened)
        except OSError as error:
            raise cannot_write(self.path / name, error) from error

    def tidy(self, now: float, within: str = "") -> None:
        """Take away what programs that were killed while they wrote have left in it, or in a folder of it.

        Args:
            now: seconds since the epoch, by the clock of the disk it lies on.
        """
        with contextlib.suppress(OSError), self._beneath(f"{PurePosixPath(within, BESIDE)}") as (opened, _):
            for name in os.listdir(opened):
                if name.startswith(".") and name.endswith(BESIDE):
                    with contextlib.suppress(OSError):
                        found = os.stat(name, dir_fd=opened, follow_symlinks=False)
                        if stat.S_ISREG(found.st_mode) and now - found.st_mtime > LEFT_BEHIND:
                            os.unlink(name, dir_fd=opened)


def _replace(opened: int, last: str, content: bytes, mode: int) -> None:
    if _is_link(last, opened):
        raise _a_link()
    beside = f".{secrets.token_hex(8)}{BESIDE}"
    how = os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW | os.O_CLOEXEC
    handle = os.open(beside, how, 0o600, dir_fd=opened)
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(content)
            file.flush()
            os.fsync(file.fileno())
            os.fchmod(file.fileno(), mode)
        os.replace(beside, last, src_dir_fd=opened, dst_dir_fd=opened)
    except BaseException:
        with contextlib.suppress(FileNotFoundError):
            os.unlink(beside, dir_fd=opened)
        raise


def move_without_replacing(path: Path, to: Path) -> None:
    """Rename a file or folder; what lies at the new name stays (renameat2(2), `RENAME_NOREPLACE`).

    Raises:
        FileExistsError: there is something.
        OSError: it cannot be renamed.
    """
    renameat2 = getattr(ctypes.CDLL(None, use_errno=True), "renameat2", None)
    if renameat2 is not None:
        if renameat2(_HERE, os.fsencode(path), _HERE, os.fsencode(to), _NO_REPLACE) == 0:
            return
        error = ctypes.get_errno()
        if error not in (errno.ENOSYS, errno.EINVAL):
            raise OSError(error, os.strerror(error), str(path))
    # A disk that cannot do that: looked at a moment before.
    if os.path.lexists(to):
        raise FileExistsError(errno.EEXIST, os.strerror(errno.EEXIST), str(to))
    os.rename(path, to)


def _is_link(name: str, opened: int) -> bool:
    try:
        return stat.S_ISLNK(os.stat(name, dir_fd=opened, follow_symlinks=False).st_mode)
    except OSError:
        return False
