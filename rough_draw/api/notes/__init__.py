"""Bench notes over the wire."""
