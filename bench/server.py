"""A server of the application for a bench: started on its own database, stopped after."""

from __future__ import annotations

import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager

import httpx


@contextmanager
def served(path: str, port: int) -> Iterator[subprocess.Popen[bytes]]:
    """Serve the database at ``path`` on a port of the loopback; yields the process once it answers."""
    command = [sys.executable, "-m", "rough_draw.cli", "serve", "--db", path, "--port", str(port)]
    process = subprocess.Popen(command, stdout=subprocess.DEVNULL)
    try:
        for _ in range(200):
            try:
                httpx.get(f"http://127.0.0.1:{port}/api/health", timeout=10.0)
                break
            except httpx.TransportError:
                time.sleep(0.2)
        yield process
    finally:
        process.terminate()
        process.wait(20)
