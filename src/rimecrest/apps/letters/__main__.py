"""Start Letters: `python -m rimecrest.apps.letters [--profile DIR] [FILE]`."""

import sys

from rimecrest.apps.letters.document import LetterDocument
from rimecrest.apps.letters.letters import declarations
from rimecrest.embed.program import start


def main(arguments: list[str] | None = None) -> int:
    return start(declarations, LetterDocument, arguments)


if __name__ == "__main__":
    sys.exit(main())
