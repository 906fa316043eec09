"""Start Letters: `python -m rimecrest_standins.letters [--profile DIR] [FILE]`."""

import sys

from rimecrest.kit.program import start
from rimecrest_standins.letters.document import LetterDocument
from rimecrest_standins.letters.letters import declarations


def main(arguments: list[str] | None = None) -> int:
    return start(declarations, LetterDocument, arguments)


if __name__ == "__main__":
    sys.exit(main())
