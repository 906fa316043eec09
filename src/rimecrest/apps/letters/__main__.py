"""Start Letters: `python -m rimecrest.apps.letters [--profile DIR] [FILE]`."""

import argparse
import sys
from pathlib import Path

from rimecrest.apps.letters.document import LetterDocument
from rimecrest.apps.letters.letters import declarations
from rimecrest.embed.program import run_application


def main(profile: Path | None, path: Path | None) -> int:
    return run_application(declarations, LetterDocument, profile, path)


if __name__ == "__main__":
    parser = argparse.ArgumentParser(prog="rimecrest app letters")
    parser.add_argument("--profile", type=Path)
    parser.add_argument("file", type=Path, nargs="?")
    given = parser.parse_args()
    sys.exit(main(given.profile, given.file))
