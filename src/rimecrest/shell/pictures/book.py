"""Finding a picture by its name and drawing it at a size and in a colour."""

from __future__ import annotations

import base64
import binascii
from collections.abc import Callable, Mapping
from pathlib import Path

from PyQt6.QtCore import QByteArray, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPixmap
from PyQt6.QtSvg import QSvgRenderer

from rimecrest.core.errors import RimecrestError
from rimecrest.core.pictures.checked import checked_picture, follows_scheme
from rimecrest.core.pictures.paints import in_scheme

Freeze = Callable[[str], bytes | None]
_SHIPPED = Path(__file__).parent


class PictureBook:
    """The pictures that one application or the studio can draw.

    Args:
        freeze: makes a picture of the free sets by name, where the sets are installed (the studio).
    """

    def __init__(self, freeze: Freeze | None = None) -> None:
        self._own: dict[str, bytes] = {}
        self._freeze = freeze
        self._drawn: dict[tuple[str, str, int, float], QPixmap] = {}
        self.edition = 0
        """Counts the times that other pictures came: what was drawn with earlier ones is out of date."""

    def take_over(self, pictures: Mapping[str, str]) -> None:
        """Use the pictures of a stack: `set:…` or `own:…` → base64. One that cannot be read is left out."""
        own: dict[str, bytes] = {}
        for name, content in pictures.items():
            try:
                own[name] = base64.b64decode(content, validate=True)
            except binascii.Error:
                continue
        if own != self._own:
            self._own = own
            self._drawn.clear()
            self.edition += 1

    def pixmap(self, name: str, color: QColor, size: int, ratio: float = 1.0) -> QPixmap | None:
        """The picture, `size` pixels square; None when there is none of that name."""
        key = (name, color.name(), size, ratio)
        if key not in self._drawn:
            content = self._content(name)
            drawn = self._draw(content, color, size, ratio) if content else None
            if drawn is None:
                return None
            self._drawn[key] = drawn
        return self._drawn[key]

    def _content(self, name: str) -> bytes | None:
        kind, _, plain = name.partition(":")
        for candidate in (name, f"{name}.svg", f"{name}.png"):
            if plain and candidate in self._own:
                return self._own[candidate]
        if kind != "set" or not plain:
            return None
        shipped = _SHIPPED / f"{plain}.svg"
        # A name comes from whoever made the layout: it leads to no other folder.
        if "/" not in plain and shipped.is_file():
            return shipped.read_bytes()
        return self._freeze(plain) if self._freeze else None

    def _draw(self, content: bytes, color: QColor, size: int, ratio: float) -> QPixmap | None:
        try:
            checked_picture(content, "")
        except RimecrestError:
            return None  # whoever brought it was told why when it was read
        pixmap = QPixmap(round(size * ratio), round(size * ratio))
        pixmap.setDevicePixelRatio(ratio)
        pixmap.fill(Qt.GlobalColor.transparent)
        if not content.lstrip().startswith(b"<"):
            image = QPixmap()
            if not image.loadFromData(QByteArray(content)):
                return None
            painter = QPainter(pixmap)
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawPixmap(QRectF(0, 0, size, size), image, QRectF(image.rect()))
            if follows_scheme(content):
                painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_SourceIn)
                painter.fillRect(QRectF(0, 0, size, size), color)
            painter.end()
            return pixmap
        # Ink is light on the dark scheme only.
        renderer = QSvgRenderer(QByteArray(in_scheme(content, color.name(), color.lightnessF() > 0.5)))
        if not renderer.isValid():
            return None
        painter = QPainter(pixmap)
        renderer.render(painter, QRectF(0, 0, size, size))
        painter.end()
        return pixmap
