"""Reading a table of comma-separated values whose first line names the columns (RFC 4180)."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator
from typing import Any

from rimecrest.core.errors import BrokenFile
from rimecrest.core.words import tr


class CsvRows:
    """The rows of a table, each by its columns' names; `line` is the one that was read last, from 1."""

    def __init__(self, text: str, where: str) -> None:
        """Raises BrokenFile when the first line cannot be read."""
        self._where = where
        self._rows = csv.DictReader(io.StringIO(text))
        try:
            self.columns = tuple(self._rows.fieldnames or ())
        except csv.Error as error:
            raise self._broken(error) from None

    @property
    def line(self) -> int:
        return self._rows.line_num

    def _broken(self, error: csv.Error) -> BrokenFile:
        # A quote that is not closed makes one field of all the rest.
        reason = tr("it cannot be read as a table ({error}); is a quote not closed?", error=error)
        return BrokenFile(self._where, reason, self._rows.line_num + 1)

    def __iter__(self) -> Iterator[dict[str, Any]]:
        """Raises BrokenFile where a row cannot be read."""
        while True:
            try:
                row = next(self._rows)
            except StopIteration:
                return
            except csv.Error as error:
                raise self._broken(error) from None
            yield row
