"""Starting a Qt program: its one QApplication, with our style and fonts, and what becomes of faults."""

from __future__ import annotations

import gc
import signal
import sys

from PyQt6 import sip
from PyQt6.QtCore import QTimer, QtMsgType, qInstallMessageHandler
from PyQt6.QtWidgets import QApplication

from rimecrest.core.log import log
from rimecrest.shell.theme import LIGHT, font, palette


def make_qt_application(name: str) -> QApplication:
    """The one QApplication of a process: plain style, our palette and font, no stylesheet."""
    # Most objects live as long as the program, so collecting often finds little and makes the window wait.
    gc.set_threshold(100_000, 20, 100)
    known = QApplication.instance()
    # As an argument: `setStyle` gives a style back, and all of its enumerations would be made for that.
    qt = known if isinstance(known, QApplication) else QApplication([*sys.argv[:1], "-style", "Fusion"])
    qInstallMessageHandler(_log_qt)
    qt.setApplicationName(name)
    qt.setPalette(palette(LIGHT))
    qt.setFont(font(13))
    # Python's own handler of Ctrl+C and of the session's end only runs when the event loop lets it. Where the
    # loop has not begun there is nothing to leave yet: what is due at once ends it as soon as it does.
    signal.signal(signal.SIGINT, lambda *_: QTimer.singleShot(0, qt.quit))
    signal.signal(signal.SIGTERM, lambda *_: QTimer.singleShot(0, lambda: qt.exit(0)))
    ticking = QTimer(qt)
    ticking.timeout.connect(lambda: None)
    ticking.start(250)
    sys.excepthook = _log_and_go_on
    return qt


def run(qt: QApplication) -> int:
    """Run the event loop until it ends, then take all windows down. Returns the exit status.

    Left to the interpreter, their parts would go in any order, some after what they stand on.
    """
    status = qt.exec()
    for window in qt.topLevelWidgets():
        if not sip.isdeleted(window) and window.parent() is None:
            sip.delete(window)
    return status


_NOISE = ("wildcard call disconnects from destroyed signal", "propagateSizeHints", "X11 connection broke")
"""Beginnings of Qt's remarks about itself that nobody can act on."""


def _log_qt(kind: QtMsgType, _where: object, message: str | None) -> None:
    if not any(known in (message or "") for known in _NOISE):
        grave = kind in (QtMsgType.QtCriticalMsg, QtMsgType.QtFatalMsg)
        (log.error if grave else log.debug)("Qt", message=message)


def _log_and_go_on(kind: type[BaseException], error: BaseException, trace: object) -> None:
    # PyQt ends the process on an exception in a slot; a colleague's letter must outlive our mistakes.
    log.error("unexpected", exc_info=(kind, error, trace))
