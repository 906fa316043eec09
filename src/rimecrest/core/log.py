"""The log of every Rimecrest program, on standard error; the library behind it is loaded at the first line.

Most runs write none: what loads it at the start would cost each of them a tenth of a second.
"""

from __future__ import annotations

import sys
from functools import lru_cache
from typing import Any


class Log:
    """Writes lines of an event in words with what belongs to it: `log.warning("left out", reason=…)`."""

    def debug(self, event: str, **about: Any) -> None:
        _logger().debug(event, **about)

    def info(self, event: str, **about: Any) -> None:
        _logger().info(event, **about)

    def warning(self, event: str, **about: Any) -> None:
        _logger().warning(event, **about)

    def error(self, event: str, **about: Any) -> None:
        _logger().error(event, **about)


log = Log()


@lru_cache(maxsize=1)
def _logger() -> Any:
    import structlog  # noqa: PLC0415  it brings a console library along

    structlog.configure(
        processors=[
            structlog.processors.add_log_level,
            structlog.processors.TimeStamper(fmt="%H:%M:%S"),
            structlog.dev.ConsoleRenderer(
                colors=sys.stderr.isatty(), exception_formatter=structlog.dev.plain_traceback
            ),
        ],
        logger_factory=structlog.PrintLoggerFactory(sys.stderr),
    )
    return structlog.get_logger()
