"""Servers of the application for tests: a port that is free, a process of its own, and waiting until it answers.

Each is forked from one that has everything loaded (`tests.ready`): a server that is put back after a cut then costs
a twentieth of what a new interpreter does.
"""

from __future__ import annotations

import multiprocessing
import os
import socket
import sys
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from multiprocessing.process import BaseProcess

CLI = [sys.executable, "-m", "rough_draw.cli"]
PATIENCE_S = 60.0
"""A loaded machine may take this long to bring a server up."""


def free_port() -> int:
    """A port of the loopback that nobody listens at."""
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return int(s.getsockname()[1])


def _command(argv: list[str]) -> None:
    # Named here and not above: it loads the application, and only a server's process wants that.
    from tests.ready import command

    os.environ["TZ"] = "UTC"
    time.tzset()
    command(argv)


def _bare(path: str, port: int) -> None:
    from tests.ready import bare

    bare(path, port)


def _forked(target: object, *args: object) -> BaseProcess:
    spawn = multiprocessing.get_context("forkserver")
    spawn.set_forkserver_preload(["tests.ready"])
    process = spawn.Process(target=target, args=args, daemon=True)  # type: ignore[arg-type]
    process.start()
    return process


def start_bare(path: object, port: int) -> BaseProcess:
    """The API alone; comes back at once."""
    return _forked(_bare, str(path), port)


def start(command: str, db: object, port: int, *more: str) -> BaseProcess:
    """Start a server as the command line does; back once it answers. Raises AssertionError if it never does."""
    process = _forked(_command, [command, "--db", str(db), "--port", str(port), *more])
    end = time.monotonic() + PATIENCE_S
    while True:
        try:
            urllib.request.urlopen(f"http://127.0.0.1:{port}/api/health", timeout=1).close()
            return process
        except OSError:
            if not process.is_alive() or time.monotonic() > end:
                process.kill()
                raise AssertionError("the server did not start") from None
            time.sleep(0.05)


@contextmanager
def serve(command: str, db: object, port: int, *more: str) -> Iterator[BaseProcess]:
    """A server for a while."""
    process = start(command, db, port, *more)
    yield process
    process.terminate()
    process.join(10)
