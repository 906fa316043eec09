"""The sheet beside the bed: why a key does what it does, its fixes, what to give it, and the best free
keys."""

from __future__ import annotations

from collections.abc import Sequence as Row

from PyQt6.QtCore import QByteArray, QMimeData, QPoint, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QDrag, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QSizePolicy, QVBoxLayout, QWidget

from rimecrest.core.explain.bed_state import Line
from rimecrest.core.mend.fix import Fix
from rimecrest.core.search import Match, Search
from rimecrest.core.suggest.free_keys import Suggestion
from rimecrest.core.words import tr
from rimecrest.shell.theme import Scheme, font
from rimecrest.studio.keys.key_cap import TARGET
from rimecrest.studio.keys.panel import ROOM, SIDE, WIDTH, Panel
from rimecrest.studio.keys.presenter import KeyFacts
from rimecrest.studio.shared.marks import SIGNS
from rimecrest.studio.shared.search_field import SearchField
from rimecrest.studio.shared.sentence_widgets import Chip, Flow, KeyCaps, Pressable, Word
from rimecrest.surfaces.why_list import YES, WhyList, wrapped


class TargetField(SearchField):
    """A field that finds a command or macro by a few letters."""

    def __init__(self, placeholder: str, scheme: Scheme, window: QWidget) -> None:
        super().__init__(placeholder, "key-candidates", 330, scheme, window)
        self._search = Search([])
        self.put.connect(self.taken)

    def offer(self, entries: Row[Match]) -> None:
        self._search = Search(entries)

    def begin(self, text: str) -> None:
        """Take the focus with the first letter typed."""
        self.setFocus()
        self.setText(text)
        self._look(text)

    def _look(self, text: str) -> None:
        if not text.strip():
            self._list.hide()
            return
        corner = self.mapTo(self._list.parentWidget(), QPoint(-330 + self.width(), self.height() + 4))
        self._list.row = 0
        self._list.offer(text, self._search.find(text, 7), corner, tag=False)


class Keyless(Pressable):
    """Something without a key: a click names it for the suggestions, dragged onto a key it gets that."""

    def __init__(self, entry: Match, scheme: Scheme) -> None:
        super().__init__(entry.title, scheme)
        self.entry = entry
        self._from: QPoint | None = None
        self.setObjectName(f"keyless-{entry.id}")
        self.setAccessibleName(f"{entry.title}: {entry.hint}")
        self.setToolTip(tr("Drag it onto a key, or click for its best free keys"))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(200, 26)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self._from = event.position().toPoint()
        super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._from is not None and (event.position().toPoint() - self._from).manhattanLength() > 8:
            self._from = None
            self.setDown(False)
            data = QMimeData()
            data.setData(TARGET, QByteArray(self.entry.id.encode()))
            drag = QDrag(self)
            drag.setMimeData(data)
            drag.setPixmap(self.grab())
            drag.exec(Qt.DropAction.CopyAction)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scheme = self._scheme
        if self.underMouse() or self.hasFocus():
            painter.setPen(scheme.color("crest" if self.hasFocus() else "line"))
            painter.setBrush(scheme.color("hover"))
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4)
        painter.setPen(scheme.color("ink"))
        painter.setFont(font(13))
        box = self.rect().adjusted(8, 0, -8, 0)
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, self.text())
        painter.setPen(scheme.color("ink2"))
        painter.setFont(font(11))
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, self.entry.hint)


class SuggestionRow(Pressable):
    """One of the best free keys; a click takes it."""

    def __init__(self, rank: int, one: Suggestion, scheme: Scheme) -> None:
        super().__init__(one.keys, scheme)
        self.setObjectName(f"suggestion-{rank}")
        said = ", ".join(one.reasons)
        self.setAccessibleName(
            tr(
                "{rank}: {keys}, {seconds:.2f} seconds: {said}",
                rank=rank,
                keys=one.keys,
                seconds=one.seconds,
                said=said,
            )
        )
        self.setToolTip(
            tr(
                "{seconds:.2f} s = {reach:.2f} reach + {modifiers:.2f} modifiers + {slips:.2f} "
                "slips − {memory:.2f} memory",
                seconds=one.seconds,
                reach=one.reach,
                modifiers=one.modifiers,
                slips=one.slips,
                memory=one.memory,
            )
        )
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)
        row = QHBoxLayout(self)
        row.setContentsMargins(6, 4, 6, 4)
        row.setSpacing(8)
        number = wrapped(str(rank), scheme, "crest", 13, strong=True)
        number.setFixedWidth(16)
        row.addWidget(number, 0, Qt.AlignmentFlag.AlignTop)
        right = QVBoxLayout()
        right.setSpacing(2)
        caps = KeyCaps(one.keys, scheme)
        right.addWidget(caps)
        words = wrapped(" · ".join(one.reasons), scheme, "ink2", 12)
        words.setFixedHeight(words.heightForWidth(ROOM - 36))
        right.addWidget(words)
        self.setFixedHeight(words.height() + 34)
        row.addLayout(right, 1)
        for child in self.findChildren(QWidget):
            child.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)

    def sizeHint(self) -> QSize:
        return QSize(WIDTH - 2 * SIDE, self.height())

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        if self.underMouse() or self.hasFocus():
            painter = QPainter(self)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setPen(self._scheme.color("crest" if self.hasFocus() else "line"))
            painter.setBrush(self._scheme.color("hover"))
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4)


