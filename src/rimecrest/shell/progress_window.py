"""Work that may take long goes on in a thread, behind a window with its progress and *Cancel*."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import Future
from threading import Event, Thread
from typing import Generic, TypeVar

from PyQt6.QtCore import QEventLoop, Qt, QTimer
from PyQt6.QtWidgets import QProgressDialog, QWidget

from rimecrest.core.progress import GivenUp, Tell
from rimecrest.core.words import tr

T = TypeVar("T")
TICK = 40
"""Milliseconds between two looks at how far the work has come."""


def behind_window(parent: QWidget, words: str, work: Callable[[Tell], T], may_cancel: bool = True) -> T:
    """Do work in a thread while a window shows how far it has come. The window is there before it begins.

    The work touches no widget, and nothing that a widget shows changes meanwhile: the window takes all keys
    and clicks.

    Args:
        may_cancel: show a *Cancel* button. False for work that cannot be undone.

    Raises:
        GivenUp: *Cancel* was pressed. The work ends where it tells its progress next.
        Exception: what the work raises.
    """
    thread = _Working(work)
    window = QProgressDialog(words, tr("Cancel"), 0, 0, parent)
    window.setObjectName("progress")
    window.setWindowModality(Qt.WindowModality.ApplicationModal)
    window.setMinimumWidth(360)
    window.setAutoClose(False)
    window.setAutoReset(False)
    loop, ticking = QEventLoop(), QTimer()

    def tick() -> None:
        if not thread.ident:
            thread.start()  # only now: the window is on the screen
        elif thread.result.done():
            loop.quit()
        elif thread.part is not None:
            window.setRange(0, 100)
            window.setValue(int(thread.part * 100))

    if may_cancel:
        window.canceled.connect(thread.stopped.set)
        window.canceled.connect(loop.quit)
    else:
        window.setCancelButton(None)
        window.rejected.connect(window.show)  # Escape hides it, and the work goes on
    ticking.timeout.connect(tick)
    window.show()
    ticking.start(TICK)
    loop.exec()
    ticking.stop()
    window.hide()
    window.deleteLater()
    if thread.stopped.is_set():
        raise GivenUp
    return thread.result.result()


class _Working(Thread, Generic[T]):
    def __init__(self, work: Callable[[Tell], T]) -> None:
        super().__init__(name="work", daemon=True)
        self._work = work
        self.stopped = Event()
        self.part: float | None = None
        self.result: Future[T] = Future()

    def _tell(self, part: float | None) -> None:
        if self.stopped.is_set():
            raise GivenUp
        self.part = part

    def run(self) -> None:
        try:
            self.result.set_result(self._work(self._tell))
        except BaseException as error:
            self.result.set_exception(error)
