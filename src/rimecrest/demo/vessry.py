"""Vessry Isles Ferries, made anew from a seed: the workspace, its channel with two releases, and receipts.

Everything in it is invented. Dates are fixed, so that pictures are the same every time. The troubles that
the checks must find are planted here, each beside a comment that names it.
"""

from __future__ import annotations

import os
import random
import shutil
import subprocess
import sys
from collections.abc import Iterator
from dataclasses import replace
from functools import lru_cache
from pathlib import Path

from rimecrest.apps.grid.book import Book, Cell, Sheet
from rimecrest.apps.grid.files import spreadsheet_bytes
from rimecrest.apps.grid.reckon import Reckoner
from rimecrest.channel import FolderRepository
from rimecrest.core.catalogue.surfaces import Button, Group, Separator, Tab, Toolbar
from rimecrest.core.check import check
from rimecrest.core.layout import Acceptance, KeyBinding, Layout
from rimecrest.core.model import dump_record
from rimecrest.core.release import Receipt, audience_of, build_package, frozen_pictures, seat_id
from rimecrest.core.workspace import (
    LayerTitle,
    OwnKey,
    Seat,
    Settings,
    UseCount,
    Workspace,
    format_own_keys,
    format_people,
    format_use,
    open_workspace,
)
from rimecrest.core.workspace.atomic import write_atomically
from rimecrest.core.workspace.parts import LAYOUTS

NAME = "Vessry Isles Ferries"
SEED = 48
LAYERS = (
    LayerTitle(id="organisation", title="Everyone"),
    LayerTitle(id="department.berth", title="Berth desk"),
    LayerTitle(id="department.freight", title="Freight desk"),
    LayerTitle(id="department.care", title="Passenger care"),
    LayerTitle(id="department.quay", title="Quay offices"),
)
_SIZES = {"berth": 8, "freight": 12, "care": 14, "quay": 6}
_SEAT_NAMES = {"berth": "Berth", "freight": "Freight", "care": "Care", "quay": "Quay"}
_FIRST = (
    *(
        "Ailis",
        "Bram",
        "Cairn",
        "Dagny",
        "Eskil",
        "Fenna",
        "Gorm",
        "Hild",
        "Ivo",
        "Jorun",
        "Kell",
        "Liv",
        "Maren",
    ),
    *(
        "Nils",
        "Oda",
        "Pelle",
        "Quill",
        "Runa",
        "Sten",
        "Tove",
        "Ulf",
        "Vigga",
        "Wren",
        "Ylva",
        "Aske",
        "Brynja",
    ),
    *(
        "Cato",
        "Dorte",
        "Embla",
        "Frode",
        "Gro",
        "Hauk",
        "Inka",
        "Jarl",
        "Kaia",
        "Lone",
        "Moss",
        "Nora",
        "Orm",
        "Pia",
    ),
)
_LAST = ("Sundby", "Holm", "Skarv", "Tarn", "Brae", "Ness", "Voe", "Strand", "Lund", "Fjell")

