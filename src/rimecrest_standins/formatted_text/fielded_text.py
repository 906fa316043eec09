"""A text with fields of one line above it, as messages, notices and cards have them.

What is written into a field is half entered until the field is left, something is performed or the document
is saved; then it is one step of undo, and of a recording.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Annotated, Any

from msgspec import Struct
from msgspec.structs import replace
from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QPalette
from PyQt6.QtWidgets import QFormLayout, QFrame, QLineEdit, QWidget

from rimecrest.core.catalogue.catalogue import Effect
from rimecrest.core.errors import RimecrestError
from rimecrest.core.template_fields import filled
from rimecrest.core.words import tr
from rimecrest.kit.declare import Among, Declarations
from rimecrest.kit.documents.document import Documents, Move
from rimecrest.kit.documents.parts import PartsView, below_one_another
from rimecrest.shell.line_field import LineField
from rimecrest.shell.theme import LIGHT, font
from rimecrest_standins.formatted_text.document import FormattedText
from rimecrest_standins.formatted_text.view import TextView

TEXT = "text"
"""The part below the fields."""
Fields = tuple[tuple[str, str], ...]
"""What stands in each field, by its name."""


class Beside(Struct, frozen=True):
    """What a document has beside its text. `more` is the application's own, as a value to compare."""

    fields: Fields
    more: Any = ()


class Changed(Struct, frozen=True):
    """That, before and after a change."""

    document: FieldedText
    before: Beside
    after: Beside

    def back(self) -> None:
        self.document.show_beside(self.before)

    def forth(self) -> None:
        self.document.show_beside(self.after)


class Spot(Struct, frozen=True):
    """Where somebody is: in which part, what stands in the fields, and where in the text."""

    part: str
    fields: Fields
    text: Any


class FieldsView(PartsView):
    """Its parts are the fields and the text. `left` tells that a field was left, or Enter pressed in it."""

    left = pyqtSignal()

    def __init__(self, page: TextView, titles: Mapping[str, str]) -> None:
        super().__init__()
        self.page = page
        self.fields: dict[str, QLineEdit] = {}
        self._form = QFormLayout()
        self._form.setContentsMargins(16, 10, 16, 6)
        self._form.setSpacing(6)
        self._form.setLabelAlignment(Qt.AlignmentFlag.AlignRight)
        for name, title in titles.items():
            field = LineField()
            field.setObjectName(name)
            field.setAccessibleName(title)
            field.setFont(font(13))
            field.editingFinished.connect(self.left)
            field.returnPressed.connect(lambda name=name: self._go_on(name))
            self.fields[name] = field
            self._form.addRow(title, field)
        line = QFrame()
        line.setFixedHeight(1)
        line.setAutoFillBackground(True)
        line.setPalette(QPalette(LIGHT.color("line")))
        below_one_another(self, self._form, line, page)
        self.watch({**self.fields, TEXT: page})

    def add_row(self, title: str, widget: QWidget) -> None:
        """Show something more below the fields."""
        self._form.addRow(title, widget)

    def focus(self, part: str) -> None:
        """Give the keys to a field, what stands in it chosen, or to the text."""
        if part == TEXT:
            self.page.setFocus()
        else:
            self.fields[part].setFocus()
            self.fields[part].selectAll()

    def _go_on(self, field: str) -> None:
        parts = [*self.fields, TEXT]
        self.focus(parts[parts.index(field) + 1])


