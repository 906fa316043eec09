"""Asking where a wall chart shall go, and writing it there."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtWidgets import QWidget

from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.shell.file_dialogs import ask_save
from rimecrest.studio.shared.session import Session
from rimecrest.studio.wall_chart.content import chart_of
from rimecrest.studio.wall_chart.html import write_html
from rimecrest.studio.wall_chart.pdf import write_pdf


def ask_for_chart(parent: QWidget, session: Session, board: str) -> None:
    """Ask for a file, and write the wall chart of the aim for a keyboard there."""
    workspace, aim = session.workspace, session.aim
    name = f"{workspace.layer_title(aim.layer)}-{aim.app}.pdf".replace(" ", "-").lower()
    chosen = ask_save(
        parent, tr("A wall chart to hang up"), str(Path.home() / name), tr("PDF (*.pdf);;HTML (*.html)")
    )
    if not chosen:
        return
    path = Path(chosen)
    try:
        made = chart_of(workspace, session.checked, aim.app, aim.layer, board)
        if path.suffix == ".html":
            write_html(made, path)
        else:
            path = path if path.suffix == ".pdf" else path.with_suffix(".pdf")
            write_pdf(made, path)
    except RimecrestError as error:
        session.say(str(error))
        return
    session.say(tr("The wall chart is in {path}.", path=path))
