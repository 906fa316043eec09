"""What differs between two outcomes, in sentences a colleague could have said."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping

from msgspec import Struct

from rimecrest.core.keys.bindings import Binding
from rimecrest.core.keys.chords import format_sequence
from rimecrest.core.layout.faces import Targets
from rimecrest.core.layout.seen import Outcome, SeenButton
from rimecrest.core.words import counted, tr


class Difference(Struct, frozen=True):
    """One change. `of` is the identity of the thing it is about."""

    kind: str
    of: str
    sentence: str
    lost: bool = False
    """Something that colleagues had is not where they had it: they are told that first."""


_Place = tuple[str, str, SeenButton]
"""A button's row, the row's title in words, the button."""


def _placed(seen: Outcome) -> dict[str, _Place]:
    """Identity of a button → where it is."""
    return {button.id: (row.id, f"the {seen.whereabouts(row)}", button) for row, button in seen.buttons()}


def compare(before: Outcome, after: Outcome, targets: Targets) -> list[Difference]:
    """Everything that is new, gone, moved, changed or on another key, in that order."""
    old, new = _placed(before), _placed(after)
    found: list[Difference] = []
    for name, (_, title, item) in new.items():
        if name not in old:
            found.append(
                Difference("new", name, tr("“{label}” is on {title}.", label=item.label, title=title))
            )
    found.extend(_gone(old, new))
    for name in [name for name in old if name in new]:
        (there, _, was), (here, title, item) = old[name], new[name]
        if there != here:
            found.append(
                Difference(
                    "moved", name, tr("“{label}” moved to {title}.", label=item.label, title=title), lost=True
                )
            )
        elif was != item:
            found.append(Difference("changed", name, _changed(was, item)))
    found.extend(_keys(before, after, targets))
    return found


def _gone(old: Mapping[str, _Place], new: Mapping[str, _Place]) -> Iterator[Difference]:
    """Items that are not there any more. A bar, tab or menu of which nothing is left is told once."""
    gone = {name: place for name, place in old.items() if name not in new}
    left = {title for _, title, _ in (*new.values(), *(old[name] for name in old if name in new))}
    number = Counter(title for _, title, _ in gone.values())
    told = set[str]()
    for name, (_, title, item) in gone.items():
        if title in left or number[title] == 1:
            sentence = tr("“{label}” is no longer on {title}.", label=item.label, title=title)
        elif title not in told:
            told.add(title)
            sentence = tr("{title} is gone, with all that was on it.", title=title[0].upper() + title[1:])
        else:
            continue
        yield Difference("gone", name, sentence, lost=True)


def _changed(was: SeenButton, item: SeenButton) -> str:
    if was.label != item.label:
        return tr("“{before}” is called “{label}” now.", before=was.label, label=item.label)
    if was.target != item.target:
        return tr("“{label}” does something else now.", label=item.label)
    return tr("“{label}” looks different.", label=item.label)


def _keys(before: Outcome, after: Outcome, targets: Targets) -> list[Difference]:
    def own(seen: Outcome) -> dict[tuple[str, str], Binding]:
        return {(format_sequence(b.sequence), b.context): b for b in seen.bindings if b.level}

    old, new = own(before), own(after)
    found = []
    for where, binding in new.items():
        if where not in old or old[where].target != binding.target:
            name = targets.face(binding.run).name
            words = (
                tr("{where} is for “{name}” now.", where=where[0], name=name)
                if binding.run
                else tr("{where} does nothing any more.", where=where[0])
            )
            found.append(Difference("key", binding.id, words, lost=not binding.run))
    for where, binding in old.items():
        if where not in new:
            name = targets.face(binding.run).name or "nothing"
            found.append(
                Difference(
                    "key",
                    binding.id,
                    tr("{where} is no longer for “{name}”.", where=where[0], name=name),
                    lost=True,
                )
            )
    return found


def lost_first(differences: Iterable[Difference]) -> list[Difference]:
    """What was lost or moved, then changed keys, then the rest, each in the order it was in."""
    return sorted(differences, key=lambda difference: (not difference.lost, difference.kind != "key"))


def whats_new(differences: list[Difference], longest: int = 3) -> str:
    """A draft of the sentence that a colleague reads; empty where nothing changed."""
    said = [difference.sentence for difference in lost_first(differences)[:longest]]
    more = len(differences) - longest
    if more > 0:
        said.append(tr("And {changes}.", changes=counted(more, "more change")))
    return " ".join(said)


def changed_macros(
    before: Mapping[str, str], after: Mapping[str, str], names: Mapping[str, str]
) -> list[Difference]:
    """The macros that are there as before and do something else: by id, their text and their name."""
    return [
        Difference(
            "macro", f"macro:{name}", tr("“{name}” works differently now.", name=names.get(name, name))
        )
        for name, text in after.items()
        if name in before and before[name] != text
    ]
