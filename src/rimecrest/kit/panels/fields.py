"""The fields of panels as a typing context of their own: its commands and keys, declared like any others.

While a field has the keys, what is bound in this context and anywhere works, and what is bound in the
document's contexts does not. Keys without a modifier write.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PyQt6.QtWidgets import QApplication

from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.contexts import FIELD, Context
from rimecrest.core.words import tr
from rimecrest.kit.declare import Declarations
from rimecrest.surfaces.panel_controls import PanelField

KEEPS_KEYS = "keeps-keys"
"""Property of a widget in which plain keys write, as they do in a field of a panel."""


def field_with_the_keys() -> PanelField | None:
    """The field that the keys go to; None while they go elsewhere."""
    focused = QApplication.focusWidget()
    return focused if isinstance(focused, PanelField) else None


def declare_panel_fields(declarations: Declarations) -> None:
    """Declare the context, and the editing of a field with its keys."""
    declarations.contexts += (Context(id=FIELD, name="In a field of a panel", types=True, focus="field"),)

    def declare(
        verb: str, name: str, about: str, keys: str | tuple[str, ...], do: Callable[[PanelField], object]
    ) -> None:
        @declarations.command(verb, name, about=about, keys=keys, context=FIELD, repeats=True)
        def edit(_doc: Any) -> None:
            field = field_with_the_keys()
            if field is None:
                raise RimecrestError(tr("No field of a panel has the keys."), tr("Click into one first."))
            do(field)

    for verb, name, about, keys, do in _COMMANDS:
        declare(f"field-{verb}", name, about, keys, do)


def _word(by: int, marking: bool) -> Callable[[PanelField], None]:
    def go(field: PanelField) -> None:
        field.cursorWordBackward(marking) if by < 0 else field.cursorWordForward(marking)

    return go


def _without(by: int) -> Callable[[PanelField], None]:
    def delete(field: PanelField) -> None:
        if not field.hasSelectedText():
            _word(by, True)(field)
        field.insert("")

    return delete


_COMMANDS: tuple[tuple[str, str, str, str | tuple[str, ...], Callable[[PanelField], object]], ...] = (
    ("copy", "Copy in a field", "Copy what is chosen", ("Ctrl+C", "Ctrl+Insert"), PanelField.copy),
    ("cut", "Cut in a field", "Cut what is chosen", ("Ctrl+X", "Shift+Delete"), PanelField.cut),
    ("paste", "Paste into a field", "Put the clipboard there", ("Ctrl+V", "Shift+Insert"), PanelField.paste),
    ("undo", "Undo in a field", "Take back what was written there last", "Ctrl+Z", PanelField.undo),
    ("redo", "Redo in a field", "Do again what was taken back", ("Ctrl+Shift+Z", "Ctrl+Y"), PanelField.redo),
    ("choose-all", "Choose all of a field", "Choose all that stands there", "Ctrl+A", PanelField.selectAll),
    ("word-back", "Word back in a field", "Go back by a word", "Ctrl+Left", _word(-1, False)),
    ("word-forth", "Word forth in a field", "Go on by a word", "Ctrl+Right", _word(1, False)),
    ("choose-back", "Choose back in a field", "Choose the word before", "Ctrl+Shift+Left", _word(-1, True)),
    ("choose-forth", "Choose on in a field", "Choose the word behind", "Ctrl+Shift+Right", _word(1, True)),
    ("delete-back", "Delete back in a field", "Delete the word before", "Ctrl+Backspace", _without(-1)),
    ("delete-forth", "Delete on in a field", "Delete the word behind", "Ctrl+Delete", _without(1)),
)
"""Verb, name, purpose, keys and what is done."""
