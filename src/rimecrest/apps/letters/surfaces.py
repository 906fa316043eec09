"""The bars, tabs and right-click menus that Letters comes with."""

from __future__ import annotations

from rimecrest.core.catalogue.surfaces import Group, Item, Menu, Tab, Toolbar
from rimecrest.embed.declare import Declarations


def _item(prefix: str, verb: str, **more: object) -> Item:
    if verb == "|":
        return Item(id=f"{prefix}-rule-{more['number']}", separator=True)
    return Item.model_validate({"id": f"{prefix}-{verb}", "run": f"letters:{verb}", **more})


def _items(prefix: str, verbs: str) -> tuple[Item, ...]:
    return tuple(
        _item(prefix, verb, number=number) if verb == "|" else _item(prefix, verb)
        for number, verb in enumerate(verbs.split())
    )


def _group(name: str, title: str, verbs: str) -> Group:
    return Group(id=f"group-{name}", title=title, items=_items(f"item-{name}", verbs))


def lay_out(letters: Declarations) -> None:
    """Set the application's own surfaces."""
    letters.toolbars = (
        Toolbar(
            id="main",
            title="Main",
            edge="left",
            items=_items("bar", "new open save | undo redo | embolden slant underline | points insert-rule"),
        ),
    )
    letters.tabs = (
        Tab(
            id="tab-write",
            title="Write",
            groups=(
                _group("letter", "Letter", "new open save"),
                _group("words", "Words", "copy cut paste paste-words"),
                _group("steps", "Steps", "undo redo"),
                _group("choose", "Choose", "choose-word choose-paragraph"),
            ),
        ),
        Tab(
            id="tab-shape",
            title="Shape",
            groups=(
                _group("look", "Look of words", "embolden slant underline strike-out clear-look"),
                _group("size", "Size", "enlarge shrink"),
                _group("paragraph", "Paragraph", "style-paragraph align-paragraph step-in step-out"),
                _group("list", "List", "points numbered"),
            ),
        ),
        Tab(
            id="tab-put-in",
            title="Put in",
            groups=(
                _group("lines", "Lines", "insert-rule insert-date break-page"),
                _group("pages", "Parts", "break-section list-headings"),
                _group("table", "Table", "insert-table add-row add-column take-row"),
                _group("note", "Note", "insert-note leave-note take-note"),
            ),
        ),
        Tab(
            id="tab-look-over",
            title="Look over",
            groups=(
                _group("seek", "Seek", "find find-next replace"),
                _group("see", "See", "larger-view smaller-view"),
                _group("hand", "Hand on", "make-pdf print"),
            ),
        ),
    )
    letters.menus = (
        Menu(
            id="menu-text",
            title="Right-click in text",
            context="writing",
            items=_items("menu", "copy cut paste | embolden slant | insert-note choose-paragraph"),
        ),
        Menu(
            id="menu-table",
            title="Right-click in a table",
            context="table",
            items=_items("menu-table", "copy paste | add-row add-column | take-row take-column take-table"),
        ),
        Menu(
            id="menu-note",
            title="Right-click in a note",
            context="note",
            items=_items("menu-note", "copy paste | leave-note take-note"),
        ),
    )
