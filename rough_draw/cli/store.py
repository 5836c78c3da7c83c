"""`rough-draw verify`, `backup` and `restore`: is a record whole, and the whole database out and in again."""

from __future__ import annotations

import argparse
import json
from pathlib import Path

from rough_draw.cli.base import Refused, read, show
from rough_draw.text import say, told


def verify(a: argparse.Namespace) -> None:
    """Check the chain of a sealed record."""
    from rough_draw.store import job_files
    from rough_draw.store.jobs import day

    try:
        document, pictures = job_files.unpacked(read(a.job, job_files.MOST_BYTES))
        if _certificate(a, json.loads(document)):
            return
        closed, found, entries, signers = job_files.verify(json.loads(document), pictures)
    except (UnicodeDecodeError, json.JSONDecodeError) as e:
        raise Refused(f"{a.job}: not JSON ({e})") from None
    except job_files.FileFault as e:
        raise Refused(f"{a.job}: {told(e)}") from None
    breaks = [{"entry": b.number, "words": say(b.words)} for b in found]
    signed = [{"firm": name, "key": key} for name, key in signers]
    out = {"whole": not found, "sealed_at": closed, "entries": entries, "breaks": breaks, "signed": signed}

    def words() -> str:
        if not found:
            by = "".join(f"\nsigned by {s['firm'] or 'a firm'}, key {s['key']}" for s in signed)
            return f"whole: sealed {day(closed)}, {entries} entries, nothing changed since{by}"
        return "\n".join([f"BROKEN: sealed {day(closed)}, {entries} entries"] + [f"  {say(b.words)}" for b in found])

    show(out, a.json, words)
    if found:
        raise SystemExit(1)


def _certificate(a: argparse.Namespace, told: object) -> bool:
    """Check a certificate of an examination, where it is one."""
    from rough_draw.core.records.firm_signature import fingerprint
    from rough_draw.store import exams

    if not isinstance(told, dict) or told.get("format") != exams.FORMAT:
        return False
    whole = exams.is_whole(told)
    key = fingerprint(str(told["firm_key"])) if whole and told.get("firm_key") else ""

    def words() -> str:
        if not whole:
            return "BROKEN: this certificate is not as it was written"
        by = f"\nsigned by {told.get('firm') or 'a firm'}, key {key}" if key else ""
        return f"whole: {told.get('name') or 'somebody'}, level {told.get('level')}, {told.get('mean')} of 100{by}"

    show({"whole": whole, "name": str(told.get("name", "")), "key": key}, a.json, words)
    if not whole:
        raise SystemExit(1)
    return True


def backup(a: argparse.Namespace) -> None:
    """Copy the whole database, also while it is in use, and check the copy."""
    from rough_draw.store import backup as kept
    from rough_draw.store.database import open_database

    if not Path(a.db).exists():
        raise Refused(f"{a.db}: there is no such database")
    open_database(a.db).close()
    try:
        found = kept.take(Path(a.out))
    except (kept.BackupFault, OSError) as e:
        raise Refused(told(e)) from None
    print(f"{a.out}: {', '.join(f'{n:,} in {t}' for t, n in found.items())}; checked")


def restore(a: argparse.Namespace) -> None:
    """Put a backup in the place of the database; what was there is kept beside it."""
    from rough_draw.core.message import message
    from rough_draw.store import backup as kept
    from rough_draw.store.server_lock import InUse, lock

    try:
        # Held all along: no server begins on a file that is being put back.
        with lock(a.db):
            found = kept.restore(Path(a.backup), Path(a.db), anyway=a.anyway)
    except InUse:
        raise Refused(say(message("database-served", file=a.db))) from None
    except kept.SheetsUnread as e:
        raise Refused(f"{told(e)} With --anyway it is put back.") from None
    except (kept.BackupFault, OSError) as e:
        raise Refused(told(e)) from None
    print(f"{a.db}: {found['job']:,} jobs, {found['reading']:,} readings")
