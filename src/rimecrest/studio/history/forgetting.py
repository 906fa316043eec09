"""Forgetting for good: a colleague, a macro, a companion, in the workspace and in all that was before."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import partial

from PyQt6.QtWidgets import QMessageBox, QWidget

from rimecrest.core.search import Match
from rimecrest.core.words import counted, tr
from rimecrest.core.workspace.edits import Edit
from rimecrest.core.workspace.file_edits import PutCompanion, PutMacro
from rimecrest.core.workspace.layer_ids import MINE
from rimecrest.core.workspace.parts import COMPANIONS, MACROS, OWN_KEYS, PEOPLE
from rimecrest.core.workspace.people_edits import ForgetPerson, own_keys_without, people_without
from rimecrest.core.workspace.where_used import uses
from rimecrest.studio.shared.session import Forgetting, Session

FORGET = "forget"
"""The kind of these rows: they show only where the word was typed."""


def forgetting_actions(session: Session, window: QWidget) -> list[Match]:
    """The rows of the finder that forget something; each asks first."""
    workspace = session.workspace
    found = []
    for name in dict.fromkeys(seat.name for seat in workspace.people if seat.name):
        found.append(_row(name, partial(_person, session, window, name), tr("colleague")))
    for (layer, identity), file in workspace.macros.items():
        if layer != MINE:
            do = partial(_macro, session, window, layer, identity)
            found.append(_row(file.name, do, tr("macro of {layer}", layer=workspace.layer_title(layer))))
    for name in workspace.companions:
        found.append(_row(name, partial(_companion, session, window, name), tr("companion")))
    return found


def _row(name: str, do: Callable[[], object], what: str) -> Match:
    title = tr("Forget {name} for good …", name=name)
    return Match(FORGET, title, title, what, action=do)


def _person(session: Session, window: QWidget, name: str) -> None:
    seats = frozenset(seat.seat for seat in session.workspace.people if seat.name == name)
    files: Mapping[str, Forgetting] = {
        PEOPLE.place: lambda content: people_without(content, name),
        OWN_KEYS.place: lambda content: own_keys_without(content, seats),
    }
    told = tr("{seats} and the keys that they made there go.", seats=counted(len(seats), tr("seat")))
    _ask(session, window, name, told, ForgetPerson(name), files)


def _macro(session: Session, window: QWidget, layer: str, identity: str) -> None:
    file = session.workspace.macros[layer, identity]
    number = len(uses(session.workspace, layer, identity))
    told = (
        tr("{things} still run it.", things=counted(number, tr("thing")))
        if number
        else tr("Nothing runs it.")
    )
    _ask(
        session,
        window,
        file.name,
        told,
        PutMacro(layer, identity, None),
        {MACROS.path((layer, identity)): None},
    )


def _companion(session: Session, window: QWidget, name: str) -> None:
    told = tr("Macros that open it find nothing then.")
    _ask(session, window, name, told, PutCompanion(name, None), {COMPANIONS.path(name): None})


def _ask(
    session: Session, window: QWidget, name: str, told: str, edit: Edit, files: Mapping[str, Forgetting]
) -> None:
    box = QMessageBox(window)
    box.setObjectName("forget")
    box.setIcon(QMessageBox.Icon.Warning)
    box.setText(tr("Forget “{name}” for good?", name=name))
    box.setInformativeText(
        tr(
            "{told} It goes out of everything that was before as well, and no undo brings it back. "
            "Releases that went out keep what they have.",
            told=told,
        )
    )
    go = box.addButton(tr("Forget it"), QMessageBox.ButtonRole.DestructiveRole)
    stay = box.addButton(tr("Keep it"), QMessageBox.ButtonRole.RejectRole)
    box.setDefaultButton(stay)
    box.exec()
    if box.clickedButton() is go and session.forget(edit, files, name):
        session.say(tr("“{name}” is forgotten for good.", name=name))
