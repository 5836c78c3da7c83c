"""Drop from the npm lock file the optional packages that the registry did not offer when it was made.

npm writes them as entries without a version, and `npm ci` then refuses the whole lock. They are builds for other
operating systems; those offered are kept.
"""

from __future__ import annotations

import json
from pathlib import Path

LOCK = Path(__file__).parents[1] / "frontend" / "package-lock.json"


def main() -> None:
    lock = json.loads(LOCK.read_text())
    packages = lock["packages"]
    hollow = {k for k, v in packages.items() if k and "version" not in v}
    names = {k.rsplit("node_modules/", 1)[1] for k in hollow}
    for key in hollow:
        del packages[key]
    for entry in packages.values():
        optional = entry.get("optionalDependencies")
        if optional:
            entry["optionalDependencies"] = {k: v for k, v in optional.items() if k not in names}
    LOCK.write_text(json.dumps(lock, indent=2) + "\n")
    print(f"dropped {len(hollow)}: {', '.join(sorted(names)) or 'none'}")


if __name__ == "__main__":
    main()
