"""One widget of the studio by itself, with made-up data: `python -m rimecrest.demo.widgets [NAME]`.

For whoever changes a widget and wants to see it without walking there. Those that show a workspace get the
demo's, made anew in a folder that goes when the window closes.
"""

from __future__ import annotations

import sys
from collections.abc import Callable
from functools import cached_property
from pathlib import Path
from tempfile import TemporaryDirectory

from PyQt6.QtCore import QObject, QRect
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from rimecrest.core.check.acceptances import Kept
from rimecrest.core.check.kinds import Weight
from rimecrest.core.explain.bed_state import BedView
from rimecrest.core.explain.why import Verdict
from rimecrest.core.keys.obstacles import Obstacles
from rimecrest.core.layout.layout import Acceptance
from rimecrest.core.layout.seen import SeenButton
from rimecrest.core.search import Match, Search
from rimecrest.core.suggest.arrange import Arrangement, Move
from rimecrest.core.suggest.free_keys import Suggestion
from rimecrest.core.workspace.carry_over import counterparts
from rimecrest.core.workspace.edits import SetFields
from rimecrest.core.workspace.macro_file import MacroFile
from rimecrest.core.workspace.people import Seat
from rimecrest.demo.office import make_workspace
from rimecrest.shell.pictures import PictureBook
from rimecrest.shell.start import make_qt_application
from rimecrest.shell.theme import LIGHT, Scheme
from rimecrest.studio.aim_line import AimLine
from rimecrest.studio.history.sheet import HistorySheet, Scope
from rimecrest.studio.keys.aim_sentence import AimSentence
from rimecrest.studio.keys.arranging import ArrangeSheet
from rimecrest.studio.keys.bed_view import KeyBed
from rimecrest.studio.keys.contexts import ContextBands
from rimecrest.studio.keys.key_details import KeySheet
from rimecrest.studio.keys.legend import BedLegend
from rimecrest.studio.keys.listen import ListenField
from rimecrest.studio.keys.map import KeyMap
from rimecrest.studio.keys.presenter import KeysPresenter
from rimecrest.studio.layout.control_card import ControlCard
from rimecrest.studio.layout.item_card import Card
from rimecrest.studio.layout.kind_strip import KindStrip
from rimecrest.studio.layout.lost_items import LostItems
from rimecrest.studio.layout.paste_mapping import PasteMapping
from rimecrest.studio.layout.ruler import Ruler
from rimecrest.studio.layout.stage import Stage
from rimecrest.studio.layout.surface_card import SurfaceCard
from rimecrest.studio.layout.surface_presenter import SurfacePresenter
from rimecrest.studio.macros.editor import MacroText
from rimecrest.studio.macros.export_dialog import ExportDialog
from rimecrest.studio.macros.finish import FinishSentence
from rimecrest.studio.macros.macro_sheet import MacroSheet
from rimecrest.studio.macros.presenter import MacrosPresenter
from rimecrest.studio.macros.shelves import Shelves
from rimecrest.studio.macros.step_trial import Questions, TrialPanel
from rimecrest.studio.macros.steps import StepList
from rimecrest.studio.macros.trial_session import Question, TrialRun
from rimecrest.studio.pictures.chooser import PictureChooser
from rimecrest.studio.pictures.presenter import PicturePresenter, Subject
from rimecrest.studio.rollout.board import ReleaseBar, SeatState, State
from rimecrest.studio.rollout.seat_drawing import Legend
from rimecrest.studio.rollout.seat_map import SeatMap
from rimecrest.studio.rollout.seat_sheet import SeatSheet
from rimecrest.studio.rollout.time_line import TimeLine
from rimecrest.studio.shared.candidates import Candidates
from rimecrest.studio.shared.findings_list import FindingSheet
from rimecrest.studio.shared.findings_strip import Strip
from rimecrest.studio.shared.kept_row import KeptRow
from rimecrest.studio.shared.key_field import KeyField
from rimecrest.studio.shared.marks import Mark
from rimecrest.studio.shared.session import Session
from rimecrest.studio.spine import Spine
from rimecrest.studio.start_screen import StartScreen
from rimecrest.surfaces.bar import Bar
from rimecrest.surfaces.painting import Painting
from rimecrest.surfaces.seat_keys import KeySeat
from rimecrest.surfaces.why_list import WhyList

