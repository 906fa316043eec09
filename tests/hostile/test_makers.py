"""A macro from outside says who made it, whatever its file is called and on whichever shelf it lies."""

from __future__ import annotations

import random
from pathlib import Path

import pytest

from rimecrest.core.bundle.arriving import take_in
from rimecrest.core.bundle.bundle import build_bundle, read_bundle
from rimecrest.core.signing import MakerKey
from rimecrest.core.workspace.file_edits import CarryMacro, PutCompanion, PutMacro, Vouch
from rimecrest.core.workspace.keeper import Keeper
from rimecrest.core.workspace.layer_ids import MINE
from rimecrest.core.workspace.macro_file import macro_file
from rimecrest.core.workspace.origin import bare, marked, origin_of, signed_by, taken_in_as
from rimecrest.core.workspace.rewriting import Names
from rimecrest.core.workspace.workspace import Workspace
from tests.conftest import make_workspace, write_workspace
from tests.hostile.seeds import SEED

MAKER, OTHER = MakerKey.fresh("Ailis Sundby"), MakerKey.fresh("Somebody Else")
WORDS = (
    "tidy",
    "inner",
    "form",
    "lanes",
    "vessel",
    "Hazard “note”",
    'a "quoted" word',
    "{here.value}",
    "#",
    "",
)
NAMES = Names(
    macros={"inner": "inner-2", "tidy": "tidy-7"},
    companions={"form.txt": "form-2.txt"},
    panels={"lanes": "lanes-2"},
    controls={("lanes", "vessel"): "vessel-3", ("lanes", "port"): "port"},
    titles={"Tidy": "Tidy 3"},
)


def written(draw: random.Random, panels: bool = True) -> str:
    """The text of some macro, in lines as people write them."""

    def quoted() -> str:
        word = draw.choice(WORDS).replace('"', '\\"')
        return f'"{word}"'

    lines = [f'macro "{draw.choice(["Tidy", "Other", "Tidy 2"])}"', f"about {quoted()}", "for notes"]
    lines += ['with "companions/form.txt"'] * draw.randrange(2) + ["# of old"] * draw.randrange(2) + [""]
    kinds = [
        lambda: f"write {quoted()}",
        lambda: f'run "{draw.choice(["inner", "tidy", "elsewhere"])}"',
        lambda: "do bold   on=yes # so",
        lambda: "~ do save",
        lambda: 'do open path="companions/form.txt"',
    ]
    if panels:
        kinds += [
            lambda: 'ask panel "lanes"',
            lambda: 'write "{panel.lanes.vessel}"',
            lambda: "if panel.lanes.port is empty\n    stop\nend",
        ]
    return "\n".join([*lines, *(draw.choice(kinds)() for _ in range(draw.randrange(1, 9)))]) + "\n"


@pytest.mark.parametrize("number", range(100))
def test_what_they_signed_holds_under_other_names_and_nothing_else_does(number: int) -> None:
    draw = random.Random(SEED * 1000 + number)
    signed = signed_by(MAKER, written(draw))
    here = taken_in_as(signed, NAMES)
    for text in (signed, here):
        origin = origin_of(text)
        assert origin is not None
        assert (origin.maker, origin.key, origin.holds) == (MAKER.name, MAKER.public, True)
        for changed in changes(text, draw):
            other = origin_of(changed)
            assert other is not None, changed
            assert other.why_not({MAKER.public, OTHER.public}), changed


def changes(text: str, draw: random.Random) -> list[str]:
    """The text with something changed, as by a hand that slips, or by one that forges."""
    plain = bare(text)
    head = text.removesuffix(plain)
    at = draw.choice([at for at, letter in enumerate(plain) if letter.isalnum()])
    lines = plain.splitlines(keepends=True)
    found = [
        head + plain[:at] + draw.choice("xy7Ü".replace(plain[at], "")) + plain[at + 1 :],
        head + plain + 'write "more"\n',
        head + plain.replace("\nend", "\nends"),  # reads as before when it is repaired
        head + plain.replace(draw.choice(lines[3:] or lines), "do bold\n", 1),
        head.replace(MAKER.name, "Sombody Trusted") + plain,
        head.replace(MAKER.public, OTHER.public) + plain,
        head + head + plain,
        marked(plain, MAKER.name, MAKER.public),
        marked(plain, MAKER.name, MAKER.public, "0" * 128),
    ]
    return [other for other in found if bare(other) != plain or other.removesuffix(plain) != head]


def workspace_of(names: tuple[str, ...]) -> Workspace:
    made = make_workspace()
    for name in names:
        made = PutMacro("organisation", name, f'macro "{name.title()}"\nfor notes\n\nwrite "ours"\n').on(made)
    return PutCompanion("form.txt", b"ours").on(made)


@pytest.mark.parametrize("number", range(30))
def test_on_every_shelf_of_every_workspace_it_stays_theirs(tmp_path: Path, number: int) -> None:
    draw = random.Random(SEED * 2000 + number)
    theirs = PutMacro("organisation", "tidy", written(draw, panels=False)).on(
        workspace_of(("inner", "elsewhere"))
    )
    bundle = read_bundle(build_bundle(theirs, [("organisation", "tidy")], MAKER), "it")
    assert bundle.signed
    here = make_workspace() if draw.randrange(2) else workspace_of(("inner", "tidy"))
    vouched = Vouch(MAKER.name, MAKER.public)
    taken = take_in(bundle, here, "organisation", {}).on(here)
    key = draw.choice([key for key in taken.macros if key not in here.macros])
    assert taken.refused(key)
    assert not vouched.on(taken).refused(key)
    mine = CarryMacro(*key, MINE, copy=bool(draw.randrange(2))).on(taken)
    (held,) = [file for (layer, _), file in mine.macros.items() if layer == MINE]

    # Another workspace of the same person, who keeps "Mine" in the profile; and the file called otherwise.
    own = tmp_path / "own"
    own.mkdir()
    (own / "quite-another.steps").write_text(held.text)
    keeper = Keeper(write_workspace(tmp_path / "second"), own)
    second = keeper.open()
    keeper.close()
    assert second.refused((MINE, "quite-another"))
    assert not vouched.on(second).refused((MINE, "quite-another"))
    back = CarryMacro(MINE, "quite-another", "organisation").on(second)
    assert back.refused(("organisation", "quite-another"))


def test_what_was_made_here_is_nobodys_else() -> None:
    for number in range(100):
        text = written(random.Random(number))
        assert macro_file("organisation", "it", text).origin is None
        assert bare(text) == text
