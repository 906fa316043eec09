"""Pictures of one's own: brought in honestly, drawn on a grid, found by a word, seen on both schemes."""

from __future__ import annotations

import io

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image, ImageDraw

from rimecrest.core.errors import BrokenFile
from rimecrest.core.pictures.checked import checked_picture, follows_scheme
from rimecrest.core.pictures.drawing import GRIDS, Drawing, Mirror, ellipse, frame, line
from rimecrest.core.pictures.images import (
    MOST_ACROSS,
    blurred_at,
    fitted,
    one_colour,
    read_image,
    stored_png,
)
from rimecrest.core.pictures.index import PictureIndex
from rimecrest.core.pictures.looks import INKS, SHEETS, alike, drawn, unseen_on
from rimecrest.core.pictures.paints import PAINTS, in_scheme
from rimecrest.core.pictures.plain_svg import MOST_USES, plain_paths
from rimecrest.core.release.pictures import freeze, picture_names
from rimecrest.shell.theme import DARK, LIGHT
from tests.core.test_hostile_pictures import png

COLOURS = ("", "ink", "crest", "blocks", "#A8480A", "#FFFFFF")
HEAD = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"'


def coded(image: Image.Image, kind: str) -> bytes:
    out = io.BytesIO()
    image.save(out, kind)
    return out.getvalue()


def disc(side: int, colour: str) -> Image.Image:
    image = Image.new("RGBA", (side, side))
    ImageDraw.Draw(image).ellipse((2, 2, side - 3, side - 3), fill=colour)
    return image


# Drawing


@st.composite
def drawings(draw: st.DrawFn) -> Drawing:
    size = draw(st.sampled_from(GRIDS))
    points = st.tuples(st.integers(-2, size), st.integers(-2, size))
    made = Drawing.empty(size)
    for colour, cells in draw(
        st.lists(st.tuples(st.sampled_from(COLOURS), st.lists(points, max_size=30)), max_size=4)
    ):
        made = made.painted(cells, colour, draw(st.sampled_from(list(Mirror))))
    return made


@given(drawings())
def test_what_is_drawn_is_stored_and_read_back_cell_by_cell(drawing: Drawing) -> None:
    content = drawing.to_svg()
    assert checked_picture(content, "x") is content
    assert Drawing.of(content) == drawing


@given(drawings(), st.integers(-40, 40), st.integers(-40, 40))
def test_shifting_loses_nothing(drawing: Drawing, dx: int, dy: int) -> None:
    assert drawing.shifted(dx, dy).shifted(-dx, -dy) == drawing


def test_each_tool_does_what_it_says() -> None:
    empty = Drawing.empty(16)
    both = empty.painted([(1, 2)], "crest", Mirror.BOTH)
    assert [at for at in range(256) if both.cells[at]] == [33, 46, 209, 222]
    assert empty.painted([(16, 0), (-1, 3)], "ink") == empty
    box = empty.painted(frame((9, 8), (2, 3)), "ink")
    assert sum(map(bool, box.cells)) == 24
    filled = box.filled((5, 5), "good")
    assert filled.cells.count("good") == 6 * 4
    assert filled.at((0, 0)) == ""
    assert box.filled((0, 0), "good").cells.count("good") == 256 - 24 - 24
    assert line((0, 0), (3, 1)) == [(0, 0), (1, 0), (2, 1), (3, 1)]
    assert line((5, 5), (5, 5)) == [(5, 5)]
    ring = ellipse((0, 0), (8, 8))
    assert (4, 0) in ring
    assert (0, 4) in ring
    assert (4, 4) not in ring
    assert (0, 0) not in ring
    assert {(8 - x, y) for x, y in ring} == set(ring)
    assert ellipse((3, 3), (3, 3)) == [(3, 3)]
    assert box.resized(32).resized(16) == box


def test_a_drawing_begins_from_a_found_picture() -> None:
    ferry = Drawing.of(freeze("ferry") or b"", 24)
    assert (ferry.size, set(ferry.cells)) == (24, {"", "ink"})
    assert 100 < ferry.cells.count("ink") < 400
    assert alike(ferry.to_svg(), freeze("ferry") or b"") or ferry.cells.count("ink") > 100


# Bringing in


@pytest.mark.parametrize("kind", ["PNG", "ICO", "WEBP"])
def test_images_of_each_kind_come_in(kind: str) -> None:
    image = read_image(coded(disc(64, "#A8480A"), kind), f"x.{kind.lower()}")
    assert image.width == image.height
    stored = stored_png(image)
    assert checked_picture(stored, "x") is stored
    assert follows_scheme(stored)


def test_several_colours_stay_and_one_follows_the_scheme() -> None:
    two = disc(48, "#A8480A")
    ImageDraw.Draw(two).rectangle((20, 20, 28, 28), fill="#FFFFFF")
    assert not one_colour(two)
    assert not follows_scheme(stored_png(two))
    red, _, _, _ = drawn(stored_png(two)).getpixel((10, 4))
    assert red > 120
    plain = stored_png(disc(48, "#A8480A"))
    assert drawn(plain, 20, "#E6EDF1").getpixel((10, 10)) == (0xE6, 0xED, 0xF1, 255)


