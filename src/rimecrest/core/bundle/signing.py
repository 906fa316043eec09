"""The publishing key of a maker: Ed25519 signatures (RFC 8032)."""

from __future__ import annotations

import hashlib
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


def verified(public: str, signature: str, content: bytes) -> bool:
    """Whether a signature is that key's for these bytes. Keys that cannot be read verify nothing."""
    try:
        Ed25519PublicKey.from_public_bytes(bytes.fromhex(public)).verify(bytes.fromhex(signature), content)
    except (InvalidSignature, ValueError):
        return False
    return True
