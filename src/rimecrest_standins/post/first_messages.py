"""What lies in a mailbox that was just made: invented messages, since none ever arrive here by themselves.

They stand in `first_messages.csv`; all are of November 2026.
"""

from __future__ import annotations

import csv
from datetime import UTC, datetime
from email.message import EmailMessage
from email.utils import format_datetime
from pathlib import Path

from rimecrest_standins.post.maildir import INBOX, SEEN, Maildir

OFFICE, READ = "vessry.example", 6  # nobody's: RFC 2606 keeps `example` free; so many, the oldest
_PLAN = "Day;Vessel;Berth\nMonday;Brinholt;North\nTuesday;Ovessa;South\nWednesday;Quessel;South\n"


def fill(mailbox: Maildir) -> None:
    """Put the first messages into a new mailbox."""
    rows = csv.DictReader(Path(__file__).with_suffix(".csv").read_text("utf-8").splitlines())
    for number, row in enumerate(rows):
        at = datetime.fromisoformat(f"2026-11-{int(row['day']):02d}T{row['time']}").replace(tzinfo=UTC)
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
        mailbox.deliver(INBOX, message, SEEN if number < READ else "", at.timestamp())
