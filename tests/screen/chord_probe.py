"""A bare window that prints the chord of each key press; a process of its own, until Escape."""

from __future__ import annotations

from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QWidget

from rimecrest.core.keys.chords import format_chord
from rimecrest.shell.key_codes import chord_of
from rimecrest.shell.start import make_qt_application


class Probe(QWidget):
    def keyPressEvent(self, event: QKeyEvent) -> None:
        chord = chord_of(event)
        if chord is not None:
            print(format_chord(chord), flush=True)
            if chord.key == "Escape":
                self.close()


if __name__ == "__main__":
    qt = make_qt_application("chord-probe")
    window = Probe()
    window.show()
    window.activateWindow()
    print("here", flush=True)
    qt.exec()
