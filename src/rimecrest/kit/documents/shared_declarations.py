"""Commands and readings that several applications have: declared once, taken over by each of them."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar

from msgspec import Struct

from rimecrest.kit.declare import Declarations

Function = TypeVar("Function", bound=Callable[..., Any])


class _Kept(Struct, frozen=True):
    function: Callable[..., Any]
    declare: Callable[[Declarations, str, Callable[..., Any]], object]


class SharedDeclarations:
    """Declarations of one subject, to be taken over under an application's own noun.

    In names and sentences `{noun}` stands for it: *Select the whole {noun}*.
    """

    def __init__(self) -> None:
        self._kept: list[_Kept] = []

    def command(self, verb: str, name: str, *, about: str, **settings: Any) -> Callable[[Function], Function]:
        """Declare the function beneath as a command; settings are those of `Declarations.command`."""

        def declare(declarations: Declarations, noun: str, function: Callable[..., Any]) -> object:
            says = declarations.command(
                verb, name.format(noun=noun), about=about.format(noun=noun), **settings
            )
            return says(function)

        return self._keeping(declare)

    def reading(self, identity: str, about: str, type: str = "text") -> Callable[[Function], Function]:
        """Declare the function beneath as a reading."""

        def declare(declarations: Declarations, noun: str, function: Callable[..., Any]) -> object:
            return declarations.reading(identity, about.format(noun=noun), type)(function)

        return self._keeping(declare)

    def _keeping(
        self, declare: Callable[[Declarations, str, Callable[..., Any]], object]
    ) -> Callable[[Function], Function]:
        def keep(function: Function) -> Function:
            self._kept.append(_Kept(function, declare))
            return function

        return keep

    def take_over(self, declarations: Declarations, noun: str) -> None:
        """Declare everything for an application whose documents are `noun`s."""
        for kept in self._kept:
            kept.declare(declarations, noun, kept.function)
