"""The Header workspace."""
