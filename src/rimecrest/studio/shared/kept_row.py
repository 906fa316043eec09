"""One thing that is kept on purpose: what it is about, why, since when and by whom; and its way back."""

from __future__ import annotations

from PyQt6.QtCore import QDate, QLocale, Qt, pyqtSignal
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from rimecrest.core.check.acceptances import Kept
from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme
from rimecrest.studio.shared.sentence_widgets import Chip, Flow, Plain, Word


class KeptRow(QWidget):
    """Signals: withdrawn, to have it told again; shown, to go where it is."""

    withdrawn = pyqtSignal()
    shown = pyqtSignal()

    def __init__(self, kept: Kept, where: str, scheme: Scheme) -> None:
        super().__init__()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        finding = kept.finding
        sentence = Plain(
            finding.sentence if finding is not None else tr("What this was about is another now, or gone."),
            scheme,
            "ink" if finding is not None else "ink2",
            14,
        )
        sentence.setWordWrap(True)
        column.addWidget(sentence)
        why = Plain(said_of(kept), scheme, "ink2", 13)
        why.setObjectName("kept-why")
        why.setWordWrap(True)
        why.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        column.addWidget(why)
        foot = QWidget()
        flow = Flow(foot, gap=6)
        there = Word(where, scheme, 12)
        there.setEnabled(finding is not None)
        there.clicked.connect(self.shown)
        flow.addWidget(there)
        away = Chip(tr("Withdraw") if finding is not None else tr("Forget it"), scheme)
        away.setObjectName("withdraw")
        away.clicked.connect(self.withdrawn)
        flow.addWidget(away)
        column.addWidget(foot)


def said_of(kept: Kept) -> str:
    """“Kept because: used 0 times in 30 days. Since 2 March 2026, by Ailis.”"""
    words = tr("Kept because: {why}", why=kept.acceptance.why.rstrip(".")) + "."
    day = QDate.fromString(kept.acceptance.since, Qt.DateFormat.ISODate)
    since = QLocale(QLocale.Language.English).toString(day, "d MMMM yyyy") if day.isValid() else ""
    by = kept.acceptance.by
    if since and by:
        words += " " + tr("Since {since}, by {by}.", since=since, by=by)
    elif since:
        words += " " + tr("Since {since}.", since=since)
    elif by:
        words += " " + tr("By {by}.", by=by)
    return words
