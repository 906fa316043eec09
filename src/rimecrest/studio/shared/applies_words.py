"""Where something applies, as a word that opens its choices: everywhere, or in some documents."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import QWidget

from rimecrest.core.catalogue.applies import EVERYWHERE, Applies
from rimecrest.core.paths import clean_path
from rimecrest.core.words import listed, tr
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.shell.theme import Scheme
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.sentence_widgets import InlineField

Limit = Literal["templates", "folders", "documents"]
KINDS: dict[Limit, str] = {
    "templates": tr("in documents made from a template …"),
    "folders": tr("in the documents of a folder …"),
    "documents": tr("in this document …"),
}
PLACEHOLDERS: dict[Limit, str] = {
    "templates": tr("The template’s name; several with commas"),
    "folders": tr("The folder’s path; several with commas"),
    "documents": tr("The file’s path or name; several with commas"),
}


def applies_words(applies: Applies) -> str:
    """“everywhere”, “in documents made from sailing-sheet”."""
    if applies.everywhere:
        return tr("everywhere")
    parts = []
    if applies.templates:
        parts.append(tr("in documents made from {names}", names=listed(list(applies.templates), 2)))
    if applies.folders:
        parts.append(tr("in documents of {names}", names=listed(list(applies.folders), 2)))
    if applies.documents:
        parts.append(tr("in {names}", names=listed(list(applies.documents), 2)))
    return tr(" or ").join(parts)


class AppliesChooser:
    """Chooses where something applies. `chosen` gets it; `parent` is what the field lies over."""

    def __init__(
        self,
        workspace: Workspace,
        now: Applies,
        scheme: Scheme,
        parent: QWidget,
        chosen: Callable[[Applies], None],
    ) -> None:
        self._workspace = workspace
        self._now = now
        self._scheme = scheme
        self._parent = parent
        self._chosen = chosen

    def open_under(self, word: QWidget) -> None:
        """Offer the choices under a word."""
        present = next((kind for kind in KINDS if getattr(self._now, kind)), "everywhere")
        rows = [("everywhere", tr("everywhere")), *((str(kind), words) for kind, words in KINDS.items())]
        templates = sorted({name.rpartition(".")[0] for name in self._workspace.companions if "." in name})
        at = 2
        for name in templates:
            if name not in self._now.templates:
                rows.insert(at, (f"template {name}", tr("in documents made from {name}", name=name)))
                at += 1
        choose_from(word, rows, present, self._scheme, lambda value: self._take(word, value))

    def _take(self, word: QWidget, value: str) -> None:
        if value == "everywhere":
            self._chosen(EVERYWHERE)
        elif value.startswith("template "):
            self._chosen(Applies(templates=(value.removeprefix("template "),)))
        else:
            self._ask(word, next(kind for kind in KINDS if kind == value))

    def _ask(self, word: QWidget, kind: Limit) -> None:
        before: tuple[str, ...] = getattr(self._now, kind)
        field = InlineField(", ".join(before), PLACEHOLDERS[kind], self._parent, back=self._parent)
        field.setObjectName("applies-field")
        corner = word.mapTo(self._parent, QPoint(0, 0))
        left = max(4, min(corner.x(), self._parent.width() - 364))
        field.setGeometry(left, corner.y(), 360, word.height() + 2)

        def done(text: str) -> None:
            field.hide()
            field.deleteLater()
            names = tuple(filter(None, (part.strip() for part in text.split(","))))
            if kind != "templates":
                names = tuple(str(clean_path(name)) for name in names)
            if names and names != before:
                self._chosen(Applies.model_validate({kind: names}))

        field.entered.connect(done)
        field.given_up.connect(lambda: done(""))
        field.show()
        field.raise_()
        field.setFocus()
