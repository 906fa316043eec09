"""Pictures of the free sets, frozen into SVG, so that a seat needs no icon font.

The outlines come from fonts that the qtawesome package carries, brand marks left out; licences and notices
are in `shell/pictures`. Nothing of Qt is imported: the fonts are only data here. A picture of the first set
has a plain name (`ferry`), one of another the set's before it (`phosphor.boat`).
"""

from __future__ import annotations

import contextlib
import hashlib
import importlib.util
import json
import re
from collections.abc import Mapping
from functools import lru_cache
from pathlib import Path
from typing import Any

from rimecrest import __version__
from rimecrest.core.catalogue.items import Faced, Submenu
from rimecrest.core.catalogue.surfaces import Named
from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import Folder
from rimecrest.core.own_cache import kept_as
from rimecrest.core.workspace.workspace import Workspace

_EM = 512
_FONTS = {
    "": "materialdesignicons6-webfont",
    "phosphor": "phosphor",
    "solid": "fontawesome6-solid-webfont",
    "open": "fontawesome6-regular-webfont",
}
"""Set → how its font's files begin. Sets in which brand marks cannot be told from the rest are not here."""


@lru_cache(maxsize=1)
def _families() -> frozenset[str]:
    """First words of pictures that show plain things."""
    text = Path(__file__).with_name("picture_families.txt").read_text("utf-8")
    return frozenset(text.split())


@lru_cache(maxsize=1)
def _denied() -> frozenset[int]:
    """Codes of pictures that are somebody's mark although their name is in a family."""
    text = Path(__file__).with_name("pictures_denied.txt").read_text("utf-8")
    return frozenset(int(line.split()[0], 16) for line in text.splitlines() if not line.startswith("#"))


@lru_cache(maxsize=1)
def _denied_names() -> tuple[str, ...]:
    """How the names of pictures begin that are somebody's mark, in the sets whose codes change."""
    text = Path(__file__).with_name("pictures_denied_names.txt").read_text("utf-8")
    return tuple(line for line in text.split("\n") if line and not line.startswith("#"))


def _offered(name: str) -> bool:
    """Whether a picture shows a plain thing: marks of brands come without an outline and in no family."""
    if "." in name:
        return "-logo" not in name and not name.startswith(_denied_names())
    if _characters().get(name) in _denied():
        return False
    return name.endswith("-outline") or name.split("-")[0] in _families() or name in _families()


@lru_cache(maxsize=8)
def _font_files(family: str) -> tuple[Path, Path] | None:
    found = importlib.util.find_spec("qtawesome")
    if found is None or not found.submodule_search_locations:
        return None
    folder = Path(next(iter(found.submodule_search_locations))) / "fonts"
    begin = _FONTS[family]
    fonts = sorted(path for path in folder.glob(f"{begin}-*.ttf"))
    maps = sorted(folder.glob(f"{begin}-charmap-*.json"))
    return (fonts[-1], maps[-1]) if fonts and maps else None


@lru_cache(maxsize=1)
def picture_names() -> tuple[str, ...]:
    """Every picture that can be chosen, without the marks of brands."""
    return tuple(sorted(filter(_offered, _characters())))


@lru_cache(maxsize=1)
def _characters() -> dict[str, int]:
    found: dict[str, int] = {}
    for family in _FONTS:
        files = _font_files(family)
        codes = json.loads(files[1].read_text("utf-8")) if files is not None else {}
        before = f"{family}." if family else ""
        found |= {f"{before}{name}": int(code, 16) for name, code in codes.items()}
    return found


@lru_cache(maxsize=8)
def _font(family: str) -> Any:
    import logging  # noqa: PLC0415  only the fonts' library speaks by it

    from fontTools.ttLib import TTFont  # noqa: PLC0415  a tenth of a second that only freezing needs

    # The font's own small blemishes are no news to whoever releases a layout.
    logging.getLogger("fontTools").setLevel(logging.ERROR)
    files = _font_files(family)
    assert files is not None
    return TTFont(files[0], lazy=True)


