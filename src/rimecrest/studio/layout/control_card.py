"""The card of a panel's text, field, choice, list or tick box: its words, its entries, what happens when."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPoint, QRect, QSize, Qt
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from rimecrest.core.catalogue.items import Control
from rimecrest.core.layout.seen import SeenControl
from rimecrest.core.words import tr
from rimecrest.core.workspace.edits import ShowAgain, TakeOff
from rimecrest.shell.theme import Scheme
from rimecrest.shell.there import there
from rimecrest.studio.layout.card_place import place_card
from rimecrest.studio.layout.card_sheet import CardSheet
from rimecrest.studio.layout.control_kinds import BY_NAME
from rimecrest.studio.layout.doing_words import DoingWords
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.sentence_widgets import Flow, InlineField, Plain, Word
from rimecrest.studio.shared.session import Session

WIDTH = 440


class ControlCard(CardSheet):
    """The sheet of one control."""

    def __init__(self, session: Session, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(session, scheme, parent)
        self.item: SeenControl | None = None
        self._doings = DoingWords(self, self._say_again)
        self._at = QRect()
        self._around: QRect | None = None
        self._parts: list[QWidget] = []
        self._rows = QVBoxLayout(self)
        self._rows.setContentsMargins(18, 16, 18, 14)
        self._rows.setSpacing(10)
        self.setObjectName("control-card")

    def show_control(self, item: SeenControl, at: QRect, around: QRect | None = None) -> None:
        """Open for a control there, in the parent's pixels; `around` is its panel, which stays in sight."""
        fresh = self.item is None or self.item.id != item.id
        if not fresh and item == self.item and self.isVisible():
            return
        self.item = item
        self._at, self._around = at, around
        row = self.session.outcome().row_of(item.id)
        panel = row.id.rpartition(":")[2] if row is not None else ""
        stored = item.stored
        assert isinstance(stored, Control)
        events = stored.events
        self._doings.about(item.caption, panel, events, stored.on, item.doings, fresh, usual=events[0])
        self._lay(item)
        word = self.findChild(Word, "control-caption")
        if fresh and word is not None:
            word.setFocus(Qt.FocusReason.OtherFocusReason)

    def _lay(self, item: SeenControl) -> None:
        """Say it anew, in the place where there is room for it."""
        self._build(item)
        tall = self._rows.heightForWidth(WIDTH) if self._rows.hasHeightForWidth() else 0
        size = QSize(WIDTH, max(tall, self._rows.sizeHint().height()))
        room = there(self.parentWidget()).rect()
        self.setGeometry(place_card(self._at, size, room, None, self._around).box)
        self.show()
        self.raise_()

    def _say_again(self) -> None:
        if self.item is not None:
            self._lay(self.item)

    @property
    def subject(self) -> str:
        return self.item.id if self.item is not None else ""

    def forget(self) -> None:
        self.item = None

    # The words

    def _part(self, widget: QWidget) -> None:
        self._parts.append(widget)
        self._rows.addWidget(widget)
        widget.show()  # what is not shown yet counts for nothing in the card's height

    def _build(self, item: SeenControl) -> None:
        for old in self._parts:
            self._rows.removeWidget(old)
            old.hide()
            old.deleteLater()
        self._parts = []
        sentence = QWidget(self)
        flow = Flow(sentence)
        self.say(flow, BY_NAME[item.kind].word)
        self.word(flow, item.caption, "control-caption", self._edit_caption)
        if item.kind in ("field", "choice"):
            self.say(flow, tr("; at first"))
            self.word(flow, item.value or tr("empty"), "control-value", self._edit_value)
        if item.kind in ("choice", "list"):
            self.say(flow, tr("; entries"))
            shown = item.reading or ", ".join(item.choices) or tr("none yet")
            self.word(flow, shown, "control-entries", self._edit_entries)
        if item.kind == "tick":
            self.say(flow, tr("; at first"))
            now = tr("ticked") if item.value == "yes" else tr("not ticked")
            self.word(flow, now, "control-value", self._turn_value)
        self._doings.say(flow)
        self.say(flow, ".")
        sentence.setFixedHeight(flow.heightForWidth(WIDTH - 36))
        self._part(sentence)
        if (field := self._doings.steps_field(self)) is not None:
            self._part(field)
        foot = QWidget(self)
        line = Flow(foot, gap=10)
        aim, workspace = self.session.aim, self.session.workspace
        whose = (
            tr("from this layer")
            if item.layer == aim.layer
            else tr("from {layer}", layer=workspace.layer_title(item.layer))
        )
        line.addWidget(Plain(whose, self.scheme, "ink2", 12, foot))
        if item.holds_value:
            panel = self.session.outcome().row_of(item.id)
            stem = panel.id.rpartition(":")[2] if panel is not None else ""
            read = tr("macros read it as {name}", name=f"panel.{stem}.{item.id.rpartition(':')[2]}")
            line.addWidget(Plain(read, self.scheme, "ink2", 12, foot))
        if aim.layer in item.changed_by and item.layer != aim.layer:
            beneath = Word(tr("as the layer beneath has it"), self.scheme, 12, foot)
            beneath.setObjectName("control-as-beneath")
            back = ShowAgain(aim.layer, aim.app, item.id)
            beneath.clicked.connect(lambda _=False: self.wants.emit(back))
            line.addWidget(beneath)
        remove = Word(tr("remove"), self.scheme, 12, foot)
        remove.setObjectName("control-remove")
        remove.clicked.connect(lambda _=False: self._remove())
        line.addWidget(remove)
        foot.setFixedHeight(line.heightForWidth(WIDTH - 36))
        self._part(foot)

    # Changing

    def _field(self, word: Word, now: str, enter: Callable[[str], None]) -> None:
        field = InlineField(now, "", self, back=self)
        field.setObjectName("control-field")
        corner = word.mapTo(self, QPoint(0, 0))
        width = min(max(word.width() + 60, 240), self.width() - 24)
        left = max(10, min(corner.x(), self.width() - width - 12))
        field.setGeometry(left, corner.y() - 2, width, word.height() + 4)

        def done(text: str) -> None:
            field.hide()
            field.deleteLater()
            if text != now:
                enter(text)

        field.entered.connect(done)
        field.given_up.connect(lambda: done(now))
        field.show()
        field.setFocus()

    def _edit_caption(self, word: Word) -> None:
        assert self.item is not None
        kind = self.item.kind
        self._field(word, self.item.caption, lambda text: self.set_fields({kind: text}, tr("words")))

    def _edit_value(self, word: Word) -> None:
        assert self.item is not None
        self._field(word, self.item.value, lambda text: self.set_fields({"value": text}, tr("first value")))

    def _turn_value(self, _word: Word) -> None:
        assert self.item is not None
        self.set_fields({"value": self.item.value != "yes"}, tr("first value"))

    def _edit_entries(self, word: Word) -> None:
        """Fixed entries, written with commas between them, or those of a reading."""
        assert self.item is not None
        item = self.item
        catalogue = self.session.workspace.catalogue(self.session.aim.app)
        lists = [reading for reading in catalogue.readings if reading.type == "list"]
        rows = [("", tr("these, with commas between them …"))]
        rows += [
            (reading.id, tr("{name}: {about}", name=reading.id, about=reading.about)) for reading in lists
        ]

        def take(reading: str) -> None:
            if reading:
                self.set_fields({"from": reading, "choices": []}, tr("entries"))
            else:
                self._field(word, ", ".join(item.choices), write)

        def write(text: str) -> None:
            entries = [entry.strip() for entry in text.split(",") if entry.strip()]
            self.set_fields({"from": "", "choices": entries}, tr("entries"))

        choose_from(word, rows, item.reading, self.scheme, take)

    def write_steps(self) -> None:
        """Show the field for private steps, and go into it."""
        if self.item is not None:
            self._doings.write(self._doings.writing)

    def _remove(self) -> None:
        aim = self.session.aim
        if self.item is not None:
            edit = TakeOff(aim.layer, aim.app, (self.item.id,))
            self.shut()
            self.wants.emit(edit)
