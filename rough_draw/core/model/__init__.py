"""From the sheet to the network that the engine runs: system, rig, pump, what is shut off, ensembles."""

from rough_draw.core.model.system import ScopeError

__all__ = [
    "ScopeError",
]