def test_a_wide_image_stands_in_the_middle_and_margins_go() -> None:
    wide = Image.new("RGBA", (200, 100))
    ImageDraw.Draw(wide).rectangle((50, 40, 129, 59), fill="#123456")
    image = read_image(coded(wide, "PNG"), "wide.png")
    assert image.size == (80, 80)
    assert image.getchannel("A").getbbox() == (0, 30, 80, 50)


def test_smaller_is_averaged_without_dark_edges_and_few_pixels_stay_pixels() -> None:
    image = Image.new("RGBA", (64, 64), (0, 0, 0, 0))
    ImageDraw.Draw(image).rectangle((16, 16, 47, 47), fill="#FFFFFF")
    small = fitted(image, 24)
    assert {small.getpixel((x, 12))[0] for x in range(24) if small.getpixel((x, 12))[3] > 20} == {255}
    pixels = Image.new("RGBA", (2, 2), "#FF0000")
    pixels.putpixel((0, 0), (0, 0, 255, 255))
    large = fitted(pixels, 16)
    assert sorted(large.getcolors()) == [(64, (0, 0, 255, 255)), (192, (255, 0, 0, 255))]


def test_it_is_said_where_an_image_blurs() -> None:
    fine = Image.new("RGBA", (400, 400), "white")
    for at in range(0, 400, 8):
        ImageDraw.Draw(fine).line((at, 0, at, 399), fill="black", width=2)
    assert blurred_at(fine)[:2] == [16, 20]
    assert blurred_at(disc(400, "#123456")) == []
    assert blurred_at(disc(16, "#123456")) == []


PNG = coded(Image.new("RGBA", (8, 8), "red"), "PNG")


@pytest.mark.parametrize(
    ("content", "name", "says"),
    [
        (png(9_000, 10), "x.png", f"it has more than {MOST_ACROSS} pixels a side"),
        (png(20_000, 20_000), "x.png", f"it has more than {MOST_ACROSS} pixels a side"),
        (PNG, "x.ico", "it ends in .ico and is a PNG"),
        (PNG, "x.jpg", "pictures are PNG, SVG, ICO or WebP"),
        (coded(disc(64, "red"), "PNG")[:200], "x.png", "it is damaged"),
        (b"GIF89a" + bytes(40), "x.png", "it is no PNG, ICO or WebP"),
        (b"", "", "it is no PNG, ICO or WebP"),
        (bytes(17 * 1024 * 1024), "x.png", "it is larger than 16 MiB"),
    ],
    ids=["wide", "large", "another ending", "another kind", "cut off", "another", "empty", "heavy"],
)
def test_hostile_images_are_refused_by_a_sentence(content: bytes, name: str, says: str) -> None:
    with pytest.raises(BrokenFile, match=says):
        read_image(content, name)


@given(st.binary(max_size=300), st.integers(8, 60))
def test_any_damage_to_an_image_is_told(noise: bytes, at: int) -> None:
    content = PNG[:at] + noise + PNG[at + len(noise) :]
    try:
        assert read_image(content, "x.png").width
    except BrokenFile as error:
        assert error.reason  # noqa: PT017 (most are refused, some are not)


# SVG of other programs


def test_an_svg_of_another_program_becomes_plain_paths() -> None:
    svg = f"""{HEAD} width="24px" height="24"><metadata><x/></metadata><defs>
      <linearGradient id="g"><stop offset="0" stop-color="#ff0000"/>
      <stop offset="1" stop-color="#00ff00"/></linearGradient>
      <g id="u"><circle cx="5" cy="5" r="3" style="fill:url(#g)"/></g></defs>
      <use xlink:href="#u" x="2"/>
      <rect x="1" y="1" width="9" height="9" stroke="black" stroke-width="2" fill="none"/></svg>"""
    made = plain_paths(svg.encode(), "x.svg")
    assert checked_picture(made, "x.svg") is made
    assert b'viewBox="0 0 24 24"' in made
    assert made.count(b"<path") == 2
    assert b"#00ff00" in made
    assert drawn(made, 24).getpixel((7, 5))[:3] == (0, 255, 0)


DOUBLING = '<g id="a0"><path d="M0 0h1v1z"/></g>' + "".join(
    f'<g id="a{n + 1}">' + f'<use xlink:href="#a{n}"/>' * 10 + "</g>" for n in range(12)
)


