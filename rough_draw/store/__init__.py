"""What is kept: jobs, their touches and readings, on SQLite. No computation, no web."""
