"""Opening the picture chooser at a word of a card."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import QPoint, QRect
from PyQt6.QtWidgets import QWidget

from rimecrest.shell.pictures import PictureBook
from rimecrest.shell.theme import Scheme
from rimecrest.studio.shared.session import Session

if TYPE_CHECKING:
    from rimecrest.studio.pictures.chooser import PictureChooser
    from rimecrest.studio.pictures.presenter import Subject


def open_chooser(
    session: Session, subject: Subject, book: PictureBook, scheme: Scheme, word: QWidget, back: QWidget
) -> PictureChooser:
    """Open the chooser under a word; one that is open already goes.

    Args:
        back: the card that the word stands on: it gets the keys again, and when it goes the chooser goes.
    """
    from rimecrest.studio.pictures.chooser import PictureChooser  # noqa: PLC0415  it brings what draws and converts pictures
    from rimecrest.studio.pictures.presenter import PicturePresenter  # noqa: PLC0415  the same

    window = word.window()
    assert window is not None
    for other in window.findChildren(PictureChooser):
        other.close()
    chooser = PictureChooser(session, PicturePresenter(session, subject), book, scheme, window)
    chooser.said.connect(session.say)
    session.aimed.connect(chooser.close)
    session.changed.connect(chooser.follow)
    chooser.closed.connect(lambda: back.setFocus() if back.isVisible() else None)
    back.installEventFilter(chooser)
    chooser.show_at(QRect(word.mapTo(window, QPoint(0, 0)), word.size()))
    return chooser
