"""Why does this key, or this item, do what it does on one seat? A chain with a verdict at each link.

desktop → keyboard → session → release → policy → personal → context → winner → macro. The first link that
says no is the answer, and its way out the fix. (docs/conflicts.md, "Why?") The studio asks for a seat of
one's choice, an application for itself, the command line for any seat: all of them here, each with its own
`Standpoint`.
"""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct

from rimecrest.core.errors import RimecrestError
from rimecrest.core.explain.standpoint import Standpoint
from rimecrest.core.keys.bindings import PERSONAL, Binding, rule
from rimecrest.core.keys.chords import Chord, Sequence, format_chord, format_sequence, parse_sequence, touches
from rimecrest.core.keys.contexts import FIELD
from rimecrest.core.keys.desktops.profiles import known_profiles, profile
from rimecrest.core.keys.focus_keys import MENU, answers, kept_by_field, needs_num_lock_off, num_lock_twin
from rimecrest.core.keys.keyboards.national import keyboard, keyboard_name, known_keyboards
from rimecrest.core.layout.panel_readings import with_panels
from rimecrest.core.macro.check import check_macro
from rimecrest.core.macro.steps import Need
from rimecrest.core.macro.where_runs import where_runs
from rimecrest.core.words import listed, owned, tr


class Verdict(Struct, frozen=True):
    """One link of the chain: `ok` is its verdict, `way_out` what would change it."""

    name: str
    ok: bool
    sentence: str
    way_out: str = ""


def why(at: Standpoint, keys: str, context: str = "") -> list[Verdict]:
    """The chain for one key.

    Args:
        context: where the colleague is; empty for the narrowest context that has the key.

    Raises:
        RimecrestError: the keys cannot be read, or the application has no such context.
    """
    sequence = parse_sequence(keys)
    if context and context not in at.contexts:
        known = ", ".join(known.id for known in at.catalogue.contexts)
        raise RimecrestError(
            tr("{title} has no context “{context}”.", title=at.catalogue.title, context=context),
            tr("It has: {known}.", known=known),
        )
    strokes = at.strokes(sequence)
    about = [b for b in at.outcome.bindings if touches(b.strokes, strokes)]
    return [*_until_no(_key_links(at, sequence, about, context))]


def _until_no(links: Iterator[Verdict]) -> Iterator[Verdict]:
    for link in links:
        yield link
        if not link.ok:
            return


def _key_links(at: Standpoint, sequence: Sequence, about: list[Binding], context: str) -> Iterator[Verdict]:
    written = format_sequence(sequence)
    inner = context or max((b.context for b in about), key=at.contexts.narrowness, default="anywhere")
    if sequence[0].key == MENU:
        yield _menu_key(at, inner)
        return
    if inner == FIELD and kept_by_field(sequence[0]):
        about = []
    yield from _ways(at, sequence, about, bool(at.contexts.types_in(inner)))
    yield Verdict("release", True, at.release)
    if not about:
        yield _missing(at, sequence, written, inner)
        return
    live = [b for b in at.outcome.bindings if b.context in at.contexts.live([inner])]
    bound = [b for b in about if b in live]
    highest = max(about, key=lambda binding: binding.level)
    layout = next((layout for layout in at.layouts if layout.layer == highest.layer), None)
    if layout is not None:
        title = at.title(layout.layer)
        said = {"fixed": tr("fixed: nobody can change it")}
        yield Verdict(
            "policy",
            True,
            tr(
                "{owner} layout is {policy}.",
                owner=owned(title),
                policy=said.get(layout.policy, "open: colleagues may change it"),
            ),
        )
    yield _personal(at, about)
    place = at.contexts.name(inner).lower()
    if not bound:
        if about[0].context not in at.contexts:
            yield _unknown_context(at, written, about[0].context)
            return
        if (other := _not_bound(at, sequence, inner)) is not None:
            yield other
            return
        where = at.contexts.name(about[0].context).lower()
        yield Verdict(
            "context",
            False,
            tr(
                "{written} is live {where} only, and here is {place}.",
                written=written,
                where=where,
                place=place,
            ),
            tr("Press it {where}.", where=where),
        )
        return
    yield Verdict("context", True, f"Live {place}: " + ", ".join(at.named(b) for b in bound) + ".")
    yield from _winner(at, written, live, bound, inner)


