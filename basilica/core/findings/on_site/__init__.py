"""Checks on built pages, one in each file."""
