"""The bars, tabs and right-click menus that Post comes with."""

from __future__ import annotations

from rimecrest.kit.commands.verb_shorthand import FIND_WORDS, PRINT, bar, menu, tab
from rimecrest.kit.declare import Declarations


def lay_out(post: Declarations) -> None:
    """Set the application's own surfaces."""
    row = "new reply forward | send save attach-file | move-messages delete-messages flag-message"
    post.toolbars = (bar(post, "main", "Main", "left", row),)
    post.tabs = (
        tab(
            post,
            "mailbox",
            "Mailbox",
            begin="Begin: new new-from-template edit-again open",
            answer="Answer: reply reply-all forward",
            lay="Lay aside: move-messages delete-messages mark-read flag-message",
            look="Look: search-messages end-search look-for-new",
            again="Macros: list-macros record-macro",
        ),
        tab(
            post,
            "compose",
            "Compose",
            go="Message: send save fill-fields",
            people="People: add-address set-subject",
            along="Along: attach-file insert-signature insert-block insert-date",
            steps="Steps: undo redo",
            words="Words: copy cut paste paste-words",
        ),
        tab(
            post,
            "text",
            "Text",
            look="Look: embolden slant underline remove-formatting",
            lines="Lines: bulleted-list numbered-list indent-more indent-less",
            seek=FIND_WORDS,
        ),
        tab(
            post,
            "keep",
            "Folders and paper",
            folders="Folders: go-to-folder new-folder rename-folder remove-folder empty-bin",
            see="View: sort-messages show-plain zoom-in zoom-out",
            hand=f"{PRINT} save-message",
        ),
    )
    listed = "read-message reply forward | mark-read flag-message | move-messages delete-messages"
    post.menus = (
        menu(post, "menu-list", "Right-click in the list", "list", listed),
        menu(post, "menu-reading", "Right-click in a message", "reading", "copy-text reply forward | print"),
        menu(post, "menu-writing", "Right-click in the text", "writing", "copy cut paste | embolden slant"),
        menu(post, "menu-address", "Right-click in an address", "address", "add-address delete-address"),
    )
