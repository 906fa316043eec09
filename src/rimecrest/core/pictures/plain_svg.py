"""An SVG of another program made one of plain paths, as `checked` takes it.

Three steps: a reader that refuses what reaches out or has no end (lxml, no network, no entities); shapes,
uses, strokes and clippings made paths (picosvg); what is left of it checked like any picture. The middle one
may take long or much memory for an SVG that is made to: run this module as a program of its own and end it,
as `rimecrest.studio.pictures.converting` does. It reads an SVG and writes the plain one, or a reason:

    python -m rimecrest.core.pictures.plain_svg < in.svg > out.svg
"""

from __future__ import annotations

import re
import sys
from typing import Any

from rimecrest.core.errors import BrokenFile
from rimecrest.core.pictures.checked import checked_picture
from rimecrest.core.words import tr

LARGEST = 4 * 1024 * 1024
"""Bytes of an SVG that comes in: drawing programs note much that nobody sees."""
MOST_ELEMENTS = 5_000
DEEPEST = 40
MOST_USES = 200
"""Each `use` copies what it names; those that name one another would double, so they are bounded."""
REFUSED = 3
"""Exit status: it is refused, and the reason is on the standard output."""

_SVG = "{http://www.w3.org/2000/svg}"
_XLINK = "{http://www.w3.org/1999/xlink}"
_FOREIGN = (
    "script",
    "image",
    "foreignObject",
    "style",
    "iframe",
    "audio",
    "video",
    "a",
    "mask",
    "filter",
    "pattern",
)
"""What reaches out, runs, or is no shape."""
_DROPPED = ("metadata", "title", "desc", "animate", "animateTransform", "set", "switch")
_NAMES = re.compile(r"url\(\s*[\"']?(?!#)", re.IGNORECASE)


def plain_paths(content: bytes, where: str) -> bytes:
    """The SVG with nothing but paths in plain colours; a gradient becomes its middle colour.

    Args:
        where: names it in sentences.

    Raises:
        BrokenFile: it is no SVG, reaches out, is beyond a bound, or shows nothing.
    """
    tree = _tidied(content, where)
    from lxml import etree  # noqa: PLC0415  only where an SVG of another program comes in
    from picosvg.svg import SVG  # noqa: PLC0415  only where an SVG of another program comes in

    read: Any = SVG

    try:
        drawn = read(tree).topicosvg(allow_text=False)
    except (
        Exception
    ) as error:  # picosvg has no errors of its own: asserts, KeyErrors and ValueErrors by turns
        reason = tr(
            "its shapes cannot be made paths ({error})", error=str(error)[:80] or type(error).__name__
        )
        raise BrokenFile(where, reason) from None
    root = drawn.toetree() if hasattr(drawn, "toetree") else etree.fromstring(drawn.tostring().encode())
    made = _of_plain_colours(root, where)
    return checked_picture(made, where)


def _tidied(content: bytes, where: str) -> Any:
    """The tree without what is not drawn. Raises BrokenFile as `plain_paths`."""
    from lxml import etree  # noqa: PLC0415  only where an SVG of another program comes in

    if len(content) > LARGEST:
        raise BrokenFile(where, tr("it is larger than {most} MiB", most=LARGEST >> 20))
    parser = etree.XMLParser(
        resolve_entities=False,
        no_network=True,
        load_dtd=False,
        huge_tree=False,
        remove_comments=True,
        remove_pis=True,
    )
    try:
        root = etree.fromstring(content, parser)
    except (etree.XMLSyntaxError, ValueError) as error:
        raise BrokenFile(where, tr("it is no SVG ({error})", error=str(error)[:80])) from None
    _refuse_others(root, where)
    _say_how_large(root, where)
    every = list(root.iter(etree.Element))
    if len(every) > MOST_ELEMENTS or any(_depth(one) > DEEPEST for one in every):
        raise BrokenFile(where, tr("it has too many elements"))
    for element in every:
        name = element.tag.removeprefix(_SVG)
        if name in _FOREIGN and element.tag.startswith(_SVG):
            raise BrokenFile(where, tr("it has a “{name}”", name=name))
        if name in _DROPPED or not element.tag.startswith(_SVG):
            # What drawing programs note for themselves is not drawn.
            parent = element.getparent()
            if parent is not None:
                parent.remove(element)
            continue
        _tidy_attributes(element, where)
    uses = list(root.iter(f"{_SVG}use"))
    if len(uses) > MOST_USES or any(len(_uses_behind(use, root)) > MOST_USES for use in uses):
        raise BrokenFile(where, tr("its uses repeat one another without end"))
    return root


