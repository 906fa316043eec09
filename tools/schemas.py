"""Generate the JSON Schemas (2020-12) of all stored kinds into `docs/formats/`.

usage: schemas.py        (`make schemas`; a test keeps them in step with the models)
"""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from rimecrest.core.catalogue.catalogue import Catalogue
from rimecrest.core.catalogue.surfaces import Panel
from rimecrest.core.layout.layout import Layout
from rimecrest.core.model import Record
from rimecrest.core.release.audience import Audience
from rimecrest.core.release.package import Release
from rimecrest.core.release.receipt import Receipt
from rimecrest.core.workspace.settings import Settings

OUT = Path(__file__).parents[1] / "docs" / "formats"
KINDS: dict[str, type[Record]] = {
    "workspace": Settings,
    "catalogue": Catalogue,
    "layout": Layout,
    "panel": Panel,
    "audience": Audience,
    "release": Release,
    "receipt": Receipt,
}


def schema_of(kind: str) -> dict[str, Any]:
    """The schema of one kind, its format tag included."""
    made = KINDS[kind].model_json_schema(by_alias=True)
    properties = {"format": {"const": f"rimecrest.{kind}/1"}, **made.pop("properties")}
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": f"rimecrest.{kind}/1",
        **{key: value for key, value in made.items() if key not in ("title", "required")},
        "properties": properties,
        "required": ["format", *made.get("required", [])],
    }


def text_of(kind: str) -> str:
    return json.dumps(schema_of(kind), ensure_ascii=False, indent=2) + "\n"


def main() -> None:
    OUT.mkdir(parents=True, exist_ok=True)
    for kind in KINDS:
        (OUT / f"{kind}.schema.json").write_text(text_of(kind), "utf-8")


if __name__ == "__main__":
    main()