class FieldedText(FormattedText):
    """A document with formatted text and fields above it."""

    titles: Mapping[str, str] = {}
    """What each field is called, by its name."""

    def __init__(self, documents: Documents, margin: int) -> None:
        """`margin` is in pixels, around the text."""
        super().__init__(documents, margin)
        self.form = FieldsView(self.page, self.titles)
        self.widget: QWidget = self.form
        self.beside = Beside(tuple((name, "") for name in self.titles))
        self._saved = self.beside
        self.part = next(iter(self.titles))
        self.form.focused.connect(self._focused)
        self.form.left.connect(self.settle_fields)

    def show_more(self, more: Any) -> None:
        """Show what else the document has; an application says how."""

    def _focused(self, part: str) -> None:
        self.part = part
        self.form.setFocusProxy(self.page if part == TEXT else self.form.fields[part])

    def focus(self, part: str) -> None:
        """Give the keys to a part."""
        self._focused(part)
        self.form.focus(part)

    # The fields

    def shown(self) -> Fields:
        """What stands in the fields, half entered or not."""
        return tuple((name, field.text()) for name, field in self.form.fields.items())

    def field(self, name: str) -> str:
        """What stands in a field."""
        return self.form.fields[name].text()

    def show_beside(self, beside: Beside) -> None:
        """Show other fields, and more, without a step of undo."""
        if beside.more != self.beside.more:
            self.show_more(beside.more)
        self.beside = beside
        self._show_fields(beside.fields)

    def _show_fields(self, fields: Fields) -> None:
        for name, words in fields:
            if self.field(name) != words:
                self.form.fields[name].setText(words)

    def settle_fields(self) -> None:
        """Take what was written into the fields as done."""
        if self.shown() != self.beside.fields:
            self._become(replace(self.beside, fields=self.shown()))

    def set_field(self, name: str, words: str) -> None:
        """Write a field anew."""
        self.settle_fields()
        line = " ".join(words.splitlines())
        fields = tuple((each, line if each == name else old) for each, old in self.beside.fields)
        self._become(replace(self.beside, fields=fields))

    def set_more(self, more: Any) -> None:
        """Have something else beside text and fields."""
        self.settle_fields()
        self._become(replace(self.beside, more=more))

    def _become(self, beside: Beside) -> None:
        if beside != self.beside:
            with self.change(tr("the fields above the text")):
                before = self.beside
                self.show_beside(beside)
                self.undo.record(Changed(self, before, beside))

    # What every document says

    def settle(self) -> None:
        super().settle()
        self.settle_fields()

    def abandon(self) -> None:
        self._show_fields(self.beside.fields)

    def make_live(self, context: str) -> None:
        if context == "writing":
            self.focus(TEXT)

    def write(self, text: str) -> None:
        if self.part == TEXT:
            super().write(text)
        else:
            self.form.fields[self.part].insert(text)
            self.settle_fields()

    def place(self) -> Any:
        return Spot(self.part, self.shown(), super().place())

    def go(self, place: Any) -> None:
        self._show_fields(place.fields)
        self.part = place.part
        super().go(place.text)

    def has_selection(self, place: Any) -> bool:
        return place.part == TEXT and super().has_selection(place.text)

    def moves(self, before: Any, after: Any) -> Sequence[Move] | None:
        found: list[Move] = []
        for (name, was), (_, now) in zip(before.fields, after.fields, strict=True):
            if was != now:
                found.append((f"set-{name}", {"to": now}))
        if before.part != after.part:
            found.append(("go-to-part", {"name": after.part}))
        if after.part == TEXT:
            found += super().moves(before.text, after.text) or ()
        return found

    def modified(self) -> bool:
        return self.text.isModified() or replace(self.beside, fields=self.shown()) != self._saved

    def saved(self) -> None:
        self.settle_fields()
        self._saved = self.beside
        self.text.setModified(False)

    # Templates

    def field_text(self) -> str:
        return "\n".join([*(words for _, words in self.shown()), super().field_text()])

    def fill_fields(self, answers: Mapping[str, str]) -> None:
        for name, words in self.shown():
            self.set_field(name, filled(words, answers))
        super().fill_fields(answers)


def declare_fields(declarations: Declarations, noun: str, context: str, titles: Mapping[str, str]) -> None:
    """Declare writing each field anew, and going to one.

    What a field holds, the application tells as a reading of the field's name.
    """
    command = declarations.command

    def declare(name: str, title: str) -> None:
        @command(f"set-{name}", title, about=f"Write the field {title} anew", context=context,
                 effects=(Effect.EDITS,), changes=(name,), picture="form-textbox",
                 asks=lambda doc: doc.focus(name))  # fmt: skip
        def set_field(doc: FieldedText, to: str) -> None:
            doc.set_field(name, to)

    for name, title in titles.items():
        declare(name, title)

    @declarations.reading("parts", f"The fields of the {noun}, and its text", type="list")
    def parts(doc: Any) -> list[str]:
        return [*titles, TEXT] if isinstance(doc, FieldedText) else []

    @command("go-to-part", "Go to a field", about=f"Go to a field of the {noun}, or to its text",
             context=context, picture="form-textbox")  # fmt: skip
    def go_to_part(doc: FieldedText, name: Annotated[str, Among("parts")] = TEXT) -> None:
        if name not in (*titles, TEXT):
            raise RimecrestError(
                tr("There is no field “{name}”.", name=name),
                tr("There are: {known}.", known=", ".join([*titles, TEXT])),
            )
        doc.focus(name)
