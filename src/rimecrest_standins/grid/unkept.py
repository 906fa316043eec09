"""What an OpenDocument spreadsheet has that Grid does not keep, found in its XML.

Grid keeps sheets, values, formulas, notes, widths of columns, and of looks bold, italic, underline, colours,
alignment, borders and a few number formats. Everything else that a person would miss is named here; elements
that no table mentions are named by themselves, so that nothing is lost untold.
"""

from __future__ import annotations

import io
import zipfile
from collections.abc import Mapping
from typing import Any
from xml.parsers import expat

from rimecrest.core.words import tr

_URN = "urn:oasis:names:tc:opendocument:xmlns:"
_OFFICE, _TABLE, _TEXT, _STYLE, _FO = (
    *(f"{_URN}{name}:1.0" for name in ("office", "table", "text", "style")),
    f"{_URN}xsl-fo-compatible:1.0",
)
_DRAWN = tr("pictures, drawings and charts")
_ENTRY = tr("rules for what may be entered")
_SHAPE = tr("some formatting of cells")

_LOST_ELEMENTS: dict[tuple[str, str], str] = {
    (_TABLE, "shapes"): _DRAWN,
    (_TABLE, "content-validations"): _ENTRY,
    (_TABLE, "data-pilot-tables"): tr("pivot tables"),
    (_TABLE, "named-range"): tr("named ranges"),
    (_TABLE, "named-expression"): tr("named ranges"),
    (_TABLE, "database-range"): tr("filters"),
    (_TABLE, "tracked-changes"): tr("tracked changes"),
    (_TABLE, "scenario"): tr("scenarios"),
    (_TABLE, "covered-table-cell"): tr("merged cells"),
    (_TABLE, "table-row-group"): tr("grouped rows and columns"),
    (_TABLE, "table-column-group"): tr("grouped rows and columns"),
    (_TABLE, "consolidation"): tr("consolidations"),
    (_TABLE, "dde-links"): tr("links to other files"),
    (_TABLE, "table-source"): tr("links to other files"),
    (_TABLE, "cell-range-source"): tr("links to other files"),
    (_OFFICE, "forms"): tr("form controls"),
    (_OFFICE, "event-listeners"): tr("macros of other programs"),
    (_TEXT, "a"): tr("links in cells"),
    (_TEXT, "span"): tr("formatting of a part of a cell"),
    (_STYLE, "map"): tr("formatting that depends on values"),
}
_LOST_PARTS = {
    f"{_URN}drawing:1.0": _DRAWN,
    f"{_URN}chart:1.0": _DRAWN,
    f"{_URN}dr3d:1.0": _DRAWN,
    f"{_URN}form:1.0": tr("form controls"),
    f"{_URN}script:1.0": tr("macros of other programs"),
    "http://www.w3.org/1998/Math/MathML": tr("formulas in pictures"),
}
"""Name space -> what every element of it is."""
_LOST_ATTRIBUTES: dict[tuple[str, str], str] = {
    (_TABLE, "number-columns-spanned"): tr("merged cells"),
    (_TABLE, "number-rows-spanned"): tr("merged cells"),
    (_TABLE, "number-matrix-columns-spanned"): tr("array formulas"),
    (_TABLE, "content-validation-name"): _ENTRY,
    (_TABLE, "protected"): tr("protection"),
    (_TABLE, "print-ranges"): tr("print ranges"),
}
_KEPT = {
    _TABLE: {
        *("table", "table-column", "table-columns", "table-header-columns", "table-row", "table-rows"),
        *("table-header-rows", "table-cell", "calculation-settings", "iteration", "null-date"),
        *("named-expressions", "database-ranges", "title", "desc"),
    },
    _OFFICE: {
        *("document-content", "body", "spreadsheet", "automatic-styles", "font-face-decls", "annotation"),
        *("scripts", "document-styles", "styles", "master-styles"),
    },
    _TEXT: {"p", "s", "tab", "line-break"},
}
_LOOKS = {
    "text-properties": {"font-weight", "font-style", "text-underline-style", "color"},
    "table-cell-properties": {
        *("background-color", "border", "border-top", "border-bottom", "border-left", "border-right"),
    },
    "paragraph-properties": {"text-align"},
}
"""Element of a cell's style -> what Grid keeps of it."""
_SAME = {
    *("font-weight-asian", "font-weight-complex", "font-style-asian", "font-style-complex"),
    *("text-underline-width", "text-underline-color", "text-align-source", "repeat-content", "margin-left"),
    *("use-window-font-color",),
}
"""What comes along with these and says nothing of its own."""


def unkept(content: bytes) -> list[str]:
    """Name what a spreadsheet has that is not kept when Grid saves it, each kind once.

    Raises:
        ExpatError, BadZipFile: the file cannot be read.
    """
    found: dict[str, None] = {}
    with zipfile.ZipFile(io.BytesIO(content)) as archive:
        with archive.open("content.xml") as stream:
            _Looked(found).parse(stream)
        for name in archive.namelist():
            if name.startswith("Pictures/") and not name.endswith("/"):
                found[_DRAWN] = None
            elif name.startswith(("Basic/", "Scripts/")) and not name.endswith("/"):
                found[tr("macros of other programs")] = None
    return list(found)


class _Looked:
    """Goes through the elements of content.xml."""

    def __init__(self, found: dict[str, None]) -> None:
        self._found = found
        self._family = ""
        self._used: set[str] = set()
        self._shaped: dict[str, bool] = {}
        self._style = ""
        self._within = 0
        self._parser = expat.ParserCreate(namespace_separator=" ")
        self._parser.StartElementHandler = self._begun

    def parse(self, stream: Any) -> None:
        self._parser.ParseFile(stream)
        if any(self._shaped.get(name) for name in self._used):
            self._found[_SHAPE] = None

    def _begun(self, name: str, attributes: Mapping[str, str]) -> None:
        space, _, local = name.rpartition(" ")
        given = {tuple(key.rpartition(" ")[::2]): value for key, value in attributes.items()}
        if words := _LOST_ELEMENTS.get((space, local)) or _LOST_PARTS.get(space):
            self._found[words] = None
        elif space in _KEPT and local not in _KEPT[space]:
            self._found[tr("“{element}”", element=local)] = None
        for key, words in _LOST_ATTRIBUTES.items():
            if given.get(key, "1") not in ("1", "false", ""):
                self._found[words] = None
        if given.get((_TABLE, "visibility")) in ("collapse", "filter"):
            self._found[tr("hidden rows and columns")] = None
        if space == _STYLE:
            self._styled(local, given)
        elif (space, local) == (_TABLE, "table-cell"):
            self._used.add(given.get((_TABLE, "style-name"), ""))

    def _styled(self, local: str, given: Mapping[Any, str]) -> None:
        if local == "style":
            self._family, self._style = given.get((_STYLE, "family"), ""), given.get((_STYLE, "name"), "")
        elif self._family == "table-cell" and local in _LOOKS:
            others = {name for _, name in given} - _LOOKS[local] - _SAME
            if others:
                self._shaped[self._style] = True
