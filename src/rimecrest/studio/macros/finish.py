"""The one sentence that finishes a recording: called, kept, on, after, key, *Try it*; with good defaults."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent, QObject, QRect, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from rimecrest.core.catalogue.items import Button
from rimecrest.core.errors import RimecrestError
from rimecrest.core.explain.given_key import given
from rimecrest.core.suggest.free_keys import free_keys
from rimecrest.core.words import tr
from rimecrest.core.workspace.edits import Edit, PutItems, Together
from rimecrest.core.workspace.file_edits import CarryMacro, PutMacro
from rimecrest.core.workspace.fresh import fresh_thing
from rimecrest.core.workspace.give_key import context_for, give_key
from rimecrest.core.workspace.layer_ids import MINE
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.shell.theme import Scheme
from rimecrest.shell.there import there
from rimecrest.studio.macros.finish_words import (
    IN_DOCUMENT,
    NEW_TAB,
    NOWHERE,
    Spot,
    new_tab,
    shelves,
    spots,
    words_of,
)
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.key_choice import KeyChoice
from rimecrest.studio.shared.key_context import choose_context, context_words
from rimecrest.studio.shared.sentence_widgets import Flow, InlineField, Plain, Push, Word, end_fields
from rimecrest.studio.shared.session import Session

OFFERED = 5
"""Free keys in the list."""
NONE = ""


class FinishSentence(QWidget):
    """Asks where a macro shall go. `done(run)`: put there; `later`: not yet."""

    done = pyqtSignal(str)
    try_wanted = pyqtSignal(str)
    later = pyqtSignal()
    renamed = pyqtSignal(str)

    def __init__(
        self,
        session: Session,
        scheme: Scheme,
        file: MacroFile,
        document: str = "",
        keep_there: Callable[[str, str], str] = lambda identity, text: "",
    ) -> None:
        """
        Args:
            document: the name of the document that it was recorded in, while that is open; else empty.
            keep_there: keeps a macro, by its id and text, in that document; returns
                the sentence that says so, or nothing where it did not.
        """
        super().__init__()
        self._session = session
        self._scheme = scheme
        self.file = file
        self._document = document
        self._keep_there = keep_there
        self.setObjectName("finish")
        self._spots = spots(session)
        self.kept = file.layer
        own = self.kept != MINE
        self.surface = self._spots[0].id if self._spots and own else NOWHERE
        self.after = self._last(self.surface)
        self.tab = ""
        """The name of the new tab, where it goes on one."""
        self.offered: list[str] = []
        self.keys = NONE
        self._context = ""
        """Where the key is live, if that was chosen."""
        self._suggest()
        rows = QVBoxLayout(self)
        rows.setContentsMargins(16, 12, 16, 12)
        rows.addWidget(Plain(tr("Recorded. Where shall it go?"), scheme, "ink2", 12))
        self._sentence = QWidget()
        self._flow = Flow(self._sentence)
        rows.addWidget(self._sentence)
        buttons = QHBoxLayout()
        for words, name, first, do in (
            (tr("Put it there and try it"), "finish-try", True, self._try),
            (tr("Put it there"), "finish-put", False, self._put),
            (tr("Not yet"), "finish-later", False, self.later.emit),
        ):
            push = Push(words, scheme, first)
            push.setObjectName(name)
            push.setToolTip(tr("Ctrl+Enter") if name == "finish-put" else "")
            push.clicked.connect(lambda _=False, do=do: do())
            buttons.addWidget(push)
        buttons.addStretch(1)
        rows.addLayout(buttons)
        self._field: InlineField | None = None
        self._choice = KeyChoice(session, scheme)
        self._say()

    def begin(self) -> None:
        """Take the keys: the name is ready to be written over."""
        self._edit_name(self._named("finish-name"))

    def _named(self, name: str) -> Word:
        found = self.findChildren(Word, name)[-1]
        assert isinstance(found, Word)
        return found

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if _puts(event):
            self._put()
        else:
            super().keyPressEvent(event)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if isinstance(watched, InlineField) and isinstance(event, QKeyEvent) and _puts(event):
            if event.type() == QEvent.Type.KeyPress:
                watched.keep()
                self._put()
            return True
        return super().eventFilter(watched, event)

    def _suggest(self) -> None:
        """Look for free keys by the macro's name, to be offered."""
        session, aim = self._session, self._session.aim
        self.offered = free_keys(
            session.workspace, aim.app, aim.layer, self.file.name, OFFERED, checked=session.checked
        )

    def _spot(self, surface: str) -> Spot | None:
        return next((spot for spot in self._spots if spot.id == surface), None)

    def _last(self, surface: str) -> str | None:
        spot = self._spot(surface)
        return spot.items[-1].id if spot and spot.items else None

    def _say(self) -> None:
        """Write the sentence anew; the word that had the keys has them still, after the name the next."""
        focused = self.focusWidget()
        before = focused.objectName() if isinstance(focused, Word) else ""
        while (item := self._flow.takeAt(0)) is not None:
            if (old := item.widget()) is not None:
                old.hide()
                old.deleteLater()
        self._plain(tr("Called"))
        self._word(self.file.name, "finish-name", self._edit_name)
        self._plain(tr(", kept"))
        kept = dict(shelves(self._session, self._document))
        self._word(kept.get(self.kept, self.kept), "finish-kept", self._choose_shelf)
        if self.kept != IN_DOCUMENT:
            self._say_where()
            self._plain(tr(", key"))
            self._word(self.keys or tr("none"), "finish-key", self._choose_key)
            if self.keys:
                where = context_words(self._session, self._key_context())
                self._word(where, "finish-key-context", self._choose_context)
        self._sentence.setMinimumHeight(self._flow.heightForWidth(max(self.width() - 40, 420)))
        for index in range(self._flow.count()):
            there(there(self._flow.itemAt(index)).widget()).show()
        names = [word.objectName() for word in self.findChildren(Word) if not word.isHidden()]
        if before in names:
            self._named(before).setFocus()

    def _say_where(self) -> None:
        spot = self._spot(self.surface)
        title = spot.title if spot else tr("nothing yet")
        if self.surface == NEW_TAB:
            title = tr("the new tab “{tab}”", tab=self.tab)
        self._plain(tr(", on"))
        self._word(title, "finish-surface", self._choose_surface)
        if spot is not None:
            self._plain(tr("after"))
            label = next((words_of(item) for item in spot.items if item.id == self.after), "")
            self._word(label or tr("nothing: first"), "finish-after", self._choose_after)

    def _plain(self, words: str) -> None:
        plain = Plain(words, self._scheme, "ink", 14)
        plain.setProperty("hugs", words.startswith(","))
        self._flow.addWidget(plain)

    def _word(self, words: str, name: str, do: Callable[[Word], object]) -> None:
        word = Word(words, self._scheme, 14)
        word.setObjectName(name)
        word.when_pressed(do)
        self._flow.addWidget(word)

    # Choosing

    def _over(self, word: Word, wider: int) -> QRect:
        corner = word.mapTo(self, word.rect().topLeft())
        return QRect(corner.x(), corner.y() - 2, max(word.width() + wider, 120), word.height() + 6)

    def _ask(self, word: Word, now: str, taken: Callable[[str], object]) -> None:
        """A field over a word; an empty one, or one that says the same, changes nothing."""
        if self._field is not None:
            self._field.keep()
        field = self._field = InlineField(now, "", self, back=self)
        field.setObjectName("finish-field")
        over = self._over(word, 20)
        field.setGeometry(over)
        # The sentence makes room: what follows the word is read beside the field, not covered by it.
        word.setMinimumWidth(over.width())

        def done(text: str) -> None:
            by_key = field.by_key
            self._field = None
            word.setMinimumWidth(0)
            field.hide()
            field.deleteLater()
            if text and text != now:
                taken(text)
            if by_key:
                # What is said of the macro goes on behind its name.
                where = "finish-surface" if self.kept != IN_DOCUMENT else "finish-kept"
                self._named(where).setFocus()

        field.entered.connect(done)
        field.given_up.connect(lambda: done(""))
        field.installEventFilter(self)
        field.show()
        field.setFocus()

    def _edit_name(self, word: Word) -> None:
        self._ask(word, self.file.name, self.renamed.emit)

    def take_over(self, file: MacroFile) -> None:
        """The macro has another name: other keys are easy to remember for it."""
        self.file = file
        self._suggest()
        self._say()

    def _choose_shelf(self, word: Word) -> None:
        choose_from(word, shelves(self._session, self._document), self.kept, self._scheme, self._take_shelf)

    def _take_shelf(self, layer: str) -> None:
        self.kept = layer
        if layer in (MINE, IN_DOCUMENT):
            # A shared layout runs nothing that its colleagues do not have.
            self.surface, self.after, self.keys = NOWHERE, None, NONE
        elif self.surface == NOWHERE and self._spots:
            self.surface, self.after = self._spots[0].id, self._last(self._spots[0].id)
        self._say()

    def _choose_surface(self, word: Word) -> None:
        pairs = [(spot.id, spot.title) for spot in self._spots]
        pairs += [(NEW_TAB, tr("new tab …")), (NOWHERE, tr("nothing yet"))]

        def take(surface: str) -> None:
            if surface == NEW_TAB:
                self._ask(word, "", lambda title: self._take_surface(NEW_TAB, title))
            else:
                self._take_surface(surface)

        choose_from(word, pairs, self.surface, self._scheme, take)

    def _take_surface(self, surface: str, tab: str = "") -> None:
        self.surface, self.after, self.tab = surface, self._last(surface), tab
        self._share()
        self._say()

    def _share(self) -> None:
        """What a shared layout runs is kept where its colleagues have it."""
        if self.kept == MINE and (self.surface or self.keys):
            self.kept = self._session.aim.layer

    def _choose_after(self, word: Word) -> None:
        spot = self._spot(self.surface)
        items = spot.items if spot else ()
        pairs = [("", tr("nothing: first")), *((item.id, words_of(item)) for item in items)]

        def take(identity: str) -> None:
            self.after = identity or None
            self._say()

        choose_from(word, pairs, self.after or "", self._scheme, take)

    def _choose_key(self, word: Word) -> None:
        self._choice.choose(word, self.offered, self.keys, self._take_key, self.setFocus, tr("none"))

    def _key_context(self) -> str:
        """Where the key is live: as was chosen, otherwise where the macro can run."""
        if self._context:
            return self._context
        workspace, aim = self._session.workspace, self._session.aim
        stack = (*workspace.stack_up_to(aim.layer), self.file.layer)
        return context_for(workspace, stack, aim.app, f"macro:{self.file.id}")

    def _choose_context(self, word: Word) -> None:
        def take(context: str) -> None:
            self._context = context
            self._say()

        target = (f"macro:{self.file.id}", ())
        choose_context(self._session, word, target, self._key_context(), self._scheme, take)

    def _take_key(self, keys: str) -> str:
        self.keys = keys
        self._share()
        self._say()
        return self._said_of_key() if keys else ""

    def _said_of_key(self) -> str:
        """What the key takes from others once the macro is put there."""
        aim, edit = self._session.aim, self.edit()
        if edit is None:
            return ""
        target = (f"macro:{self.file.id}", ())
        try:
            found = given(self._session.workspace, edit, aim.app, aim.layer, target, self.keys)
        except RimecrestError:
            return ""
        return found.sentence(self.keys, self.file.name)

    # Doing

    def edit(self) -> Edit | None:
        """The edit that puts it all there; None when nothing is to be put."""
        aim, run = self._session.aim, f"macro:{self.file.id}"
        workspace = self._session.workspace
        edits: list[Edit] = []
        if self.kept == IN_DOCUMENT:
            return PutMacro(self.file.layer, self.file.id, None)
        if self.kept != self.file.layer:
            edits.append(CarryMacro(self.file.layer, self.file.id, self.kept))
        if self.surface:
            item = Button(id=fresh_thing(workspace, aim.layer, aim.app, self.file.id), run=run)
            edits.append(
                new_tab(self._session, self.tab, item)
                if self.surface == NEW_TAB
                else PutItems(aim.layer, aim.app, self.surface, self.after, (item,))
            )
        if self.keys:
            edits.append(give_key(workspace, aim.layer, aim.app, (run, ()), self.keys, self._key_context()))
        return Together(f"place {self.file.name}", tuple(edits)) if edits else None

    def _put(self) -> bool:
        end_fields(self)  # the name that is being typed is its name
        file = self.file
        # First there, then away from here: never in neither place.
        said = self._keep_there(file.id, file.text) if self.kept == IN_DOCUMENT else ""
        if self.kept == IN_DOCUMENT and not said:
            return False
        edit = self.edit()
        if edit is not None and not self._session.do(edit):
            return False
        if said:
            self._session.say(said)
        self.done.emit(file.id)
        return True

    def _try(self) -> None:
        identity, there = self.file.id, self.kept != IN_DOCUMENT
        if self._put() and there:
            self.try_wanted.emit(identity)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self._scheme.color("crest"), 1))
        painter.setBrush(self._scheme.color("sheet"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6)


def _puts(event: QKeyEvent) -> bool:
    """Whether it is Ctrl+Enter, which puts the macro there."""
    held = event.modifiers() & ~Qt.KeyboardModifier.KeypadModifier
    enter = event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter)
    return enter and held == Qt.KeyboardModifier.ControlModifier
