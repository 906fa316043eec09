"""The sentence on a card: what the item runs and how it shows, each word a chooser."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from typing import Any

from PyQt6.QtCore import QPoint, QSize, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from rimecrest.core.catalogue.arguments import SWITCHES, Argument, ArgumentType
from rimecrest.core.layout.layout import KeyBinding
from rimecrest.core.layout.seen import SeenButton
from rimecrest.core.search import Search
from rimecrest.core.words import LONG, shortened, tr
from rimecrest.core.workspace.edits import Edit, SetFields, Together
from rimecrest.core.workspace.give_key import give_key, own_key
from rimecrest.shell.theme import Scheme
from rimecrest.studio.layout.doing_words import DoingWords
from rimecrest.studio.layout.targets import target_entries
from rimecrest.studio.pictures.opening import open_chooser
from rimecrest.studio.pictures.presenter import subject_of
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.file_choice import FileChoice
from rimecrest.studio.shared.key_context import choose_context, context_words
from rimecrest.studio.shared.sentence_widgets import Flow, InlineField, KeyCaps, Plain, Word
from rimecrest.studio.shared.session import Session
from rimecrest.surfaces.painting import Painting

FACES = (("both", tr("picture and words")), ("picture", tr("the picture only")), ("words", tr("words only")))
WIDTHS = (("1", "single"), ("2", "double"))
COLLAPSES = (("-1", "first"), ("0", tr("in order")), ("1", "last"))


class PictureWord(Word):
    """A word that is a picture."""

    def __init__(self, item: SeenButton, painting: Painting, scheme: Scheme, parent: QWidget) -> None:
        super().__init__("", scheme, 14, parent)
        self._pixmap = painting.pictures.pixmap(
            item.picture, scheme.color("ink"), 18, self.devicePixelRatioF()
        )
        self.setAccessibleName(tr("The picture") if self._pixmap else tr("No picture"))
        if self._pixmap is None:
            self.setText(tr("none yet"))

    def sizeHint(self) -> QSize:
        return super().sizeHint() if self._pixmap is None else QSize(26, super().sizeHint().height())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        if self._pixmap is not None:
            QPainter(self).drawPixmap(4, (self.height() - 20) // 2, self._pixmap)


class CardSentence(QWidget):
    """What one item is, said in words that can be changed.

    Signals:
        wants(edit): do this.
        key_wanted(word): the key is to be changed.
        active(name): this word was pressed last.
    """

    wants = pyqtSignal(Edit)
    key_wanted = pyqtSignal(Word)
    active = pyqtSignal(str)

    def __init__(
        self,
        session: Session,
        item: SeenButton,
        painting: Painting,
        scheme: Scheme,
        parent: QWidget,
        back: QWidget,
        doings: DoingWords | None,
    ) -> None:
        """
        Args:
            back: gets the keys again when a field has ended.
            doings: what it does at other events than a click; None off panels.
        """
        super().__init__(parent)
        self._session = session
        self._item = item
        self._painting = painting
        self._scheme = scheme
        self._back = back
        self._doings = doings
        self._flow = Flow(self, gap=4, line_gap=3)
        self._say()

    def _say(self) -> None:
        item, session = self._item, self._session
        targets = session.workspace.targets(session.aim.stack(session.workspace), session.aim.app)
        name = tr("private steps") if item.steps else targets.face(item.run).name or "nothing"
        self._plain(tr("Runs"))
        self._word(name, self._choose_target, "card-run")
        self._settings()
        self._plain(tr("Shows"))
        self._choice("face", FACES, item.face)
        self._plain(tr("; picture"))
        picture = PictureWord(item, self._painting, self._scheme, self)
        picture.setObjectName("card-picture")
        picture.when_pressed(lambda word: self._act(word, self._choose_picture))
        self._flow.addWidget(picture)
        self._plain(tr("; label"))
        self._text("label", item.label)
        self._plain(";")
        self._choice("width", WIDTHS, str(item.width), int)
        self._plain(tr("width. Tip"))
        self._text("tip", item.tip)
        self._plain(tr("Key") if item.tip.rstrip().endswith(".") else tr(". Key"))
        shown = self._painting.keys.get(item.target, "")
        if shown:
            self._flow.addWidget(KeyCaps(shown, self._scheme, self))
        word = self._word("change" if shown else tr("press one"), self.key_wanted.emit, "card-key")
        word.setToolTip(tr("Press the keys it shall have"))
        aim = session.aim
        own = own_key(session.workspace, aim.layer, aim.app, item.target)
        if own is not None:
            where = context_words(session, own.in_context)
            self._word(where, partial(self._choose_context, own), "card-key-context")
        also = [keys for keys in self._painting.all_keys.get(item.target, ()) if keys != shown]
        if also:
            self._plain(tr("; also"))
            for keys in also[:3]:
                self._flow.addWidget(KeyCaps(keys, self._scheme, self))
        if self._doings is not None:
            # A panel scrolls: nothing hides there when space is short.
            self._doings.say(self._flow)
        else:
            self._plain(tr(". When space is short, hides"))
            self._choice("collapse", COLLAPSES, str(max(-1, min(item.collapse, 1))), int)
        self._plain(".")

    def _choose_context(self, own: KeyBinding, word: Word) -> None:
        """Ask where the layer's own key of the target is live."""
        session, aim, target = self._session, self._session.aim, self._item.target

        def take(context: str) -> None:
            edit = give_key(session.workspace, aim.layer, aim.app, target, own.keys, context, moved=own)
            self.wants.emit(edit)

        choose_context(session, word, target, own.in_context, self._scheme, take)

    def _plain(self, text: str) -> None:
        for part in text.split():
            words = Plain(part, self._scheme, "ink", 14, self)
            words.setProperty("hugs", part in (".", ",", ";"))
            self._flow.addWidget(words)

    def _word(self, text: str, action: Callable[[Word], object], name: str = "") -> Word:
        word = Word(shortened(text), self._scheme, 14, self)
        word.setAccessibleName(text)
        if len(text) > LONG:
            word.setToolTip(text)
        if name:
            word.setObjectName(name)
        word.when_pressed(lambda word: self._act(word, action))
        self._flow.addWidget(word)
        return word

    def _act(self, word: Word, action: Callable[[Word], object]) -> None:
        self.active.emit(word.objectName())
        action(word)

    def _set(self, fields: dict[str, Any], label: str, besides: Sequence[Edit] = ()) -> None:
        aim = self._session.aim
        edit = SetFields(aim.layer, aim.app, self._item.id, fields, label)
        self.wants.emit(Together(label, (*besides, edit)) if besides else edit)

    def _choice(
        self, field: str, choices: Sequence[tuple[str, str]], now: str, kind: Callable[[str], Any] = str
    ) -> None:
        words = dict(choices)

        def open_list(word: Word) -> None:
            choose_from(
                word, choices, now, self._scheme, lambda value: self._set({field: kind(value)}, words[value])
            )

        self._word(words.get(now, now), open_list, f"card-{field}")

    def _text(self, field: str, now: str) -> None:
        def edit(word: Word) -> None:
            self.field_over(word, now, lambda value: self._set({field: value}, f"{field} {value}"))

        self._word(now or tr("none yet"), edit, f"card-{field}")

    def field_over(self, word: Word, now: str, enter: Callable[[str], None]) -> None:
        """A field in place of a word, wide enough for the whole of it."""
        field = InlineField(now, "", self, back=self._back)
        field.setObjectName("card-field")
        corner = word.mapTo(self, QPoint(0, 0))
        wanted = max(word.width() + 40, 200, field.fontMetrics().horizontalAdvance(now) + 30)
        width = min(wanted, self.width())
        left = max(0, min(corner.x(), self.width() - width))
        field.setGeometry(left, corner.y() - 2, width, word.height() + 4)

        def done(text: str) -> None:
            field.hide()
            field.deleteLater()
            if text != " ".join(now.split()):
                enter(text)

        field.entered.connect(done)
        field.given_up.connect(lambda: done(" ".join(now.split())))
        field.show()
        field.raise_()
        field.setFocus()

    def _settings(self) -> None:
        command = self._session.workspace.catalogue(self._session.aim.app).by_id.get(self._item.run or "")
        if command is None or not command.arguments:
            self._plain(tr("with no settings."))
            return
        self._plain(tr("with"))
        given = dict(self._item.args)
        for argument in command.arguments:
            now = given.get(argument.name, argument.default or "")
            self._plain(argument.name)
            self._word(
                now or "…",
                partial(self._set_argument, argument=argument, now=now),
                f"card-setting-{argument.name}",
            )
        self._plain(".")

    def _set_argument(self, word: Word, argument: Argument, now: str) -> None:
        def enter(value: str, *besides: Edit) -> None:
            args = {**dict(self._item.args), argument.name: value}
            command = self._session.workspace.catalogue(self._session.aim.app).by_id[self._item.run or ""]
            if faults := [fault for fault in command.argument_faults(args) if argument.name in fault]:
                self._session.say(f"{faults[0]}.")
            else:
                self._set({"args": args}, f"{argument.name} {value}", besides)

        if argument.type is ArgumentType.PATH:
            corner = word.mapToGlobal(QPoint(0, word.height() + 2))
            choice = FileChoice(self._session, self._scheme, self)
            take = partial(choice.take, corner=corner, commit=enter)
            write = partial(self.field_over, word, now, take)
            choice.choose(self._session.aim.app, now, corner, enter, write, self._back.setFocus)
        elif argument.type in (ArgumentType.CHOICE, ArgumentType.SWITCH):
            choices = argument.choices or SWITCHES
            choose_from(word, [(value, value) for value in choices], now, self._scheme, enter)
        else:
            self.field_over(word, now, enter)

    def _choose_target(self, word: Word) -> None:
        session = self._session
        stack = session.aim.stack(session.workspace)
        search = Search(target_entries(session.workspace, stack, session.aim.app, session.outcome()))

        def enter(text: str) -> None:
            found = search.find(text, 1)
            if found:
                self._set({"run": found[0].id, "args": {}, "steps": None}, f"run {found[0].title}")
            else:
                session.say(tr("There is no command or macro “{text}”.", text=text))

        self.field_over(word, word.accessibleName(), enter)

    def _choose_picture(self, word: Word) -> None:
        aim = self._session.aim
        subject = subject_of(aim.layer, aim.app, self._item)
        open_chooser(self._session, subject, self._painting.pictures, self._scheme, word, self._back)
