"""Finding any command or macro of the application by a word, and running it: one key, one field."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel, QWidget

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.layout.seen import Outcome, SeenMenu
from rimecrest.core.search import Match, Search
from rimecrest.core.words import tr
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.kit.commands.field_over_list import FieldOverList
from rimecrest.shell.theme import Scheme

MOST = 12
"""Rows at once: more are not read."""


def targets(
    catalogue: Catalogue,
    macros: Iterable[MacroFile],
    outcome: Outcome,
    keys: Mapping[tuple[str | None, tuple[tuple[str, str], ...]], str],
) -> list[Match]:
    """Every command and macro, with its key, or where it sits.

    Args:
        keys: what is shown as the key of each target.
    """
    where: dict[str, str] = {}
    for row, item in outcome.buttons():
        if item.run and not isinstance(row, SeenMenu):
            where.setdefault(item.run, outcome.whereabouts(row))

    def hint(run: str) -> str:
        return keys.get((run, ()), "") or where.get(run, "")

    found = [
        Match("macro", f"macro:{file.id}", file.name, hint(f"macro:{file.id}"), about, about)
        for file in macros
        for about in (file.macro.about,)
    ]
    for command in catalogue.commands:
        more = " ".join((command.about, *command.synonyms))
        found.append(Match("command", command.id, command.name, hint(command.id), more, command.about))
    return found


class CommandFinder(FieldOverList):
    """Enter runs what is chosen, Escape closes. What cannot run now stands there with its reason.

    Args:
        why_not: why a target cannot run now; empty where it can.
        run: runs a target, after the list has closed.
    """

    def __init__(
        self,
        entries: Iterable[Match],
        title: str,
        why_not: Callable[[str], str],
        run: Callable[[str], object],
        scheme: Scheme,
        parent: QWidget,
    ) -> None:
        heading = tr("Find a command")
        super().__init__(heading, tr("A word of its name or purpose"), heading, scheme, parent)
        self.setObjectName("command-finder")
        self._search = Search(entries)
        self._title = title
        self._why_not = why_not
        self._run = run
        self.told = QLabel(self)
        self.told.setWordWrap(True)
        self.column.addWidget(self.told)
        self.fill("")

    def fill(self, text: str) -> None:
        self.list.clear()
        found = self._search.find(text, MOST) if text.strip() else self._search.all()[:MOST]
        told = tr("Enter runs it.")
        if text.strip() and not self._search.having(text, 1):
            near = self._search.nearest(text, MOST)
            found = near
            told = tr("{title} has no command like that.", title=self._title)
            told += " " + tr("The nearest:") if near else ""
        for entry in found:
            self._add(entry)
        self.list.setCurrentRow(0)
        self.told.setText(told)

    def _add(self, entry: Match) -> None:
        reason = self._why_not(entry.id)
        kind = tr("macro") if entry.kind == "macro" else ""
        second = " · ".join(part for part in (entry.hint, kind, entry.text) if part)
        if reason:
            second = tr("Not now: {reason}", reason=reason)
        row = self.add(entry.id, f"{entry.title}\n{second}")
        row.setToolTip(entry.text)

    def take(self) -> None:
        run = self.chosen()
        if not run:
            return
        if reason := self._why_not(run):
            name = self.list.currentItem()
            title = name.data(Qt.ItemDataRole.DisplayRole).partition("\n")[0] if name is not None else run
            self.told.setText(tr("“{name}” cannot run now. {reason}", name=title, reason=reason))
            return
        self.accept()
        self._run(run)
