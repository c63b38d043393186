"""The Pages workspace."""
