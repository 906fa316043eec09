"""The bars, tabs and right-click menus that Letters comes with."""

from __future__ import annotations

from rimecrest.core.catalogue.surfaces import Menu, Tab, Toolbar
from rimecrest.embed.declare import Declarations
from rimecrest.embed.verb_shorthand import group, items


def lay_out(letters: Declarations) -> None:
    """Set the application's own surfaces."""
    letters.toolbars = (
        Toolbar(
            id="main",
            title="Main",
            edge="left",
            items=items(
                letters, "bar", "new open save | undo redo | embolden slant underline | points insert-rule"
            ),
        ),
    )
    letters.tabs = (
        Tab(
            id="tab-write",
            title="Write",
            groups=(
                group(letters, "letter", "Letter", "new open save"),
                group(letters, "words", "Words", "copy cut paste paste-words"),
                group(letters, "steps", "Steps", "undo redo"),
                group(letters, "choose", "Choose", "choose-word choose-paragraph"),
            ),
        ),
        Tab(
            id="tab-shape",
            title="Shape",
            groups=(
                group(letters, "look", "Look of words", "embolden slant underline strike-out clear-look"),
                group(letters, "size", "Size", "enlarge shrink"),
                group(letters, "paragraph", "Paragraph", "style-paragraph align-paragraph step-in step-out"),
                group(letters, "list", "List", "points numbered"),
            ),
        ),
        Tab(
            id="tab-put-in",
            title="Put in",
            groups=(
                group(letters, "lines", "Lines", "insert-rule insert-date break-page"),
                group(letters, "pages", "Parts", "break-section list-headings"),
                group(letters, "table", "Table", "insert-table add-row add-column take-row"),
                group(letters, "note", "Note", "insert-note leave-note take-note"),
            ),
        ),
        Tab(
            id="tab-look-over",
            title="Look over",
            groups=(
                group(letters, "seek", "Seek", "find find-next replace"),
                group(letters, "see", "See", "larger-view smaller-view"),
                group(letters, "hand", "Hand on", "make-pdf print"),
            ),
        ),
    )
    letters.menus = (
        Menu(
            id="menu-text",
            title="Right-click in text",
            context="writing",
            items=items(letters, "menu", "copy cut paste | embolden slant | insert-note choose-paragraph"),
        ),
        Menu(
            id="menu-table",
            title="Right-click in a table",
            context="table",
            items=items(
                letters, "menu-table", "copy paste | add-row add-column | take-row take-column take-table"
            ),
        ),
        Menu(
            id="menu-note",
            title="Right-click in a note",
            context="note",
            items=items(letters, "menu-note", "copy paste | leave-note take-note"),
        ),
    )
