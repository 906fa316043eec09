"""All commands and readings of formatted text, taken over by an application at once."""

from __future__ import annotations

from rimecrest.kit.declare import Declarations
from rimecrest.kit.documents.search_commands import declare_search
from rimecrest_standins.formatted_text.document import FormattedText
from rimecrest_standins.formatted_text.formatting import formatting
from rimecrest_standins.formatted_text.inserting import inserting
from rimecrest_standins.formatted_text.readings import readings
from rimecrest_standins.formatted_text.selecting import selecting
from rimecrest_standins.formatted_text.writing import writing


def declare_text(declarations: Declarations, noun: str) -> None:
    """Declare them for documents that are `noun`s. They are live in the context `writing`."""
    for subject in (formatting, inserting, selecting, writing, readings):
        subject.take_over(declarations, noun)
    declare_search(
        declarations,
        (f"Find words in the {noun}", "Find the same words before the cursor"),
        "writing",
        FormattedText.find_words,
        lambda doc: doc.cursor().selectedText(),
    )
