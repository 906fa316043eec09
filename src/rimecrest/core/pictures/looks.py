"""What is seen of a picture: drawn small, on both colour schemes, and compared with another."""

from __future__ import annotations

import io
from functools import lru_cache

from PIL import Image, ImageChops, ImageStat

from rimecrest.core.pictures.checked import follows_scheme
from rimecrest.core.pictures.images import fitted
from rimecrest.core.pictures.paints import in_scheme

SHEETS = {"light": "#FFFFFF", "dark": "#1D272F"}
"""What buttons stand on: the token *sheet* of the schemes (a test holds them to the schemes)."""
INKS = {"light": "#17232C", "dark": "#E6EDF1"}
LEAST_CONTRAST = 1.6
"""Contrast ratio (WCAG 2.2, relative luminance) below which a shape melts into its ground."""
LEAST_SEEN = 0.35
"""Share of what is drawn that must stand out for the picture to be seen at all."""
ALIKE = 0.12
"""Share of what two pictures draw, 20 pixels square, that differs, below which people confuse them.

Found by trying: two lists with other marks differ by 0.18, a file and one with lines on it by 0.17, two
looking glasses of which one has an upright in its plus by 0.04.
"""
SIDE = 20


@lru_cache(maxsize=512)
def drawn(content: bytes, side: int = SIDE, ink: str = "#000000", dark: bool = False) -> Image.Image:
    """A stored picture drawn square, with alpha; `ink` is used where it has no colours of its own."""
    if content.startswith(b"\x89PNG"):
        image = Image.open(io.BytesIO(content)).convert("RGBA")
        if follows_scheme(content):
            flat = Image.new("RGBA", image.size, ink)
            flat.putalpha(image.getchannel("A"))
            image = flat
        return fitted(image, side)
    import resvg_py  # noqa: PLC0415  only where somebody looks: opening a workspace needs none of it

    text = in_scheme(content, ink, dark).decode("utf-8", "replace")
    png = bytes(resvg_py.svg_to_bytes(svg_string=text, width=side, height=side))
    image = Image.open(io.BytesIO(png)).convert("RGBA")
    return image if image.size == (side, side) else fitted(image, side)


def unseen_on(content: bytes) -> list[str]:
    """The schemes, *light* or *dark*, on which the picture cannot be made out. What is empty is on both."""
    return [
        scheme
        for scheme, sheet in SHEETS.items()
        if _stands_out(drawn(content, SIDE, INKS[scheme], scheme == "dark"), sheet) < LEAST_SEEN
    ]


def _stands_out(image: Image.Image, sheet: str) -> float:
    ground = Image.new("RGBA", image.size, sheet)
    ground.alpha_composite(image)
    against = _luminance(bytes.fromhex(sheet[1:]))
    cover = seen = 0.0
    shown = ground.convert("RGB").tobytes()
    for at, alpha in enumerate(image.getchannel("A").tobytes()):
        if alpha > 64:
            cover += alpha
            low, high = sorted((_luminance(shown[3 * at : 3 * at + 3]), against))
            seen += alpha * ((high + 0.05) / (low + 0.05) >= LEAST_CONTRAST)
    return seen / cover if cover else 0.0


def _luminance(pixel: bytes) -> float:
    """Relative luminance of an sRGB colour of three bytes, 0 to 1 (WCAG 2.2)."""
    parts = [channel / 255 for channel in pixel]
    red, green, blue = (p / 12.92 if p <= 0.04045 else float(((p + 0.055) / 1.055) ** 2.4) for p in parts)
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def alike(one: bytes, other: bytes) -> bool:
    """Whether two pictures are taken for one another on a button, whatever they are called."""
    return one == other or _difference(one, other) < ALIKE


@lru_cache(maxsize=1024)
def _difference(one: bytes, other: bytes) -> float:
    """Of what either draws, the share that is not the same, 0 to 1, in the channel where it is most."""
    pair = []
    for content in (one, other):
        ground = Image.new("RGBA", (SIDE, SIDE), "white")
        ground.alpha_composite(drawn(content))
        pair.append(ground.convert("RGB"))
    apart = ImageStat.Stat(ImageChops.difference(pair[0], pair[1])).sum
    drawn_by_either = ImageStat.Stat(ImageChops.invert(ImageChops.darker(pair[0], pair[1]))).sum
    return max(float(one / all_) if all_ else 0.0 for one, all_ in zip(apart, drawn_by_either, strict=True))