def _menu_key(at: Standpoint, context: str) -> Verdict:
    live = at.contexts.live([context])
    if context == FIELD or any(menu.context in live for menu in at.outcome.menus):
        return Verdict(
            "focus", False, tr("The Menu key opens the right-click menu, whatever it is bound to.")
        )
    where = at.contexts.name(context).lower()
    return Verdict(
        "focus", False, tr("The Menu key opens the right-click menu, and there is none {where}.", where=where)
    )


def _ways(at: Standpoint, sequence: Sequence, about: list[Binding], typing: bool) -> Iterator[Verdict]:
    """desktop, keyboard, session: whether the keystroke reaches the application at all."""
    written = format_sequence(sequence)
    found = {obstacle.kind: obstacle for obstacle in at.obstacles.of(sequence, at.traits, typing)}
    taken = found.get("reserved")
    if taken:
        way_out = tr("Choose another key for such seats, as a variant.")
        yield Verdict(
            "desktop",
            False,
            tr("{by} takes {written} first: it {does}.", by=taken.by, written=written, does=taken.does),
            way_out,
        )
    else:
        who = [taker.name for taker in at.obstacles.takers(at.traits) if taker.id]
        yield Verdict(
            "desktop",
            True,
            tr("Nothing takes it first{who}.", who=" (" + ", ".join(who) + ")" if who else ""),
        )
    lacking = found.get("unreachable")
    board = at.traits.keyboard
    if lacking:
        sentence = tr("No key of the {by} keyboard gives {does} by itself.", by=lacking.by, does=lacking.does)
        yield Verdict(
            "keyboard", False, sentence, _spelled(sequence, board) or tr("Choose another key, as a variant.")
        )
    elif (turned := _shifted_keypad(sequence)) is not None:
        yield turned
    elif board in known_keyboards():
        yield Verdict(
            "keyboard",
            True,
            tr("The {board} keyboard has the key.", board=keyboard_name(board))
            + _same_key(at, sequence, about)
            + _num_lock(sequence[0]),
        )
    types = found.get("types-text")
    if types and types.by:
        sentence = tr(
            "The remote session sends AltGr as Ctrl+Alt, so {written} types {does}.",
            written=written,
            does=types.does,
        )
        yield Verdict("session", False, sentence, tr("Choose a key without Ctrl+Alt for remote seats."))
    elif types:
        yield Verdict(
            "session",
            False,
            tr("{written} {does}, so it types text.", written=written, does=types.does),
            tr("Hold Ctrl with it."),
        )


def _same_key(at: Standpoint, sequence: Sequence, about: list[Binding]) -> str:
    """Name another spelling of the same key that something is bound to; empty if there is none."""
    for binding in about:
        if binding.sequence != sequence and binding.strokes == at.strokes(sequence):
            return " " + tr("{keys} is the same key there.", keys=format_sequence(binding.sequence))
    return ""


def _num_lock(chord: Chord) -> str:
    off = num_lock_twin(chord)
    return " " + tr("With Num Lock off it is {keys}.", keys=format_chord(off)) if off is not None else ""


def _shifted_keypad(sequence: Sequence) -> Verdict | None:
    """Say that Shift turns a digit of the keypad into something else, if that is so."""
    chord = next((chord for chord in sequence if needs_num_lock_off(chord)), None)
    if chord is None:
        return None
    other = num_lock_twin(chord)
    sentence = tr(
        "With Num Lock on, {keys} is {other}: Shift turns the keypad round.",
        keys=format_chord(chord),
        other=format_chord(other) if other is not None else tr("nothing"),
    )
    return Verdict("keyboard", False, sentence, tr("Choose a key without Shift."))


def _unknown_context(at: Standpoint, written: str, context: str) -> Verdict:
    return Verdict(
        "context",
        False,
        tr(
            "{written} is bound in “{context}”, which {title} does not have.",
            written=written,
            context=context,
            title=at.catalogue.title,
        ),
        tr("Correct the context of the key."),
    )


def _not_bound(at: Standpoint, sequence: Sequence, context: str) -> Verdict | None:
    """Say what else answers a key that nothing is bound to there; None if nothing does."""
    chord = sequence[0]
    if len(sequence) > 1:
        return None
    if chord.mods == ("Alt",) and len(chord.key) == 1:
        for row, item in at.outcome.buttons():
            if item.access.upper() == chord.key:
                reached = tr(
                    "{keys} presses “{label}” on {row}: it is its access key.",
                    keys=format_chord(chord),
                    label=item.label,
                    row=row.title,
                )
                return Verdict("winner", True, reached)
    kind = next((c.answering for c in at.contexts if c.id == context), "")
    if answers(kind, chord):
        where = at.contexts.name(context).lower()
        return Verdict(
            "winner",
            True,
            tr(
                "{keys} is answered by what has the focus {where}: it moves or edits there.",
                keys=format_chord(chord),
                where=where,
            ),
        )
    return None


