"""Reading a table of comma-separated values whose first line names the columns (RFC 4180)."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator, Sequence
from typing import Any

from rimecrest.core.errors import BrokenFile
from rimecrest.core.words import tr


class CsvRows:
    """The rows of a table, each by its columns' names; `line` is the one that was read last, from 1."""

    def __init__(
        self, text: str, where: str, separator: str = ",", columns: Sequence[str] | None = None
    ) -> None:
        """Raises BrokenFile when the first line cannot be read, or is not separated by commas.

        Args:
            separator: what stands between two values.
            columns: their names, where the first line does not give them.
        """
        self._where = where
        # Some programs begin a text with a mark of its byte order; it is no part of the first name.
        self._rows = csv.DictReader(io.StringIO(text.removeprefix("\ufeff")), columns, delimiter=separator)
        try:
            self.columns = tuple(self._rows.fieldnames or ())
        except csv.Error as error:
            raise self._broken(error) from None
        for other, name in ((";", tr("semicolons")), ("\t", tr("tabs"))):
            if len(self.columns) == 1 and other in self.columns[0]:
                reason = tr("its values are parted by {name}; save it with commas", name=name)
                raise BrokenFile(where, reason, 1)

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
