"""“On UK keyboards, after Ctrl+J, for all 12 seats”: says what the bed shows, and turns it."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QWidget

from rimecrest.core.explain.bed_state import BedView
from rimecrest.core.keys.chords import format_sequence, parse_sequence
from rimecrest.core.keys.keyboards.national import keyboard_name
from rimecrest.core.words import counted, tr
from rimecrest.shell.theme import Scheme
from rimecrest.studio.keys.presenter import KeysPresenter
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.sentence_widgets import Elided, Plain, Word


class AimSentence(QWidget):
    """Each underlined word opens its choices.

    Signals: turned, when something else is to be shown.
    """

    turned = pyqtSignal()

    def __init__(self, presenter: KeysPresenter, scheme: Scheme) -> None:
        super().__init__()
        self._presenter = presenter
        self._scheme = scheme
        self._view: BedView | None = None
        self._line = QHBoxLayout(self)
        self._line.setContentsMargins(0, 0, 0, 0)
        self._line.setSpacing(0)

    def show_view(self, view: BedView) -> None:
        """Say what a bed shows."""
        presenter = self._presenter
        self._view = view
        while (item := self._line.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.hide()
                widget.deleteLater()
        self._say(tr("On "))
        self._word(keyboard_name(view.board.code), self._choose_board, "keys-board")
        self._say(tr(", after "))
        self._word(format_sequence(presenter.opener) or "nothing", self._choose_opener, "keys-opener")
        self._say(tr(", for "))
        self._word(presenter.seat or presenter.all_seats(), self._choose_seat, "keys-seat")
        if presenter.seat:
            self._say(", ")
            number = presenter.installed_release
            there = f"release {number}" if number else tr("nothing installed")
            self._word(there if presenter.as_installed else tr("the draft"), self._turn_side, "keys-side")
        elif seats := presenter.seats_line():
            words = Elided(f"   {seats}", self._scheme, "ink2", 12)
            words.setMinimumWidth(10)
            self._line.addWidget(words)
        self._line.addStretch(1)

    def _say(self, text: str) -> None:
        self._line.addWidget(Plain(text, self._scheme, "ink", 13))

    def _word(self, text: str, action: Callable[[Word], None], name: str) -> None:
        word = Word(text, self._scheme, 13)
        word.setObjectName(name)
        word.when_pressed(action)
        self._line.addWidget(word)

    def _choose_board(self, word: Word) -> None:
        boards = self._presenter.boards().items()
        rows = [(code, f"{keyboard_name(code)} · {counted(count, 'seat')}") for code, count in boards]
        choose_from(word, rows, self._presenter.board, self._scheme, self._use_board)

    def _use_board(self, code: str) -> None:
        self._presenter.board = code
        self.turned.emit()

    def _choose_opener(self, word: Word) -> None:
        openers = self._view.openers() if self._view else []
        rows = [("", "nothing")] + [(format_sequence(opener),) * 2 for opener in openers]
        now = format_sequence(self._presenter.opener)
        choose_from(word, rows, now, self._scheme, self._use_opener)

    def _use_opener(self, text: str) -> None:
        if self._presenter.go_behind(parse_sequence(text) if text else ()):
            self.turned.emit()

    def _choose_seat(self, word: Word) -> None:
        rows = [("", self._presenter.all_seats())]
        rows += [
            (seat.seat, f"{seat.seat} · {seat.name} · {seat.keyboard.upper()}")
            for seat in self._presenter.seats()
        ]
        choose_from(word, rows, self._presenter.seat, self._scheme, self._use_seat)

    def _use_seat(self, seat: str) -> None:
        self._presenter.aim_at_seat(seat)
        self.turned.emit()

    def _turn_side(self, _word: Word) -> None:
        self._presenter.as_installed = not self._presenter.as_installed
        self.turned.emit()
