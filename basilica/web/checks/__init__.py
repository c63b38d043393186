"""The Checks workspace: the mosaic, and what is behind each tile."""
