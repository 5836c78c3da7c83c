"""Draw the rooms of the core and who imports whom, as the code has it, into docs/architecture.svg.

With ``--check``: say whether the picture still shows the code, and write nothing.
"""

from __future__ import annotations

import ast
import sys
from functools import cache
from pathlib import Path

ROOT = Path(__file__).parents[1]
CORE = ROOT / "rough_draw" / "core"
OUT = ROOT / "docs" / "architecture.svg"
WIDE, HIGH, GAP_X, GAP_Y, EDGE = 168, 56, 36, 64, 24
INK, PAPER, SOFT = "#16212B", "#FAFBF3", "#55604F"


def rooms() -> tuple[str, ...]:
    """Names of the rooms."""
    return tuple(sorted(p.parent.name for p in CORE.glob("*/__init__.py")))


@cache
def imports() -> dict[str, set[str]]:
    """Rooms that each room imports from, itself left out."""
    found: dict[str, set[str]] = {r: set() for r in rooms()}
    for room in found:
        for path in (CORE / room).rglob("*.py"):
            for node in ast.walk(ast.parse(path.read_text())):
                if isinstance(node, ast.ImportFrom) and (node.module or "").startswith("rough_draw.core."):
                    found[room].add((node.module or "").split(".")[2])
        found[room].discard(room)
    return found


def beyond(room: str, edges: dict[str, set[str]]) -> set[str]:
    """Everything that a room reaches through others."""
    found: set[str] = set()
    waiting = list(edges[room])
    while waiting:
        here = waiting.pop()
        if here not in found:
            found.add(here)
            waiting += edges[here]
    return found


def arrows() -> list[tuple[str, str]]:
    """Imports that do not follow from others: the fewest arrows that say the same."""
    edges = imports()
    found = []
    for room, into in sorted(edges.items()):
        for other in sorted(into):
            if not any(other in beyond(x, edges) for x in into - {other}):
                found.append((room, other))
    return found


def depth(room: str) -> int:
    """How many rooms lie under a room, on the longest way down."""
    return max((1 + depth(r) for r in imports()[room]), default=0)


def picture() -> str:
    """The picture as SVG: what stands higher may import what stands lower."""
    levels: dict[int, list[str]] = {}
    for room in rooms():
        levels.setdefault(depth(room), []).append(room)
    top, most = max(levels), max(len(x) for x in levels.values())
    width = 2 * EDGE + most * WIDE + (most - 1) * GAP_X
    height = 2 * EDGE + (top + 1) * HIGH + top * GAP_Y
    place: dict[str, tuple[float, float]] = {}
    for level, names in sorted(levels.items()):
        # Each room over the middle of what it imports, so that few arrows cross.
        under = {a: [place[b][0] for x, b in arrows() if x == a and b in place] for a in names}
        centre = {a: sum(xs) / len(xs) if xs else 0.0 for a, xs in under.items()}
        names.sort(key=lambda a, centre=centre: (centre[a], a))
        row = len(names) * WIDE + (len(names) - 1) * GAP_X
        for n, name in enumerate(names):
            place[name] = ((width - row) / 2 + n * (WIDE + GAP_X), EDGE + (top - level) * (HIGH + GAP_Y))
    lines = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width} {height}" font-family="sans-serif">',
        "<title>Rooms of the core; an arrow goes to what is imported</title>",
        f'<rect width="{width}" height="{height}" fill="{PAPER}"/>',
        '<defs><marker id="tip" viewBox="0 0 8 8" refX="8" refY="4" markerWidth="8" markerHeight="8" orient="auto">'
        f'<path d="M0 0 L8 4 L0 8 z" fill="{SOFT}"/></marker></defs>',
    ]
    for a, b in arrows():
        (xa, ya), (xb, yb) = place[a], place[b]
        x1, y1, x2, y2 = xa + WIDE / 2, ya + HIGH, xb + WIDE / 2, yb
        bend = (y2 - y1) / 2
        lines.append(
            f'<path d="M{x1:g} {y1:g} C{x1:g} {y1 + bend:g} {x2:g} {y2 - bend:g} {x2:g} {y2:g}" fill="none" '
            f'stroke="{SOFT}" stroke-width="1.5" marker-end="url(#tip)"/>'
        )
    for name, (x, y) in place.items():
        files = len([p for p in (CORE / name).glob("*.py") if p.name != "__init__.py"])
        lines += [
            f'<rect x="{x:g}" y="{y:g}" width="{WIDE}" height="{HIGH}" rx="4" fill="{PAPER}" stroke="{INK}" '
            'stroke-width="2"/>',
            f'<text x="{x + WIDE / 2:g}" y="{y + 25:g}" text-anchor="middle" font-size="18" fill="{INK}">{name}</text>',
            f'<text x="{x + WIDE / 2:g}" y="{y + 44:g}" text-anchor="middle" font-size="14" fill="{SOFT}">'
            f"{files} files</text>",
        ]
    return "\n".join([*lines, "</svg>"]) + "\n"


def main() -> int:
    """Write the picture, or check it."""
    made = picture()
    if "--check" in sys.argv:
        if OUT.read_text() != made:
            print("docs/architecture.svg no longer shows the code: run scripts/architecture", file=sys.stderr)
            return 1
        return 0
    OUT.write_text(made)
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
