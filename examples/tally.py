"""Tally: a window that somebody had, given layouts, macros and keys. See docs/your-own-application.md."""

import sys
from typing import Annotated

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.keys.contexts import Context
from rimecrest.kit.commands.verb_shorthand import bar, tab
from rimecrest.kit.declare import Between, Declarations
from rimecrest.kit.documents.shared_commands import declare_everyday
from rimecrest.kit.documents.widget_document import WidgetDocument
from rimecrest.kit.program import start

# What it can do, declared beside the code: names, keys and settings come from here.
tally = Declarations("tally", "Tally", "1.0", opener="Ctrl+J")
tally.contexts = (Context(id="anywhere", name="Anywhere", within=None),)
declare_everyday(tally)


class Board(QLabel):
    """The window as it was before: it shows how many vehicles have come aboard."""

    count = 0

    def show_count(self, count: int) -> None:
        self.count = count
        self.setText(f"{count} aboard")
        self.setAlignment(Qt.AlignmentFlag.AlignCenter)


class TallyDocument(WidgetDocument):
    noun = "tally"

    def __init__(self, documents):
        super().__init__(documents, Board("0 aboard"))

    def state(self):
        return self.widget.count

    def show_state(self, state):
        self.widget.show_count(state)


@tally.command("come-aboard", "Aboard", about="Count vehicles that come aboard", keys="Ctrl+J, A",
               effects=(Effect.EDITS,), changes=("count",))  # fmt: skip
def come_aboard(doc: TallyDocument, by: Annotated[int, Between(1, 100)] = 1) -> None:
    doc.show_state(doc.state() + by)


@tally.reading("count", "How many are aboard", type="number")
def count(doc: TallyDocument) -> int:
    return doc.state()


tally.toolbars = (bar(tally, "main", "Main", "left", "come-aboard | undo redo"),)
tally.tabs = (tab(tally, "count", "Count", lane="Lane: come-aboard", steps="Steps: undo redo list-macros"),)

if __name__ == "__main__":
    sys.exit(start(tally, TallyDocument))
