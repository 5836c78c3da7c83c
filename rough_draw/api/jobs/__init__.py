"""The Yard and the sheets."""
