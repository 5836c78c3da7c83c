"""Rough Draw: a companion for evacuating refrigeration and air-conditioning systems."""

__version__ = "0.1.0"
