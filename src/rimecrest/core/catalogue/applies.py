"""Where a layout or panel applies: everywhere, or only in some documents."""

from pathlib import PurePath

from msgspec import Struct
from pydantic import Field

from rimecrest.core.model import Record


class DocumentKind(Struct, frozen=True):
    """What tells one document from another: its absolute path and the name of the template it was made from.

    Both are empty where there is none.
    """

    path: str = ""
    template: str = ""


class Applies(Record):
    """The documents in which something applies; nothing named: everywhere.

    `templates` are names of the files that documents were made from, without folder and ending; `folders` are
    absolute paths, and what lies in folders below counts; `documents` are absolute paths or file names.
    """

    templates: tuple[str, ...] = Field(default=())
    folders: tuple[str, ...] = Field(default=())
    documents: tuple[str, ...] = Field(default=())

    @property
    def everywhere(self) -> bool:
        return not (self.templates or self.folders or self.documents)

    def excludes(self, other: "Applies") -> bool:
        """Whether no document can be one of both."""
        # A document is made from one template; folders and names may meet any of them.
        only_templates = not (self.folders or self.documents or other.folders or other.documents)
        return bool(
            only_templates
            and self.templates
            and other.templates
            and set(self.templates).isdisjoint(other.templates)
        )

    def fits(self, document: DocumentKind) -> bool:
        """Whether it applies in a document."""
        if self.everywhere or (document.template and document.template in self.templates):
            return True
        if not document.path:
            return False
        path = PurePath(document.path)
        if any(path.is_relative_to(PurePath(folder)) for folder in self.folders):
            return True
        # A name without a folder is that of a file wherever it lies.
        return any(path == PurePath(name) if "/" in name else path.name == name for name in self.documents)


EVERYWHERE = Applies()
"""No document is left out."""