MACRO = ("department.freight", "hazard-note")
SUGGESTIONS = (
    Suggestion("Ctrl+J, N", 0.61, 0.4, 0.2, 0.05, 0.04, ("first letter of Notice", "either hand")),
    Suggestion("Ctrl+Shift+N", 0.83, 0.5, 0.3, 0.05, 0.02, ("first letter of Notice",)),
)
ARRANGEMENT = Arrangement(
    (
        Move("department.freight:one", "Hazard note", "macro:hazard-note", "Ctrl+J, O", "Ctrl+J, H", 240),
        Move("department.freight:two", "Table", "letters:insert-table", "Ctrl+J, T", "Ctrl+J, T", 12, True),
    ),
    410.0,
    220.0,
    260.0,
)
VERDICTS = (
    Verdict("desktop", True, "Nothing takes it first."),
    Verdict("keyboard", False, "No key of the German keyboard gives [ by itself.", "Choose another key."),
)


class Made:
    """What widgets are made from. `window` is what they stand in."""

    def __init__(self, window: QWidget, folder: Path, scheme: Scheme = LIGHT) -> None:
        self.window = window
        self.scheme = scheme
        self.book = PictureBook()
        self.painting = Painting(scheme, self.book)
        self._folder = folder

    @cached_property
    def session(self) -> Session:
        """The demo's workspace, made now."""
        make_workspace(self._folder)
        return Session(self._folder)

    @cached_property
    def keys(self) -> KeysPresenter:
        """The Keys place's presenter at the first layer."""
        made = KeysPresenter(self.session)
        made.fit()
        return made

    @property
    def view(self) -> BedView:
        """The bed of that layer."""
        return self.keys.view(self.session.workspace)

    @property
    def file(self) -> MacroFile:
        """A macro."""
        return self.session.workspace.macros[MACRO]

    @property
    def item(self) -> SeenButton:
        """The first button of the outcome."""
        every = (item for row in self.session.outcome().rows() for item in row.items)
        return next(item for item in every if isinstance(item, SeenButton))

    @property
    def seats(self) -> list[SeatState]:
        """A seat in each state."""
        return [
            SeatState(Seat(seat=f"Desk {n}", name=f"Clerk {n}"), state, 7 if state is State.HAS else 0)
            for n, state in enumerate(State, 1)
        ]


def _bed(made: Made) -> QWidget:
    bed, view = KeyBed(made.scheme), made.view
    states = view.caps(frozenset(), made.keys.opener)
    bed.show_keyboard(view.geometry, states, lambda cap: cap.layer == made.session.aim.layer, {})
    return bed


def _bands(made: Made) -> QWidget:
    bands, view = ContextBands(made.scheme), made.view
    bands.show_contexts(view.contexts, view.catalogue.title, made.keys.context)
    return bands


def _map(made: Made) -> QWidget:
    shown = KeyMap(made.scheme)
    shown.show_view(made.view)
    return shown


def _sentence(made: Made) -> QWidget:
    sentence = AimSentence(made.keys, made.scheme)
    sentence.show_view(made.view)
    return sentence


def _key_sheet(made: Made) -> QWidget:
    sheet = KeySheet(made.scheme, made.window)
    sheet.show_key(made.keys.facts(made.view, "Ctrl+J, O", None))
    sheet.show_suggestions("Sailing notice", SUGGESTIONS)
    return sheet


def _arranging(made: Made) -> QWidget:
    sheet = ArrangeSheet(made.scheme)
    sheet.show_arrangement(ARRANGEMENT, True)
    return sheet


def _macro(made: Made) -> QWidget:
    sheet, presenter = MacroSheet(made.scheme), MacrosPresenter(made.session)
    presenter.now = MACRO
    file = made.file
    faults = presenter.faults(file)
    sheet.show_macro(file, presenter.catalogue(), faults, presenter.facts(file), presenter.used_by(file))
    return sheet


