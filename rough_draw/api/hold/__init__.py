"""Holds and their verdicts over the wire."""
