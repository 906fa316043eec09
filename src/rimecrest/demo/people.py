"""The forty seats of Vessry Isles Ferries: invented people, dealt out from a seed."""

from __future__ import annotations

import random
from typing import Any

from msgspec.structs import replace

from rimecrest.core.workspace.people import Seat

SEED = 48
_SIZES = {"berth": 8, "freight": 12, "care": 14, "quay": 6}
_SEAT_NAMES = {"berth": "Berth", "freight": "Freight", "care": "Care", "quay": "Quay"}
_FIRST = """
Ailis Bram Cairn Dagny Eskil Fenna Gorm Hild Ivo Jorun Kell Liv Maren
Nils Oda Pelle Quill Runa Sten Tove Ulf Vigga Wren Ylva Aske Brynja
Cato Dorte Embla Frode Gro Hauk Inka Jarl Kaia Lone Moss Nora Orm
Pia
""".split()  # noqa: SIM905
_LAST = ("Sundby", "Holm", "Skarv", "Tarn", "Brae", "Ness", "Voe", "Strand", "Lund", "Fjell")


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
    changed: dict[str, dict[str, Any]] = {
        "Freight 11": {"policy": "restricted"},
        "Freight 5": {"departments": ("berth", "freight")},
        "Care 4": {"reader": "orca"},
    }
    return tuple(replace(seat, **changed.get(seat.seat, {})) for seat in seats)
