"""Who outside made the macro that is open, on its sheet: vouched for, or no longer."""

from __future__ import annotations

from rimecrest.core.bundle import fingerprint
from rimecrest.core.words import tr
from rimecrest.core.workspace import MacroFile, NoLongerVouch, Vouch
from rimecrest.core.workspace.settings import Maker
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
        self._maker: Maker | None = None

    def follow(self, file: MacroFile) -> None:
        """Name the maker of that macro; nothing is said of one that was made here."""
        settings = self._session.workspace.settings
        maker = self._maker = settings.made_by.get(f"{file.layer}/{file.id}")
        self._word.setVisible(maker is not None)
        if maker is None:
            return
        name = maker.name or tr("somebody unknown")
        if maker.key in settings.makers:
            self._word.setText(tr("made by {name}", name=name))
        else:
            self._word.setText(tr("made by {name}: does not run", name=name))
        self._word.updateGeometry()

    def _choose(self) -> None:
        maker = self._maker
        if maker is None:
            return
        if not maker.key:
            self._session.say(
                tr("Nothing shows who made it, so nobody can vouch for it. Ask for one that is signed.")
            )
            return
        known = maker.key in self._session.workspace.settings.makers
        words = (
            tr("No longer vouch for {name}: nothing they made runs", name=maker.name)
            if known
            else tr(
                "Vouch for {name}: their fingerprint is {digits}",
                name=maker.name,
                digits=fingerprint(maker.key),
            )
        )
        choose_from(self._word, [("turn", words)], "", self._scheme, lambda _: self._turn(maker, known))

    def _turn(self, maker: Maker, known: bool) -> None:
        edit = NoLongerVouch(maker.key, maker.name) if known else Vouch(maker.name, maker.key)
        self._session.do(edit)
