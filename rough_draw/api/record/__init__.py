"""The record: report, files, seal, history."""
