"""The protocol between processes: JSON-RPC 2.0, one message a line. No Qt.

`Wire` turns bytes into messages and back; `addresses` says where running applications listen; `Line` is a
connection that waits for answers, and `LinkedApplication` the application at its other end.
"""
