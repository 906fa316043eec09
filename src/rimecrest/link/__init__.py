"""The protocol between processes: JSON-RPC 2.0, one message a line. No Qt.

`Wire` turns bytes into messages and back; `addresses` says where running applications listen; `Line` is a
connection that waits for answers, and `LinkedApplication` the application at its other end.
"""

from typing import TYPE_CHECKING

from rimecrest.core.late import late_names
from rimecrest.link.addresses import listening, runtime_folder, socket_path
from rimecrest.link.wire import (
    Failure,
    Message,
    Notice,
    PeerMisbehaved,
    Reply,
    Request,
    Wire,
    encode,
)

if TYPE_CHECKING:
    from rimecrest.link.application import LinkedApplication
    from rimecrest.link.line import Line, LinkRefused

__all__ = [
    "Failure",
    "Line",
    "LinkRefused",
    "LinkedApplication",
    "Message",
    "Notice",
    "PeerMisbehaved",
    "Reply",
    "Request",
    "Wire",
    "encode",
    "listening",
    "runtime_folder",
    "socket_path",
]

# A program that only listens opens no connection of its own.
__getattr__ = late_names(__name__, {"application": "LinkedApplication", "line": "Line LinkRefused"})
