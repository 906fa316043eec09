"""The look: one table of colours for light and dark, and the font. No stylesheets anywhere."""

from __future__ import annotations

from functools import lru_cache

from msgspec import Struct
from PyQt6.QtGui import QColor, QFont, QFontDatabase, QPalette


@lru_cache(maxsize=128)
def _colour(written: str) -> QColor:
    return QColor(written)


class Scheme(Struct, frozen=True):
    """The tokens of one colour scheme. Every word has a contrast of at least 4.5 : 1 on its ground."""

    name: str
    paper: str
    sheet: str
    line: str
    ink: str
    ink2: str
    crest: str
    on_crest: str
    slate: str
    hover: str
    pressed: str
    asks: str
    asks_tint: str
    blocks: str
    blocks_tint: str
    good: str
    tells: str
    spine: str
    faint: str

    def color(self, token: str) -> QColor:
        """A colour by its token, as a value of one's own."""
        return QColor(_colour(getattr(self, token)))


LIGHT = Scheme(
    name="light",
    paper="#F3F6F8",
    sheet="#FFFFFF",
    line="#C3CFD8",
    ink="#17232C",
    ink2="#4F5F6B",
    crest="#14657A",
    on_crest="#FFFFFF",
    slate="#3E4C59",
    hover="#E0EEF3",
    pressed="#BFDDE5",
    asks="#A8480A",
    asks_tint="#FDEEE4",
    blocks="#B3213B",
    blocks_tint="#FCE7EB",
    good="#2C7A4B",
    tells="#5B6B78",
    spine="#E9EEF2",
    faint="#8494A0",
)
DARK = Scheme(
    name="dark",
    paper="#151D23",
    sheet="#1D272F",
    line="#3A4955",
    ink="#E6EDF1",
    ink2="#A9B8C3",
    crest="#5FB9CF",
    on_crest="#0B1A20",
    slate="#A3B4C2",
    hover="#22404B",
    pressed="#2B5665",
    asks="#F0A35E",
    asks_tint="#3A2A1C",
    blocks="#F792A2",
    blocks_tint="#3E2027",
    good="#6CC48F",
    tells="#94A5B2",
    spine="#11181D",
    faint="#7B8B97",
)


@lru_cache(maxsize=1)
def _family() -> str:
    families = QFontDatabase.families()
    if "Inter" in families:
        return "Inter"
    return QFontDatabase.systemFont(QFontDatabase.SystemFont.GeneralFont).family()


def font(pixels: int = 13, weight: QFont.Weight = QFont.Weight.Normal) -> QFont:
    """The interface font at a size in pixels, never under 11."""
    made = QFont(_family())
    made.setPixelSize(max(pixels, 11))
    made.setWeight(weight)
    return made


def bold(pixels: int = 13) -> QFont:
    return font(pixels, QFont.Weight.DemiBold)


def palette(scheme: Scheme) -> QPalette:
    """The full palette of a scheme, for a window or for the stage."""
    made = QPalette()
    role = QPalette.ColorRole
    for roles, token in (
        ((role.Window, role.AlternateBase), "paper"),
        ((role.Base, role.Button, role.ToolTipBase), "sheet"),
        ((role.WindowText, role.Text, role.ButtonText, role.ToolTipText, role.BrightText), "ink"),
        ((role.Highlight, role.Link, role.Accent), "crest"),
        ((role.HighlightedText,), "on_crest"),
        ((role.PlaceholderText,), "ink2"),
        ((role.Mid, role.Midlight, role.Light), "line"),
        ((role.Dark, role.Shadow), "slate"),
    ):
        for each in roles:
            made.setColor(each, scheme.color(token))
    for each in (role.WindowText, role.Text, role.ButtonText):
        made.setColor(QPalette.ColorGroup.Disabled, each, scheme.color("faint"))
    return made
