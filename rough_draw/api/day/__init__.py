"""The day: steps of several jobs, clashes, the calendar."""
