"""What differs between two outcomes, in sentences a colleague could have said."""

from __future__ import annotations

from dataclasses import dataclass

from rimecrest.core.keys import Binding, format_sequence
from rimecrest.core.layout.faces import Targets
from rimecrest.core.layout.outcome import Outcome, SeenItem


@dataclass(frozen=True, slots=True)
class Difference:
    """One change. `of` is the identity of the thing it is about."""

    kind: str
    of: str
    sentence: str


def _titles(seen: Outcome) -> dict[str, str]:
    titles = {bar.id: f"the bar {bar.title}" for bar in seen.toolbars}
    titles |= {menu.id: f"the menu {menu.title}" for menu in seen.menus}
    for tab in seen.tabs:
        titles |= {group.id: f"the tab {tab.title}" for group in tab.groups}
    return titles


def _placed(seen: Outcome) -> dict[str, tuple[str, SeenItem]]:
    return {item.id: (surface, item) for surface, item in seen.items() if not item.separator}


def compare(before: Outcome, after: Outcome, targets: Targets) -> list[Difference]:
    """Everything that is new, gone, moved, changed or on another key, in that order."""
    old, new = _placed(before), _placed(after)
    titles = _titles(before) | _titles(after)
    found: list[Difference] = []
    for name, (surface, item) in new.items():
        if name not in old:
            found.append(Difference("new", name, f"“{item.label}” is on {titles[surface]}."))
    for name, (surface, item) in old.items():
        if name not in new:
            found.append(Difference("gone", name, f"“{item.label}” is no longer on {titles[surface]}."))
    for name in old.keys() & new.keys():
        (there, was), (here, item) = old[name], new[name]
        if there != here:
            found.append(Difference("moved", name, f"“{item.label}” moved to {titles[here]}."))
        elif was != item:
            found.append(Difference("changed", name, _changed(was, item)))
    found.extend(_keys(before, after, targets))
    return found


def _changed(was: SeenItem, item: SeenItem) -> str:
    if was.label != item.label:
        return f"“{was.label}” is called “{item.label}” now."
    if was.target != item.target:
        return f"“{item.label}” does something else now."
    return f"“{item.label}” looks different."


def _keys(before: Outcome, after: Outcome, targets: Targets) -> list[Difference]:
    def own(seen: Outcome) -> dict[tuple[str, str], Binding]:
        return {(format_sequence(b.sequence), b.context): b for b in seen.bindings if b.level}

    old, new = own(before), own(after)
    found = []
    for where, binding in new.items():
        if where not in old or old[where].target != binding.target:
            name = targets.face(binding.run).name
            words = (
                f"{where[0]} is for “{name}” now." if binding.run else f"{where[0]} does nothing any more."
            )
            found.append(Difference("key", binding.id, words))
    for where, binding in old.items():
        if where not in new:
            name = targets.face(binding.run).name or "nothing"
            found.append(Difference("key", binding.id, f"{where[0]} is no longer for “{name}”."))
    return found


def whats_new(differences: list[Difference], longest: int = 3) -> str:
    """A draft of the sentence that a colleague reads."""
    if not differences:
        return "Nothing changed for you."
    said = [difference.sentence for difference in differences[:longest]]
    more = len(differences) - longest
    if more > 0:
        said.append(f"And {more} more {'change' if more == 1 else 'changes'}.")
    return " ".join(said)
