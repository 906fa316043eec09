"""The line of aim: a sentence whose underlined words are the choosers."""

from __future__ import annotations

from collections.abc import Callable

from msgspec.structs import replace
from PyQt6.QtCore import QSize
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QWidget

from rimecrest.core.catalogue.applies import Applies
from rimecrest.core.words import owned, shortened, tr
from rimecrest.core.workspace.edits import SetApplies
from rimecrest.shell.theme import Scheme
from rimecrest.studio.shared.applies_words import AppliesChooser, applies_words
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.edit_target import seat_for
from rimecrest.studio.shared.sentence_widgets import Plain, Word
from rimecrest.studio.shared.session import Session

TEXT_SIZES = (100, 125, 150)
"""Per cent of the usual size that a desktop's text may have."""


class AimLine(QWidget):
    """“Freight desk’s layer of Letters, as seen on Freight 3, 1,024 px wide”."""

    def __init__(self, session: Session, scheme: Scheme) -> None:
        super().__init__()
        self._session = session
        self._scheme = scheme
        self._long: Plain | None = None
        self._short: Plain | None = None
        self._edits: Plain | None = None
        self._says: tuple[object, ...] = ()
        """What the line says besides the number of edits: as long as that stays, so do its words."""
        self._row = QHBoxLayout(self)
        self._row.setSizeConstraint(QHBoxLayout.SizeConstraint.SetNoConstraint)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setSpacing(0)
        session.changed.connect(self.refresh)
        session.aimed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        session, aim = self._session, self._session.aim
        workspace, edits = session.workspace, session.edits
        applies = workspace.layout(aim.layer, aim.app).applies if aim.app in workspace.catalogues else None
        says = (aim, workspace.settings, workspace.catalogues, applies, session.keeper.read_only, edits > 0)
        if says != self._says:
            self._says = says
            self._build(None if applies is None else shortened(applies_words(applies)))
        if self._edits is not None:
            words = "1 change" if edits == 1 else f"{edits} changes"
            self._edits.setText(tr("{words} since it was opened", words=words))
        self._fit()

    def _build(self, applies: str | None) -> None:
        while (item := self._row.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.hide()
                widget.deleteLater()
        self._long = self._short = self._edits = None
        session, aim = self._session, self._session.aim
        workspace = session.workspace
        title = workspace.catalogues[aim.app].title if aim.app in workspace.catalogues else aim.app
        layer = workspace.layer_title(aim.layer)
        self._word(layer, self._choose_layer, "aim-layer")
        self._plain(tr("{layer} layer of ", layer=owned(layer).removeprefix(layer)))
        self._word(title or tr("no application"), self._choose_app, "aim-app")
        if applies is not None:
            self._plain(", ")
            self._word(applies, self._choose_applies, "aim-applies")
        if aim.seat:
            self._long = self._plain(tr(", as seen on "))
            self._short = self._plain(tr(", on "))
            self._word(aim.seat, self._choose_seat, "aim-seat")
        self._plain(", ")
        words = tr("{width:,} px", width=aim.width)
        words += tr(" at {size} %", size=aim.text) if aim.text != 100 else ""
        self._word(words, self._choose_width, "aim-width")
        self._plain(tr(" wide"))
        if session.edits > 0:
            self._row.addSpacing(14)
            self._edits = Plain("", self._scheme, "ink2", 13)
            self._row.addWidget(self._edits)
        if session.keeper.read_only:
            self._row.addSpacing(14)
            self._row.addWidget(Plain(tr("read-only"), self._scheme, "asks", 13))
        self._row.addStretch(1)

    def _fit(self) -> None:
        """Where there is little room, the sentence has fewer words."""
        if self._long is not None and self._short is not None:
            self._long.show()
            self._short.hide()
            tight = self._row.sizeHint().width() > self.width()
            self._long.setVisible(not tight)
            self._short.setVisible(tight)

    def minimumSizeHint(self) -> QSize:
        size = self._row.minimumSize()
        if self._long is None or self._short is None or self._long.isHidden():
            return size
        return size - QSize(self._long.sizeHint().width() - self._short.sizeHint().width(), 0)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit()

    def _word(self, text: str, action: Callable[[Word], object], name: str) -> None:
        word = Word(text, self._scheme, 14)
        word.setObjectName(name)
        word.when_pressed(action)
        self._row.addWidget(word)

    def _plain(self, text: str) -> Plain:
        words = Plain(text, self._scheme, "ink", 14)
        self._row.addWidget(words)
        return words

    def _choose_layer(self, word: Word) -> None:
        session, aim = self._session, self._session.aim
        rows = [(layer.id, layer.title) for layer in session.workspace.settings.layers]

        def choose(layer: str) -> None:
            session.aim_at(replace(aim, layer=layer, seat=seat_for(session.workspace, layer)))

        choose_from(word, rows, aim.layer, self._scheme, choose)

    def _choose_app(self, word: Word) -> None:
        session, aim = self._session, self._session.aim
        rows = [(app, catalogue.title) for app, catalogue in session.workspace.catalogues.items()]
        choose_from(
            word,
            rows,
            aim.app,
            self._scheme,
            lambda app: session.aim_at(replace(aim, app=app)),
        )

    def _choose_applies(self, word: Word) -> None:
        session, aim = self._session, self._session.aim

        def take(applies: Applies) -> None:
            session.do(SetApplies(aim.layer, aim.app, applies))

        now = session.workspace.layout(aim.layer, aim.app).applies
        AppliesChooser(session.workspace, now, self._scheme, self, take).open_under(word)

    def _choose_seat(self, word: Word) -> None:
        session, aim = self._session, self._session.aim
        having = [s for s in session.workspace.people if aim.layer in session.workspace.stack_of(s)]
        rows = [(seat.seat, f"{seat.seat} · {seat.name}") for seat in having]
        choose_from(
            word,
            rows,
            aim.seat,
            self._scheme,
            lambda seat: session.aim_at(replace(aim, seat=seat)),
        )

    def _choose_width(self, word: Word) -> None:
        session, aim = self._session, self._session.aim
        widths = sorted({*session.workspace.settings.widths, 800, 1024, 1280, 1600, aim.width})
        rows = [(str(width), f"{width:,} px") for width in widths]
        rows += [(f"text {size}", tr("text at {size} %", size=size)) for size in TEXT_SIZES]

        def take(value: str) -> None:
            size = value.removeprefix("text ")
            session.aim_at(replace(aim, text=int(size)) if size != value else replace(aim, width=int(value)))

        choose_from(word, rows, str(aim.width), self._scheme, take)
