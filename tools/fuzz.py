"""Throw text at the macro language for a while, guided by what it reaches (needs the package atheris).

usage: fuzz.py [CORPUS] [-max_total_time=SECONDS]      (atheris is no part of the set-up: install it first)

What is found goes into a file `crash-…`; once mended, it belongs into tests/core/corpus as a test.
"""

import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

import atheris  # type: ignore[import-not-found]

with atheris.instrument_imports(include=["rimecrest.core.macro", "lark"]):
    from tests.core.fuzz_target import TOKENS, attempt


def one(data: bytes) -> None:
    provider = atheris.FuzzedDataProvider(data)
    if provider.ConsumeBool():
        attempt(provider.ConsumeUnicodeNoSurrogates(2000))
        return
    words = []
    while provider.remaining_bytes() and len(words) < 300:
        words.append(TOKENS[provider.ConsumeIntInRange(0, len(TOKENS) - 1)])
        if provider.ConsumeBool():
            words.append(" ")
    attempt("".join(words))


if __name__ == "__main__":
    atheris.Setup(sys.argv, one)
    atheris.Fuzz()