def _spelled(sequence: Sequence, board: str) -> str:
    """“Press Ctrl+Shift+ß there”, for a chord written with a shifted symbol."""
    if board not in known_keyboards():
        return ""
    spelled = [keyboard(board).spelled(chord) for chord in sequence]
    if None in spelled:
        return ""
    return tr(
        "That symbol is {keys} there.",
        keys=format_sequence(tuple(c for c in spelled if c)),
    )


def _personal(at: Standpoint, about: list[Binding]) -> Verdict:
    own = next((binding for binding in about if binding.layer == PERSONAL), None)
    if own is None:
        return Verdict("personal", True, tr("The colleague has no key of their own here."))
    return Verdict(
        "personal",
        True,
        tr(
            "The colleague has {keys} for {name} of their own, {where}.",
            keys=format_sequence(own.sequence),
            name=at.targets.face(own.run).name or own.run or "nothing",
            where=at.contexts.name(own.context).lower(),
        ),
    )


def _for_whom(name: str) -> str:
    """Name the seats that a variant is for, at the beginning of a sentence."""
    kind, mark, value = name.partition(":")
    if not mark:
        return tr("On the {board} keyboard", board=keyboard_name(kind))
    shown = profile(value).name if value in known_profiles() else value
    return {
        "desktop": tr("On the {name} desktop", name=shown),
        "session": tr("In a {name} session", name=value),
        "reader": tr("With the screen reader {name}", name=shown),
        "input": tr("With the input method {name}", name=shown),
    }.get(kind, name)


def _missing(at: Standpoint, sequence: Sequence, written: str, context: str) -> Verdict:
    for layout in at.layouts:
        for key in layout.keys:
            here = key.on_seat(at.traits)
            if parse_sequence(key.keys) == sequence and here != key.keys:
                on = _for_whom(next(name for name in at.traits.names() if name in key.on))
                if here:
                    return Verdict(
                        "keyboard", False, tr("{on} it is {here}.", on=on, here=here), f"Press {here}."
                    )
                return Verdict(
                    "keyboard",
                    False,
                    tr("{on} seats go without {written}, on purpose.", on=on, written=written),
                )
    if written in at.elsewhere:
        sentence = tr(
            "{written} belongs to {elsewhere}, which this seat does not have.",
            written=written,
            elsewhere=at.elsewhere[written],
        )
        return Verdict("layers", False, sentence, tr("Put it into one of the seat’s layers."))
    if (other := _not_bound(at, sequence, context)) is not None:
        return other
    return Verdict(
        "winner",
        False,
        tr("Nothing has {written} here.", written=written),
        tr("Give it to a command or macro."),
    )


def _winner(
    at: Standpoint, written: str, live: list[Binding], bound: list[Binding], context: str
) -> Iterator[Verdict]:
    ruling = rule(live, at.contexts)
    winner = next((b for b in ruling.winners if b in bound), None)
    for loser in bound:
        by = ruling.displaced.get(loser.id)
        if by is not None:
            yield Verdict(
                "winner",
                True,
                tr("{loser} gives way to {winner}.", loser=at.named(loser), winner=at.named(by)),
            )
    if winner is None:
        yield Verdict(
            "winner",
            False,
            tr("Two bindings tie for {written}; neither runs.", written=written),
            tr("Move one of them."),
        )
        return
    if winner.run is None:
        title = at.title(winner.layer)
        yield Verdict(
            "winner",
            False,
            tr("{title} takes {written} away.", title=title, written=written),
            tr("Take that out of {owner} keys.", owner=owned(title)),
        )
        return
    shared = [b for b in bound if b.level > 0 and b.layer != PERSONAL and b.target != winner.target]
    if winner.layer == PERSONAL and shared:
        yield Verdict(
            "personal",
            False,
            tr(
                "{keys} runs {name}, which goes first.",
                keys=format_sequence(winner.sequence),
                name=at.named(winner),
            ),
            tr("Give the shared one another key, or ask the colleague to give theirs up."),
        )
        return
    if len(winner.strokes) > len(parse_sequence(written)):
        yield Verdict("winner", True, _beginning(at, written, [b for b in ruling.winners if b in bound]))
        return
    yield Verdict("winner", True, f"{format_sequence(winner.sequence)} runs {at.named(winner)}.")
    yield from _needs(at, winner.run, context)
    if winner.run.startswith("macro:"):
        yield _macro(at, winner.run)


