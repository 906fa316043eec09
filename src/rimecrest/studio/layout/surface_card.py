"""The card of a tab, group or bar: a sentence whose words are changed in place, and where it comes from."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from PyQt6.QtCore import QPoint, QRect, QSize, Qt
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from rimecrest.core.catalogue.applies import Applies
from rimecrest.core.catalogue.surfaces import AFLOAT
from rimecrest.core.layout.seen import (
    BUILT_IN,
    Outcome,
    SeenGroup,
    SeenPanel,
    SeenRow,
    SeenSubmenu,
    SeenTab,
    SeenToolbar,
)
from rimecrest.core.words import counted, tr
from rimecrest.core.workspace.edits import ShowAgain
from rimecrest.shell.theme import Scheme
from rimecrest.shell.there import there
from rimecrest.studio.layout.card_place import BEAK, place_card
from rimecrest.studio.layout.card_sheet import CardSheet
from rimecrest.studio.layout.doing_words import DoingWords
from rimecrest.studio.layout.surface_presenter import EDGES, SurfacePresenter
from rimecrest.studio.pictures.opening import open_chooser
from rimecrest.studio.pictures.presenter import Subject
from rimecrest.studio.shared.applies_words import AppliesChooser, applies_words
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.sentence_widgets import Flow, InlineField, Plain, Word
from rimecrest.studio.shared.session import Session
from rimecrest.surfaces.painting import Painting
from rimecrest.surfaces.removal import drop

WIDTH = 460
LINES = (("", tr("a line of its own")), ("1", tr("line 1")), ("2", tr("line 2")), ("3", tr("line 3")))
"""The lines of an edge that bars may share."""


GROUNDS = (("sheet", tr("white")), ("paper", tr("pale")), ("spine", tr("grey")))
"""The grounds of a panel."""
FLOWS = (("column", tr("in rows")), ("grid", tr("on a free grid")))
SHOWN = (("window", tr("with the window")), ("button", tr("by its button")))


class SurfaceCard(CardSheet):
    """The sheet of one surface."""

    def __init__(
        self,
        session: Session,
        presenter: SurfacePresenter,
        painting: Painting,
        scheme: Scheme,
        parent: QWidget,
    ) -> None:
        super().__init__(session, scheme, parent)
        self._presenter = presenter
        self._painting = painting
        self.surface = ""
        self._doings = DoingWords(self, self._say_again)
        self._shown: tuple[Outcome, QRect] | None = None
        self._sentence = QWidget(self)
        self._foot = QWidget(self)
        self._inner = QRect()
        self.setObjectName("surface-card")

    def show_surface(self, identity: str, seen: Outcome, at: QRect) -> None:
        """Open for a surface whose name or handle is there, in the parent's pixels."""
        thing: SeenTab | SeenRow | None = seen.tab(identity) or seen.row(identity)
        if thing is None:
            self.shut()
            return
        same = self.surface == identity and self.isVisible()
        self.surface = identity
        self._shown = seen, at
        if isinstance(thing, SeenPanel):
            name = identity.rpartition(":")[2]
            on = dict(thing.on)
            self._doings.about(thing.title, name, ("open",), on, thing.doings, not same, usual="open")
        self._build(thing)
        layout = self.layout()
        assert layout is not None
        tall = layout.heightForWidth(WIDTH) if layout.hasHeightForWidth() else layout.sizeHint().height()
        place = place_card(at, QSize(WIDTH, tall), there(self.parentWidget()).rect(), None)
        self.setGeometry(place.box)
        self._inner = self.rect().adjusted(BEAK if place.box.left() > at.right() else 0, 0, 0, 0)
        self.show()
        self.raise_()
        if not same:
            word = self.findChild(Word, "surface-title")
            if word is not None:
                word.setFocus(Qt.FocusReason.OtherFocusReason)

    def _say_again(self) -> None:
        if self._shown is not None:
            self.show_surface(self.surface, *self._shown)

    @property
    def subject(self) -> str:
        return self.surface

    def forget(self) -> None:
        self.surface = ""

    # The words

    def _build(self, thing: SeenTab | SeenRow) -> None:
        for old in (self._sentence, self._foot):
            old.hide()
            old.deleteLater()
        if (before := self.layout()) is not None:
            gone = QWidget()
            gone.setLayout(before)
            drop(gone)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(18, 16, 18, 14)
        rows.setSpacing(10)
        self._sentence, self._foot = QWidget(self), QWidget(self)
        flow = Flow(self._sentence)
        self.say(flow, tr("Called"))
        self.word(flow, thing.title, "surface-title", lambda word: self._text(word, thing.title))
        self.say(flow, tr("; picture"))
        picture = thing.picture.removeprefix("set:") or tr("none")
        self.word(flow, picture, "surface-picture", lambda word: self._choose_picture(word, thing))
        if isinstance(thing, SeenToolbar):
            self._bar(flow, thing)
        elif isinstance(thing, SeenPanel):
            self._panel(flow, thing)
        self.say(flow, ".")
        self._sentence.setFixedHeight(flow.heightForWidth(WIDTH - 36))
        rows.addWidget(self._sentence)
        if isinstance(thing, SeenPanel) and (field := self._doings.steps_field(self)) is not None:
            rows.addWidget(field)
        rows.addWidget(self._foot)
        self._build_foot(thing)

    def _bar(self, flow: Flow, bar: SeenToolbar) -> None:
        self.say(flow, tr("; stands"))
        edges = [(edge, words) for edge, words in EDGES.items()]
        self.word(
            flow,
            EDGES[bar.edge],
            "surface-edge",
            lambda word: choose_from(word, edges, bar.edge, self.scheme, self._dock),
        )
        if bar.edge not in AFLOAT:
            self.say(flow, tr("on"))
            now = "" if bar.row is None else str(bar.row)
            words = dict(LINES).get(now, tr("line {number}", number=now))
            self.word(
                flow,
                words,
                "surface-row",
                lambda word: choose_from(word, LINES, now, self.scheme, self._take_row),
            )

    def _panel(self, flow: Flow, panel: SeenPanel) -> None:
        edges = list(EDGES.items())
        self.say(flow, tr("; stands"))
        self.word(
            flow,
            EDGES[panel.edge],
            "surface-edge",
            lambda word: choose_from(word, edges, panel.edge, self.scheme, self._dock),
        )
        widths = [(str(width), tr("{width} px", width=width)) for width in (180, 240, 300, 360, 420)]
        now = str(panel.width)
        self._choice(flow, "surface-width", widths, now, lambda value: {"width": int(value)})
        self.say(flow, tr("wide; ground"))
        self._choice(flow, "surface-ground", GROUNDS, panel.background, lambda value: {"background": value})
        self.say(flow, tr("; its things stand"))
        self._choice(flow, "surface-flow", FLOWS, panel.flow, lambda value: {"flow": value})
        self.say(flow, tr("; shows"))
        shown = "window" if panel.shown else "button"
        self._choice(flow, "surface-shown", SHOWN, shown, lambda value: {"shown": value == "window"})
        self.say(flow, ",")
        words = applies_words(panel.applies)
        self.word(flow, words, "surface-applies", lambda word: self._apply(word, panel))
        self._doings.say(flow)

    def _apply(self, word: Word, panel: SeenPanel) -> None:
        def take(applies: Applies) -> None:
            self.set_fields({"applies": applies.to_data()}, tr("where it applies"))

        workspace = self.session.workspace
        AppliesChooser(workspace, panel.applies, self.scheme, self, take).open_under(word)

    def _choice(
        self,
        flow: Flow,
        name: str,
        choices: Sequence[tuple[str, str]],
        now: str,
        fields: Callable[[str], dict[str, Any]],
    ) -> None:
        """A word that opens its choices; `fields` are the values that a choice means."""
        words = dict(choices)

        def take(value: str) -> None:
            self.set_fields(fields(value), words[value])

        shown = words.get(now, tr("{width} px", width=now))
        self.word(flow, shown, name, lambda word: choose_from(word, choices, now, self.scheme, take))

    def _build_foot(self, thing: SeenTab | SeenRow) -> None:
        flow = Flow(self._foot, gap=10)
        aim, workspace = self.session.aim, self.session.workspace
        mine = thing.layer == aim.layer
        whose = (
            tr("from this layer")
            if mine
            else tr("the application’s own")
            if thing.layer == BUILT_IN
            else tr("from {layer}", layer=workspace.layer_title(thing.layer))
        )
        items = len(thing.items) if isinstance(thing, SeenRow) else sum(len(g.items) for g in thing.groups)
        told = f"{whose} · {counted(items, 'item')}" if items else f"{whose} · {tr('it is empty')}"
        flow.addWidget(Plain(told, self.scheme, "ink2", 12, self._foot))
        layout = workspace.layout(aim.layer, aim.app)
        touched = {layout.full(change.of) for change in layout.change} | {
            layout.full(move.of) for move in layout.move
        }
        if not mine and thing.id in touched:
            self.word(
                flow,
                tr("as the layer beneath has it"),
                "surface-as-beneath",
                lambda _: self.wants.emit(ShowAgain(aim.layer, aim.app, thing.id)),
                12,
            )
        words = tr("remove") if mine else tr("hide")
        self.word(flow, words, "surface-remove", lambda _: self._remove(), 12)
        self._foot.setFixedHeight(flow.heightForWidth(WIDTH - 36))

    def _remove(self) -> None:
        surface = self.surface
        self.shut()
        self._presenter.remove(surface)

    # Changing

    def _dock(self, edge: str) -> None:
        self._presenter.dock(self.surface, next(known for known in EDGES if known == edge))

    def _take_row(self, row: str) -> None:
        self.set_fields({"row": int(row) if row else None}, tr("line"))

    def _text(self, word: Word, now: str) -> None:
        field = InlineField(now, "", self, back=self)
        field.setObjectName("surface-field")
        corner = word.mapTo(self, QPoint(0, 0))
        field.setGeometry(corner.x(), corner.y() - 2, max(word.width() + 40, 200), word.height() + 4)

        def done(text: str) -> None:
            field.hide()
            field.deleteLater()
            if not text:
                words = tr("Everything here needs a name: this one is still called “{before}”.", before=now)
                self.session.say(words)
            elif text != now:
                seen = self.session.outcome()
                what = "submenu" if isinstance(seen.item(self.surface), SeenSubmenu) else "title"
                self.set_fields({what: text}, tr("call it {name}", name=text))

        field.entered.connect(done)
        field.given_up.connect(lambda: done(now))
        field.show()
        field.setFocus()

    def _choose_picture(self, word: Word, thing: SeenTab | SeenRow) -> None:
        words = thing.title if isinstance(thing, SeenTab | SeenGroup | SeenToolbar) else "picture"
        aim, before = self.session.aim, (("picture", thing.picture or None),)
        subject = Subject(aim.layer, aim.app, self.subject, words, thing.picture, before)
        open_chooser(self.session, subject, self._painting.pictures, self.scheme, word, self)
