"""Basilica: one page map in code, the same navigation on every page, proved on the built files."""

__version__ = "0.2.0"