MACROS = {
    ("organisation", "sailing-notice"): """\
macro "Sailing notice"
about "Heads a notice for one vessel at the cursor."
for letters
needs here.body or say "Put the cursor into the text, not into a note or table."

ask vessel "Which vessel?" choices "Brinholt", "Ovessa", "Quessel"
do new-line
part "Heading"
  do align-paragraph to=centre
  do embolden on=yes
  write "Notice to passengers of {vessel}"
  do embolden on=no
end
do new-line
do align-paragraph to=left
write "Sailings of {vessel} may change at short notice."
~ do insert-rule
do new-line
""",
    ("organisation", "settle-pasted-text"): """\
macro "Settle pasted text"
about "Clears what came along with a paste, in the whole letter."
for letters
needs letter.text or say "The letter is still empty."

do choose-all
do clear-look
do space-lines to=120
do align-paragraph to=left
do choose-nothing
do go-to-end
say "The whole letter has one look now."
""",
    ("department.freight", "hazard-note"): """\
macro "Hazard note"
about "Puts the standard note on hazardous goods beside the text."
for letters
needs here.body or say "Put the cursor into the text, not into a note or table."

ask class "Which hazard class?" default "3"
do insert-note
do embolden on=yes
write "Hazardous goods, class {class}"
do embolden on=no
do new-line
write "Stow on the open deck, away from passenger vehicles."
do leave-note
""",
    ("department.berth", "berth-line"): """\
macro "Berth line"
about "Writes the line that closes a berth plan."
for letters
needs here.body or say "Put the cursor into the text, not into a note or table."

ask berth "Which berth?" choices "North", "South", "Fish quay"
write "Berth {berth}, planned on {today.weekday}."
do new-line
""",
    ("department.freight", "weather-box"): """\
macro "Weather box"
about "Puts a weather warning at the cursor."
for letters
needs here.body or say "Put the cursor into the text, not into a note or table."

ask area "Which area?" choices "North sound", "South sound", "Open water"
part "Heading"
  write "Weather: {area}"
  do choose-written
  do embolden on=yes
  do mark-words
  do go-to-paragraph-end
  do clear-look
end
do new-line
~ write "Sailngs may"
write "Sailings may change at short notice."
""",
    ("department.berth", "todays-berth-plan"): """\
macro "Today's berth plan"
about "Opens the berth plan at the sheet of a weekday."
for grid
needs context cell or say "Finish what you are writing first."
with "companions/berth-plan.ods"

ask day "Which day?" from week default "{today.weekday}"
do open path="'companions/berth-plan.ods' " sheet="{day}"
do go-to-heading name="Vessel"
do move-by down=1
""",
    ("department.freight", "next-overweight"): """\
macro "Next overweight sailing"
about "Goes to the next row whose weight is over its limit."
for grid
needs context cell or say "Put the cursor on a row of the sheet first."

do go-to-heading name="Weight"
set over = no
set most = 0
while not over and not at-end limit 5000
  do move-by down=1
  do go-to-heading name="Limit"
  set most = here.value
  do go-to-heading name="Weight"
  set over = here.value > most
end
if over
  say "{here.value} is over the limit of {most}."
else
  stop "No sailing further down is over its limit."
end
""",
    ("organisation", "weeks-weights"): """\
macro "Week's weights"
about "Adds a sheet with one line for each sheet: its name and the sum of its weights."
for grid
needs sheet.rows or say "This sheet is empty: open the week's weights first."

ask title "What is the summary called?" default "Summary"
set before = sheets
do add-sheet name="{title}"
write "Sheet"
do keep-right
write "Weight"
do mark-heading
for each day in before
  do go-to-sheet name="{day}"
  do go-to-heading name="Weight"
  do choose-filled
  set total = chosen.sum
  do go-to-sheet name="{title}"
  do go-below
  do set-cell to="{day}"
  do move-by right=1
  do set-cell to="{total}"
end
say "{title} has a line for each sheet."
""",
    ("department.freight", "close-the-booking"): """\
macro "Close the booking"
about "Marks the chosen cells as booked and notes the day."
for grid
needs chosen.text or say "Choose the cells of the booking first."

do colour-cells to="#E0EEF3"
do slant on=yes
do write-note
write "Booking closed on {today.date}."
do keep-note
do go-to-next-row
""",
    # Planted: a path in the specialist's home.
    ("department.quay", "quay-rota"): """\
macro "Quay rota"
about "Opens the rota of the quays."
for grid

do open path="/home/support/rota.ods"
""",
    ("department.care", "lost-property"): """\
macro "Lost property"
about "Answers a passenger who asks for something left on board."
for letters
needs here.body or say "Put the cursor into the text, not into a note or table."

ask thing "What was left on board?"
write "Thank you for asking after your {thing}. We have looked on board and at the quay."
do new-line
""",
}  # fmt: skip


