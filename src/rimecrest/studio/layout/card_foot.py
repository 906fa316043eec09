"""The foot of a card: where else the target runs, where the item comes from, and what can be done with it."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from rimecrest.core.layout.seen import SeenButton, SeenPanel
from rimecrest.core.words import owned, tr
from rimecrest.core.workspace.edits import Edit, ShowAgain, TakeOff
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.core.workspace.private_steps import Runner, shared, taken_in
from rimecrest.shell.theme import Scheme
from rimecrest.studio.shared.sentence_widgets import Flow, Plain, Word
from rimecrest.studio.shared.session import Session


class CardFoot(QWidget):
    """What one item's card says at its foot.

    Signals:
        wants(edit): do this.
        removes(edit): remove the item; the card is to close first.
    """

    wants = pyqtSignal(Edit)
    removes = pyqtSignal(TakeOff)

    def __init__(self, session: Session, item: SeenButton, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent)
        self._session = session
        self._item = item
        self._scheme = scheme
        self._flow = Flow(self, gap=10)
        aim, workspace = session.aim, session.workspace
        words = [
            tr("from this layer") if item.layer == aim.layer else f"from {workspace.layer_title(item.layer)}"
        ]
        if also := self._also_on():
            words.insert(0, tr("Also on {also}", also=also))
        self._flow.addWidget(Plain(" · ".join(words), scheme, "ink2", 12, self))
        if aim.layer in item.changed_by and item.layer != aim.layer:
            self._word(tr("as the layer beneath has it"), "card-as-beneath").clicked.connect(
                lambda: self.wants.emit(ShowAgain(aim.layer, aim.app, item.id))
            )
        kind, _, name = (item.run or "").partition(":")
        file = workspace.macros_of(aim.stack(workspace)).get(name) if kind == "macro" else None
        if file is not None or item.steps:
            own = self._word(
                tr("a macro of these steps") if item.steps else tr("private steps"), "card-own-steps"
            )
            own.setToolTip(tr("Private steps go along with a copy of the item, and stand on no shelf"))
            own.clicked.connect(lambda: self.wants.emit(self._own_steps(file)))
        off = self._word(tr("remove"), "card-remove")
        off.clicked.connect(lambda: self.removes.emit(TakeOff(aim.layer, aim.app, (item.id,))))

    def _word(self, text: str, name: str) -> Word:
        word = Word(text, self._scheme, 12, self)
        word.setObjectName(name)
        self._flow.addWidget(word)
        return word

    def _own_steps(self, file: MacroFile | None) -> Edit:
        """Give the item its macro's steps as its own, or make a macro of those it has."""
        aim, item, workspace = self._session.aim, self._item, self._session.workspace
        row = self._session.outcome().row_of(item.id)
        panel = row.id.rpartition(":")[2] if isinstance(row, SeenPanel) else ""
        runner = Runner(aim.layer, aim.app, item.id, panel, made_by=item.made_by)
        if file is not None:
            return taken_in(workspace, runner, file)
        return shared(workspace, runner, item.steps, item.label)

    def _also_on(self) -> str:
        session = self._session
        found: dict[str, None] = {}
        for layer in session.workspace.layers:
            seen = session.workspace.outcome(session.workspace.stack_up_to(layer), session.aim.app)
            for row, other in seen.buttons():
                same = other.target == self._item.target and other.layer == layer
                if same and (layer, other.id) != (session.aim.layer, self._item.id):
                    found[f"{owned(session.workspace.layer_title(layer))} {row.title}"] = None
        return ", ".join(list(found)[:2])