def _beginning(at: Standpoint, written: str, longer: list[Binding]) -> str:
    named = listed(f"{format_sequence(b.sequence)} ({at.targets.face(b.run).name})" for b in longer)
    return tr("{written} begins {longer}.", written=written, longer=named)


def _needs(at: Standpoint, run: str, context: str) -> Iterator[Verdict]:
    """Say that a target cannot run in this context, if that is so."""
    file = at.macros.get(run.removeprefix("macro:")) if run.startswith("macro:") else None
    runs = where_runs(at.catalogue, run, file.macro if file is not None else None)
    if context in at.contexts and not runs.bound_in(context):
        name = at.targets.face(run).name or run
        here = at.contexts.name(context).lower()
        if runs.needs and not runs.never:
            sentence = tr(
                "“{name}” only runs {where}, and here is {here}.", name=name, where=runs.words, here=here
            )
        else:
            sentence = tr("“{name}” does not run {here}.", name=name, here=here)
        yield Verdict("context", False, sentence, tr("Press it elsewhere."))


def _macro(at: Standpoint, run: str) -> Verdict:
    name = run.removeprefix("macro:")
    file = at.macros.get(name)
    if file is None:
        return Verdict(
            "macro", False, tr("The macro “{name}” does not exist.", name=name), tr("Bind it to another one.")
        )
    if name in at.refused:
        return Verdict(
            "macro",
            False,
            tr("“{name}” does not run: {refused}", name=file.name, refused=at.refused[name]),
            tr("Vouch for its maker."),
        )
    others = {other: known.macro for other, known in at.macros.items()}
    same = file.macro.application in ("", at.catalogue.app)
    catalogue = with_panels(at.catalogue, at.layouts) if same else None
    faults = (*file.faults, *check_macro(file.macro, catalogue, macros=others)) if catalogue else file.faults
    if faults:
        return Verdict(
            "macro",
            False,
            tr("“{name}” cannot run: {faults}", name=file.name, faults=faults[0]),
            faults[0].way_out,
        )
    needs = [_need_words(at, need) for need in file.macro.needs]
    return Verdict("macro", True, " ".join((tr("It can run."), *needs[:1])))


def _need_words(at: Standpoint, need: Need) -> str:
    if need.context:
        return tr("It only runs {where}.", where=at.contexts.name(need.context).lower())
    about = next((reading.about for reading in at.catalogue.readings if reading.id == need.reading), "")
    return tr("It needs an answer to “{about}”.", about=about or need.reading)


def why_item(at: Standpoint, identity: str) -> list[Verdict]:
    """The chain for one item of a surface."""
    return [*_until_no(_item_links(at, identity))]


def _item_links(at: Standpoint, identity: str) -> Iterator[Verdict]:
    yield Verdict("release", True, at.release)
    item = at.outcome.button(identity)
    if item is None:
        hider = at.outcome.hidden.get(identity)
        if hider:
            yield Verdict(
                "layers",
                False,
                tr("{at} has taken it off.", at=at.title(hider)),
                tr("Let it show again there."),
            )
        else:
            yield Verdict(
                "layers", False, tr("No layer of this seat puts it anywhere."), tr("Put it on a surface.")
            )
        return
    row = at.outcome.row_of(identity)
    surface = row.title if row is not None else "nothing"
    yield Verdict(
        "layers",
        True,
        tr(
            "“{label}” stands on {surface}, put there by {at}.",
            label=item.label,
            surface=surface,
            at=at.title(item.layer),
        ),
    )
    if item.changed_by:
        yield Verdict(
            "layers",
            True,
            tr("Changed by {names}.", names=", ".join(at.title(layer) for layer in item.changed_by)),
        )
    if not item.exists:
        yield Verdict(
            "winner",
            False,
            tr("It runs {what}, which is not there.", what=item.run or "nothing"),
            tr("Choose another."),
        )
        return
    name = at.targets.face(item.run).name if item.run else tr("private steps")
    keys = ", ".join(format_sequence(b.sequence) for b in at.outcome.keys_of(item.run, item.args))
    yield Verdict(
        "winner",
        True,
        tr("It runs {name}", name=name)
        + (tr(", as {keys} does.", keys=keys) if keys else tr("; no key does.")),
    )
    if item.run and item.run.startswith("macro:"):
        yield _macro(at, item.run)
