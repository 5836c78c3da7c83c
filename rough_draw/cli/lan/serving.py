"""Two servers side by side: the application over TLS, and in the clear the page that says how to reach it."""

from __future__ import annotations

import argparse
import threading
import time
from contextlib import suppress
from pathlib import Path
from typing import Any

from rough_draw.cli.base import Refused
from rough_draw.cli.listening import listening

LOOKS_S = 6 * 3600.0
"""How often it is looked whether the certificate is about to end, or the machine has another address."""


def serve_lan(a: argparse.Namespace) -> None:
    """Serve the devices on this network over HTTPS, behind the passphrase."""
    import uvicorn

    from rough_draw.api.access import Door
    from rough_draw.api.app import create_app
    from rough_draw.cli.lan import certificates
    from rough_draw.cli.lan.help_page import HelpPage
    from rough_draw.cli.lan.qr import qr_terminal
    from rough_draw.cli.preparation import engine_first

    names = certificates.addresses()
    folder = Path(a.db).resolve().parent / "tls"
    if bool(a.cert) != bool(a.key):
        raise Refused("--cert and --key go together: the server's certificate, and its key")
    try:
        found = certificates.own(Path(a.cert), Path(a.key)) if a.cert else certificates.ready(folder, names)
    except (OSError, ValueError) as e:
        raise Refused(f"no certificate to serve with: {e}") from None
    port = a.tls_port
    host = a.name or (names[0] if names else "localhost")
    address = f"https://{f'[{host}]' if ':' in host else host}:{port}/"
    app = create_app(a.db, door=Door(locked=True), before=engine_first(), alone=True)
    config = uvicorn.Config(
        app,
        log_level="warning",
        timeout_graceful_shutdown=2,
        timeout_keep_alive=75,
        server_header=False,
        ssl_certfile=str(found.server),
        ssl_keyfile=str(found.key),
    )
    page = HelpPage(address, found.authority, found.fingerprint)
    helper = uvicorn.Server(uvicorn.Config(page, log_level="warning", server_header=False))
    taken, shown = listening("", port, "--tls-port"), listening("", a.port)
    threading.Thread(target=helper.run, args=([shown],), daemon=True).start()
    print(f"Rough Draw on {address}  (stop with Ctrl-C)")
    print(f"How a phone comes to trust it: {address.replace('https', 'http', 1).replace(f':{port}/', f':{a.port}/')}")
    if found.fingerprint:
        print(f"SHA-256 of its authority: {found.fingerprint}")
    print(qr_terminal(address), flush=True)
    if not a.cert:
        threading.Thread(target=_renewing, args=(config, folder), daemon=True).start()
    with suppress(KeyboardInterrupt):
        uvicorn.Server(config).run(sockets=[taken])
    helper.should_exit = True


def _renewing(config: Any, folder: Path) -> None:
    """Look now and then, and give whoever connects from then on the new certificate."""
    from rough_draw.cli.lan import certificates

    while True:
        time.sleep(LOOKS_S)
        renew(config.ssl, folder, certificates.addresses())


def renew(context: Any, folder: Path, names: tuple[str, ...]) -> None:
    """Have a server's TLS context use the house's certificate as it now should be."""
    from rough_draw.cli.lan import certificates

    found = certificates.ready(folder, names)
    context.load_cert_chain(str(found.server), str(found.key))
