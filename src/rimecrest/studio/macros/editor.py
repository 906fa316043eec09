"""The text of a macro: highlighted, with marks at faults. Its undo is the studio's."""

from __future__ import annotations

import re
from collections.abc import Callable

from PyQt6.QtCore import QEvent, QPoint, QRect, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QFocusEvent,
    QFont,
    QFontDatabase,
    QKeyEvent,
    QKeySequence,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QSyntaxHighlighter,
    QTextCharFormat,
    QTextDocument,
)
from PyQt6.QtWidgets import QPlainTextEdit, QTextEdit, QWidget

from rimecrest.core.macro.steps import WORDS, Fault
from rimecrest.core.search import Match
from rimecrest.core.words import tr
from rimecrest.shell.plain_text import is_writable, plain_text
from rimecrest.shell.theme import Scheme, font
from rimecrest.shell.there import there
from rimecrest.studio.shared.candidates import Candidates

Complete = Callable[[str], tuple[str, list[str]]]
REST = 300
"""Milliseconds of rest after which what was typed is saved."""
_GOES = (Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Home, Qt.Key.Key_End)
_PARTS = re.compile(
    r'(?P<comment>#.*)|(?P<text>"(?:\\.|[^"\\])*"?)|(?P<word>[a-z][a-z0-9.-]*)|(?P<mute>^\s*~)'
)
_OTHER = (
    "context",
    "or",
    "and",
    "not",
    "choices",
    "from",
    "default",
    "times",
    "each",
    "in",
    "limit",
    "contains",
    "is",
    "empty",
)


class Highlighter(QSyntaxHighlighter):
    """The language's words bold, text in the accent, its names underlined, comments and muted steps pale."""

    def __init__(self, document: QTextDocument, scheme: Scheme) -> None:
        super().__init__(document)
        self._word = QTextCharFormat()
        self._word.setFontWeight(QFont.Weight.Bold)
        self._text = QTextCharFormat()
        self._text.setForeground(scheme.color("crest"))
        self._pale = QTextCharFormat()
        self._pale.setForeground(scheme.color("ink2"))
        self._pale.setFontItalic(True)
        self._name = QTextCharFormat(self._text)
        self._name.setFontUnderline(True)

    def highlightBlock(self, text: str | None) -> None:
        assert text is not None
        if text.lstrip().startswith("~"):
            self.setFormat(0, len(text), self._pale)
            return
        first = True
        for found in _PARTS.finditer(text):
            start, length = found.start(), found.end() - found.start()
            if found["comment"]:
                self.setFormat(start, length, self._pale)
            elif found["text"]:
                self.setFormat(start, length, self._text)
                for name in re.finditer(r"\{[^{}]+\}", found["text"]):
                    self.setFormat(start + name.start(), len(name[0]), self._name)
            elif found["word"]:
                if (first and found["word"] in WORDS) or found["word"] in _OTHER:
                    self.setFormat(start, length, self._word)
                first = False


class Margin(QWidget):
    """Line numbers, and a sign at each line with a fault."""

    def __init__(self, editor: MacroText) -> None:
        super().__init__(editor)
        self._editor = editor

    def sizeHint(self) -> QSize:
        return QSize(self._editor.margin_width(), 0)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        assert event is not None
        self._editor.paint_margin(event)


