"""The demo's database, worked out once for all who test on it: each gets a copy."""

from __future__ import annotations

import fcntl
import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

BUILD = (
    "import sys; from rough_draw.demo.build import build; from rough_draw.store.database import open_database;"
    "open_database(sys.argv[1])"
)


def demo_copy(factory: pytest.TempPathFactory) -> Path:
    """A fresh copy of the demo's database."""
    # Workers have folders of their own beside each other; what they share stands above.
    base = factory.getbasetemp()
    shared = base.parent if "PYTEST_XDIST_WORKER" in os.environ else base
    made = shared / "demo.sqlite3"
    with (shared / "demo.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not made.exists():
            draft = shared / "draft.sqlite3"
            argv = [sys.executable, "-c", f"{BUILD}; build()", str(draft)]
            subprocess.run(argv, check=True, env={**os.environ, "TZ": "UTC"})
            with_log = draft.with_name(draft.name + "-wal")
            assert not with_log.exists() or with_log.stat().st_size == 0
            draft.rename(made)
    own = factory.mktemp("demo") / "demo.sqlite3"
    shutil.copy(made, own)
    return own
