"""Practice scenarios that ship with the application."""
