"""Drop from the npm lock file the optional packages that the registry did not offer when it was made.

npm names them in `optionalDependencies` without an entry of their own, and `npm ci` then refuses the whole lock.
They are builds for other operating systems; those offered are kept.
"""

from __future__ import annotations

import json
from pathlib import Path

LOCK = Path(__file__).parents[1] / "frontend" / "package-lock.json"


def main() -> None:
    lock = json.loads(LOCK.read_text())
    packages = lock["packages"]
    offered = {k.rsplit("node_modules/", 1)[1] for k in packages if k}
    dropped: set[str] = set()
    for entry in packages.values():
        optional = entry.get("optionalDependencies", {})
        for name in [n for n in optional if n not in offered]:
            dropped.add(name)
            del optional[name]
    LOCK.write_text(json.dumps(lock, indent=2) + "\n")
    print(f"dropped {len(dropped)}: {', '.join(sorted(dropped)) or 'none'}")


if __name__ == "__main__":
    main()
