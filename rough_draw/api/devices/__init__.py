"""Drivers of gauges and scales, and the stand-ins that jobs are linked to."""
