"""A record that stands: its chain of hashes."""
