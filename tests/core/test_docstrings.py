"""What outsiders call says its units, shapes and faults; its examples give what they say."""

from __future__ import annotations

import ast
import doctest
import importlib
from pathlib import Path

import pytest

CORE = Path(__file__).parents[2] / "rough_draw" / "core"
ROOMS = ("physics", "engine", "hold")
TYPED = ("sheet/steps.py", "practice/action_kinds.py")
FULL = {
    "physics": None,
    "engine": ("simulate", "compile", "events"),
    "hold": ("verdict", "binning", "quick_volume"),
}
"""Modules of a room whose functions are called from outside of it; None for all."""


def modules(*places: str) -> list[Path]:
    return [p for place in places for p in sorted(CORE.glob(place)) if p.name != "__init__.py"]


WITH_EXAMPLES = modules(*(f"{r}/*.py" for r in ROOMS), *TYPED)
OUTSIDE = [
    p for room, names in FULL.items() for p in modules(f"{room}/*.py") if names is None or p.stem in (names or ())
]


@pytest.mark.parametrize("path", WITH_EXAMPLES, ids=lambda p: f"{p.parent.name}.{p.stem}")
def test_examples_give_what_they_say(path: Path) -> None:
    name = "rough_draw.core." + ".".join(path.relative_to(CORE).with_suffix("").parts)
    found = doctest.testmod(importlib.import_module(name))
    assert found.failed == 0


def test_there_are_examples() -> None:
    assert sum(p.read_text().count(">>> ") for p in WITH_EXAMPLES) > 60


@pytest.mark.parametrize("path", OUTSIDE, ids=lambda p: f"{p.parent.name}.{p.stem}")
def test_what_outsiders_call_says_parameters_returns_and_an_example(path: Path) -> None:
    for node in ast.parse(path.read_text()).body:
        if not isinstance(node, ast.FunctionDef) or node.name.startswith("_"):
            continue
        said = ast.get_docstring(node) or ""
        for section in ("Parameters\n---", "Returns\n---", "Examples\n---"):
            assert section in said, f"{path.stem}.{node.name} has no {section.split()[0]}"
        given = [a.arg for a in node.args.args]
        assert all(f"\n{name} : " in said for name in given), f"{path.stem}.{node.name}: a parameter is left out"
        raises = any(isinstance(n, ast.Raise) for n in ast.walk(node))
        assert not raises or "Raises\n---" in said, f"{path.stem}.{node.name} raises, and does not say so"
