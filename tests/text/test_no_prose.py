"""Sentences are made in one place: no prose in core, store or API, found by reading the code itself."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2] / "rough_draw"
PROSE = re.compile(r"(?:[A-Za-z'’]{2,},? +){3,}[A-Za-z'’]{2,}")
"""Four words after one another: what fewer say is a name, a unit or a tag."""
TO_DEVELOPERS = {"ValueError", "TypeError", "KeyError", "RuntimeError", "AssertionError", "EngineError", "SpecError"}
"""Raised where the caller is at fault, not what was typed: those are Faults, with a message."""
SOURCED = {"Quantity", "Field", "Query", "Path", "FastAPI", "execute", "execute_sql"}
"""Where figures come from, and what the description of the API says: data, and shown as such."""
EARLIER = {ROOT / "core" / "charging" / "cautions.py"}
"""Wordings of earlier versions, by which what they stored is known again."""
NOT_READ = {
    # Where a figure that is worked out comes from; why a run of the engine ends; a name kept on a sheet; a font;
    # a relation by its name; what a socket is told.
    "read in the rig proof",
    "sum of the sections",
    "measured volume, shared out",
    "the step became too small",
    "broken with nitrogen to · kPa",
    "jumper at the far end",
    "a leak seen from afar",
    "readings could not be kept: ·",
    'font-family="Atkinson Hyperlegible Next, Helvetica, Arial, sans-serif"',
}
ROOMS = ("core", "store", "api")


def said(tree: ast.AST) -> Iterator[tuple[int, str]]:
    """Texts of a module that are neither docstring, source, log line, SQL, nor meant for who wrote the code."""
    passed: set[int] = set()

    def skip(node: ast.AST) -> None:
        passed.update(id(n) for n in ast.walk(node))

    for node in ast.walk(tree):
        if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant):
            skip(node)
        if isinstance(node, ast.Raise) and isinstance(node.exc, ast.Call):
            name = node.exc.func
            if isinstance(name, ast.Name) and name.id in TO_DEVELOPERS:
                skip(node)
        if isinstance(node, ast.Call):
            called = node.func.attr if isinstance(node.func, ast.Attribute) else getattr(node.func, "id", "")
            owner = node.func.value if isinstance(node.func, ast.Attribute) else None
            if called in SOURCED or (isinstance(owner, ast.Name) and owner.id in ("log", "logger")):
                skip(node)
        if isinstance(node, ast.JoinedStr) and id(node) not in passed:
            parts = [v.value if isinstance(v, ast.Constant) else "·" for v in node.values]
            skip(node)
            yield node.lineno, "".join(str(p) for p in parts)
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in passed:
            yield node.lineno, node.value


@pytest.mark.parametrize("room", ROOMS)
def test_nothing_is_said_outside_the_text_layer(room: str) -> None:
    found = []
    for file in sorted((ROOT / room).rglob("*.py")):
        if file in EARLIER or "catalogue" in file.parts or "migrations" in file.parts:
            continue
        for line, text in said(ast.parse(file.read_text())):
            if PROSE.search(text) and text not in NOT_READ and not re.match(r"(SELECT|INSERT|CREATE) ", text):
                found.append(f"{file.relative_to(ROOT)}:{line}: {text[:80]!r}")
    assert not found, "\n".join(found)


def test_the_search_itself_finds_prose() -> None:
    code = 'def f(n):\n    """It says what it does here."""\n    return f"there are {n} holds that were read"\n'
    assert [t for _, t in said(ast.parse(code)) if PROSE.search(t)] == ["there are · holds that were read"]
