"""The core stands alone: it imports neither web nor database, and fast."""

from __future__ import annotations

import ast
import subprocess
import sys
from pathlib import Path

CORE = Path(__file__).parents[2] / "rough_draw" / "core"
ALLOWED = {
    "numpy",
    "numba",
    "pydantic",
    "pydantic_core",
    "rough_draw",
    "__future__",
    "dateutil",
    "charset_normalizer",
    "rfc8785",
    "cryptography",
} | set(sys.stdlib_module_names)
NEVER = {"os", "pathlib", "io", "socket", "sqlite3", "time", "datetime", "random", "urllib", "http", "subprocess"}
EXCEPT = {"csv_table.py": {"io"}, "clock.py": {"datetime"}}


def imports(path: Path) -> set[str]:
    found: set[str] = set()
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            found |= {a.name for a in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module:
            found.add(node.module)
    return found


def test_core_imports_only_what_it_may() -> None:
    for path in CORE.rglob("*.py"):
        for name in imports(path):
            top = name.split(".")[0]
            assert top in ALLOWED, f"{path.name} imports {name}"
            assert top not in NEVER - EXCEPT.get(path.name, set()), f"{path.name} imports {name}: no clock, no files"
            assert not name.startswith(("rough_draw.api", "rough_draw.store", "rough_draw.standins"))


def test_store_and_standins_do_not_import_the_web() -> None:
    for layer in ("store", "standins"):
        for path in (CORE.parent / layer).rglob("*.py"):
            assert not {n.split(".")[0] for n in imports(path)} & {"fastapi", "starlette", "uvicorn"}
            assert not any(n.startswith("rough_draw.api") for n in imports(path))


def test_the_sheet_and_the_rules_import_without_the_compiler() -> None:
    code = (
        "import sys, rough_draw.core.sheet.job, rough_draw.core.hold.verdict;"
        "import rough_draw.core.model.system, rough_draw.core.charging.charge;"
        "print('numba' in sys.modules)"
    )
    out = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert out.stdout.strip() == "False"
