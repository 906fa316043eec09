"""Short words for laying an application's own surfaces out: items from a line of verbs, `|` a separator."""

from __future__ import annotations

from rimecrest.core.catalogue.surfaces import Button, Group, Item, Separator
from rimecrest.embed.declare import Declarations


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


def group(declarations: Declarations, name: str, title: str, verbs: str) -> Group:
    """A group of a tab, named `group-<name>`."""
    return Group(id=f"group-{name}", title=title, items=items(declarations, f"item-{name}", verbs))
