"""Opening a large workspace, against no more than reading its files."""

from __future__ import annotations

import json
import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path

LAYOUTS, MACROS = 50, 1_000
Comparison = tuple[str, str, Callable[[], object], Callable[[], object]]
STEPS = """macro "Number {n}"
about "Writes a line."
for letters

write "Line {n}"
do new-line
do embolden on=yes
"""


def _write(folder: Path, catalogue: Path) -> None:
    layers = ["organisation", *(f"department.d{number}" for number in range(LAYOUTS - 1))]
    settings = {
        "format": "rimecrest.workspace/1",
        "name": "Large",
        "applications": ["letters"],
        "layers": [{"id": layer, "title": layer} for layer in layers],
    }
    (folder / "catalogues").mkdir(parents=True)
    (folder / "workspace.json").write_text(json.dumps(settings))
    (folder / "people.csv").write_text("seat,name,departments\n")
    (folder / "catalogues" / "letters.json").write_bytes(catalogue.read_bytes())
    for number, layer in enumerate(layers):
        items = [{"id": f"i{n}", "run": f"macro:m{number}-{n}"} for n in range(MACROS // LAYOUTS)]
        bar = {"id": "bar", "title": "Bar", "edge": "top", "items": items}
        layout = {"format": "rimecrest.layout/1", "app": "letters", "layer": layer, "toolbars": [bar]}
        (folder / "layouts" / layer).mkdir(parents=True)
        (folder / "layouts" / layer / "letters.json").write_text(json.dumps(layout))
        (folder / "macros" / layer).mkdir(parents=True)
        for n in range(MACROS // LAYOUTS):
            (folder / "macros" / layer / f"m{number}-{n}.steps").write_text(STEPS.format(n=n + number * 100))


def comparisons(catalogue: Path) -> Iterator[Comparison]:
    """What is done, and what that is held against."""
    from rimecrest.core.catalogue.catalogue import Catalogue
    from rimecrest.core.layout.layout import Layout
    from rimecrest.core.macro.parse import parse_macro
    from rimecrest.core.model import parse_record
    from rimecrest.core.workspace.folder import read_workspace
    from rimecrest.core.workspace.macro_file import macro_file

    with tempfile.TemporaryDirectory() as scratch:
        folder = Path(scratch) / "large"
        _write(folder, catalogue)

        def opening() -> None:
            macro_file.cache_clear()
            read_workspace(folder)

        def parse() -> None:
            text = (folder / "catalogues" / "letters.json").read_text("utf-8")
            parse_record(Catalogue, text, "catalogue", "letters")
            for path in folder.glob("layouts/*/*.json"):
                parse_record(Layout, path.read_text("utf-8"), "layout", path.name)
            for path in folder.glob("macros/*/*.steps"):
                parse_macro(path.read_text("utf-8"))

        what = f"opening {LAYOUTS} layouts and {MACROS:,} macros"
        yield what, "parsing their files", opening, parse
