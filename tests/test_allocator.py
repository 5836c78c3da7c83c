"""What a server's threads free is given back: few arenas, and no large array kept in one."""

from __future__ import annotations

import platform
import subprocess
import sys
from pathlib import Path

import pytest

# In a process of its own: how a process keeps memory can be set before it has threads, and is not to be unset.
WORK = """
import ctypes, os, sys, threading
from pathlib import Path
import numpy as np
from bench.gauges import memory_mb
from rough_draw.cli.allocator import tidy

if sys.argv[1] == "tidy":
    assert tidy()
start, libc = threading.Barrier(12), ctypes.CDLL(None)

def work():
    # Kept above what is dropped, as a small answer is that was made after large ones: the arena cannot be cut there.
    for n in range(40):
        start.wait()
        large = [np.ones(60_000 + 400 * n) for _ in range(8)]
        kept.append(np.ones(90))
        del large

kept = []
before = memory_mb(os.getpid())
threads = [threading.Thread(target=work) for _ in range(12)]
[t.start() for t in threads]
[t.join() for t in threads]
grown = memory_mb(os.getpid()) - before
libc.fopen.restype, libc.fopen.argtypes = ctypes.c_void_p, (ctypes.c_char_p, ctypes.c_char_p)
libc.malloc_info.argtypes, libc.fclose.argtypes = (ctypes.c_int, ctypes.c_void_p), (ctypes.c_void_p,)
file = libc.fopen(sys.argv[2].encode(), b"w")
libc.malloc_info(0, file)
libc.fclose(file)
print(Path(sys.argv[2]).read_text().count("<heap nr="), grown)
"""


def kept(how: str, folder: Path) -> tuple[int, float]:
    """Arenas, and MB that a process keeps of what its threads have freed."""
    r = subprocess.run([sys.executable, "-c", WORK, how, f"{folder}/{how}.xml"], capture_output=True, text=True)
    assert r.returncode == 0, r.stderr
    arenas, grown = r.stdout.split()
    return int(arenas), float(grown)


@pytest.mark.skipif(platform.libc_ver()[0] != "glibc", reason="only glibc has these settings")
def test_what_threads_free_is_given_back(tmp_path: Path) -> None:
    arenas, grown = kept("tidy", tmp_path)
    as_it_comes, wasted = kept("plain", tmp_path)
    assert arenas <= 2 < as_it_comes
    assert grown < 12.0
    assert wasted > 2 * grown
