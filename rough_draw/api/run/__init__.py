"""The run: readings, steps, where it stands, the stream."""
