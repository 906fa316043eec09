"""Which chords the desktop of this machine really takes: read through the gsettings program, else the
profile.

gsettings is the public way to the settings of desktops that keep them in dconf (gsettings(1)); their keys are
written as accelerators, `<Primary><Alt>d` (GTK's gtk_accelerator_parse). Other desktops answer with the
profile that comes with Rimecrest.
"""

from __future__ import annotations

import ast
import os
import re
import shutil
import subprocess
from collections.abc import Iterator

from rimecrest.core.errors import RimecrestError
from rimecrest.core.keys.chords import normalise
from rimecrest.core.keys.desktops.profiles import Profile, known_profiles, profile
from rimecrest.core.log import log

_HELD = {
    "primary": "Ctrl", "control": "Ctrl", "ctrl": "Ctrl", "alt": "Alt", "mod1": "Alt", "shift": "Shift",
    "super": "Super", "mod4": "Super",
}  # fmt: skip
_SYMBOLS = {
    "above_tab": "`", "grave": "`", "space": "space", "minus": "-", "equal": "=", "comma": ",", "period": ".",
    "slash": "/", "semicolon": ";", "apostrophe": "'", "bracketleft": "[", "bracketright": "]",
    "backslash": "\\",
}  # fmt: skip
PATIENCE = 5
"""Seconds that gsettings may take for one schema; it answers in a few milliseconds."""


def desktop_here() -> str:
    """The profile of the running session, by the desktop entry specification's XDG_CURRENT_DESKTOP."""
    names = os.environ.get("XDG_CURRENT_DESKTOP", "").lower().split(":")
    meant = {"kde": "plasma", "gnome-classic": "gnome", "ubuntu": "gnome"}
    return next((found for name in names if (found := meant.get(name, name)) in known_profiles()), "")


def reserved_here(identity: str) -> tuple[Profile, bool]:
    """The reserved keys of this machine.

    Args:
        identity: the profile to begin with: its desktop, input method or screen reader.

    Returns:
        The profile, with the keys as they are set here where they can be read; and whether they could.

    Raises:
        RimecrestError: there is no such profile.
    """
    known = profile(identity)
    found: dict[str, str] = {}
    for schema in known.gsettings:
        found |= _read(schema)
    if not found:
        return known, False
    # What no setting says, such as the pictures of the screen on older desktops, is kept from the profile.
    settable = {keys for keys, does in known.reserved.items() if does in found.values()}
    kept = {keys: does for keys, does in known.reserved.items() if keys not in settable}
    return known.model_copy(update={"reserved": {**kept, **found}}), True


def _read(schema: str) -> dict[str, str]:
    """Chord → what it does, of one schema; empty where it is not installed."""
    program = shutil.which("gsettings")
    if program is None:
        return {}
    try:
        done = subprocess.run(
            [program, "list-recursively", schema],
            capture_output=True,
            text=True,
            timeout=PATIENCE,
            check=False,
        )
    except (OSError, subprocess.TimeoutExpired) as error:
        log.warning("the desktop's settings cannot be read", schema=schema, reason=str(error))
        return {}
    found: dict[str, str] = {}
    for line in done.stdout.splitlines() if done.returncode == 0 else ():
        _, _, rest = line.partition(" ")
        name, _, value = rest.partition(" ")
        for keys in _accelerators(value):
            found[keys] = f"does “{name.replace('-', ' ')}”"
    return found


def _accelerators(value: str) -> Iterator[str]:
    """The chords in a setting's value: a list of accelerators, or one."""
    text = value.removeprefix("@as ").strip()
    try:
        parsed = ast.literal_eval(text)
    except (ValueError, SyntaxError):
        return
    for accelerator in [parsed] if isinstance(parsed, str) else parsed if isinstance(parsed, list) else []:
        if isinstance(accelerator, str) and (keys := chord_of_accelerator(accelerator)):
            yield keys


def chord_of_accelerator(text: str) -> str:
    """A chord in its one spelling, of an accelerator such as `<Primary><Alt>d`; empty when it is none."""
    held = re.findall(r"<(\w+)>", text)
    key = re.sub(r"<\w+>", "", text)
    mods = [_HELD.get(name.lower(), "") for name in held]
    if not key or "" in mods:
        return ""
    try:
        return normalise("+".join([*dict.fromkeys(mods), _SYMBOLS.get(key.lower(), key)]))
    except RimecrestError:
        return ""
