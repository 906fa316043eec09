"""Speaking to the applications that run on this seat, over the link, for a moment each."""

from __future__ import annotations

import contextlib
from pathlib import Path

from rimecrest.core.log import log
from rimecrest.link.addresses import listening
from rimecrest.link.line import Line, LinkRefused


def tell_running(profile: Path) -> int:
    """Have every running application of this profile take over what is installed. Returns how many did."""
    told = 0
    for path in listening():
        with contextlib.suppress(LinkRefused), Line(path) as line:
            if line.ask("hello").get("profile") == str(profile.resolve()):
                try:
                    line.ask("layout.reload")
                    told += 1
                except LinkRefused as refusal:
                    log.warning("application kept its layout", application=path.name, reason=str(refusal))
    return told
