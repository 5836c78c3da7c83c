"""The papers beside the code are true: links lead somewhere, names exist, commands are told."""

from __future__ import annotations

import json
import os
import re
import subprocess
import sys
from pathlib import Path

import pytest

from rough_draw.cli.main import parser
from rough_draw.core.hold.decision import VERDICTS
from rough_draw.core.message import message
from rough_draw.core.sheet.steps import RUN_MOVES
from rough_draw.text import say

ROOT = Path(__file__).parents[1]
PAGES = ["README.md", *sorted(str(p.relative_to(ROOT)) for p in (ROOT / "docs").rglob("*.md"))]


def tracked() -> list[str]:
    out = subprocess.run(["git", "ls-files"], cwd=ROOT, capture_output=True, text=True, check=True)
    return out.stdout.split()


@pytest.mark.parametrize("page", PAGES)
def test_every_link_leads_somewhere(page: str) -> None:
    path = ROOT / page
    for target in re.findall(r"\]\(([^)#]+)\)", path.read_text()):
        if not target.startswith("http"):
            assert (path.parent / target).exists(), f"{page} links to {target}"


@pytest.mark.parametrize("script", ["start", "test", "screenshots", "validation", "api-types"])
def test_scripts_can_be_run(script: str) -> None:
    path = ROOT / "scripts" / script
    assert os.access(path, os.X_OK)
    assert path.read_text().startswith("#!/usr/bin/env bash\n")
    assert "set -euo pipefail" in path.read_text()


def test_readme_tells_the_two_commands() -> None:
    text = (ROOT / "README.md").read_text()
    assert "scripts/start" in text
    assert "scripts/test" in text
    assert "scripts/test" in (ROOT / ".ci" / "run").read_text()


def test_readme_shows_every_screenshot() -> None:
    text = (ROOT / "README.md").read_text()
    shots = sorted((ROOT / "docs" / "screenshots").glob("*.png"))
    assert 10 <= len(shots) < 20
    for shot in shots:
        assert f"docs/screenshots/{shot.name}" in text, shot.name


def test_formats_name_every_verdict_and_flag() -> None:
    text = (ROOT / "docs" / "formats.md").read_text()
    for verdict in VERDICTS:
        assert f"`{verdict}`" in text
    for word in ("probability", "leak_pa_m3_s", "rate_micron_s", "moisture_g", "sound_at_s", "criteria"):
        assert f"`{word}`" in text
    for word in ("time_to_target_s", "speed_at_target_m3_s", "gauge_error_micron", "upgrades"):
        assert f"`{word}`" in text


def _architecture() -> str:
    return (ROOT / "docs" / "architecture.md").read_text()


def test_architecture_names_files_that_exist() -> None:
    product = ROOT / "rough_draw"
    known = {p.stem for p in product.rglob("*.py")} | {p.name for p in product.rglob("*") if p.is_dir()}
    dotted = {".".join(p.relative_to(product).with_suffix("").parts) for p in product.rglob("*.py")}
    named = re.findall(r"`([a-z_.]+)`", _architecture())
    assert len(named) > 60
    for name in set(named) - {"estimate", "cachetools", ".importlinter"}:
        there = name in known or name in dotted or any(d.endswith(f".{name}") for d in dotted)
        assert there or "import" in name or "lint" in name, name


def test_architecture_has_a_paragraph_for_every_room_and_no_other() -> None:
    rooms = {p.parent.name for p in (ROOT / "rough_draw" / "core").glob("*/__init__.py")}
    assert set(re.findall(r"^\*\*([a-z]+)\.\*\*", _architecture(), re.M)) == rooms


def test_the_picture_of_the_rooms_shows_the_code() -> None:
    subprocess.run([sys.executable, str(ROOT / "scripts" / "architecture.py"), "--check"], check=True)


def test_every_core_file_stays_short_and_says_what_it_is() -> None:
    for path in (ROOT / "rough_draw").rglob("*.py"):
        text = path.read_text()
        assert text.startswith('"""') or path.name == "__init__.py", path
        assert len(text.splitlines()) < 360, path


def test_every_public_function_of_the_core_has_a_docstring() -> None:
    import ast

    for path in (ROOT / "rough_draw" / "core").rglob("*.py"):
        for node in ast.parse(path.read_text()).body:
            if isinstance(node, ast.FunctionDef | ast.ClassDef) and not node.name.startswith("_"):
                assert ast.get_docstring(node), f"{path.name}: {node.name}"


def test_locks_name_no_address() -> None:
    assert "://" not in (ROOT / "requirements" / "app.txt").read_text()
    assert "://" not in (ROOT / "requirements" / "test.txt").read_text()
    lock = json.loads((ROOT / "frontend" / "package-lock.json").read_text())
    assert not any("resolved" in p for p in lock["packages"].values())


def test_the_lock_offers_all_it_names() -> None:
    packages = json.loads((ROOT / "frontend" / "package-lock.json").read_text())["packages"]
    offered = {k.rsplit("node_modules/", 1)[1] for k in packages if k}
    for name, entry in packages.items():
        assert set(entry.get("optionalDependencies", {})) <= offered, name


def test_nothing_made_is_tracked() -> None:
    for name in tracked():
        assert not name.startswith(("frontend/node_modules/", "rough_draw/api/static/", "var/", ".venv/")), name
        assert not name.endswith((".sqlite3", ".pyc", ".log")), name


def test_help_is_worth_reading() -> None:
    p = parser()
    text = p.format_help()
    assert "exit code 2" in text
    sub = next(a for a in p._actions if isinstance(a.choices, dict))
    for name, command in sub.choices.items():  # type: ignore[union-attr]
        assert command.description, name
        for action in command._actions:
            if action.option_strings and action.dest not in (
                "help",
                "json",
                "fresh",
                "csv",
                "school",
                "out",
                "leak_micron_s",
            ):
                assert action.help, f"{name} {action.option_strings}"


def test_every_touch_has_words() -> None:
    for kind in RUN_MOVES:
        assert re.fullmatch(r"[a-z-]+", kind)
        assert say(message(f"done-{kind}"))[0].isupper()
