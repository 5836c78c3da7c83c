"""Servers of the application for tests: a port that is free, and waiting until one answers."""

from __future__ import annotations

import os
import socket
import subprocess
import sys
import time
import urllib.request

CLI = [sys.executable, "-m", "rough_draw.cli"]
PATIENCE_S = 60.0
"""A loaded machine may take this long to bring a server up."""


def free_port() -> int:
    """A port of the loopback that nobody listens at."""
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return int(s.getsockname()[1])


def serve(command: str, db: object, port: int, *more: str) -> subprocess.Popen[bytes]:
    """Start a server, and come back once it answers. Raises AssertionError if it ends or never does."""
    argv = [*CLI, command, "--db", str(db), "--port", str(port), *more]
    process = subprocess.Popen(argv, env={**os.environ, "TZ": "UTC"})
    end = time.monotonic() + PATIENCE_S
    while True:
        try:
            urllib.request.urlopen(f"http://127.0.0.1:{port}/api/health", timeout=1).close()
            return process
        except OSError:
            if process.poll() is not None or time.monotonic() > end:
                process.kill()
                raise AssertionError("the server did not start") from None
            time.sleep(0.1)
