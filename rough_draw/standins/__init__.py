"""Simulated stand-ins for outside devices: a world that obeys touches, and the gauge that reads it."""
