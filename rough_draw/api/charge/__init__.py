"""Charging: the scale, what is in, running readings."""
