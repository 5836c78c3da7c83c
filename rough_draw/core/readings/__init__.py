"""Tables and series of readings: bytes in, series or line-numbered faults out."""
