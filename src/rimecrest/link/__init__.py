"""The protocol between processes: JSON-RPC 2.0, one message a line. No Qt.

`Wire` turns bytes into messages and back; `addresses` says where running applications listen; `Line` is a
connection that waits for answers, and `LinkedApplication` the application at its other end.
"""

from rimecrest.link.addresses import listening, runtime_folder, socket_path
from rimecrest.link.application import LinkedApplication
from rimecrest.link.line import Line, LinkRefused
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
