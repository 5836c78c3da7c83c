"""The command line's part in who may come in: the passphrase, and the refusal to serve without one."""

from __future__ import annotations

import argparse
import getpass
import sys

from rough_draw.cli.base import Refused
from rough_draw.text import told


def passphrase(a: argparse.Namespace) -> None:
    """Set the passphrase that a server beyond the loopback asks for. It is read from the terminal, or from a pipe."""
    from rough_draw.store import access
    from rough_draw.store.database import open_database

    if sys.stdin.isatty():
        given = getpass.getpass("Passphrase: ")
        if getpass.getpass("Once more: ") != given:
            raise Refused("the two are not the same; nothing was changed")
    else:
        given = sys.stdin.readline().rstrip("\n")
    open_database(a.db)
    try:
        access.set_passphrase(given)
    except access.WeakPassphrase as e:
        raise Refused(told(e)) from None
    print("set; whoever was signed in has to sign in again")


def check_host(host: str, db: str) -> None:
    """Refuse to serve beyond the loopback where no passphrase is set. Raises Refused."""
    from rough_draw.api.access import LOOPBACK
    from rough_draw.store import access
    from rough_draw.store.database import open_database

    if host in LOOPBACK:
        return
    open_database(db)
    if not access.has_passphrase():
        raise Refused(
            f"serving on {host} opens every job to whoever is on that network; set a passphrase first: "
            f"rough-draw passphrase --db {db}"
        )
