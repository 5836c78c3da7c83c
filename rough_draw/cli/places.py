"""Where the command line keeps its databases: beside a checkout in ``var``, else in the platform's usual place."""

from __future__ import annotations

from pathlib import Path

from platformdirs import user_data_path

JOBS, DEMO = "rough-draw.sqlite3", "demo.sqlite3"


def folder() -> Path:
    """``var`` where one stands here, or where this is a checkout; else this person's folder for applications' data."""
    here = Path("var")
    if here.is_dir() or Path("scripts", "start").is_file():
        return here
    return user_data_path("rough-draw", appauthor=False)


def database() -> str:
    """The database of one's own jobs."""
    return str(folder() / JOBS)


def demo() -> str:
    """The database of the demo."""
    return str(folder() / DEMO)
