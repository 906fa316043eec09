"""Start Post: `python -m rimecrest_standins.post [--profile DIR] [FILE]`."""

import sys

from rimecrest.kit.program import start
from rimecrest_standins.post.mailbox import MailboxDocument
from rimecrest_standins.post.post import declarations


def main(arguments: list[str] | None = None) -> int:
    return start(declarations, MailboxDocument, arguments)


if __name__ == "__main__":
    sys.exit(main())
