"""The passphrase and the sessions behind it. Neither stands in the file as it is: only what proves it."""

from __future__ import annotations

import hashlib
import hmac
import secrets
import time
from dataclasses import dataclass

from rough_draw.core.message import Fault, message
from rough_draw.store.jobs import writing
from rough_draw.store.models import Setting, SignIn
from rough_draw.store.stored import WORDS

SHORTEST = 8
N, R, P = 2**15, 8, 1
"""Cost of scrypt (RFC 7914): about a tenth of a second and 32 MB for each try."""
MOST_MEMORY = 128 * 1024 * 1024
LASTS_S = 14 * 24 * 3600.0
"""A session ends this long after it was last used."""
SEEN_EVERY_S = 300.0


class WeakPassphrase(Fault):
    """The passphrase is too short to keep anybody out."""


def _hashed(passphrase: str, salt: bytes) -> str:
    return hashlib.scrypt(passphrase.encode(), salt=salt, n=N, r=R, p=P, maxmem=MOST_MEMORY, dklen=32).hex()


def set_passphrase(passphrase: str) -> None:
    """Keep a passphrase, and end every session. Raises WeakPassphrase."""
    if len(passphrase) < SHORTEST:
        raise WeakPassphrase(message("door-weak", least=SHORTEST))
    salt = secrets.token_bytes(16)
    body = WORDS.write({"salt": salt.hex(), "hash": _hashed(passphrase, salt)})
    with writing():
        Setting.insert(key="passphrase", document=body).on_conflict_replace().execute()
        SignIn.delete().execute()


def has_passphrase() -> bool:
    """Whether one is set."""
    return Setting.get_or_none(Setting.key == "passphrase") is not None


def right(passphrase: str) -> bool:
    """Whether it is the one that was set; takes as long either way."""
    row = Setting.get_or_none(Setting.key == "passphrase")
    # Nothing that can be read is nothing that opens.
    kept = {"salt": "00" * 16, "hash": ""} | WORDS.read(row.document if row is not None else None)
    return hmac.compare_digest(_hashed(passphrase[:1000], bytes.fromhex(kept["salt"])), kept["hash"])


@dataclass(frozen=True)
class Session:
    """Somebody signed in: what the token is kept as, and which person it is."""

    token_hash: str
    person: int | None


def _of(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def begin() -> str:
    """A new session; returns its token, which is kept nowhere here."""
    token = secrets.token_urlsafe(32)
    now = time.time()
    with writing():
        SignIn.delete().where(SignIn.seen_at < now - LASTS_S).execute()
        SignIn.create(token=_of(token), began_at=now, seen_at=now)
    return token


def find(token: str) -> Session | None:
    """The session of a token, if it is one and not too old."""
    row = SignIn.get_or_none(SignIn.token == _of(token))
    now = time.time()
    if row is None or row.seen_at < now - LASTS_S:
        return None
    if row.seen_at < now - SEEN_EVERY_S:
        with writing():
            SignIn.update(seen_at=now).where(SignIn.token == row.token).execute()
    return Session(row.token, row.person)


def end(token: str) -> None:
    """Sign out."""
    with writing():
        SignIn.delete().where(SignIn.token == _of(token)).execute()


def csrf_of(token: str) -> str:
    """What a page has to send with every change, beside the cookie: worked out from the token, so kept nowhere."""
    return hmac.new(token.encode(), b"rough-draw csrf", hashlib.sha256).hexdigest()
