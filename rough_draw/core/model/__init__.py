"""From the sheet to the network that the engine runs: system, rig, pump, what is shut off, ensembles."""
