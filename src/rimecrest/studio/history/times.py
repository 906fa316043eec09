"""When something was, as people say it."""

from __future__ import annotations

from datetime import datetime, timedelta

from rimecrest.core.words import tr


def when(at: float, now: float) -> str:
    """A time, in seconds since 1970, as it is said at another: by the day, and the minute of the day."""
    then, today = datetime.fromtimestamp(at), datetime.fromtimestamp(now)
    clock = f"{then:%H:%M}"
    if then.date() == today.date():
        return tr("today {clock}", clock=clock)
    if then.date() == today.date() - timedelta(days=1):
        return tr("yesterday {clock}", clock=clock)
    return tr("{day} {clock}", day=f"{then:%Y-%m-%d}", clock=clock)
