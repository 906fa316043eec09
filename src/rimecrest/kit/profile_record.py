"""A small record that an application keeps in a seat's profile: what was said once, and is to last."""

from __future__ import annotations

from pathlib import Path
from typing import TypeVar

from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import Folder
from rimecrest.core.log import log
from rimecrest.core.model import Record, dump_record, parse_record

Kept = TypeVar("Kept", bound=Record)


def read_kept(model: type[Kept], kind: str, folder: Path | None) -> Kept:
    """`<kind>.json` of a profile; an empty record where there is none.

    What cannot be read is left out: it must not keep a colleague from working.
    """
    name = f"{kind}.json"
    if folder is not None and Folder(folder).is_there(name):
        try:
            return parse_record(model, Folder(folder).text(name), kind, str(folder / name))
        except RimecrestError as error:
            log.warning("left out", kind=kind, reason=str(error))
    return model()


def keep(record: Record, kind: str, folder: Path) -> None:
    """Write it there, for nobody else to read. Raises RimecrestError."""
    Folder(folder).write(f"{kind}.json", dump_record(record, kind).encode(), 0o600)
