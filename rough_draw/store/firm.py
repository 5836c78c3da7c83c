"""The firm as it stands on papers: its logo, kept beside the settings that have its name and address."""

from __future__ import annotations

import base64
import io
import time

from rough_draw.core.records.firm_signature import new_key
from rough_draw.store.jobs import writing
from rough_draw.store.models import Setting
from rough_draw.store.photos import opened
from rough_draw.store.stored import WORDS

KEY = "logo"
EDGE = 600
"""Pixels of the longer edge of a logo as it is kept."""


def logo() -> bytes | None:
    """The firm's logo as PNG; None where there is none."""
    row = Setting.get_or_none(Setting.key == KEY)
    return base64.b64decode(row.document) if row is not None else None


def keep_logo(data: bytes) -> None:
    """Take a logo from the firm's own file (PNG, JPEG, WebP); what is clear in it stays clear. Raises PhotoFault."""
    made = opened(data).convert("RGBA")
    made.thumbnail((EDGE, EDGE))
    out = io.BytesIO()
    made.save(out, "PNG", optimize=True)
    with writing():
        Setting.insert(key=KEY, document=base64.b64encode(out.getvalue()).decode()).on_conflict_replace().execute()


def drop_logo() -> None:
    """Have none any more."""
    with writing():
        Setting.delete().where(Setting.key == KEY).execute()


PAIR = "firm-key"


def key_pair() -> tuple[str, str] | None:
    """The firm's private and public key, in hex; None where it has none, or none that can be read."""
    row = Setting.get_or_none(Setting.key == PAIR)
    kept = WORDS.read(row.document) if row is not None else {}
    return (kept["private"], kept["public"]) if {"private", "public"} <= kept.keys() else None


def make_key() -> str:
    """Make the firm a key, once; returns the public one. What was signed with it can be checked by it for ever."""
    found = key_pair()
    if found is not None:
        return found[1]
    private, public = new_key()
    with writing():
        # One that cannot be read makes way, and is kept: somebody may read it yet.
        Setting.update(key=f"{PAIR}-{time.time_ns()}").where(Setting.key == PAIR).execute()
        Setting.insert(key=PAIR, document=WORDS.write({"private": private, "public": public})).execute()
    return public
