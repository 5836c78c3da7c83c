"""Alarms over all running jobs."""
