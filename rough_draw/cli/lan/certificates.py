"""The house's own certificate authority, made once, and the server's certificate by it, made anew if need be.

A phone lends a page its camera, keeps its screen awake for it and lets it work without signal only over HTTPS; no
public authority certifies an address of a private network, so the house has one of its own.
"""

from __future__ import annotations

import contextlib
import ipaddress
import os
import socket
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

AUTHORITY_DAYS, SERVER_DAYS, RENEW_DAYS = 3650, 365, 30
"""Phones refuse a server's certificate that holds for more than 825 days, whoever made it."""
SKEW = timedelta(days=1)
"""A device whose clock is behind still takes a certificate of today."""


@dataclass(frozen=True, kw_only=True)
class Certificates:
    """Files: the server's certificate with its key, and the authority's certificate where it is the house's own."""

    server: Path
    key: Path
    authority: Path | None = None

    @property
    def fingerprint(self) -> str:
        """SHA-256 of the authority's certificate, as phones show it; empty where it is not the house's own."""
        if self.authority is None:
            return ""
        digest = _read(self.authority).fingerprint(hashes.SHA256()).hex().upper()
        return " ".join(digest[k : k + 2] for k in range(0, len(digest), 2))


def addresses() -> tuple[str, ...]:
    """Addresses and names under which other devices reach this machine, the likeliest first."""
    found: list[str] = []
    for family, far in ((socket.AF_INET, "192.0.2.254"), (socket.AF_INET6, "2001:db8::1")):
        # Nothing is sent: the system only says from which of its addresses it would be.
        try:
            with socket.socket(family, socket.SOCK_DGRAM) as s:
                s.connect((far, 9))
                found.append(str(s.getsockname()[0]))
        except OSError:
            continue
    name = socket.gethostname()
    with contextlib.suppress(OSError):
        found += [str(info[4][0]) for info in socket.getaddrinfo(name, None)]
    bare = [a.partition("%")[0] for a in found]
    named = [name, f"{name.partition('.')[0]}.local"] if name else []
    kept = [a for a in bare if not ipaddress.ip_address(a).is_unspecified]
    return tuple(dict.fromkeys([*sorted(kept, key=lambda a: ipaddress.ip_address(a).is_loopback), *named]))


def ready(folder: Path, names: tuple[str, ...], now: datetime | None = None) -> Certificates:
    """The house's certificates, made where they are missing: the authority once; the server's again when it is about to
    end, or when this machine has another name or address than it says.
    """
    at = now or datetime.now(UTC)
    folder.mkdir(parents=True, exist_ok=True)
    found = Certificates(
        server=folder / "server.pem", key=folder / "server-key.pem", authority=folder / "authority.pem"
    )
    secret = folder / "authority-key.pem"
    if not (found.authority and found.authority.exists() and secret.exists()) or _ends(found.authority, at):
        _make_authority(found.authority, secret, at)  # type: ignore[arg-type]
        found.server.unlink(missing_ok=True)
    if (
        not (found.server.exists() and found.key.exists())
        or _ends(found.server, at)
        or not _covers(found.server, names)
    ):
        _make_server(found, secret, names, at)
    return found


def own(certificate: Path, key: Path) -> Certificates:
    """Certificates that somebody brought. Raises ValueError where they are none, or do not belong together."""
    public = serialization.PublicFormat.SubjectPublicKeyInfo
    try:
        of_certificate = _read(certificate).public_key().public_bytes(serialization.Encoding.DER, public)
        secret = serialization.load_pem_private_key(key.read_bytes(), None)
        of_key = secret.public_key().public_bytes(serialization.Encoding.DER, public)
    except (OSError, ValueError, TypeError) as e:
        raise ValueError(f"{certificate} or {key} cannot be used: {e}") from None
    if of_certificate != of_key:
        raise ValueError(f"{key} is not the key of {certificate}")
    return Certificates(server=certificate, key=key)


def _read(path: Path) -> x509.Certificate:
    return x509.load_pem_x509_certificate(path.read_bytes())


def _ends(path: Path, at: datetime) -> bool:
    try:
        return _read(path).not_valid_after_utc < at + timedelta(days=RENEW_DAYS)
    except ValueError:
        return True


def _alternatives(names: tuple[str, ...]) -> list[x509.GeneralName]:
    found: list[x509.GeneralName] = []
    for name in dict.fromkeys([*names, "localhost", "127.0.0.1"]):
        try:
            found.append(x509.IPAddress(ipaddress.ip_address(name)))
        except ValueError:
            found.append(x509.DNSName(name))
    return found


def _covers(path: Path, names: tuple[str, ...]) -> bool:
    try:
        said = _read(path).extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    except (ValueError, x509.ExtensionNotFound):
        return False
    return set(_alternatives(names)) <= set(said)


def _write(path: Path, data: bytes, secret: bool = False) -> None:
    """Whole or not at all; a key for nobody else's eyes."""
    part = path.with_name(path.name + ".part")
    part.unlink(missing_ok=True)
    with os.fdopen(os.open(part, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600 if secret else 0o644), "wb") as f:
        f.write(data)
    part.replace(path)


def _key(path: Path) -> ec.EllipticCurvePrivateKey:
    made = ec.generate_private_key(ec.SECP256R1())
    pem = made.private_bytes(
        serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
    )
    _write(path, pem, secret=True)
    return made


def _named(common: str) -> x509.Name:
    return x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, common[:64])])


def _begun(
    name: x509.Name, issuer: x509.Name, key: ec.EllipticCurvePublicKey, at: datetime, days: int
) -> x509.CertificateBuilder:
    return (
        x509.CertificateBuilder()
        .subject_name(name)
        .issuer_name(issuer)
        .public_key(key)
        .serial_number(x509.random_serial_number())
        .not_valid_before(at - SKEW)
        .not_valid_after(at + timedelta(days=days))
        .add_extension(x509.SubjectKeyIdentifier.from_public_key(key), critical=False)
    )


def _make_authority(path: Path, secret: Path, at: datetime) -> None:
    key = _key(secret)
    name = _named(f"Rough Draw on {socket.gethostname() or 'this machine'}")
    uses = x509.KeyUsage(False, False, False, False, False, True, True, False, False)
    made = (
        _begun(name, name, key.public_key(), at, AUTHORITY_DAYS)
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(uses, critical=True)
        .sign(key, hashes.SHA256())
    )
    _write(path, made.public_bytes(serialization.Encoding.PEM))


def _make_server(found: Certificates, secret: Path, names: tuple[str, ...], at: datetime) -> None:
    assert found.authority is not None
    authority = _read(found.authority)
    by = serialization.load_pem_private_key(secret.read_bytes(), None)
    assert isinstance(by, ec.EllipticCurvePrivateKey)
    key = _key(found.key)
    uses = x509.KeyUsage(True, False, False, False, False, False, False, False, False)
    issuer = x509.AuthorityKeyIdentifier.from_issuer_public_key(by.public_key())
    made = (
        _begun(_named(names[0] if names else "localhost"), authority.subject, key.public_key(), at, SERVER_DAYS)
        .add_extension(x509.SubjectAlternativeName(_alternatives(names)), critical=False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(uses, critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(issuer, critical=False)
        .sign(by, hashes.SHA256())
    )
    _write(found.server, made.public_bytes(serialization.Encoding.PEM) + found.authority.read_bytes())
