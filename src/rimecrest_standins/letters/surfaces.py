"""The bars, tabs and right-click menus that Letters comes with."""

from __future__ import annotations

from rimecrest.kit.commands.verb_shorthand import FILES, FIND, PRINT, bar, menu, tab
from rimecrest.kit.declare import Declarations


def lay_out(letters: Declarations) -> None:
    """Set the application's own surfaces."""
    row = f"{FILES} | undo redo | embolden slant underline | bulleted-list insert-rule"
    letters.toolbars = (bar(letters, "main", "Main", "left", row),)
    letters.tabs = (
        tab(
            letters,
            "write",
            "Write",
            letter=f"Letter: {FILES}",
            words="Words: copy cut paste paste-words",
            steps="Steps: undo redo",
            choose="Select: select-word select-paragraph",
            again="Macros: list-macros record-macro",
        ),
        tab(
            letters,
            "shape",
            "Format",
            look="Text: embolden slant underline strike-out remove-formatting",
            size="Size: enlarge shrink",
            paragraph="Paragraph: style-paragraph align-paragraph indent-more indent-less",
            list="List: bulleted-list numbered-list",
        ),
        tab(
            letters,
            "put-in",
            "Insert",
            lines="Lines: insert-rule insert-date break-page",
            pages="Parts: break-section list-headings",
            table="Table: insert-table add-row add-column delete-row",
            note="Note: insert-note leave-note delete-note",
        ),
        tab(
            letters,
            "characters",
            "Characters",
            shown=False,
            case="Case: capitals small-letters",
            height="Height: superscript subscript",
            signs="Marks: highlight",
        ),
        tab(
            letters,
            "look-over",
            "Find and print",
            seek=FIND,
            looks="Formatting: find-formatting replace-formatting remove-link",
            see="View: zoom-in zoom-out show-pages",
            hand=PRINT,
        ),
    )
    text = "copy cut paste | embolden slant | insert-note select-paragraph"
    table = "copy paste | add-row add-column | delete-row delete-column delete-table"
    letters.menus = (
        menu(letters, "menu-text", "Right-click in text", "writing", text, prefix="menu"),
        menu(letters, "menu-table", "Right-click in a table", "table", table),
        menu(letters, "menu-note", "Right-click in a note", "note", "copy paste | leave-note delete-note"),
    )
