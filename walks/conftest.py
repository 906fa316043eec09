"""The studio for the walks, and the hands that count what they do."""

from __future__ import annotations

from collections.abc import Callable, Iterator

import pytest
from tests.conftest import demo_folder, first_mail, own_runtime_folder  # noqa: F401  (fixtures)
from tests.programs import grid, letters, post  # noqa: F401  (fixtures)
from tests.studio.conftest import Studio, demo_copy, studio  # noqa: F401  (fixtures)

from walks.hands import Hands


@pytest.fixture
def hands(studio: Studio) -> Hands:  # noqa: F811
    return Hands(studio)


@pytest.fixture
def at_most(hands: Hands, request: pytest.FixtureRequest) -> Iterator[Callable[[int], None]]:
    """Say how many gestures a job may take; they are counted, printed, and held to it at its end."""
    bound: list[int] = []
    yield bound.append
    print(f"\n{request.node.name}: {hands.gestures} of {bound[0]} gestures")
    assert hands.gestures <= bound[0]
