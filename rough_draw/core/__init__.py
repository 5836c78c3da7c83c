"""The computation. Values in, values out: no web, no database, no clock, no files."""
