"""Short words for laying an application's own surfaces out: items from a line of verbs, `|` a separator."""

from __future__ import annotations

from rimecrest.core.catalogue.items import Button, Item, Separator
from rimecrest.core.catalogue.surfaces import Edge, Group, Menu, Tab, Toolbar
from rimecrest.core.layout.widths import fits
from rimecrest.kit.declare import Declarations


def items(declarations: Declarations, prefix: str, verbs: str) -> tuple[Item, ...]:
    """Items that run these commands, named `<prefix>-<verb>`."""
    made: list[Item] = []
    for number, verb in enumerate(verbs.split()):
        if verb == "|":
            made.append(Separator(id=f"{prefix}-rule-{number}", separator=True))
        else:
            run = f"{declarations.app}:{verb}"
            # What a layout stored of the item follows when its command has got another name.
            former = declarations.commands[run].command.was
            was = tuple(f"{prefix}-{old.partition(':')[2]}" for old in former)
            made.append(Button(id=f"{prefix}-{verb}", run=run, was=was))
    return tuple(made)


def bar(declarations: Declarations, name: str, title: str, edge: Edge, verbs: str) -> Toolbar:
    """A toolbar at an edge of the window."""
    return Toolbar(id=name, title=title, edge=edge, items=items(declarations, "bar", verbs))


def _in_group(declarations: Declarations, item: Item) -> Item:
    """The item as wide as its words need it in a ribbon group."""
    if not isinstance(item, Button):
        return item
    command = declarations.commands[item.run].command
    return item if fits(command.name, 1, bool(command.picture)) else item.model_copy(update={"width": 2})


def tab(declarations: Declarations, name: str, title: str, /, shown: bool = True, **groups: str) -> Tab:
    """A tab, named `tab-<name>`; each group, named `group-<name>`, is written as `title: verbs`.

    An item whose words do not fit into one column takes two.
    What is not `shown` is off by default.
    """
    made = []
    for group_name, row in groups.items():
        group_title, _, verbs = row.partition(": ")
        row_items = items(declarations, f"item-{group_name}", verbs)
        held = tuple(_in_group(declarations, item) for item in row_items)
        made.append(Group(id=f"group-{group_name}", title=group_title, items=held))
    return Tab(id=f"tab-{name}", title=title, groups=tuple(made), shown=shown)


def menu(
    declarations: Declarations, name: str, title: str, context: str, verbs: str, prefix: str = ""
) -> Menu:
    """A right-click menu of a context. Its items are named `<prefix>-<verb>`, without one after the menu."""
    return Menu(id=name, title=title, context=context, items=items(declarations, prefix or name, verbs))


FIND_WORDS = "Find: find find-next"
FIND = f"{FIND_WORDS} replace"
PRINT = "Print and export: make-pdf print"
FILES = "new open save"
