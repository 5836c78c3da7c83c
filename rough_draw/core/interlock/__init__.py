"""What a step will do before a hand does it, and orders of steps derived from that."""
