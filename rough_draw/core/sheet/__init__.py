"""The job document: what a technician brings, as checked values that are never changed in place."""
