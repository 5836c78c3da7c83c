"""Settings, own templates and lists that forms choose from."""
