"""The findings strip at the foot: marks with counts, the worst finding of the aim, fixes in place."""

from __future__ import annotations

from collections import Counter
from datetime import date

from PyQt6.QtCore import QEvent, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QSizePolicy, QWidget

from rimecrest.core.check.findings import Finding
from rimecrest.core.check.kinds import Weight
from rimecrest.core.mend.fix import Fix
from rimecrest.core.mend.make_fixes import fixes
from rimecrest.core.words import counted, tr
from rimecrest.core.workspace.edits import Edit
from rimecrest.shell.theme import Scheme, bold
from rimecrest.studio.shared.marks import Mark
from rimecrest.studio.shared.own_name import own_name
from rimecrest.studio.shared.sentence_widgets import Chip, Elided, InlineField, Plain, Word
from rimecrest.studio.shared.session import Session

MOST_CHIPS = 4
WORDS = 800
"""Pixels of the counts, of the sentence up to where its remedy begins, and of what is said of elsewhere."""


IDLE = 60
"""Milliseconds without an edit after which fixes are looked for again."""


def _as_kept(fix: Fix, reason: str) -> Edit:
    """The edit of a fix, with today and the specialist's name where it keeps something on purpose."""
    return fix.with_reason(reason, date.today().isoformat(), own_name())


class Strip(QWidget):
    """Shows one finding at a time.

    Left and right walk along; Enter or a click on the marks opens the whole list (`opened`).
    """

    opened = pyqtSignal()
    elsewhere_wanted = pyqtSignal()
    shown = pyqtSignal(str)
    """Where the finding is, when somebody clicks its first words."""

    def __init__(self, session: Session, scheme: Scheme) -> None:
        super().__init__()
        self._session = session
        self._scheme = scheme
        self._at: int | None = None
        """The place of the finding that is shown; None: it is to be chosen."""
        self._seen: set[tuple[object, ...]] = set()
        """The findings that were there before the last change; empty: none have been looked at here."""
        self._said = ""
        self._asking: Fix | None = None
        self._known: tuple[Finding, list[Fix]] | None = None
        """The fixes of the finding that was shown last."""
        self._shows: tuple[object, ...] = ()
        """What is shown now; empty: nothing was yet, or it has to be shown anew."""
        self._painted = False
        """Whether it was on the screen already: fixes are looked for after that."""
        self._renewing = QTimer(self)
        self._renewing.setSingleShot(True)
        self._renewing.setInterval(IDLE)
        self._renewing.timeout.connect(self._renew)
        self._resting = ""
        """What was done by a click: it stands until the pointer leaves, and nothing slides under it."""
        self.setObjectName("strip")
        self.setFixedHeight(36)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(16, 0, 16, 0)
        self._row.setSpacing(8)
        # However long its sentence is, it never makes the window wider.
        self._row.setSizeConstraint(QHBoxLayout.SizeConstraint.SetNoConstraint)
        self.setMinimumWidth(300)
        session.changed.connect(self._fresh)
        session.aimed.connect(self._aimed)
        session.told.connect(self.say)
        self.refresh()

    def _fresh(self) -> None:
        self._at, self._said, self._asking = None, self._resting, None
        self.refresh()

    def _aimed(self) -> None:
        self._seen = set()
        self._fresh()

    def _choose(self, findings: list[Finding]) -> int:
        """The place of the finding to show: the first, or one as heavy that the last change brought."""
        seen, self._seen = self._seen, {finding.key for finding in findings}
        heaviest = [at for at, finding in enumerate(findings) if finding.weight is findings[0].weight]
        return next((at for at in heaviest if seen and findings[at].key not in seen), 0)

    def say(self, sentence: str) -> None:
        """Show a sentence instead of a finding, until something changes."""
        self._said = sentence
        self.refresh()

    def refresh(self) -> None:
        """Show what there is to say, where that is something else than what is shown."""
        if not (self._painted or self._session.is_checked):
            return  # the window comes first, then the check
        findings = self._session.findings()
        self._at = self._choose(findings) if self._at is None else self._at % max(len(findings), 1)
        finding = findings[self._at] if findings and not self._said else None
        fixes = tuple(fix.label for fix in self._fixes(finding)) if finding and not self._asking else ()
        shows = (self._counts(), self._said, finding, fixes, self._elsewhere(), self.width())
        if self._asking or shows != self._shows:
            self._shows = () if self._asking else shows
            self._build(findings)

    def _counts(self) -> tuple[int, ...]:
        counts = Counter(finding.weight for finding in self._session.findings())
        return tuple(counts[weight] for weight in Weight)

    def _build(self, findings: list[Finding]) -> None:
        while (item := self._row.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.hide()
                widget.deleteLater()
        for weight, count in zip(Weight, self._counts(), strict=True):
            self._row.addWidget(Mark(weight, self._scheme))
            self._row.addWidget(Plain(counted(count, weight.word), self._scheme, "ink2", 12))
            self._row.addSpacing(6)
        if self._said:
            words = Elided(self._said, self._scheme)
            words.setObjectName("said")
            words.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
            self._row.addWidget(words, 1)
            self.setAccessibleName(self._said)
        elif findings:
            self._show(findings[self._at or 0])
        else:
            self._row.addWidget(Plain(tr("Nothing stands in the way here."), self._scheme, "ink2", 13))
            self._row.addStretch(1)
            self.setAccessibleName(tr("No findings here"))
        if not self._asking and (elsewhere := self._elsewhere()):
            word = Word(elsewhere, self._scheme, 12)
            word.setObjectName("findings-elsewhere")
            word.setToolTip(tr("Show them"))
            word.clicked.connect(self.elsewhere_wanted)
            self._row.addWidget(word)

    def _elsewhere(self) -> str:
        counts = Counter(finding.weight for finding in self._session.elsewhere())
        worst = next((weight for weight in Weight if counts[weight]), None)
        if worst is None:
            return ""
        return tr("elsewhere: {number}", number=counted(counts[worst], worst.word))

    def _show(self, finding: Finding) -> None:
        self._row.addWidget(Mark(finding.weight, self._scheme))
        subject = Word(finding.subject, self._scheme, 13)
        subject.setObjectName("finding-subject")
        subject.setToolTip(tr("Show it"))
        subject.clicked.connect(lambda: self.shown.emit(finding.where))
        self._row.addWidget(subject)
        rest = Elided(finding.rest, self._scheme)
        rest.setToolTip(finding.sentence)
        self._row.addWidget(rest)
        self.setAccessibleName(finding.sentence)
        if self._asking is not None:
            field = InlineField("", tr("Why is this right? Enter keeps it."), self, back=self)
            field.setObjectName("reason")
            field.entered.connect(self._keep)
            field.given_up.connect(self._give_up)
            self._row.addWidget(field, 1)
            field.setFocus()
            return
        found = self._fixes(finding)
        room = self.width() - WORDS - QFontMetrics(bold(13)).horizontalAdvance(finding.subject)
        for number, fix in enumerate(found, 1):
            chip = Chip(fix.label, self._scheme)
            room -= chip.sizeHint().width() + self._row.spacing()
            if number > 1 and room < 0:
                # The sentence comes first: what does not fit is in the list of findings.
                chip.deleteLater()
                break
            chip.setObjectName(f"fix-{number}")
            chip.clicked.connect(lambda _=False, fix=fix, chip=chip: self._take(fix, chip.by_mouse))
            self._row.addWidget(chip)
        self._row.addStretch(1)

    def _fixes(self, finding: Finding) -> list[Fix]:
        """The fixes to show. Those of a finding that is as it was are looked for again when idle."""
        if not self._painted:
            return []
        if self._known is not None and self._known[0] == finding:
            self._renewing.start()
        else:
            self._known = (finding, self._found(finding))
        return self._known[1]

    def _found(self, finding: Finding) -> list[Fix]:
        return fixes(finding, self._session.workspace, self._session.checked)[:MOST_CHIPS]

    def _renew(self) -> None:
        """Look for the fixes of the finding that is shown again."""
        if self._known is None or self._asking is not None:
            return
        finding, before = self._known
        self._known = (finding, self._found(finding))
        if [fix.label for fix in self._known[1]] != [fix.label for fix in before]:
            self.refresh()

    def _take(self, shown: Fix, by_mouse: bool) -> None:
        if self._renewing.isActive():
            # It was found before the last edit: taken is what is its like now.
            self._renewing.stop()
            self._renew()
        now = self._known[1] if self._known is not None else []
        fix = next((fix for fix in now if fix.label == shown.label), None)
        if fix is None:
            return
        self._resting = f"Done: {fix.label}." if by_mouse and not fix.asks_reason else ""
        self.apply(fix)

    def leaveEvent(self, event: QEvent | None) -> None:
        super().leaveEvent(event)
        if self._resting:
            said, self._resting = self._resting, ""
            if self._said == said:
                self._said = ""
                self.refresh()

    def apply(self, fix: Fix) -> None:
        """Apply a fix; one that wants a reason asks for it here."""
        if fix.asks_reason:
            self._said = ""
            self._asking = fix
            findings = self._session.findings()
            if fix.finding in findings:
                self._at = findings.index(fix.finding)
            self.refresh()
        else:
            self._session.do(_as_kept(fix, ""))

    def _keep(self, reason: str) -> None:
        fix, self._asking = self._asking, None
        if fix is not None and reason:
            self._session.do(_as_kept(fix, reason))
        else:
            self.refresh()

    def _give_up(self) -> None:
        self._asking = None
        self.refresh()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if step is not None and self._session.findings():
            if not self._resting:
                self._at = ((self._at or 0) + step) % len(self._session.findings())
            self._said = self._resting = ""
            self.refresh()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.opened.emit()
        else:
            super().keyPressEvent(event)

    def mouseReleaseEvent(self, _event: QMouseEvent | None) -> None:
        self.opened.emit()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        assert event is not None
        super().resizeEvent(event)
        if event.size().width() != event.oldSize().width() and self._asking is None:
            self.refresh()

    def changeEvent(self, event: QEvent | None) -> None:
        super().changeEvent(event)
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        if not self._painted:
            # The window comes first: checks and fixes load the rules, and what suggests keys.
            self._painted = True
            QTimer.singleShot(0, self.refresh)
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._scheme.color("sheet"))
        painter.setPen(self._scheme.color("crest" if self.hasFocus() else "line"))
        painter.drawLine(0, 0, self.width(), 0)