class MacroText(QPlainTextEdit):
    """Emits `rested` with the text when the typing rests, or at once with `flush`."""

    rested = pyqtSignal(str)

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme
        self._faults: dict[int, str] = {}
        self._known = ""
        made = QFontDatabase.systemFont(QFontDatabase.SystemFont.FixedFont)
        made.setPixelSize(13)
        self.setFont(made)
        self.setObjectName("macro-text")
        self.setAccessibleName(tr("The macro as text"))
        self.setFrameShape(QPlainTextEdit.Shape.NoFrame)
        self.setLineWrapMode(QPlainTextEdit.LineWrapMode.NoWrap)
        self.setUndoRedoEnabled(False)
        self.setTabChangesFocus(True)
        self._highlighter = Highlighter(there(self.document()), scheme)
        self._margin = Margin(self)
        self.complete: Complete = lambda line: ("", [])
        """What goes on from a line up to the cursor: the letters that are there, and whole words."""
        self.offered: Candidates | None = None
        """The list that words are offered in: a part of the window, so that the keys stay here."""
        self._prefix = ""
        self.updateRequest.connect(self._scroll_margin)
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(REST)
        self._rest.timeout.connect(self.flush)
        self.textChanged.connect(self._typed)
        self.setViewportMargins(self.margin_width(), 0, 0, 0)

    def written(self) -> str:
        """The text as it was typed, down to characters that nobody sees."""
        return plain_text(there(self.document()), lines=False)

    def show_text(self, text: str) -> None:
        """Show a text that came from elsewhere; the cursor stays near where it was."""
        typing = self.written() not in (self._known, text)
        if typing and text == self._known:
            return  # what is being typed is newer, and is given out when it rests
        if text == f"{self.written()}\n":
            # Only the end of the last line came to it: who is writing there would have two.
            self._known = self.written()
            return
        self._known = text
        if text == self.written():
            return
        position, scrolled = self.textCursor().position(), there(self.verticalScrollBar()).value()
        self.blockSignals(True)
        self.setPlainText(text)
        self.blockSignals(False)
        cursor = self.textCursor()
        cursor.setPosition(min(position, len(text)))
        self.setTextCursor(cursor)
        there(self.verticalScrollBar()).setValue(scrolled)
        self._margin.update()

    def _typed(self) -> None:
        if self.written() != self._known:
            self._rest.start()

    def flush(self) -> None:
        """Give out what was typed and is not given out yet."""
        self._rest.stop()
        text = self.written()
        if text != self._known:
            self._known = text
            self.rested.emit(text)

    # Completion

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if self.offered is not None and self.offered.isVisible() and self._key_for_list(event.key()):
            return
        control = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        asked = control and event.key() == Qt.Key.Key_Space
        if not asked:
            super().keyPressEvent(event)
        if asked or (event.text() and is_writable(event.text())) or event.key() == Qt.Key.Key_Backspace:
            self._offer_words(asked)
        elif event.text() or event.key() in _GOES:
            self._hide_words()

    def focusNextPrevChild(self, forward: bool) -> bool:
        # Tab goes on to the next widget before it is a key press: the list of words has it first.
        if self.offered is not None and self.offered.isVisible():
            self.take_word(self.offered.current() or self.offered.entries[0])
            return True
        return super().focusNextPrevChild(forward)

    def _key_for_list(self, key: int) -> bool:
        """Take a key for the list of words. False: it is for the text."""
        assert self.offered is not None
        match key:
            case Qt.Key.Key_Down:
                self.offered.move_row(1)
            case Qt.Key.Key_Up:
                self.offered.move_row(-1)
            case Qt.Key.Key_Return | Qt.Key.Key_Enter if self.offered.current() is not None:
                self.take_word(self.offered.current())
            case Qt.Key.Key_Escape:
                self._hide_words()
            case _:
                return False
        return True

    def _hide_words(self) -> None:
        if self.offered is not None:
            self.offered.hide()

    def _offer_words(self, asked: bool) -> None:
        if self.offered is None:
            return
        cursor = self.textCursor()
        line = cursor.block().text()[: cursor.positionInBlock()]
        self._prefix, words = self.complete(line)
        if not words or not (asked or len(self._prefix) > 1 or line.endswith(("=", "{"))):
            self.offered.hide()
            return
        entries = [Match("word", word, word) for word in words[:8]]
        corner = there(self.viewport()).mapTo(self.offered.parentWidget(), self.cursorRect().bottomLeft())
        # Enter ends the line: it takes a word only when an arrow has chosen one.
        self.offered.row = -1
        self.offered.offer(self._prefix, entries, corner + QPoint(0, 4), tag=False)

    def take_word(self, entry: Match | None) -> None:
        self._hide_words()
        if entry is not None:
            self.textCursor().insertText(entry.id.removeprefix(self._prefix))
            self.setFocus()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self._hide_words()
        self.flush()

    def event(self, event: QEvent | None) -> bool:
        assert event is not None
        # Undo is the studio's, and takes back the whole step: here the editor's own must not catch the keys.
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent):
            if event.matches(QKeySequence.StandardKey.Undo) or event.matches(QKeySequence.StandardKey.Redo):
                self.flush()
                event.ignore()
                return False
        return super().event(event)

    def show_faults(self, faults: list[Fault]) -> None:
        """Underline each fault from its column to the end of its line."""
        self._faults = {}
        marks = []
        for fault in faults:
            self._faults.setdefault(fault.line, str(fault))
            block = there(self.document()).findBlockByNumber(fault.line - 1)
            if not block.isValid():
                continue
            mark = QTextEdit.ExtraSelection()
            mark.format.setUnderlineStyle(QTextCharFormat.UnderlineStyle.WaveUnderline)
            mark.format.setUnderlineColor(QColor(self._scheme.blocks))
            mark.format.setToolTip(str(fault))
            cursor = self.textCursor()
            cursor.setPosition(block.position() + min(max(fault.column - 1, 0), max(block.length() - 2, 0)))
            cursor.movePosition(cursor.MoveOperation.EndOfBlock, cursor.MoveMode.KeepAnchor)
            mark.cursor = cursor
            marks.append(mark)
        self.setExtraSelections(marks)
        self._margin.update()

    def go_to(self, line: int) -> None:
        """Put the cursor on a line, counted from 1."""
        block = there(self.document()).findBlockByNumber(line - 1)
        if block.isValid() and not self.hasFocus():
            cursor = self.textCursor()
            cursor.setPosition(block.position())
            self.setTextCursor(cursor)
            self.ensureCursorVisible()

    # The margin

    def margin_width(self) -> int:
        return 40

    def _scroll_margin(self, box: QRect, by: int) -> None:
        self._margin.scroll(0, by) if by else self._margin.update(
            0, box.y(), self._margin.width(), box.height()
        )

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        box = self.contentsRect()
        self._margin.setGeometry(box.left(), box.top(), self.margin_width(), box.height())

    def paint_margin(self, event: QPaintEvent) -> None:
        painter = QPainter(self._margin)
        painter.fillRect(event.rect(), self._scheme.color("paper"))
        block = self.firstVisibleBlock()
        top = self.blockBoundingGeometry(block).translated(self.contentOffset()).top()
        while block.isValid() and top <= event.rect().bottom():
            height = self.blockBoundingRect(block).height()
            number = block.blockNumber() + 1
            bad = number in self._faults
            painter.setFont(font(11))
            painter.setPen(self._scheme.color("blocks" if bad else "ink2"))
            words = f"! {number}" if bad else str(number)
            painter.drawText(
                0, int(top), self.margin_width() - 8, int(height), Qt.AlignmentFlag.AlignRight, words
            )
            block = block.next()
            top += height
