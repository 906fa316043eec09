"""The picture chooser: found, drawn, imported or used here, with the final button beside it.

Every choice shows at once on the button itself; there is nothing to confirm. Escape keeps what is chosen,
*back as it was* is one click.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QEvent, QObject, QPoint, QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QDragEnterEvent,
    QDropEvent,
    QKeyEvent,
    QKeySequence,
    QPainter,
    QPaintEvent,
    QPen,
)
from PyQt6.QtWidgets import QApplication, QHBoxLayout, QLabel, QLineEdit, QStackedWidget, QVBoxLayout, QWidget

from rimecrest.core.errors import RimecrestError
from rimecrest.core.pictures.drawing import Drawing
from rimecrest.core.words import counted, tr
from rimecrest.shell.pictures import PictureBook
from rimecrest.shell.theme import Scheme, bold, font, palette
from rimecrest.shell.there import there
from rimecrest.studio.history.versions import choose_version
from rimecrest.studio.pictures.bringing_in import Arrived, from_clipboard, from_file
from rimecrest.studio.pictures.drawn_page import DrawnPage
from rimecrest.studio.pictures.found import found, how_many, note_taken
from rimecrest.studio.pictures.imported_page import ImportedPage
from rimecrest.studio.pictures.leaf import Leaf
from rimecrest.studio.pictures.letters import MOST as MOST_LETTERS
from rimecrest.studio.pictures.letters import letters_svg
from rimecrest.studio.pictures.offered_data import holds_picture
from rimecrest.studio.pictures.presenter import PicturePresenter
from rimecrest.studio.pictures.preview import Preview
from rimecrest.studio.pictures.wall import Wall
from rimecrest.studio.shared.sentence_widgets import Field, Plain, Word, step_focus
from rimecrest.studio.shared.session import Session

SIZE = QSize(872, 454)
EDGES = (84, 8, -8, -42)
"""Pixels of the window that it leaves free: the places at its left, the findings at its foot."""
FOUND, DRAWN, IMPORTED, USED = tr("found"), tr("drawn"), tr("imported"), tr("used here")


class PictureChooser(QWidget):
    """A sheet over the window for the picture of one thing.

    Signals:
        said(sentence): something to say to the user.
        closed: it went away.
    """

    said = pyqtSignal(str)
    closed = pyqtSignal()

    def __init__(
        self,
        session: Session,
        presenter: PicturePresenter,
        book: PictureBook,
        scheme: Scheme,
        parent: QWidget,
    ) -> None:
        super().__init__(parent)
        self._session = session
        self.presenter = presenter
        self._book = book
        self._scheme = scheme
        self.setObjectName("picture-chooser")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setPalette(palette(scheme))
        self.setAcceptDrops(True)
        self.resize(SIZE)
        self.field = Field(scheme, "", self)
        self.field.setObjectName("picture-search")
        self.wall = Wall(book, scheme, self)
        self.drawn = DrawnPage(scheme, self)
        self.imported = ImportedPage(scheme, self)
        self.used = Wall(book, scheme, self)
        self.used.setObjectName("picture-used")
        self.preview = Preview(book, presenter.subject.words, scheme, self)
        self.letters = QLineEdit(self)
        self.letters.setObjectName("picture-letters")
        self._pages = QStackedWidget(self)
        self._leaves: dict[str, Leaf] = {}
        self._count = QLabel(self.field)
        self._note = Plain("", scheme, "ink2", 12)
        self._build()
        self._join()
        self._look()
        self._show_now()
        self.turn_to(FOUND)

    # Building

    def _build(self) -> None:
        rows = QVBoxLayout(self)
        rows.setContentsMargins(22, 16, 22, 14)
        rows.setSpacing(10)
        head = QHBoxLayout()
        title = Plain(tr("Picture for {words}", words=self.presenter.subject.words), self._scheme, "ink", 16)
        title.setFont(bold(16))
        title.setMaximumWidth(330)
        head.addWidget(title)
        head.addStretch(1)
        self.field.setFixedWidth(400)
        self.field.setPlaceholderText(tr("a word, as in “ferry”"))
        self.field.setAccessibleName(tr("Find a picture"))
        self.field.setTextMargins(9, 0, 110, 0)
        head.addWidget(self.field)
        rows.addLayout(head)
        leaves = QHBoxLayout()
        leaves.setSpacing(4)
        pages = ((FOUND, self.wall), (DRAWN, self.drawn), (IMPORTED, self.imported), (USED, self.used))
        for name, page in pages:
            leaf = self._leaves[name] = Leaf(name, self._scheme, self)
            leaf.clicked.connect(partial(self._turn_by_hand, name))
            leaves.addWidget(leaf)
            self._pages.addWidget(page)
        leaves.addStretch(1)
        rows.addLayout(leaves)
        body = QHBoxLayout()
        body.setSpacing(18)
        body.addWidget(self._pages, 1)
        body.addLayout(self._side())
        rows.addLayout(body, 1)
        self._count.setFont(font(11))
        self._count.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        self._count.setGeometry(280, 0, 112, 30)
        self._count.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)

    def _side(self) -> QVBoxLayout:
        side = QVBoxLayout()
        side.setSpacing(10)
        self.preview.setFixedWidth(272)
        side.addWidget(self.preview)
        line = QHBoxLayout()
        line.addWidget(Plain(tr("Letters instead:"), self._scheme, "ink2", 12))
        self.letters.setMaxLength(MOST_LETTERS)
        self.letters.setFixedWidth(64)
        self.letters.setFont(bold(13))
        self.letters.setAccessibleName(tr("Letters as the picture"))
        line.addWidget(self.letters)
        line.addStretch(1)
        side.addLayout(line)
        hint = Plain(
            tr("Paste a picture copied in any program, or drop a file here. Ctrl+C copies this one out."),
            self._scheme,
            "ink2",
            12,
        )
        hint.setWordWrap(True)
        side.addWidget(hint)
        self._note.setWordWrap(True)
        self._note.setObjectName("picture-note")
        side.addWidget(self._note)
        side.addStretch(1)
        foot = QHBoxLayout()
        foot.setSpacing(8)
        foot.addWidget(Plain(tr("Escape keeps it."), self._scheme, "ink2", 12))
        words = (
            (tr("back as it was"), "picture-back", self._back),
            (tr("no picture"), "picture-none", self._none),
            (tr("earlier"), "picture-earlier", self._earlier),
            (tr("copy"), "picture-copy", self.copy_out),
        )
        for text, name, do in words:
            foot.addWidget(self._word(text, name, do))
        foot.addStretch(1)
        side.addLayout(foot)
        return side

    def _word(self, text: str, name: str, do: Callable[[], object]) -> Word:
        word = Word(text, self._scheme, 12, self)
        word.setObjectName(name)
        word.clicked.connect(lambda _=False: do())
        return word

    def _join(self) -> None:
        self.field.textChanged.connect(lambda _: self._search())
        self.field.installEventFilter(self)
        self.wall.taken.connect(self._take)
        self.wall.currentItemChanged.connect(lambda *_: self._show_marked())
        self.used.taken.connect(self._take)
        self.drawn.drawn.connect(self._draw)
        self.imported.file_wanted.connect(lambda path: self.bring_in(lambda: from_file(Path(path))))
        self.imported.paste_wanted.connect(self.paste)
        self.letters.textEdited.connect(self._write)

    # Where it stands

    def show_at(self, box: QRect) -> None:
        """Open below what it is about, or where there is room; `box` is in the parent's pixels."""
        parent = self.parentWidget()
        room = parent.rect().adjusted(*EDGES) if parent is not None else QRect()
        self.resize(min(SIZE.width(), room.width()), min(SIZE.height(), room.height()))
        left = max(room.left(), min(box.center().x() - self.width() // 2, room.right() - self.width()))
        below, above = box.bottom() + 10, box.top() - self.height() - 10
        free = below if below + self.height() <= room.bottom() or above < room.top() else above
        top = max(room.top(), min(free, room.bottom() - self.height()))
        self.move(QPoint(left, top))
        self.show()
        self.raise_()
        self.field.setFocus()

    # The pages

    def _turn_by_hand(self, name: str, _checked: bool = False) -> None:
        self.turn_to(name)
        page = self._pages.currentWidget()
        target = self.drawn.canvas if page is self.drawn else self.field if page is self.wall else page
        if target is not None:
            target.setFocus()

    def turn_to(self, name: str) -> None:
        """Show one of the pages."""
        for at, (leaf, button) in enumerate(self._leaves.items()):
            button.setChecked(leaf == name)
            if leaf == name:
                self._pages.setCurrentIndex(at)
        if name == DRAWN:
            content = self.presenter.content()
            self.drawn.begin(Drawing.of(content) if content is not None else Drawing.empty())
        if name == USED:
            self.used.forget_drawn()
            self.used.show_pictures(self.presenter.used_here(), self.presenter.now)

    # Finding

    def _search(self) -> None:
        if self._pages.currentWidget() is not self.wall:
            self.turn_to(FOUND)
        self._look()

    def _look(self) -> None:
        typed = self.field.text().strip()
        shown = found(typed, self.presenter.now, self.presenter.subject.words)
        self.wall.show_pictures(shown, self.presenter.now)
        if not typed:
            self._show_now()
        every = how_many()
        count = tr("{shown} of {all:,}", shown=len(shown), all=every) if shown else tr("no such picture")
        self._count.setText(count)

    def _show_marked(self) -> None:
        """Show the picture that Enter would take of those that were searched for."""
        row = self.wall.currentItem()
        if row is not None and self.field.text().strip():
            name = self.wall.name_of(row)
            self.preview.show_picture(name, self.presenter.content(name), name == self.presenter.now)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Enter and the arrows in the field are for the wall; with what it is about it goes."""
        if watched is not self.field:
            if event is not None and event.type() == QEvent.Type.Hide:
                self.close()
            return False
        if not isinstance(event, QKeyEvent) or event.type() != QEvent.Type.KeyPress:
            return False
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.wall.take_current()
            return True
        if event.matches(QKeySequence.StandardKey.Paste) and self._picture_copied():
            self.paste()
            return True
        if event.key() == Qt.Key.Key_Down and self.wall.count():
            self.wall.setFocus()
            return True
        return False

    # What is done

    def _take(self, name: str) -> None:
        note_taken(name)
        if self.presenter.take(name):
            self._show_now()

    def _draw(self, drawing: Drawing) -> None:
        if self.presenter.put(drawing.to_svg()):
            self._show_now()

    def _write(self, text: str) -> None:
        if text.strip() and self.presenter.put(letters_svg(text.strip())):
            self._show_now()

    def bring_in(self, read: Callable[[], Arrived]) -> None:
        """Take a picture from outside, and say how it came out."""
        self.turn_to(IMPORTED)
        try:
            arrived = read()
        except RimecrestError as error:
            self.imported.outcome.setText(str(error))
            self.said.emit(str(error))
            return
        if self.presenter.put(arrived.content, arrived.name):
            self.imported.outcome.setText(arrived.says)
            self._show_now()

    def _picture_copied(self) -> bool:
        data = there(QApplication.clipboard()).mimeData()
        return data is not None and holds_picture(data)

    def paste(self) -> None:
        """Take the picture on the clipboard."""
        data = there(QApplication.clipboard()).mimeData()
        if data is not None:
            self.bring_in(lambda: from_clipboard(data))

    def copy_out(self) -> None:
        """Copy the picture for any other program."""
        done = self.preview.copy_out()
        self.said.emit(
            tr("The picture is on the clipboard, as an image.")
            if done
            else tr("There is no picture to copy.")
        )

    def _earlier(self) -> None:
        """Bring an earlier version of a picture of one's own back."""
        path = self.presenter.path()
        word = self.findChild(Word, "picture-earlier")
        if not path or word is None:
            self.said.emit(tr("Only a picture of your own has earlier versions."))
            return
        choose_version(self._session, path, word, self._scheme, lambda content, _: self._put_again(content))

    def _put_again(self, content: bytes) -> None:
        if self.presenter.put(content):
            self._show_now()

    def _back(self) -> None:
        if self.presenter.back():
            self.letters.clear()
            self._show_now()
            if self._leaves[DRAWN].isChecked():
                self.turn_to(DRAWN)

    def _none(self) -> None:
        if self.presenter.none():
            self._show_now()

    def _show_now(self) -> None:
        content = self.presenter.content()
        self.preview.show_picture(self.presenter.now, content)
        others = self.presenter.also_shown()
        self._note.setText(
            tr("{others} show it as well, and change with it.", others=counted(others, tr("other thing")))
            if others
            else ""
        )

    # Keys, drops, drawing

    def focusNextPrevChild(self, forward: bool) -> bool:
        return step_focus(self, forward)

    def event(self, event: QEvent | None) -> bool:
        """Its own keys are not for the window behind it."""
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.ShortcutOverride:
            drawing = self._pages.currentWidget() is self.drawn
            own = [QKeySequence.StandardKey.Paste, QKeySequence.StandardKey.Copy]
            own += [QKeySequence.StandardKey.Undo, QKeySequence.StandardKey.Redo] if drawing else []
            if any(event.matches(key) for key in own):
                event.accept()
                return True
        return super().event(event)

    def follow(self) -> None:
        """Show what the thing has now."""
        before = self.presenter.now
        self.presenter.follow()
        if self.presenter.now != before:
            self._show_now()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        ahead = {Qt.Key.Key_Tab: 1, Qt.Key.Key_Backtab: -1}.get(Qt.Key(event.key()), 0)
        if event.key() == Qt.Key.Key_Escape:
            self.close()
        elif ahead and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            names = list(self._leaves)
            self._turn_by_hand(names[(self._pages.currentIndex() + ahead) % len(names)])
        elif event.matches(QKeySequence.StandardKey.Paste):
            self.paste()
        elif event.matches(QKeySequence.StandardKey.Copy):
            self.copy_out()
        elif event.matches(QKeySequence.StandardKey.Undo):
            self.drawn.undo()
        elif event.matches(QKeySequence.StandardKey.Redo):
            self.drawn.redo()
        # Whatever else is pressed here is for nothing behind it.

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        if event is not None and (data := event.mimeData()) is not None and holds_picture(data):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        if event is not None and (data := event.mimeData()) is not None:
            event.acceptProposedAction()
            self.bring_in(lambda: from_clipboard(data))

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self._scheme.color("crest"), 1))
        painter.setBrush(self._scheme.color("sheet"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8)

    def hideEvent(self, _event: object) -> None:
        self.closed.emit()
