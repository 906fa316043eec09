"""Windows of their own for bars and panels that stand outside the application's window."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QEvent, QObject, QPoint, QRect, Qt, pyqtSignal
from PyQt6.QtGui import QCloseEvent, QContextMenuEvent, QGuiApplication, QShowEvent
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from rimecrest.surfaces.floating import HEAD, held_within


class ToolWindow(QWidget):
    """A window of the application's window, around one bar or panel, whose own head is the title.

    Signals:
        asked(point): it was right-clicked, at a point of the screen.
        closed: the desktop was told to close it.
        opened: it comes onto the screen.
    """

    asked = pyqtSignal(QPoint)
    opened = pyqtSignal()
    closed = pyqtSignal()

    def __init__(self, identity: str, types: bool, owner: QWidget) -> None:
        flags = Qt.WindowType.Tool | Qt.WindowType.FramelessWindowHint
        if not types:
            # A click on a button leaves the keys to the document.
            flags |= Qt.WindowType.WindowDoesNotAcceptFocus
        super().__init__(owner, flags)
        self.setObjectName(f"window {identity}")
        self.setAttribute(Qt.WidgetAttribute.WA_ShowWithoutActivating)
        self.identity = identity
        self.types = types
        self.at: tuple[int, int] | None = None
        self._view: QWidget | None = None
        self._rows = QVBoxLayout(self)
        self._rows.setContentsMargins(0, 0, 0, 0)

    def hold(self, view: QWidget, at: tuple[int, int] | None) -> None:
        """Show this; `at` is where it stands, in pixels from the corner of the document."""
        if view is not self._view:
            self._view = view
            self._rows.addWidget(view)
        self.at = at
        self.setWindowTitle(view.accessibleName())

    def stand(self, corner: QPoint) -> None:
        """Stand where it belongs, seen from `corner` on the screen; on a screen that is there."""
        if self._view is None:
            return
        wanted = corner + (QPoint(*self.at) if self.at is not None else QPoint(HEAD, HEAD))
        # Its head must be somewhere where it can be taken hold of.
        screen = QGuiApplication.screenAt(wanted + QPoint(HEAD, HEAD // 2)) or self.screen()
        ground = screen.availableGeometry() if screen is not None else QRect(wanted, self.size())
        size = self._view.sizeHint().boundedTo(ground.size())
        self.setFixedSize(size)
        self.move(held_within(wanted - ground.topLeft(), size, ground))

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.opened.emit()

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        if event is not None:
            event.accept()
            self.asked.emit(event.globalPos())

    def closeEvent(self, event: QCloseEvent | None) -> None:
        if event is not None:
            # Whoever shows it decides whether it goes.
            event.ignore()
            self.closed.emit()


class ToolWindows(QObject):
    """The windows of one frame. They come, go and move with the window in which the frame is.

    Signals:
        opened(window): one comes onto the screen; whoever resolves keys listens to it as well.
        asked(point): one was right-clicked, at a point of the screen.
        closed(identity): the desktop was told to close one.
    """

    opened = pyqtSignal(QWidget)
    asked = pyqtSignal(QPoint)
    closed = pyqtSignal(str)

    def __init__(self, frame: QWidget, ground: QWidget) -> None:
        """`ground` is the document: where everything that floats is measured from."""
        super().__init__(frame)
        self._frame = frame
        self._ground = ground
        self._windows: dict[str, ToolWindow] = {}
        self._followed: QWidget | None = None

    def hold(self, identity: str, view: QWidget, at: tuple[int, int] | None, types: bool) -> None:
        """Have a bar or panel in a window of its own; `types`: there is something in it to type into."""
        window = self._windows.get(identity)
        if window is not None and window.types != types:
            self._drop(identity)
            window = None
        if window is None:
            owner = self._frame.window() or self._frame
            window = self._windows[identity] = ToolWindow(identity, types, owner)
            window.asked.connect(self.asked)
            window.closed.connect(lambda: self.closed.emit(identity))
            window.opened.connect(partial(self.opened.emit, window))
        window.hold(view, at)

    def keep(self, identities: set[str]) -> None:
        """Let all others go."""
        for identity in set(self._windows) - identities:
            self._drop(identity)

    def _drop(self, identity: str) -> None:
        window = self._windows.pop(identity)
        window.hide()
        window.deleteLater()

    def place(self) -> None:
        """Have them all where they belong, seen while the frame is."""
        shown = self._frame.isVisible()
        if shown:
            self._follow(self._frame.window())
        corner = self._ground.mapToGlobal(QPoint(0, 0))
        for window in self._windows.values():
            if shown:
                window.stand(corner)
            window.setVisible(shown)

    def _follow(self, window: QWidget | None) -> None:
        if window is not self._followed and window is not None:
            self._followed = window
            window.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if event is not None and watched is self._followed and event.type() == QEvent.Type.Move:
            self.place()
        return False
