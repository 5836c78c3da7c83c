"""Simulated jobs to learn on: the scenario, what can be done and its minutes, the score."""
