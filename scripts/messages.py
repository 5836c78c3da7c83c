"""Write docs/messages.md: every sentence of the text layer with its US and its UK text."""

from __future__ import annotations

import sys
from pathlib import Path

from fluent.syntax import ast, parse, serializer

from rough_draw.text.bundle import FIRST, LOCALES

OUT = Path(__file__).parents[1] / "docs" / "messages.md"
OTHER = "en-GB"
HEAD = """# Messages

Every sentence that `rough_draw/text` says, written by `scripts/messages` from its files. A value in braces is put in as
the reader reads it. The UK text stands where it differs.
"""


def texts(entry: ast.Message) -> dict[str, str]:
    """The sentence of a message and those that belong to it, by their keys, on one line each."""
    found = {entry.id.name: entry.value} if entry.value else {}
    found |= {f"{entry.id.name}.{a.id.name}": a.value for a in entry.attributes}
    return {key: " ".join(serializer.serialize_pattern(value).split()) for key, value in found.items()}


def entries(file: Path) -> dict[str, str]:
    """All texts of a file; none where there is none."""
    if not file.exists():
        return {}
    body = parse(file.read_text(encoding="utf-8")).body
    return {k: v for e in body if isinstance(e, ast.Message) for k, v in texts(e).items()}


def written() -> str:
    """The whole page."""
    lines = [HEAD]
    for file in sorted((LOCALES / FIRST).glob("*.ftl")):
        other = entries(LOCALES / OTHER / file.name)
        lines += [f"## {file.stem}", "", "| key | US | UK |", "|---|---|---|"]
        for key, text in entries(file).items():
            differs = other.get(key, text)
            cells = (f"`{key}`", text, "" if differs == text else differs)
            lines.append("| " + " | ".join(c.replace("|", "\\|") for c in cells) + " |")
        lines.append("")
    return "\n".join(lines)


def main() -> int:
    """Write the page, or say whether it is stale."""
    if "--check" in sys.argv:
        if not OUT.exists() or OUT.read_text(encoding="utf-8") != written():
            print("docs/messages.md is stale: run scripts/messages and commit it.", file=sys.stderr)
            return 1
        return 0
    OUT.write_text(written(), encoding="utf-8")
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
