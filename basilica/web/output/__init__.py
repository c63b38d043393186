"""The Output workspace: the files that a build makes."""
