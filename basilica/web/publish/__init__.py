"""The Publish workspace."""
