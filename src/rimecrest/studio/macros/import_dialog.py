"""Taking a bundle in: who made it, what each macro may do and lacks here, and what becomes of taken names."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QCheckBox, QComboBox, QDialog, QHBoxLayout, QScrollArea, QVBoxLayout, QWidget

from rimecrest.core.bundle.arriving import Arrival, arrivals
from rimecrest.core.bundle.bundle import Bundle
from rimecrest.core.bundle.existing import Existing
from rimecrest.core.bundle.needs import panel_steps
from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.catalogue.items import Control, Text
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.sentences import mark_words, sentence
from rimecrest.core.macro.step_tree import written
from rimecrest.core.macro.steps import Macro
from rimecrest.core.signing import fingerprint
from rimecrest.core.words import counted, tr
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.shell.theme import Scheme, bold, font, palette
from rimecrest.studio.shared.sentence_widgets import Plain, Push, Word
from rimecrest.studio.shared.slim_bar import slim

WORDS = {
    Existing.KEEP_BOTH: tr("keep both"),
    Existing.REPLACE: tr("replace the one here"),
    Existing.SKIP: tr("skip it"),
}


class TakeIn(QDialog):
    """Shows what a bundle holds before any of it is taken in. `decisions` and `vouches` tell the answers."""

    def __init__(
        self, bundle: Bundle, workspace: Workspace, layer: str, scheme: Scheme, parent: QWidget
    ) -> None:
        super().__init__(parent)
        self.setObjectName("import")
        self.setWindowTitle(tr("Import macros"))
        self.setPalette(palette(scheme))
        self.setFont(font(13))
        self.resize(620, 520)
        self._scheme = scheme
        self._choices: dict[str, QComboBox] = {}
        known = bundle.key in workspace.settings.makers and bundle.signed
        rows = QVBoxLayout(self)
        rows.setContentsMargins(22, 18, 22, 16)
        rows.setSpacing(8)
        count = len(bundle.macros)
        title = Plain(
            tr(
                "{macros} of {maker}",
                macros=counted(count, "macro"),
                maker=bundle.maker or tr("an unknown maker"),
            ),
            scheme,
        )
        title.setFont(bold(17))
        rows.addWidget(title)
        said = tr("Your organisation vouches for this maker: they run at once.")
        if not bundle.signed:
            said = tr("Nothing shows that they are theirs: they do not run until you make them your own.")
        elif not known:
            said = tr("Your organisation does not know this maker: they do not run until you vouch for them.")
        line = Plain(said, scheme, "ink2" if known else "asks")
        line.setWordWrap(True)
        rows.addWidget(line)
        if bundle.signed and not known:
            rows.addWidget(self._fingerprint(bundle, workspace))
        self.vouch = QCheckBox(
            tr(
                "I have compared it with what {maker} told me: what they made runs from now on",
                maker=bundle.maker,
            ),
            self,
        )
        self.vouch.setObjectName("vouch")
        self.vouch.setVisible(bundle.signed and not known)
        rows.addWidget(self.vouch)
        inner = QWidget()
        column = QVBoxLayout(inner)
        column.setContentsMargins(0, 4, 8, 4)
        column.setSpacing(12)
        for arrival in arrivals(bundle, workspace, layer):
            column.addLayout(self._row(arrival))
            catalogue = workspace.catalogues.get(arrival.application)
            column.addWidget(self._steps(arrival.id, bundle.macros[arrival.id].macro, catalogue))
        for (app, _), panel in bundle.panels.items():
            fields = sum(
                1 for item in panel.items if isinstance(item, Control) and not isinstance(item, Text)
            )
            words = tr("Panel {title}", title=panel.title)
            column.addWidget(Plain(words, scheme))
            held = counted(fields, tr("thing to fill in"), tr("things to fill in"))
            column.addWidget(Plain(f"for {app.capitalize()} · {held}", scheme, "ink2", 12))
            for number, steps in enumerate(panel_steps(panel), 1):
                macro, _ = parse_macro(steps)
                name = f"panel {panel.id} {number}"
                what = tr("read the steps of its own: {name}", name=macro.name or number)
                column.addWidget(self._steps(name, macro, workspace.catalogues.get(app), what))
        if files := [*bundle.companions, *bundle.pictures]:
            told = tr("Comes along: {files}", files=", ".join(files))
            column.addWidget(Plain(told, scheme, "ink2", 12))
        column.addStretch(1)
        scroll = QScrollArea()
        scroll.setFrameShape(QScrollArea.Shape.NoFrame)
        scroll.setWidgetResizable(True)
        slim(scroll, scheme)
        scroll.setWidget(inner)
        rows.addWidget(scroll, 1)
        buttons = QHBoxLayout()
        take, leave = Push(tr("Import"), scheme, first=True), Push(tr("Cancel"), scheme)
        take.setObjectName("import-go")
        leave.setObjectName("import-cancel")
        take.clicked.connect(self.accept)
        leave.clicked.connect(self.reject)
        buttons.addWidget(take)
        buttons.addWidget(leave)
        buttons.addStretch(1)
        rows.addLayout(buttons)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.accept()
        else:
            super().keyPressEvent(event)

    def _steps(
        self, name: str, macro: Macro, catalogue: Catalogue | None, what: str = tr("read its steps")
    ) -> QWidget:
        """Steps as sentences, behind a word that shows and hides them: a macro's, or a panel's own."""
        lines = []
        for path, step in written(macro):
            words = sentence(step, catalogue) if path[-1] >= 0 else mark_words(step, path[-1])
            if words:
                depth = len(path) - (1 if path[-1] >= 0 else 2)
                lines.append("    " * depth + words)
        held = QWidget()
        rows = QVBoxLayout(held)
        rows.setContentsMargins(0, 0, 0, 0)
        text = Plain("\n".join(lines), self._scheme, "ink", 12)
        text.setObjectName(f"steps {name}")
        text.setWordWrap(True)
        text.hide()
        word = Word(what, self._scheme, 12)
        word.setObjectName(f"read {name}")

        def turn(_checked: bool = False) -> None:
            text.setVisible(text.isHidden())
            word.setText(what if text.isHidden() else tr("hide its steps"))
            word.updateGeometry()

        word.clicked.connect(turn)
        rows.addWidget(word, 0, Qt.AlignmentFlag.AlignLeft)
        rows.addWidget(text)
        return held

    def _fingerprint(self, bundle: Bundle, workspace: Workspace) -> Plain:
        """What tells this maker's key from anybody else's who takes their name."""
        words = tr("Fingerprint of the key: {digits}", digits=fingerprint(bundle.key))
        if bundle.maker in workspace.settings.makers.values():
            words = tr(
                "You vouch for a {maker} already, but this is another key. {words}",
                maker=bundle.maker,
                words=words,
            )
        line = Plain(words, self._scheme, "ink")
        line.setObjectName("fingerprint")
        line.setWordWrap(True)
        return line

    def _row(self, arrival: Arrival) -> QVBoxLayout:
        row = QVBoxLayout()
        row.setSpacing(2)
        head = QHBoxLayout()
        name = Plain(arrival.name, self._scheme)
        name.setFont(bold(14))
        head.addWidget(name)
        head.addStretch(1)
        if arrival.exists and not arrival.same:
            choice = QComboBox()
            choice.setObjectName(f"existing {arrival.id}")
            choice.setAccessibleName(tr("{name} exists already", name=arrival.name))
            choice.addItems(list(WORDS.values()))
            self._choices[arrival.id] = choice
            head.addWidget(choice)
        row.addLayout(head)
        may = ", ".join(arrival.may)
        facts = [f"for {arrival.application.capitalize()}", f"may: {may}" if may else tr("changes nothing")]
        if arrival.same:
            facts.append(tr("is here already, just the same"))
        elif arrival.exists:
            facts.append(tr("that name is taken here"))
        row.addWidget(Plain(" · ".join(facts), self._scheme, "ink2", 12))
        for missing in arrival.missing:
            near = tr(" The nearest here is “{nearest}”.", nearest=missing.nearest) if missing.nearest else ""
            words = tr("? “{command}” does not exist here.{near}", command=missing.command, near=near)
            row.addWidget(Plain(words, self._scheme, "asks", 12))
        for fault in arrival.faults:
            line = Plain(f"! {fault}", self._scheme, "blocks", 12)
            line.setWordWrap(True)
            row.addWidget(line)
        return row

    def decisions(self) -> dict[str, Existing]:
        """What becomes of each name that is taken."""
        order = list(WORDS)
        return {name: order[choice.currentIndex()] for name, choice in self._choices.items()}

    @property
    def vouches(self) -> bool:
        return self.vouch.isVisibleTo(self) and self.vouch.isChecked()
