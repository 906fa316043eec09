"""The sheet of one seat: who it is, what it has, its layers."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme, bold
from rimecrest.studio.rollout.board import SeatState, State
from rimecrest.studio.rollout.seat_drawing import draw_state
from rimecrest.studio.rollout.time_line import day_words
from rimecrest.studio.shared.sentence_widgets import Plain
from rimecrest.studio.shared.session import Session


class SeatSign(QWidget):
    """The hexagon at the head of a seat's sheet."""

    def __init__(self, seat: SeatState, scheme: Scheme) -> None:
        super().__init__()
        self._seat = seat
        self._scheme = scheme
        self.setFixedSize(30, 34)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        draw_state(QPainter(self), self._scheme, self._seat.state, QRectF(2, 2, 26, 30))


class SeatSheet(QWidget):
    """One seat: who, what it has, its stack."""

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme
        self._rows = QVBoxLayout(self)
        self._rows.setContentsMargins(18, 18, 18, 18)
        self._rows.setSpacing(8)
        self.setFixedWidth(300)
        self.setObjectName("seat-sheet")

    def show_seat(self, session: Session, seat: SeatState | None) -> None:
        while (item := self._rows.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.hide()
                widget.deleteLater()
        if seat is None:
            self._say(
                tr("Click a seat to see what that colleague has, or find the colleague by name with F3."),
                "ink2",
            )
            self._rows.addStretch(1)
            self.update()
            return
        workspace, who = session.workspace, seat.seat
        head = QWidget()
        line = QHBoxLayout(head)
        line.setContentsMargins(0, 0, 0, 0)
        line.addWidget(SeatSign(seat, self._scheme))
        title = Plain(who.seat, self._scheme)
        title.setFont(bold(18))
        line.addWidget(title, 1)
        self._rows.addWidget(head)
        self._say(who.name, "ink")
        stack = workspace.stack_of(who)
        titles = [workspace.layer_title(layer) for layer in reversed(stack)]
        self._say(
            " · ".join(
                (
                    *(titles[:-1] or titles),
                    tr("{code} keyboard", code=who.keyboard.upper())
                    if who.keyboard
                    else tr("keyboard not known"),
                )
            ),
            "ink2",
        )
        has = (
            tr("Has release {release}.", release=seat.release)
            if seat.release
            else tr("Has reported no release yet.")
        )
        if seat.at:
            has += tr(
                " Last heard on {day} at {at} UTC.",
                day=day_words(seat.at[:10]),
                at=seat.at[11:16],
            )
        self._say(has, "ink")
        if seat.state is State.FAILED:
            self._say(tr("The newest one failed: {reason}", reason=seat.reason), "blocks")
        elif seat.state is State.OFFERED:
            self._say(tr("The newest one is offered to it, and has not been reported yet."), "ink2")
        if seat.twice:
            self._say(
                tr("Two profiles report for this seat: one of them belongs to another one. Enrol it anew."),
                "asks",
            )
        self._say(tr("Its layers, from the top:"), "ink2")
        for title_ in [
            *titles,
            *(c.title + " " + c.version + tr(", built in") for c in workspace.catalogues.values()),
        ]:
            self._say(f"·  {title_}", "ink")
        self._rows.addStretch(1)
        self.update()

    def _say(self, text: str, token: str) -> None:
        words = Plain(text, self._scheme, token)
        words.setWordWrap(True)
        self._rows.addWidget(words)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(self._scheme.color("line"))
        painter.setBrush(self._scheme.color("sheet"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6)
