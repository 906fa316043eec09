"""Write the national key tables from the system's own XKB data: `python tools/keyboards.py`.

Needs `xkbcli` (package libxkbcommon-tools), which resolves a layout to what each key gives, and the library
libxkbcommon, which knows the character of each keysym. The shipped tables need neither.
"""

from __future__ import annotations

import ctypes
import json
import re
import subprocess
import sys
from pathlib import Path
from xml.etree import ElementTree

TABLES = Path(__file__).parents[1] / "src/rimecrest/core/keys/keyboards/tables"
RULES = Path("/usr/share/X11/xkb/rules/evdev.xml")

# Layout → shape of the keyboards sold with it, and its Latin group where its own letters are others: hotkeys
# are named by the Latin group, as desktops set such seats up with two groups.
LAYOUTS: dict[str, tuple[str, str]] = {
    **dict.fromkeys(("us", "pl"), ("ansi", "")),
    **dict.fromkeys(
        "at be br ca ch cz de dk ee es fi fr gb hr hu ie is it latam lt lv nl no pt ro se si sk tr".split(),  # noqa: SIM905
        ("iso", ""),
    ),
    **dict.fromkeys(("bg", "gr", "rs", "ru", "ua"), ("iso", "us")),
}
KEYS = (
    "TLDE",
    *(f"AE{n:02}" for n in range(1, 13)),
    *(f"AD{n:02}" for n in range(1, 13)),
    *(f"AC{n:02}" for n in range(1, 12)),
    "BKSL",
    "LSGT",
    *(f"AB{n:02}" for n in range(1, 12)),
)  # fmt: skip
LEVELS = 4


class Keysyms:
    """Characters of keysyms, as libxkbcommon knows them."""

    def __init__(self) -> None:
        self._library = ctypes.CDLL("libxkbcommon.so.0")
        self._library.xkb_keysym_to_utf32.restype = ctypes.c_uint32

    def character(self, name: str) -> str:
        """The character a keysym types; its name for a dead key; nothing for what types nothing."""
        if name.startswith("dead_"):
            return name
        if name in ("NoSymbol", "VoidSymbol"):
            return ""
        keysym = self._library.xkb_keysym_from_name(name.encode(), 0)
        code = self._library.xkb_keysym_to_utf32(keysym)
        return chr(code) if code else ""


def resolved(layout: str) -> dict[str, list[str]]:
    """Key → keysym names at its levels, as the system resolves the layout."""
    text = subprocess.run(
        ["xkbcli", "compile-keymap", "--layout", layout], check=True, capture_output=True, text=True
    ).stdout
    found = {}
    for key, body in re.findall(r"key <(\w+)>\s*\{(.*?)\};", text, re.DOTALL):
        symbols = re.search(r"symbols\[(?:G|g)roup1\]\s*=\s*\[(.*?)\]", body, re.DOTALL) or re.search(
            r"\[(.*?)\]", body, re.DOTALL
        )
        if symbols:
            found[key] = [name.strip() for name in symbols.group(1).split(",")]
    return found


def table(layout: str, names: dict[str, str], keysyms: Keysyms) -> dict[str, object]:
    """One table as it is stored."""
    shape, latin = LAYOUTS[layout]
    keys = {}
    for key, symbols in resolved(layout).items():
        if key in KEYS and not (key == "LSGT" and shape == "ansi"):
            levels = [keysyms.character(name) for name in symbols[:LEVELS]]
            while levels and not levels[-1]:
                levels.pop()
            if levels:
                keys[key] = levels
    ordered = {key: keys[key] for key in KEYS if key in keys}
    data: dict[str, object] = {"format": "rimecrest.keyboard/1", "code": layout, "name": names[layout]}
    return data | {"shape": shape, **({"latin": latin} if latin else {}), "keys": ordered}


def layout_names() -> dict[str, str]:
    """Layout → its name in English, from the system's list of layouts."""
    items = (item.find("configItem") for item in ElementTree.parse(RULES).iter("layout"))
    found = {}
    for item in items:
        if item is not None:
            name = item.findtext("description", "")
            english = re.search(r"English \((.*)\)", name)
            found[item.findtext("name", "")] = {"UK": "British", "US": "American"}.get(
                english.group(1) if english else "", name
            )
    return found


def main() -> None:
    names, keysyms = layout_names() | {"ie": "Irish", "latam": "Latin American"}, Keysyms()
    for layout in LAYOUTS:
        rows = table(layout, names, keysyms)
        keys = rows.pop("keys")
        lines = [f"    {json.dumps(k)}: {json.dumps(v, ensure_ascii=False)}" for k, v in keys.items()]
        head = json.dumps(rows, ensure_ascii=False, indent=2)[:-2]
        text = head + ',\n  "keys": {\n' + ",\n".join(lines) + "\n  }\n}\n"
        json.loads(text)
        (TABLES / f"{layout}.json").write_text(text, "utf-8")
    sys.stdout.write(f"{len(LAYOUTS)} tables written to {TABLES}\n")


if __name__ == "__main__":
    main()
