"""Images of other programs made pictures for buttons: bounded by their header, square, honestly smaller.

A PNG of one colour is stored as grey with alpha (colour type 4 of the PNG specification): such a picture is a
shape without colours, and is drawn in the scheme's, as an SVG in `currentColor` is.
"""

from __future__ import annotations

import io
from pathlib import PurePath

from PIL import Image, ImageChops, ImageStat, UnidentifiedImageError

from rimecrest.core.errors import BrokenFile
from rimecrest.core.words import tr

KINDS = {".png": "PNG", ".ico": "ICO", ".webp": "WEBP"}
"""Endings that are taken, and what must be behind them."""
LARGEST = 16 * 1024 * 1024
"""Bytes of an image that comes in."""
MOST_ACROSS = 8192
"""Pixels each way of an image that comes in: a screen copied whole has no more. 256 MB decoded at most."""
STORED = 96
"""Pixels a side of what is stored: 48, the largest on a button, on a screen of twice the density."""
SIZES = (16, 20, 24, 32, 48)
"""Pixels a side that buttons show, with the interface at 100 to 200 %."""
BLURRED = 0.6
"""Share of what is drawn whose edges are lost at a size above which the picture is said to blur there.

Found by trying: the free sets' pictures have 0.1 to 0.55 at 16 pixels, pieces of a window 0.6 and more.
"""
_LOOKED = 384
"""Pixels a side at which an image is compared with what is left of it."""
_ONE_COLOUR = 40
"""Distance of two colours (largest of the three channels, 0 to 255) that are the same but for smoothing."""
_STRAY = 0.03
"""Share of what is drawn that may be of another colour all the same: what lossy kinds leave at edges."""


def read_image(content: bytes, where: str) -> Image.Image:
    """The image, with alpha, cut to a square around what is drawn.

    Args:
        where: the file's name; its ending says of what kind it is. Without an ending it may be any.

    Raises:
        BrokenFile: it is of no kind that is taken, beyond a bound, of another kind than it says, or damaged.
    """
    if len(content) > LARGEST:
        raise BrokenFile(where, tr("it is larger than {most} MiB", most=LARGEST >> 20))
    ending = PurePath(where).suffix.lower()
    if ending and ending not in KINDS:
        raise BrokenFile(where, tr("pictures are PNG, SVG, ICO or WebP"))
    try:
        image = Image.open(io.BytesIO(content), formats=tuple(KINDS.values()))
        if ending and image.format != KINDS[ending]:
            reason = tr("it ends in {ending} and is a {kind}", ending=ending, kind=image.format)
            raise BrokenFile(where, reason)
        # The header alone tells: nothing is decoded yet.
        if max(image.size) > MOST_ACROSS:
            raise BrokenFile(where, tr("it has more than {most} pixels a side", most=MOST_ACROSS))
        image.load()
    except Image.DecompressionBombError:
        raise BrokenFile(where, tr("it has more than {most} pixels a side", most=MOST_ACROSS)) from None
    except UnidentifiedImageError:
        raise BrokenFile(where, tr("it is no PNG, ICO or WebP")) from None
    except (OSError, ValueError, SyntaxError, EOFError, MemoryError) as error:
        raise BrokenFile(where, tr("it is damaged ({error})", error=str(error)[:80])) from None
    return _squared(image.convert("RGBA"))


def _squared(image: Image.Image) -> Image.Image:
    """The drawn part in the middle of a square: wide margins would make it small on a button."""
    box = image.getchannel("A").getbbox()
    if box is None:
        return Image.new("RGBA", (16, 16))
    drawn = image.crop(box)
    side = max(drawn.size)
    made = Image.new("RGBA", (side, side))
    made.paste(drawn, ((side - drawn.width) // 2, (side - drawn.height) // 2))
    return made


def fitted(image: Image.Image, side: int) -> Image.Image:
    """The image in a square of that side. Colours count by how much they cover: edges stay clean."""
    if image.size == (side, side):
        return image
    smaller = side < image.width
    how = Image.Resampling.BOX if smaller and image.width % side == 0 else Image.Resampling.LANCZOS
    # Larger whole steps of few pixels stay pixels.
    how = Image.Resampling.NEAREST if not smaller and side % image.width == 0 else how
    return image.convert("RGBa").resize((side, side), how).convert("RGBA")


def one_colour(image: Image.Image) -> bool:
    """Whether all that is drawn has one colour: then the picture can follow the scheme's."""
    solid = image.getchannel("A").point(lambda alpha: 255 * (alpha > 128))
    if solid.getbbox() is None:
        return False
    other = Image.new("L", image.size)
    for band in (image.getchannel(name) for name in "RGB"):
        usual = ImageStat.Stat(band, solid).median[0]
        far = band.point(lambda value, usual=usual: 255 * (abs(value - usual) > _ONE_COLOUR))
        other = ImageChops.lighter(other, far)
    return float(ImageStat.Stat(other, solid).mean[0]) / 255 <= _STRAY


def stored_png(image: Image.Image) -> bytes:
    """What is kept of an image: at most `STORED` pixels a side, without colours where it has one alone."""
    kept = fitted(image, STORED) if image.width > STORED else image
    if one_colour(kept):
        alpha = kept.getchannel("A")
        kept = Image.merge("LA", (Image.new("L", kept.size), alpha))
    out = io.BytesIO()
    kept.save(out, "PNG", optimize=True)
    return out.getvalue()


def blurred_at(image: Image.Image) -> list[int]:
    """The sizes at which too much of what is drawn runs together to be made out."""
    return [side for side in SIZES if _lost(image, side) > BLURRED]


def _lost(image: Image.Image, side: int) -> float:
    """The share of an image's own edges that is no longer there when it is made that small, 0 to 1."""
    if image.width <= side:
        return 0.0
    # Compared as it is seen, on white and at one size.
    seen = min(image.width, _LOOKED)
    plain = _on_white(fitted(image, seen))
    again = _on_white(fitted(fitted(image, side), seen))
    change = ImageStat.Stat(ImageChops.difference(plain, again)).sum[0]
    drawn = ImageStat.Stat(ImageChops.invert(plain)).sum[0]
    return float(change / drawn) if drawn else 0.0


def _on_white(image: Image.Image) -> Image.Image:
    ground = Image.new("RGBA", image.size, "white")
    ground.alpha_composite(image)
    return ground.convert("L")
