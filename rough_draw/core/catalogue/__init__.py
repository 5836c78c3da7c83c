"""The one catalogue of physical parameters: each with unit, range and source, and `estimate` where it is one."""
