"""What an application has renamed: stored layouts follow the former ids that its catalogue names (`was`).

Whatever is read from a file, a package or a draft goes through `followed` once, so that everybody else only
meets the ids of today.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.catalogue.items import Button, Eventful, Item
from rimecrest.core.catalogue.surfaces import Panel, runs_of
from rimecrest.core.layout.layout import Layout


def followed(layout: Layout, catalogue: Catalogue) -> Layout:
    """The layout as it would be written today; the very same where nothing in it was renamed."""
    commands, things = catalogue.renamed_commands, catalogue.renamed_things
    if not commands and not things:
        return layout
    names = _Names(commands, {f"app:{old}": f"app:{new}" for old, new in things.items()})
    made = layout.with_rows(names.row)
    made = made.model_copy(
        update={
            "toolbars": tuple(map(names.anchored, made.toolbars)),
            "tabs": tuple(map(names.anchored, made.tabs)),
            "groups": tuple(map(names.anchored, made.groups)),
            "insert": tuple(names.anchored(names.row(row)) for row in made.insert),
            "move": tuple(map(names.anchored, made.move)),
            "change": tuple(map(names.change, made.change)),
            "hide": tuple(names.things.get(name, name) for name in made.hide),
            "keys": tuple(map(names.key, made.keys)),
        }
    )
    return layout if made == layout else made


class _Names:
    """Former ids and those of today."""

    def __init__(self, commands: Mapping[str, str], things: Mapping[str, str]) -> None:
        self.commands = commands
        self.things = things

    def row(self, row: Any) -> Any:
        """A row or insertion whose items run the commands of today; a panel does so as well."""
        return self._handling(row.model_copy(update={"items": tuple(map(self.item, row.items))}))

    def item(self, item: Item) -> Item:
        if isinstance(item, Button) and item.run in self.commands:
            item = item.model_copy(update={"run": self.commands[item.run]})
        made: Item = self._handling(item)
        return made

    def _handling(self, thing: Any) -> Any:
        if isinstance(thing, Eventful | Panel) and any(run in self.commands for run in runs_of(thing)):
            on = {
                event: handler.model_copy(update={"run": self.commands.get(handler.run, handler.run)})
                for event, handler in thing.on.items()
            }
            return thing.model_copy(update={"on": on})
        return thing

    def anchored(self, thing: Any) -> Any:
        """Something that names others: where it goes, what it follows, what it is about."""
        fields = type(thing).model_fields
        new = {
            name: self.things[getattr(thing, name)]
            for name in ("into", "after", "of")
            if name in fields and getattr(thing, name) in self.things
        }
        return thing.model_copy(update=new) if new else thing

    def change(self, change: Any) -> Any:
        change = self.anchored(change)
        run = change.set.get("run")
        if run in self.commands:
            return change.model_copy(update={"set": {**change.set, "run": self.commands[run]}})
        return change

    def key(self, key: Any) -> Any:
        return key.model_copy(update={"run": self.commands[key.run]}) if key.run in self.commands else key
