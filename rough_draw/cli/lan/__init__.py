"""Serving the devices of a crew on their own network: an authority of the house, TLS, and a page that says how to trust
it.
"""
