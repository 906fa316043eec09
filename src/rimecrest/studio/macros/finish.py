"""The one sentence that finishes a recording: called, on, after, key, *Try it*; each with a good default."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QRectF, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from rimecrest.core.catalogue.surfaces import Button
from rimecrest.core.layout import SeenButton, SeenItem, SeenMenu
from rimecrest.core.suggest.free_keys import free_keys
from rimecrest.core.words import tr
from rimecrest.core.workspace import Edit, MacroFile, PutItems, Together, fresh_thing
from rimecrest.core.workspace.give_key import context_for, give_key
from rimecrest.shell.theme import Scheme
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.sentence_widgets import Flow, InlineField, KeyCaps, Plain, Push, Word
from rimecrest.studio.shared.session import Session

NOWHERE = ""


@dataclass(frozen=True)
class Spot:
    """A surface that the aimed layer can put things on, with what stands there."""

    id: str
    title: str
    items: tuple[SeenItem, ...]


def spots(session: Session) -> list[Spot]:
    """The surfaces of what the aimed seat sees, those of the aimed layer first."""
    seen = session.outcome()
    found = [
        Spot(row.id, row.title or row.id, row.items) for row in seen.rows() if not isinstance(row, SeenMenu)
    ]
    own = f"{session.aim.layer}:"
    return sorted(found, key=lambda spot: not spot.id.startswith(own))


def _words(item: SeenItem) -> str:
    return (item.label if isinstance(item, SeenButton) else "") or "a separator"


class FinishSentence(QWidget):
    """Asks where a macro shall go. `done(run)`: put there; `later`: not yet."""

    done = pyqtSignal(str)
    try_wanted = pyqtSignal(str)
    later = pyqtSignal()
    renamed = pyqtSignal(str)

    def __init__(self, session: Session, scheme: Scheme, file: MacroFile) -> None:
        super().__init__()
        self._session = session
        self._scheme = scheme
        self.file = file
        self.setObjectName("finish")
        self._spots = spots(session)
        self.surface = self._spots[0].id if self._spots else NOWHERE
        self.after = self._last(self.surface)
        aim = session.aim
        self._offered = free_keys(
            session.workspace, aim.app, aim.layer, file.name, 5, checked=session.checked
        )
        self.keys = self._offered[0] if self._offered else ""
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
            push.clicked.connect(lambda _=False, do=do: do())
            buttons.addWidget(push)
        buttons.addStretch(1)
        rows.addLayout(buttons)
        self._say()

    def _spot(self, surface: str) -> Spot | None:
        return next((spot for spot in self._spots if spot.id == surface), None)

    def _last(self, surface: str) -> str | None:
        spot = self._spot(surface)
        return spot.items[-1].id if spot and spot.items else None

    def _say(self) -> None:
        while (item := self._flow.takeAt(0)) is not None:
            if (old := item.widget()) is not None:
                old.hide()
                old.deleteLater()
        self._plain(tr("Called"))
        self._word(self.file.name, "finish-name", self._edit_name)
        spot = self._spot(self.surface)
        self._plain(tr(", on"))
        self._word(spot.title if spot else tr("nothing yet"), "finish-surface", self._choose_surface)
        if spot is not None:
            self._plain(tr("after"))
            label = next((_words(item) for item in spot.items if item.id == self.after), "")
            self._word(label or tr("nothing: first"), "finish-after", self._choose_after)
        self._plain(tr(", key"))
        self._word(self.keys or "none", "finish-key", self._choose_key)
        if self.keys:
            self._flow.addWidget(KeyCaps(self.keys, self._scheme))
        self._sentence.setMinimumHeight(self._flow.heightForWidth(max(self.width() - 40, 420)))
        for index in range(self._flow.count()):
            self._flow.itemAt(index).widget().show()

    def _plain(self, words: str) -> None:
        plain = Plain(words, self._scheme, "ink", 14)
        plain.setProperty("hugs", words.startswith(","))
        self._flow.addWidget(plain)

    def _word(self, words: str, name: str, do: object) -> None:
        word = Word(words, self._scheme, 14)
        word.setObjectName(name)
        assert callable(do)
        word.clicked.connect(lambda _=False: do(word))
        self._flow.addWidget(word)

    # Choosing

    def _edit_name(self, word: Word) -> None:
        field = InlineField(self.file.name, "", self, back=self)
        field.setObjectName("finish-field")
        corner = word.mapTo(self, word.rect().topLeft())
        field.setGeometry(corner.x(), corner.y() - 2, max(word.width() + 80, 220), word.height() + 6)

        def done(text: str) -> None:
            field.hide()
            field.deleteLater()
            if text and text != self.file.name:
                self.renamed.emit(text)

        field.entered.connect(done)
        field.given_up.connect(lambda: done(""))
        field.show()
        field.setFocus()

    def take_over(self, file: MacroFile) -> None:
        """The macro has another name."""
        self.file = file
        self._say()

    def _choose_surface(self, word: Word) -> None:
        pairs = [(spot.id, spot.title) for spot in self._spots] + [(NOWHERE, tr("nothing yet"))]
        choose_from(word, pairs, self.surface, self._scheme, self._take_surface)

    def _take_surface(self, surface: str) -> None:
        self.surface, self.after = surface, self._last(surface)
        self._say()

    def _choose_after(self, word: Word) -> None:
        spot = self._spot(self.surface)
        items = spot.items if spot else ()
        pairs = [("", tr("nothing: first")), *((item.id, _words(item)) for item in items)]

        def take(identity: str) -> None:
            self.after = identity or None
            self._say()

        choose_from(word, pairs, self.after or "", self._scheme, take)

    def _choose_key(self, word: Word) -> None:
        def take(keys: str) -> None:
            self.keys = keys
            self._say()

        pairs = [*((keys, keys) for keys in self._offered), ("", "none")]
        choose_from(word, pairs, self.keys, self._scheme, take)

    # Doing

    def edit(self) -> Edit | None:
        """The edit that puts it all there; None when nothing is to be put."""
        aim, run = self._session.aim, f"macro:{self.file.id}"
        workspace = self._session.workspace
        edits: list[Edit] = []
        if self.surface:
            item = Button(id=fresh_thing(workspace, aim.layer, aim.app, self.file.id), run=run)
            edits.append(PutItems(aim.layer, aim.app, self.surface, self.after, (item,)))
        if self.keys:
            context = context_for(workspace, aim.stack(workspace), aim.app, run)
            edits.append(give_key(workspace, aim.layer, aim.app, (run, ()), self.keys, context))
        return Together(f"place {self.file.name}", tuple(edits)) if edits else None

    def _put(self) -> bool:
        edit = self.edit()
        if edit is not None and not self._session.do(edit):
            return False
        self.done.emit(self.file.id)
        return True

    def _try(self) -> None:
        identity = self.file.id
        if self._put():
            self.try_wanted.emit(identity)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self._scheme.color("crest"), 1))
        painter.setBrush(self._scheme.color("sheet"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6)
