"""The Roll-out place: releases in time, the seat map, one seat's sheet, and releasing."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from typing import Any

from PyQt6.QtCore import QFileSystemWatcher, Qt, QTimer
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtWidgets import QHBoxLayout, QMessageBox, QPushButton, QVBoxLayout

from rimecrest.core.check.kinds import Weight
from rimecrest.core.errors import RimecrestError
from rimecrest.core.progress import Tell
from rimecrest.core.release.package import Package
from rimecrest.core.words import counted, tr
from rimecrest.core.workspace.layer_ids import ORGANISATION
from rimecrest.core.workspace.people_edits import NoteRelease
from rimecrest.rollout.folder import open_repository
from rimecrest.rollout.publish import NewerRelease, publish_workspace
from rimecrest.shell.file_dialogs import ask_folder
from rimecrest.shell.progress_window import behind_window
from rimecrest.shell.theme import Scheme, font
from rimecrest.shell.there import there
from rimecrest.studio.rollout.board import Board, SeatState, State
from rimecrest.studio.rollout.board_watch import BoardWatch, Sighting
from rimecrest.studio.rollout.news_draft import count_changes, draft_news
from rimecrest.studio.rollout.seat_drawing import Legend
from rimecrest.studio.rollout.seat_map import SeatMap
from rimecrest.studio.rollout.seat_sheet import SeatSheet
from rimecrest.studio.rollout.time_line import TimeLine, day_words
from rimecrest.studio.shared.history import RELEASE
from rimecrest.studio.shared.own_name import own_name
from rimecrest.studio.shared.place import Place, Surroundings, Thing
from rimecrest.studio.shared.sentence_widgets import Field, Plain, Push

SOON = 1.0
"""Seconds that the window waits for the channel, where somebody has asked for what is there now."""
LOOK = 2000
"""Milliseconds between two looks at a channel that cannot be watched."""
WATCHED = 500
"""Folders of a channel that are watched: each seat has one, the system gives a person some thousands."""


SEAT = "seat "
"""What a seat, or a department, on the map is called over the link, before its name."""


class OfferedField(Field):
    """A field with an offered text: while nobody has edited it, a click into it selects all of it."""

    def __init__(self, scheme: Scheme) -> None:
        super().__init__(scheme)
        self._edited = False
        self.textEdited.connect(lambda _: setattr(self, "_edited", True))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        super().mouseReleaseEvent(event)
        if not self._edited and not self.hasSelectedText():
            self.selectAll()


class RolloutPlace(Place):
    """Releases, seats, and the button that releases."""

    def __init__(self, surroundings: Surroundings) -> None:
        super().__init__()
        self.session = session = surroundings.session
        self._scheme = scheme = surroundings.scheme
        self.board = Board(0, (), ())
        self._boards = BoardWatch(self)
        self._boards.seen.connect(self._seen)
        self._owed = False
        """Whether something was asked of the channel that it has not answered yet."""
        self._open: str | None = None
        self._package: Package | None = None
        self._news_is_mine = False
        self._said = Plain("", scheme, "ink2", 13)
        self._said.setWordWrap(True)
        self.news = OfferedField(scheme)
        self.news.setObjectName("news-field")
        self.news.setAccessibleName(tr("What everyone will read"))
        self.news.setPlaceholderText(tr("Nothing is new for everyone. Write a line, or leave it empty."))
        self.news.setFont(font(14))
        self.news.textEdited.connect(lambda _: setattr(self, "_news_is_mine", True))
        self._theirs: dict[str, str] = {}
        """Department → what its colleagues read besides."""
        self._departments = Plain("", scheme, "ink2", 13)
        self._departments.setObjectName("news-departments")
        self._departments.setWordWrap(True)
        self._departments.hide()
        self.release_button = Push(tr("Release"), scheme, first=True)
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
        self._settle.timeout.connect(self._poll)
        self._watcher.directoryChanged.connect(lambda _: self._settle.start())
        self._polling = QTimer(self)
        self._polling.setInterval(LOOK)
        self._polling.timeout.connect(self._poll)
        session.changed.connect(self._changed)

    def _build(self) -> None:
        rows = QVBoxLayout(self)
        rows.setContentsMargins(20, 14, 20, 10)
        rows.setSpacing(8)
        rows.addWidget(Plain(tr("What everyone will read with the next release"), self._scheme, "ink2", 12))
        line = QHBoxLayout()
        line.addWidget(self.news, 1)
        line.addWidget(self.release_button)
        rows.addLayout(line)
        rows.addWidget(self._departments)
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

    def close_down(self) -> None:
        self._polling.stop()
        self._boards.end()

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
        self._boards.look(self.session.workspace, self.address())

    def _seen(self, sighting: Sighting) -> None:
        fresh = sighting.board
        if not self.isVisible():
            return
        if self._owed or fresh.newest != self.board.newest:
            self._take(sighting)  # what is new is drafted against another release now
        elif fresh is not self.board and fresh != self.board:
            self._show(fresh)
            self._watch(sighting.places)

    def look(self) -> None:
        """Read the channel and draw it; where it is slow, as soon as it has answered."""
        sighting = self._boards.look_within(self.session.workspace, self.address(), SOON)
        self._owed = sighting is None
        if sighting is not None:
            self._take(sighting)
        else:
            self._said.setText(tr("Looking at the channel, which takes a while …"))

    def _take(self, sighting: Sighting) -> None:
        self._owed = False
        self._package = sighting.package
        self._show(sighting.board)
        self._watch(sighting.places)
        drafts = self.draft_news()
        everyone = drafts.pop(ORGANISATION, "")
        if not self._news_is_mine:
            self.news.setText(everyone)
        self._theirs = drafts
        self._departments.setText(self._theirs_in_words())
        self._departments.setVisible(bool(drafts))

    def _watch(self, places: Iterable[str]) -> None:
        # The system watches so many folders and no more; what comes in the others is seen at the next look.
        room = WATCHED - len(self._watcher.directories())
        if missing := sorted(set(places) - set(self._watcher.directories()))[:room]:
            self._watcher.addPaths(missing)

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
        self.release_button.setText(tr("Release {number}", number=number))
        self.release_button.updateGeometry()
        self.release_button.setEnabled(not blocks and not self.session.keeper.read_only)
        words = []
        if board.trouble:
            words.append(board.trouble)
        elif not self.address():
            words.append(tr("The workspace names no channel yet: releasing asks for a folder."))
        elif board.newest:
            made = board.made
            by = tr(" by {by} on {day}", by=made.by, day=day_words(made.at[:10])) if made and made.by else ""
            words.append(
                tr(
                    "Release {newest}{by}: {count:,} of {number:,} seats have it.",
                    newest=board.newest,
                    by=by,
                    count=board.count(State.HAS),
                    number=len(board.seats),
                )
            )
            if failed := board.count(State.FAILED):
                words.append(tr("{failed:,} failed.", failed=failed))
        else:
            words.append(tr("Nothing was released yet."))
        if blocks:
            finding = next(f for f in self.session.checked.findings if f.weight is Weight.BLOCKS)
            errors = counted(blocks, "error")
            words.append(
                tr(
                    "Release {number} cannot go out: fix {errors} first. {sentence}",
                    number=number,
                    errors=errors,
                    sentence=finding.sentence,
                )
            )
        if board.ignored:
            words.append(tr("{number} could not be used.", number=counted(board.ignored, "receipt")))
        self._said.setText(" ".join(words))

    def shows(self, thing: Thing) -> bool:
        return thing.kind == "seat" and any(seat.seat.seat == thing.name for seat in self.board.seats)

    def show_thing(self, thing: Thing) -> None:
        """Open the sheet of a seat, and show the seat on the map."""
        self.seat_map.reveal(thing.name)
        self.seat_map.setFocus()
        for seat in self.board.seats:
            if seat.seat.seat == thing.name:
                self._open_seat(seat)

    def where(self, thing: str) -> list[int] | None:
        if not thing.startswith(SEAT) or not self.seat_map.isVisible():
            return None
        box = self.seat_map.box_of(thing.removeprefix(SEAT))
        if box is None:
            return None
        corner = self.seat_map.mapToGlobal(box.topLeft())
        return [corner.x(), corner.y(), box.width(), box.height()]

    def _open_seat(self, seat: SeatState) -> None:
        self._open = seat.seat.seat
        self._sheet.show_seat(self.session, seat)

    def _theirs_in_words(self) -> str:
        title = self.session.workspace.layer_title
        return "\n".join(
            tr("{department} also read: {news}", department=title(layer), news=news)
            for layer, news in self._theirs.items()
        )

    def draft_news(self) -> dict[str, str]:
        """Layer → a draft of what is new for it, from the differences to the newest release."""
        if self._package is None and self.board.newest:
            return {}
        return draft_news(self.session.workspace, self._package, self.board.newest)

    def ask_release(self) -> None:
        """Ask in numbers, then release."""
        address = self.address()
        if not address:
            address = self._ask_folder()
            if not address:
                return
        try:
            # The folder that was chosen just now may have releases already.
            number = open_repository(address).newest() + 1
        except RimecrestError as error:
            self.session.say(str(error))
            return
        workspace = self.session.workspace
        seats = counted(len(workspace.people), "seat")
        changes = count_changes(workspace, self._package, self.board.newest)
        news = self.news.text() or tr("nothing in particular")
        details = [
            tr("{changes} on {seats}.", changes=counted(changes, "change"), seats=seats),
            tr("They read: {news}", news=news),
            self._theirs_in_words(),
        ]
        self._ask(
            "confirm-release",
            tr("Release {number} to {seats}?", number=number, seats=seats),
            "\n".join(filter(None, details)),
            tr("Release to {number}", number=seats),
            lambda: self._release(address, number),
        )

    def _ask(self, name: str, text: str, details: str, go: str, do: Callable[[], object]) -> None:
        """Ask something that reaches other people: no key answers it unless somebody goes to a button."""
        box = QMessageBox(self)
        box.setObjectName(name)
        box.setText(text)
        box.setInformativeText(details)
        yes = there(box.addButton(go, QMessageBox.ButtonRole.AcceptRole))
        yes.setObjectName("confirm-go")
        box.addButton(tr("Not yet"), QMessageBox.ButtonRole.RejectRole)
        box.finished.connect(lambda _: do() if box.clickedButton() is yes else None)
        box.open()
        for button in box.findChildren(QPushButton):
            button.setAutoDefault(False)
            button.setDefault(False)
        box.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        box.setFocus()

    def _ask_folder(self) -> str:
        return ask_folder(self, tr("The folder through which seats get releases"))

    def _release(self, address: str, expected: int, over: int | None = None) -> None:
        # Each application works out its own news: only what was written by hand goes along.
        news = {ORGANISATION: self.news.text()} if self._news_is_mine and self.news.text() else {}
        workspace, checked = self.session.workspace, self.session.checked

        def publish(_tell: Tell) -> tuple[int, int, str]:
            number, seats = publish_workspace(
                workspace, address, news, expected=expected, over=over, by=own_name(), checked=checked
            )
            return number, seats, open_repository(address).audience().office

        try:
            words = tr("The release is being written …")
            number, seats, office = behind_window(self, words, publish, may_cancel=False)
        except NewerRelease as newer:
            on_top = newer.number
            self._ask(
                "newer-release",
                newer.sentence,
                newer.way_out,
                tr("Release on top of it"),
                lambda: self._release(address, 0, on_top),
            )
            return
        except RimecrestError as error:
            self.session.say(str(error))
            self.look()
            return
        self.session.history.point(tr("Release {number}", number=number), RELEASE)
        # From now on it is known where seats look, and from what the workspace goes on.
        self.session.do(NoteRelease(number, office, address))
        self._news_is_mine = False
        self.session.say(
            tr("Release {number} is out, for {seats}.", number=number, seats=counted(seats, "seat"))
        )
        self.look()
