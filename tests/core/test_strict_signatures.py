"""Only one spelling of a key is that key, and a key that fits any content is none (RFC 8032, 5.1)."""

from __future__ import annotations

import random

import pytest

from rimecrest.core.signing import MakerKey, verified

P = 2**255 - 19
SEED, CONTENTS = 28, 8
ORDER_8 = (
    "26e8958fc2b227b045c3f489f2ef98f0d5dfac05d3c63339b13802886d53fc05",
    "c7176a703d4dd84fba3c0b760d10670f2a2053fa2c39ccc64ec7fd7792ac037a",
)
SMALL = [0, 1, P - 1, *(int.from_bytes(bytes.fromhex(text), "little") for text in ORDER_8)]


def spellings(y: int) -> list[str]:
    """Each way to write a y: itself, with the prime added where there is room, and with either sign."""
    found = [y + more for more in (0, P) if y + more < 2**255]
    return [(each | sign << 255).to_bytes(32, "little").hex() for each in found for sign in (0, 1)]


def test_a_key_of_small_order_verifies_nothing() -> None:
    dice = random.Random(SEED)
    tried = 0
    for public in (spelling for y in SMALL for spelling in spellings(y)):
        for first in (public, spellings(1)[0], spellings(P - 1)[0]):
            for _ in range(CONTENTS):
                content = dice.randbytes(dice.randint(0, 99))
                assert not verified(public, first + "00" * 32, content), public
                tried += 1
    print(f"seed {SEED}: {tried} variants")


@pytest.mark.parametrize(
    "change", [str.upper, lambda text: f" {text}", lambda text: text + "00", lambda text: text[:-2]]
)
def test_another_spelling_of_a_key_or_signature_verifies_nothing(change: type[str]) -> None:
    key = MakerKey.fresh("Ailis")
    signature = key.sign(b"words")
    assert verified(key.public, signature, b"words")
    assert not verified(change(key.public), signature, b"words")
    assert not verified(key.public, change(signature), b"words")
    assert not verified(key.public, signature, b"other words")
