"""Whether what another program offers holds a picture; reading it is another matter (`bringing_in`)."""

from __future__ import annotations

from PyQt6.QtCore import QMimeData

SVG_TYPE = "image/svg+xml"


def holds_picture(data: QMimeData) -> bool:
    """Whether there is something that may be a picture."""
    local = data.hasUrls() and bool(data.urls()) and data.urls()[0].isLocalFile()
    return data.hasImage() or data.hasFormat(SVG_TYPE) or local
