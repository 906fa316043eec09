"""What is done to macros in their place: from an intent to an edit. No widgets in here.

The presenter knows which macro is open. Each intent answers with the step that is at the fore after it, or
whether it was done; what could not be done has been said.
"""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.errors import RimecrestError
from rimecrest.core.identities import slug
from rimecrest.core.macro.check import check_macro, effect_words, effects
from rimecrest.core.macro.complete import completions, names_set
from rimecrest.core.macro.field_edits import field_text, with_field, with_head
from rimecrest.core.macro.format import format_macro, quote
from rimecrest.core.macro.parse import parse_macro
from rimecrest.core.macro.step_edits import (
    ask_for,
    carry,
    change_step,
    double,
    gather,
    move,
    mute,
    put_in,
    steps_of,
    take_all_out,
    where_put,
    with_otherwise,
)
from rimecrest.core.macro.step_tree import Path, step_at, walk
from rimecrest.core.macro.steps import Comment, Do, Fault, Macro, Statement
from rimecrest.core.words import counted, listed, tr
from rimecrest.core.workspace.edits import Edit, Together
from rimecrest.core.workspace.file_edits import NameMacro, PutMacro
from rimecrest.core.workspace.fresh import fresh_macro
from rimecrest.core.workspace.macro_file import MacroFile, macro_file
from rimecrest.core.workspace.where_used import uses
from rimecrest.core.workspace.workspace import Workspace
from rimecrest.studio.macros.wanted_word import Wanted
from rimecrest.studio.shared.session import Session

MacroKey = tuple[str, str]
"""The layer whose shelf a macro stands on, and its id."""

NEW = 'macro {name}\nabout ""\nfor {app}\n\n'


class FieldTarget(Struct, frozen=True):
    """What a field changes: a step of a macro, or, without a path, the macro's head."""

    macro: MacroKey
    path: Path | None = None
    step: Statement | None = None

    def find(self, workspace: Workspace) -> MacroFile | None:
        """The macro, where the step is still the one that the field was opened for; else None."""
        file = workspace.macros.get(self.macro)
        if file is None or self.path is None:
            return file
        return file if step_at(file.macro, self.path) == self.step else None


