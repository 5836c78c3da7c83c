"""Tables and series of readings: bytes in, series or line-numbered faults out."""

from rough_draw.core.readings.csv_table import Import, ReadingsError, read_table
from rough_draw.core.readings.series import Series

__all__ = [
    "Import",
    "ReadingsError",
    "Series",
    "read_table",
]
