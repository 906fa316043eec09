"""Templates, their fields, and text blocks: declared once for applications whose documents lie in files."""

from __future__ import annotations

import re
from datetime import date
from pathlib import Path
from typing import Annotated

from PyQt6.QtWidgets import QInputDialog

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import Folder
from rimecrest.core.template_fields import (
    TemplateField,
    format_values,
    parse_values,
    template_fields,
)
from rimecrest.core.words import counted, tr
from rimecrest.kit.commands.leaving import writing
from rimecrest.kit.commands.result import NOT_DONE, CommandResult
from rimecrest.kit.declare import Among, Declarations
from rimecrest.kit.documents.document import Document
from rimecrest.kit.documents.file_document import FileDocument, in_a_file
from rimecrest.kit.documents.name_list import offer_names
from rimecrest.kit.documents.template_shelf import BLOCK, TemplateShelf
from rimecrest.kit.macros.questions import Question
from rimecrest.kit.panels.asked import Asked
from rimecrest.shell.theme import LIGHT

_UNFIT = re.compile(r"[/\\\x00-\x1f]")


def shelf_of(doc: Document, ending: str) -> TemplateShelf:
    """The templates that a document's window can begin from."""
    return TemplateShelf(doc.documents.lent, doc.documents.folder, ending)


def _name(written: str) -> str:
    """A name as a file can have it. Raises RimecrestError where nothing is left of it."""
    name = _UNFIT.sub("", written).strip().lstrip(".")[:80]
    if not name:
        raise RimecrestError(tr("A template needs a name."), tr("Write one of letters or digits."))
    return name


def ask_name(doc: Document, title: str) -> str:
    """Ask what something is to be called; empty where that was given up."""
    name, go_on = QInputDialog.getText(doc.widget, title, tr("Called:"))
    return name.strip() if go_on else ""


def _asked(doc: Document, field: TemplateField) -> Asked:
    choices = field.choices
    if field.reading:
        told = doc.documents.tells(field.reading)
        choices = tuple(map(str, told)) if isinstance(told, list | tuple) else (str(told),) if told else ()
    default = field.default or (date.today().isoformat() if field.is_date else "")
    return Asked(field.name, choices, default, is_date=field.is_date)


def ask_fields(doc: FileDocument, fields: list[TemplateField]) -> None:
    """Ask for all fields on one form; the answers are filled in by the command, so that they are one step."""
    title = counted(len(fields), tr("thing to fill in"), tr("things to fill in"))
    questions = tuple(_asked(doc, field) for field in fields)
    form = Question(doc.template or doc.name(), title, questions, LIGHT, doc.widget.window() or doc.widget)
    form.setObjectName("template-fields")

    def fill() -> None:
        answers = dict(zip((field.name for field in fields), form.answers(), strict=True))
        doc.wants.emit("fill-fields", {"values": format_values(answers)})

    form.accepted.connect(fill)
    form.finished.connect(form.deleteLater)
    form.open()


