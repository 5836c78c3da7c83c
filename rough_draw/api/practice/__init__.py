"""Practice over the wire."""