def _square_around(bounds: tuple[float, float, float, float] | None) -> str:
    """The square to show of a drawing: the font's own, or a larger one where the drawing leaves it."""
    left, top, right, bottom = bounds or (0, 0, _EM, _EM)
    if left >= 0 and top >= 0 and right <= _EM and bottom <= _EM:
        return f"0 0 {_EM} {_EM}"
    side = max(right - left, bottom - top, _EM)
    return f"{(left + right - side) / 2:g} {(top + bottom - side) / 2:g} {side:g} {side:g}"


@lru_cache(maxsize=2048)
def freeze(name: str) -> bytes | None:
    """The picture `name` of the set as SVG drawn in the text colour; None when there is no such picture."""
    folder = _kept_in()
    kept = folder / f"{name}.svg" if folder is not None and _PLAIN.fullmatch(name) else None
    if kept is not None:
        # What is not there, or has just been cleaned away, is made again.
        with contextlib.suppress(OSError):
            return kept.read_bytes()
    made = _outline(name)
    if kept is not None and made is not None:
        # Where it cannot be kept it is made again next time.
        with contextlib.suppress(RimecrestError):
            Folder(kept.parent).write(kept.name, made, 0o600)
    return made


_PLAIN = re.compile(r"[a-z0-9]+([.-][a-z0-9]+)*", re.ASCII)
"""A name that is one part of a path: names come from layouts, which anybody may have written."""


@lru_cache(maxsize=1)
def _kept_in() -> Path | None:
    """The folder of what was frozen before of these very fonts, by this Rimecrest; None: there is none."""
    files = [path for family in _FONTS for path in _font_files(family) or ()]
    fonts = "".join(f"{path.name} {path.stat().st_size}\n" for path in files)
    return kept_as("pictures", f"{__version__}-{hashlib.sha256(fonts.encode()).hexdigest()[:16]}")


def is_picture(name: str) -> bool:
    """Whether the free sets have a picture of that name, without looking at its outline."""
    return name in _characters() and _offered(name)


def _outline(name: str) -> bytes | None:
    code = _characters().get(name)
    if code is None or not _offered(name):
        return None
    from fontTools.pens.boundsPen import BoundsPen  # noqa: PLC0415  only freezing needs it
    from fontTools.pens.svgPathPen import SVGPathPen  # noqa: PLC0415  only freezing needs it
    from fontTools.pens.transformPen import TransformPen  # noqa: PLC0415  only freezing needs it

    font = _font(name.partition(".")[0] if "." in name else "")
    glyph = font.getBestCmap()[code]
    shapes = font.getGlyphSet()
    scale = _EM / font["head"].unitsPerEm
    path, box = SVGPathPen(shapes, ntos=lambda number: f"{number:g}"), BoundsPen(shapes)
    # Fonts count upwards from the baseline, SVG downwards from the top.
    upright = (scale, 0, 0, -scale, 0, font["hhea"].ascent * scale)
    shapes[glyph].draw(TransformPen(path, upright))
    shapes[glyph].draw(TransformPen(box, upright))
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{_square_around(box.bounds)}">'
        f'<path fill="currentColor" d="{path.getCommands()}"/></svg>\n'
    ).encode()


def frozen_pictures(workspace: Workspace) -> dict[str, bytes]:
    """Name → SVG of every picture of the set that the workspace's layouts use."""
    names = {"play-box-outline"}
    for layout in workspace.layouts.values():
        pictured = (thing for thing in layout.things() if isinstance(thing, Faced | Named | Submenu))
        wanted = [thing.picture or "" for thing in pictured]
        wanted += [str(change.set.get("picture", "")) for change in layout.change]
        names |= {name.removeprefix("set:") for name in wanted if name.startswith("set:")}
    frozen = {name: freeze(name) for name in sorted(names)}
    return {name: content for name, content in frozen.items() if content is not None}


def named_pictures(own: Mapping[str, bytes], frozen: Mapping[str, bytes]) -> dict[str, bytes]:
    """Pictures under the names that items use: `own:` with the file's ending, and `set:`.

    Args:
        own: file name → content of the organisation's own pictures.
        frozen: name → SVG of pictures of the free sets.
    """
    named = {f"own:{name}": content for name, content in own.items()}
    return named | {f"set:{name}": content for name, content in frozen.items()}
