"""The colleague's window but its document: tabs, bars at four edges, the line of news, the status line."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from PyQt6.QtCore import QPoint, QRect, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QContextMenuEvent, QHideEvent, QPainter, QPaintEvent, QResizeEvent, QShowEvent
from PyQt6.QtWidgets import QApplication, QHBoxLayout, QLabel, QSizePolicy, QVBoxLayout, QWidget

from rimecrest.core.catalogue.surfaces import AFLOAT, Edge
from rimecrest.core.keys import NOWHERE, Contexts, Traits, format_sequence, working
from rimecrest.core.keys.obstacles import Obstacles
from rimecrest.core.layout import Outcome, SeenButton, SeenMenu, SeenSubmenu, SeenTab, SeenToolbar
from rimecrest.shell.theme import Scheme, font, palette
from rimecrest.surfaces.bar import Bar
from rimecrest.surfaces.bar_lines import Line, fix_thickness, lines_of
from rimecrest.surfaces.button import ItemButton
from rimecrest.surfaces.floating import FloatingSheet
from rimecrest.surfaces.insertion_points import InsertionPoint
from rimecrest.surfaces.menu_sheet import SIDE, MenuSheet
from rimecrest.surfaces.painting import Painting, Target
from rimecrest.surfaces.panel import PanelItem, PanelView
from rimecrest.surfaces.panel_controls import Choices
from rimecrest.surfaces.panel_switches import PanelSwitches
from rimecrest.surfaces.rest_sheet import Rest, RestSheet
from rimecrest.surfaces.ribbon import Page
from rimecrest.surfaces.tab_strip import TabStrip
from rimecrest.surfaces.tool_windows import ToolWindows

LEAST_CENTRE = QSize(80, 60)
"""Pixels of the document at least, however many panels stand around it."""


LEFT_FREE = QSize(240, 320)
"""Pixels across and down that panels leave to the document and to what else stands around it."""


class Frame(QWidget):
    """Draws an outcome around a document.

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
        self._panels: list[PanelView] = []
        self._values: dict[str, str] = {}
        """What stands in the controls of panels, by identity."""
        self.shut: set[str] = set()
        """The panels that do not show now."""
        self._met: set[str] = set()
        """The panels whose first state is settled."""
        self.choices: Choices = _no_choices
        """Where the entries of choices come from that a reading tells."""
        self._sheets: list[MenuSheet] = []
        """The menu that stays open, and the submenus that are open from it."""
        self._inner = ""
        self._pinned: tuple[str, QPoint] | None = None
        """The menu that stays open over the document, and where."""
        self._rest: RestSheet | None = None
        self._rest_of = ""
        """The bar, group or tab whose rest stays open."""
        self._centre = centre
        centre.setMinimumSize(LEAST_CENTRE)
        self.windows = ToolWindows(self, centre) if outside else None
        if self.windows is not None:
            self.windows.asked.connect(self._ask_at)
            self.windows.closed.connect(self._window_closed)
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
            self.painting.keys = best_keys(outcome, seat)
        same = self._drawn_as_now()
        standing = [bar for bar in self._bars if same and bar.surface in outcome.toolbars]
        for line in self._lines:
            self._rows.removeWidget(line)
            self._middle.removeWidget(line)
        for bar in self._bars:
            if bar in standing:
                bar.setParent(self)
            else:
                _drop(bar)
        self.panel_values()  # kept before any of them goes
        for view in self._panels:
            self._rows.removeWidget(view)
            self._middle.removeWidget(view)
            if not same or view.panel not in outcome.panels or view.panel.id in self.shut:
                _drop(view)
        for holder in (*self._lines, *self._floating):
            if not isinstance(holder, Bar):
                _drop(holder)
        self._rows.removeWidget(self.news)
        names = [tab.id for tab in outcome.tabs]
        if self.open_tab not in names:
            self.open_tab = names[0] if names else ""
        if self._tabs is None or not same or _names(self._tabs.tabs) != _names(outcome.tabs):
            if self._tabs is not None:
                _drop(self._tabs)
            self._tabs = TabStrip(outcome.tabs, self.painting, self)
            self._tabs.chosen.connect(self.choose_tab)
        else:
            self._rows.removeWidget(self._tabs)
        tab = next((tab for tab in outcome.tabs if tab.id == self.open_tab), None)
        if self._page is not None:
            self._rows.removeWidget(self._page)
            if not same or self._page.tab != tab:
                _drop(self._page)
                self._page = None
        self._rows.insertWidget(0, self._tabs)
        self._bars = [
            next((bar for bar in standing if bar.surface == surface), None) or self._make_bar(surface)
            for surface in outcome.toolbars
        ]
        top = self._put_at_edges()
        self._put_panels(self.panel_values())
        self._rows.insertWidget(top, self.news)
        # A layout leaves hidden widgets out, and new ones are hidden until the event loop comes round.
        for shown in (self._tabs, *self._lines, *self._bars, *self._floating):
            shown.show()
        self._show_page()
        self._show_menu()
        if self._rest_of:
            self._show_rest()
        self._place_floating()
        for widget in self.buttons():
            if isinstance(widget, ItemButton):
                widget.setToolTip(self.painting.tooltip(widget.item))

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

    def _put_panels(self, values: dict[str, str]) -> None:
        """Put the open panels beside the document, inside the bars. What was written in them stays."""
        assert self.outcome is not None
        for panel in self.outcome.panels:
            if panel.id not in self._met:
                self._met.add(panel.id)
                if not panel.shown:
                    self.shut.add(panel.id)
        standing = [view for view in self._panels if view.parentWidget() is not None]
        self._panels = []
        place = self._middle.indexOf(self._centre)
        row = self._rows.indexOf(self._middle)
        for panel in self.outcome.panels:
            if panel.id in self.shut:
                continue
            view = next((known for known in standing if known.panel == panel), None)
            if view is None:
                view = PanelView(panel, self.painting, self.choices, self)
                view.put_values(values)
                view.triggered.connect(self._back_to_document)
                view.triggered.connect(self.triggered)
                view.happened.connect(self.happened)
                view.left.connect(self._back_to_document)
                view.left.connect(self.left)
                view.asked.connect(lambda point, name=panel.id: self.bar_asked.emit(name, point))
                view.dropped.connect(lambda point, view=view: self._dropped(view.panel.id, view, point))
            self._panels.append(view)
            if panel.edge == "left":
                self._middle.insertWidget(place, view)
                place += 1
            elif panel.edge == "right":
                self._middle.insertWidget(place + 1, view)
            elif panel.edge == "top":
                self._rows.insertWidget(row, view)
                row += 1
            elif panel.edge == "bottom":
                self._rows.insertWidget(row + 1, view)
            elif panel.edge == "window" and self.windows is not None:
                self.windows.hold(panel.id, view, panel.at, view.types())
            view.show()
        self._limit_panels()
        self._switches.show_panels(self.outcome.panels, frozenset(self.shut))

    def _dropped(self, thing: str, view: QWidget, point: QPoint) -> None:
        """A head was let go at a point of the screen."""
        corner = view.mapToGlobal(QPoint(0, 0)) - self._centre.mapToGlobal(QPoint(0, 0))
        self.bar_dropped.emit(thing, self.mapFromGlobal(point), corner)

    def _back_to_document(self) -> None:
        """The keys go on in the window of the document."""
        if self.windows is not None and QApplication.activeWindow() is not self.window():
            self.activateWindow()

    def _window_closed(self, thing: str) -> None:
        if thing in [view.panel.id for view in self._panels]:
            self.turn_panel(thing)

    def _in_window(self, edge: Edge) -> bool:
        return edge == "window" and self.windows is not None

    def _place_floating(self) -> None:
        for sheet in self._floating:
            if not self._in_window(sheet.bar.surface.edge):
                sheet.place(self._centre.geometry())
        for view in self._panels:
            if view.panel.edge in AFLOAT and not self._in_window(view.panel.edge):
                view.float_in(self._centre.geometry())
        if self.windows is not None:
            shown = [sheet.bar.surface for sheet in self._floating] + [view.panel for view in self._panels]
            self.windows.keep({thing.id for thing in shown if thing.edge == "window"})
            self.windows.place()

    def _limit_panels(self) -> None:
        """However many panels there are and however large: most of the window is the document's."""
        beside = sum(1 for view in self._panels if view.panel.edge in ("left", "right"))
        stacked = sum(1 for view in self._panels if view.panel.edge in ("top", "bottom"))
        across = (self.width() - LEFT_FREE.width()) // max(beside, 1)
        down = (self.height() - LEFT_FREE.height()) // max(stacked, 1)
        for view in self._panels:
            view.give_way(across, down)

    def box_of_widget(self, widget: QWidget) -> QRect:
        """Where an item is seen, in the frame's pixels; what is scrolled out of its panel is not."""
        box = QRect(self._spot(widget), widget.size())
        view = next((view for view in self._panels if view.isAncestorOf(widget)), None)
        return box if view is None else box.intersected(view.seen(self))

    def remember_panels(self, known: dict[str, bool]) -> None:
        """Which panels are open, as it was left; others are as their layout says."""
        self._met |= set(known)
        self.shut |= {name for name, is_open in known.items() if not is_open}

    def turn_panel(self, panel: str) -> None:
        """Show a panel, or hide it."""
        self.shut ^= {panel}
        if self.outcome is not None and self.seat is not None:
            self.show_outcome(self.outcome, self.seat)
        self.turned.emit(panel, panel not in self.shut)

    def panel_values(self) -> dict[str, str]:
        """Identity → what stands in each control that was seen and is still there, also on shut panels."""
        for view in self._panels:
            self._values.update(view.values())
        seen = self.outcome
        return {name: value for name, value in self._values.items() if seen is not None and seen.item(name)}

    def put_panel_values(self, values: Mapping[str, str]) -> None:
        """Write values into controls, of open and shut panels, without anything happening on that.

        A control that is not named keeps its value.
        """
        self.panel_values()
        self._values.update(values)
        for view in self._panels:
            view.put_values(self._values)

    def refill_panels(self) -> None:
        """Have the choices and lists of the open panels show the entries that there are now."""
        for view in self._panels:
            view.refill()

    def panel_view(self, panel: str) -> PanelView | None:
        """An open panel by its identity."""
        return next((view for view in self._panels if view.panel.id == panel), None)

    def panel_heads(self) -> list[tuple[str, QRect]]:
        """The open panels with the places of their names."""
        return [
            (view.panel.id, view.head().translated(view.mapTo(self, QPoint(0, 0)))) for view in self._panels
        ]

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
            _drop(self._page)
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

    def pin_menu(self, menu: str, at: QPoint) -> None:
        """Have a right-click menu stay open at a place of the frame; an empty name closes it."""
        self._pinned = (menu, at) if menu else None
        self._show_menu()

    @property
    def pinned_menu(self) -> str:
        """The menu that stays open; empty when none does."""
        return self._pinned[0] if self._pinned else ""

    def open_submenu(self, menu: str) -> None:
        """Have a submenu of the pinned menu stay open as well, with those between; "" closes them."""
        if menu != self._inner:
            self._inner = menu
            self._show_menu()

    def _show_menu(self) -> None:
        for sheet in self._sheets:
            _drop(sheet)
        self._sheets = []
        if self._pinned is None or self.outcome is None:
            return
        name, at = self._pinned
        menu = next((menu for menu in self.outcome.menus if menu.id == name), None)
        for shown in _way_to(menu, self._inner) if menu is not None else ():
            sheet = MenuSheet(shown, self.painting, self)
            row = next((w for s in self._sheets for w in s.widgets if w.item.id == shown.id), None)
            if row is not None:
                at = row.mapTo(self, QPoint(self._sheets[-1].width() - 2 * SIDE, 0))
            ground = self._centre.geometry()
            left = max(ground.left(), min(at.x(), ground.right() - sheet.width()))
            top = max(0, min(at.y(), self.height() - sheet.height()))
            sheet.move(left, top)
            sheet.show()
            sheet.raise_()
            self._sheets.append(sheet)

    def rests(self) -> list[Rest]:
        """What is behind » and in folded groups at this width."""
        found = [rest for bar in self._bars if (rest := bar.rest(self)) is not None]
        return found + (self._page.rests(self) if self._page is not None else [])

    def rest_with(self, identity: str) -> str:
        """The bar, group or tab that has no room for an item; empty where it shows."""
        held = (rest.holder for rest in self.rests() if any(item.id == identity for item in rest.items))
        return next(held, "")

    def open_rest(self, holder: str) -> None:
        """Have what a bar, group or tab has no room for stay open; an empty name closes it."""
        self._rest_of = holder
        self._show_rest()

    @property
    def open_holder(self) -> str:
        """The bar, group or tab whose rest is open; empty when none is."""
        return self._rest_of if self._rest is not None else ""

    def _show_rest(self) -> None:
        if self._rest is not None:
            _drop(self._rest)
            self._rest = None
        rest = next((rest for rest in self.rests() if rest.holder == self._rest_of), None)
        if rest is None:
            return
        self._rest = RestSheet(rest, self.painting, self)
        left = max(0, min(rest.at.left(), self.width() - self._rest.width()))
        top = max(0, min(rest.at.bottom() + 2, self.height() - self._rest.height()))
        self._rest.move(left, top)
        self._rest.show()
        self._rest.raise_()

    def choose_tab(self, tab: str) -> None:
        """Open a tab by its identity."""
        if self.outcome is None or tab == self.open_tab:
            if self._tabs is not None:
                self._tabs.mark(self.open_tab)
            return
        if tab in [known.id for known in self.outcome.tabs]:
            self.open_tab = tab
            self._show_page()
            self._show_rest()
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
        self._limit_panels()
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

    # What the studio and the link ask: where things are.

    def buttons(self) -> Iterator[PanelItem]:
        """The widgets of all items that show now."""
        for bar in self._bars:
            yield from (widget for widget in bar.widgets if not widget.isHidden())
        if self._page is not None:
            for group in self._page.groups:
                yield from (widget for widget in group.widgets if not widget.isHidden())
        for view in self._panels:
            yield from view.widgets
        for sheet in (*self._sheets, *((self._rest,) if self._rest is not None else ())):
            yield from sheet.widgets

    def button(self, identity: str) -> PanelItem | None:
        return next((widget for widget in self.buttons() if widget.item.id == identity), None)

    def rect_of(self, identity: str) -> QRect | None:
        """Where an item, group, bar or tab name is, in the frame's pixels.

        An item for which there is no room is where it can be opened.
        """
        widget: QWidget | None = self.button(identity)
        if widget is None and self._tabs is not None:
            widget = next((name for name in self._tabs.seen() if name.tab.id == identity), None)
        if widget is None:
            widget = next((bar for bar in self._bars if bar.surface.id == identity), None)
        if widget is None:
            widget = next((view for view in self._panels if view.panel.id == identity), None)
        if widget is None:
            widget = next((sheet for sheet in self._sheets if sheet.menu.id == identity), None)
        if widget is not None:
            return QRect(self._spot(widget), widget.size())
        if self._page is not None:
            for group in self._page.groups:
                if group.group.id == identity:
                    return group.box.translated(self._page.mapTo(self, QPoint(0, 0)))
        return self._holder_of(identity)

    def _spot(self, widget: QWidget) -> QPoint:
        """Where a widget begins, in the frame's pixels, also one in a window of its own."""
        return self.mapFromGlobal(widget.mapToGlobal(QPoint(0, 0)))

    def _holder_of(self, identity: str) -> QRect | None:
        """Where to open to see an item for which there is no room: the » of its bar, or its folded group."""
        for bar in self._bars:
            if (box := bar.more_for(identity)) is not None:
                return box.translated(self._spot(bar))
        if self._page is not None and (box := self._page.holder_of(identity)) is not None:
            return box.translated(self._page.mapTo(self, QPoint(0, 0)))
        return None

    def centre_rect(self) -> QRect:
        """Where the document is."""
        return self._centre.geometry()

    def bar_rects(self) -> list[tuple[str, QRect]]:
        """The bars with their places."""
        return [
            (bar.surface.id, QRect(self._spot(bar), bar.size()))
            for bar in self._bars
            if bar.isVisibleTo(self)
        ]

    def floating_heads(self) -> list[tuple[str, QRect]]:
        """The floating bars with the places of their names."""
        return [
            (sheet.bar.surface.id, sheet.head().translated(self._spot(sheet))) for sheet in self._floating
        ]

    def menu_rects(self) -> list[tuple[str, QRect]]:
        """The menu that stays open and the submenus that are open from it, with their places."""
        return [(sheet.menu.id, sheet.geometry()) for sheet in self._sheets]

    def strip_rect(self) -> QRect:
        """Where the tabs' names stand."""
        return self._tabs.geometry() if self._tabs is not None else QRect()

    def spare(self, bar: str) -> int:
        """Pixels along a bar that nothing takes."""
        return next((known.spare() for known in self._bars if known.surface.id == bar), 0)

    def tab_rects(self) -> list[tuple[str, QRect]]:
        if self._tabs is None:
            return []
        names = self._tabs.seen()
        return [(name.tab.id, QRect(name.mapTo(self, QPoint(0, 0)), name.size())) for name in names]

    def group_rects(self) -> list[tuple[str, QRect]]:
        """Groups of the open tab with their boxes."""
        if self._page is None:
            return []
        origin = self._page.mapTo(self, QPoint(0, 0))
        return [(group.group.id, group.box.translated(origin)) for group in self._page.groups]

    def head_rects(self) -> list[tuple[str, QRect]]:
        """Groups of the open tab with the places of their names; folded ones are not among them."""
        if self._page is None:
            return []
        origin = self._page.mapTo(self, QPoint(0, 0))
        return [
            (group.group.id, group.head().translated(origin))
            for group in self._page.groups
            if not group.box.isNull() and group.folded.isHidden()
        ]

    def insertion_points(self) -> list[InsertionPoint]:
        """Every place where something can be put now."""
        found: list[InsertionPoint] = []
        for bar in self._bars:
            found += bar.insertion_points(self) + self._in_rest({bar.surface.id})
        if self._page is not None:
            found += self._page.insertion_points(self)
            found += self._in_rest({self._page.tab.id, *(group.id for group in self._page.tab.groups)})
        for view in self._panels:
            view.settle()
            found += view.insertion_points(self)
        return found + [point for sheet in self._sheets for point in sheet.insertion_points(self)]

    def _in_rest(self, holders: set[str]) -> list[InsertionPoint]:
        """The places in the rest of one of these, while that is open."""
        if self._rest is None or self._rest.rest.holder not in holders:
            return []
        return self._rest.insertion_points(self)

    def unseen(self) -> list[SeenButton]:
        """What does not fit at this width."""
        hidden = [item for bar in self._bars for item in bar.unseen()]
        return hidden + (self._page.unseen() if self._page is not None else [])

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        assert event is not None
        event.setAccepted(self._ask_at(event.globalPos()))

    def _ask_at(self, point: QPoint) -> bool:
        """Ask about the item at a point of the screen. Returns whether there is one."""
        at = self.mapFromGlobal(point)
        for widget in self.buttons():
            if self.box_of_widget(widget).contains(at) and isinstance(widget, ItemButton):
                self.asked.emit(widget.item, point)
                return True
        return False

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.painting.scheme.color("paper"))
        painter.setPen(self.painting.scheme.color("line"))
        line = self.status.geometry().top()
        painter.drawLine(0, line, self.width(), line)


