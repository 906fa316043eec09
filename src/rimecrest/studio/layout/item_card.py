"""The card of an item: its four states, and a sentence that says what it is, changed word by word."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from typing import Any

from PyQt6.QtCore import QPoint, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPainterPath, QPaintEvent, QPolygonF
from PyQt6.QtWidgets import (
    QApplication,
    QGraphicsDropShadowEffect,
    QGridLayout,
    QHBoxLayout,
    QVBoxLayout,
    QWidget,
)

from rimecrest.core.catalogue import Argument, ArgumentType
from rimecrest.core.catalogue.arguments import SWITCHES
from rimecrest.core.check import Finding
from rimecrest.core.keys import Sequence as Keys
from rimecrest.core.keys import extends, format_sequence
from rimecrest.core.layout import KeyBinding, SeenButton
from rimecrest.core.mend.fixes import fixes
from rimecrest.core.suggest.free_keys import free_keys, holders
from rimecrest.core.workspace import (
    Bind,
    Edit,
    MacroFile,
    PutMacro,
    SetFields,
    ShowAgain,
    TakeOff,
    Together,
    Unbind,
    fresh_macro,
)
from rimecrest.shell.theme import Scheme
from rimecrest.studio.layout.key_field import KeyField
from rimecrest.studio.layout.pictures import PictureWall
from rimecrest.studio.layout.targets import target_entries
from rimecrest.studio.shared.marks import Mark
from rimecrest.studio.shared.search import Search
from rimecrest.studio.shared.sentence_widgets import (
    Chip,
    Flow,
    InlineField,
    KeyCaps,
    Plain,
    Word,
    choose_from,
    step_focus,
)
from rimecrest.studio.shared.session import Session
from rimecrest.surfaces import ItemButton, Painting

WIDTH = 560
BEAK = 10
FACES = (("both", "picture and words"), ("picture", "the picture only"), ("words", "words only"))
WIDTHS = (("1", "single"), ("2", "double"))
COLLAPSES = (("-1", "first"), ("0", "in turn"), ("1", "last"))


class Card(QWidget):
    """The sheet of one item.

    Signals:
        wants(edit): do this.
        fixes(fix): apply this fix of a finding.
        closed: it went away.
    """

    wants = pyqtSignal(object)
    fixes = pyqtSignal(object)
    closed = pyqtSignal()

    def __init__(self, session: Session, painting: Painting, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent)
        self._session = session
        self._painting = painting
        self._scheme = scheme
        self.item: SeenButton | None = None
        self._surface = ""
        self._in_tab = False
        self._beak_at = 60
        self._below = True
        self._taken = ""
        self._active = "card-run"
        """The word that was changed last."""
        self._body: QWidget | None = None
        self.setObjectName("card")
        self.setFixedWidth(WIDTH)
        shadow = QGraphicsDropShadowEffect(self)
        shadow.setBlurRadius(22)
        shadow.setOffset(0, 5)
        shade = scheme.color("slate")
        shade.setAlpha(80)
        shadow.setColor(shade)
        self.setGraphicsEffect(shadow)
        self.hide()

    # Showing

    def show_item(self, item: SeenButton, surface: str, in_tab: bool, beak: QPoint, height: int) -> None:
        """Open for an item whose lower (or upper) middle is at `beak`, in the parent's pixels."""
        if self.item is None or self.item.id != item.id:
            self._taken = ""
        focused = QApplication.focusWidget()
        # Drawn anew after a change, the word that was changed has the focus again.
        takes_focus = self.isHidden() or focused is None or self.isAncestorOf(focused)
        self.item, self._surface, self._in_tab = item, surface, in_tab
        self._build()
        size = self._body.sizeHint()
        tall = max(self._body.heightForWidth(WIDTH - 4), size.height()) + BEAK + 6
        room = self.parentWidget().rect()
        self._below = beak.y() + height + tall <= room.height() or beak.y() < room.height() / 2
        y = beak.y() + height if self._below else beak.y() - tall
        x = max(6, min(beak.x() - 80, room.width() - WIDTH - 10))
        self._beak_at = min(max(beak.x() - x, 20), WIDTH - 20)
        y = max(4, min(y, room.height() - tall - 4))
        self.setGeometry(x, y, WIDTH, tall)
        top = BEAK + 2 if self._below else 2
        self._body.setGeometry(2, top, WIDTH - 4, tall - BEAK - 4)
        self._body.show()
        self.show()
        self.raise_()
        if takes_focus:
            word = self._body.findChild(Word, self._active) or self._body.findChild(Word)
            word.setFocus(Qt.FocusReason.OtherFocusReason)

    def focusNextPrevChild(self, forward: bool) -> bool:
        return step_focus(self, forward)

    def shut(self) -> None:
        if self.isVisible():
            self.hide()
            self.item = None
            self._active = "card-run"
            self.closed.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.shut()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = (
            QRectF(self.rect()).adjusted(1, BEAK, -1, -1)
            if self._below
            else QRectF(self.rect()).adjusted(1, 1, -1, -BEAK)
        )
        path = QPainterPath()
        path.addRoundedRect(box, 6, 6)
        edge, tip = (box.top(), box.top() - BEAK) if self._below else (box.bottom(), box.bottom() + BEAK)
        beak = QPainterPath()
        beak.addPolygon(
            QPolygonF(
                [
                    QPointF(self._beak_at - 10, edge),
                    QPointF(self._beak_at, tip),
                    QPointF(self._beak_at + 10, edge),
                    QPointF(self._beak_at - 10, edge),
                ]
            )
        )
        painter.setPen(self._scheme.color("line"))
        painter.setBrush(self._scheme.color("sheet"))
        painter.drawPath(path.united(beak))

    # Its contents

    def _build(self) -> None:
        if self._body is not None:
            self._body.hide()
            self._body.deleteLater()
        self._body = QWidget(self)
        columns = QHBoxLayout(self._body)
        columns.setContentsMargins(18, 16, 18, 16)
        columns.setSpacing(20)
        columns.addLayout(self._states())
        right = QVBoxLayout()
        right.setSpacing(8)
        sentence = QWidget(self._body)
        self._sentence(Flow(sentence, gap=4, line_gap=3))
        right.addWidget(sentence)
        for finding in self._findings()[:2]:
            right.addWidget(self._finding(finding))
        if self._taken:
            right.addWidget(self._taken_row())
        right.addStretch(1)
        foot = QWidget(self._body)
        self._foot(Flow(foot, gap=6))
        right.addWidget(foot)
        columns.addLayout(right, 1)

    def _states(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setVerticalSpacing(6)
        for row, (state, words) in enumerate(
            (
                ("", "resting"),
                ("pointed", "pointed at"),
                ("pressed", "pressed"),
                ("unavailable", "unavailable"),
            )
        ):
            button = ItemButton(self.item, self._painting, self._in_tab, self._body)
            button.shown_state = state
            button.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
            button.setFixedSize(button.sizeHint())
            grid.addWidget(button, row, 0, Qt.AlignmentFlag.AlignHCenter)
            grid.addWidget(Plain(words, self._scheme, "ink2", 11), row, 1)
        grid.setRowStretch(4, 1)
        return grid

    def _word(self, flow: Flow, text: str, action: Callable[[Word], None], name: str = "") -> Word:
        word = Word(text, self._scheme, 14, self._body)
        if name:
            word.setObjectName(name)
        word.clicked.connect(lambda: self._act(word, action))
        flow.addWidget(word)
        return word

    def _act(self, word: Word, action: Callable[[Word], None]) -> None:
        self._active = word.objectName()
        action(word)

    def _plain(self, flow: Flow, text: str) -> None:
        for part in text.split():
            words = Plain(part, self._scheme, "ink", 14, self._body)
            words.setProperty("hugs", part in ".,")
            flow.addWidget(words)

    def _sentence(self, flow: Flow) -> None:
        item = self.item
        targets = self._session.workspace.targets(
            self._session.aim.stack(self._session.workspace), self._session.aim.app
        )
        face = targets.face(item.run)
        self._plain(flow, "Runs")
        words = "steps of its own" if self.item.steps else face.name or "nothing"
        self._word(flow, words, self._choose_target, "card-run")
        self._settings(flow)
        self._plain(flow, "Shows")
        self._choice(flow, "face", FACES, item.face)
        self._word(
            flow, "this picture" if item.picture else "a picture", self._choose_picture, "card-picture"
        )
        self._plain(flow, ", called")
        self._text(flow, "label", item.label, "card-label")
        self._plain(flow, ",")
        self._choice(flow, "width", WIDTHS, str(item.width), int)
        self._plain(flow, "width. Tip:")
        self._text(flow, "tip", item.tip or "none yet", "card-tip", item.tip)
        self._plain(flow, "Key")
        self._key_words(flow)
        self._plain(flow, ". Collapses")
        self._choice(flow, "collapse", COLLAPSES, str(max(-1, min(item.collapse, 1))), int)

    def _set(self, fields: dict[str, Any], label: str) -> None:
        aim = self._session.aim
        self.wants.emit(SetFields(aim.layer, aim.app, self.item.id, fields, label))

    def _choice(
        self,
        flow: Flow,
        field: str,
        choices: Sequence[tuple[str, str]],
        now: str,
        kind: Callable[[str], Any] = str,
    ) -> None:
        words = dict(choices)

        def open_list(word: Word) -> None:
            choose_from(
                word, choices, now, self._scheme, lambda value: self._set({field: kind(value)}, words[value])
            )

        self._word(flow, words.get(now, now), open_list, f"card-{field}")

    def _text(self, flow: Flow, field: str, shown: str, name: str, now: str | None = None) -> None:
        text = shown if now is None else now

        def edit(word: Word) -> None:
            self._field_over(word, text, lambda value: self._set({field: value}, f"{field} {value}"))

        self._word(flow, shown or "nothing", edit, name)

    def _field_over(self, word: Word, now: str, enter: Callable[[str], None]) -> None:
        field = InlineField(now, "", self._body, back=self)
        field.setObjectName("card-field")
        corner = word.mapTo(self._body, QPoint(0, 0))
        width = min(max(word.width() + 40, 200), self._body.width() - 20)
        field.setGeometry(
            min(corner.x(), self._body.width() - width - 8), corner.y() - 2, width, word.height() + 4
        )

        def done(text: str) -> None:
            field.hide()
            field.deleteLater()
            if text != now:
                enter(text)

        field.entered.connect(done)
        field.given_up.connect(lambda: done(now))
        field.show()
        field.setFocus()

    def _settings(self, flow: Flow) -> None:
        command = self._session.workspace.catalogue(self._session.aim.app).by_id.get(self.item.run or "")
        if command is None or not command.arguments:
            self._plain(flow, "with no settings.")
            return
        self._plain(flow, "with")
        given = dict(self.item.args)
        for argument in command.arguments:
            now = given.get(argument.name, argument.default or "")
            self._plain(flow, argument.name)
            self._word(flow, now or "…", partial(self._set_argument, argument=argument, now=now))
        self._plain(flow, ".")

    def _set_argument(self, word: Word, argument: Argument, now: str) -> None:
        def enter(value: str) -> None:
            args = {**dict(self.item.args), argument.name: value}
            command = self._session.workspace.catalogue(self._session.aim.app).by_id[self.item.run or ""]
            if faults := [fault for fault in command.argument_faults(args) if argument.name in fault]:
                self._session.say(f"{faults[0]}.")
            else:
                self._set({"args": args}, f"{argument.name} {value}")

        if argument.type in (ArgumentType.CHOICE, ArgumentType.SWITCH):
            choices = argument.choices or SWITCHES
            choose_from(word, [(value, value) for value in choices], now, self._scheme, enter)
        else:
            self._field_over(word, now, enter)

    def _choose_target(self, word: Word) -> None:
        session = self._session
        stack = session.aim.stack(session.workspace)
        search = Search(target_entries(session.workspace, stack, session.aim.app, session.outcome()))

        def enter(text: str) -> None:
            found = search.find(text, 1)
            if found:
                self._set({"run": found[0].id, "args": {}, "steps": None}, f"run {found[0].title}")
            else:
                session.say(f"There is no command or macro “{text}”.")

        self._field_over(word, word.text(), enter)

    def _choose_picture(self, word: Word) -> None:
        wall = PictureWall(self.item.label or "picture", self._painting.pictures, self._scheme, self)
        wall.chosen.connect(lambda name: self._set({"picture": name}, "picture"))
        wall.show_under(word)

    # The key

    def own_key(self) -> KeyBinding | None:
        """The binding of this item's target in the aimed layer."""
        layout = self._session.workspace.layout(self._session.aim.layer, self._session.aim.app)
        for key in layout.keys:
            if key.run == self.item.run and tuple(sorted(key.args.items())) == self.item.args:
                return key
        return None

    def _key_words(self, flow: Flow) -> None:
        shown = self._painting.keys.get(self.item.target, "")
        if shown:
            flow.addWidget(KeyCaps(shown, self._scheme, self._body))
        word = self._word(flow, "change" if shown else "press one", self._listen, "card-key")
        word.setToolTip("Press the keys it shall have")

    def _listen(self, word: Word) -> None:
        self._taken = ""
        field = KeyField(self._scheme, self._begins, self._body)
        corner = word.mapTo(self._body, QPoint(0, 0))
        field.setGeometry(corner.x(), corner.y() - 2, field.sizeHint().width(), 26)

        def over() -> None:
            field.hide()
            field.deleteLater()

        def pressed(keys: str) -> None:
            field.blockSignals(True)
            over()
            self.offer_key(keys)

        field.pressed.connect(pressed)
        field.given_up.connect(over)
        field.show()
        field.raise_()
        field.setFocus()

    def _begins(self, typed: Keys) -> bool:
        session = self._session
        bound = [binding.sequence for binding in session.outcome().bindings]
        opener = session.workspace.catalogue(session.aim.app).opener
        return format_sequence(typed) == opener or any(
            len(known) > len(typed) and extends(known, typed) for known in bound
        )

    def offer_key(self, keys: str) -> None:
        """Give the key when it is free; else say who has it."""
        session, own = self._session, self.own_key()
        mine = f"{session.aim.layer}:{own.identity}" if own else ""
        having = [
            owner
            for owner in holders(session.workspace, session.aim.app, session.aim.layer, keys)
            if owner.id != mine and (owner.run, owner.args) != self.item.target
        ]
        if having:
            self._taken = keys
            self._refresh()
        else:
            self._taken = ""
            self.wants.emit(self.key_edit(keys))

    def key_edit(self, keys: str) -> Edit:
        """The edit that gives this item's target a key in the aimed layer, instead of the one it had."""
        session, own = self._session, self.own_key()
        aim = session.aim
        context = own.in_context if own else self._context()
        key = KeyBinding(keys=keys, in_context=context, run=self.item.run, args=dict(self.item.args))
        edits: tuple[Edit, ...] = (Bind(aim.layer, aim.app, key),)
        if own is not None:
            edits = (Unbind(aim.layer, aim.app, own.identity), *edits)
        return Together(f"key {keys}", edits)

    def _context(self) -> str:
        """Where a key of this target is live: where the command works, or the macro's need."""
        workspace, aim = self._session.workspace, self._session.aim
        kind, _, name = (self.item.run or "").partition(":")
        if kind == "macro":
            file = workspace.macros_of(aim.stack(workspace)).get(name)
            needs = [need.context for need in file.macro.needs if need.context] if file else []
            return needs[0] if needs else "anywhere"
        command = workspace.catalogue(aim.app).by_id.get(self.item.run or "")
        return command.context if command else "anywhere"

    def said_of_key(self) -> str:
        """What the card says of a key that is taken; empty when it says nothing."""
        row = self.findChild(QWidget, "card-taken")
        return row.accessibleName() if row is not None else ""

    def _taken_row(self) -> QWidget:
        session = self._session
        row = QWidget(self._body)
        row.setObjectName("card-taken")
        flow = Flow(row, gap=4)
        having = holders(session.workspace, session.aim.app, session.aim.layer, self._taken)
        owner = next((o for o in having if (o.run, o.args) != self.item.target), having[0])
        title = session.workspace.layer_title(owner.layer)
        sentence = f"{owner.name} ({title}) has {self._taken}. Free are:"
        row.setAccessibleName(sentence)
        for part in sentence.split():
            flow.addWidget(Plain(part, self._scheme, "asks", 13, row))
        name = self.item.label or self.item.run or ""
        for number, keys in enumerate(
            free_keys(session.workspace, session.aim.app, session.aim.layer, name, checked=session.checked),
            1,
        ):
            chip = Chip(keys, self._scheme, row)
            chip.setObjectName(f"free-key-{number}")
            chip.clicked.connect(lambda _=False, keys=keys: self._take_key(keys))
            flow.addWidget(chip)
        take = Chip("Take it over", self._scheme, row)
        take.setObjectName("take-over")
        taken = self._taken
        take.clicked.connect(lambda: self._take_key(taken))
        flow.addWidget(take)
        return row

    def _take_key(self, keys: str) -> None:
        self._taken = ""
        self.wants.emit(self.key_edit(keys))

    def _refresh(self) -> None:
        if self.item is not None:
            beak = QPoint(self.x() + self._beak_at, self.y() if self._below else self.y() + self.height())
            self.show_item(self.item, self._surface, self._in_tab, beak, 0)

    # Findings and the foot

    def _findings(self) -> list[Finding]:
        wanted = {self.item.id}
        own = self.own_key()
        if own is not None:
            wanted.add(f"{self._session.aim.layer}:{own.identity}")
        return [f for f in self._session.findings() if any(owner.id in wanted for owner in f.owners)]

    def _finding(self, finding: Finding) -> QWidget:
        box = QWidget(self._body)
        flow = Flow(box, gap=4)
        flow.addWidget(Mark(finding.weight, self._scheme, box))
        for part in finding.sentence.split():
            flow.addWidget(Plain(part, self._scheme, _token(finding), 13, box))
        for fix in fixes(finding, self._session.workspace, self._session.checked)[:4]:
            chip = Chip(fix.label, self._scheme, box)
            chip.clicked.connect(lambda _=False, fix=fix: self.fixes.emit(fix))
            flow.addWidget(chip)
        return box

    def _foot(self, flow: Flow) -> None:
        session, item = self._session, self.item
        aim, workspace = session.aim, session.workspace
        words = [
            "from this layer" if item.layer == aim.layer else f"from {workspace.layer_title(item.layer)}"
        ]
        if also := self._also_on():
            words.insert(0, f"Also on {also}")
        flow.addWidget(Plain(" · ".join(words), self._scheme, "ink2", 12, self._body))
        if aim.layer in item.changed_by and item.layer != aim.layer:
            back = Word("as the layer beneath has it", self._scheme, 12, self._body)
            back.clicked.connect(lambda: self.wants.emit(ShowAgain(aim.layer, aim.app, item.id)))
            flow.addWidget(back)
        kind, _, name = (item.run or "").partition(":")
        file = workspace.macros_of(aim.stack(workspace)).get(name) if kind == "macro" else None
        if file is not None or item.steps:
            own = Word(
                "a macro of these steps" if item.steps else "steps of its own", self._scheme, 12, self._body
            )
            own.setObjectName("card-own-steps")
            own.setToolTip("Steps of its own go along with a copy of the item, and stand on no shelf")
            own.clicked.connect(lambda: self.wants.emit(self._own_steps(file)))
            flow.addWidget(own)
        off = Word("take off", self._scheme, 12, self._body)
        off.setObjectName("card-take-off")
        off.clicked.connect(self._take_off)
        flow.addWidget(off)

    def _own_steps(self, file: MacroFile | None) -> Edit:
        """Give the item its macro's steps as its own, or make a macro of those it has."""
        aim, item = self._session.aim, self.item
        if file is not None:
            fields = {"run": None, "steps": file.text}
            return SetFields(aim.layer, aim.app, item.id, fields, "steps of its own")
        name = fresh_macro(self._session.workspace, item.label)
        back = SetFields(aim.layer, aim.app, item.id, {"run": f"macro:{name}", "steps": None})
        return Together("a macro of its steps", (PutMacro(aim.layer, name, item.steps), back))

    def _take_off(self) -> None:
        edit = TakeOff(self._session.aim.layer, self._session.aim.app, (self.item.id,))
        self.shut()
        self.wants.emit(edit)

    def _also_on(self) -> str:
        session = self._session
        found: dict[str, None] = {}
        for layer in session.workspace.layers:
            seen = session.workspace.outcome(session.workspace.stack_up_to(layer), session.aim.app)
            for row, other in seen.buttons():
                same = other.target == self.item.target and other.layer == layer
                if same and (layer, other.id) != (session.aim.layer, self.item.id):
                    found[f"{session.workspace.layer_title(layer)}'s {row.title}"] = None
        return ", ".join(list(found)[:2])


def _token(finding: Finding) -> str:
    return "ink2" if finding.weight.value == "tells" else finding.weight.value
