"""`rough-draw serve` and `demo`: the application on the loopback, behind a passphrase, or over HTTPS on a network."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from contextlib import suppress
from pathlib import Path

from rough_draw.api.preparing import Preparation
from rough_draw.cli.access import check_host
from rough_draw.cli.allocator import tidy
from rough_draw.cli.listening import listening
from rough_draw.cli.preparation import engine_first
from rough_draw.store.server_lock import lock


def _run_server(path: str, port: int, host: str = "127.0.0.1", before: Sequence[Preparation] = ()) -> None:
    import uvicorn

    from rough_draw.api.access import LOOPBACK, Door
    from rough_draw.api.app import create_app

    alone = host in LOOPBACK
    door = Door(hosts=LOOPBACK) if alone else Door(locked=True)
    shown = f"[{host}]" if ":" in host else host
    app = create_app(path, door=door, before=before, alone=True)
    taken = listening(host, port)
    print(f"Rough Draw on http://{shown}:{port}/  (stop with Ctrl-C)", flush=True)
    # Pages ask every few seconds: a connection is kept longer than that, or each would be made anew.
    config = uvicorn.Config(
        app, log_level="warning", timeout_graceful_shutdown=2, timeout_keep_alive=75, server_header=False
    )
    # The way it is stopped, as it says itself: no fault to tell of.
    with suppress(KeyboardInterrupt):
        uvicorn.Server(config).run(sockets=[taken])


def serve(a: argparse.Namespace) -> None:
    """Serve the application: on the loopback without a sign-in, beyond it only behind a passphrase."""
    tidy()
    if a.lan:
        from rough_draw.cli.lan.serving import serve_lan

        check_host("0.0.0.0", a.db)
        with lock(a.db):
            serve_lan(a)
        return
    check_host(a.host, a.db)
    with lock(a.db):
        _run_server(a.db, a.port, a.host, engine_first())


def demo(a: argparse.Namespace) -> None:
    """Serve the application with demo data."""
    from rough_draw.demo.build import build
    from rough_draw.store import jobs
    from rough_draw.store.database import open_database

    tidy()
    with lock(a.db):
        if a.fresh:
            for ending in ("", "-wal", "-shm"):
                Path(a.db + ending).unlink(missing_ok=True)
        open_database(a.db)
        before = engine_first()
        if not jobs.listing():
            before.append(Preparation("demo", build, 30.0))
        _run_server(a.db, a.port, before=before)