def _steps(made: Made) -> QWidget:
    steps = StepList(made.scheme)
    steps.show_macro(made.file.macro, made.session.workspace.catalogue("letters"), [])
    return steps


def _text(made: Made) -> QWidget:
    text = MacroText(made.scheme)
    text.show_text(made.file.text)
    return text


def _shelves(made: Made) -> QWidget:
    shelves = Shelves(made.session, made.scheme)
    shelves.fill(MACRO)
    return shelves


def _questions(made: Made) -> QWidget:
    asked = (("Which vessel?", ("Brinholt", "Ovessa"), "Ovessa"), ("How many?", (), "4"))
    return Questions(Question("Sailing notice", asked), made.scheme, lambda _: None)


def _trial(made: Made) -> QWidget:
    return TrialPanel(TrialRun(made.session, made.window), made.scheme)


def _card(made: Made) -> QWidget:
    card = Card(made.session, made.painting, made.scheme, made.window)
    card.show_item(made.item, True, QRect(40, 40, 60, 30))
    return card


def _surface_card(made: Made) -> QWidget:
    presenter = SurfacePresenter(made.session)
    card = SurfaceCard(made.session, presenter, made.painting, made.scheme, made.window)
    seen = made.session.outcome()
    card.show_surface(seen.toolbars[0].id, seen, QRect(40, 40, 60, 30))
    return card


def _control_card(made: Made) -> QWidget:
    card = ControlCard(made.session, made.scheme, made.window)
    seen = made.session.workspace.outcome(("department.freight",), "grid")
    item = next(control for panel in seen.panels for control in panel.controls() if control.doings)
    card.show_control(item, QRect(40, 40, 60, 30))
    return card


def _kind_strip(made: Made) -> QWidget:
    strip = KindStrip(made.scheme, made.window)
    strip.show_at(QRect(40, 40, 120, 2), QRect(0, 0, 800, 400))
    return strip


def _mapping(made: Made) -> QWidget:
    workspace = made.session.workspace
    there, here = workspace.catalogue("letters"), workspace.catalogue("grid")
    items = [item for bar in there.toolbars for item in bar.items]
    return PasteMapping(counterparts(items, there, here), there, here, made.scheme, made.window)


def _lost(made: Made) -> QWidget:
    lost = LostItems(made.scheme)
    lost.show_lost(860, 125, [made.item] * 3)
    return lost


def _stage(made: Made) -> QWidget:
    stage, session = Stage(made.book), made.session
    contexts = session.workspace.catalogue("letters").context_tree
    stage.set_width(880)
    stage.show_outcome(session.outcome(), KeySeat(contexts, Obstacles({})), "Letters")
    return stage


def _findings(made: Made) -> QWidget:
    sheet = FindingSheet(made.session, made.scheme, made.window)
    sheet.open(True)
    return sheet


def _kept(made: Made) -> QWidget:
    kept = Acceptance(
        kind="takes-over",
        owners=("department.freight:quick", "app:key-print"),
        targets="",
        why="used 0 times in 30 days",
        since="2026-03-02",
        by="Ailis",
    )
    return KeptRow(Kept("department.freight", "letters", kept, None), "Freight desk, Letters", made.scheme)


def _chooser(made: Made) -> PictureChooser:
    before = (("picture", "set:ferry"), ("face", "both"))
    subject = Subject(
        "department.freight", "letters", "department.freight:hazard", "Ferry", "set:ferry", before
    )
    presenter = PicturePresenter(made.session, subject)
    return PictureChooser(made.session, presenter, made.book, made.scheme, made.window)


def _history(made: Made) -> HistorySheet:
    sheet = HistorySheet(made.session, made.scheme, made.window)
    made.session.history.point("Before the season")
    made.session.do(SetFields("department.freight", "letters", "department.freight:table", {"label": "T"}))
    sheet.open([Scope("everything")])
    return sheet


