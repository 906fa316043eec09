"""The protocol between processes: JSON-RPC 2.0, one message a line. No Qt, no sockets of its own.

`Wire` turns bytes into messages and back; `addresses` says where running applications listen.
"""

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

__all__ = [
    "Failure",
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
