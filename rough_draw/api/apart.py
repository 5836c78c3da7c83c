"""Work in a process of its own: what reckons there for long takes neither the interpreter nor the machine from who
waits for an answer here.
"""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import threading
from collections.abc import Callable
from multiprocessing import Pipe
from multiprocessing.connection import Connection
from typing import ParamSpec, TypeVar

P = ParamSpec("P")
T = TypeVar("T")
YIELDS = 3
"""How far it stands behind whoever answers, where both want the machine (as `nice` counts)."""


class Gone(Exception):
    """The process that was asked has ended under its work."""


class Apart:
    """A process beside this one, started when it is first asked, and again when it has ended under a work.

    It does one work at a time. A work is a function of a module, what it is given and what it returns is pickled; what
    the module keeps between works is kept there. It ends with this process, however that ends.
    """

    def __init__(self) -> None:
        self._turn, self._guard = threading.Lock(), threading.Lock()
        self._line: Connection | None = None
        self._process: subprocess.Popen[bytes] | None = None
        _every.append(self)

    def ask(self, work: Callable[P, T], *given: P.args, **named: P.kwargs) -> T:
        """What ``work`` returns, or raises. Raises `Gone` where the process ends under it."""
        with self._turn:
            line = self._begun()
            try:
                line.send((work, given, named))
                done, found = line.recv()
            except (EOFError, OSError) as e:
                self.end()
                raise Gone from e
        if not done:
            raise found
        answer: T = found
        return answer

    def end(self) -> None:
        """End the process, whatever it is at; who waits for it is told that it is gone."""
        with self._guard:
            if self._process is not None:
                self._process.kill()
                self._process.wait()
            self._process = self._line = None

    def _begun(self) -> Connection:
        with self._guard:
            if self._line is None:
                mine, theirs = Pipe()
                # Its end of the line is its alone: so each hears when the other is no more.
                with theirs:
                    begin = f"from rough_draw.api.apart import serve; serve({theirs.fileno()})"
                    self._process = subprocess.Popen([sys.executable, "-c", begin], pass_fds=[theirs.fileno()])
                self._line = mine
            return self._line


def serve(end_of_line: int) -> None:
    """Do what is asked on that file descriptor, until nobody is there who could ask."""
    line = Connection(end_of_line)
    # Ctrl-C is meant for the server, and with that this ends too.
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    os.nice(YIELDS)
    while True:
        try:
            work, given, named = line.recv()
        except EOFError:
            return
        try:
            answer = (True, work(*given, **named))
        except Exception as e:
            answer = (False, e)
        try:
            line.send(answer)
        except OSError:
            return
        except Exception as e:
            line.send((False, RuntimeError(repr(e))))


_every: list[Apart] = []


def end_all() -> None:
    """End every process beside."""
    for one in _every:
        one.end()
