"""Over HTTPS with the house's own authority: what a phone needs of a secure page works, and without it does not."""

from __future__ import annotations

import base64
import hashlib
import re
import ssl
import subprocess
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest
from cryptography import x509
from cryptography.hazmat.primitives.serialization import Encoding, PublicFormat
from playwright.sync_api import Browser, Page, expect

from rough_draw.cli.lan.certificates import addresses
from tests import one_browser
from tests.browser.conftest import PATIENCE_MS
from tests.serving import CLI, PATIENCE_S, free_port

pytestmark = pytest.mark.browser
WORDS = "three dry coils"


class Lan:
    """A server for a network: its ports, its authority, what it printed."""

    def __init__(self, tls: int, plain: int, authority: Path, said: str) -> None:
        self.host = next((a for a in addresses() if re.fullmatch(r"[\d.]+", a)), "127.0.0.1")
        self.secure = f"https://{self.host}:{tls}"
        self.plain = f"http://{self.host}:{plain}"
        self.authority = authority
        self.said = said


@pytest.fixture(scope="module")
def lan(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Lan]:
    folder = tmp_path_factory.mktemp("lan")
    db = str(folder / "own.sqlite3")
    subprocess.run([*CLI, "passphrase", "--db", db], input=f"{WORDS}\n", text=True, check=True, capture_output=True)
    tls, plain = free_port(), free_port()
    argv = [*CLI, "serve", "--lan", "--db", db, "--port", str(plain), "--tls-port", str(tls)]
    out = folder / "said.txt"
    with out.open("w") as said:
        process = subprocess.Popen(argv, stdout=said, stderr=subprocess.STDOUT)
    found = Lan(tls, plain, folder / "tls" / "authority.pem", "")
    end = time.monotonic() + PATIENCE_S
    while True:
        try:
            trusted = ssl.create_default_context(cafile=str(found.authority))
            urllib.request.urlopen(f"{found.secure}/api/health", timeout=2, context=trusted).close()
            break
        except (OSError, ssl.SSLError):
            assert process.poll() is None, out.read_text()
            assert time.monotonic() < end, out.read_text()
            time.sleep(0.1)
    found.said = out.read_text()
    yield found
    process.terminate()
    process.wait(10)


@pytest.fixture(scope="module")
def trusting(lan: Lan) -> Iterator[Browser]:
    """A browser that trusts the house's authority, and has a camera of bars and tones."""
    read = x509.load_pem_x509_certificate(lan.authority.read_bytes())
    public = read.public_key().public_bytes(Encoding.DER, PublicFormat.SubjectPublicKeyInfo)
    trust = base64.b64encode(hashlib.sha256(public).digest()).decode()
    b = one_browser.playwright().chromium.launch(
        executable_path=one_browser.CHROMIUM,
        args=[
            *one_browser.FLAGS,
            f"--ignore-certificate-errors-spki-list={trust}",
            "--use-fake-device-for-media-stream",
            "--use-fake-ui-for-media-stream",
        ],
    )
    yield b
    b.close()


def signed_in(page: Page, address: str) -> None:
    page.set_default_timeout(PATIENCE_MS)
    page.goto(address)
    page.get_by_label("Passphrase").fill(WORDS)
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("button", name="New job")).to_be_visible()


CAMERA = "navigator.mediaDevices.getUserMedia({video: true}).then(s => s.getVideoTracks().length)"


def test_over_https_the_page_is_secure_with_worker_camera_and_wake_lock(lan: Lan, trusting: Browser) -> None:
    context = trusting.new_context()
    try:
        page = context.new_page()
        signed_in(page, lan.secure)
        assert page.evaluate("isSecureContext")
        assert page.evaluate("navigator.serviceWorker.ready.then(r => r.active.scriptURL)").startswith(lan.secure)
        assert page.evaluate(CAMERA) == 1
        assert page.evaluate("navigator.wakeLock.request('screen').then(l => l.type)") == "screen"
        cookies = {c["name"]: c for c in context.cookies()}
        assert cookies["rough_draw_session"]["secure"]
        # The page itself is kept on the device: without the server it still opens.
        page.reload()
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        context.set_offline(True)
        page.reload()
        expect(page.get_by_text("Rough", exact=False).first).to_be_visible()
    finally:
        context.close()


def test_in_the_clear_there_is_only_the_page_that_says_where_to_go(lan: Lan, trusting: Browser) -> None:
    context = trusting.new_context()
    try:
        page = context.new_page()
        page.goto(lan.plain)
        expect(page.get_by_role("link", name="Open Rough Draw")).to_have_attribute("href", re.compile("^https://"))
        expect(page.get_by_role("img", name="QR code of the address")).to_be_visible()
        for device in ("by their settings", "that take profiles", "Computers", "list of their own"):
            expect(page.get_by_text(device, exact=False).first).to_be_visible()
        if lan.host != "127.0.0.1":
            assert not page.evaluate("isSecureContext")
            assert page.evaluate("'serviceWorker' in navigator") is False
        with page.expect_download() as download:
            page.get_by_role("link", name="Download it").click()
        assert Path(download.value.path()).read_bytes() == lan.authority.read_bytes()
        for path in ("/api/jobs", "/api/session", "/jobs/x/draw", "/tls/authority-key.pem", "/../own.sqlite3"):
            with pytest.raises(urllib.error.HTTPError) as refused:
                urllib.request.urlopen(f"{lan.plain}{path}", timeout=5)
            assert refused.value.code == 426
            assert b"PRIVATE" not in refused.value.read()
    finally:
        context.close()


def test_who_does_not_know_the_authority_does_not_come_in(lan: Lan) -> None:
    with pytest.raises(urllib.error.URLError, match="CERTIFICATE"):
        urllib.request.urlopen(f"{lan.secure}/api/health", timeout=5)


def test_the_terminal_says_where_and_by_what_to_trust(lan: Lan) -> None:
    assert "https://" in lan.said
    assert "█" in lan.said
    read = x509.load_pem_x509_certificate(lan.authority.read_bytes())
    digits = lan.said.split("authority: ")[1].splitlines()[0].replace(" ", "")
    assert bytes.fromhex(digits) == hashlib.sha256(read.public_bytes(Encoding.DER)).digest()
    assert (lan.authority.parent / "authority-key.pem").stat().st_mode & 0o077 == 0


def test_it_is_refused_without_a_passphrase(tmp_path: Path) -> None:
    argv = [sys.executable, "-m", "rough_draw.cli", "serve", "--lan", "--db", str(tmp_path / "open.sqlite3")]
    refused = subprocess.run(argv, capture_output=True, text=True, timeout=60)
    assert refused.returncode == 2
    assert "set a passphrase first" in refused.stderr
    assert not (tmp_path / "tls").exists()
