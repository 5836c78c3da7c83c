"""The kit over the wire."""
