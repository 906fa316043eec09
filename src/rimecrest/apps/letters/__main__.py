"""Start Letters: `python -m rimecrest.apps.letters [--profile DIR] [FILE]`.

With `--describe DIR` it only writes its catalogue there, with a picture of an empty letter.
"""

import argparse
import sys
from pathlib import Path

from rimecrest.apps.letters.document import LetterDocument
from rimecrest.apps.letters.letters import declarations
from rimecrest.embed.program import describe, run_application


def main(arguments: list[str] | None = None) -> int:
    parser = argparse.ArgumentParser(prog="rimecrest app letters", description="Write letters.")
    parser.add_argument("--profile", type=Path, help="the seat's profile folder")
    parser.add_argument("--describe", type=Path, metavar="DIR", help="write the catalogue there, and end")
    parser.add_argument("file", type=Path, nargs="?", help="a letter to open")
    given = parser.parse_args(arguments)
    if given.describe:
        describe(declarations, LetterDocument, given.describe)
        return 0
    return run_application(declarations, LetterDocument, given.profile, given.file)


if __name__ == "__main__":
    sys.exit(main())
