"""Reading the profiles of desktops, input methods and screen readers."""

from functools import cache, cached_property, lru_cache
from pathlib import Path
from typing import Literal

from pydantic import Field, field_validator

from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.chords import Chord, normalise, parse_sequence
from rimecrest.core.model import Record, parse_record

Kind = Literal["desktop", "input", "reader"]


class Profile(Record):
    """What one desktop session, input method or screen reader keeps for itself.

    `reserved` gives what each chord does there, in words that follow “it …”. `gsettings` names the schemas
    from which the real keys of a machine can be read.
    """

    id: str
    kind: Kind = "desktop"
    name: str
    reserved: dict[str, str] = Field(default_factory=dict)
    gsettings: tuple[str, ...] = ()

    @field_validator("reserved")
    @classmethod
    def _one_spelling(cls, value: dict[str, str]) -> dict[str, str]:
        try:
            return {normalise(keys): does for keys, does in value.items()}
        except RimecrestError as error:
            raise ValueError(error.sentence) from None

    @cached_property
    def chords(self) -> dict[Chord, str]:
        """Chord → what it does there."""
        return {parse_sequence(keys)[0]: does for keys, does in self.reserved.items()}


EVERYWHERE = Profile(
    id="",
    name="the Linux console",
    reserved={
        **{f"Ctrl+Alt+F{number}": "changes to a text console" for number in range(1, 13)},
        **{
            f"Ctrl+Alt+KP_{key}": "is a key of the X server"
            for key in ("Add", "Subtract", "Multiply", "Divide")
        },
    },
)
"""What goes to no application on any seat: to the kernel's consoles (console_codes(4), chvt(1)), or to the X
server (xkeyboard-config, key type CTRL+ALT)."""


_DATA = Path(__file__).with_name("data")


@lru_cache(maxsize=1)
def known_profiles() -> tuple[str, ...]:
    """The ids of all profiles that come with Rimecrest."""
    return tuple(sorted(path.stem for path in _DATA.glob("*.json")))


@cache
def profile(identity: str) -> Profile:
    """The profile of that id. Raises RimecrestError when there is none."""
    if identity not in known_profiles():
        raise RimecrestError(
            f"There is no profile “{identity}” of reserved keys.",
            f"Known are: {', '.join(known_profiles())}.",
        )
    return parse_profile((_DATA / f"{identity}.json").read_text("utf-8"), f"{identity}.json")


def parse_profile(text: str, where: str) -> Profile:
    """Read a profile. Raises BrokenFile or NewerFormat."""
    return parse_record(Profile, text, "reserved", where)
