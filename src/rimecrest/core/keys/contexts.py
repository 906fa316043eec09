"""Contexts: where in an application a hotkey is live, and which of two is the narrower."""

from collections.abc import Iterable, Iterator
from functools import cached_property

from rimecrest.core.errors import RimecrestError
from rimecrest.core.model import Record

ANYWHERE = "anywhere"
FIELD = "field"
"""The context of a panel's fields, in every application."""


class Context(Record):
    """One context as an application declares it.

    `within` names the context around it (None only for `anywhere`); `rank` decides between two that can be
    live at once without containing one another, and must grow inwards. In a context that `types`, a key
    without a modifier writes its character. `focus` is the kind of widget that has the focus there, as in
    `focus_keys.ANSWERS`. A command of this context that is run in the context `reached_from`, or in one
    within it, makes this context live first.
    """

    id: str
    name: str
    within: str | None = ANYWHERE
    rank: int = 0
    types: bool = False
    focus: str = ""
    reached_from: str | None = None

    @property
    def answering(self) -> str:
        """The kind of widget in focus; catalogues of earlier versions do not name it."""
        return self.focus or ("text" if self.types else "")


class Contexts:
    """All contexts of one application."""

    def __init__(self, contexts: Iterable[Context]) -> None:
        self._by_id = {context.id: context for context in contexts}
        self._by_id.setdefault(ANYWHERE, Context(id=ANYWHERE, name="Anywhere", within=None))
        self._paths = {name: self._path(name) for name in self._by_id}

    def _path(self, name: str) -> tuple[str, ...]:
        path: list[str] = []
        at: str | None = name
        while at is not None:
            if at in path:
                raise RimecrestError(
                    f"The contexts {' and '.join(path)} contain one another.",
                    "One of them must stand outside.",
                )
            if at not in self._by_id:
                raise RimecrestError(f"The context “{path[-1]}” lies within “{at}”, which does not exist.")
            path.append(at)
            at = self._by_id[at].within
        return tuple(path)

    def __contains__(self, name: str) -> bool:
        return name in self._by_id

    def __iter__(self) -> Iterator[Context]:
        return iter(self._by_id.values())

    def name(self, context: str) -> str:
        """The words people read."""
        return self._by_id[context].name if context in self._by_id else context

    def path(self, context: str) -> tuple[str, ...]:
        """The context itself, then each around it, outwards. An unknown one counts as `anywhere`."""
        return self._paths.get(context, (ANYWHERE,))

    def contains(self, outer: str, inner: str) -> bool:
        """Whether `inner` is `outer` or lies within it."""
        return outer in self.path(inner)

    def relation(self, one: str, other: str) -> str:
        """How two contexts meet: "same", "nested", "ranked", or "" when they are never live together."""
        if one == other:
            return "same"
        if self.contains(one, other) or self.contains(other, one):
            return "nested"
        # A declared rank says that two can be live at once without containing one another.
        both = self.narrowness(one)[0] and self.narrowness(other)[0]
        return "ranked" if both else ""

    def can_serve(self, bound_in: str, needed: str) -> bool:
        """Whether a key bound in one context can ever run what needs another one."""
        if bound_in == FIELD or self.relation(bound_in, needed):
            return True  # while a panel's field has the focus, the document's contexts are live for commands
        source = self._by_id[needed].reached_from if needed in self._by_id else None
        return source is not None and bool(self.relation(bound_in, source))

    @cached_property
    def places(self) -> tuple[str, ...]:
        """The contexts that can be the innermost live one. An application with contexts is always in one."""
        own = tuple(name for name in self._by_id if name not in (ANYWHERE, FIELD))
        return (*(own or (ANYWHERE,)), *((FIELD,) if FIELD in self._by_id else ()))

    def inside(self, context: str) -> list[Context]:
        """The context itself and every one within it."""
        return [other for other in self._by_id.values() if context in self._paths[other.id]]

    def types_in(self, context: str) -> str:
        """A context, this one or one within it, in which plain keys write; empty when there is none."""
        inner = (c.id for c in self._by_id.values() if c.types and context in self._paths[c.id])
        return next(inner, "")

    def narrowness(self, context: str) -> tuple[int, int]:
        """Sorts contexts that are live at once: higher wins. Declared rank first, then depth."""
        return self._by_id[context].rank if context in self._by_id else 0, len(self.path(context))

    def live(self, innermost: Iterable[str]) -> frozenset[str]:
        """All contexts that are live when these are the innermost ones."""
        return frozenset(name for context in innermost for name in self.path(context)) | {ANYWHERE}