def people() -> tuple[Seat, ...]:
    """The forty seats."""
    chance = random.Random(SEED)
    keyboards = ["gb"] * 31 + ["ie"] * 2 + ["de"] * 2 + ["no"] * 4 + ["be"]
    chance.shuffle(keyboards)
    firsts = list(_FIRST)
    chance.shuffle(firsts)
    seats: list[Seat] = []
    for department, size in _SIZES.items():
        for number in range(1, size + 1):
            index = len(seats)
            wave = "3"
            if department in ("berth", "freight"):
                wave = "1" if number == 2 else "2"
            seats.append(
                Seat(
                    seat=f"{_SEAT_NAMES[department]} {number}",
                    name=f"{firsts[index]} {_LAST[index % len(_LAST)]}",
                    departments=(department,),
                    keyboard=keyboards[index],
                    desktop="gnome" if index % 3 else "xfce",
                    session="remote" if department == "quay" else "",
                    wave=wave,
                )
            )
    # One seat belongs to two departments, one is restricted, one colleague uses a screen reader.
    changed = {
        "Freight 11": {"policy": "restricted"},
        "Freight 5": {"departments": ("berth", "freight")},
        "Care 4": {"reader": "orca"},
    }
    return tuple(replace(seat, **changed.get(seat.seat, {})) for seat in seats)


def _macro_item(name: str, **more: object) -> Button:
    return Button.model_validate({"id": name, "run": f"macro:{name}", **more})


def _layouts() -> Iterator[Layout]:
    yield Layout(
        app="letters",
        layer="organisation",
        groups=(),
        tabs=(
            Tab(
                id="notices",
                title="Notices",
                after="app:tab-put-in",
                groups=(
                    Group(
                        id="everyone",
                        title="Everyone",
                        items=(
                            _macro_item("settle-pasted-text", picture="set:broom", label="Settle text"),
                            Button(id="date", run="letters:insert-date"),
                        ),
                    ),
                ),
            ),
        ),
        keys=(KeyBinding(keys="Ctrl+J, Y", in_context="writing", run="macro:settle-pasted-text"),),
    )
    yield Layout(
        app="letters",
        layer="department.freight",
        toolbars=(
            Toolbar(
                id="freight",
                title="Freight",
                edge="top",
                after="app:main",
                items=(
                    _macro_item("hazard-note", picture="set:alert-outline", face="both"),
                    Button(id="table", run="letters:insert-table", face="both"),
                    Separator(id="rule-1", separator=True),
                    Button(id="points", run="letters:points"),
                    Button(id="numbered", run="letters:numbered"),
                ),
            ),
        ),
        # Planted: two departments want Ctrl+J, O, and Freight 5 belongs to both.
        keys=(KeyBinding(keys="Ctrl+J, O", in_context="writing", run="macro:hazard-note"),),
        acceptances=(
            Acceptance(
                kind="takes-over",
                owners=("department.freight:key:writing:Ctrl+J, O", "app:key-strike-out"),
                targets="",
                why="Nobody at the desk strikes words out.",
            ),
        ),
    )
    yield Layout(
        app="letters",
        layer="department.berth",
        keys=(KeyBinding(keys="Ctrl+J, O", in_context="writing", run="macro:berth-line"),),
        hide=("app:group-choose",),
    )
    yield Layout(
        app="letters",
        layer="department.care",
        # Planted: a shared key takes over one that everybody uses.
        keys=(KeyBinding(keys="Ctrl+P", in_context="anywhere", run="macro:lost-property"),),
        toolbars=(
            Toolbar(
                id="care",
                title="Passenger care",
                edge="right",
                items=(_macro_item("lost-property", picture="set:bag-suitcase-outline"),),
            ),
        ),
    )
    yield Layout(
        app="letters",
        layer="department.quay",
        # Planted: over a remote session this types a character.
        keys=(KeyBinding(keys="Ctrl+Alt+C", in_context="writing", run="letters:insert-date"),),
        tabs=(
            Tab(
                id="posters",
                title="Posters",
                after="organisation:notices",
                groups=(
                    Group(
                        id="week",
                        title="Week",
                        items=(
                            # Planted: a button whose macro was deleted.
                            _macro_item("weekly-timetable", picture="set:calendar-week", label="Timetable"),
                            # Planted: a label that is cut off.
                            Button(
                                id="across",
                                run="letters:insert-rule",
                                label="Line across the noticeboard sheet",
                            ),
                        ),
                    ),
                ),
            ),
        ),
    )


