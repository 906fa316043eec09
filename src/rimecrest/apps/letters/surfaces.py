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
                letters,
                "bar",
                "new open save | undo redo | embolden slant underline | bulleted-list insert-rule",
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
                group(letters, "choose", "Select", "select-word select-paragraph"),
            ),
        ),
        Tab(
            id="tab-shape",
            title="Format",
            groups=(
                group(letters, "look", "Text", "embolden slant underline strike-out remove-formatting"),
                group(letters, "size", "Size", "enlarge shrink"),
                group(
                    letters,
                    "paragraph",
                    "Paragraph",
                    "style-paragraph align-paragraph indent-more indent-less",
                ),
                group(letters, "list", "List", "bulleted-list numbered-list"),
            ),
        ),
        Tab(
            id="tab-put-in",
            title="Insert",
            groups=(
                group(letters, "lines", "Lines", "insert-rule insert-date break-page"),
                group(letters, "pages", "Parts", "break-section list-headings"),
                group(letters, "table", "Table", "insert-table add-row add-column delete-row"),
                group(letters, "note", "Note", "insert-note leave-note delete-note"),
            ),
        ),
        Tab(
            id="tab-look-over",
            title="Find and print",
            groups=(
                group(letters, "seek", "Find", "find find-next replace"),
                group(letters, "see", "Zoom", "zoom-in zoom-out"),
                group(letters, "hand", "Print and export", "make-pdf print"),
            ),
        ),
    )
    letters.menus = (
        Menu(
            id="menu-text",
            title="Right-click in text",
            context="writing",
            items=items(letters, "menu", "copy cut paste | embolden slant | insert-note select-paragraph"),
        ),
        Menu(
            id="menu-table",
            title="Right-click in a table",
            context="table",
            items=items(
                letters,
                "menu-table",
                "copy paste | add-row add-column | delete-row delete-column delete-table",
            ),
        ),
        Menu(
            id="menu-note",
            title="Right-click in a note",
            context="note",
            items=items(letters, "menu-note", "copy paste | leave-note delete-note"),
        ),
    )
