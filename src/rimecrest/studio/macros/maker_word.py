"""Who outside made the macro that is open, on its sheet: vouched for, or no longer, or made one's own."""

from __future__ import annotations

from rimecrest.core.signing import fingerprint
from rimecrest.core.words import tr
from rimecrest.core.workspace.edits import Edit
from rimecrest.core.workspace.file_edits import NoLongerVouch, OwnMacro, Vouch
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.shell.theme import Scheme
from rimecrest.studio.macros.macro_sheet import MacroSheet
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.session import Session


class MakerWord:
    """The word at the foot of the sheet that names the maker, and what it opens."""

    def __init__(self, session: Session, sheet: MacroSheet, scheme: Scheme) -> None:
        self._session = session
        self._word = sheet.maker
        self._scheme = scheme
        self._word.clicked.connect(lambda _=False: self._choose())
        self._key = ("", "")
        """The macro that is shown: layer, id."""

    def follow(self, file: MacroFile) -> None:
        """Name the maker of that macro; nothing is said of one that was made here."""
        self._key = (file.layer, file.id)
        origin = self._session.workspace.origin(self._key)
        self._word.setVisible(origin is not None)
        if origin is None:
            return
        name = origin.maker or tr("somebody unknown")
        if not origin.holds:
            self._word.setText(tr("made by {name}, and changed since: does not run", name=name))
        elif origin.key in self._session.workspace.settings.makers:
            self._word.setText(tr("made by {name}", name=name))
        else:
            self._word.setText(tr("made by {name}: does not run", name=name))
        self._word.updateGeometry()

    def _choose(self) -> None:
        origin = self._session.workspace.origin(self._key)
        if origin is None:
            return
        name = origin.maker or tr("somebody unknown")
        edits: dict[str, tuple[str, Edit]] = {
            "own": (
                tr("Make it my own: it runs, and no longer says that {name} made it", name=name),
                OwnMacro(*self._key),
            )
        }
        if origin.key in self._session.workspace.settings.makers:
            words = tr("No longer vouch for {name}: nothing they made runs", name=name)
            edits["turn"] = words, NoLongerVouch(origin.key, origin.maker)
        elif origin.key:
            digits = fingerprint(origin.key)
            words = tr("Vouch for {name}: their fingerprint is {digits}", name=name, digits=digits)
            edits["turn"] = words, Vouch(origin.maker, origin.key)
        rows = [(row, words) for row, (words, _) in edits.items()]
        choose_from(self._word, rows, "", self._scheme, lambda row: self._session.do(edits[row][1]))