def _grid_layouts() -> Iterator[Layout]:
    yield Layout(
        app="grid",
        layer="organisation",
        # Planted: a bracket, which German, Norwegian and Belgian keyboards have no key for.
        keys=(KeyBinding(keys="Ctrl+J, [", in_context="cell", run="macro:weeks-weights"),),
        tabs=(
            Tab(
                id="week",
                title="Week",
                after="app:tab-reckon",
                groups=(
                    Group(
                        id="sums",
                        title="Sums",
                        items=(
                            _macro_item("weeks-weights", picture="set:weight", label="Week's weights"),
                            Button(id="values", run="grid:save-values"),
                        ),
                    ),
                ),
            ),
        ),
    )
    yield Layout(
        app="grid",
        layer="department.freight",
        toolbars=(
            Toolbar(
                id="freight",
                title="Freight",
                edge="top",
                after="app:main",
                items=(
                    _macro_item(
                        "next-overweight", label="Next overweight", face="both", picture="set:weight"
                    ),
                    _macro_item("close-the-booking", face="both", picture="set:calendar-check-outline"),
                    Separator(id="rule-1", separator=True),
                    Button(id="sum", run="grid:put-sum"),
                ),
            ),
        ),
        keys=(
            KeyBinding(keys="Ctrl+J, X", in_context="cell", run="macro:next-overweight"),
            # Planted: what deletes lies beside the much used key for a sum.
            KeyBinding(keys="Ctrl+J, G", in_context="cell", run="grid:take-doubles"),
        ),
    )
    yield Layout(
        app="grid",
        layer="department.berth",
        toolbars=(
            Toolbar(
                id="berth",
                title="Berth",
                edge="top",
                after="app:main",
                items=(_macro_item("todays-berth-plan", face="both", picture="set:calendar-today"),),
            ),
        ),
    )


DAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")


@lru_cache(maxsize=1)
def berth_plan() -> bytes:
    """The berth plan of a week as an OpenDocument spreadsheet: a sheet for each day.

    Made once: which namespaces odfpy declares depends on what it wrote before.
    """
    chance = random.Random(SEED)
    book = Book(lambda patch: None, sheets=[])
    for day in DAYS:
        sheet = Sheet(day)
        rows = [("Sailing", "Vessel", "Berth", "Weight", "Limit")]
        for hour in range(6, 20, 2):
            vessel = chance.choice(("Brinholt", "Ovessa", "Quessel"))
            limit = {"Brinholt": 44, "Ovessa": 52, "Quessel": 36}[vessel]
            berth = chance.choice(("North", "South", "Fish quay"))
            time = f"{hour:02d}:{chance.choice((10, 25, 40, 55))}"
            rows.append((time, vessel, berth, str(limit - chance.randrange(-6, 15)), str(limit)))
        sheet.rows = [{column: Cell(text) for column, text in enumerate(row)} for row in rows]
        book.sheets.append(sheet)
    return spreadsheet_bytes(book.sheets, Reckoner(book))


def _use() -> Iterator[UseCount]:
    """What the forty seats counted in thirty days, and what the specialist reckons."""
    counted = {
        "letters": {
            "macro:sailing-notice": 640, "macro:hazard-note": 310, "macro:settle-pasted-text": 420,
            "macro:lost-property": 180, "macro:berth-line": 240, "letters:embolden": 2100,
            "letters:insert-table": 330, "letters:insert-date": 880, "letters:insert-rule": 45,
            "letters:strike-out": 6, "letters:print": 900, "letters:save": 5200, "letters:points": 260,
        },
        "grid": {
            "macro:next-overweight": 720, "macro:weeks-weights": 150, "macro:todays-berth-plan": 190,
            "macro:close-the-booking": 460, "grid:put-sum": 2400, "grid:take-doubles": 70,
            "grid:clear-look": 90, "grid:save": 4100, "grid:print": 320, "grid:order-ascending": 410,
            "grid:fit-width": 380, "grid:add-rows": 650,
        },
    }  # fmt: skip
    for app, uses in counted.items():
        for target, number in uses.items():
            yield UseCount(app, target, number, target != "macro:close-the-booking")


