"""A firm's own signature (Ed25519, RFC 8032) under the last hash of a record: by whom it was sealed, for whoever knows
the firm's public key.
"""

from __future__ import annotations

import hashlib

KIND = "signed"
"""The chain's entry that holds a signature of the hash before it."""


def new_key() -> tuple[str, str]:
    """A private key and its public one, 32 bytes each, in hex."""
    # Loaded by those only who sign or check: it is no small library.
    from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey

    private = Ed25519PrivateKey.generate()
    return private.private_bytes_raw().hex(), private.public_key().public_bytes_raw().hex()


def signature_of(private: str, digest: str) -> str:
    """Signature, 64 bytes in hex, of a hash (its hex digits as ASCII) by a private key in hex.

    Raises ValueError for what is no key.
    """
    from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey

    return Ed25519PrivateKey.from_private_bytes(bytes.fromhex(private)).sign(digest.encode()).hex()


def holds(public: str, digest: str, signature: str) -> bool:
    """Whether a signature is of this hash by the owner of this public key; what is no key or signature is not."""
    from cryptography.exceptions import InvalidSignature
    from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PublicKey

    try:
        Ed25519PublicKey.from_public_bytes(bytes.fromhex(public)).verify(bytes.fromhex(signature), digest.encode())
    except (InvalidSignature, ValueError):
        return False
    return True


def fingerprint(public: str) -> str:
    """What people compare of a public key: the first twelve bytes of its SHA-256, in groups of four digits.

    >>> fingerprint("00" * 32)
    '6668 7aad f862 bd77 6c8f c18b'
    """
    digits = hashlib.sha256(bytes.fromhex(public)).hexdigest()[:24]
    return " ".join(digits[k : k + 4] for k in range(0, 24, 4))
