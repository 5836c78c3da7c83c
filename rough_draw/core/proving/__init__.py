"""What is proved before the draw: checks by their evidence, blank-off, oil, pressure test, the rig itself."""