def make_workspace(folder: Path) -> Workspace:
    """Write the demo's workspace into a folder that must be empty or not there yet."""
    folder.mkdir(parents=True, exist_ok=True)
    settings = Settings(name=NAME, applications=("letters", "grid"), layers=LAYERS, channel="../channel")
    write_atomically(folder / "workspace.json", dump_record(settings, "workspace").encode())
    write_atomically(folder / "people.csv", format_people(people()).encode())
    write_atomically(folder / "use.csv", format_use(_use()).encode())
    # Planted: a colleague made this key before the freight desk did.
    own = OwnKey("Freight 7", "grid", "Ctrl+J, X", "grid:clear-look", "cell")
    write_atomically(folder / "own-keys.csv", format_own_keys([own]).encode())
    for (layer, name), text in MACROS.items():
        write_atomically(folder / "macros" / layer / f"{name}.steps", text.encode())
    write_atomically(folder / "companions" / "berth-plan.ods", berth_plan())
    for layout in (*_layouts(), *_grid_layouts()):
        path = folder / "layouts" / layout.layer / f"{layout.app}.json"
        write_atomically(path, LAYOUTS.write(layout))
    for app in settings.applications:
        describe(app, folder / "catalogues")
    return _with_acceptances(folder)


def _with_acceptances(folder: Path) -> Workspace:
    """Fill in the digests of what was accepted, which only a check can know."""
    workspace = open_workspace(folder)
    findings = {tuple(o.id for o in finding.owners): finding for finding in check(workspace).findings}
    for layout in workspace.layouts.values():
        if layout.acceptances:
            known = tuple(
                kept.model_copy(update={"targets": findings[kept.owners].targets_digest()})
                for kept in layout.acceptances
            )
            layout = layout.model_copy(update={"acceptances": known})
            write_atomically(folder / "layouts" / layout.layer / f"{layout.app}.json", LAYOUTS.write(layout))
    return open_workspace(folder)


def describe(app: str, folder: Path) -> None:
    """Have an application itself write its catalogue, in a process of its own."""
    folder.mkdir(parents=True, exist_ok=True)
    subprocess.run(
        [sys.executable, "-m", "rimecrest", "app", app, "--describe", str(folder)],
        check=True,
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
    )


def make_channel(workspace: Workspace, folder: Path) -> None:
    """Publish releases 6 and 7 there, and the receipts of the seats that have them."""
    channel = FolderRepository(folder)
    pictures = frozen_pictures(workspace)
    chance = random.Random(SEED)
    for number, day in ((6, 9), (7, 16)):
        news = {"organisation": "“Settle text” is on the tab Notices."}
        channel.publish(
            number, build_package(workspace, number, news, pictures), audience_of(workspace, number)
        )
        for index, seat in enumerate(workspace.people):
            identity = seat_id(workspace.settings.name, seat.seat)
            at = f"2026-11-{day:02d}T{8 + index % 8:02d}:{chance.randrange(60):02d}:00.000+00:00"
            if number == 7 and seat.seat in ("Quay 5", "Berth 6"):
                continue  # silent since the release before
            failed = number == 7 and seat.seat == "Care 9"
            channel.put_receipt(
                Receipt(
                    seat=identity,
                    release=number,
                    state="failed" if failed else "applied",
                    at=at,
                    reason="The disk of this computer is full." if failed else "",
                )
            )


def make_demo(folder: Path) -> Path:
    """The whole demo in a folder, made anew: `vessry/` and `channel/`. Returns the workspace's folder."""
    for name in ("vessry", "channel"):
        shutil.rmtree(folder / name, ignore_errors=True)
    workspace = make_workspace(folder / "vessry")
    make_channel(workspace, folder / "channel")
    return folder / "vessry"