def _candidates(made: Made) -> QWidget:
    found = [
        Match("command", f"letters:{n}", words, "when writing") for n, words in enumerate(("Bold", "Box"))
    ]
    listed = Candidates(made.scheme, made.window)
    listed.offer("bo", Search(found).find("bo", 7), made.window.rect().topLeft())
    return listed


def _seat_map(made: Made) -> QWidget:
    shown = SeatMap(made.scheme)
    shown.show_seats([("Freight desk", made.seats), ("Berth desk", made.seats)])
    return shown


def _seat(made: Made) -> QWidget:
    sheet = SeatSheet(made.scheme)
    sheet.show_seat(made.session, made.seats[0])
    return sheet


def _time_line(made: Made) -> QWidget:
    line = TimeLine(made.scheme)
    line.show_bars((ReleaseBar(6, "2026-11-09", 1.0), ReleaseBar(7, "2026-11-16", 0.6)))
    return line


def _bar(made: Made) -> QWidget:
    return Bar(made.session.outcome().toolbars[0], made.painting)


def _why(made: Made) -> QWidget:
    shown = WhyList(made.scheme)
    shown.show_links(VERDICTS)
    return shown


PLACES = [("Macros", "set:format-list-text"), ("Keys", "set:keyboard-outline")]
WIDGETS: dict[str, Callable[[Made], QWidget]] = {
    "aim-line": lambda made: AimLine(made.session, made.scheme),
    "arrange-sheet": _arranging,
    "bar": _bar,
    "bed-legend": lambda made: BedLegend(made.scheme),
    "candidates": _candidates,
    "card": _card,
    "context-bands": _bands,
    "control-card": _control_card,
    "findings": _findings,
    "kept-row": _kept,
    "finish": lambda made: FinishSentence(made.session, made.scheme, made.file),
    "key-bed": _bed,
    "key-field": lambda made: KeyField(made.scheme, lambda _: False),
    "key-map": _map,
    "key-sheet": _key_sheet,
    "kind-strip": _kind_strip,
    "keys-sentence": _sentence,
    "listen": lambda made: ListenField(made.scheme, made.session.begins_sequence),
    "lost-items": _lost,
    "macro-sheet": _macro,
    "macro-text": _text,
    "mark": lambda made: Mark(Weight.BLOCKS, made.scheme),
    "export": lambda made: ExportDialog(made.session.workspace, None, "Ailis", made.scheme, made.window),
    "paste-mapping": _mapping,
    "history": _history,
    "picture-chooser": _chooser,
    "questions": _questions,
    "ruler": lambda made: Ruler(made.scheme),
    "seat-legend": lambda made: Legend(made.scheme),
    "seat-map": _seat_map,
    "seat-sheet": _seat,
    "shelves": _shelves,
    "spine": lambda made: Spine(PLACES, "Vessry Isles Ferries", made.scheme, made.book),
    "stage": _stage,
    "start-screen": lambda made: StartScreen(made.scheme),
    "steps": _steps,
    "strip": lambda made: Strip(made.session, made.scheme),
    "surface-card": _surface_card,
    "time-line": _time_line,
    "trial": _trial,
    "why": _why,
}
"""Name → how it is made, ready to be shown."""


def show(name: str, folder: Path) -> tuple[QWidget, QWidget]:
    """A window with one widget in it, shown. Returns both."""
    window = QWidget()
    window.setWindowTitle(name)
    window.resize(900, 520)
    widget = WIDGETS[name](Made(window, folder))
    if widget.parentWidget() is None:
        QVBoxLayout(window).addWidget(widget)
    window.show()
    widget.show()
    return window, widget


def main() -> int:
    """Show the widget that is named; without a name, list them."""
    if len(sys.argv) < 2 or sys.argv[1] not in WIDGETS:
        print("\n".join(WIDGETS))
        return 0 if len(sys.argv) < 2 else 2
    qt = make_qt_application("Rimecrest")
    with TemporaryDirectory() as folder:
        kept: tuple[QObject, QObject] = show(sys.argv[1], Path(folder) / "vessry")
        status = qt.exec()
        del kept
    return status


if __name__ == "__main__":
    sys.exit(main())
