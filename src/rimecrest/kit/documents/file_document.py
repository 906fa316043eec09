"""A document that lies in a file: opening, saving, unsaved changes, the macros that it carries along."""

from __future__ import annotations

import stat
from abc import abstractmethod
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from enum import Enum
from pathlib import Path
from typing import TypeVar

from PyQt6.QtWidgets import QMessageBox

from rimecrest.core.catalogue.applies import DocumentKind
from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import NotPlain, read_plain, write_atomically
from rimecrest.core.progress import GivenUp, Tell, untold
from rimecrest.core.words import listed, tr
from rimecrest.kit.documents.document import Document, Documents
from rimecrest.shell.file_dialogs import ask_save
from rimecrest.shell.progress_window import behind_window

T = TypeVar("T")
LARGE = 1024 * 1024
"""Bytes of a text file, or characters of a document, from which reading and writing it show their progress:
about a second's work."""
LARGEST = 64 * 1024 * 1024
"""Bytes of a document that is opened at most."""
Stamp = tuple[int, int, int]
"""What tells a file from one that was written since: its time in nanoseconds, its bytes, its number."""


def stamp_of(path: Path) -> Stamp | None:
    """The stamp of a file; None where there is none."""
    try:
        found = path.stat()
    except OSError:
        return None
    return found.st_mtime_ns, found.st_size, found.st_ino


@contextmanager
def said_of(path: Path, noun: str) -> Iterator[None]:
    """Around reading a file: what is wrong with it is said. Raises RimecrestError."""
    try:
        if path.is_dir():
            raise RimecrestError(
                tr("{path} is a folder, not a {noun}.", path=path, noun=noun), tr("Choose a file in it.")
            )
        found = path.stat()
        if not stat.S_ISREG(found.st_mode):
            raise NotPlain(tr("it is no plain file"))
        if found.st_size > LARGEST:
            raise RimecrestError(
                tr("{path} is too large for a {noun}.", path=path, noun=noun),
                tr("Choose a file under {size} MiB.", size=LARGEST >> 20),
            )
        yield
    except UnicodeDecodeError:
        raise RimecrestError(
            tr("{path} is not UTF-8 text.", path=path), tr("Choose a {noun}.", noun=noun)
        ) from None
    except OSError as error:
        raise RimecrestError(
            tr("{path} cannot be opened: {reason}.", path=path, reason=error.strerror),
            tr("Choose another file; this {noun} is as it was.", noun=noun),
        ) from None


class Answer(Enum):
    """What becomes of a file that was changed outside."""

    OVERWRITE = "overwrite"
    ELSEWHERE = "elsewhere"
    NOTHING = "nothing"


