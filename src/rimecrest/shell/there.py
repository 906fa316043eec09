"""What the toolkit's declarations call optional, and is there all the same: a table's header, a clipboard."""

from __future__ import annotations

from typing import TypeVar

Found = TypeVar("Found")


def there(found: Found | None) -> Found:
    """The thing itself. Only for what is always there: where it may not be, look first."""
    assert found is not None
    return found
