"""The card of an item: a small sheet with a beak that says what it is, in a sentence changed word by word."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QPointF, QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPainterPath, QPaintEvent, QPolygonF
from PyQt6.QtWidgets import (
    QApplication,
    QFrame,
    QGraphicsDropShadowEffect,
    QGridLayout,
    QHBoxLayout,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from rimecrest.core.catalogue.items import Faced
from rimecrest.core.check.findings import Finding
from rimecrest.core.errors import RimecrestError
from rimecrest.core.explain.given_key import Holder, between, given
from rimecrest.core.layout.seen import SeenButton, SeenPanel
from rimecrest.core.mend.fix import Fix
from rimecrest.core.mend.make_fixes import fixes
from rimecrest.core.suggest.free_keys import free_keys
from rimecrest.core.words import listed, tr
from rimecrest.core.workspace.edits import Edit
from rimecrest.core.workspace.give_key import context_for, give_key, own_key
from rimecrest.shell.theme import Scheme
from rimecrest.shell.there import there
from rimecrest.studio.layout.card_foot import CardFoot
from rimecrest.studio.layout.card_place import BEAK, CardPlace, Side, place_card
from rimecrest.studio.layout.card_sentence import CardSentence
from rimecrest.studio.layout.card_sheet import CardSheet
from rimecrest.studio.layout.doing_words import DoingWords
from rimecrest.studio.shared.key_field import ask_in_place
from rimecrest.studio.shared.marks import Mark
from rimecrest.studio.shared.sentence_widgets import Chip, Flow, Plain, Word, step_focus
from rimecrest.studio.shared.session import Session
from rimecrest.studio.shared.slim_bar import slim
from rimecrest.surfaces.button import ItemButton
from rimecrest.surfaces.painting import Painting
from rimecrest.surfaces.removal import show_page

WIDTH = 560
STATE = 148
"""Pixels of an item as the card shows it, at most."""


class Card(CardSheet):
    """The sheet of one item.

    Signals:
        fixes(fix): apply this fix of a finding.
    """

    fixes = pyqtSignal(Fix)

    def __init__(self, session: Session, painting: Painting, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(session, scheme, parent)
        self._painting = painting
        self.shown: SeenButton | None = None
        """The item that it is about; None: it was never open."""
        self._in_tab = False
        self._at = QRect()
        """The item's box, in the parent's pixels."""
        self._place: CardPlace | None = None
        self._taken = ""
        self._active = "card-run"
        """The word that was pressed last."""
        self._doings = DoingWords(self, self._say_again)
        self._on_panel = False
        self._body = QWidget()
        self._scroll = QScrollArea(self)
        self._scroll.setFrameShape(QFrame.Shape.NoFrame)
        self._scroll.setWidgetResizable(True)
        slim(self._scroll, scheme)
        self._scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        ground = self._scroll.palette()
        ground.setColor(ground.ColorRole.Window, scheme.color("sheet"))
        self._scroll.setPalette(ground)
        self.setObjectName("card")
        shadow = QGraphicsDropShadowEffect(self)
        shadow.setBlurRadius(22)
        shadow.setOffset(0, 5)
        shade = scheme.color("slate")
        shade.setAlpha(80)
        shadow.setColor(shade)
        self.setGraphicsEffect(shadow)

    @property
    def item(self) -> SeenButton:
        """The item that it is about, while it is open."""
        return there(self.shown)

    # Showing

    def show_item(self, item: SeenButton, in_tab: bool, at: QRect) -> None:
        """Open for an item whose box is there, in the parent's pixels. Drawn anew, it stays where it is."""
        fresh = self.shown is None or self.shown.id != item.id
        if fresh:
            self._taken = ""
            self._place = None
        self._about(item, fresh)
        focused = QApplication.focusWidget()
        # Drawn anew after a change, the word that was changed has the focus again.
        takes_focus = self.isHidden() or focused is None or self.isAncestorOf(focused)
        self.shown, self._in_tab, self._at = item, in_tab, at
        self._build()
        size = QSize(WIDTH, there(self._body.layout()).heightForWidth(WIDTH - 4) + 6)
        self._place = place_card(at, size, there(self.parentWidget()).rect(), self._place)
        whole = self._place.box.height() >= size.height()
        policy = Qt.ScrollBarPolicy.ScrollBarAlwaysOff if whole else Qt.ScrollBarPolicy.ScrollBarAsNeeded
        # Shown for a moment, the bar would make the words so narrow that they needed it.
        self._scroll.setVerticalScrollBarPolicy(policy)
        self.setGeometry(self._place.box)
        self._scroll.setGeometry(self._inner().adjusted(2, 2, -2, -2))
        self.show()
        self.raise_()
        if takes_focus:
            word = self._body.findChild(Word, self._active) or self._body.findChild(Word)
            word.setFocus(Qt.FocusReason.OtherFocusReason)

    def _inner(self) -> QRect:
        """The card without its beak, in its own pixels."""
        side = self._place.side if self._place is not None else Side.BELOW
        left, top, right, bottom = {
            Side.BELOW: (0, BEAK, 0, 0),
            Side.ABOVE: (0, 0, 0, -BEAK),
            Side.RIGHT: (BEAK, 0, 0, 0),
            Side.LEFT: (0, 0, -BEAK, 0),
        }[side]
        return self.rect().adjusted(left, top, right, bottom)

    def focusNextPrevChild(self, forward: bool) -> bool:
        return step_focus(self, forward)

    @property
    def subject(self) -> str:
        return self.shown.id if self.shown is not None else ""

    def forget(self) -> None:
        self.shown = self._place = None
        self._active = "card-run"

    def _about(self, item: SeenButton, fresh: bool) -> None:
        """On a panel it has events besides the click."""
        row = self.session.outcome().row_of(item.id)
        self._on_panel = isinstance(row, SeenPanel)
        stored = item.stored
        if isinstance(row, SeenPanel) and isinstance(stored, Faced):
            panel = row.id.rpartition(":")[2]
            self._doings.about(item.label, panel, stored.events, stored.on, item.doings, fresh, usual=None)

    def _say_again(self) -> None:
        if self.item is not None:
            self.show_item(self.item, self._in_tab, self._at)

    def word(self, flow: Flow, text: str, name: str, do: Callable[[Word], object], size: int = 14) -> None:
        def press(word: Word) -> None:
            self._remember(name)
            do(word)

        super().word(flow, text, name, press, size)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        if self._place is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self._inner()).adjusted(1, 1, -1, -1)
        path = QPainterPath()
        path.addRoundedRect(box, 6, 6)
        tip = QPointF(self._place.tip - self._place.box.topLeft())
        painter.setPen(self.scheme.color("line"))
        painter.setBrush(self.scheme.color("sheet"))
        painter.drawPath(path.united(_beak(box, tip, self._place.side)))

    # Its contents

    def _build(self) -> None:
        self._body = QWidget()
        self._body.setAutoFillBackground(True)
        columns = QHBoxLayout(self._body)
        columns.setContentsMargins(18, 14, 18, 12)
        columns.setSpacing(20)
        columns.addLayout(self._states())
        right = QVBoxLayout()
        right.setSpacing(8)
        assert self.item is not None
        doings = self._doings if self._on_panel else None
        sentence = CardSentence(
            self.session, self.item, self._painting, self.scheme, self._body, self, doings
        )
        sentence.wants.connect(self.wants)
        sentence.key_wanted.connect(self._listen)
        sentence.active.connect(self._remember)
        right.addWidget(sentence)
        if doings is not None and (steps := doings.steps_field(self._body)) is not None:
            right.addWidget(steps)
        for finding in self._findings()[:2]:
            right.addWidget(self._finding(finding))
        if self._taken:
            right.addWidget(self._taken_row())
        foot = CardFoot(self.session, self.item, self.scheme, self._body)
        foot.wants.connect(self.wants)
        foot.removes.connect(self._remove)
        right.addWidget(foot)
        right.addStretch(1)
        columns.addLayout(right, 1)
        show_page(self._scroll, self._body)

    def _remember(self, name: str) -> None:
        self._active = name

    def _remove(self, edit: Edit) -> None:
        self.shut()
        self.wants.emit(edit)

    def _states(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setVerticalSpacing(5)
        states = (
            ("", "resting"),
            ("pointed", tr("pointed at")),
            ("pressed", "pressed"),
            ("unavailable", "unavailable"),
        )
        for row, (state, words) in enumerate(states):
            button = ItemButton(self.item, self._painting, self._in_tab, self._body)
            button.shown_state = state
            button.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
            size = button.sizeHint()
            button.setFixedSize(min(size.width(), STATE), size.height())
            grid.addWidget(button, row, 0, Qt.AlignmentFlag.AlignHCenter)
            grid.addWidget(Plain(words, self.scheme, "ink2", 11), row, 1)
        grid.setRowStretch(4, 1)
        return grid

    # The key

    def _listen(self, word: Word) -> None:
        self._taken = ""
        ask_in_place(word, self.scheme, self.session.begins_sequence, self.offer_key)

    def offer_key(self, keys: str) -> None:
        """Give the key if nothing else loses it; otherwise say what has it, and offer others."""
        if self._others(keys):
            self._taken = keys
            self.show_item(self.item, self._in_tab, self._at)
        else:
            self._take_key(keys)

    def _others(self, keys: str) -> list[Holder]:
        """What would lose a key to this item, or keep it."""
        session, aim = self.session, self.session.aim
        try:
            found = given(session.workspace, self.key_edit(keys), aim.app, aim.layer, self.item.target, keys)
        except RimecrestError:
            return []
        return [*found.lost, *found.keeps]

    def key_edit(self, keys: str) -> Edit:
        """The edit that gives this item's target a key in the aimed layer, instead of the one it had."""
        workspace, aim = self.session.workspace, self.session.aim
        own = own_key(workspace, aim.layer, aim.app, self.item.target)
        context = context_for(workspace, aim.stack(workspace), aim.app, self.item.run)
        context = own.in_context if own is not None else context
        return give_key(workspace, aim.layer, aim.app, self.item.target, keys, context, moved=own)

    def said_of_key(self) -> str:
        """What the card says of a key that is taken; empty when it says nothing."""
        row = self._body.findChild(QWidget, "card-taken")
        return row.accessibleName() if row is not None else ""

    def _taken_row(self) -> QWidget:
        session, aim = self.session, self.session.aim

        row = QWidget(self._body)
        row.setObjectName("card-taken")
        flow = Flow(row, gap=4)
        having = listed(dict.fromkeys(holder.words for holder in self._others(self._taken)), 2)
        sentence = tr("{taken} is the key of {having}. Free are:", taken=self._taken, having=having)
        row.setAccessibleName(sentence)
        for part in sentence.split():
            flow.addWidget(Plain(part, self.scheme, "asks", 13, row))
        name = self.item.label or self.item.run or ""
        free = free_keys(session.workspace, aim.app, aim.layer, name, checked=session.checked)
        for number, keys in enumerate(free, 1):
            chip = Chip(keys, self.scheme, row)
            chip.setObjectName(f"free-key-{number}")
            chip.clicked.connect(partial(self._take_key, keys))
            flow.addWidget(chip)
        take = Chip(tr("Use it anyway"), self.scheme, row)
        take.setObjectName("take-over")
        take.clicked.connect(partial(self._take_key, self._taken))
        flow.addWidget(take)
        return row

    def _take_key(self, keys: str, _checked: bool = False) -> None:
        self._taken = ""
        session, aim, item = self.session, self.session.aim, self.item
        before = session.workspace
        self.wants.emit(self.key_edit(keys))
        if session.workspace is not before:
            found = between(before, session.workspace, aim.app, aim.layer, item.target, keys)
            if said := found.sentence(keys, item.label or item.run or ""):
                session.say(said)

    # Findings

    def _findings(self) -> list[Finding]:
        aim = self.session.aim
        wanted = {self.item.id}
        own = own_key(self.session.workspace, aim.layer, aim.app, self.item.target)
        if own is not None:
            wanted.add(f"{aim.layer}:{own.identity}")
        return [f for f in self.session.findings() if any(owner.id in wanted for owner in f.owners)]

    def _finding(self, finding: Finding) -> QWidget:
        box = QWidget(self._body)
        flow = Flow(box, gap=4)
        flow.addWidget(Mark(finding.weight, self.scheme, box))
        token = "ink2" if finding.weight.value == "tells" else finding.weight.value
        for part in finding.sentence.split():
            flow.addWidget(Plain(part, self.scheme, token, 13, box))
        for fix in fixes(finding, self.session.workspace, self.session.checked)[:4]:
            chip = Chip(fix.label, self.scheme, box)
            chip.clicked.connect(lambda _=False, fix=fix: self.fixes.emit(fix))
            flow.addWidget(chip)
        return box


def _beak(box: QRectF, tip: QPointF, side: Side) -> QPainterPath:
    """The beak from the edge of a card to its tip."""
    if side in (Side.BELOW, Side.ABOVE):
        edge = box.top() if side is Side.BELOW else box.bottom()
        x = max(box.left() + 14, min(tip.x(), box.right() - 14))
        base = [QPointF(x - 9, edge), QPointF(x + 9, edge)]
    else:
        edge = box.left() if side is Side.RIGHT else box.right()
        y = max(box.top() + 14, min(tip.y(), box.bottom() - 14))
        base = [QPointF(edge, y - 9), QPointF(edge, y + 9)]
    path = QPainterPath()
    path.addPolygon(QPolygonF([base[0], tip, base[1], base[0]]))
    return path
