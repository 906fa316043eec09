"""What a window answers over the link: what it is and can do, its layout, its document, recording."""

from __future__ import annotations

import base64
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any, Protocol

from PyQt6.QtCore import QBuffer, QIODevice
from PyQt6.QtGui import QImage

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.errors import RimecrestError
from rimecrest.core.identities import MacroId
from rimecrest.core.layout.seen import Outcome
from rimecrest.core.model import validated
from rimecrest.core.paths import clean_path
from rimecrest.core.release.stack import StackState
from rimecrest.core.words import tr
from rimecrest.core.workspace.macro_file import macro_file
from rimecrest.embed.dispatcher import Dispatcher, Way
from rimecrest.embed.document import Document, Reached
from rimecrest.embed.file_document import FileDocument, in_a_file
from rimecrest.embed.recorder import Recorder
from rimecrest.surfaces.frame import Frame
from rimecrest.surfaces.on_screen import where_on_screen

if TYPE_CHECKING:  # an application without a profile starts without it
    from rimecrest.core.release.profile import Profile


class LinkedWindow(Protocol):
    """What the link needs of a window."""

    catalogue: Catalogue
    dispatcher: Dispatcher
    recorder: Recorder
    profile: Profile | None
    frame: Frame
    state: StackState
    draft: bool

    @property
    def document(self) -> Document:
        """The document that is worked in."""
        ...

    def picture(self) -> QImage:
        """The document that is worked in as it looks now."""
        ...

    def use(self, state: StackState) -> Outcome:
        """Show a stack."""
        ...

    def take_over(self, state: StackState) -> str:
        """Show a stack, and say what is new."""
        ...

    def retitle(self) -> None:
        """Write the title anew."""
        ...

    def come_to_the_front(self) -> None:
        """Be before all other windows, with the keys."""
        ...


def link_methods(window: LinkedWindow) -> dict[str, Callable[..., Any]]:
    """The methods that others call over the link, by name."""
    answers = _Answers(window)
    return {
        "hello": answers.hello,
        "catalogue": lambda: window.catalogue.to_data(),
        "contexts": lambda: sorted(window.dispatcher.live()),
        "perform": answers.perform,
        "run": answers.run,
        "run.text": answers.run_text,
        "read": answers.read,
        "draft.show": answers.show_draft,
        "layout.reload": answers.reload,
        "raise": answers.come_to_the_front,
        "picture": lambda: encoded(window.picture()),
        "where": answers.where,
        "record.start": answers.record_start,
        "record.stop": window.recorder.stop,
        "copy": answers.copy,
        "files": answers.files,
        "look": answers.look,
        "document.macros": answers.kept_macros,
        "document.put": answers.put_macro,
    }


class _Answers:
    """The answers that take more than a word."""

    def __init__(self, window: LinkedWindow) -> None:
        self._window = window

    def come_to_the_front(self) -> bool:
        self._window.come_to_the_front()
        return True

    def hello(self) -> dict[str, Any]:
        window = self._window
        return {
            "app": window.catalogue.app,
            "title": window.catalogue.title,
            "version": window.catalogue.version,
            "profile": str(window.profile.folder.resolve()) if window.profile else "",
            "document": window.document.title(),
            "release": window.state.release,
        }

    def perform(self, run: str, args: dict[str, str] | None = None) -> Any:
        answer = self._window.dispatcher.perform_or_raise(run, args or {}, Way.LINK)
        return dict(answer.args) if isinstance(answer, Reached) else answer

    def run(self, macro: str) -> bool:
        self._window.dispatcher.perform_or_raise(f"macro:{macro}", {}, Way.LINK)
        return True

    def run_text(self, text: str) -> bool:
        """Run a macro that is on no shelf here: whoever may speak on this link may do what it does."""
        file = macro_file("link", MacroId("link"), text)
        self._window.dispatcher.begin_steps(file)
        return True

    def read(self, name: str) -> Any:
        return self._window.dispatcher.read(name)

    def where(self, thing: str) -> Any:
        return where_on_screen(self._window.frame, thing)

    def record_start(self, name: str) -> bool:
        self._window.recorder.start(name)
        self._window.come_to_the_front()
        return True

    def kept_macros(self) -> dict[str, str]:
        document = self._window.document
        return dict(document.macros) if isinstance(document, FileDocument) else {}

    def put_macro(self, id: str, text: str | None = None) -> bool:
        in_a_file(self._window.document).put_macro(MacroId(id), text)
        return True

    def copy(self, folder: str) -> str:
        """Write a copy of the document into a folder, and leave the document as it is."""
        document = in_a_file(self._window.document)
        path = Path(folder) / f"{document.name()}{document.ending}"
        document.write_to(path, macros=False)
        return str(path)

    def files(self) -> list[str]:
        """The files that are open, the one worked in first."""
        open_now = self._window.dispatcher.documents
        ordered = sorted(open_now.all, key=lambda document: document is not open_now.current)
        return [str(each.path.absolute()) for each in ordered if isinstance(each, FileDocument) and each.path]

    def look(self, path: str, reading: str) -> Any:
        """What a reading tells of a file that is not shown for that."""
        dispatcher = self._window.dispatcher
        with dispatcher.documents.looked_into(clean_path(path)) as document:
            return dispatcher.read_from(document, reading)

    def show_draft(self, state: dict[str, Any]) -> bool:
        self._window.draft = True
        self._window.use(validated(StackState, state, "the draft"))
        self._window.retitle()
        return True

    def reload(self) -> str:
        window = self._window
        if window.profile is None:
            raise RimecrestError(tr("This window runs without a profile."))
        return window.take_over(window.profile.stack(window.catalogue.app))


def encoded(image: QImage) -> str:
    """A picture as base64 of a PNG."""
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")
    return base64.b64encode(buffer.data().data()).decode()
