"""A step as a sentence a colleague could say, in pieces: some of them can be changed where they stand."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.invisible import with_names
from rimecrest.core.macro.expressions import expression_text
from rimecrest.core.macro.step_tree import OTHERWISE
from rimecrest.core.macro.steps import (
    Ask,
    AskPanel,
    Comment,
    Do,
    ForEach,
    Form,
    If,
    Part,
    Repeat,
    Run,
    Say,
    Set,
    Statement,
    Stop,
    While,
    WriteText,
)
from rimecrest.core.words import tr


class Piece(Struct, frozen=True):
    """Some words of a sentence.

    `field` names what they stand for (`reword.with_field` changes it), empty for words that only join;
    `faint`: a setting that was not given, with its default.
    """

    text: str
    field: str = ""
    faint: bool = False


def shown_text(text: str) -> str:
    """Text as it is read: names in angle brackets, new lines as a sign, what nobody sees by its name."""
    marked = text.replace("{{", "\0").replace("}}", "\1").replace("{", "⟨").replace("}", "⟩")
    # The marks go first: they are characters that nobody sees, as well.
    return with_names(marked.replace("\0", "{").replace("\1", "}")).replace("\n", " ↵ ")


def _quoted(text: str, field: str) -> tuple[Piece, ...]:
    return Piece("“"), Piece(shown_text(text) or " ", field), Piece("”")


def pieces(step: Statement, catalogue: Catalogue | None) -> tuple[Piece, ...]:
    """The step as pieces of its sentence."""
    return tuple(_pieces(step, catalogue))


def sentence(step: Statement, catalogue: Catalogue | None) -> str:
    """The step in words."""
    return "".join(piece.text for piece in pieces(step, catalogue) if not piece.faint)


def mark_words(block: Statement, mark: int) -> str:
    """What stands in the line of an `else`, or in the one that ends a block."""
    if mark == OTHERWISE:
        return tr("Otherwise")
    match block:
        case If():
            return tr("End of the condition")
        case Repeat() | ForEach() | While():
            return tr("End of what is repeated")
        case Form():
            return tr("End of the form")
        case Part():
            return tr("End of “{title}”", title=shown_text(block.title))
    return tr("End")


# An arm for each kind of step.
def _pieces(step: Statement, catalogue: Catalogue | None) -> Iterator[Piece]:  # noqa: C901, PLR0912
    match step:
        case Do():
            yield from _do(step, catalogue)
        case WriteText():
            yield Piece("Write ")
            yield from _quoted(step.text, "text")
        case Ask():
            yield from _ask(step)
        case AskPanel():
            yield Piece(tr("Ask with the panel "))
            yield from _quoted(step.panel, "panel")
        case Form():
            yield Piece(tr("Ask together, on one form "))
            yield from _quoted(step.title, "title")
        case Set():
            yield from (Piece("Remember ⟨"), Piece(step.name, "name"), Piece("⟩ as "))
            yield Piece(expression_text(step.value), "value")
        case If():
            yield from (Piece("If "), Piece(expression_text(step.condition), "condition"))
        case Repeat():
            yield from (Piece(tr("Do this ")), Piece(expression_text(step.times), "times"), Piece(" times"))
        case ForEach():
            yield from (Piece(tr("For each ⟨")), Piece(step.name, "name"), Piece("⟩ in "))
            yield Piece(step.reading, "reading")
        case While():
            yield from (Piece(tr("As long as ")), Piece(expression_text(step.condition), "condition"))
            yield from (Piece(tr(", at most ")), Piece(f"{step.limit:,}", "limit"), Piece(" times"))
        case Run():
            yield Piece(tr("Run the macro "))
            yield from _quoted(step.macro, "macro")
        case Say():
            yield Piece("Say ")
            yield from _quoted(step.text, "text")
            if step.aloud:
                yield Piece(tr(", aloud"))
        case Stop():
            yield Piece("Stop")
            if step.text is not None:
                yield Piece(tr(", and say "))
                yield from _quoted(step.text, "text")
            if step.aloud:
                yield Piece(tr(", aloud"))
        case Part():
            yield Piece(step.title, "title")
        case Comment():
            if step.comment:
                yield from (Piece("# "), Piece(step.comment, "comment"))


def _ask(step: Ask) -> Iterator[Piece]:
    yield from (Piece("Ask ⟨"), Piece(step.name, "name"), Piece("⟩ "))
    yield from _quoted(step.prompt, "prompt")
    if step.choices:
        yield from (Piece(" from "), Piece(", ".join(step.choices), "choices"))
    if step.reading:
        yield from (Piece(" from "), Piece(step.reading, "reading"))
    if step.range:
        yield Piece(tr(" by pointing at it"))
    if step.default:
        yield Piece(", else ")
        yield from _quoted(step.default, "default")


def _do(step: Do, catalogue: Catalogue | None) -> Iterator[Piece]:
    command = catalogue.command(step.command) if catalogue else None
    yield Piece(command.name if command else step.command)
    alone = command is not None and len(command.arguments) == 1
    join = ": "
    for setting in step.settings:
        yield Piece(join if alone else f"{join}{setting.name} ")
        field = f"setting {setting.name}"
        yield from _quoted(setting.value, field) if setting.quoted else (Piece(setting.value, field),)
        join = ", "
    given = {setting.name for setting in step.settings}
    for argument in command.arguments if command else ():
        if argument.name not in given:
            words = argument.default if argument.default not in (None, "", ".") else "…"
            label = "" if alone else f"{argument.name} "
            yield Piece(f"{join}{label}", faint=True)
            yield Piece(str(words), f"setting {argument.name}", faint=True)
            join = ", "
