"""Link methods about the documents of a window."""

from __future__ import annotations

import base64
from collections.abc import Callable
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QBuffer, QIODevice
from PyQt6.QtGui import QImage

from rimecrest.core.identities import MacroId
from rimecrest.core.paths import clean_path
from rimecrest.kit.documents.document import Document
from rimecrest.kit.documents.file_document import FileDocument, in_a_file
from rimecrest.kit.documents.open_documents import OpenDocuments


def document_methods(
    documents: OpenDocuments, picture: Callable[[], QImage], read: Callable[[Document, str], Any]
) -> dict[str, Callable[..., Any]]:
    """Return the methods by name.

    Args:
        picture: draws the current document.
        read: returns the value of a reading of a document.
    """

    def copy(folder: str) -> str:
        """Write a copy of the current document into a folder, and return its path."""
        document = in_a_file(documents.current)
        path = Path(folder) / f"{document.name()}{document.ending}"
        document.write_to(path, macros=False)
        return str(path)

    def files() -> list[str]:
        """Return the paths of the open files, the current one first."""
        ordered = sorted(documents.all, key=lambda document: document is not documents.current)
        return [str(each.path.absolute()) for each in ordered if isinstance(each, FileDocument) and each.path]

    def look(path: str, reading: str) -> Any:
        """Return the value of a reading of a file, without showing the file."""
        with documents.looked_into(clean_path(path)) as document:
            return read(document, reading)

    def put_macro(id: str, text: str | None = None) -> bool:
        in_a_file(documents.current).put_macro(MacroId(id), text)
        return True

    return {
        "picture": lambda: encoded(picture()),
        "copy": copy,
        "files": files,
        "look": look,
        "document.macros": lambda: dict(documents.kept_macros().texts),
        "document.put": put_macro,
    }


def encoded(image: QImage) -> str:
    """A picture as base64 of a PNG."""
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")
    return base64.b64encode(buffer.data().data()).decode()
