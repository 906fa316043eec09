"""The colleague's window but its document, laid out: tabs, bars at four edges, news, the status line."""

from __future__ import annotations

from collections.abc import Iterator

from PyQt6.QtCore import QPoint, QRect, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QHideEvent, QPainter, QPaintEvent, QResizeEvent, QShowEvent
from PyQt6.QtWidgets import QApplication, QHBoxLayout, QLabel, QSizePolicy, QVBoxLayout, QWidget

from rimecrest.core.catalogue.surfaces import AFLOAT, Edge
from rimecrest.core.layout.seen import Outcome, SeenButton, SeenTab, SeenToolbar
from rimecrest.shell.theme import Scheme, font, palette
from rimecrest.surfaces.bar import Bar
from rimecrest.surfaces.bar_lines import Line, fix_thickness, lines_of
from rimecrest.surfaces.button import ItemButton
from rimecrest.surfaces.floating import FloatingSheet
from rimecrest.surfaces.open_panels import OpenPanels
from rimecrest.surfaces.open_sheets import OpenSheets
from rimecrest.surfaces.painting import Painting
from rimecrest.surfaces.panel import PanelItem
from rimecrest.surfaces.panel_switches import PanelSwitches
from rimecrest.surfaces.removal import drop
from rimecrest.surfaces.rest_sheet import Rest
from rimecrest.surfaces.ribbon import Page
from rimecrest.surfaces.seat_keys import KeySeat, working_keys
from rimecrest.surfaces.tab_strip import TabStrip
from rimecrest.surfaces.tool_windows import ToolWindows

LEAST_CENTRE = QSize(80, 60)
"""Pixels of the document at least, however many panels stand around it."""


