"""The solver: volumes joined by elements, run in time. Only `simulate` and what it calls import the compiler."""

from rough_draw.core.engine.network import Network, NetworkError

__all__ = [
    "Network",
    "NetworkError",
]
