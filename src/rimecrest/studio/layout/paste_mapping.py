"""What is pasted into another application: what fits, what has its like, what has none, and the keys."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtWidgets import (
    QCheckBox,
    QDialog,
    QDialogButtonBox,
    QFrame,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.words import counted, tr
from rimecrest.core.workspace.carry_over import Counterpart
from rimecrest.shell.theme import Scheme, font, palette
from rimecrest.studio.shared.choice_list import choose_from
from rimecrest.studio.shared.sentence_widgets import Plain, Word


class PasteMapping(QDialog):
    """A row for each command. `runs` is what was settled when it is accepted."""

    def __init__(
        self,
        found: Sequence[Counterpart],
        there: Catalogue,
        here: Catalogue,
        scheme: Scheme,
        parent: QWidget,
    ) -> None:
        super().__init__(parent)
        self._here = here
        self._scheme = scheme
        self._runs = {one.of: one.run for one in found}
        self.setObjectName("paste-mapping")
        self.setWindowTitle(tr("Paste into {title}", title=here.title))
        self.setPalette(palette(scheme))
        self.setFont(font(13))
        self.setMinimumWidth(460)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(20, 18, 20, 16)
        rows.setSpacing(8)
        fits = sum(1 for one in found if one.run)
        heading = tr(
            "Of {all} of {there} {fits} in {here}.",
            all=counted(len(found), "command"),
            there=there.title,
            fits=counted(fits, "has its like", "have their like"),
            here=here.title,
        )
        rows.addWidget(Plain(heading, scheme, "ink", 15))
        inner = QWidget()
        lines = QVBoxLayout(inner)
        lines.setContentsMargins(0, 0, 0, 0)
        for one in found:
            lines.addLayout(self._row(one))
        lines.addStretch(1)
        scroll = QScrollArea(self)
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        scroll.setWidgetResizable(True)
        scroll.setWidget(inner)
        scroll.setMaximumHeight(320)
        rows.addWidget(scroll)
        self.keys = QCheckBox(tr("Their keys come along"), self)
        self.keys.setObjectName("keys-along")
        rows.addWidget(self.keys)
        buttons = QDialogButtonBox(self)
        paste = QPushButton(tr("Paste"))
        paste.setObjectName("paste-go")
        paste.setDefault(True)
        buttons.addButton(paste, QDialogButtonBox.ButtonRole.AcceptRole)
        buttons.addButton(tr("Cancel"), QDialogButtonBox.ButtonRole.RejectRole)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        rows.addWidget(buttons)
        paste.setFocus()

    def _row(self, one: Counterpart) -> QHBoxLayout:
        row = QHBoxLayout()
        row.addWidget(Plain(f"{one.name}  →", self._scheme, "ink"))
        word = Word(self._words(one.run), self._scheme)
        word.setObjectName(f"maps-{one.of.partition(':')[2]}")
        word.clicked.connect(lambda _=False: self._choose(one, word))
        row.addWidget(word)
        row.addStretch(1)
        if not one.run:
            row.addWidget(Plain(self._why_none(one), self._scheme, "asks", 12))
        return row

    def _words(self, run: str) -> str:
        return self._here.by_id[run].name if run else tr("left out")

    def _why_none(self, one: Counterpart) -> str:
        if one.of.startswith("macro:"):
            return tr("a macro is for one application")
        near = self._here.by_id.get(one.nearest)
        return tr("none; nearest: {name}", name=near.name) if near else tr("none")

    def _choose(self, one: Counterpart, word: Word) -> None:
        rows = [("", tr("left out"))]
        rows += [(run, self._here.by_id[run].name) for run in (one.run, one.nearest) if run]

        def take(run: str) -> None:
            self._runs[one.of] = run
            word.setText(self._words(run))
            word.updateGeometry()

        choose_from(word, rows, self._runs[one.of], self._scheme, take)

    def runs(self) -> dict[str, str]:
        """Command → the one here, empty for what is left out."""
        return dict(self._runs)