def _refuse_others(root: Any, where: str) -> None:
    """Raises BrokenFile where it is no SVG, or could be more than one."""
    if root.getroottree().docinfo.internalDTD is not None:
        raise BrokenFile(where, tr("it declares a document type"))
    if root.tag == "svg":
        raise BrokenFile(where, tr("it does not say that it is an SVG (xmlns)"))
    if root.tag != f"{_SVG}svg":
        raise BrokenFile(where, tr("it begins with “{name}”", name=str(root.tag)[:40]))


def _say_how_large(root: Any, where: str) -> None:
    """Give the drawing a viewBox where it has a width and a height, in whatever unit: all scale alike."""
    if root.get("viewBox"):
        return
    sides = [re.match(r"[0-9]*\.?[0-9]+", root.get(side, "").strip()) for side in ("width", "height")]
    if None in sides:
        raise BrokenFile(where, tr("it does not say how large it is"))
    root.set("viewBox", "0 0 " + " ".join(side[0] for side in sides if side))


def _depth(element: Any) -> int:
    return sum(1 for _ in element.iterancestors())


def _tidy_attributes(element: Any, where: str) -> None:
    for name, value in list(element.attrib.items()):
        if name.startswith("on") or _NAMES.search(value) or "\\" in value:
            raise BrokenFile(where, tr("it has the attribute “{name}”", name=name[:40]))
        link = name in ("href", f"{_XLINK}href")
        if link and not value.startswith("#"):
            raise BrokenFile(where, tr("it names something outside (“{value}”)", value=value[:40]))
        if (name.startswith("{") and not link) or name.startswith("stroke-dash"):
            del element.attrib[name]


def _uses_behind(use: Any, root: Any) -> list[Any]:
    """The uses that a use copies, each as often as it is copied, until there are too many."""
    known = {element.get("id"): element for element in root.iter() if element.get("id")}
    found: list[Any] = []
    ahead = [use]
    while ahead and len(found) <= MOST_USES:
        one = ahead.pop()
        named = known.get((one.get("href") or one.get(f"{_XLINK}href") or "").removeprefix("#"))
        inner = [] if named is None else list(named.iter(f"{_SVG}use"))
        found += inner
        ahead += inner
    return found


def _of_plain_colours(root: Any, where: str) -> bytes:
    """The paths alone, in the order they are drawn, a gradient in its middle colour."""
    from lxml import etree  # noqa: PLC0415  only where an SVG of another program comes in

    gradients = {
        one.get("id"): _middle(one)
        for one in root.iter()
        if one.tag in (f"{_SVG}linearGradient", f"{_SVG}radialGradient")
    }
    made = etree.Element(f"{_SVG}svg", nsmap={None: _SVG[1:-1]})
    made.set("viewBox", root.get("viewBox"))
    for path in root.iter(f"{_SVG}path"):
        fill = path.get("fill", "#000000")
        named = re.fullmatch(r"url\(#(.*)\)", fill)
        kept = etree.SubElement(made, f"{_SVG}path")
        kept.set("d", path.get("d", ""))
        kept.set("fill", gradients.get(named[1], "#808080") if named else fill)
        for name in ("fill-rule", "opacity", "fill-opacity"):
            if path.get(name):
                kept.set(name, path.get(name))
    if not len(made):
        raise BrokenFile(where, tr("it shows nothing that is a shape"))
    return bytes(etree.tostring(made)) + b"\n"


def _middle(gradient: Any) -> str:
    stops = [stop.get("stop-color", "#000000") for stop in gradient.iter(f"{_SVG}stop")]
    return str(stops[len(stops) // 2]) if stops else "#808080"


def main() -> int:
    """Read the standard input, write the standard output; `REFUSED` with a reason there when it cannot be."""
    try:
        made = plain_paths(sys.stdin.buffer.read(LARGEST + 1), "")
    except BrokenFile as error:
        sys.stdout.write(error.reason)
        return REFUSED
    sys.stdout.buffer.write(made)
    return 0


if __name__ == "__main__":
    sys.exit(main())
