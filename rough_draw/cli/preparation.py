"""What a server that is started has to make first, while it answers already."""

from __future__ import annotations

import subprocess
import sys

from rough_draw.api.preparing import Preparation


def engine_first() -> list[Preparation]:
    """The engine made beside the server that answers already, in a process of its own; nothing where it is made."""
    from rough_draw.cli.warm import is_made

    if is_made():
        return []

    def work() -> None:
        subprocess.run([sys.executable, "-m", "rough_draw.cli.warm"], check=True)

    return [Preparation("engine", work, 60.0)]
