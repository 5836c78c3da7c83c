"""The port a server listens at, taken before anything says that it is on."""

from __future__ import annotations

import errno
import socket

from rough_draw.cli.base import Refused

BACKLOG = 2048


def listening(host: str, port: int, option: str = "--port") -> socket.socket:
    """A socket that listens at ``host`` (every address of this machine where it is empty).

    Raises Refused with a sentence that says why it cannot be had, and by which ``option`` to take another.
    """
    both = host == "" and socket.has_dualstack_ipv6()
    family = socket.AF_INET6 if both or ":" in host else socket.AF_INET
    try:
        return socket.create_server((host, port), family=family, backlog=BACKLOG, dualstack_ipv6=both)
    except OverflowError:
        raise Refused(f"there is no port {port}: they go from 1 to 65535 ({option})") from None
    except OSError as e:
        raise Refused(_why(e, host, port, option)) from None


def _why(e: OSError, host: str, port: int, option: str) -> str:
    if e.errno == errno.EADDRINUSE:
        return f"port {port} is taken by another program: stop that one, or choose another with {option}"
    if e.errno in (errno.EACCES, errno.EPERM):
        return f"port {port} is the administrator's: choose one from 1024 up with {option}"
    if e.errno == errno.EADDRNOTAVAIL or isinstance(e, socket.gaierror):
        return f"this machine has no address {host}"
    return f"port {port} cannot be opened: {e.strerror or e}"
