"""The Settings workspace."""
