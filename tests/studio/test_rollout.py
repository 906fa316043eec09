"""The Roll-out place: the board, the seat map from forty seats to thousands, and releasing."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations
from pathlib import Path
from threading import Event, current_thread, main_thread
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from PyQt6.QtCore import QPoint, QPointF, QRect, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QMessageBox, QWidget

from rimecrest.core.release.audience import audience_of, seat_id
from rimecrest.core.release.package import read_package
from rimecrest.core.release.receipt import Receipt
from rimecrest.core.workspace.edits import Edit, TakeOff, Unbind
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.rollout import receipt_files
from rimecrest.rollout.folder import FolderRepository
from rimecrest.rollout.publish import publish_workspace
from rimecrest.studio.rollout.board import Board, BoardReader, SeatState, State, board_of, read_board
from rimecrest.studio.rollout.board_watch import BoardWatch, Sighting
from rimecrest.studio.rollout.place import RolloutPlace
from rimecrest.studio.rollout.seat_map import SeatMap
from rimecrest.studio.rollout.seat_packing import FEW, SMALLEST, pack
from tests.studio.conftest import Studio


class SetChannel(Edit, frozen=True):
    """Have the releases go to another place."""

    address: str
    label = "releases go elsewhere"

    def on(self, workspace: Workspace) -> Workspace:
        return workspace.with_settings(workspace.settings.model_copy(update={"channel": self.address}))


def seat_map(studio: Studio) -> SeatMap:
    """The map with its seats: a channel that answers slowly comes after its place shows."""
    shown = studio.desk.place(RolloutPlace).seat_map
    studio.qtbot.waitUntil(lambda: shown.rows.rowCount() > 0)
    return shown


def seats(shown: SeatMap) -> dict[str, SeatState]:
    rows = [shown.rows.row(at) for at in range(shown.rows.rowCount())]
    return {row.seat.seat: row for row in rows if isinstance(row, SeatState)}


def boxes(shown: SeatMap) -> list[QRect]:
    """Where the seats that show lie, whether in view or not."""
    rows = shown.rows
    found = [at for at in range(rows.rowCount()) if isinstance(rows.row(at), SeatState) and rows.shows(at)]
    return [shown.visualRect(rows.index(at)) for at in found]


def click_on(shown: SeatMap, name: str) -> None:
    """Click in the middle of a seat or count that is in view."""
    box = shown.box_of(name)
    assert box is not None, f"{name} is not in view"
    QTest.mouseClick(
        shown.viewport(), Qt.MouseButton.LeftButton, pos=shown.viewport().mapFrom(shown, box.center())
    )
    QApplication.processEvents()


def sheet_text(studio: Studio) -> str:
    return " ".join(w.text() for w in studio.find("seat-sheet").findChildren(QWidget) if hasattr(w, "text"))


def test_every_seat_is_a_hexagon_that_a_screen_reader_can_name(studio: Studio) -> None:
    studio.push("place-roll-out")
    shown = seat_map(studio)
    found = seats(shown)
    assert len(found) == 40
    assert found["Care 9"].state is State.FAILED
    assert found["Quay 5"].state is State.OFFERED
    assert found["Freight 3"].state is State.HAS
    index = shown.rows.index(shown.rows.at_seat("Care 9"))
    assert index.data(Qt.ItemDataRole.AccessibleTextRole) == "Care 9, Maren Lund: failed, has release 6"
    lying = boxes(shown)
    assert len({(box.x(), box.y()) for box in lying}) == 40
    assert all(shown.rect().contains(box) for box in lying)


def test_a_seat_opens_into_what_it_has(studio: Studio) -> None:
    studio.push("place-roll-out")
    click_on(seat_map(studio), "Care 9")
    texts = sheet_text(studio)
    assert "The newest one failed: The disk of this computer is full." in texts
    assert "Passenger care" in texts
    assert "Has release 6." in texts


def test_a_click_beside_the_hexagons_opens_nothing(studio: Studio) -> None:
    studio.push("place-roll-out")
    shown = seat_map(studio)
    # The corner of the box belongs to no hexagon.
    corner = shown.box_of("Berth 1").topLeft() + QPoint(1, 1)
    QTest.mouseClick(shown.viewport(), Qt.MouseButton.LeftButton, pos=corner)
    QTest.mouseClick(shown.viewport(), Qt.MouseButton.LeftButton, pos=shown.viewport().rect().bottomRight())
    assert "Click a seat" in sheet_text(studio)


def test_pressed_on_one_seat_and_let_go_on_another_opens_neither(studio: Studio) -> None:
    studio.push("place-roll-out")
    shown = seat_map(studio)
    start, end = shown.box_of("Berth 1").center(), shown.box_of("Berth 3").center()
    QTest.mousePress(shown.viewport(), Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseRelease(shown.viewport(), Qt.MouseButton.LeftButton, pos=end)
    assert "Click a seat" in sheet_text(studio)
    # Nor is what was pressed beside all let go on the one that was reached.
    QTest.mousePress(shown.viewport(), Qt.MouseButton.LeftButton, pos=shown.viewport().rect().bottomRight())
    QTest.mouseRelease(shown.viewport(), Qt.MouseButton.LeftButton, pos=start)
    assert "Click a seat" in sheet_text(studio)


def test_release_is_shut_while_something_blocks_and_says_what(studio: Studio) -> None:
    studio.push("place-roll-out")
    rollout = studio.desk.places["Roll-out"]
    assert not rollout.release_button.isEnabled()
    assert (
        "Release 8 cannot go out: fix 3 errors first. Ctrl+J, [ for Week's weights cannot be typed on 7"
        in rollout._said.text()
    )


def mend(studio: Studio) -> None:
    studio.session.do(TakeOff("department.quay", "letters", ("department.quay:weekly-timetable",)))
    studio.session.do(Unbind("department.quay", "letters", "key:writing:Ctrl+Alt+C"))
    studio.session.do(Unbind("organisation", "grid", "key:cell:Ctrl+J, ["))


def test_releasing_asks_in_numbers_and_writes_the_package(studio: Studio) -> None:
    mend(studio)
    studio.push("place-roll-out")
    rollout = studio.desk.places["Roll-out"]
    assert "“Timetable” is no longer on the tab Posters." in rollout._departments.text()
    rollout.news.setText("A new timetable comes.")
    studio.push("release")
    box = studio.window.findChild(QMessageBox, "confirm-release")
    assert "Release 8 to 40 seats?" in box.text()
    next(button for button in box.buttons() if button.text() == "Not yet").click()
    channel = FolderRepository(studio.folder.parent / "channel")
    assert channel.newest() == 7
    studio.push("release")
    box = studio.window.findChildren(QMessageBox, "confirm-release")[-1]
    next(button for button in box.buttons() if button.objectName() == "confirm-go").click()
    studio.qtbot.waitUntil(lambda: channel.newest() == 8)
    assert "Release 8 is out, for 40 seats." in studio.said
    assert {seat.state for seat in rollout.board.seats} == {State.OFFERED}


def test_a_release_is_written_in_a_thread_and_checked_no_second_time(
    studio: Studio, monkeypatch: pytest.MonkeyPatch
) -> None:
    mend(studio)
    studio.push("place-roll-out")
    rollout, checked = studio.desk.places["Roll-out"], studio.session.checked
    seen: list[tuple[bool, bool]] = []

    def publish(*args: Any, **named: Any) -> tuple[int, int]:
        seen.append((current_thread() is main_thread(), named["checked"] is checked))
        return publish_workspace(*args, **named)

    monkeypatch.setattr("rimecrest.studio.rollout.place.publish_workspace", publish)
    rollout._release(rollout.address(), 8)
    assert seen == [(False, True)]
    assert "Release 8 is out" in studio.said


def test_what_only_a_department_gets_only_its_colleagues_read(studio: Studio) -> None:
    mend(studio)
    studio.push("place-roll-out")
    rollout = studio.desk.places["Roll-out"]
    words = rollout._departments.text()
    assert "“Timetable” is no longer on the tab Posters." in words
    assert "Timetable" not in rollout.news.text()
    rollout._release(rollout.address(), 8)
    package = read_package(FolderRepository(studio.folder.parent / "channel").package(8), "8")
    assert package.release.news == {}, "each application works it out for itself"


def test_a_number_that_somebody_else_took_meanwhile_is_told(studio: Studio) -> None:
    mend(studio)
    studio.push("place-roll-out")
    rollout = studio.desk.places["Roll-out"]
    studio.push("release")
    publish_workspace(studio.session.workspace, rollout.address(), {})
    box = studio.window.findChild(QMessageBox, "confirm-release")
    next(button for button in box.buttons() if button.objectName() == "confirm-go").click()
    studio.qtbot.waitUntil(lambda: studio.window.findChild(QMessageBox, "newer-release") is not None)
    assert FolderRepository(studio.folder.parent / "channel").newest() == 8
    newer = studio.window.findChild(QMessageBox, "newer-release")
    assert "Release 8 was not made from this workspace." in newer.text()
    assert "“Timetable” is no longer on the tab Posters." in newer.text()
    next(button for button in newer.buttons() if button.objectName() == "confirm-go").click()
    studio.qtbot.waitUntil(lambda: FolderRepository(studio.folder.parent / "channel").newest() == 9)
    assert studio.session.workspace.settings.last_release.number == 9


@pytest.mark.parametrize("key", [Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter])
def test_a_stray_key_releases_nothing(studio: Studio, key: Qt.Key) -> None:
    mend(studio)
    studio.push("place-roll-out")
    studio.push("release")
    box = studio.window.findChild(QMessageBox, "confirm-release")
    for _ in range(3):
        QTest.keyClick(QApplication.focusWidget() or box, key)
        QApplication.processEvents()
    assert FolderRepository(studio.folder.parent / "channel").newest() == 7
    assert "1 change on 40 seats" in box.informativeText() or "changes on 40 seats" in box.informativeText()


def test_a_click_into_the_offered_news_selects_all_of_it(studio: Studio) -> None:
    studio.push("place-roll-out")
    field = studio.find("news-field")
    field.setText("Two helpers are new.")
    studio.find("release").setFocus()
    QTest.mouseClick(field, Qt.MouseButton.LeftButton, pos=field.rect().center())
    QApplication.processEvents()
    assert field.selectedText() == "Two helpers are new."


def test_the_first_release_is_compared_with_the_bare_applications(studio: Studio, tmp_path: Path) -> None:
    studio.session.do(SetChannel(str(tmp_path / "empty")))
    studio.push("place-roll-out")
    rollout = studio.desk.places["Roll-out"]
    assert "is on the tab Notices" in rollout.news.text() or "is for" in rollout.news.text()
    assert "Nothing" not in rollout.news.text()


def test_the_channel_of_a_first_release_is_remembered(studio: Studio, tmp_path: Path) -> None:
    mend(studio)
    studio.session.do(SetChannel(""))
    studio.push("place-roll-out")
    rollout = studio.desk.places["Roll-out"]
    assert rollout.address() == ""
    rollout._release(str(tmp_path / "first"), 1)
    assert rollout.address() == str(tmp_path / "first")
    assert {seat.state for seat in rollout.board.seats} == {State.OFFERED}
    assert read_workspace(studio.folder).settings.channel == str(tmp_path / "first")


def receipt_of(seat: str, release: int, state: str = "applied") -> Receipt:
    data = {"seat": seat_id("Sample", seat), "release": release, "state": state, "at": "2026-11-01"}
    return Receipt.model_validate(data)


def replace_at(receipt: Receipt, at: str) -> Receipt:
    return receipt.model_copy(update={"at": at})


def test_the_line_of_time_has_the_newest_six_releases(workspace: Workspace) -> None:
    def receipt(release: int) -> Receipt:
        data = {"seat": seat_id("Sample", "North 1"), "release": release, "state": "applied"}
        return Receipt.model_validate({**data, "at": f"2026-11-0{release}", "profile": "a"})

    board = board_of(workspace, 8, audience_of(workspace, 8), [receipt(n) for n in range(1, 9)])
    assert [bar.number for bar in board.releases] == [3, 4, 5, 6, 7, 8]


def test_a_seat_for_which_two_profiles_report_says_so(workspace: Workspace) -> None:
    def receipt(profile: str, release: int = 2) -> Receipt:
        data = {"seat": seat_id("Sample", "North 1"), "release": release, "state": "applied"}
        return Receipt.model_validate({**data, "at": "2026-11-01", "profile": profile})

    audience = audience_of(workspace, 2)
    [one, *_] = board_of(workspace, 2, audience, [receipt("a", 1), receipt("b")]).seats
    assert not one.twice
    [one, *_] = board_of(workspace, 2, audience, [receipt(""), receipt("b")]).seats
    assert not one.twice
    board = board_of(workspace, 2, audience, [receipt("a"), receipt("b")])
    assert board.seats[0].twice
    assert [bar.share for bar in board.releases] == [1 / len(workspace.people)]


def test_a_receipt_that_arrives_shows_at_once(studio: Studio) -> None:
    mend(studio)
    studio.push("place-roll-out")
    rollout = studio.desk.places["Roll-out"]
    rollout._release(rollout.address(), 8)
    identity = seat_id(studio.session.workspace.settings.name, "Freight 3")
    channel = FolderRepository(studio.folder.parent / "channel")
    channel.put_receipt(Receipt(seat=identity, release=8, state="applied", at="2026-11-23T10:00:00+00:00"))
    studio.qtbot.waitUntil(lambda: rollout.board.count(State.HAS) == 1, timeout=5000)


def test_a_channel_out_of_reach_is_told_on_the_board(studio: Studio) -> None:
    (studio.folder.parent / "channel" / "audience.json").unlink()
    studio.push("place-roll-out")
    assert "audience.json cannot be read" in studio.desk.places["Roll-out"]._said.text()


def test_the_board_folds_audience_and_receipts(workspace: Workspace) -> None:
    def receipt(seat: str, release: int, state: str = "applied") -> Receipt:
        return Receipt.model_validate(
            {
                "seat": seat_id("Sample", seat),
                "release": release,
                "state": state,
                "at": f"2026-11-0{release}",
                "reason": "r",
            }
        )

    audience = audience_of(workspace, 2, ["North 1", "North 2", "South 1"])
    receipts = [
        receipt("North 1", 1),
        receipt("North 2", 1),
        receipt("North 1", 2),
        receipt("South 1", 2, "failed"),
    ]
    board = board_of(workspace, 2, audience, receipts)
    assert {seat.seat.seat: seat.state for seat in board.seats} == {
        "North 1": State.HAS,
        "North 2": State.OFFERED,
        "South 1": State.FAILED,
        "Both 1": State.NOT_YET,
    }
    assert [(bar.number, bar.share) for bar in board.releases] == [(1, 0.5), (2, 0.25)]
    assert board.departments(workspace)[0][0] == "North"
    assert read_board(workspace, "https://x").trouble


# Many seats

STATES = list(State)


def many(studio: Studio, departments: int, each: int) -> SeatMap:
    """The Roll-out place with made-up seats on its map."""
    studio.push("place-roll-out")
    shown = seat_map(studio)
    one = studio.desk.place(RolloutPlace).board.seats[0]

    def made(department: int, number: int) -> SeatState:
        seat = replace(one.seat, seat=f"D{department}-{number}", wave=str(1 + number % 3))
        return replace(one, seat=seat, state=STATES[number % 4])

    shown.show_seats([(f"Desk {d}", [made(d, n) for n in range(each)]) for d in range(departments)])
    return shown


def test_five_hundred_seats_stay_apart(studio: Studio) -> None:
    shown = many(studio, 10, 50)
    lying = boxes(shown)
    assert len({(box.x(), box.y()) for box in lying}) == 500
    assert min(box.width() for box in lying) >= SMALLEST
    assert not shown.rows.counted
    shown.setFocus()
    studio.press(Qt.Key.Key_End)
    assert shown.viewport().rect().contains(shown.visualRect(shown.currentIndex()))


def test_more_seats_than_fit_are_counts_that_open_and_close(studio: Studio) -> None:
    shown = many(studio, 40, 125)
    assert shown.rows.counted
    assert boxes(shown) == []
    head = shown.rows.index(shown.rows.head(2))
    words = "Desk 2: 125 seats: 32 has it, 31 offered, 31 not yet, 31 failed, closed"
    assert head.data(Qt.ItemDataRole.AccessibleTextRole) == words
    click_on(shown, "Desk 2")
    assert len(boxes(shown)) == 125
    assert len({(box.x(), box.y()) for box in boxes(shown)}) == 125
    assert all(box.left() >= 0 and box.right() <= shown.viewport().width() for box in boxes(shown))
    assert shown.rows.index(shown.rows.head(2)).data(Qt.ItemDataRole.AccessibleTextRole).endswith(", open")
    click_on(shown, "D2-1")
    click_on(shown, "Desk 2")
    assert boxes(shown) == []


def test_counts_do_not_lie_over_one_another(studio: Studio) -> None:
    shown = many(studio, 40, 125)
    click_on(shown, "Desk 4")
    heads = range(len(shown.rows.departments))
    lying = [shown.visualRect(shown.rows.index(shown.rows.head(number))) for number in heads]
    assert len(lying) == 40
    assert not any(one.intersects(other) for one, other in combinations([*lying, *boxes(shown)[:1]], 2))


def test_the_wheel_and_keys_go_over_all_of_them(studio: Studio) -> None:
    shown = many(studio, 40, 125)
    bar = shown.verticalScrollBar()
    middle = QPointF(shown.viewport().rect().center())
    wheel = QWheelEvent(
        middle,
        shown.viewport().mapToGlobal(middle),
        QPoint(),
        QPoint(0, -240),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(shown.viewport(), wheel)
    assert bar.value() > 0
    shown.setFocus()
    studio.press(Qt.Key.Key_Home)
    assert bar.value() <= 4
    assert shown.currentIndex().data() == "Desk 0"
    studio.press(Qt.Key.Key_Down)
    assert shown.currentIndex().data() == "Desk 3"
    studio.press(Qt.Key.Key_Up)
    assert shown.currentIndex().data() == "Desk 0"
    studio.press(Qt.Key.Key_Return)
    studio.press(Qt.Key.Key_Right)
    assert shown.currentIndex().data() == "D0-0"
    studio.press(Qt.Key.Key_PageDown)
    assert shown.visualRect(shown.currentIndex()).top() > 0
    studio.press(Qt.Key.Key_End)
    assert shown.currentIndex().data() == "Desk 39"
    assert bar.value() == bar.maximum()
    assert shown.viewport().rect().contains(shown.visualRect(shown.currentIndex()))
    studio.press(Qt.Key.Key_PageUp)
    assert bar.value() < bar.maximum()


def test_enter_twice_on_a_seat_leaves_its_sheet_open(studio: Studio) -> None:
    studio.push("place-roll-out")
    shown = seat_map(studio)
    shown.setFocus()
    studio.press(Qt.Key.Key_Return)
    studio.press(Qt.Key.Key_Return)
    assert "Berth 1" in sheet_text(studio)


@pytest.fixture
def slow_typing() -> Iterator[None]:
    """However slow the machine is, letters typed one after the other are one name."""
    interval = QApplication.keyboardInputInterval()
    QApplication.setKeyboardInputInterval(60_000)
    yield
    QApplication.setKeyboardInputInterval(interval)


def test_a_name_that_is_typed_on_the_map_opens_its_department(studio: Studio, slow_typing: None) -> None:
    shown = many(studio, 40, 125)
    shown.setFocus()
    studio.type("d30-77")
    assert shown.currentIndex().data() == "D30-77"
    assert shown.box_of("D30-77") is not None


def test_a_colleague_found_by_name_opens_its_sheet_where_seats_are_shown(studio: Studio) -> None:
    studio.push("place-roll-out")
    studio.press(Qt.Key.Key_F3)
    studio.type("Maren Lund")
    studio.press(Qt.Key.Key_Return)
    assert studio.session.aim.seat == "Care 9"
    assert "The newest one failed" in sheet_text(studio)
    assert seat_map(studio).currentIndex().data() == "Care 9"
    # The keys go on from there.
    studio.press(Qt.Key.Key_Right)
    assert seat_map(studio).currentIndex().data() == "Care 10"


def test_elsewhere_a_colleague_found_by_name_is_only_aimed_at(studio: Studio) -> None:
    studio.push("place-layout")
    studio.press(Qt.Key.Key_F3)
    studio.type("Maren Lund")
    studio.press(Qt.Key.Key_Return)
    assert studio.session.aim.seat == "Care 9"
    assert studio.desk.at == "Layout"


def test_what_is_open_and_reached_stays_so_when_a_receipt_comes(studio: Studio) -> None:
    shown = many(studio, 40, 125)
    click_on(shown, "Desk 2")
    click_on(shown, "D2-3")
    shown.verticalScrollBar().setValue(60)
    before = [(each.title, list(each.seats)) for each in shown.rows.departments]
    changed = replace(before[2][1][3], state=State.HAS)
    before[2][1][3] = changed
    shown.show_seats(before)
    assert shown.currentIndex().data() == "D2-3"
    assert seats(shown)["D2-3"].state is State.HAS
    assert len(boxes(shown)) == 125
    assert shown.verticalScrollBar().value() == 60


def test_a_small_map_that_is_pulled_larger_shows_all_again(studio: Studio) -> None:
    shown = many(studio, 5, 130)
    studio.window.resize(900, 520)
    QApplication.processEvents()
    assert shown.rows.counted
    studio.window.resize(1900, 1200)
    QApplication.processEvents()
    assert not shown.rows.counted
    assert len(boxes(shown)) == 650


NUMBERS = st.lists(st.integers(0, 700), min_size=1, max_size=30)


@given(NUMBERS, st.integers(200, 1600), st.integers(100, 900), st.data())
def test_no_two_seats_share_a_place_and_none_is_cut_off(
    numbers: list[int], width: int, height: int, data: st.DataObject
) -> None:
    opened = data.draw(st.lists(st.booleans(), min_size=len(numbers), max_size=len(numbers)))
    packing = pack(numbers, width, height, opened)
    assert len(packing.heads) == len(packing.seats) == len(numbers)
    lying = [box for comb in packing.seats for box in comb]
    assert len({(box.x, box.y) for box in lying}) == len(lying)
    assert all(box.y + box.height <= packing.height + 1 for box in [*packing.heads, *lying])
    if packing.counted:
        shown = [number if is_open else 0 for number, is_open in zip(numbers, opened, strict=True)]
        assert [len(comb) for comb in packing.seats] == shown
        assert sum(numbers) > FEW
    else:
        assert packing.height <= height or sum(numbers) <= FEW
        assert [len(comb) for comb in packing.seats] == numbers
        assert all(box.width >= SMALLEST for box in lying)


# Looking at the channel


def test_what_was_read_once_is_not_read_again(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    channel = FolderRepository(tmp_path)
    for number in (1, 2):
        channel.put_receipt(receipt_of("North 1", number))
    first, _ = channel.receipts()
    read: list[str] = []
    real = receipt_files.parse_receipt

    def noted(text: str, path: str) -> Receipt:
        read.append(path)
        return real(text, path)

    monkeypatch.setattr(receipt_files, "parse_receipt", noted)
    assert channel.receipts()[0] is first
    assert read == []
    channel.put_receipt(receipt_of("North 1", 3))
    found, ignored = channel.receipts()
    assert [receipt.release for receipt in found] == [1, 2, 3]
    assert [Path(path).name for path in read] == ["3.json"]
    assert ignored == 0


def test_a_receipt_that_is_replaced_or_gone_is_seen(tmp_path: Path) -> None:
    channel = FolderRepository(tmp_path)
    channel.put_receipt(receipt_of("North 1", 1))
    channel.put_receipt(receipt_of("North 2", 1))
    assert [receipt.state for receipt in channel.receipts()[0]] == ["applied", "applied"]
    channel.put_receipt(receipt_of("North 1", 1, "failed"))
    assert sorted(receipt.state for receipt in channel.receipts()[0]) == ["applied", "failed"]
    # Also where it is not a byte longer than before.
    channel.put_receipt(replace_at(receipt_of("North 1", 1, "failed"), "2026-11-02"))
    assert sorted(receipt.at for receipt in channel.receipts()[0]) == ["2026-11-01", "2026-11-02"]
    next(tmp_path.glob(f"receipts/{seat_id('Sample', 'North 2')}/*.json")).unlink()
    assert [receipt.state for receipt in channel.receipts()[0]] == ["failed"]


def test_receipts_that_are_no_use_are_counted(tmp_path: Path) -> None:
    channel = FolderRepository(tmp_path)
    channel.put_receipt(receipt_of("North 1", 1))
    folder = tmp_path / "receipts" / seat_id("Sample", "North 1")
    good = (folder / "1.json").read_text()
    (folder / "2.json").write_text("{")
    (folder / "3.json").write_text(good + " " * 70_000)
    (folder / "4.json").symlink_to(tmp_path / "nowhere")
    (folder / "5.txt").write_text("not looked at")
    elsewhere = tmp_path / "receipts" / seat_id("Sample", "North 2")
    elsewhere.mkdir()
    (elsewhere / "1.json").write_text(good)
    found, ignored = channel.receipts()
    assert len(found) == 1
    assert ignored == 4
    assert channel.receipts_of(seat_id("Sample", "North 2")) == []


def test_a_board_is_folded_again_only_when_something_changed(workspace: Workspace, tmp_path: Path) -> None:
    channel = FolderRepository(tmp_path)
    reader = BoardReader()
    first = reader.read(workspace, str(tmp_path))
    assert reader.read(workspace, str(tmp_path)) is first
    channel.put_receipt(receipt_of("North 1", 1))
    second = reader.read(workspace, str(tmp_path))
    assert second is not first
    assert second.releases[0].number == 1


def test_the_window_does_not_wait_for_a_slow_channel(studio: Studio, monkeypatch: pytest.MonkeyPatch) -> None:
    studio.push("place-roll-out")
    rollout = studio.desk.place(RolloutPlace)
    go_on = Event()
    real = BoardReader.read

    looks: list[str] = []

    def slowly(reader: BoardReader, workspace: Workspace, address: str) -> Board:
        looks.append(address)
        go_on.wait(10)
        return replace(real(reader, workspace, address), ignored=3)

    monkeypatch.setattr(BoardReader, "read", slowly)
    rollout._poll()
    rollout._poll()  # one look at a time
    assert rollout.board.ignored == 0
    go_on.set()
    studio.qtbot.waitUntil(lambda: rollout.board.ignored == 3)
    assert len(looks) == 1
    assert "3 receipts could not be used." in rollout._said.text()


def test_a_channel_that_cannot_be_read_is_said_and_not_waited_for(studio: Studio) -> None:
    assert studio.session.do(SetChannel("https://office.example/channel"))
    studio.push("place-roll-out")
    rollout = studio.desk.place(RolloutPlace)
    assert "“https://office.example/channel” is no folder." in rollout._said.text()


def slow_channel(monkeypatch: pytest.MonkeyPatch) -> Event:
    """From now on a channel answers only when this is set."""
    go_on = Event()
    real = BoardReader.read

    def slowly(reader: BoardReader, workspace: Workspace, address: str) -> Board:
        assert go_on.wait(30)
        return real(reader, workspace, address)

    monkeypatch.setattr(BoardReader, "read", slowly)
    return go_on


def test_nor_when_the_place_comes_to_the_fore(studio: Studio, monkeypatch: pytest.MonkeyPatch) -> None:
    mend(studio)
    go_on = slow_channel(monkeypatch)
    monkeypatch.setattr("rimecrest.studio.rollout.place.SOON", 0.05)
    studio.push("place-roll-out")
    rollout = studio.desk.place(RolloutPlace)
    assert rollout.isVisible()
    assert rollout._said.text() == "Looking at the channel, which takes a while …"
    assert rollout.board.newest == 0
    go_on.set()
    studio.qtbot.waitUntil(lambda: rollout.board.newest == 7, timeout=5000)
    assert rollout._said.text().startswith("Release 7 by ")
    assert "Timetable" in rollout._departments.text(), "what is new is drafted when it is known"


def test_what_was_known_is_shown_until_a_slow_channel_has_said_that_it_is_so_still(
    studio: Studio, monkeypatch: pytest.MonkeyPatch
) -> None:
    mend(studio)
    studio.push("place-roll-out")
    rollout = studio.desk.place(RolloutPlace)
    known = rollout._said.text()
    assert known.startswith("Release 7 by ")
    studio.push("place-layout")
    go_on = slow_channel(monkeypatch)
    monkeypatch.setattr("rimecrest.studio.rollout.place.SOON", 0.05)
    studio.push("place-roll-out")
    assert rollout._said.text() == "Looking at the channel, which takes a while …"
    assert rollout.board.newest == 7
    go_on.set()
    studio.qtbot.waitUntil(lambda: rollout._said.text() == known, timeout=5000)


def test_a_look_that_is_waited_for_no_longer_is_told_once(
    studio: Studio, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    watch = BoardWatch(studio.window)
    told: list[Sighting] = []
    watch.seen.connect(told.append)
    workspace = studio.session.workspace
    at_once = watch.look_within(workspace, str(tmp_path), 10.0)
    assert at_once is not None
    assert at_once.package is None
    go_on = slow_channel(monkeypatch)
    assert watch.look_within(workspace, str(tmp_path), 0.05) is None
    assert told == []
    go_on.set()
    studio.qtbot.waitUntil(lambda: len(told) == 1, timeout=5000)
    assert told[0].board == at_once.board


def test_a_release_by_somebody_else_is_seen_and_the_news_are_drafted_against_it(studio: Studio) -> None:
    mend(studio)
    studio.push("place-roll-out")
    rollout = studio.desk.place(RolloutPlace)
    assert "Timetable" in rollout._departments.text()
    publish_workspace(studio.session.workspace, rollout.address(), {}, over=99)
    studio.qtbot.waitUntil(lambda: rollout.release_button.text() == "Release 9", timeout=5000)
    assert "Timetable" not in rollout._departments.text()
