"""What a window answers over the link: what it is and can do, its layout, its document, recording."""

from __future__ import annotations

import base64
from collections.abc import Callable
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QBuffer, QIODevice, Qt
from PyQt6.QtGui import QImage

from rimecrest.core.identities import MacroId
from rimecrest.core.model import validated
from rimecrest.core.paths import clean_path
from rimecrest.core.release.stack import StackState
from rimecrest.core.workspace.macro_file import macro_file
from rimecrest.embed.dispatcher import Dispatcher, Way
from rimecrest.embed.document import Reached
from rimecrest.embed.file_document import FileDocument, in_a_file
from rimecrest.embed.recorder import Recorder
from rimecrest.embed.shown_stack import ShownStack
from rimecrest.surfaces.frame import Frame
from rimecrest.surfaces.on_screen import where_on_screen


def link_methods(
    dispatcher: Dispatcher,
    recorder: Recorder,
    stack: ShownStack,
    frame: Frame,
    picture: Callable[[], QImage],
    reload: Callable[[], str],
) -> dict[str, Callable[..., Any]]:
    """The methods that others call over the link, by name.

    Args:
        picture: draws the document that is worked in.
        reload: shows what the seat's profile has installed, and returns what is new.
    """
    answers = _Answers(dispatcher, recorder, stack, frame)
    return {
        "hello": answers.hello,
        "catalogue": dispatcher.catalogue.to_data,
        "contexts": lambda: sorted(dispatcher.live()),
        "perform": answers.perform,
        "run": answers.run,
        "run.text": answers.run_text,
        "read": answers.read,
        "draft.show": answers.show_draft,
        "layout.reload": reload,
        "raise": answers.come_to_the_front,
        "picture": lambda: encoded(picture()),
        "where": answers.where,
        "record.start": answers.record_start,
        "record.stop": recorder.stop,
        "copy": answers.copy,
        "files": answers.files,
        "look": answers.look,
        "document.macros": answers.kept_macros,
        "document.put": answers.put_macro,
    }


class _Answers:
    """The answers that take more than a word."""

    def __init__(self, dispatcher: Dispatcher, recorder: Recorder, stack: ShownStack, frame: Frame) -> None:
        self._dispatcher = dispatcher
        self._recorder = recorder
        self._stack = stack
        self._frame = frame

    def come_to_the_front(self) -> bool:
        """Be before all other windows, with the keys."""
        window = self._frame.window()
        assert window is not None
        window.setWindowState(window.windowState() & ~Qt.WindowState.WindowMinimized)
        window.raise_()
        window.activateWindow()
        return True

    def hello(self) -> dict[str, Any]:
        catalogue, profile = self._dispatcher.catalogue, self._dispatcher.documents.folder
        return {
            "app": catalogue.app,
            "title": catalogue.title,
            "version": catalogue.version,
            "profile": str(profile.resolve()) if profile else "",
            "document": self._dispatcher.document.title(),
            "release": self._stack.state.release,
        }

    def perform(self, run: str, args: dict[str, str] | None = None) -> Any:
        answer = self._dispatcher.perform_or_raise(run, args or {}, Way.LINK)
        return dict(answer.args) if isinstance(answer, Reached) else answer

    def run(self, macro: str) -> bool:
        self._dispatcher.perform_or_raise(f"macro:{macro}", {}, Way.LINK)
        return True

    def run_text(self, text: str) -> bool:
        """Run a macro that is on no shelf here: whoever may speak on this link may do what it does."""
        file = macro_file("link", MacroId("link"), text)
        self._dispatcher.begin_steps(file)
        return True

    def read(self, name: str) -> Any:
        return self._dispatcher.read(name)

    def where(self, thing: str) -> Any:
        return where_on_screen(self._frame, thing)

    def record_start(self, name: str) -> bool:
        self._recorder.start(name)
        self.come_to_the_front()
        return True

    def kept_macros(self) -> dict[str, str]:
        document = self._dispatcher.document
        return dict(document.macros) if isinstance(document, FileDocument) else {}

    def put_macro(self, id: str, text: str | None = None) -> bool:
        in_a_file(self._dispatcher.document).put_macro(MacroId(id), text)
        return True

    def copy(self, folder: str) -> str:
        """Write a copy of the document into a folder, and leave the document as it is."""
        document = in_a_file(self._dispatcher.document)
        path = Path(folder) / f"{document.name()}{document.ending}"
        document.write_to(path, macros=False)
        return str(path)

    def files(self) -> list[str]:
        """The files that are open, the one worked in first."""
        open_now = self._dispatcher.documents
        ordered = sorted(open_now.all, key=lambda document: document is not open_now.current)
        return [str(each.path.absolute()) for each in ordered if isinstance(each, FileDocument) and each.path]

    def look(self, path: str, reading: str) -> Any:
        """What a reading tells of a file that is not shown for that."""
        dispatcher = self._dispatcher
        with dispatcher.documents.looked_into(clean_path(path)) as document:
            return dispatcher.read_from(document, reading)

    def show_draft(self, state: dict[str, Any]) -> bool:
        self._stack.draft = True
        self._stack.use(validated(StackState, state, "the draft"))
        return True


def encoded(image: QImage) -> str:
    """A picture as base64 of a PNG."""
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")
    return base64.b64encode(buffer.data().data()).decode()
