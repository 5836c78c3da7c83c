"""The house's certificates: made once, made anew when they end or the machine moves, and those that somebody brings."""

from __future__ import annotations

import ssl
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from cryptography import x509

from rough_draw.cli.lan import certificates
from rough_draw.cli.lan.certificates import addresses, own, ready
from rough_draw.cli.lan.qr import modules, qr_svg, qr_terminal
from rough_draw.cli.lan.serving import renew

NAMES = ("192.0.2.2", "fd00::2", "shop-box", "shop-box.local")
NOW = datetime(2026, 7, 11, tzinfo=UTC)


def read(path: Path) -> x509.Certificate:
    return x509.load_pem_x509_certificate(path.read_bytes())


def test_the_authority_is_made_once_and_signs_what_holds_for_every_name(tmp_path: Path) -> None:
    first = ready(tmp_path, NAMES, NOW)
    kept = {p.name: p.read_bytes() for p in tmp_path.iterdir()}
    assert ready(tmp_path, NAMES, NOW + timedelta(days=200)) == first
    assert {p.name: p.read_bytes() for p in tmp_path.iterdir()} == kept, "nothing is made anew without need"
    server = read(first.server)
    assert first.authority is not None
    server.verify_directly_issued_by(read(first.authority))
    said = server.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    assert {str(a) for a in said.get_values_for_type(x509.IPAddress)} >= {"192.0.2.2", "fd00::2", "127.0.0.1"}
    assert set(said.get_values_for_type(x509.DNSName)) >= {"shop-box", "shop-box.local", "localhost"}
    # What phones ask: no more than 825 days, for servers, not for signing others.
    assert server.not_valid_after_utc - server.not_valid_before_utc < timedelta(days=825)
    assert not server.extensions.get_extension_for_class(x509.BasicConstraints).value.ca
    ssl.create_default_context(ssl.Purpose.CLIENT_AUTH).load_cert_chain(first.server, first.key)


@pytest.mark.parametrize(
    ("later", "names", "anew"),
    [
        (timedelta(days=1), NAMES, False),
        (timedelta(days=1), NAMES[:2], False),
        (timedelta(days=1), ("198.51.100.7", *NAMES), True),
        (timedelta(days=340), NAMES, True),
    ],
)
def test_the_servers_is_made_anew_when_it_must_and_devices_go_on_trusting(
    tmp_path: Path, later: timedelta, names: tuple[str, ...], anew: bool
) -> None:
    first = ready(tmp_path, NAMES, NOW)
    before = read(first.server).serial_number
    assert first.authority is not None
    trusted = first.authority.read_bytes()
    again = ready(tmp_path, names, NOW + later)
    assert (read(again.server).serial_number != before) == anew
    assert first.authority.read_bytes() == trusted
    read(again.server).verify_directly_issued_by(read(first.authority))
    context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    renew(context, tmp_path, NAMES)


@pytest.mark.parametrize("spoil", ["server.pem", "server-key.pem", "authority.pem", "authority-key.pem"])
@pytest.mark.parametrize("how", ["gone", "empty"])
def test_a_folder_with_something_missing_is_put_right(tmp_path: Path, spoil: str, how: str) -> None:
    ready(tmp_path, NAMES, NOW)
    if how == "gone":
        (tmp_path / spoil).unlink()
    elif spoil.endswith("key.pem"):
        pytest.skip("a key that was written over is somebody's doing, and is told")
    else:
        (tmp_path / spoil).write_bytes(b"")
    found = ready(tmp_path, NAMES, NOW)
    assert found.authority is not None
    read(found.server).verify_directly_issued_by(read(found.authority))
    ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER).load_cert_chain(found.server, found.key)


def test_certificates_of_ones_own(tmp_path: Path) -> None:
    made = ready(tmp_path / "a", NAMES, NOW)
    other = ready(tmp_path / "b", NAMES, NOW)
    brought = own(made.server, made.key)
    assert brought.authority is None
    assert brought.fingerprint == ""
    with pytest.raises(ValueError, match="is not the key of"):
        own(made.server, other.key)
    for wrong in (tmp_path / "none.pem", Path(__file__)):
        with pytest.raises(ValueError, match="cannot be used"):
            own(wrong, made.key)


def test_addresses_are_of_this_machine_and_the_loopback_comes_last(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(certificates.socket, "gethostname", lambda: "shop-box.example")
    monkeypatch.setattr(
        certificates.socket,
        "getaddrinfo",
        lambda *_: [(0, 0, 0, "", ("127.0.1.1", 0)), (0, 0, 0, "", ("fe80::1%eth0", 0))],
    )
    found = addresses()
    assert found[-2:] == ("shop-box.example", "shop-box.local")
    assert found[-3] == "127.0.1.1"
    assert "fe80::1" in found


def test_the_code_is_a_square_with_its_three_corners() -> None:
    rows = modules("https://192.0.2.2:8443/")
    assert all(len(r) == len(rows) for r in rows)
    corner = [[rows[2 + r][2 + c] for c in range(7)] for r in range(7)]
    assert corner[0] == [True] * 7
    assert corner[3] == [True, False, True, True, True, False, True]
    assert not any(rows[0])
    assert len(qr_terminal("x").splitlines()) == -(-len(modules("x")) // 2)
    assert qr_svg("x").count("M") == sum(sum(r) for r in modules("x"))
