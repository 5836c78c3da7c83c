"""The simulated practice job: a world that hands work on, and an expert to compare with."""
