"""Write the advance widths of the Inter typeface for `core/layout/widths.py`.

usage: text_widths.py FONT.otf
"""

import json
import sys
from pathlib import Path

from fontTools.ttLib import TTFont

OUT = Path(__file__).parents[1] / "src/rimecrest/core/layout/inter_widths.json"


def main(path: str) -> None:
    font = TTFont(path)
    advances, characters, em = font["hmtx"], font.getBestCmap(), font["head"].unitsPerEm
    codes = [*range(0x20, 0x7F), *range(0xA0, 0x180), 0x2013, 0x2014, 0x2018, 0x2019, 0x201C, 0x201D, 0x2026]
    widths = {chr(c): round(advances[characters[c]][0] / em, 4) for c in codes if c in characters}
    OUT.write_text(json.dumps(widths, ensure_ascii=False, indent=0) + "\n", "utf-8")


if __name__ == "__main__":
    main(sys.argv[1])