class FileDocument(Document):
    """A document with a file. An application's own says how it is read and written."""

    kinds = tr("All files (*)")
    ending = ""
    """Ending of the format that it is saved in."""
    unkept: tuple[str, ...] = ()
    """What the file that was opened has and this document does not keep."""
    remark = ""
    """What there is to say of the last time it was saved."""

    def __init__(self, documents: Documents) -> None:
        super().__init__(documents)
        self.path: Path | None = None
        self.template = ""
        """The name of the file that it was made from; it is kept in the document."""
        self.macros: dict[str, str] = {}
        """The macros that are kept in this document: id → text."""
        self.macros_changed = False
        self._stamp: Stamp | None = None
        """The file as it was when we last read or wrote it."""
        self.macros_put: set[str] = set()
        """Ids of those that were put here in this window; others came with the file."""

    # What each application says

    @abstractmethod
    def read_from(self, path: Path) -> None:
        """Show what lies there. Raises RimecrestError; what was shown then stays."""

    @abstractmethod
    def write_to(self, path: Path, macros: bool = True) -> None:
        """Write a file, whole or not at all, and change nothing else. Raises RimecrestError.

        `macros`: whether the macros that are kept in the document go along, and what it was made from.
        """

    @abstractmethod
    def saved(self) -> None:
        """The document was saved as it is now."""

    def write_template(self, path: Path) -> None:
        """Write a file that others begin from, and change nothing else. Raises RimecrestError."""
        self.write_to(path, False)

    def field_text(self) -> str:
        """All text in which fields of a template may stand."""
        return ""

    def fill_fields(self, answers: Mapping[str, str]) -> None:
        """Write answers in place of their fields, each as it looks there. Within a change."""
        raise NotImplementedError

    def put_block(self, path: Path) -> None:
        """Put the text of an HTML file in at the cursor. Within a change. Raises RimecrestError."""
        raise NotImplementedError

    # What they share

    def read_long(self, path: Path, work: Callable[[Tell], T], large: int = LARGE) -> T:
        """Read a file; a large one, of so many bytes or more, behind a window with progress and *Cancel*.

        Raises:
            RimecrestError: it was given up.
        """
        said = tr("“{name}” was not opened: you cancelled that.", name=path.name)
        words = tr("Opening “{name}” …", name=path.name)
        return self._long(path.stat().st_size >= large, words, said, work)

    def write_long(self, path: Path, large: bool, work: Callable[[Tell], bytes]) -> None:
        """Write what the work makes; a large document behind a window with progress and *Cancel*.

        Raises:
            RimecrestError: it was given up, or the file cannot be written; it is as it was.
        """
        said = tr("“{name}” was not saved: you cancelled that.", name=path.name)
        words = tr("Saving “{name}” …", name=path.name)
        write_atomically(path, self._long(large, words, said, work))

    def _long(self, large: bool, words: str, said: str, work: Callable[[Tell], T]) -> T:
        if not large:
            return work(untold)
        try:
            return behind_window(self.widget, words, work)
        except GivenUp:
            raise RimecrestError(said, tr("Everything is as it was.")) from None

    def pristine(self) -> bool:
        return self.path is None and not self.template and not self.modified() and not self.undo.depth

    def name(self) -> str:
        return self.path.stem if self.path else f"New {self.noun}"

    def kind(self) -> DocumentKind:
        return DocumentKind(str(self.path.absolute()) if self.path is not None else "", self.template)

    def made_from(self, template: Path) -> None:
        """It is a copy of that file, and lies nowhere yet: saving must not write over the template."""
        self.path = None
        self.template = template.stem

    def open_path(self, path: Path) -> None:
        """Show another file in this document. Raises RimecrestError; what was shown then stays."""
        with said_of(path, self.noun):
            kept, self.macros = (self.macros, self.template), {}
            self.template = ""
            try:
                self.read_from(path)
            except BaseException:
                self.macros, self.template = kept
                raise
            self.macros_changed = False
            self.macros_put.clear()
        self.path = path
        self._stamp = stamp_of(path)

    def changed_outside(self) -> bool:
        """Whether another program wrote its file, or put another in its place, since we last did."""
        if self.path is None or self._stamp is None:
            return False
        now = stamp_of(self.path)
        return now is not None and now != self._stamp

    def agree_to_overwrite(self) -> None:
        self._stamp = stamp_of(self.path) if self.path is not None else None

    def with_ending(self, path: Path) -> Path:
        """The path with an ending: the format's own, unless somebody says otherwise."""
        return path if path.suffix else path.with_suffix(self.ending)

    def keeps_all(self, path: Path) -> bool:
        """Whether a file with this ending holds all that the document has."""
        return path.suffix.lower() == self.ending

    def save_to(self, path: Path) -> None:
        """Save there. Raises RimecrestError when it cannot be written."""
        if self.unkept and path == self.path:
            raise RimecrestError(
                tr("Saving over “{name}” would lose {what}.", name=self.name(), what=listed(self.unkept, 4)),
                tr("Choose another name."),
            )
        self.settle()
        self.write_to(path)
        self.unkept = ()
        self.path = path
        self._stamp = stamp_of(path)
        self.macros_changed = False
        self.saved()
        self.undo.changed.emit()

    def put_macro(self, identity: str, text: str | None) -> None:
        """Keep a macro in this document, or (None) take it out."""
        if text is None:
            self.macros.pop(identity, None)
        else:
            self.macros[identity] = text
            self.macros_put.add(identity)
        self.macros_changed = True
        self.undo.changed.emit()

    def ask_where(self, title: str, ending: str = "", kinds: str = "") -> Path | None:
        """Ask where to put a file."""
        ending = ending or self.ending
        begin = str(self.path.with_suffix(ending) if self.path else f"{self.noun.capitalize()}{ending}")
        name = ask_save(self.widget, title, begin, kinds or self.kinds)
        return Path(name) if name else None

    def said_of_unkept(self) -> str:
        """Say what of the file this document cannot keep; empty if it keeps all."""
        if not self.unkept:
            return ""
        return tr(
            "Not kept of “{name}”: {what}. Saving leaves the file as it is and writes another beside it.",
            name=self.name(),
            what=listed(self.unkept, 4),
        )

    def _beside(self, path: Path) -> Path:
        """A file name beside another one that nothing has yet."""
        edited = (path.with_stem(tr("{stem} (edited{number})", stem=path.stem, number=number))
                  for number in ("", *(f" {n}" for n in range(2, 1000))))  # fmt: skip
        return next(each for each in edited if not each.exists())

    def save(self) -> bool:
        """Save in its file; ask for a place if it has none, or the file's format keeps less.

        A file with something that cannot be kept stays as it is: what is saved goes into one beside it.

        Returns:
            Whether it was saved: not if the question was given up.
        """
        if self.path is not None and self.unkept:
            self.save_to(self._beside(self.path))
            self.remark = tr("Saved as “{name}”, beside the file that was opened.", name=self.path.name)
            return True
        self.remark = ""
        if self.path is not None and self.keeps_all(self.path):
            answer = self._ask_about_changes() if self.changed_outside() else Answer.OVERWRITE
            if answer is Answer.OVERWRITE:
                self.save_to(self.path)
            if answer is not Answer.ELSEWHERE:
                return answer is Answer.OVERWRITE
        path = self.ask_where(f"Save the {self.noun}")
        if path is not None:
            self.save_to(self.with_ending(path))
        return path is not None

    def _ask_about_changes(self) -> Answer:
        """What becomes of a file that another program has changed meanwhile."""
        box = QMessageBox(self.widget)
        box.setObjectName("changed-outside")
        box.setIcon(QMessageBox.Icon.Warning)
        box.setText(tr("Another program has changed “{name}” since it was opened here.", name=self.name()))
        box.setInformativeText(tr("Saving here would lose what was changed there."))
        elsewhere = box.addButton(tr("Save under another name"), QMessageBox.ButtonRole.AcceptRole)
        over = box.addButton(tr("Save over it"), QMessageBox.ButtonRole.DestructiveRole)
        box.addButton(tr("Do not save"), QMessageBox.ButtonRole.RejectRole)
        box.setDefaultButton(elsewhere)
        box.exec()
        if box.clickedButton() is elsewhere:
            return Answer.ELSEWHERE
        return Answer.OVERWRITE if box.clickedButton() is over else Answer.NOTHING

    def may_close(self) -> bool:
        """Ask about unsaved changes. False: stay with this document."""
        if not self.modified():
            return True
        box = QMessageBox(self.widget)
        box.setObjectName("unsaved")
        box.setIcon(QMessageBox.Icon.Question)
        box.setText(tr("“{name}” has changes that are not saved.", name=self.name()))
        box.setInformativeText(tr("Save them first?"))
        save = box.addButton(tr("Save"), QMessageBox.ButtonRole.AcceptRole)
        leave = box.addButton(tr("Discard"), QMessageBox.ButtonRole.DestructiveRole)
        box.addButton(tr("Stay here"), QMessageBox.ButtonRole.RejectRole)
        box.setDefaultButton(save)
        box.exec()
        if box.clickedButton() is save:
            self.save()
            return not self.modified()
        return box.clickedButton() is leave


def in_a_file(document: Document) -> FileDocument:
    """A document as one that lies in a file.

    Raises:
        RimecrestError: documents of this application do not.
    """
    if not isinstance(document, FileDocument):
        raise RimecrestError(
            tr("A {noun} here lies in no file.", noun=document.noun),
            tr("Use the application’s own commands."),
        )
    return document


def text_of(path: Path) -> str:
    """The text of a file. Raises OSError or UnicodeDecodeError, which `open_path` puts into words."""
    return read_plain(path, LARGEST).decode()
