"""Prove over the wire."""