class MacrosPresenter:
    """Turns what hands do in the Macros place into edits of the macro that is open."""

    def __init__(self, session: Session) -> None:
        self._session = session
        self.now: MacroKey | None = None
        self._followed: dict[MacroKey, MacroKey] = {}
        """Macro -> what it is since its id followed its name."""
        self._former: dict[MacroKey, MacroKey] = {}
        """Macro -> what it was before that."""

    @property
    def _workspace(self) -> Workspace:
        return self._session.workspace

    # What is open

    def file(self) -> MacroFile | None:
        """The macro that is open; None when there is none, or it has gone."""
        macros = self._workspace.macros
        if self.now is not None and self.now not in macros:
            # Undo and redo take a macro from one id to the other.
            other = [
                key for key in (self._former.get(self.now), self._followed.get(self.now)) if key in macros
            ]
            self.now = other[0] if other else self.now
        return macros.get(self.now) if self.now else None

    def open_first(self) -> None:
        """Have a macro open when there is one: first those of the aimed application, then the layer's."""
        if self.file() is None:
            aim, macros = self._session.aim, self._workspace.macros
            self.now = min(
                macros,
                key=lambda key: (macros[key].macro.application != aim.app, key[0] != aim.layer, key),
                default=None,
            )

    def catalogue(self) -> Catalogue | None:
        """Of the application that the open macro is for."""
        file = self.file()
        return self._told(file) if file else None

    def _told(self, file: MacroFile) -> Catalogue | None:
        """Of the application that a macro is for, with what it can read of panels."""
        return self._workspace.told(self._workspace.stack_up_to(file.layer), file.macro.application)

    def faults(self, file: MacroFile) -> list[Fault]:
        """Everything wrong with a macro, in the order of its lines."""
        workspace = self._workspace
        others = {name: f.macro for name, f in workspace.macros_of(workspace.stack_up_to(file.layer)).items()}
        companions = workspace.companion_paths
        catalogue = self._told(file)
        found = [*file.faults, *check_macro(file.macro, catalogue, companions, others)]
        return sorted(found, key=lambda fault: (fault.line, fault.column))

    def facts(self, file: MacroFile) -> str:
        """How many steps, what it may do, what it says where it cannot run."""
        catalogue = self._workspace.catalogues.get(file.macro.application)
        others = {name: other.macro for (_, name), other in self._workspace.macros.items()}
        every = [step for _, step in walk(file.macro) if not isinstance(step, Comment)]
        steps = counted(len(every), "step")
        if off := len(every) - sum(1 for _ in file.macro.live_steps()):
            steps += tr(", {off} turned off", off=off)
        found = effects(file.macro, catalogue, others) if catalogue else ()
        may = effect_words(file.macro, [effect.value for effect in found])
        needs = [need.say or need.context or need.reading for need in file.macro.needs]
        words = [steps, tr("may: {effects}", effects=may) if found else may]
        words += [tr("says “{needs}” where it cannot run", needs=needs[0])] if needs else []
        return " · ".join(words)

    def used_by(self, file: MacroFile) -> str:
        """Which items, keys and macros run it, in a line."""
        found = [use.words for use in uses(self._workspace, file.layer, file.id)]
        return tr("Run by {found}", found=listed(found, 4)) if found else tr("Nothing runs it yet")

    def others(self, file: MacroFile) -> dict[str, MacroFile]:
        """What a step of this macro may run: macros of the same application that its layer sees."""
        seen = self._workspace.macros_of(self._workspace.stack_up_to(file.layer))
        app = file.macro.application
        return {name: f for name, f in seen.items() if f.macro.application == app and f is not file}

    def layer_of(self, name: str) -> str | None:
        """The layer of a macro of that id: the highest that the aim sees, else any that has it."""
        layers = [
            *reversed(self._session.aim.stack(self._workspace)),
            *(at for at, _ in self._workspace.macros),
        ]
        return next((layer for layer in layers if (layer, name) in self._workspace.macros), None)

    # Changing the steps

    def write(self, text: str) -> bool:
        """Give the open macro another text."""
        text = text if text.endswith("\n") else text + "\n"
        file = self.file()
        if file is None or self.now is None:
            return False
        name = macro_file(*self.now, text).name
        if name and name != file.name and self._is_free(name, file):
            return self._put_named(self.now, text, name)
        return self._session.do(PutMacro(*self.now, text))

    def mendable(self) -> MacroFile | None:
        """The open macro when its steps can be changed; says why when its text cannot be read."""
        file = self.file()
        if file is not None and file.faults:
            self._session.say(tr("Mend the text first: {faults}", faults=file.faults[0]))
            return None
        return file

    def _become(self, file: MacroFile, made: Macro, then: Path, besides: Sequence[Edit] = ()) -> Path:
        if made != file.macro and self.now is not None:
            self._session.do(self._with(PutMacro(*self.now, format_macro(made)), besides))
        return then

    @staticmethod
    def _with(edit: PutMacro, besides: Sequence[Edit]) -> Edit:
        return Together(edit.label, (*besides, edit)) if besides else edit

    def rework(self, name: str, paths: Sequence[Path], path: Path) -> Path | None:
        """Do to the chosen steps what a key or the menu names. Returns the step to choose then."""
        file = self.mendable()
        if file is None:
            return None
        macro, by = file.macro, {"up": -1, "down": 1}.get(name, 0)
        match name:
            case "mute":
                for each in paths or [path]:
                    macro = mute(macro, each)
                return self._become(file, macro, path)
            case "up" | "down":
                made = move(macro, path, by) if path[-1:] > (-1,) else macro
                return self._become(file, made, (*path[:-1], path[-1] + by) if made != macro else path)
            case "double":
                return self._become(file, double(macro, path), path)
            case "gather":
                made = gather(macro, paths, "Part")
                return self._become(file, made, min(paths) if made != macro else path)
            case "ask":
                return self._become(file, ask_for(macro, path), path)
            case "take-out":
                return self._become(file, take_all_out(macro, paths), path)
        raise ValueError(f"There is no rework “{name}”.")

    def steps_text(self, paths: Sequence[Path]) -> str | None:
        """The text of steps, as it is copied."""
        file = self.mendable()
        return None if file is None else format_macro(Macro(steps=steps_of(file.macro, paths)))

    def carry(self, paths: Sequence[Path], behind: Path) -> Path | None:
        """Move steps behind another one. Returns where the first of them stands then."""
        file = self.mendable()
        if file is None:
            return None
        steps = steps_of(file.macro, paths)
        made = carry(file.macro, paths, behind)
        where = next((path for path, step in walk(made) if steps and step is steps[0]), None)
        self._become(file, made, ())
        return where

    def put_in(self, text: str, behind: Path, besides: Sequence[Edit] = ()) -> Path | None:
        """Put steps in behind another one, from their text. Returns the first of them."""
        file = self.mendable()
        if file is None:
            return None
        read, faults = parse_macro(text)
        if faults or not read.steps:
            why = f": {faults[0]}" if faults else "."
            self._session.say(tr("What was copied is no step{why}", why=why))
            return None
        made = put_in(file.macro, behind, read.steps)
        return self._become(file, made, where_put(file.macro, behind), besides)

    def put_otherwise(self, behind: Path) -> Path | None:
        """Give the condition around a place an *Otherwise* there. Returns where that stands."""
        file = self.mendable()
        if file is None:
            return None
        made = with_otherwise(file.macro, behind)
        if made is None:
            self._session.say(tr("“Otherwise” stands in an “If” that has none yet: choose a step in it."))
            return None
        return self._become(file, *made)

    # Changing a word

    def target(self, path: Path) -> FieldTarget | None:
        """What a field over a step of the open macro belongs to."""
        file = self.mendable()
        step = step_at(file.macro, path) if file is not None else None
        return FieldTarget(self.now, path, step) if step is not None and self.now is not None else None

    def wanted(self, target: FieldTarget, field: str) -> Wanted:
        """What a word of a step can be."""
        step, file = target.step, self._workspace.macros[target.macro]
        assert step is not None
        catalogue = self._workspace.catalogues.get(file.macro.application)
        kind, _, name = field.partition(" ")
        argument = None
        if isinstance(step, Do) and catalogue and (command := catalogue.command(step.command)):
            argument = command.argument(name)
        known = names_set(file.macro)
        readings = [reading.id for reading in catalogue.readings] if catalogue else []
        choices: list[str] = []
        if kind == "reading" and catalogue:
            choices = [reading.id for reading in catalogue.readings if reading.type == "list"]
            choices += [name for name in known if name not in choices]
        if kind == "macro":
            choices = sorted({name for _, name in self._workspace.macros})
        value = field_text(step, field)
        if argument is not None and not value and argument.default not in (None, "."):
            value = str(argument.default)
        return Wanted(value, argument, [*known, *readings], choices)

    def change_word(
        self, target: FieldTarget, field: str, text: str, besides: Sequence[Edit] = ()
    ) -> Path | None:
        """Give a word of a step another value. Returns the step, when it is one of the macro that is open.

        Args:
            besides: edits that are made with it, before it.
        """
        file = target.find(self._workspace)
        path, step = target.path, target.step
        if file is None or path is None or step is None:
            self._session.say(tr("That step is another one meanwhile; “{text}” was not written.", text=text))
            return None
        catalogue = self._workspace.catalogues.get(file.macro.application)
        try:
            made = change_step(file.macro, path, lambda step: with_field(step, field, text, catalogue))
        except RimecrestError as error:
            self._session.say(str(error))
            return None
        if made != file.macro:
            self._session.do(self._with(PutMacro(*target.macro, format_macro(made)), besides))
        return path if target.macro == self.now else None

    def completions(self, line: str, written: str) -> tuple[str, list[str]]:
        """What a line of a macro's text can go on with: the beginning that stands, and the words."""
        macro, _ = parse_macro(written)
        names = {name for _, name in self._workspace.macros}
        layer = self.now[0] if self.now is not None else self._session.aim.layer
        catalogue = self._workspace.told(self._workspace.stack_up_to(layer), macro.application)
        return completions(line, catalogue, names_set(macro), names)

    # Name and purpose, new ones, deleting

    def change_head(self, target: FieldTarget, what: str, text: str) -> None:
        """Give a macro another name (“macro”) or purpose (“about”).

        Its id follows the name while nothing runs it; after that it stays, so that what runs it still does.
        """
        now = target.find(self._workspace)
        if not text or now is None:
            return
        made = format_macro(with_head(now.macro, what, text))
        if what == "about":
            self._session.do(PutMacro(*target.macro, made))
        elif self._is_free(text, now):
            self._put_named(target.macro, made, text)

    def rename(self, key: MacroKey, name: str) -> MacroFile | None:
        """Give a macro another name. Returns it as it is then; None if it is gone."""
        self.change_head(FieldTarget(key), "macro", name)
        macros = self._workspace.macros
        return macros.get(key) or macros.get(self._followed.get(key, key))

    def _put_named(self, key: MacroKey, text: str, name: str) -> bool:
        """Give a macro a text in which it has this name. Its id follows the name while nothing uses it."""
        layer, identity = key
        released = self._workspace.settings.last_release
        known = released is not None and f"{layer}/{identity}" in released.macros
        follows = not known and slug(name, "macro") != identity and not uses(self._workspace, layer, identity)
        if not follows:
            return self._session.do(PutMacro(layer, identity, text))
        to = fresh_macro(self._workspace, name)
        self._followed[key] = (layer, to)
        self._former[layer, to] = key
        before, self.now = self.now, (layer, to) if self.now == key else self.now
        done = self._session.do(NameMacro(layer, identity, to, text))
        if not done:
            self.now = before
        return done

    def _is_free(self, name: str, file: MacroFile | None) -> bool:
        """Whether no other macro is called so; else a name that is free is told."""
        names = {f.name.lower() for f in self._workspace.macros.values() if f is not file}
        if name.lower() not in names:
            return True
        number = next(n for n in range(2, 1000) if f"{name} {n}".lower() not in names)
        self._session.say(
            tr("There is a macro “{name}” already; “{name} {number}” is free.", name=name, number=number)
        )
        return False

    def fresh_name(self, stem: str) -> str:
        """A name that no macro has."""
        names = {file.name.lower() for file in self._workspace.macros.values()}
        number, name = 1, stem
        while name.lower() in names:
            number += 1
            name = f"{stem} {number}"
        return name

    def make(self, called: str) -> MacroKey | None:
        """Put a new macro on the aimed layer's shelf."""
        aim, name = self._session.aim, self.fresh_name(called)
        key = (aim.layer, fresh_macro(self._workspace, name))
        return key if self._session.do(PutMacro(*key, NEW.format(name=quote(name), app=aim.app))) else None

    def keep_recording(self, called: str, text: str, layer: str) -> MacroKey | None:
        """Put what was recorded on a layer's shelf."""
        name = self.fresh_name(called)
        key = (layer, fresh_macro(self._workspace, name))
        macro, _ = parse_macro(text)
        return (
            key if self._session.do(PutMacro(*key, format_macro(with_head(macro, "macro", name)))) else None
        )

    def delete(self) -> str | None:
        """Delete the open macro. Returns the sentence that says so, with what ran it."""
        file = self.file()
        if file is None:
            return None
        found = uses(self._workspace, file.layer, file.id)
        if not self._session.do(PutMacro(file.layer, file.id, None)):
            return None
        self.now = None
        ran = tr(" It was run by {names}.", names=listed([use.words for use in found], 3)) if found else ""
        return tr("“{name}” is deleted.{ran} Undo brings it back.", name=file.name, ran=ran)
