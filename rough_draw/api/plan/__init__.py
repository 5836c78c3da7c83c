"""Plan and rig over the wire."""