def _way_to(menu: SeenMenu, inner: str) -> list[SeenMenu]:
    """A menu, and those that lead from it to one of its submenus; the menu alone where that is not in it."""
    for item in menu.items:
        if isinstance(item, SeenSubmenu):
            if item.id == inner:
                return [menu, item.menu]
            way = _way_to(item.menu, inner)
            if len(way) > 1:
                return [menu, *way]
    return [menu]


def _no_choices(_reading: str) -> list[str]:
    return []


def _drop(widget: QWidget) -> None:
    widget.hide()
    widget.setParent(None)
    widget.deleteLater()


def _names(tabs: tuple[SeenTab, ...]) -> list[tuple[str, str, str]]:
    return [(tab.id, tab.title, tab.picture) for tab in tabs]


@dataclass(frozen=True)
class KeySeat:
    """What decides which keys work on a seat: the application's contexts, what stands in the way there.

    `obstacles` know what the house keeps for itself; `traits` are those of the seat.
    """

    contexts: Contexts
    obstacles: Obstacles
    traits: Traits = NOWHERE


def best_keys(outcome: Outcome, seat: KeySeat) -> dict[Target, str]:
    """The key to show for each target: one that works on such a seat, the highest layer's first."""
    contexts, obstacles = seat.contexts, seat.obstacles
    bound = [
        binding
        for binding in working(outcome.bindings, contexts)
        if not obstacles.of(binding.sequence, seat.traits, bool(contexts.types_in(binding.context)))
    ]
    found = {b.target: format_sequence(b.sequence) for b in reversed(bound) if not b.level}
    return found | {b.target: format_sequence(b.sequence) for b in bound if b.level}
