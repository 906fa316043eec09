"""Five thousand seats: their outcome and check, and the Roll-out place with all of them."""

from __future__ import annotations

import json
import random
import shutil
import statistics
import time
from collections.abc import Callable, Iterator
from pathlib import Path

from msgspec.structs import replace

from frames import within_a_frame

SEATS = 5_000
SEED = 15
Row = tuple[str, str, str, str]
Comparison = tuple[str, str, Callable[[], object], Callable[[], object]]


def with_many_seats(workspace: Path, folder: Path) -> Path:
    """A copy of a workspace with made-up seats like those it has, and the receipts of nine in ten."""
    from rimecrest.core.model import dump_record
    from rimecrest.core.release.audience import audience_of, seat_id
    from rimecrest.core.release.receipt import Receipt
    from rimecrest.core.workspace.folder import read_workspace
    from rimecrest.core.workspace.people import format_people
    from rimecrest.rollout.folder import open_repository

    copy = folder / "seats" / workspace.name
    shutil.copytree(workspace.parent, copy.parent)
    made = read_workspace(copy)
    chance = random.Random(SEED)
    people = list(made.people)
    kinds = list({seat.departments: seat for seat in people}.values())
    for number in range(len(people), SEATS):
        like = kinds[number % len(kinds)]
        word = like.seat.split()[0]
        people.append(replace(like, seat=f"{word} {number}", name=f"Colleague {number}"))
    (copy / "people.csv").write_text(format_people(tuple(people)), "utf-8")
    made = read_workspace(copy)
    address = made.channel_address(copy)
    channel = open_repository(address)
    newest = channel.newest()
    (Path(address) / "audience.json").write_text(dump_record(audience_of(made, newest), "audience"), "utf-8")
    for seat in made.people:
        if chance.random() < 0.9:
            state = "failed" if chance.random() < 0.02 else "applied"
            report = {"seat": seat_id(made.settings.name, seat.seat), "release": newest, "state": state}
            channel.put_receipt(Receipt.model_validate({**report, "at": "2026-11-20T10:00:00+00:00"}))
    return copy


def comparisons(few: Path, many: Path) -> Iterator[Comparison]:
    """What is worked out for many seats against the same for few."""
    from rimecrest.core.check.run import check
    from rimecrest.core.workspace.folder import read_workspace

    small, large = read_workspace(few), read_workspace(many)

    def outcomes(made: object) -> Callable[[], object]:
        assert isinstance(made, type(small))

        def work() -> None:
            fresh = replace(made)
            for seat in fresh.people:
                for app in fresh.catalogues:
                    fresh.outcome(fresh.stack_of(seat), app)

        return work

    against = f"the same of {len(small.people)}"
    yield f"outcomes of {SEATS:,} seats", against, outcomes(large), outcomes(small)
    yield f"check with {SEATS:,} seats", against, lambda: check(large), lambda: check(small)


def rows(many: Path) -> list[Row]:
    """The rows of the Roll-out place."""
    from rimecrest.shell.start import make_qt_application
    from rimecrest.studio.rollout.place import RolloutPlace
    from rimecrest.studio.window import StudioWindow

    qt = make_qt_application("Rimecrest")
    took, bare = [], []
    receipts = Path(many).parent / "channel" / "receipts"
    for _ in range(3):
        window = StudioWindow()
        window.open_folder(many)
        window.resize(1280, 800)
        window.show()
        for _ in range(20):
            qt.processEvents()  # what the studio puts off after its first paint
        start = time.perf_counter()
        for path in sorted(receipts.glob("*/*.json")):
            json.loads(path.read_text("utf-8"))
        bare.append(time.perf_counter() - start)
        start = time.perf_counter()
        window.desk.go("Roll-out")
        qt.processEvents()
        took.append(time.perf_counter() - start)
        shown = window.desk.place(RolloutPlace).seat_map
        if len(took) < 3:
            window.close()
    opened, read = statistics.median(took), statistics.median(bare)
    found: list[Row] = [
        (
            f"Roll-out with {SEATS:,} seats opens",
            f"{opened * 1000:,.1f} ms",
            f"{opened / read:.2f} ×",
            f"reading its receipts as bare JSON ({read * 1000:,.1f} ms)",
        )
    ]
    shown.reveal(shown.rows.departments[1].seats[0].seat.seat)  # opens a department
    bar = shown.verticalScrollBar()
    for _ in range(20):
        qt.processEvents()  # fixes for the strip, once after a place was opened

    def pan() -> None:
        bar.setValue((bar.value() + 120) % bar.maximum())
        qt.processEvents()

    found.append(within_a_frame(f"the map of {SEATS:,} seats panned", pan))
    window.close()
    return found
