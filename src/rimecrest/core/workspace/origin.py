"""The maker of an imported macro, recorded in the text of the macro itself.

The header line `signed` holds the maker's name, public key and signature over all other lines. Each header
line `renamed` records a name that had to change on import because it was taken. The signature covers the text
before these changes. Moving or renaming the file therefore makes no difference.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable
from functools import lru_cache

from msgspec import Struct

from rimecrest.core.macro.format import format_macro
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.steps import HeadLine, Macro, Renamed, Signed
from rimecrest.core.model import dump_json
from rimecrest.core.signing import MakerKey, verified
from rimecrest.core.words import tr
from rimecrest.core.workspace.rewriting import Names


class Origin(Struct, frozen=True):
    """Maker of a macro. `key` is empty if the macro is not signed.

    `holds` is False if the text has changed since it was signed.
    """

    maker: str
    key: str
    holds: bool

    def why_not(self, makers: Collection[str]) -> str:
        """Return the reason why the macro may not run, given the trusted keys; an empty string if it may."""
        who = self.maker or tr("somebody unknown")
        if not self.holds:
            return tr("It has changed since {who} signed it.", who=who)
        if self.key in makers and self.key:
            return ""
        unsigned = "" if self.key else tr(", and nothing shows that it is theirs")
        return tr(
            "It was made by {who}, whom your organisation does not vouch for{unsigned}.",
            who=who,
            unsigned=unsigned,
        )


def _content(text: str, maker: str, key: str) -> bytes:
    """Return the bytes that are signed."""
    return dump_json({"maker": maker, "key": key, "macro": text}).encode()


def _without_lines(text: str, lines: Iterable[HeadLine]) -> str:
    """Return the text without the given lines."""
    gone = {line.line for line in lines}
    return "".join(
        line for number, line in enumerate(text.splitlines(keepends=True), 1) if number not in gone
    )


def _about_origin(macro: Macro) -> list[Signed | Renamed]:
    return [line for line in macro.head if isinstance(line, Signed | Renamed)]


def bare(text: str) -> str:
    """Return the text of a macro without its `signed` and `renamed` lines."""
    return _without_lines(text, _about_origin(parse_macro(text)[0]))


def marked(text: str, maker: str, key: str = "", signature: str = "", names: Names | None = None) -> str:
    """Return the text with a `signed` line, and a `renamed` line for each name that has changed since."""
    plain = bare(text)
    renamed = [Renamed(old, new) for old, new in names.pairs(plain)] if names else []
    return format_macro(Macro((Signed(maker, key, signature), *renamed))) + plain


def signed_by(maker: MakerKey, text: str) -> str:
    """Return the canonical text with the signature of its maker."""
    plain = format_macro(parse_macro(bare(text))[0])
    return marked(plain, maker.name, maker.public, maker.sign(_content(plain, maker.name, maker.public)))


def taken_in_as(text: str, names: Names) -> str:
    """Return the text of an imported macro with new names, keeping the record of its maker."""
    macro = parse_macro(text)[0]
    plain = bare(text)
    written = names.macro(parse_macro(plain)[0], plain)
    mark = next((line for line in macro.head if isinstance(line, Signed)), None)
    if mark is None or written == plain:
        return written if mark is None else text
    return marked(written, mark.maker, mark.key, mark.signature, names)


@lru_cache(maxsize=4096)
def origin_of(text: str) -> Origin | None:
    """Return the maker recorded in a macro text; None if the macro was made here."""
    macro = parse_macro(text)[0]
    lines = _about_origin(macro)
    marks = [line for line in lines if isinstance(line, Signed)]
    if not marks:
        return None if not lines else Origin("", "", holds=True)
    mark, plain = marks[0], _without_lines(text, lines)
    if not mark.key or not mark.signature:
        return Origin(mark.maker, "", holds=True)
    names = Names.of((line.old, line.new) for line in lines if isinstance(line, Renamed))
    was = names.back().macro(parse_macro(plain)[0], plain)
    # Rewriting a text repairs it as well: only the text that the import itself wrote fits the signature.
    as_written = names.macro(parse_macro(was)[0], was) == plain
    signed = verified(mark.key, mark.signature, _content(was, mark.maker, mark.key))
    holds = len(marks) == 1 and as_written and signed
    return Origin(mark.maker, mark.key, holds)
