"""What every command shares: refusing bad input, reading a file, printing an answer."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from rough_draw.text import say, told

if TYPE_CHECKING:
    from rough_draw.store.job_files import JobFile


class Refused(Exception):
    """Bad input: one clear line, exit code 2."""


def read(path: str, most: int) -> bytes:
    """At most ``most`` bytes of a file and one more. Raises Refused."""
    try:
        with open(path, "rb") as f:
            return f.read(most + 1)
    except OSError as e:
        raise Refused(f"{path}: {e.strerror or e}") from None


def show(values: dict[str, Any], as_json: bool, words: Callable[[], str]) -> None:
    """Print an answer: as JSON, or in words."""
    print(json.dumps(values, indent=1, default=say) if as_json else words())


def job_file(path: str) -> JobFile:
    """A job file, whole or a sheet alone. Raises Refused."""
    from rough_draw.store.job_files import MOST_BYTES, FileFault, parse

    try:
        return parse(read(path, MOST_BYTES))
    except FileFault as e:
        raise Refused(f"{path}: {told(e)}") from None
