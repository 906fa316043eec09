"""A letter: formatted text with tables and notes."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtGui import QTextFrame, QTextFrameFormat, QTextTable

from rimecrest.core.errors import RimecrestError
from rimecrest.core.progress import Tell
from rimecrest.core.words import tr
from rimecrest.kit.documents.document import Documents
from rimecrest.kit.documents.file_document import LARGE, text_of
from rimecrest.shell.plain_text import plain_text
from rimecrest.shell.there import there
from rimecrest_standins.formatted_text.document import FormattedText
from rimecrest_standins.formatted_text.html_bounds import check_page, words_of
from rimecrest_standins.formatted_text.text_bounds import as_plain, elements_beyond
from rimecrest_standins.letters.carried import Carried, with_carried
from rimecrest_standins.letters.carried_reader import read_carried
from rimecrest_standins.letters.unkept import unkept

MARGIN = 44
"""Pixels around the text."""
HTML = (".html", ".htm")


class LetterDocument(FormattedText):
    """The document of Letters."""

    noun = "letter"
    kinds = tr("Letters (*.html *.htm);;Text (*.txt);;All files (*)")
    ending = ".html"

    def __init__(self, documents: Documents) -> None:
        super().__init__(documents, MARGIN)
        self.replaced = 0
        """How many places the last replacing has changed."""
        self.sought_look = ""
        """The look that words were found by last."""

    def table(self) -> QTextTable | None:
        return self.cursor().currentTable()

    def note(self) -> QTextFrame | None:
        """The note that the cursor is in."""
        frame = self.cursor().currentFrame()
        root = self.text.rootFrame()
        while frame is not None and frame is not root:
            if not isinstance(frame, QTextTable):
                return frame
            frame = frame.parentFrame()
        return None

    def innermost(self) -> tuple[str, ...]:
        found = []
        if self.note() is not None:
            found.append("note")
        if self.table() is not None:
            found.append("table")
        return tuple(found) or ("writing",)

    # Files

    def modified(self) -> bool:
        return self.text.isModified() or self.macros_changed

    def saved(self) -> None:
        self.text.setModified(False)

    def keeps_all(self, path: Path) -> bool:
        return path.suffix.lower() in HTML

    def read_from(self, path: Path) -> None:
        # A parser of HTML, for files: a new letter needs none.

        page = path.suffix.lower() in HTML

        def read(tell: Tell) -> tuple[str, bool, tuple[str, ...], Carried]:
            text = text_of(path)
            if not page:
                plain = as_plain(text)
                return (
                    plain,
                    False,
                    (tr("words and lines of that length"),) if plain != text else (),
                    Carried(),
                )
            lost = tuple(unkept(text))
            tell(0.4)
            try:
                check_page(text)
            except RimecrestError as error:
                why = f"{error.sentence[0].lower()}{error.sentence[1:].rstrip('.')}"
                look = tr("its look ({why})", why=why)
                return as_plain(words_of(text)), False, (look, *lost), read_carried(text)
            tell(0.7)
            return text, True, lost, read_carried(text)

        text, looks, self.unkept, carried = self.read_long(path, read)
        self.macros, self.template = dict(carried.macros), carried.template
        if looks:
            self.page.setHtml(text)
        else:
            self.page.setPlainText(text)
        document = self.text
        root = there(document.rootFrame())
        root.setFrameFormat(_root_format(root))
        self.undo.forget()
        self.written = None
        document.setModified(False)

    def write_to(self, path: Path, macros: bool = True) -> None:
        bare = path.suffix.lower() == ".txt"
        text = plain_text(self.text) if bare else self.text.toHtml()
        carried = Carried(self.macros, self.template) if macros else Carried()

        def content(_tell: Tell) -> bytes:
            return (text if bare else with_carried(text, carried)).encode()

        self.write_long(path, len(text) >= LARGE, content)
        if not bare and (more := elements_beyond(text)):
            self.remark = tr("Saved. {more} Opened again, it shows its words without their look.", more=more)


def _root_format(root: QTextFrame) -> QTextFrameFormat:
    made = root.frameFormat()
    made.setMargin(MARGIN)
    return made