def declare_templates(  # noqa: C901  one command after the other
    declarations: Declarations, noun: str, ending: str, context: str, begun: str = "anywhere"
) -> None:
    """Declare beginning from a template, filling its fields, keeping one, and text blocks.

    Args:
        ending: of the application's own format.
        context: where a block can be put.
        begun: where there is a document that has fields, and that can be kept.
    """
    command = declarations.command

    @declarations.reading("templates", f"The templates that a {noun} can begin from", type="list")
    def templates(doc: Document) -> list[str]:
        return sorted(shelf_of(doc, ending).templates())

    @declarations.reading("fields", f"The fields of this {noun} that are not filled in yet", type="list")
    def fields_left(doc: Document) -> list[str]:
        text = doc.field_text() if isinstance(doc, FileDocument) else ""
        return [field.name for field in template_fields(text)]

    @declarations.reading("text-blocks", "The text blocks that can be put in", type="list")
    def text_blocks(doc: Document) -> list[str]:
        return sorted(shelf_of(doc, ".html").blocks())

    def listed_here(doc: Document, title: str, names: list[str], verb: str) -> None:
        if not names:
            raise RimecrestError(
                tr("There are no {title} here yet.", title=title.lower()),
                tr("Whoever shares your layouts can send some, or you keep one of your own."),
            )

        offer_names(doc, title, names, verb)

    @command(
        "new-from-template",
        f"New {noun} from a template",
        about=f"Begin a new {noun} from a template, and fill in what it asks",
        effects=(Effect.CREATES, Effect.OPENS_FILES),
        picture="file-document-plus-outline",
        synonyms=("form", "standard", "pattern"),
        asks=lambda doc: listed_here(doc, tr("Templates"), templates(doc), "new-from-template"),
    )
    def new_from_template(doc: Document, name: Annotated[str, Among("templates")]) -> CommandResult:
        path = TemplateShelf.find(shelf_of(doc, ending).templates(), name, tr("template"))
        in_run = doc.documents.running
        made = in_a_file(doc.documents.begin())
        made.open_path(path)
        made.made_from(path)
        made.undo.changed.emit()
        left = template_fields(made.field_text())
        if left and not in_run:
            ask_fields(made, left)
        return CommandResult({"name": path.stem})

    def asks_here(doc: FileDocument) -> None:
        left = template_fields(doc.field_text())
        if not left:
            raise RimecrestError(
                tr("There is nothing to fill in here."), tr("A field is written as [[Vessel]].")
            )
        ask_fields(doc, left)

    @command(
        "fill-fields",
        "Fill in the fields",
        about=f"Write answers in place of the fields of this {noun}, as in Vessel=Ovessa; Berth=2",
        context=begun,
        effects=(Effect.EDITS,),
        picture="form-textbox",
        changes=("fields",),
        synonyms=("form", "blanks"),
        asks=asks_here,
    )
    def fill_fields(doc: FileDocument, values: str) -> CommandResult:
        answers = parse_values(values)
        known = [field.name for field in template_fields(doc.field_text())]
        unknown = [name for name in answers if name not in known]
        if unknown:
            raise RimecrestError(
                tr("There is no field “{name}” here.", name=unknown[0]),
                tr("There are: {known}.", known=", ".join(known)) if known else tr("There is none."),
            )
        doc.fill_fields(answers)
        return CommandResult({"values": format_values(answers)})

    @command(
        "save-template",
        "Keep as a template",
        about=f"Keep a copy of this {noun} to begin others from; fields are written as [[Vessel]]",
        context=begun,
        effects=(Effect.CREATES, Effect.OVERWRITES),
        picture="content-save-edit-outline",
        changes=("templates",),
        leaves_document=True,
        synonyms=("save as template", "form"),
        reaches=lambda doc, name="": writing(_file(doc, name, ending), shelf=True) if name else None,
    )
    def save_template(doc: FileDocument, name: str = "") -> CommandResult:
        name = name or ask_name(doc, tr("Keep as a template"))
        if not name:
            return NOT_DONE
        place = _made(_file(doc, name, ending))
        doc.settle()
        doc.write_template(place)
        says = tr("“{name}” is a template of yours now: {place}", name=place.stem, place=place)
        return CommandResult({"name": name}, says=says)

    @command(
        "insert-block",
        "Text block",
        about="Put a text block in here, as it looks",
        context=context,
        effects=(Effect.EDITS, Effect.OPENS_FILES),
        picture="clipboard-text-outline",
        synonyms=("snippet", "phrase", "boilerplate", "autotext"),
        asks=lambda doc: listed_here(doc, tr("Text blocks"), text_blocks(doc), "insert-block"),
    )
    def insert_block(doc: FileDocument, name: Annotated[str, Among("text-blocks")]) -> CommandResult:
        path = TemplateShelf.find(shelf_of(doc, ".html").blocks(), name, tr("text block"))
        doc.put_block(path)
        return CommandResult({"name": path.stem.removesuffix(BLOCK)})


def keep_block(doc: Document, name: str, html: str) -> CommandResult:
    """Keep a formatted text as a block of the colleague's own."""
    name = name or ask_name(doc, tr("Keep as a text block"))
    if not name:
        return NOT_DONE
    place = block_file(doc, name)
    Folder(place.parent).write(place.name, html.encode())
    return CommandResult({"name": name}, says=tr("“{name}” is a text block of yours now.", name=name))


def _file(doc: Document, name: str, ending: str) -> Path:
    """Where a template or block of the colleague's own lies."""
    return shelf_of(doc, ending).own / f"{_name(name)}{ending}"


def block_file(doc: Document, name: str) -> Path:
    """Where a text block of the colleague's own lies."""
    return _file(doc, name, f"{BLOCK}.html")


def _made(path: Path) -> Path:
    """The path, with its folder made."""
    folder = path.parent
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise RimecrestError(
            tr("{folder} cannot be made: {reason}.", folder=folder, reason=error.strerror),
            tr("Ask whoever looks after this computer."),
        ) from None
    return path
