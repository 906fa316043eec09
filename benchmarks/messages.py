"""Ten thousand messages in Post: opened, and scrolled through."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path

MESSAGES = 10_000
MEAN = {
    "quotation marks as its sender": b"From: " + b'"' * 60_000 + b"\n\nHello",
    "brackets in brackets": b"Content-Type: " + b"(" * 60_000 + b"\n\nHello",
    "3,000 parts in parts": b"".join(
        b"Content-Type: multipart/mixed; boundary=b%d\n\n--b%d\n" % (level, level) for level in range(3_000)
    ),
}
"""Messages of which a library's parser takes minutes, or that it cannot follow."""
ORDINARY = (
    b"From: " + b", ".join(b"Nora <nora%d@vessry.example>" % each for each in range(2_000)) + b"\n\nHello"
)
Comparison = tuple[str, str, Callable[[], object], Callable[[], object]]


def _deliver(folder: Path) -> None:
    for number in range(MESSAGES):
        place = folder / "cur" / f"{1_700_000_000 + number}.M{number}P1.bench:2,S"
        heads = f"From: Ailis Tarn <a{number}@mail.vessry.example>\nSubject: Sailing {number}\n"
        place.write_text(f"{heads}Date: Mon, 02 Nov 2026 08:01:00 +0000\n\nHello {number}\n")


def comparisons() -> Iterator[Comparison]:
    """What is done with them, and what that is held against."""
    from rimecrest.kit.documents.open_documents import OpenDocuments
    from rimecrest.shell.start import make_qt_application
    from rimecrest_standins.post.mailbox import MailboxDocument

    qt = make_qt_application("Post")
    with tempfile.TemporaryDirectory() as scratch:
        documents = OpenDocuments(MailboxDocument, Path(scratch))
        box = documents.current
        assert isinstance(box, MailboxDocument)
        _deliver(box.mailbox.folder)
        documents.widget.resize(1280, 800)
        documents.widget.show()

        def list_files() -> None:
            for part in ("cur", "new"):
                for entry in os.scandir(box.mailbox.folder / part):
                    entry.stat()

        def look() -> None:
            box.go_to("Inbox")
            qt.processEvents()

        yield f"Post shows a folder of {MESSAGES:,} messages", "listing their files", look, list_files
        bar = box.table.verticalScrollBar()
        assert bar is not None

        def scroll() -> None:
            bar.setValue((bar.value() + 37) % bar.maximum())
            qt.processEvents()

        def repaint() -> None:
            box.table.viewport().repaint()

        yield "scrolling on in it by 37 messages", "drawing the list again", scroll, repaint
        documents.widget.close()
    for what, content in MEAN.items():
        yield f"reading a message: {what}", "one to 2,000 people", *map(_reading, (content, ORDINARY))


def _reading(content: bytes) -> Callable[[], object]:
    from rimecrest_standins.post.message_parts import addresses_in
    from rimecrest_standins.post.received import received

    def read() -> None:
        for _ in range(20):
            addresses_in(received(content).head("From"))

    return read
