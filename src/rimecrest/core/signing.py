"""The publishing key of a maker: Ed25519 signatures (RFC 8032)."""

from __future__ import annotations

import hashlib
import re
from pathlib import Path

from cryptography.exceptions import InvalidSignature
from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey, Ed25519PublicKey
from cryptography.hazmat.primitives.serialization import (
    Encoding,
    NoEncryption,
    PrivateFormat,
    PublicFormat,
    load_pem_private_key,
)
from msgspec import Struct

from rimecrest.core.errors import RimecrestError
from rimecrest.core.files import Folder
from rimecrest.core.words import tr


class MakerKey(Struct, frozen=True):
    """Somebody who hands macros over, with the key that shows it was them."""

    name: str
    private: Ed25519PrivateKey

    @property
    def public(self) -> str:
        """The public key, 64 hexadecimal digits."""
        return self.private.public_key().public_bytes(Encoding.Raw, PublicFormat.Raw).hex()

    def sign(self, content: bytes) -> str:
        """The signature of some bytes, 128 hexadecimal digits."""
        return self.private.sign(content).hex()

    @staticmethod
    def fresh(name: str) -> MakerKey:
        return MakerKey(name, Ed25519PrivateKey.generate())

    @staticmethod
    def of_profile(path: Path, name: str) -> MakerKey:
        """The key that lies at a path, readable by its owner only; made where there is none.

        Raises:
            RimecrestError: what lies there is no such key, or the folder cannot be written.
        """
        if not path.is_file():
            made = MakerKey.fresh(name)
            text = made.private.private_bytes(Encoding.PEM, PrivateFormat.PKCS8, NoEncryption())
            Folder(path.parent).write(path.name, text, 0o600)
            return made
        try:
            key = load_pem_private_key(Folder(path.parent).read(path.name), None)
        except (ValueError, TypeError) as error:
            raise RimecrestError(
                tr("{path} is no publishing key ({error}).", path=path, error=error),
                tr("Move it away; a new one is made then."),
            ) from None
        if not isinstance(key, Ed25519PrivateKey):
            raise RimecrestError(
                tr("{path} is another kind of key.", path=path), tr("Move it away; a new one is made then.")
            )
        return MakerKey(name, key)


def fingerprint(public: str) -> str:
    """What people compare of a public key, by telephone or on paper: 32 hexadecimal digits in fours.

    It is the beginning of the key's SHA-256: 128 bits, which nobody can find another key for.
    """
    digits = hashlib.sha256(public.lower().encode()).hexdigest()[:32]
    return " ".join(digits[at : at + 4] for at in range(0, 32, 4))


def same_fingerprint(one: str, other: str) -> bool:
    """Whether two are the same, however they were written down."""
    return "".join(one.split()).lower() == "".join(other.split()).lower()


_KEY, _SIGNATURE = re.compile("[0-9a-f]{64}", re.ASCII), re.compile("[0-9a-f]{128}", re.ASCII)
_P = 2**255 - 19
"""The prime of the field (RFC 8032, 5.1)."""
_SMALL_ORDER = {
    0,
    1,
    _P - 1,
    int.from_bytes(
        bytes.fromhex("26e8958fc2b227b045c3f489f2ef98f0d5dfac05d3c63339b13802886d53fc05"), "little"
    ),
    int.from_bytes(
        bytes.fromhex("c7176a703d4dd84fba3c0b760d10670f2a2053fa2c39ccc64ec7fd7792ac037a"), "little"
    ),
}
"""The y of the eight points whose order divides 8: (0, ±1), (±√-1, 0) and the four of order 8."""


def _strict_point(encoded: bytes) -> bool:
    """Whether a point is written in its one way (y below the prime), and its order is not small."""
    y = int.from_bytes(encoded, "little") & (2**255 - 1)
    return y < _P and y not in _SMALL_ORDER


def verified(public: str, signature: str, content: bytes) -> bool:
    """Whether a signature is that key's for these bytes.

    Strictly: a key or signature in another spelling than 64 or 128 small hexadecimal digits, and a point of
    small order, which fits any content, verify nothing.
    """
    if not _KEY.fullmatch(public) or not _SIGNATURE.fullmatch(signature):
        return False
    if not (_strict_point(bytes.fromhex(public)) and _strict_point(bytes.fromhex(signature)[:32])):
        return False
    try:
        Ed25519PublicKey.from_public_bytes(bytes.fromhex(public)).verify(bytes.fromhex(signature), content)
    except (InvalidSignature, ValueError):
        return False
    return True
