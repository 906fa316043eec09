"""What an HTML page has that Letters does not keep.

The toolkit's text has paragraphs, headings, lists, tables, links, pictures and the usual looks of words.
Whatever else a page has is named here, elements that no table mentions by themselves.
"""

from __future__ import annotations

from rimecrest.core.words import tr
from rimecrest_standins.formatted_text.html_bounds import PageReader

_FORM = tr("form fields")
_PLAYED = tr("sound, video and embedded pages")
_DRAWN = tr("drawings")
_LOST = {
    "script": tr("scripts"), "noscript": tr("scripts"), "form": _FORM, "input": _FORM, "select": _FORM,
    "textarea": _FORM, "button": _FORM, "iframe": _PLAYED, "object": _PLAYED, "embed": _PLAYED,
    "video": _PLAYED, "audio": _PLAYED, "svg": _DRAWN, "canvas": _DRAWN, "math": tr("formulas"),
    "link": tr("styles in other files"), "base": tr("an address for its links"),
}  # fmt: skip
_KEPT = frozenset(
    (
        *(
            "a",
            "address",
            "b",
            "big",
            "blockquote",
            "body",
            "br",
            "center",
            "cite",
            "code",
            "col",
            "colgroup",
        ),
        *("dd", "dfn", "div", "dl", "dt", "em", "font", "h1", "h2", "h3", "h4", "h5", "h6", "head", "hr"),
        *("html", "i", "img", "kbd", "li", "meta", "ol", "p", "pre", "s", "samp", "small", "span", "strong"),
        *("style", "sub", "sup", "table", "tbody", "td", "tfoot", "th", "thead", "title", "tr", "tt", "u"),
        *("ul", "var", "strike", "del", "ins", "nobr", "qt"),
    )
)


def unkept(page: str) -> list[str]:
    """Name what a page has that is not kept when Letters saves it, each kind once."""
    reader = _Reader()
    reader.feed(page)
    return list(reader.found)


class _Reader(PageReader):
    def __init__(self) -> None:
        super().__init__()
        self.found: dict[str, None] = {}

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if tag not in _KEPT:
            self.found[_LOST.get(tag) or tr("“{element}”", element=tag)] = None
        given = {name: value or "" for name, value in attrs}
        if tag == "img" and not given.get("src", "data:").startswith("data:"):
            self.found[tr("pictures in other files")] = None
        if any(name.startswith("on") for name in given):
            self.found[tr("scripts")] = None

    def handle_comment(self, data: str) -> None:
        if data.strip() and not data.strip().startswith(("StartFragment", "EndFragment")):
            self.found[tr("comments")] = None