class LaidFrame(QWidget):
    """Draws an outcome around a document; `Frame` also knows where everything in it is.

    `triggered` carries the identity of the item that was clicked, `asked` the item that was right-clicked and
    where on the screen; `happened` a control of a panel and an event; `left`: Escape in a field; `turned` a
    panel and whether it is open; `bar_asked` a bar or panel that was right-clicked and where on the screen;
    `bar_dropped` a floating one, where its head was let go, and where its corner is. Nothing in here takes
    the focus but the fields of panels.
    """

    triggered = pyqtSignal(str)
    tab_changed = pyqtSignal(str)
    asked = pyqtSignal(SeenButton, QPoint)
    happened = pyqtSignal(str, str)
    left = pyqtSignal()
    turned = pyqtSignal(str, bool)
    bar_asked = pyqtSignal(str, QPoint)
    bar_dropped = pyqtSignal(str, QPoint, QPoint)

    def __init__(
        self, painting: Painting, centre: QWidget, parent: QWidget | None = None, outside: bool = False
    ) -> None:
        """`outside`: what stands in a window of its own is in one; else it floats over the document."""
        super().__init__(parent)
        self.painting = painting
        self.outcome: Outcome | None = None
        self.seat: KeySeat | None = None
        self.open_tab = ""
        self._drawn_with: tuple[Scheme, int] | None = None
        self._tabs: TabStrip | None = None
        self._page: Page | None = None
        self._bars: list[Bar] = []
        self._lines: list[QWidget] = []
        """What stands in the layouts at the edges: bars, and lines of several."""
        self._floating: list[FloatingSheet] = []
        self._centre = centre
        centre.setMinimumSize(LEAST_CENTRE)
        self.windows = ToolWindows(self, centre) if outside else None
        if self.windows is not None:
            self.windows.closed.connect(self._window_closed)
        self.sheets = OpenSheets(self, painting, self.centre_rect, self.rests)
        self.panels = OpenPanels(self, painting, self.windows)
        self._connect_panels()
        self._rows = QVBoxLayout(self)
        self._rows.setContentsMargins(0, 0, 0, 0)
        self._rows.setSpacing(0)
        self._middle = QHBoxLayout()
        self._middle.setSpacing(0)
        self._middle.addWidget(centre, 1)
        self.news = QWidget(self)
        self.news.hide()
        self.status = QLabel(self)
        self.status.setTextFormat(Qt.TextFormat.PlainText)
        self.status.setContentsMargins(12, 0, 12, 0)
        self.status.setFixedHeight(26)
        self.status.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self._switches = PanelSwitches(self)
        self._switches.turned.connect(self.turn_panel)
        foot = QHBoxLayout()
        foot.setContentsMargins(0, 0, 0, 0)
        foot.setSpacing(0)
        foot.addWidget(self.status, 1)
        foot.addWidget(self._switches)
        self._rows.addLayout(self._middle, 1)
        self._rows.addLayout(foot)
        self.restyle()

    def _connect_panels(self) -> None:
        panels = self.panels
        panels.triggered.connect(self._back_to_document)
        panels.triggered.connect(self.triggered)
        panels.happened.connect(self.happened)
        panels.left.connect(self._back_to_document)
        panels.left.connect(self.left)
        panels.asked.connect(self.bar_asked)
        panels.dropped.connect(self._dropped)

    def restyle(self) -> None:
        """Take over the scheme of the painting."""
        self.setPalette(palette(self.painting.scheme))
        self.setFont(font(13))
        self.status.setFont(font(12))
        if self.outcome is not None:
            assert self.seat is not None
            self.show_outcome(self.outcome, self.seat)

    def set_news(self, widget: QWidget) -> None:
        """The widget that stands under the bars when there is news."""
        self.news = widget
        widget.setParent(self)

    def show_outcome(self, outcome: Outcome, seat: KeySeat) -> None:
        """Draw another outcome. The document keeps its focus and its cursor.

        `seat` is where it is drawn for: only keys that work there are shown.
        """
        same_keys = (
            self.outcome is not None and self.outcome.bindings == outcome.bindings and seat == self.seat
        )
        self.outcome = outcome
        self.seat = seat
        if not same_keys:
            self.painting.all_keys = working_keys(outcome, seat)
            self.painting.keys = {target: keys[0] for target, keys in self.painting.all_keys.items()}
        same_look = self._drawn_as_now()
        standing = self._take_down(outcome, same_look)
        self._put_up_tabs(outcome.tabs, same_look)
        self._bars = [
            next((bar for bar in standing if bar.surface == surface), None) or self._make_bar(surface)
            for surface in outcome.toolbars
        ]
        top = self._put_at_edges()
        self.panels.put_up(self._rows, self._middle, self._centre)
        self._switches.show_panels(outcome.panels, frozenset(self.panels.shut))
        self._rows.insertWidget(top, self.news)
        # A layout leaves hidden widgets out, and new ones are hidden until the event loop comes round.
        for shown in (*self._lines, *self._bars, *self._floating):
            shown.show()
        self._show_page()
        self.sheets.show_menus(outcome.menus)
        self.sheets.show_rest()
        self._place_floating()
        for widget in self.buttons():
            if isinstance(widget, ItemButton):
                widget.setToolTip(self.painting.tooltip(widget.item))

    def _take_down(self, outcome: Outcome, same_look: bool) -> list[Bar]:
        """Take what stands out of the layouts; the bars that the outcome has as they are."""
        standing = [bar for bar in self._bars if same_look and bar.surface in outcome.toolbars]
        for line in self._lines:
            self._rows.removeWidget(line)
            self._middle.removeWidget(line)
        for bar in self._bars:
            if bar in standing:
                bar.setParent(self)
            else:
                drop(bar)
        self.panels.take_down(outcome, self._rows, self._middle, same_look)
        for holder in (*self._lines, *self._floating):
            if not isinstance(holder, Bar):
                drop(holder)
        self._rows.removeWidget(self.news)
        return standing

    def _put_up_tabs(self, tabs: tuple[SeenTab, ...], same_look: bool) -> None:
        """The names of the tabs at the top; the page that is open goes, where it is another."""
        names = [tab.id for tab in tabs]
        if self.open_tab not in names:
            self.open_tab = names[0] if names else ""
        if self._tabs is None or not same_look or _names(self._tabs.tabs) != _names(tabs):
            if self._tabs is not None:
                drop(self._tabs)
            self._tabs = TabStrip(tabs, self.painting, self)
            self._tabs.chosen.connect(self.choose_tab)
        else:
            self._rows.removeWidget(self._tabs)
        if self._page is not None:
            self._rows.removeWidget(self._page)
            if not same_look:
                drop(self._page)
                self._page = None
        self._rows.insertWidget(0, self._tabs)
        self._tabs.show()

    def _put_at_edges(self) -> int:
        """Put each bar where it stands. Returns the place in the rows behind those at the top."""
        self._lines = []
        top, at_left, at_right, bottom = 1, 0, 0, 0
        for bars in lines_of(self._bars):
            line: QWidget = bars[0] if len(bars) == 1 else Line(bars, self)
            edge = bars[0].surface.edge
            if len(bars) == 1:
                hint = bars[0].sizeHint()
                fix_thickness(bars[0], hint.width() if bars[0].upright else hint.height())
            if edge == "left":
                self._middle.insertWidget(at_left, line)
                at_left += 1
            elif edge == "right":
                self._middle.insertWidget(self._middle.count() - at_right, line)
                at_right += 1
            elif edge == "top":
                self._rows.insertWidget(top, line)
                top += 1
            else:
                self._rows.insertWidget(self._rows.count() - 1 - bottom, line)
                bottom += 1
            self._lines.append(line)
        afloat = [bar for bar in self._bars if bar.surface.edge in AFLOAT]
        self._floating = [self._afloat(bar) for bar in afloat]
        return top

    def _afloat(self, bar: Bar) -> FloatingSheet:
        sheet = FloatingSheet(bar, self.painting, self)
        sheet.dropped.connect(lambda point: self._dropped(bar.surface.id, sheet, point))
        if self.windows is not None and bar.surface.edge == "window":
            self.windows.hold(bar.surface.id, sheet, bar.surface.at, types=False)
        return sheet

    def _dropped(self, thing: str, view: QWidget, point: QPoint) -> None:
        """A head was let go at a point of the screen."""
        corner = view.mapToGlobal(QPoint(0, 0)) - self._centre.mapToGlobal(QPoint(0, 0))
        self.bar_dropped.emit(thing, self.mapFromGlobal(point), corner)

    def _back_to_document(self) -> None:
        """The keys go on in the window of the document."""
        if self.windows is not None and QApplication.activeWindow() is not self.window():
            self.activateWindow()

    def _window_closed(self, thing: str) -> None:
        if thing in [view.panel.id for view in self.panels.views]:
            self.turn_panel(thing)

    def _in_window(self, edge: Edge) -> bool:
        return edge == "window" and self.windows is not None

    def _place_floating(self) -> None:
        for sheet in self._floating:
            if not self._in_window(sheet.bar.surface.edge):
                sheet.place(self._centre.geometry())
        self.panels.float_in(self._centre.geometry())
        if self.windows is not None:
            shown = [sheet.bar.surface for sheet in self._floating] + [
                view.panel for view in self.panels.views
            ]
            self.windows.keep({thing.id for thing in shown if thing.edge == "window"})
            self.windows.place()

    def turn_panel(self, panel: str) -> None:
        """Show a panel, or hide it."""
        self.panels.shut ^= {panel}
        if self.outcome is not None and self.seat is not None:
            self.show_outcome(self.outcome, self.seat)
        self.turned.emit(panel, panel not in self.panels.shut)

    def press_access(self, letter: str) -> bool:
        """Press the item that Alt reaches by a letter. Returns whether there is one."""
        for widget in self.buttons():
            if isinstance(widget, ItemButton) and widget.item.access.upper() == letter:
                self.triggered.emit(widget.item.id)
                return True
        return False

    def buttons(self) -> Iterator[PanelItem]:
        """The widgets of all items that show now."""
        for bar in self._bars:
            yield from (widget for widget in bar.widgets if not widget.isHidden())
        if self._page is not None:
            for group in self._page.groups:
                yield from (widget for widget in group.widgets if not widget.isHidden())
        for view in self.panels.views:
            yield from view.widgets
        for sheet in self.sheets.all:
            yield from sheet.widgets

    def centre_rect(self) -> QRect:
        """Where the document is."""
        return self._centre.geometry()

    def rests(self) -> list[Rest]:
        """What is behind » and in folded groups at this width."""
        found = [rest for bar in self._bars if (rest := bar.rest(self)) is not None]
        return found + (self._page.rests(self) if self._page is not None else [])

    def _drawn_as_now(self) -> bool:
        """Whether what stands there was drawn with the colours and pictures of now: then it can stay."""
        now = self.painting.scheme, self.painting.pictures.edition
        same, self._drawn_with = now == self._drawn_with, now
        return same

    def _make_bar(self, surface: SeenToolbar) -> Bar:
        bar = Bar(surface, self.painting, self)
        bar.triggered.connect(self.triggered)
        bar.asked.connect(lambda point: self.bar_asked.emit(surface.id, point))
        return bar

    def _show_page(self) -> None:
        assert self.outcome is not None
        assert self._tabs is not None
        tab = next((tab for tab in self.outcome.tabs if tab.id == self.open_tab), None)
        if self._page is not None and self._page.tab != tab:
            drop(self._page)
            self._page = None
        if tab is None:
            self.settle()
            return
        self._tabs.mark(tab.id)
        if self._page is None:
            self._page = Page(tab, self.painting, self)
            self._page.triggered.connect(self.triggered)
        self._rows.insertWidget(1, self._page)
        self._page.show()
        self.settle()

    def choose_tab(self, tab: str) -> None:
        """Open a tab by its identity."""
        if self.outcome is None or tab == self.open_tab:
            if self._tabs is not None:
                self._tabs.mark(self.open_tab)
            return
        if tab in [known.id for known in self.outcome.tabs]:
            self.open_tab = tab
            self._show_page()
            self.sheets.show_rest()
            self.tab_changed.emit(tab)

    def settle(self) -> None:
        """Have everything in its place now, also while nothing is on the screen yet."""
        self._rows.activate()
        for line in self._lines:
            if (inner := line.layout()) is not None:
                inner.activate()
        if self._tabs is not None:
            self._tabs.arrange()
        for bar in self._bars:
            bar.arrange()
        self._place_floating()
        if self._page is not None:
            self._page.arrange()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.panels.limit()
        self._rows.activate()
        self._place_floating()

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        if self.windows is not None:
            self.windows.place()

    def hideEvent(self, event: QHideEvent | None) -> None:
        super().hideEvent(event)
        if self.windows is not None:
            self.windows.place()

    def say(self, sentence: str) -> None:
        """Show a sentence in the status line."""
        self.status.setText(sentence)
        self.status.setToolTip(sentence)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.painting.scheme.color("paper"))
        painter.setPen(self.painting.scheme.color("line"))
        line = self.status.geometry().top()
        painter.drawLine(0, line, self.width(), line)


def _names(tabs: tuple[SeenTab, ...]) -> list[tuple[str, str, str]]:
    return [(tab.id, tab.title, tab.picture) for tab in tabs]
