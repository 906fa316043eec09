"""What a seat says of itself in messages: who writes, and the signature beneath."""

from __future__ import annotations

import getpass
from pathlib import Path

from platformdirs import user_data_dir

from rimecrest.core.model import Record
from rimecrest.kit.profile_record import keep, read_kept


class Own(Record):
    """post.json. `sender` is an address with a name, `signature` HTML; empty: nothing was said yet."""

    sender: str = ""
    signature: str = ""


def home(profile: Path | None) -> Path:
    """Where a seat keeps what is its own: its profile, else the colleague's data folder."""
    return profile if profile is not None else Path(user_data_dir("rimecrest"))


def read_own(profile: Path | None) -> Own:
    own = read_kept(Own, "post", home(profile))
    return own if own.sender else own.model_copy(update={"sender": f"{getpass.getuser()}@post.invalid"})


def keep_own(profile: Path | None, own: Own) -> None:
    home(profile).mkdir(parents=True, exist_ok=True)
    keep(own, "post", home(profile))
