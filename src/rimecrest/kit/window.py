"""The window of an application: its document in a frame of surfaces, its hotkeys, its macros, its link."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import QPoint, Qt, QTimer
from PyQt6.QtGui import QCloseEvent, QImage, QKeyEvent, QShowEvent
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.bindings import Binding
from rimecrest.core.keys.obstacles import Obstacles
from rimecrest.core.layout.doing_effects import doing_effects
from rimecrest.core.layout.faces import Targets
from rimecrest.core.layout.seen import Doing, Outcome, SeenPanel
from rimecrest.core.release.stack import StackState
from rimecrest.core.words import tr
from rimecrest.core.workspace.macro_file import macro_file
from rimecrest.kit.commands.executor import Executor
from rimecrest.kit.commands.leaving import Agreements
from rimecrest.kit.declare import Declarations
from rimecrest.kit.dispatcher import Dispatcher
from rimecrest.kit.documents.document import Document, Documents
from rimecrest.kit.documents.document_methods import document_methods, encoded
from rimecrest.kit.documents.document_row import Centre
from rimecrest.kit.documents.open_documents import OpenDocuments
from rimecrest.kit.first_layout import use_first
from rimecrest.kit.glimpses import Glimpses
from rimecrest.kit.key_filter import KeyFilter
from rimecrest.kit.macros.asking_dialog import DialogAsker
from rimecrest.kit.macros.companions import Companions
from rimecrest.kit.macros.library import MacroLibrary
from rimecrest.kit.macros.run import MacroRun
from rimecrest.kit.macros.sounds import Sounds
from rimecrest.kit.panels.host import PanelHost
from rimecrest.kit.personal.bar_menu import BarMenu
from rimecrest.kit.personal.news import NewsLine
from rimecrest.kit.personal.own_macros import OwnMacros
from rimecrest.kit.personal.personal_layout import PersonalLayout
from rimecrest.kit.personal.release_news import ReleaseNews
from rimecrest.kit.personal.shown_stack import ShownStack
from rimecrest.kit.recording.recorder import PRIVATE
from rimecrest.kit.recording.recording import OwnRecording
from rimecrest.kit.remote.link_methods import link_methods
from rimecrest.kit.remote.studio_door import StudioDoor
from rimecrest.kit.remote.trial import Trial
from rimecrest.kit.why_menu import WhyMenu
from rimecrest.kit.window_dialogs import WindowDialogs
from rimecrest.shell.link_server import LinkServer
from rimecrest.shell.theme import LIGHT, font, palette
from rimecrest.surfaces.frame import Frame
from rimecrest.surfaces.menu import build_menu
from rimecrest.surfaces.painting import Painting
from rimecrest.surfaces.seat_keys import KeySeat

if TYPE_CHECKING:  # an application without a profile starts without it
    from rimecrest.core.release.profile import Profile


class AppWindow(QWidget):
    """One window of an application that understands layouts."""

    def __init__(
        self,
        declarations: Declarations,
        make_document: Callable[[Documents], Document],
        profile: Profile | None,
    ) -> None:
        super().__init__()
        self.documents = OpenDocuments(make_document, profile.folder if profile is not None else None)
        self.profile = profile
        folder = profile.folder if profile is not None else None
        self.library = MacroLibrary(declarations.app, self.documents.kept_macros)
        self.asker = DialogAsker(self, lambda: self.painting, lambda reading: self.panels.choices(reading))
        self.executor = Executor(declarations, self.documents)
        self.dispatcher = Dispatcher(self.executor, self.library, Agreements(folder), self.asker)
        self.catalogue = self.executor.catalogue
        self.painting = Painting(LIGHT)
        self.setPalette(palette(LIGHT))
        self.setFont(font(13))
        centre = Centre(self.documents, lambda: self.painting.scheme)
        self.frame = Frame(self.painting, centre, self, outside=True)
        self.news = NewsLine(LIGHT)
        self.frame.set_news(self.news)
        self._release_news = ReleaseNews(self.catalogue, profile, self.news)
        self._shown_before = False
        self._companions = Companions()
        self.trial = Trial(
            self.dispatcher,
            self.documents.try_on,
            self._tell,
            lambda: encoded(self.picture()),
            lambda: self.document.spot(),
            lambda reading: self.panels.choices(reading),
        )
        self.panels = PanelHost(self.frame, self.catalogue, self.executor.read, self._do, folder)
        self.executor.panels = self.panels
        self.keys = KeyFilter(self.dispatcher, self.asker, self.panels, self.frame)
        self._studio = StudioDoor(declarations.app)
        self.stack = ShownStack(
            self.catalogue,
            PersonalLayout(declarations.app, folder),
            OwnMacros(declarations.app, folder),
            self._show,
        )
        self.why = WhyMenu(self.frame, self.stack, self.keys, self.library, self._studio)
        self.documents.sounds = Sounds(folder)
        self.documents.reads = self.executor.read
        self._glimpses = Glimpses(self.documents.widget)
        self.recording = OwnRecording(
            self.dispatcher,
            self.documents,
            self.keys,
            self.frame,
            self.stack,
            self._studio,
            self._tell,
            lambda: self.server.heard,
        )
        self.recorder = self.recording.recorder
        self.keys.first = self.recording.bar.press
        rows = QVBoxLayout(self)
        rows.setContentsMargins(0, 0, 0, 0)
        rows.setSpacing(0)
        rows.addWidget(self.recording.bar)
        rows.addWidget(self.recording.line)
        rows.addWidget(self.frame, 1)
        self.bars = BarMenu(self.frame, self.stack)
        self.dialogs = WindowDialogs(
            self,
            self.frame,
            self.dispatcher,
            self.library,
            self.recording,
            self.stack.own_macros,
            self._studio,
        )
        self._connect()
        methods = {
            **link_methods(self.dispatcher, self.stack, self.frame, self._hello, self._reload),
            **document_methods(self.documents, self.picture, self.executor.read_from),
            **self.recording.methods(),
            **self.trial.methods(),
        }
        self.server = LinkServer(declarations.app, methods, self)
        if trouble := use_first(declarations.app, profile, self.stack.use):
            self.frame.say(trouble)
        if self.server.trouble:
            self.frame.say(self.server.trouble)
        self._release_news.tell_owed(self.stack.state, self.outcome, self.library.faces())
        self.resize(1024, 720)
        self.retitle()

    def picture(self) -> QImage:
        """The document that is worked in as it looks now, also in the middle of a run."""
        return self._glimpses.drawn(self.document.picture)

    def back_to_document(self) -> None:
        """Give the keys to the document."""
        self.document.widget.setFocus()

    def _tell(self, method: str, params: Mapping[str, Any]) -> None:
        """Tell whoever listens on the link."""
        self.server.tell(method, dict(params))

    def _hello(self) -> dict[str, str]:
        """Which window it is."""
        folder, catalogue = self.documents.folder, self.catalogue
        return {
            "app": catalogue.app,
            "title": catalogue.title,
            "version": catalogue.version,
            "profile": str(folder.resolve()) if folder else "",
            "document": self.document.title(),
        }

    @property
    def document(self) -> Document:
        """The document that is worked in."""
        return self.documents.current

    @property
    def outcome(self) -> Outcome:
        """What its layers amount to."""
        assert self.frame.outcome is not None
        return self.frame.outcome

    def _connect(self) -> None:
        self.frame.asked.connect(self.why.menu)
        if self.frame.windows is not None:
            self.frame.windows.opened.connect(self._hear_keys)
        self.frame.triggered.connect(self._clicked)
        self.frame.left.connect(self.back_to_document)
        self.asker.asks.connect(self._asked)
        self.dispatcher.refused.connect(self.frame.say)
        self.dispatcher.told.connect(self.frame.say)
        self.keys.resolved.connect(self._key)
        self.keys.waiting.connect(self.frame.say)
        self.keys.nothing.connect(self.frame.say)
        self.dispatcher.run_begun.connect(self._run_begun)
        self.dispatcher.run_ended.connect(self._run_ended)
        self.dispatcher.rang.connect(lambda: self.documents.sounds.ring())
        self.dispatcher.run_over.connect(lambda _macro, well: self.panels.run_over(well))
        self.recording.changed.connect(self.retitle)
        self.documents.changed.connect(self.retitle)
        self.documents.changed.connect(self._follow_document)
        self.documents.changed.connect(self.panels.refresh)
        self.documents.typed.connect(self.dispatcher.write)
        self.documents.composing.connect(self.keys.note_composing)
        self.documents.wants.connect(self._wanted)
        # The menu or the run that asked for it ends first.
        self.documents.macros_wanted.connect(lambda: QTimer.singleShot(0, self.dialogs.open_macros))
        self.documents.menu_wanted.connect(lambda: QTimer.singleShot(0, self._open_menu_at_cursor))
        self.documents.finder_wanted.connect(lambda: QTimer.singleShot(0, self.dialogs.open_finder))
        self.documents.record_wanted.connect(lambda: QTimer.singleShot(0, self.recording.turn))
        view = self.documents.widget
        view.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        view.customContextMenuRequested.connect(self._open_menu)

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self._hear_keys(self)
        if not self._shown_before:
            # Else the first field of a panel would have the keys.
            self._shown_before = True
            self.document.widget.setFocus()

    def _hear_keys(self, window: QWidget) -> None:
        """Resolve the keys that are pressed in a window: this one, or one of a bar or panel."""
        handle = window.windowHandle()
        assert handle is not None
        handle.installEventFilter(self.keys)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None:
            event.accept()

    # Layouts

    def targets(self) -> Targets:
        """Names and pictures of what can be run here."""
        return Targets(self.catalogue, self.library.faces())

    def _show(self, state: StackState) -> Outcome:
        """Take over a stack: surfaces, keys, macros. Text, cursor and focus stay as they are."""
        self.library.use(state)
        self.panels.use(state)
        self.painting.pictures.take_over(state.pictures)
        self.documents.lent = self._companions.lay_out(state.companions)
        self._seat = KeySeat(self.executor.contexts, Obstacles(state.reserved), state.traits)
        self.retitle()
        return self._lay_out()

    def _lay_out(self) -> Outcome:
        """Show the surfaces and have the keys that the stack gives to the document that is worked in."""
        self._laid_for = self.document.kind()
        outcome = self.stack.state.outcome(self.catalogue, self._laid_for)
        self.frame.show_outcome(outcome, self._seat)
        self.keys.use(outcome.bindings)
        return outcome

    def _follow_document(self) -> None:
        """Another document, or one that lies elsewhere now: what is for some documents comes and goes."""
        layouts = self.stack.state.layouts
        limits = [layout.applies for layout in layouts]
        limits += [panel.applies for layout in layouts for panel in layout.panels]
        now = self.document.kind()
        if any(limit.fits(now) != limit.fits(self._laid_for) for limit in limits):
            self._lay_out()

    def take_over(self, state: StackState) -> str:
        """Take over another stack while running, and say in one line what is new."""
        earlier, before = self.stack.state, self.frame.outcome
        known = self.library.faces()
        after = self.stack.use(state)
        told = self._release_news.tell(state, earlier, before, after, {**known, **self.library.faces()})
        return " ".join(told)

    def _reload(self) -> str:
        if self.profile is None:
            raise RimecrestError(tr("This window runs without a profile."))
        return self.take_over(self.profile.stack(self.catalogue.app))

    # Doing things

    def _clicked(self, identity: str) -> None:
        item = self.outcome.button(identity)
        row = self.outcome.row_of(identity)
        if item is not None:
            self._do(item.click, row.id.rpartition(":")[2] if isinstance(row, SeenPanel) else "")

    def _do(self, doing: Doing, panel: str = "") -> None:
        """Do what something does at an event. Its private steps read a panel's fields by short names."""
        if doing.event == "point" and not self._may_point(doing):
            return
        if doing.steps:
            self.panels.own_panel = panel
            try:
                self.library.refuse_steps(doing)
                self.dispatcher.begin_steps(
                    macro_file(doing.layer, f"{PRIVATE}{doing.of}", doing.steps), panel
                )
            except RimecrestError as error:
                self.frame.say(str(error))
        elif doing.run:
            self.dispatcher.perform(doing.run, dict(doing.args), by_hand=True)

    def _may_point(self, doing: Doing) -> bool:
        """Whether that may run only because a pointer rests somewhere: never in a run or a recording."""
        if self.recorder.on or self.dispatcher.run is not None:
            return False
        macros = {name: file.macro for name, file in self.stack.state.macro_files().items()}
        may = doing_effects(doing, self.catalogue, macros)
        if may:
            words = tr(
                "“{name}” does not run when pointed at: it {effects}.",
                name=doing.label,
                effects=", ".join(may),
            )
            self.frame.say(words)
        return not may

    def _key(self, binding: Binding) -> None:
        if binding.run is not None:
            self.dispatcher.perform(binding.run, dict(binding.args), by_hand=True)

    def _wanted(self, verb: str, args: dict[str, str]) -> None:
        self.dispatcher.perform(f"{self.catalogue.app}:{verb}", args, by_hand=True)

    def _asked(self, question: object) -> None:
        """Something is asked: where that is to be pointed at, the document takes the mouse again."""
        if (pointing := self.asker.pointing) is not None and question is pointing:
            self._take_mouse(True)
            self.document.widget.setFocus()
            pointing.finished.connect(self._pointed_out)

    def _pointed_out(self) -> None:
        # The run may have ended by now, or ask for another place already.
        self._take_mouse(self.dispatcher.run is None or self.asker.pointing is not None)

    def _take_mouse(self, takes: bool) -> None:
        """Whether the document is the colleague's, and not a macro's that works in it."""
        self.documents.widget.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents, not takes)
        self._glimpses.turn(not takes)

    def _open_menu(self, where: QPoint) -> None:
        live = self.executor.live()
        fitting = [menu for menu in self.outcome.menus if menu.context in live]
        if fitting:
            narrowest = max(fitting, key=lambda menu: self.executor.contexts.narrowness(menu.context))
            menu = build_menu(narrowest.items, self.painting, self._chosen, self)
            menu.setObjectName("context-menu")
            menu.addSeparator()
            menu.addAction(tr("Macros …"), self.dialogs.open_macros)
            menu.addAction(tr("Why does a key do that? Press it …"), self.why.listen)
            menu.aboutToHide.connect(menu.deleteLater)
            menu.popup(self.documents.widget.mapToGlobal(where))

    def _open_menu_at_cursor(self) -> None:
        spot = self.document.spot()
        view, shown = self.documents.widget, self.document.widget
        self._open_menu(shown.mapTo(view, spot.bottomLeft()) if shown is not view else spot.bottomLeft())

    def _chosen(self, identity: str) -> None:
        item = self.outcome.button(identity)
        if item is not None:
            # The menu is still closing; a question must not open under it.
            QTimer.singleShot(0, lambda: self._do(item.click))

    def _run_begun(self, run: MacroRun) -> None:
        self.frame.say(tr("“{name}” is running; Escape stops it and takes everything back.", name=run.name))
        self._take_mouse(False)

    def _run_ended(self, name: str, sentence: str, well: bool) -> None:
        self._take_mouse(True)
        self.frame.say(sentence or tr("“{name}” is done.", name=name))
        self.server.tell("run.ended", {"macro": name, "sentence": sentence, "well": well})

    def retitle(self) -> None:
        trying = tr(" · trying the draft") if self.stack.draft else ""
        trying = self.recording.title() or trying
        self.setWindowTitle(f"{self.document.title()} · {self.catalogue.title}{trying}")

    def closeEvent(self, event: QCloseEvent | None) -> None:
        assert event is not None
        self.dispatcher.stop_run()
        event.ignore()
        try:
            if self.recording.may_end() and self.documents.may_close():
                self.server.close()
                event.accept()
        except RimecrestError as error:  # it could not be saved
            self.frame.say(str(error))