class KeySheet(Panel):
    """What there is to say about the key at the fore.

    Signals:
        fix_wanted(fix), give_wanted(entry): give the key at the fore to it; suggest_wanted(entry): paint its
        best free keys; key_wanted(keys): take one of them; takes_off: take the key at the fore away.
    """

    fix_wanted = pyqtSignal(Fix)
    give_wanted = pyqtSignal(Match)
    suggest_wanted = pyqtSignal(Match)
    key_wanted = pyqtSignal(str)
    takes_off = pyqtSignal()
    variants_wanted = pyqtSignal(Word)
    """The word under which the choices are to open."""
    left = pyqtSignal()

    def __init__(self, scheme: Scheme, window: QWidget) -> None:
        super().__init__("key-sheet", scheme)
        self.give = TargetField(tr("Give it to …"), scheme, window)
        self.give.setObjectName("give-key")
        self.give.taken.connect(self.give_wanted)
        self.give.left.connect(self.left)
        self.item = TargetField(tr("Suggest keys for …"), scheme, window)
        self.item.setObjectName("suggest-for")
        self.item.taken.connect(self.suggest_wanted)
        self.item.left.connect(self.left)

    def offer(self, entries: Row[Match]) -> None:
        """What can be found in the fields."""
        self.give.offer(entries)
        self.item.offer(entries)

    def clear(self) -> None:
        for field in (self.give, self.item):
            # These two stay, with what is being typed in them.
            field.setParent(self)
            field.hide()
        super().clear()

    def _say(self, text: str, ink: str = "ink", pixels: int = 13, strong: bool = False) -> None:
        label = wrapped(text, self._scheme, ink, pixels, strong)
        label.setFixedHeight(label.heightForWidth(ROOM))
        self._rows.addWidget(label)

    def _rule(self) -> None:
        line = QWidget()
        line.setFixedHeight(1)
        line.setAutoFillBackground(True)
        colours = line.palette()
        colours.setColor(colours.ColorRole.Window, self._scheme.color("line"))
        line.setPalette(colours)
        self._rows.addWidget(line)

    def show_key(self, facts: KeyFacts) -> None:
        """The upper part: a key, why, and what can be done."""
        self._say(tr("Why does it do that?"), "ink2", 12)
        self._say(facts.keys, strong=True, pixels=18)
        self._say(facts.where, "ink2", 12)
        if facts.links:
            chain = WhyList(self._scheme)
            chain.setObjectName("why-chain")
            chain.show_links(facts.links)
            self._rows.addWidget(chain)
        for line in facts.lines:
            self._line(line)
        if facts.fixes:
            chips = QWidget()
            flow = Flow(chips)
            for number, fix in enumerate(facts.fixes, 1):
                chip = Chip(fix.label, self._scheme)
                chip.setObjectName(f"key-fix-{number}")
                chip.clicked.connect(lambda _=False, fix=fix: self.fix_wanted.emit(fix))
                flow.addWidget(chip)
            self._rows.addWidget(chips)
        self._rows.addWidget(self.give)
        self.give.show()
        if facts.variants is not None:
            if facts.variants:
                self._say(facts.variants, "ink2", 12)
            other = Word(tr("Another key for some seats"), self._scheme, 12)
            other.setObjectName("variants")
            other.clicked.connect(lambda: self.variants_wanted.emit(other))
            self._rows.addWidget(other)
        if facts.taken:
            off = Word(tr("Remove the key"), self._scheme, 12)
            off.setObjectName("take-key")
            off.clicked.connect(self.takes_off)
            self._rows.addWidget(off)

    def _line(self, line: Line) -> None:
        row = QWidget()
        columns = QHBoxLayout(row)
        columns.setContentsMargins(0, 0, 0, 0)
        columns.setSpacing(8)
        sign = SIGNS[line.weight] if line.weight else YES
        mark = wrapped(sign, self._scheme, line.weight.value if line.weight else "good", 13, strong=True)
        mark.setFixedWidth(14)
        words = wrapped(line.sentence, self._scheme, "ink", 13, strong=line.weight is not None)
        words.setAccessibleName(f"{line.weight.word if line.weight else 'good'}: {line.sentence}")
        words.setFixedHeight(words.heightForWidth(ROOM - 22))
        words.setAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop)
        columns.addWidget(mark, 0, Qt.AlignmentFlag.AlignTop)
        columns.addWidget(words, 1)
        self._rows.addWidget(row)

    def show_suggestions(self, name: str, found: Row[Suggestion]) -> None:
        """The lower part: the best free keys for something."""
        self._rule()
        if not name:
            self._say(tr("Best free keys"), strong=True)
            self._rows.addWidget(self.item)
            self.item.show()
            return
        self._say(tr("Best free keys for {name}", name=name), strong=True)
        if not found:
            self._say(tr("There is no free key left that all these seats can press."), "asks")
        for rank, one in enumerate(found, 1):
            row = SuggestionRow(rank, one, self._scheme)
            row.clicked.connect(lambda _=False, keys=one.keys: self.key_wanted.emit(keys))
            self._rows.addWidget(row)
        self._rows.addWidget(self.item)
        self.item.show()

    def show_keyless(self, entries: Row[Match]) -> None:
        """What has no key yet, most used first."""
        self._rule()
        self._say(tr("Without a key"), strong=True)
        for entry in entries:
            row = Keyless(entry, self._scheme)
            row.clicked.connect(lambda _=False, entry=entry: self.suggest_wanted.emit(entry))
            self._rows.addWidget(row)
        if not entries:
            self._say(tr("Everything that is used has a key."), "ink2")

    def say(self, text: str) -> None:
        """A plain sentence."""
        self._say(text, "ink2")
