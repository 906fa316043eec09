"""A button's picture as other programs take it: an image, and the SVG where it is one."""

from __future__ import annotations

from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, QMimeData
from PyQt6.QtGui import QColor, QPixmap

from rimecrest.core.pictures.paints import in_scheme
from rimecrest.shell.pictures import PictureBook
from rimecrest.shell.theme import LIGHT

COPIED = 48
"""Pixels a side of an image that is copied out."""
PNG, SVG = "image/png", "image/svg+xml"


def add_picture(data: QMimeData, book: PictureBook, name: str, content: bytes | None) -> bool:
    """Have the picture of that name among what is copied; `content` is what is stored of it.

    Returns:
        Whether there is one.
    """
    pixmap = book.pixmap(name, QColor(LIGHT.ink), COPIED)
    if pixmap is None:
        return False
    data.setImageData(pixmap.toImage())
    data.setData(PNG, _png(pixmap))
    if content is not None and content.lstrip().startswith(b"<"):
        data.setData(SVG, in_scheme(content, LIGHT.ink, False))
    return True


def _png(pixmap: QPixmap) -> QByteArray:
    content, buffer = QByteArray(), QBuffer()
    buffer.setBuffer(content)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    pixmap.save(buffer, "PNG")
    buffer.close()
    return content