@pytest.mark.parametrize(
    ("inner", "says"),
    [
        (DOUBLING, "its uses repeat one another without end"),
        ('<g id="a"><use xlink:href="#a"/></g>', "its uses repeat one another without end"),
        ('<path d="M0 0h1v1z"/>' + '<use xlink:href="#x"/>' * (MOST_USES + 1), "its uses repeat one another"),
        ('<image xlink:href="/tmp/pipe"/>', "it has a “image”"),
        ("<style>@import 'x'</style>", "it has a “style”"),
        ('<path style="fill:url(file:///x)" d="M0 0"/>', "the attribute “style”"),
        ('<use xlink:href="other.svg#a"/>', "it names something outside"),
        ('<path onload="x" d="M0 0"/>', "the attribute “onload”"),
        ("<script>x</script>", "it has a “script”"),
        ("<g>" * 50 + "</g>" * 50, "it has too many elements"),
        ("<g/>" * 6000, "it has too many elements"),
        ("", "it shows nothing that is a shape"),
        ("<text>abc</text>", "cannot be made paths"),
    ],
)
def test_a_hostile_svg_is_refused_by_a_sentence(inner: str, says: str) -> None:
    with pytest.raises(BrokenFile, match=says):
        plain_paths(f'{HEAD} viewBox="0 0 9 9">{inner}</svg>'.encode(), "x.svg")


@pytest.mark.parametrize(
    ("content", "says"),
    [
        (
            b'<!DOCTYPE svg SYSTEM "file:///etc/passwd"><svg xmlns="http://www.w3.org/2000/svg"/>',
            "document type",
        ),
        (b'<!DOCTYPE svg [<!ENTITY a "aaaa">]><svg xmlns="http://www.w3.org/2000/svg"/>', "document type"),
        (b"<svg/>", "does not say that it is an SVG"),
        (b"<html/>", "begins with “html”"),
        (b"<svg", "it is no SVG"),
        (b"", "it is no SVG"),
        (b'<svg xmlns="http://www.w3.org/2000/svg"/>', "does not say how large it is"),
    ],
)
def test_what_is_no_svg_says_so(content: bytes, says: str) -> None:
    with pytest.raises(BrokenFile, match=says):
        plain_paths(content, "x.svg")


# What is seen


def test_the_schemes_colours_are_the_schemes() -> None:
    for scheme, at in ((LIGHT, 0), (DARK, 1)):
        assert (SHEETS[scheme.name], INKS[scheme.name]) == (scheme.sheet, scheme.ink)
        for token, values in PAINTS.items():
            assert values[at] == getattr(scheme, token)


def test_a_scheme_colour_is_another_one_on_the_dark_scheme() -> None:
    content = Drawing.empty(16).painted([(0, 0)], "crest").painted([(1, 0)], "ink").to_svg()
    dark = in_scheme(content, "#E6EDF1", True)
    assert b"#5FB9CF" in dark
    assert b"#E6EDF1" in dark
    assert b"#14657A" in in_scheme(content, "#17232C", False)


def test_what_cannot_be_seen_on_a_scheme_is_told() -> None:
    square = [(x, y) for x in range(4, 12) for y in range(4, 12)]
    empty = Drawing.empty(16)
    assert unseen_on(empty.painted(square, "ink").to_svg()) == []
    assert unseen_on(empty.painted(square, "crest").to_svg()) == []
    assert unseen_on(empty.painted(square, "#FFFFFF").to_svg()) == ["light"]
    assert unseen_on(empty.painted(square, "#20282F").to_svg()) == ["dark"]
    assert unseen_on(empty.to_svg()) == ["light", "dark"]
    two = disc(48, "#000000")
    ImageDraw.Draw(two).rectangle((14, 14, 30, 30), fill="#444444")
    assert unseen_on(stored_png(two)) == ["dark"]


def test_pictures_that_are_taken_for_one_another_are_alike() -> None:
    ferry, other = freeze("ferry") or b"", freeze("truck") or b""
    assert alike(ferry, ferry.replace(b"currentColor", b"#111111"))
    assert not alike(ferry, other)
    dot = Drawing.empty(32).painted(ellipse((4, 4), (27, 27)), "ink")
    assert alike(dot.to_svg(), dot.painted([(15, 4)], "").to_svg())


# Finding


def test_words_synonyms_plurals_and_slips_find_pictures() -> None:
    index = PictureIndex(picture_names())
    assert index.find("ferry", 5)[0] == "ferry"
    assert index.find("ferries", 5)[0] == "ferry"
    assert not [name for name in index.find("ferry", 30) if "cog" in name]
    assert "truck" in index.find("lorry", 3)
    assert "ferry" in index.find("frrey", 3)
    assert index.find("truck alert", 1) == ["truck-alert"]
    assert "ferry" in index.find("ferry qqqq", 3)
    assert index.find("qqqqqq", 3) == []
    assert index.find("  ", 3) == []
    # What begins so comes before what is only alike or means the same.
    names = [name for name in index.find("fer", 60) if name.startswith("fer")]
    assert names[0] == index.find("fer", 60)[0]


def test_no_brand_is_among_the_further_sets() -> None:
    names = picture_names()
    assert len(names) > 9000
    assert not [name for name in names if "logo" in name and "." in name]
    assert not [name for name in names if name.startswith(("phosphor.article-medium", "solid.file-word"))]
    assert freeze("phosphor.figma-logo") is None
    for name in names[::97]:
        picture = freeze(name)
        assert picture is not None, name
        assert checked_picture(picture, name)
        box = drawn(picture, 32).getbbox()
        assert box is not None, name
