"""Which national keyboard this computer is set to."""

from __future__ import annotations

from rimecrest.core.keys.keyboards.national import known_keyboards


def keyboard_here() -> str:
    """The code of the keyboard that comes first, as in people.csv; empty where nobody says.

    An X server keeps what it was set to as a property of its root window: rules, model, layouts, variants and
    options, a zero byte between (XKB protocol, “_XKB_RULES_NAMES”).
    """
    from Xlib.display import Display  # noqa: PLC0415  only under X11
    from Xlib.error import DisplayError  # noqa: PLC0415  only under X11

    try:
        server = Display()
    except (DisplayError, OSError):
        return ""
    try:
        name = server.intern_atom("_XKB_RULES_NAMES")
        found = server.screen().root.get_full_property(name, 0)
    finally:
        server.close()
    parts = bytes(found.value).decode("latin-1").split("\0") if found is not None else []
    code = parts[2].split(",")[0] if len(parts) > 2 else ""
    return code if code in known_keyboards() else ""
