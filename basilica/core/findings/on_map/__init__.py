"""Checks on what the map says, one in each file."""
