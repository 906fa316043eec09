"""The first messages in the demo's mailboxes, all of November 2026. Their texts are in `mail.csv`."""

from __future__ import annotations

import csv
import os
from datetime import UTC, datetime
from email.message import EmailMessage
from email.utils import format_datetime
from pathlib import Path

from rimecrest.core.files import write_atomically
from rimecrest_standins.post.first_mail import FIRST_MAIL

OFFICE = "vessry.example"
"""A reserved domain (RFC 2606)."""
READ = 6
"""Number of messages that have been read: the oldest."""
_PLAN = "Day;Vessel;Berth\nMonday;Brinholt;North\nTuesday;Ovessa;South\nWednesday;Quessel;South\n"


def bring_mail(folder: Path) -> None:
    """Write the messages into `folder` as a maildir, and let every new mailbox start as a copy of it."""
    for part in ("tmp", "new", "cur"):
        (folder / part).mkdir(parents=True, exist_ok=True)
    rows = csv.DictReader(Path(__file__).with_suffix(".csv").read_text("utf-8").splitlines())
    for number, row in enumerate(rows):
        at = datetime.fromisoformat(f"2026-11-{int(row['day']):02d}T{row['time']}").replace(tzinfo=UTC)
        file = folder / (f"cur/first-{number}:2,S" if number < READ else f"new/first-{number}")
        write_atomically(file, _message(number, row, at).as_bytes())
        os.utime(file, (at.timestamp(), at.timestamp()))
    os.environ[FIRST_MAIL] = str(folder)


def _message(number: int, row: dict[str, str], at: datetime) -> EmailMessage:
    name, department, text = row["name"], row["department"], row["text"]
    # Who writes to Passenger care is a passenger.
    place = "mail" if department == "care" else department
    message = EmailMessage()
    message["From"] = f"{name} <{name.lower().replace(' ', '.')}@{place}.{OFFICE}>"
    message["To"] = f"{department}@{OFFICE}"
    message["Subject"] = row["subject"]
    message["Date"] = format_datetime(at)
    message["Message-ID"] = f"<first-{number}@{OFFICE}>"
    message.set_content(f"{text}\n\n{name}\n")
    if department in ("berth", "freight"):
        message.add_alternative(f"<p>{text}</p><p><b>{name}</b></p>", subtype="html")
    if "attached" in text:
        message.add_attachment(_PLAN, subtype="csv", filename="berths.csv")
    for depth, part in enumerate(message.walk()):
        if part.is_multipart():  # drawn at random otherwise, and the demo is the same every time
            part.set_boundary(f"part-{number}-{depth}")
    return message
