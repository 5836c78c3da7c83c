"""Why a draw is slow, over the wire."""
