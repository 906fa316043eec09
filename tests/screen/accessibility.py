"""The accessibility tree of running programs, walked over the bus as assistive technology does (AT-SPI 2)."""

from __future__ import annotations

import subprocess
from collections.abc import Iterator
from dataclasses import dataclass
from types import TracebackType
from typing import Any

from PyQt6.QtDBus import QDBusConnection, QDBusMessage, QDBusVariant

from rimecrest.demo.desk import wait_for

ACCESSIBLE = "org.a11y.atspi.Accessible"
PROPERTIES = "org.freedesktop.DBus.Properties"
STATES = {
    4: "checked",
    7: "editable",
    8: "enabled",
    11: "focusable",
    12: "focused",
    25: "showing",
}
"""Numbers of states that are looked at (at-spi2-core, atspi-constants.h)."""


class BusRefused(Exception):
    """What is on the bus answered with an error."""


class Bus:
    """A session bus of one's own, with the accessibility bus that it starts."""

    def __init__(self) -> None:
        command = ["dbus-daemon", "--session", "--print-address", "--nofork"]
        self._daemon = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True)
        assert self._daemon.stdout is not None
        self.address = self._daemon.stdout.readline().strip()

    def __enter__(self) -> Bus:
        session = QDBusConnection.connectToBus(self.address, f"session {id(self)}")
        on = ("org.a11y.Status", "IsEnabled", QDBusVariant(True))
        _call(session, "org.a11y.Bus", "/org/a11y/bus", PROPERTIES, "Set", *on)
        (address,) = _call(session, "org.a11y.Bus", "/org/a11y/bus", "org.a11y.Bus", "GetAddress")
        self._tree = QDBusConnection.connectToBus(str(address), f"accessibility {id(self)}")
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        QDBusConnection.disconnectFromBus(f"session {id(self)}")
        QDBusConnection.disconnectFromBus(f"accessibility {id(self)}")
        self._daemon.terminate()
        self._daemon.wait(5)

    def programs(self) -> list[Node]:
        """The programs that can be walked."""
        root = Node(self._tree, "org.a11y.atspi.Registry", "/org/a11y/atspi/accessible/root")
        return root.children()


@dataclass(frozen=True)
class Node:
    """One thing of a program."""

    bus: QDBusConnection
    service: str
    path: str

    def _ask(self, interface: str, method: str, *arguments: Any) -> list[Any]:
        return _call(self.bus, self.service, self.path, interface, method, *arguments)

    @property
    def name(self) -> str:
        return str(self._ask(PROPERTIES, "Get", ACCESSIBLE, "Name")[0])

    @property
    def role(self) -> str:
        return str(self._ask(ACCESSIBLE, "GetRoleName")[0])

    @property
    def states(self) -> set[str]:
        low, high = self._ask(ACCESSIBLE, "GetState")[0]
        bits = int(low) | int(high) << 32
        return {word for number, word in STATES.items() if bits >> number & 1}

    def children(self) -> list[Node]:
        found = self._ask(ACCESSIBLE, "GetChildren")[0]
        return [Node(self.bus, str(service), str(path)) for service, path in found]

    def walk(self) -> Iterator[Node]:
        """Itself and all below it."""
        yield self
        for child in self.children():
            yield from child.walk()

    def find(self, name: str, role: str) -> Node | None:
        """The first thing below it of that name and role that shows."""
        nodes = (node for node in self.walk() if node.name == name and node.role == role)
        return next((node for node in nodes if "showing" in node.states), None)

    def seen(self, name: str, role: str) -> Node:
        """The same, waited for: a window draws when it comes to it."""
        return wait_for(f"a {role} called {name}", lambda: self.find(name, role))

    def press(self) -> None:
        """Do the first thing that it offers to do."""
        self._ask("org.a11y.atspi.Action", "DoAction", 0)


def _call(
    bus: QDBusConnection, service: str, path: str, interface: str, method: str, *arguments: Any
) -> list[Any]:
    message = QDBusMessage.createMethodCall(service, path, interface, method)
    message.setArguments(list(arguments))
    reply = bus.call(message)
    if reply.type() == QDBusMessage.MessageType.ErrorMessage:
        raise BusRefused(f"{interface}.{method}: {reply.errorMessage()}")
    return list(reply.arguments())
