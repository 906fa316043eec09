"""The Roll-out place: releases in time, the seat map, one seat's sheet, and releasing."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from PyQt6.QtCore import QFileSystemWatcher, QRectF, Qt, QTimer
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QMessageBox, QVBoxLayout, QWidget

from rimecrest.channel import open_repository
from rimecrest.channel.publish import publish_workspace
from rimecrest.core.check import Weight
from rimecrest.core.errors import RimecrestError
from rimecrest.core.layout.compare import compare, whats_new
from rimecrest.core.release import Assignment, read_package, released_stack
from rimecrest.core.words import counted
from rimecrest.shell.theme import Scheme, bold, font
from rimecrest.studio.rollout.board import Board, ReleaseBar, SeatState, State, read_board
from rimecrest.studio.rollout.seat_map import Legend, SeatMap, draw_state
from rimecrest.studio.shared.place import Place, Surroundings
from rimecrest.studio.shared.sentence_widgets import Field, Plain, Push
from rimecrest.studio.shared.session import Session

LOOK = 2000
"""Milliseconds between two looks at a channel that cannot be watched."""


class TimeLine(QWidget):
    """The releases as a line in time, each with the share that applied it."""

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self._scheme = scheme
        self._bars: tuple[ReleaseBar, ...] = ()
        self.setFixedHeight(54)

    def show_bars(self, bars: tuple[ReleaseBar, ...]) -> None:
        self._bars = bars
        self.setAccessibleName("Releases: " + ", ".join(f"{bar.number} {bar.share:.0%}" for bar in bars))
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme = self._scheme
        painter.setPen(scheme.color("line"))
        painter.drawLine(0, self.height() - 6, self.width(), self.height() - 6)
        for index, bar in enumerate(self._bars):
            newest = index + 1 == len(self._bars)
            x = 6 + index * 170.0
            painter.setFont(bold(12) if newest else font(12))
            painter.setPen(scheme.color("ink" if newest else "ink2"))
            words = f"{bar.number} · {_day(bar.day)}" if bar.day else f"{bar.number} · nobody yet"
            painter.drawText(QRectF(x, 2, 160, 20), Qt.AlignmentFlag.AlignVCenter, words)
            box = QRectF(x, 28, 96, 8)
            painter.setPen(scheme.color("faint"))
            painter.setBrush(scheme.color("sheet"))
            painter.drawRoundedRect(box, 4, 4)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(scheme.color("crest" if newest else "faint"))
            if bar.share:
                painter.drawRoundedRect(QRectF(box.x(), box.y(), max(box.width() * bar.share, 8), 8), 4, 4)
            painter.setPen(scheme.color("ink2"))
            painter.setFont(font(11))
            painter.drawText(QRectF(x + 102, 22, 50, 20), Qt.AlignmentFlag.AlignVCenter, f"{bar.share:.0%}")


def _day(text: str) -> str:
    months = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")
    year, month, day = text.split("-")
    return f"{int(day)} {months[int(month) - 1]} {year}"


class SeatSign(QWidget):
    """The hexagon at the head of a seat's sheet."""

    def __init__(self, seat: SeatState, scheme: Scheme) -> None:
        super().__init__()
        self._seat = seat
        self._scheme = scheme
        self.setFixedSize(30, 34)

    def paintEvent(self, _event: QPaintEvent) -> None:
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
            self._say("Click a seat to see what that colleague has.", "ink2")
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
            f"{' · '.join(titles[:-1]) or titles[0]} · wave {who.wave} · {who.keyboard.upper()} keyboard",
            "ink2",
        )
        has = f"Has release {seat.release}." if seat.release else "Has reported no release yet."
        if seat.at:
            has += f" Last heard on {_day(seat.at[:10])} at {seat.at[11:16]} UTC."
        self._say(has, "ink")
        if seat.state is State.FAILED:
            self._say(f"The newest one failed: {seat.reason}", "blocks")
        elif seat.state is State.OFFERED:
            self._say("The newest one is offered to it, and has not been reported yet.", "ink2")
        self._say("Its layers, from the top:", "ink2")
        for title_ in [
            *titles,
            *(c.title + " " + c.version + ", built in" for c in workspace.catalogues.values()),
        ]:
            self._say(f"·  {title_}", "ink")
        self._rows.addStretch(1)
        self.update()

    def _say(self, text: str, token: str) -> None:
        words = Plain(text, self._scheme, token)
        words.setWordWrap(True)
        self._rows.addWidget(words)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(self._scheme.color("line"))
        painter.setBrush(self._scheme.color("sheet"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6)


class RolloutPlace(Place):
    """Releases, seats, and the button that releases."""

    def __init__(self, surroundings: Surroundings) -> None:
        super().__init__()
        self.session = session = surroundings.session
        self._scheme = scheme = surroundings.scheme
        self.board = Board(0, (), ())
        self._open: str | None = None
        self._news_is_mine = False
        self._said = Plain("", scheme, "ink2", 13)
        self._said.setWordWrap(True)
        self.news = Field(scheme)
        self.news.setObjectName("news-field")
        self.news.setAccessibleName("What colleagues will read")
        self.news.setFont(font(14))
        self.news.textEdited.connect(lambda _: setattr(self, "_news_is_mine", True))
        self.release_button = Push("Release", scheme, first=True)
        self.release_button.setObjectName("release")
        self.release_button.clicked.connect(self.ask_release)
        self._line = TimeLine(scheme)
        self.seat_map = SeatMap(scheme)
        self.seat_map.opened.connect(self._open_seat)
        self._sheet = SeatSheet(scheme)
        self._build()
        self._watcher = QFileSystemWatcher(self)
        self._settle = QTimer(self)
        self._settle.setSingleShot(True)
        self._settle.setInterval(200)
        self._settle.timeout.connect(self.look)
        self._watcher.directoryChanged.connect(lambda _: self._settle.start())
        self._polling = QTimer(self)
        self._polling.setInterval(LOOK)
        self._polling.timeout.connect(self._poll)
        session.changed.connect(self._changed)

    def _build(self) -> None:
        rows = QVBoxLayout(self)
        rows.setContentsMargins(20, 14, 20, 10)
        rows.setSpacing(8)
        rows.addWidget(Plain("What colleagues will read with the next release", self._scheme, "ink2", 12))
        line = QHBoxLayout()
        line.addWidget(self.news, 1)
        line.addWidget(self.release_button)
        rows.addLayout(line)
        rows.addWidget(self._said)
        rows.addWidget(self._line)
        columns = QHBoxLayout()
        columns.setSpacing(20)
        left = QVBoxLayout()
        left.addWidget(self.seat_map, 1)
        left.addWidget(Legend(self._scheme))
        columns.addLayout(left, 1)
        columns.addWidget(self._sheet, 0, Qt.AlignmentFlag.AlignTop)
        rows.addLayout(columns, 1)

    def begin(self) -> None:
        """The place is shown: look, and go on looking."""
        self.look()
        self._polling.start()
        self.news.setFocus()

    def leave(self) -> None:
        self._polling.stop()

    def take_focus(self) -> None:
        self.news.setFocus()

    def readings(self) -> Mapping[str, Callable[[], Any]]:
        return {"board": lambda: {s.seat.seat: [s.state.value, s.release] for s in self.board.seats}}

    def address(self) -> str:
        """Where releases go; empty when the workspace names no channel."""
        try:
            return self.session.workspace.channel_address(self.session.folder)
        except RimecrestError:
            return ""

    def _changed(self) -> None:
        if self.isVisible():
            self.look()

    def _poll(self) -> None:
        fresh = read_board(self.session.workspace, self.address())
        if fresh != self.board:
            self._show(fresh)

    def look(self) -> None:
        """Read the channel and draw it."""
        self._show(read_board(self.session.workspace, self.address()))
        self._watch()
        if not self._news_is_mine:
            self.news.setText(self.draft_news())

    def _watch(self) -> None:
        if not self.address():
            return
        wanted = set(map(str, open_repository(self.address()).places()))
        if missing := wanted - set(self._watcher.directories()):
            self._watcher.addPaths(sorted(missing))

    def _show(self, board: Board) -> None:
        self.board = board
        self._line.show_bars(board.releases)
        self.seat_map.show_seats(board.departments(self.session.workspace))
        seat = next((seat for seat in board.seats if seat.seat.seat == self._open), None)
        self._sheet.show_seat(self.session, seat)
        self._say()

    def blocking(self) -> int:
        return sum(finding.weight is Weight.BLOCKS for finding in self.session.checked.findings)

    def _say(self) -> None:
        board, blocks = self.board, self.blocking()
        number = board.newest + 1
        self.release_button.setText(f"Release {number}")
        self.release_button.updateGeometry()
        self.release_button.setEnabled(not blocks and not self.session.keeper.read_only)
        words = []
        if board.trouble:
            words.append(board.trouble)
        elif not self.address():
            words.append("The workspace names no channel yet: releasing asks for a folder.")
        elif board.newest:
            words.append(
                f"Release {board.newest}: {board.count(State.HAS)} of {len(board.seats)} seats have it."
            )
            if failed := board.count(State.FAILED):
                words.append(f"{failed} failed.")
        else:
            words.append("Nothing was released yet.")
        if blocks:
            finding = next(f for f in self.session.checked.findings if f.weight is Weight.BLOCKS)
            errors = counted(blocks, "error")
            words.append(f"Release {number} cannot go out: fix {errors} first. {finding.sentence}")
        if board.ignored:
            words.append(f"{counted(board.ignored, 'receipt')} could not be used.")
        self._said.setText(" ".join(words))

    def open_seat(self, name: str) -> None:
        """Open the seat of that name."""
        for seat in self.board.seats:
            if seat.seat.seat == name:
                self._open_seat(seat)

    def _open_seat(self, seat: SeatState) -> None:
        self._open = seat.seat.seat
        self._sheet.show_seat(self.session, seat)

    def draft_news(self) -> str:
        """A draft of what is new, from the differences to the newest release."""
        workspace = self.session.workspace
        said: dict[str, None] = {}
        for layer in workspace.layers:
            stack = workspace.stack_up_to(layer)
            for app in workspace.catalogues:
                try:
                    content = open_repository(self.address()).package(self.board.newest)
                    package = read_package(content, f"Release {self.board.newest}")
                    state = released_stack(package, Assignment(release=self.board.newest, stack=stack), app)
                except RimecrestError:
                    return ""
                before = state.outcome(workspace.catalogue(app))
                differences = compare(before, workspace.outcome(stack, app), workspace.targets(stack, app))
                for difference in differences:
                    said.setdefault(difference.sentence)
        words = list(said)
        more = f" And {len(words) - 3} more changes." if len(words) > 3 else ""
        return " ".join(words[:3]) + more if words else whats_new([])

    def ask_release(self) -> None:
        """Ask in numbers, then release."""
        address = self.address()
        if not address:
            address = self._ask_folder()
            if not address:
                return
        seats = len(self.session.workspace.people)
        box = QMessageBox(self)
        box.setObjectName("confirm-release")
        box.setText(f"Release {self.board.newest + 1} to {seats} seats?")
        box.setInformativeText(f"They read: {self.news.text() or 'nothing in particular'}")
        go = box.addButton(f"Release to {seats} seats", QMessageBox.ButtonRole.AcceptRole)
        go.setObjectName("confirm-go")
        box.addButton("Not yet", QMessageBox.ButtonRole.RejectRole)
        box.setDefaultButton(go)
        box.finished.connect(lambda _: self._answered(box.clickedButton() is go, address))
        box.open()

    def _ask_folder(self) -> str:
        return QFileDialog.getExistingDirectory(self, "The folder through which seats get releases")

    def _answered(self, go: bool, address: str) -> None:
        if not go:
            return
        news = {"organisation": self.news.text()} if self.news.text() else {}
        try:
            number, seats = publish_workspace(self.session.workspace, address, news)
        except RimecrestError as error:
            self.session.say(str(error))
            return
        self._news_is_mine = False
        self.session.say(f"Release {number} is out, for {seats} seats.")
        self.look()
