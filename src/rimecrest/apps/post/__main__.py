"""Start Post: `python -m rimecrest.apps.post [--profile DIR] [FILE]`."""

import sys

from rimecrest.apps.post.mailbox import MailboxDocument
from rimecrest.apps.post.post import declarations
from rimecrest.embed.program import start


def main(arguments: list[str] | None = None) -> int:
    return start(declarations, MailboxDocument, arguments)


if __name__ == "__main__":
    sys.exit(main())
