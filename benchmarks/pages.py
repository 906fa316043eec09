"""The slowest letter at the bounds, against the longest plain one: set, laid out, drawn, and a key typed."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator

Comparison = tuple[str, str, Callable[[], object], Callable[[], object]]


def pages() -> dict[str, str]:
    """A page at each bound, by what is at it."""
    from rimecrest_standins.formatted_text import html_bounds as page_at
    from rimecrest_standins.formatted_text import text_bounds as at

    spans = "<b>a</b> " * ((at.LONGEST_LINE // 2) - 1)
    chain = "<table><tr><td>" * page_at.DEEPEST_TABLES + "x" + "</td></tr></table>" * page_at.DEEPEST_TABLES
    deep = "<div>" * (page_at.DEEPEST - 1) + "x" + "</div>" * (page_at.DEEPEST - 1)
    rules = page_at.MOST_MATCHES // 20_000
    return {
        "elements": "<p>a <b>c</b></p>" * (at.MOST_LINES - 1),
        "one line": f"<p>{'word ' * (at.LONGEST_LINE // 5)}</p>",
        "one line of pieces": f"<p>{spans}</p>",
        "an unbroken word": f"<p>{'x' * at.MOST_UNBROKEN}</p>",
        "an unbroken word of pieces": f"<p>{'<b>x</b>y' * (at.MOST_UNBROKEN // 2)}</p>",
        "cells": f"<table>{('<tr>' + '<td>a</td>' * 10 + '</tr>') * (at.MOST_CELLS // 10)}</table>",
        "cells that reach far": f"<table>{'<tr><td colspan=100 rowspan=100>a</td></tr>' * 2}</table>",
        "tables in tables": chain * (at.MOST_CELLS // (2**page_at.DEEPEST_TABLES)),
        "depth": deep * (at.MOST_ELEMENTS // page_at.DEEPEST),
        "rules": f"<style>{'.c b {color: red} ' * (rules - 1)}</style>{'<p>a <b>c</b></p>' * 9_990}",
    }


def comparisons() -> Iterator[Comparison]:
    """The slowest of them, and what that is held against."""
    from rimecrest_standins.formatted_text import html_bounds as page_at
    from rimecrest_standins.formatted_text import text_bounds as at

    line = "word " * (at.LONGEST_TEXT // at.MOST_LINES // 5 - 1)
    plain = "\n".join([line] * (at.MOST_LINES - 1))
    took: dict[str, float] = {}
    for what, page in pages().items():
        page_at.check_page(page)
        start = time.perf_counter()
        _shown(page)()
        took[what] = time.perf_counter() - start
    slowest = max(took, key=took.__getitem__)
    words = f"the slowest letter at the bounds, {slowest}"
    yield words, "the longest plain one", _shown(pages()[slowest]), _shown(plain)


def _shown(text: str) -> Callable[[], object]:
    from PyQt6.QtWidgets import QApplication

    from rimecrest_standins.formatted_text.view import TextView

    def show() -> None:
        view = TextView("letter")
        view.resize(900, 700)
        view.show()
        if text.startswith("<"):
            view.setHtml(text)
        else:
            view.setPlainText(text)
        document = view.document()
        assert document is not None
        document.size()
        view.grab()
        view.textCursor().insertText("x")
        document.size()
        QApplication.processEvents()
        view.deleteLater()

    return show
