"""The whole list of findings, as a sheet over the place."""

from __future__ import annotations

from msgspec.structs import replace
from PyQt6.QtCore import QEvent, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QApplication, QFrame, QHBoxLayout, QScrollArea, QVBoxLayout, QWidget

from rimecrest.core.check.acceptances import Kept, kept_on_purpose
from rimecrest.core.check.findings import Finding
from rimecrest.core.mend.fix import Fix
from rimecrest.core.mend.make_fixes import fixes
from rimecrest.core.words import counted, tr
from rimecrest.core.workspace.edits import Withdraw
from rimecrest.shell.theme import Scheme, bold
from rimecrest.studio.shared.edit_target import seat_for
from rimecrest.studio.shared.kept_row import KeptRow
from rimecrest.studio.shared.marks import Mark
from rimecrest.studio.shared.sentence_widgets import Chip, Flow, Plain, Word, end_fields, step_focus
from rimecrest.studio.shared.session import Session
from rimecrest.studio.shared.slim_bar import slim
from rimecrest.surfaces.removal import show_page


class FindingSheet(QWidget):
    """All findings with their fixes: those of the aim, or of everything. `fix_wanted` carries a fix.

    `shown` carries where a finding is, when somebody goes there.
    """

    fix_wanted = pyqtSignal(Fix)
    shown = pyqtSignal(str)
    closed = pyqtSignal()

    def __init__(self, session: Session, scheme: Scheme, parent: QWidget) -> None:
        super().__init__(parent)
        self._session = session
        self._scheme = scheme
        self._everything = False
        self._elsewhere = False
        """Whether only the findings outside the present scope are listed."""
        self._kept_shown = False
        """Whether what is kept on purpose is listed instead of what is told."""
        self._listed: list[QWidget] = []
        self._resting = False
        """Whether a fix was taken with the mouse: rows stay where they are until the pointer leaves."""
        self._left_at: int | None = None
        """The row that the keys were in when the rows became others: Tab goes on there."""
        self.setObjectName("findings")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(20, 14, 12, 12)
        head = QHBoxLayout()
        self._title = Plain("", scheme)
        self._title.setFont(bold(16))
        head.addWidget(self._title)
        head.addStretch(1)
        # At the right edge, so that they stay under the pointer when the title changes.
        self._filter = Word("", scheme, 13)
        self._filter.setObjectName("findings-filter")
        self._filter.clicked.connect(self._turn)
        head.addWidget(self._filter)
        head.addSpacing(12)
        self._kept = Word("", scheme, 13)
        self._kept.setObjectName("findings-kept")
        self._kept.clicked.connect(self._turn_to_kept)
        head.addWidget(self._kept)
        head.addSpacing(12)
        close = Word(tr("close"), scheme, 13)
        close.setObjectName("findings-close")
        close.clicked.connect(self.shut)
        head.addWidget(close)
        rows.addLayout(head)
        self._scroll = QScrollArea()
        self._scroll.setFrameShape(QFrame.Shape.NoFrame)
        self._scroll.setWidgetResizable(True)
        slim(self._scroll, scheme)
        rows.addWidget(self._scroll)
        session.changed.connect(self._refresh_if_open)
        session.aimed.connect(self._refresh_if_open)
        self.hide()

    def open_elsewhere(self) -> None:
        """Show the findings that are not in the present scope."""
        self._elsewhere = True
        self.open(True)

    def open(self, everything: bool | None = None) -> None:
        """Show the findings of everything, or of what is aimed at; None: as it was last."""
        if everything is not None:
            self._everything = everything
        self._kept_shown = False
        self._fill()
        self._left_at = None
        self.show()
        self.raise_()
        self.setFocus()

    def shut(self) -> None:
        self._resting = False
        end_fields(self)
        self._elsewhere = False
        self.hide()
        self.closed.emit()

    def _turn(self) -> None:
        self._everything = self._elsewhere or not self._everything
        self._elsewhere = False
        self._fill()

    def _turn_to_kept(self) -> None:
        self._kept_shown = not self._kept_shown
        self._fill()

    def _refresh_if_open(self) -> None:
        if self.isVisible() and not self._resting:
            self._fill()

    def leaveEvent(self, event: QEvent | None) -> None:
        super().leaveEvent(event)
        if self._resting:
            self._resting = False
            self._refresh_if_open()

    def _fill(self) -> None:
        session = self._session
        here = f"{session.workspace.layer_title(session.aim.layer)}, {session.aim.app.capitalize()}"
        kept = self._all_kept()
        what = tr("Kept on purpose") if self._kept_shown else tr("Findings")
        self._title.setText(
            tr("{what} elsewhere", what=what)
            if self._elsewhere
            else tr("{what} everywhere", what=what)
            if self._everything
            else tr("{what}: {here}", what=what, here=here)
        )
        self._filter.setText(
            tr("only here") if self._everything and not self._elsewhere else tr("everything")
        )
        self._kept.setText(
            tr("back to the findings")
            if self._kept_shown
            else tr("kept on purpose: {number}", number=len(kept))
        )
        for word in (self._filter, self._kept):
            word.updateGeometry()
        inner = QWidget()
        ground = inner.palette()
        ground.setColor(ground.ColorRole.Window, self._scheme.color("sheet"))
        inner.setPalette(ground)
        inner.setAutoFillBackground(True)
        rows = QVBoxLayout(inner)
        rows.setContentsMargins(0, 10, 8, 0)
        rows.setSpacing(12)
        if self._kept_shown:
            listed, nothing = (
                [self._kept_row(one) for one in kept],
                tr("Nothing is kept on purpose. A finding that is accepted, with a reason, stands here."),
            )
        else:
            findings = list(session.checked.findings) if self._everything else session.findings()
            findings = session.elsewhere() if self._elsewhere else findings
            listed, nothing = [self._finding(one) for one in findings], tr("Nothing stands in the way.")
        self._keep_the_keys()
        self._listed = listed
        for row in listed:
            rows.addWidget(row)
        if not rows.count():
            rows.addWidget(Plain(nothing, self._scheme, "ink2", 14))
        rows.addStretch(1)
        show_page(self._scroll, inner)

    def _keep_the_keys(self) -> None:
        """Where a row that goes has the keys, the list itself takes them, where Enter does nothing."""
        focused = QApplication.focusWidget()
        at = next((at for at, row in enumerate(self._listed) if focused and row.isAncestorOf(focused)), None)
        if at is not None:
            self._left_at = at
            self.setFocus()

    def _all_kept(self) -> list[Kept]:
        session, aim = self._session, self._session.aim
        kept = kept_on_purpose(session.workspace, session.checked)
        return [one for one in kept if self._everything or (one.layer, one.app) == (aim.layer, aim.app)]

    def _kept_row(self, kept: Kept) -> QWidget:
        title = self._session.workspace.layer_title(kept.layer)
        row = KeptRow(kept, f"{title}, {kept.app.capitalize()}", self._scheme)
        row.withdrawn.connect(lambda: self._session.do(Withdraw(kept.layer, kept.app, kept.acceptance)))
        if kept.finding is not None:
            row.shown.connect(lambda finding=kept.finding: self._go(finding))
        return row

    def _finding(self, finding: Finding) -> QWidget:
        box = QWidget()
        line = QHBoxLayout(box)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(10)
        line.addWidget(Mark(finding.weight, self._scheme), 0, Qt.AlignmentFlag.AlignTop)
        column = QVBoxLayout()
        column.setSpacing(4)
        sentence = Plain(finding.sentence, self._scheme, "ink", 14)
        sentence.setWordWrap(True)
        column.addWidget(sentence)
        row = QWidget()
        flow = Flow(row, gap=6)
        if finding.layer:
            title = self._session.workspace.layer_title(finding.layer)
            where = Word(f"{title}, {finding.app.capitalize()}", self._scheme, 12)
            where.clicked.connect(lambda: self._go(finding))
            flow.addWidget(where)
            if finding.seats:
                flow.addWidget(Plain(counted(len(finding.seats), "seat"), self._scheme, "ink2", 12))
        for fix in fixes(finding, self._session.workspace, self._session.checked):
            chip = Chip(fix.label, self._scheme)
            chip.clicked.connect(lambda _=False, fix=fix, chip=chip: self._fix(finding, fix, chip, row))
            flow.addWidget(chip)
        column.addWidget(row)
        line.addLayout(column, 1)
        return box

    def _fix(self, finding: Finding, fix: Fix, chip: Chip, row: QWidget) -> None:
        if fix.asks_reason:
            self._go(finding)
        elif chip.by_mouse:
            self._resting = True
            row.setFixedHeight(row.height())  # the rows below stay where they are
            for other in row.findChildren(Chip):
                other.setEnabled(False)
                other.setVisible(other is chip)
            # In place of the button that was clicked: a line of its own would move the rows below.
            chip.setText(tr("Done: {label}", label=fix.label))
        self.fix_wanted.emit(fix)

    def _go(self, finding: Finding) -> None:
        aim = self._session.aim
        if (finding.layer, finding.app) != (aim.layer, aim.app):
            seat = seat_for(self._session.workspace, finding.layer)
            self._session.aim_at(replace(aim, layer=finding.layer, app=finding.app, seat=seat))
        self.shut()
        self.shown.emit(finding.where)

    def focusNextPrevChild(self, forward: bool) -> bool:
        at, self._left_at = self._left_at, None
        if at is not None and self._listed and QApplication.focusWidget() is self:
            return step_focus(self._listed[min(at, len(self._listed) - 1)], forward)
        return step_focus(self, forward)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() == Qt.Key.Key_Escape:
            self.shut()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(self._scheme.color("line"))
        painter.setBrush(self._scheme.color("sheet"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6)
