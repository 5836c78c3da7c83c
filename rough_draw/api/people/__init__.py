"""People and sign-in."""
